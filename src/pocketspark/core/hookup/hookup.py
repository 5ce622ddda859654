"""The hook-up: which pad goes to which, made from the build; or the maker's own."""

from dataclasses import dataclass, replace

from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.hookup.wired_parts import Parts, WiredPart, wired_parts
from pocketspark.core.models.build import CHANGE_OVER_SWITCH, MAIN_SWITCH
from pocketspark.core.models.wiring import ExtraPart, Wire


@dataclass(frozen=True)
class HookUp:
    """Parts and the wires between them. `own`: the maker changed the wires."""

    parts: Parts
    wires: tuple[Wire, ...]
    own: bool


def hook_up(chosen: ChosenParts) -> HookUp:
    """The wiring in force. Raises MissingPart before a cell is chosen."""
    parts, _, wires = made_wires(chosen)
    own = chosen.build.wiring.wires
    if own is not None:
        known = parts.pads()
        wires = tuple(wire for wire in own if wire.start in known and wire.end in known)
    return HookUp(parts, wires, own is not None)


def made_wires(chosen: ChosenParts) -> tuple[Parts, tuple[ExtraPart, ...], tuple[Wire, ...]]:
    """What the tool makes of the build: parts, the ones it had to add, and every wire."""
    parts = wired_parts(chosen)
    added: list[ExtraPart] = []
    wires = [*_cells(parts), *_input(chosen, parts), *_separate_protection(parts)]
    plus, minus = _supply_end(parts)
    plus, more = _to_switch_and_regulator(chosen, parts, plus, minus, added)
    wires += more
    wires += _to_gadget(parts, plus, minus)
    by_key = dict(parts.by_key)
    for extra in added:
        by_key.setdefault(extra.key, _plain(extra))
    return replace(parts, by_key=by_key, extra=tuple(extra.key for extra in added)), tuple(added), tuple(wires)


def _plain(extra: ExtraPart) -> WiredPart:
    if extra.kind == "diode":
        return WiredPart(extra.key, "diode", extra.name, ("A", "K"), (), (("A", "K"),), (9.0, 3.0))
    kind = "switch" if extra.kind == "switch" else "fuse"
    pads = ("1", "2", "3") if extra.key == "change_over" else ("1", "2")
    through = (("1", "2"), ("3", "2")) if extra.key == "change_over" else (("1", "2"),)
    return WiredPart(extra.key, kind, extra.name, pads, (), through, (10.0, 6.0))  # type: ignore[arg-type]


def _wire(start: str, end: str, *, present: bool = False) -> Wire:
    return Wire(start=start, end=end, present=present)


def _cells(parts: Parts) -> list[Wire]:
    """Cells in parallel, then to the protection where it is a board of its own, else to the charger."""
    first, *others = parts.cells
    wires = [_wire(f"{first}.{pole}", f"{other}.{pole}") for other in others for pole in "+-"]
    board = parts.protection or parts.charger
    if board is None:
        return wires
    return [*wires, _wire(f"{first}.+", f"{board}.B+"), _wire(f"{first}.-", f"{board}.B-")]


def _separate_protection(parts: Parts) -> list[Wire]:
    """The charger goes to the load side of a separate protection, or its over-charge transistor does nothing."""
    if parts.protection is None or parts.charger is None:
        return []
    return [
        _wire(f"{parts.protection}.P+", f"{parts.charger}.B+"),
        _wire(f"{parts.protection}.P-", f"{parts.charger}.B-"),
    ]


def _input(chosen: ChosenParts, parts: Parts) -> list[Wire]:
    """5 V in: through the board's own socket it is there already."""
    if parts.charger is None:
        return []
    board = chosen.charger_boards[0]
    socket = board.socket is not None and board.name not in chosen.build.shell_off
    there = chosen.build.input.facts.on_board and socket
    return [
        _wire("source.5V", f"{parts.charger}.IN+", present=there),
        _wire("source.GND", f"{parts.charger}.IN-", present=there),
    ]


def _supply_end(parts: Parts) -> tuple[str, str]:
    """Where the gadget's side of it all begins: the protected output."""
    if parts.charger is not None and "OUT+" in parts.by_key[parts.charger].pads:
        return f"{parts.charger}.OUT+", f"{parts.charger}.OUT-"
    if parts.protection is not None:
        return f"{parts.protection}.P+", f"{parts.protection}.P-"
    # A protection on the cell itself: everything hangs on the cell's own leads.
    return f"{parts.cells[0]}.+", f"{parts.cells[0]}.-"


def _to_switch_and_regulator(
    chosen: ChosenParts, parts: Parts, plus: str, minus: str, added: list[ExtraPart]
) -> tuple[str, list[Wire]]:
    """From the protected plus through what stands before the gadget; returns where it comes out."""
    wires: list[Wire] = []
    if chosen.gadget.existing_charging.treatment == "diode":
        added.append(ExtraPart(key="block", kind="diode", name="blocking diode"))
        wires.append(_wire(plus, "block.A"))
        plus = "block.K"
    if chosen.build.use_while_charging == "two_diodes" and parts.charger is not None:
        added += [
            ExtraPart(key="d_cell", kind="diode", name="diode from the cell"),
            ExtraPart(key="d_five", kind="diode", name="diode from 5 V"),
        ]
        wires += [_wire(plus, "d_cell.A"), _wire(f"{parts.charger}.IN+", "d_five.A"), _wire("d_five.K", "d_cell.K")]
        plus = "d_cell.K"
    elif chosen.build.use_while_charging == "change_over" and parts.charger is not None:
        added.append(ExtraPart(key="change_over", kind="switch", name=CHANGE_OVER_SWITCH))
        wires += [_wire(plus, "change_over.1"), _wire(f"{parts.charger}.IN+", "change_over.3")]
        plus = "change_over.2"
    if not parts.regulators:
        return plus, wires
    if chosen.build.switch_place == "before_regulator":
        added.append(ExtraPart(key="main", kind="switch", name=MAIN_SWITCH))
        wires.append(_wire(plus, "main.1"))
        plus = "main.2"
    for part in (parts.by_key[key] for key in parts.regulators):
        [(plus_in, plus_out)] = part.through
        wires.append(_wire(plus, part.pad(plus_in)))
        if "IN-" in part.pads:
            wires.append(_wire(minus, part.pad("IN-")))
        plus, minus = part.pad(plus_out), _ground_after(part, minus)
    return plus, wires


def _ground_after(part: WiredPart, minus: str) -> str:
    """A part with a ground of its own at its output gives that on."""
    return part.pad("OUT-") if "OUT-" in part.pads else minus


def _to_gadget(parts: Parts, plus: str, minus: str) -> list[Wire]:
    for key in parts.regulators:
        minus = _ground_after(parts.by_key[key], minus)
    return [_wire(plus, "gadget.+"), _wire(minus, "gadget.-")]
