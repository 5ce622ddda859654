"""The hook-up drawn: boards to scale in one row, pads at their places, every wire in a track of its own.

Tracks run above and below the row, so no wire crosses a part. Lengths are mm; y grows downwards.
"""

from collections.abc import Mapping, Sequence
from typing import Literal

from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.hookup.nets import Nets, nets_of
from pocketspark.core.hookup.wired_parts import WiredPart
from pocketspark.core.models.model import Model
from pocketspark.core.models.wiring import Wire
from pocketspark.core.wiring.pads import DrawnPad, drawn_pads, labels_mm
from pocketspark.core.wiring.solder_order import letters

BETWEEN_MM, MARGIN_MM, TRACK_MM = 14.0, 8.0, 5.0
# What a part is drawn as at least, and one that shows what it is known by.
LEAST_MM, MARKED_MM = (16.0, 18.0), 24.0
BESIDE_LABELS_MM = 5.0  # a name keeps off the labels at its part's far end
_ORDER = ("source", "charger", "cell", "protection", "switch", "diode", "fuse", "link", "board", "regulator", "gadget")

Role = Literal["five", "cell_plus", "cell_minus", "out_plus", "ground", "gadget_plus", "other"]


MarkKind = Literal["socket", "chip", "resistor", "coil", "tape"]


class DrawnMark(Model):
    """What one knows a part by: its socket, its chip, the charge-current resistor, a coil, the tape round a cell.

    About where such boards have it; not measured on this one.
    """

    what: MarkKind
    x: float
    y: float
    width: float
    height: float


class DrawnPart(Model):
    """One part as a box to scale, with what one knows it by on the bench."""

    key: str
    kind: str
    name: str
    x: float
    y: float
    width: float
    height: float
    pads: tuple[DrawnPad, ...]
    marks: tuple[DrawnMark, ...] = ()
    name_x: float  # the middle of its name, beside a socket and not under it


class DrawnWire(Model):
    """One wire as a line through these corners; `net` counts into the drawing's nets."""

    start: str
    end: str
    letter: str  # empty where it is there already
    present: bool
    net: int
    xs: tuple[float, ...]
    ys: tuple[float, ...]
    letter_x: float  # amid its long level run
    letter_y: float


class DrawnNet(Model):
    """One net: its pads, and what it is to the circuit."""

    role: Role
    pads: tuple[str, ...]
    charging: bool  # current flows here while it charges
    running: bool  # current flows here while it runs


class Drawing(Model):
    """Everything at once."""

    width: float
    height: float
    parts: tuple[DrawnPart, ...]
    wires: tuple[DrawnWire, ...]
    nets: tuple[DrawnNet, ...]


def draw(hookup: HookUp) -> Drawing:
    """Lay the parts out and route the wires."""
    nets = nets_of(hookup)
    found = nets.all()
    parts = _row(hookup, _room_above(hookup))
    pads = {pad.name: pad for part in parts for pad in part.pads}
    floor = max(part.y + part.height for part in parts)
    right = max(part.x + part.width for part in parts)
    top = min(part.y for part in parts)
    wires = _route(hookup.wires, pads, top, floor, right, found, letters(hookup))
    lowest = max([floor, *(y for wire in wires for y in wire.ys)])
    farthest = max([right, *(x for wire in wires for x in wire.xs)])
    return Drawing(
        width=farthest + MARGIN_MM,
        height=lowest + MARGIN_MM,
        parts=tuple(parts),
        wires=tuple(wires),
        nets=tuple(_net(net, nets) for net in found),
    )


def _room_above(hookup: HookUp) -> float:
    """Enough for the tracks that a trial routing needs."""
    parts = _row(hookup, 0.0)
    pads = {pad.name: pad for part in parts for pad in part.pads}
    right = max(part.x + part.width for part in parts)
    wires = _route(hookup.wires, pads, 0.0, 100.0, right, [frozenset(pads)])
    return MARGIN_MM - min([0.0, *(y for wire in wires for y in wire.ys)])


def _row(hookup: HookUp, top: float) -> list[DrawnPart]:
    ordered = sorted(hookup.parts.by_key.values(), key=lambda part: _ORDER.index(part.kind))
    tallest = max(_height(part) for part in ordered)
    drawn, x = [], MARGIN_MM
    for part in ordered:
        box = _box(part, x, top, tallest)
        drawn.append(box)
        x += box.width + BETWEEN_MM
    return drawn


def _height(part: WiredPart) -> float:
    """Room for a row of labels at each edge, the name, and what it is known by."""
    marked = part.kind in _MARKS and part.kind != "cell"
    return max(part.size_mm[1], MARKED_MM if marked else LEAST_MM[1])


def _box(part: WiredPart, x: float, top: float, tallest: float) -> DrawnPart:
    width = max(part.size_mm[0], LEAST_MM[0], 4.0 * len(part.pads), labels_mm(part))
    height = _height(part)
    y = top + (tallest - height) / 2
    marks = tuple(
        DrawnMark(what=what, x=x + left * width, y=y + up * height, width=wide * width, height=high * height)
        for what, left, up, wide, high in _MARKS.get(part.kind, ())
    )
    free_from = max([x, *(mark.x + mark.width for mark in marks if mark.what == "socket")])
    return DrawnPart(
        key=part.key,
        kind=part.kind,
        name=part.name,
        x=x,
        y=y,
        width=width,
        height=height,
        pads=tuple(drawn_pads(part, x, y, width, height)),
        marks=marks,
        name_x=(free_from + x + width - (BESIDE_LABELS_MM if marks and part.places else 0.0)) / 2,
    )


