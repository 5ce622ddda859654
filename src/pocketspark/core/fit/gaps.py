"""How much room is left, and where: between neighbours, to what stands in the bay, and to its walls."""

import math
from collections.abc import Collection, Iterator, Sequence

from pocketspark.core.fit.answer import Gap
from pocketspark.core.fit.bays import Solid, Space, Triple
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.bore import reach_mm, side_of_a_tube
from pocketspark.core.fit.choosing import AXIS_AND_END, middle, way_of
from pocketspark.core.fit.packing import Placed
from pocketspark.core.fit.shapes import circle_left_mm, lies_in_troughs, steps_for
from pocketspark.core.models.bay import Pin, Side

_TOUCH_MM, _SHOWN_MM = 1e-6, 0.01


def clearance_left(space: Space, placed: Sequence[Placed], parts: Sequence[Part], pins: Sequence[Pin] = ()) -> float:
    """Smallest clearance beyond the clearances, as it really lies: a chosen near-best may have a little less.

    What lies against a wall on purpose, a socket or a part that is pinned to it, has none there; and none is asked of
    what lies on something: from below its gap is enough.
    """
    pinned = {(pin.part, _wall_name(pin.side)) for pin in pins if pin.side}
    pinned |= {(part.name, "floor") for part in parts if part.cradle_mm}
    least = 1e9
    for i, one in enumerate(placed):
        gap = parts[one.item].gap_mm
        for other in placed[:i]:
            wanted = max(gap, parts[other.item].gap_mm)
            if not (_lies_on(one, other, wanted) or _lies_on(other, one, wanted)):
                least = min(least, _apart(one.low, one.high, other.low, other.high)[0] - wanted)
        for solid in space.solids:
            wanted = parts[one.item].gap_to_hard_mm if solid.is_hard else gap
            if not _lies_on(one, solid, wanted):
                least = min(least, _apart(one.low, one.high, solid.low, solid.high)[0] - wanted)
        if space.shaped:
            least = min(least, _to_curves(space, one, parts[one.item], gap))
        if space.bore_mm is not None:
            held = {pin.side for pin in pins if pin.side and pin.part == parts[one.item].name}
            least = min(least, _to_bore(space.bore_mm / 2, one, parts, held) - gap)
        for wall, mm in _to_walls(one, space):
            if wall != _socket_wall(one, parts) and (parts[one.item].name, wall) not in pinned:
                least = min(least, _lying(mm - gap) if wall == "floor" else mm - gap)
    return least


def _lies_on(upper: Placed, lower: Placed | Solid, wanted_mm: float) -> bool:
    """Is it over the other by what is asked for, or more?"""
    return upper.low[2] - lower.high[2] >= wanted_mm - _TOUCH_MM


def _lying(left_mm: float) -> float:
    """Of what carries a part no more is asked than its gap."""
    return left_mm if left_mm < -_TOUCH_MM else math.inf


def _to_curves(space: Space, one: Placed, part: Part, gap_mm: float) -> float:
    """Left of rounded corners, and of troughs, in which it lies: of a round cell along them as a circle, of all else
    by the steps."""
    is_circle = lies_in_troughs(space, part)
    left = _lying(circle_left_mm(space, one) - gap_mm) if is_circle else math.inf
    for step in steps_for(space):
        x, y, z = [(low.at, high.at) for low, high in zip(step.low, step.high, strict=True)]
        mm = _apart(one.low, one.high, (x[0], y[0], z[0]), (x[1], y[1], z[1]))[0] - gap_mm
        if step.name == "corner":
            left = min(left, mm)
        elif not is_circle:
            left = min(left, _lying(mm + gap_mm - part.gap_to_hard_mm))
    return left


def _to_bore(radius: float, one: Placed, parts: Sequence[Part], held: Collection[Side]) -> float:
    """What shows in the side of the tube, or is held there, lies at the wall with the corners of that end."""
    side = way_of(one, parts).face_side
    at_wall = {AXIS_AND_END[wall] for wall in (*held, side) if wall and side_of_a_tube(wall)}
    is_round = parts[one.item].form == "round"
    return math.inf if is_round and at_wall else radius - reach_mm(radius, one.low, one.high, is_round, at_wall)


