"""Round bays: a cell along the tube, boards behind it, before it, or beside it in the segment it leaves.

The arrangements are few, so each is judged in closed form: along the tube lengths add up; across it, a board of width w
and thickness t beside a cell of diameter d goes in where sqrt(R^2 - w^2 / 4) - t >= d - R + gap. Boards lie along the
tube, and none lies over another on the same side.
"""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.parts import Part

LANES = ("in line", "above the cell", "below the cell")


@dataclass(frozen=True)
class InTube:
    """One part along the tube: where it starts, its lane, and the box it takes round the tube's axis (y, z from it)."""

    part: int
    lane: str
    low: Triple
    high: Triple


@dataclass(frozen=True)
class TubeAnswer:
    """The best arrangement: smallest clearance (negative: short of the clearances by so much), and where all lies."""

    clearance_mm: float
    along_mm: float  # clearance along the tube
    across_mm: float  # clearance across it, the tightest place
    placed: tuple[InTube, ...]


def chord_height(radius: float, width: float) -> float:
    """Distance from the axis of a chord of this width: sqrt(R^2 - w^2 / 4); negative where it is too wide."""
    rest = radius**2 - width**2 / 4
    return math.sqrt(rest) if rest >= 0 else -math.sqrt(-rest)


def beside_clearance(radius: float, cell_mm: float, width: float, thickness: float, gap: float) -> float:
    """Play of one board beside a cell: sqrt(R^2 - w^2/4) - t - (d - R) - gap."""
    return chord_height(radius, width) - thickness - (cell_mm - radius) - gap


def arrange(diameter_mm: float, length_mm: float, parts: Sequence[Part]) -> TubeAnswer | None:
    """The best arrangement of these parts; the first cell lies in line. None where there is nothing to place."""
    if not parts:
        return None
    cells = [i for i, part in enumerate(parts) if part.kind == "cell"]
    others = [i for i in range(len(parts)) if i not in cells]
    choices = LANES if cells else LANES[:1]
    answers = [
        _judge(diameter_mm / 2, length_mm, parts, cells, dict(zip(others, lanes, strict=True)))
        for lanes in itertools.product(choices, repeat=len(others))
    ]
    return max(answers, key=lambda answer: answer.clearance_mm)


def _judge(radius: float, length: float, parts: Sequence[Part], cells: list[int], lanes: dict[int, str]) -> TubeAnswer:
    """One assignment of boards to lanes."""
    # A socket wants an end: beside the cell the near one, in line the far one.
    in_line, above, below = ([i for i, own in lanes.items() if own == lane] for lane in LANES)
    in_line.sort(key=lambda i: -_wants_an_end(parts[i]))
    above.sort(key=lambda i: _wants_an_end(parts[i]))
    below.sort(key=lambda i: _wants_an_end(parts[i]))
    gap = max((parts[i].gap_mm for i in lanes), default=0.0)
    shift, across = _across(radius, parts, cells, above, below)
    across = min([across, *(_alone_clearance(radius, parts[i]) for i in in_line)])

    placed: list[InTube] = []
    at = _run(cells, parts, 0.0, gap, placed, LANES[0], radius, shift)
    beside = max(
        _run(side, parts, 0.0, gap, placed, lane, radius, shift)
        for side, lane in ((above, LANES[1]), (below, LANES[2]))
    )
    end = _run(in_line, parts, max(at, beside), gap, placed, LANES[0], radius, 0.0)
    along = length - end
    if in_line and parts[in_line[-1]].face:
        # What shows in the far end needs no gap before it, and lies against it where there is room.
        along = length - placed[-1].high[0]
        placed[-1] = _moved(placed[-1], max(along, 0.0))
    return TubeAnswer(min(along, across), along, across, tuple(placed))


def _wants_an_end(part: Part) -> int:
    """0 for a socket, then what else shows in a wall, then what does not."""
    return 0 if part.socket else 1 if part.face else 2


