"""Round bays: cells along the tube, boards behind them, or beside a cell in the segment that it leaves.

The arrangements are few, so each is judged in closed form but for one number, the air beyond every clearance, which is
found by halves: along the tube and across it, everything keeps its clearance and so much more from its neighbours and
from the wall, corners by their true distance from the axis. Boards lie along the tube, flat, amid its width, and none
lies over another on the same side.
"""

import itertools
import math
from collections.abc import Callable, Collection, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.blocks import Part
from pocketspark.core.models.bay import Side

LANES = ("in line", "above the cell", "below the cell")
BOTH_ENDS: tuple[Side, Side] = ("left", "right")
# What is left free at the end of a sleeve, so that the gadget's spring still presses on the cell.
SPRING_MM = 0.5
# What is short by more than this is short by far.
FAR_MM = 1000.0


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


def arrange(
    diameter_mm: float, length_mm: float, parts: Sequence[Part], open_ends: Collection[Side] = BOTH_ENDS
) -> TubeAnswer | None:
    """The best arrangement of these parts; cells lie in line. None where there is nothing to place.

    `open_ends`: what shows in a wall comes out of one of these; with none of them open, it may not be there at all.
    """
    if not parts:
        return None
    cells = [i for i, part in enumerate(parts) if part.kind == "cell"]
    others = [i for i in range(len(parts)) if i not in cells]
    choices = LANES if cells else LANES[:1]
    answers = [
        _Arrangement(
            diameter_mm / 2, length_mm, parts, cells, dict(zip(others, lanes, strict=True)), open_ends
        ).answer()
        for lanes in itertools.product(choices, repeat=len(others))
    ]
    return max(answers, key=lambda answer: answer.clearance_mm)


class _Arrangement:
    """One assignment of everything that is no cell to lanes. What shows wants an end: beside the cells the near one, in
    line the far one; mirrored where only the other end may be opened."""

    def __init__(
        self,
        radius: float,
        length: float,
        parts: Sequence[Part],
        cells: list[int],
        lanes: dict[int, str],
        open_ends: Collection[Side],
    ) -> None:
        self.radius, self.length, self.parts, self.cells = radius, length, parts, cells
        in_line, above, below = ([i for i, own in lanes.items() if own == lane] for lane in LANES)
        self.in_line = sorted(in_line, key=lambda i: -self._wants_an_end(i))
        self.above, self.below = (sorted(side, key=self._wants_an_end) for side in (above, below))
        self.lanes, self.open_ends = lanes, open_ends

    def _wants_an_end(self, index: int) -> int:
        """0 for a socket, then what else shows in a wall, then what does not."""
        part = self.parts[index]
        return 0 if part.socket else 1 if part.face else 2

    def answer(self) -> TubeAnswer:
        along = _largest(lambda spare: self._end(spare) is not None, -self.length, self.length)
        across = _largest(lambda spare: self._cell_middle(spare) is not None, -self.radius, self.radius)
        across = min([across, *(self._alone(i) for i in (*self.in_line, *self.cells))])
        placed = tuple(self._placed(along, across))
        ends = self._shown_at()
        if self._hides_something():
            along = -FAR_MM
        if not ends <= set(self.open_ends):
            placed = tuple(_mirrored(one, self.length) for one in placed)
            other = {"left": "right", "right": "left"}
            if not {other[end] for end in ends} <= set(self.open_ends):
                along = -FAR_MM
        return TubeAnswer(min(along, across), along, across, placed)

    # Along -------------------------------------------------------------------------------------------------------

    def _starts(self, spare: float) -> dict[int, float]:
        """Where each part begins with so much air beyond the clearances: cells and both sides from the near end, then
        what is in line behind them."""
        starts: dict[int, float] = {}
        ends = [self._run(side, 0.0, None, spare, starts) for side in (self.cells, self.above, self.below)]
        at, last = max(ends, key=lambda end: end[0] + (0.0 if end[1] is None else self._gap(end[1])))
        self._run(self.in_line, at, last, spare, starts)
        return starts

    def _run(
        self, run: list[int], at: float, last: int | None, spare: float, starts: dict[int, float]
    ) -> tuple[float, int | None]:
        """Lay these one after the other; the end of the last one and which it was."""
        for index in run:
            shows_here = last is None and self.parts[index].face is not None and run is not self.in_line
            air = 0.0 if shows_here else self._between(last, index) + spare
            starts[index] = at + air
            at, last = starts[index] + self.parts[index].size[0], index
        return at, last

    def _end(self, spare: float) -> float | None:
        """Where the last part ends; None where that leaves less than its clearance before the far end."""
        starts = self._starts(spare)
        for index, start in starts.items():
            shows = index in self.in_line and self.parts[index].face is not None and index == self.in_line[-1]
            air = 0.0 if shows else self._gap(index) + spare
            if start + self.parts[index].size[0] + air > self.length + 1e-9:
                return None
        return max(start + self.parts[index].size[0] for index, start in starts.items())

    def _shown_at(self) -> set[Side]:
        """The ends at which something has to show."""
        near = any(self.parts[i].face for i in (*self.above, *self.below))
        far = any(self.parts[i].face for i in self.in_line)
        return {end for end, wanted in zip(BOTH_ENDS, (near, far), strict=True) if wanted}

    def _hides_something(self) -> bool:
        """Whether something that has to show lies behind another part."""
        behind = (*self.in_line[:-1], *self.above[1:], *self.below[1:])
        return any(self.parts[i].face for i in behind)

    # Across ------------------------------------------------------------------------------------------------------

    def _cell_middle(self, spare: float) -> float | None:
        """How far from the axis the cells' middle lies (up is positive) with so much air; None without room."""
        if not self.cells:
            return 0.0
        low, high = -math.inf, math.inf
        for cell in self.cells:
            room = self._room(cell, spare)
            if room is None:
                return None
            half = self.parts[cell].size[2] / 2
            low, high = max(low, half - room), min(high, room - half)
            for board in self.below:
                low = max(low, self._inner_face(board, cell, spare) + half)
            for board in self.above:
                high = min(high, -self._inner_face(board, cell, spare) - half)
        return (low + high) / 2 if low <= high + 1e-9 else None

    def _inner_face(self, board: int, cell: int, spare: float) -> float:
        """Where a board below the cell ends and its air with it, as far out as its corners let it; endless: nowhere."""
        room = self._room(board, spare)
        height = self.parts[board].size[2]
        return math.inf if room is None or height > 2 * room else height - room + self._between(board, cell) + spare

    def _room(self, index: int, spare: float) -> float | None:
        """How far from the axis this part's outer face may lie, its corners keeping off the wall; None: too wide."""
        part = self.parts[index]
        inner = self.radius - self._gap(index) - spare
        if part.form == "round":
            return inner
        return chord_height(inner, part.size[1]) if inner >= part.size[1] / 2 else None

    def _alone(self, index: int) -> float:
        """A part lying in line on the axis: its circle or rectangle within the tube's, less its clearance."""
        part = self.parts[index]
        _, width, height = part.size
        reach = width / 2 if part.form == "round" else math.hypot(width, height) / 2
        return self.radius - reach - self._gap(index)

    def _gap(self, index: int) -> float:
        return self.parts[index].gap_mm

    def _between(self, one: int | None, other: int) -> float:
        return self._gap(other) if one is None else max(self._gap(one), self._gap(other))

    # Where all lies ----------------------------------------------------------------------------------------------

    def _placed(self, along: float, across: float) -> list[InTube]:
        starts = self._starts(along)
        spare = min(across, self.radius)
        shift = self._cell_middle(min(spare, self._beside_spare())) or 0.0
        placed = []
        for index, start in starts.items():
            lane = self.lanes.get(index, LANES[0])
            middle = shift if index in self.cells else self._board_middle(index, lane, spare)
            placed.append(self._at(index, lane, start, middle))
        if self.in_line and self.parts[self.in_line[-1]].face:
            # What shows in the far end lies against it, where there is room.
            moved = self.length - placed[-1].high[0]
            placed[-1] = _shifted(placed[-1], max(moved, 0.0))
        return placed

    def _beside_spare(self) -> float:
        return _largest(lambda spare: self._cell_middle(spare) is not None, -self.radius, self.radius)

    def _board_middle(self, index: int, lane: str, spare: float) -> float:
        if lane == LANES[0]:
            return 0.0
        room = self._room(index, spare)
        outer = (self.radius if room is None else room) - self.parts[index].size[2] / 2
        return outer if lane == LANES[1] else -outer

    def _at(self, index: int, lane: str, start: float, middle: float) -> InTube:
        length, width, height = self.parts[index].size
        low, high = (start, -width / 2, middle - height / 2), (start + length, width / 2, middle + height / 2)
        return InTube(index, lane, low, high)