def _apart(low: Triple, high: Triple, low2: Triple, high2: Triple) -> tuple[float, int]:
    """Largest separation of two boxes over the axes, and on which; negative where they overlap."""
    return max((max(low2[a] - high[a], low[a] - high2[a]), a) for a in range(3))


def gaps_of(space: Space, placed: Sequence[Placed], parts: Sequence[Part]) -> list[Gap]:
    """Room between neighbours and to the walls, tightest first; none where one lies on the other."""
    found = []
    for i, one in enumerate(placed):
        part = parts[one.item]
        for other in placed[:i]:
            wanted = max(part.gap_mm, parts[other.item].gap_mm)
            line = _gap_line(part.name, one.low, one.high, parts[other.item].name, other.low, other.high)
            if not (_is_upright(line) and line.mm <= wanted + _SHOWN_MM):
                found.append(line)
        for solid in space.solids:
            if solid.obstacle is None:
                continue
            line = _gap_line(part.name, one.low, one.high, solid.name, solid.low, solid.high)
            below = _is_upright(line) and solid.high[2] <= one.low[2] + _TOUCH_MM
            if not (below and line.mm <= part.gap_to_hard_mm + _SHOWN_MM):
                found.append(line)
        lies = 0.0 <= one.low[2] <= part.gap_mm + _SHOWN_MM or part.cradle_mm
        stands_at = {_socket_wall(one, parts), "floor" if lies and space.bore_mm is None else ""}
        found.extend(gap for gap in _wall_gaps(part.name, one, space) if gap.second not in stands_at)
    return sorted(found, key=lambda gap: gap.mm)


def _is_upright(line: Gap) -> bool:
    return line.start_mm[2] != line.end_mm[2]


def _gap_line(name: str, low: Triple, high: Triple, other: str, low2: Triple, high2: Triple) -> Gap:
    mm, axis = _apart(low, high, low2, high2)
    start = [(max(low[a], low2[a]) + min(high[a], high2[a])) / 2 for a in range(3)]
    end = list(start)
    first_below = low2[axis] >= high[axis] - 1e-9
    start[axis] = high[axis] if first_below else low[axis]
    end[axis] = low2[axis] if first_below else high2[axis]
    return Gap(
        first=name,
        second=other,
        mm=round(mm, 2),
        start_mm=(start[0], start[1], start[2]),
        end_mm=(end[0], end[1], end[2]),
    )


_WALLS: tuple[tuple[Side, Side], ...] = (("left", "right"), ("front", "back"), ("floor", "lid"))


def _socket_wall(one: Placed, parts: Sequence[Part]) -> str:
    """The wall that this part's socket is meant to touch."""
    side = way_of(one, parts).face_side
    return "" if side is None else _wall_name(side)


def _wall_name(side: Side) -> str:
    return side if side in ("floor", "lid") else f"{side} wall"


def _to_walls(one: Placed, space: Space) -> Iterator[tuple[str, float]]:
    """How far it is to every wall; in a tube to its ends."""
    for axis, (near, far) in enumerate(_WALLS if space.bore_mm is None else _WALLS[:1]):
        yield _wall_name(near), one.low[axis]
        yield _wall_name(far), space.size[axis] - one.high[axis]


def _wall_gaps(name: str, one: Placed, space: Space) -> list[Gap]:
    """To every wall; in a tube to its ends."""
    found = []
    for axis, (near, far) in enumerate(_WALLS if space.bore_mm is None else _WALLS[:1]):
        amid = [middle(one, a) for a in range(3)]
        start, end = list(amid), list(amid)
        start[axis], end[axis] = one.low[axis], 0.0
        found.append(_wall_gap(name, near, one.low[axis], start, end))
        start, end = list(amid), list(amid)
        start[axis], end[axis] = one.high[axis], space.size[axis]
        found.append(_wall_gap(name, far, space.size[axis] - one.high[axis], start, end))
    return found


def _wall_gap(name: str, side: Side, mm: float, start: list[float], end: list[float]) -> Gap:
    return Gap(
        first=name,
        second=_wall_name(side),
        mm=round(mm, 2),
        start_mm=(start[0], start[1], start[2]),
        end_mm=(end[0], end[1], end[2]),
    )
