"""How the tolerances of bay, cell and boards add up: along each axis, from wall to wall, over what stands in a row.

Each has its own. Worst case: all of them are off at once, the bad way; likely: the root of the sum of their squares,
as chains of lengths are combined where each part is made by itself.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.allowances import ROUND_OVER_MM
from pocketspark.core.fit.answer import Point, ToleranceChain
from pocketspark.core.fit.bays import Space
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.choosing import AXIS_AND_END, way_of
from pocketspark.core.fit.packing import Placed
from pocketspark.core.models.bay import Side

# A cell may be larger than its code by so much, everything else than its drawing (common practice, no source).
CELL_OFF_MM, OTHER_OFF_MM = 0.5, 0.2
AXES: Sequence[str] = ("length", "width", "height")
_WALLS: Mapping[int, tuple[str, str]] = {0: ("left", "right"), 1: ("front", "back"), 2: ("floor", "lid")}
_TOUCH_MM = 1e-6


def off_mm(part: Part) -> float:
    """By how much a part may be larger than it is taken: of a round cell what is over is counted already."""
    if part.kind != "cell":
        return OTHER_OFF_MM
    return round(CELL_OFF_MM - ROUND_OVER_MM, 3) if part.form == "round" else CELL_OFF_MM


@dataclass(frozen=True)
class _Thing:
    """A part, or what ends a row: a wall, or something that stands in the bay. `gap_mm`: the air that it asks for."""

    name: str
    low: Point
    high: Point
    gap_mm: float
    off_mm: float
    ends: bool
    touches: Side | None = None  # the wall that it is meant to touch


@dataclass(frozen=True)
class _InARow:
    """Things in a row along one axis. `spare_mm`: room between them beyond the air that they ask for."""

    things: tuple[_Thing, ...]
    spare_mm: float

    @property
    def worst_mm(self) -> float:
        return self.spare_mm - sum(thing.off_mm for thing in self.things)

    @property
    def likely_mm(self) -> float:
        return self.spare_mm - math.hypot(*(thing.off_mm for thing in self.things))


def chains_of(
    space: Space, placed: Sequence[Placed], parts: Sequence[Part], calipers_mm: float
) -> tuple[ToleranceChain, ...]:
    """Along each axis the row in which least is left at the worst; `calipers_mm`: by which the bay may be smaller."""
    things = [_thing(one, parts) for one in placed]
    standing = [
        _Thing(solid.name, solid.low, solid.high, 0.0, 0.0 if solid.obstacle is None else calipers_mm, ends=True)
        for solid in space.solids
    ]
    return tuple(_tightest(axis, space, [*things, *standing], calipers_mm) for axis in range(3)) if things else ()


def _thing(one: Placed, parts: Sequence[Part]) -> _Thing:
    part = parts[one.item]
    touches = way_of(one, parts).face_side
    return _Thing(part.name, one.low, one.high, part.gap_mm, off_mm(part), ends=False, touches=touches)


def _tightest(axis: int, space: Space, things: Sequence[_Thing], calipers_mm: float) -> ToleranceChain:
    """Rows are lengthened from one wall to the other, and of those that end in one thing the tightest goes on."""
    near, far = (_wall(axis, end, space, calipers_mm) for end in (0, 1))
    best: dict[_Thing, _InARow] = {}
    ended: list[_InARow] = []
    for thing in sorted(things, key=lambda thing: thing.low[axis]):
        before = [row for other, row in best.items() if _faces(other, thing, axis)]
        starts = [_InARow((near,), 0.0), *(_InARow((other,), 0.0) for other in things if other.ends)]
        rows = [*before, *(row for row in starts if row.things[0] is near or _faces(row.things[0], thing, axis))]
        longer = [_with(row, thing, axis) for row in rows]
        if thing.ends:
            ended += [row for row in longer if len(row.things) > 2]
        else:
            best[thing] = min(longer, key=lambda row: row.worst_mm)
    ended += [_with(row, far, axis) for row in best.values()]
    tightest = min(ended, key=lambda row: row.worst_mm)
    return ToleranceChain(
        axis=AXES[axis],
        parts=tuple(thing.name for thing in tightest.things if not thing.ends),
        spare_mm=round(tightest.spare_mm, 3),
        worst_mm=round(tightest.worst_mm, 3),
        likely_mm=round(tightest.likely_mm, 3),
    )


def _wall(axis: int, end: int, space: Space, calipers_mm: float) -> _Thing:
    """Both walls of an axis are one measure of the calipers: its tolerance stands with the first of them."""
    low, high = [0.0, 0.0, 0.0], list(space.size)
    low[axis], high[axis] = (space.size[axis], math.inf) if end else (-math.inf, 0.0)
    name = _WALLS[axis][end]
    return _Thing(name, (low[0], low[1], low[2]), (high[0], high[1], high[2]), 0.0, 0.0 if end else calipers_mm, True)


def _faces(before: _Thing, after: _Thing, axis: int) -> bool:
    """Does the one stand before the other along this axis, and would they meet if they were moved along it?"""
    if before is after or before.high[axis] > after.low[axis] + _TOUCH_MM:
        return False
    return all(
        min(before.high[a], after.high[a]) - max(before.low[a], after.low[a]) > _TOUCH_MM for a in range(3) if a != axis
    )


def _with(row: _InARow, thing: _Thing, axis: int) -> _InARow:
    """The row and one more thing. What shows in a wall touches it, and asks for no air there."""
    last = row.things[-1]
    gap = max(last.gap_mm, thing.gap_mm)
    for one, wall in ((last, thing), (thing, last)):
        if one.touches is not None and AXIS_AND_END[one.touches][0] == axis and wall.name == one.touches and wall.ends:
            gap = 0.0
    room = max(thing.low[axis] - last.high[axis], 0.0) if gap == 0.0 else thing.low[axis] - last.high[axis]
    return _InARow((*row.things, thing), row.spare_mm + room - gap)