# Shares of the board from its left upper corner: left, up, wide, high.
_MARKS: Mapping[str, tuple[tuple[MarkKind, float, float, float, float], ...]] = {
    "charger": (
        ("socket", -0.04, 0.3, 0.24, 0.4),
        ("chip", 0.34, 0.6, 0.18, 0.13),
        ("resistor", 0.58, 0.63, 0.1, 0.07),
    ),
    "protection": (("chip", 0.16, 0.58, 0.15, 0.13), ("chip", 0.38, 0.58, 0.15, 0.13)),
    "regulator": (("coil", 0.3, 0.62, 0.2, 0.15), ("chip", 0.6, 0.63, 0.12, 0.12)),
    "cell": (("tape", 0.0, 0.0, 1.0, 0.16),),
}


def _route(
    wires: Sequence[Wire],
    pads: dict[str, DrawnPad],
    top: float,
    floor: float,
    right: float,
    nets: list[frozenset[str]],
    named: Mapping[tuple[str, str], str] | None = None,
) -> list[DrawnWire]:
    """Short wires nearest to the row; each track holds only wires that do not overlap."""
    tracks: dict[bool, list[list[tuple[float, float]]]] = {True: [], False: []}
    drawn: dict[Wire, DrawnWire] = {}
    named = named or {}
    known = [wire for wire in wires if wire.start in pads and wire.end in pads]
    rounding = 0
    for wire in sorted(known, key=lambda w: abs(pads[w.start].turn_x - pads[w.end].turn_x)):
        a, b = pads[wire.start], pads[wire.end]
        if a.upper == b.upper:
            level = _level(tracks[a.upper], a.turn_x, b.turn_x, a.upper, top, floor)
            run = [(a.turn_x, level), (b.turn_x, level)]
        else:
            # One end above, one below: round the right end of the row.
            rounding += 1
            a, b = (a, b) if a.upper else (b, a)
            side = right + TRACK_MM * rounding
            over = _level(tracks[True], a.turn_x, side, True, top, floor)
            under = _level(tracks[False], b.turn_x, side, False, top, floor)
            run = [(a.turn_x, over), (side, over), (side, under), (b.turn_x, under)]
        corners = [(a.x, a.y), *_turn(a), *run, *_turn(b), (b.x, b.y)]
        (first, letter_y), (second, _) = run[:2]
        drawn[wire] = DrawnWire(
            start=wire.start,
            end=wire.end,
            letter=named.get((wire.start, wire.end), ""),
            present=wire.present,
            net=next(i for i, net in enumerate(nets) if wire.start in net),
            xs=tuple(x for x, _ in corners),
            ys=tuple(y for _, y in corners),
            letter_x=(first + second) / 2,
            letter_y=letter_y,
        )
    return [drawn[wire] for wire in known]


def _turn(pad: DrawnPad) -> list[tuple[float, float]]:
    return [] if pad.turn_x == pad.x else [(pad.turn_x, pad.y)]


def _level(
    tracks: list[list[tuple[float, float]]], first: float, second: float, upper: bool, top: float, floor: float
) -> float:
    """Height of the first track that is free between these two places."""
    low, high = min(first, second) - 1.0, max(first, second) + 1.0
    number = next(
        (i for i, taken in enumerate(tracks) if all(high <= start or low >= end for start, end in taken)), len(tracks)
    )
    if number == len(tracks):
        tracks.append([])
    tracks[number].append((low, high))
    off = TRACK_MM * (number + 1)
    return top - off if upper else floor + off


# What to cut each wire from, so that bench, paper and screen show one colour (common practice, no source).
COLOURS: Mapping[Role, str] = {
    "five": "orange",
    "cell_plus": "red",
    "cell_minus": "black",
    "out_plus": "brown",
    "ground": "grey",
    "gadget_plus": "yellow",
    "other": "blue",
}


def colours_of(hookup: HookUp) -> Mapping[str, str]:
    """The colour of the wire at each pad."""
    nets = nets_of(hookup)
    return {pad: COLOURS[_net(net, nets).role] for net in nets.all() for pad in net}


def _net(pads: frozenset[str], nets: Nets) -> DrawnNet:
    roles = nets.hookup.parts.roles
    cells = {*roles.cell_plus, *roles.cell_minus}
    role: Role = "other"
    if pads & set(roles.five_volts):
        role = "five"
    elif pads & set(roles.cell_plus):
        role = "cell_plus"
    elif pads & set(roles.cell_minus):
        role = "cell_minus"
    elif roles.gadget[0] in pads:
        role = "gadget_plus"
    elif pads & {*roles.load_side, roles.gadget[1], *roles.charger_minus}:
        role = "ground"
    elif pads & set(roles.load_plus):
        role = "out_plus"
    charger = nets.hookup.parts.charger
    on_charger = charger is not None and any(pad.startswith(f"{charger}.") for pad in pads)
    charging = role == "five" or (on_charger and bool(pads & cells)) or (on_charger and role in ("ground", "out_plus"))
    running = role != "five"
    return DrawnNet(role=role, pads=tuple(sorted(pads)), charging=charging, running=running)