def _across(
    radius: float, parts: Sequence[Part], cells: list[int], above: list[int], below: list[int]
) -> tuple[float, float]:
    """How far the cell is pushed off the axis (up is positive), and the clearance of the tightest place across."""
    if not cells:
        return 0.0, radius
    cell_mm = max(parts[i].size[1] for i in cells)
    free = radius - cell_mm / 2  # the cell's own clearance to the wall, each way
    if not above and not below:
        return 0.0, free
    up, down = (_left_by(radius, [parts[i] for i in side]) for side in (above, below))
    if not below:
        return -free, min(2 * radius - cell_mm, up - (cell_mm - radius))
    if not above:
        return free, min(2 * radius - cell_mm, down - (cell_mm - radius))
    return (up - down) / 2, min((up + down - cell_mm) / 2, free - abs(up - down) / 2)


def _left_by(radius: float, boards: list[Part]) -> float:
    """What the boards on one side leave between the axis and themselves."""
    return min((chord_height(radius, b.size[1]) - b.size[2] - b.gap_mm for b in boards), default=radius)


def _alone_clearance(radius: float, part: Part) -> float:
    """A board lying in line: its rectangle within the circle, less its clearance."""
    _, width, height = part.size
    return radius - math.hypot(width, height) / 2 - part.gap_mm


def _run(
    indices: list[int],
    parts: Sequence[Part],
    start: float,
    gap: float,
    placed: list[InTube],
    lane: str,
    radius: float,
    shift: float,
) -> float:
    """Lay these one after the other from `start`; returns where the next may begin."""
    at = start
    for index in indices:
        part = parts[index]
        length, width, height = part.size
        middle = shift
        if lane != LANES[0]:
            edge = chord_height(radius, width) - part.gap_mm
            middle = (edge - height / 2) * (1 if lane == LANES[1] else -1)
        low = (at, -width / 2, middle - height / 2)
        placed.append(InTube(index, lane, low, (at + length, width / 2, middle + height / 2)))
        at += length + max(gap, part.gap_mm)
    # The last one needs no gap behind it but its own.
    return at if indices else start


def _moved(one: InTube, by: float) -> InTube:
    """The same, further along the tube."""
    low, high = ((corner[0] + by, corner[1], corner[2]) for corner in (one.low, one.high))
    return InTube(one.part, one.lane, low, high)


def wire_room_mm(diameter_mm: float, parts: Sequence[Part]) -> float | None:
    """What is left beside the thickest cell, pushed to one wall, for the wire to its far pole.

    None where nothing has to be wired: a cell alone sits between the gadget's own contacts.
    """
    cells = [part.size[1] for part in parts if part.kind == "cell"]
    wired = any(part.kind == "board" for part in parts)
    return diameter_mm - max(cells) if cells and wired else None


@dataclass(frozen=True)
class Filling:
    """Printed parts that make a thin cell sit where the old batteries sat: a sleeve and two spacers, mm."""

    sleeve_outer_mm: float
    sleeve_inner_mm: float
    sleeve_length_mm: float
    front_spacer_mm: float
    rear_spacer_mm: float


def filling(
    tube_diameter: float, cell_diameter: float, cell_length: float, stack_length: float, print_gap: float = 0.3
) -> Filling | None:
    """Sleeve and spacers for a cell shorter and thinner than the old stack; None where it is neither.

    The spacers share what is missing, so that button and spring still meet; the sleeve is 0.5 mm longer than the
    stack where the spring reaches inside (common practice, no source).
    """
    missing = stack_length - cell_length
    wall = (tube_diameter - print_gap) - (cell_diameter + 2 * print_gap)
    if missing < 0 or wall < 0.8:
        return None
    return Filling(
        sleeve_outer_mm=round(tube_diameter - print_gap, 2),
        sleeve_inner_mm=round(cell_diameter + 2 * print_gap, 2),
        sleeve_length_mm=round(stack_length + 0.5, 2),
        front_spacer_mm=round(missing / 2, 2),
        rear_spacer_mm=round(missing / 2, 2),
    )