def _largest(holds: Callable[[float], bool], low: float, high: float) -> float:
    """The largest number for which this holds, which it does for all smaller ones; `low` where for none."""
    if holds(high):
        return high
    while high - low > 1e-7:
        middle = (low + high) / 2
        low, high = (middle, high) if holds(middle) else (low, middle)
    return low


def _shifted(one: InTube, by: float) -> InTube:
    """The same, further along the tube."""
    low, high = ((corner[0] + by, corner[1], corner[2]) for corner in (one.low, one.high))
    return InTube(one.part, one.lane, low, high)


def _mirrored(one: InTube, length: float) -> InTube:
    """The same, from the other end."""
    low, high = (length - one.high[0], *one.low[1:]), (length - one.low[0], *one.high[1:])
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
    """Printed parts that make a thin cell sit where the old batteries sat: a sleeve and two spacers, mm.

    `stack_mm`: from contact to contact, as long as the old batteries were.
    """

    stack_mm: float

    sleeve_outer_mm: float
    sleeve_inner_mm: float
    sleeve_length_mm: float
    front_spacer_mm: float
    rear_spacer_mm: float


def filling(
    tube_diameter: float, cell_diameter: float, cell_length: float, stack_length: float, print_gap: float = 0.3
) -> Filling | None:
    """Sleeve and spacers for a cell shorter and thinner than the old stack; None where it is neither.

    The spacers share what is missing, so that button and spring still meet; the sleeve ends 0.5 mm before the stack
    does, so that the spring still presses on the cell (common practice, no source).
    """
    missing = stack_length - cell_length
    wall = (tube_diameter - print_gap) - (cell_diameter + 2 * print_gap)
    if missing < 0 or wall < 0.8:
        return None
    return Filling(
        stack_mm=stack_length,
        sleeve_outer_mm=round(tube_diameter - print_gap, 2),
        sleeve_inner_mm=round(cell_diameter + 2 * print_gap, 2),
        sleeve_length_mm=round(stack_length - SPRING_MM, 2),
        front_spacer_mm=round(missing / 2, 2),
        rear_spacer_mm=round(missing / 2, 2),
    )
