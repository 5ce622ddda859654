"""Parts as the wiring sees them: named pads, what is joined inside, and what only lets current through one way."""

from collections import defaultdict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from pocketspark.core.chosen.chosen_parts import ChosenParts, MissingPart
from pocketspark.core.kinds.board_features import PadRole, circuit_of, part_of, roles_of
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.models import Board, Cell, Regulator

PartKind = Literal[
    "source", "charger", "cell", "protection", "regulator", "gadget", "switch", "diode", "fuse", "link", "board"
]


@dataclass(frozen=True)
class WiredPart:
    """A part with its pads in the order they are drawn. `joined`: pads that are one net inside the part.

    `through`: pads between which current runs through something (a protection's transistors, a fuse, a closed switch).
    """

    key: str
    kind: PartKind
    name: str
    pads: tuple[str, ...]
    joined: tuple[tuple[str, str], ...] = ()
    through: tuple[tuple[str, str], ...] = ()
    size_mm: tuple[float, float] = (20.0, 12.0)
    roles: Mapping[str, PadRole] = field(default_factory=dict)
    # Shares of length and width from the left front corner; of all pads, or of none.
    places: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def pad(self, name: str) -> str:
        return f"{self.key}.{name}"


@dataclass(frozen=True)
class Roles:
    """Which pads clearance which part in the circuit, as full names."""

    cell_plus: tuple[str, ...]
    cell_minus: tuple[str, ...]
    five_volts: tuple[str, ...]  # pads that 5 V is meant for
    battery_side: tuple[str, ...] = ()  # minus pads on the cell's side of a protection
    load_side: tuple[str, ...] = ()  # minus pads on the load's side of it
    battery_plus: tuple[str, ...] = ()
    load_plus: tuple[str, ...] = ()
    usb_out: tuple[str, ...] = ()
    gadget: tuple[str, str] = ("gadget.+", "gadget.-")
    charger_minus: tuple[str, ...] = ()


@dataclass(frozen=True)
class Parts:
    """Every part of a build by key."""

    by_key: Mapping[str, WiredPart]
    roles: Roles
    charger: str | None = None
    protection: str | None = None
    regulators: tuple[str, ...] = ()  # in a row, the one nearest to the cell first
    cells: tuple[str, ...] = ()
    extra: tuple[str, ...] = field(default=())

    def pads(self) -> set[str]:
        return {part.pad(pad) for part in self.by_key.values() for pad in part.pads}


def wired_parts(chosen: ChosenParts) -> Parts:
    """The parts that a build's wiring joins. Raises MissingPart before a cell is chosen."""
    if chosen.build.cell is None:
        raise MissingPart("cell")
    found: dict[str, WiredPart] = {"source": WiredPart("source", "source", chosen.build.source.label, ("5V", "GND"))}
    cells = []
    for number, cell in enumerate(chosen.build.cells):
        key = "cell" if number == 0 else f"cell{number + 1}"
        pads = ("+", "-", "T") if cell.thermistor_lead else ("+", "-")
        found[key] = WiredPart(key, "cell", cell.name, pads, size_mm=_cell_size(cell))
        cells.append(key)
    charger = protection = None
    regulators = []
    for number, board in enumerate(chosen.build.boards):
        key = _key(board, found, number)
        found[key] = _board(key, board)
        charger = charger or (key if board.charger else None)
        protection = protection or (key if board.protection and not board.charger else None)
        if board.regulator and not board.charger:
            regulators.append(key)
    loose = chosen.build.regulator
    if loose and loose.kind != "none":
        key = "regulator" if "regulator" not in found else "regulator_after"
        found[key] = _regulator(key, loose.name, loose, (20.0, 12.0))
        regulators.append(key)
    found["gadget"] = WiredPart("gadget", "gadget", chosen.gadget.name, ("+", "-"), size_mm=(30.0, 20.0))
    for extra in chosen.build.wiring.extra:
        found[extra.key] = _extra(extra.key, extra.kind, extra.name)
    return Parts(found, _roles(found, cells), charger, protection, tuple(regulators), tuple(cells))


def _cell_size(cell: Cell) -> tuple[float, float]:
    size = cell.size_mm
    if size is None:
        return (40.0, 25.0)
    return (size[1], size[0]) if len(size) == 2 else (size[2], size[1])


def _key(board: Board, taken: Mapping[str, WiredPart], number: int) -> str:
    wanted = part_of(board)
    return wanted if wanted not in taken else f"{wanted}{number + 1}"


def _board(key: str, board: Board) -> WiredPart:
    circuit = circuit_of(board)
    return WiredPart(
        key,
        part_of(board),
        board.name,
        tuple(circuit.pads),
        tuple(circuit.joined),
        tuple(circuit.through),
        (board.outline_mm[0], board.outline_mm[1]) if board.outline_mm else (20.0, 12.0),
        roles_of(board),
        _places(board, circuit.pads),
    )


def _places(board: Board, pads: Sequence[str]) -> dict[str, tuple[float, float]]:
    """None where one of them is not known: half of a board at its places and half in a row would mislead."""
    length, width = board.outline_mm[:2] if board.outline_mm else (1.0, 1.0)
    known = {pad.name: (min(pad.at_mm[0] / length, 1.0), min(pad.at_mm[1] / width, 1.0)) for pad in board.pads}
    return {name: known[name] for name in pads} if board.outline_mm and set(pads) <= set(known) else {}


def _regulator(key: str, name: str, regulator: Regulator, size: tuple[float, float]) -> WiredPart:
    pads = kind_of(regulator).pads
    return WiredPart(key, "regulator", name, pads.names, pads.joined, pads.through, size)


def _extra(key: str, kind: str, name: str) -> WiredPart:
    if kind == "diode":
        return WiredPart(key, "diode", name, ("A", "K"), (), (("A", "K"),), (9.0, 3.0))
    if kind == "link":
        return WiredPart(key, "link", name, ("1", "2"), (("1", "2"),), (), (8.0, 3.0))
    part_kind: PartKind = "switch" if kind == "switch" else "fuse"
    return WiredPart(key, part_kind, name, ("1", "2"), (), (("1", "2"),), (10.0, 6.0))


def _roles(parts: Mapping[str, WiredPart], cells: list[str]) -> Roles:
    pads: dict[PadRole, list[str]] = defaultdict(list, {"five_volts": ["source.5V"]})
    for part in parts.values():
        for name in part.pads:
            if name in part.roles:
                pads[part.roles[name]].append(part.pad(name))
    return Roles(
        cell_plus=tuple(f"{key}.+" for key in cells),
        cell_minus=tuple(f"{key}.-" for key in cells),
        five_volts=tuple(pads["five_volts"]),
        battery_side=tuple(pads["battery_side"]),
        load_side=tuple(pads["load_side"]),
        battery_plus=tuple(pads["battery_plus"]),
        load_plus=tuple(pads["load_plus"]),
        usb_out=tuple(pads["usb_out"]),
        charger_minus=tuple(pads["charger_minus"]),
    )
