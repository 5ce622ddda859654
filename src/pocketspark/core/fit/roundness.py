"""The second look in a round bay: circles and rectangles across it, lengths along it, by their true distances.

Like `certify.py` it knows nothing of how an arrangement was found. Coordinates are the answer's: x along the tube from
its left end, y and z from the corner of the square round it.
"""

import itertools
import math
from collections.abc import Collection, Iterator, Sequence

from pocketspark.core.fit.answer import Placement
from pocketspark.core.fit.needs import Need
from pocketspark.core.message import Message, say
from pocketspark.core.models import Build
from pocketspark.core.models.bay import Bay, Pin, WallOpening
from pocketspark.core.units.figures import millimetres

EXACT_MM = 5e-3
AT_END_MM = 0.5
_SIDES = {"front", "back", "floor", "lid"}

Known = Sequence[tuple[Need, Placement]]


def doubts_in_a_tube(build: Build, bay: Bay, known: Known, claimed: float) -> Iterator[Message]:
    """What speaks against these placements in the tube, each in a sentence."""
    assert bay.tube is not None
    radius, length = bay.tube.diameter_mm / 2, bay.tube.length_mm
    pins = {pin.part: pin for pin in reversed(build.pins)}
    for need, one in known:
        yield from _doubts_of_one(need, one, bay, claimed, pins.get(need.name))
        for obstacle in bay.standing:
            off = max(need.gap_mm, need.gap_to_hard_mm) + claimed
            top = [at + size for at, size in zip(obstacle.at_mm, obstacle.size_mm, strict=True)]
            if not _keeps_off(one, obstacle.at_mm, top, off):
                yield say(
                    "{need} does not keep {off} from {obstacle}",
                    need=need.name,
                    off=millimetres(off, 2),
                    obstacle=obstacle.name,
                )
        if need.name in pins:
            yield from _doubts_of_pin(need, one, pins[need.name], (length, 2 * radius, 2 * radius))
    for (need, one), (other_need, other) in itertools.combinations(known, 2):
        air = max(need.gap_mm, other_need.gap_mm) + claimed
        along = max(other.min_mm[0] - one.max_mm[0], one.min_mm[0] - other.max_mm[0])
        if along < air - EXACT_MM and _across(one, other) < air - EXACT_MM:
            yield say(
                "{need} and {other_need} do not keep {air} apart",
                need=need.name,
                other_need=other_need.name,
                air=millimetres(air, 2),
            )


def _keeps_off(one: Placement, low: Sequence[float], high: Sequence[float], off: float) -> bool:
    return any(max(low[axis] - one.max_mm[axis], one.min_mm[axis] - high[axis]) > off - EXACT_MM for axis in range(3))


def _doubts_of_one(need: Need, one: Placement, bay: Bay, claimed: float, pin: Pin | None) -> Iterator[Message]:
    assert bay.tube is not None
    radius, length = bay.tube.diameter_mm / 2, bay.tube.length_mm
    box = tuple(high - low for low, high in zip(one.min_mm, one.max_mm, strict=True))
    if not any(all(abs(a - b) < EXACT_MM for a, b in zip(way, box, strict=True)) for way in need.ways()):
        yield say("{need} does not have its size, or lies in a way it must not", need=need.name)
    if one.round and abs(box[1] - box[2]) > EXACT_MM:
        yield say("{need} is round and does not lie along the tube", need=need.name)
    air = need.gap_mm + claimed
    shown = _shown_in(need, one, radius, length, bay)
    if need.shows and not shown:
        yield say("the {shows} of {need} comes out where no wall can be opened", shows=need.shows, need=need.name)
    # Where it shows or is held, its end lies at the wall: the corners there keep its air, and no clearance beyond.
    at_walls = {shown, pin.side if pin and pin.side else ""}
    rest = -math.inf if one.round and pin and pin.side else _reach(one, radius, but=at_walls)
    if max(rest, _reach(one, radius) - (claimed if at_walls & _SIDES else 0.0)) > radius - air + EXACT_MM:
        yield say("{need} comes nearer than {air} to the tube's wall", need=need.name, air=millimetres(air, 2))
    for end, room in (("left", one.min_mm[0]), ("right", length - one.max_mm[0])):
        if end != shown and room < air - (claimed if end in at_walls else 0.0) - EXACT_MM:
            yield say("{need} does not keep {air} from the {end} end", need=need.name, air=millimetres(air, 2), end=end)


def _shown_in(need: Need, one: Placement, radius: float, length: float, bay: Bay) -> str:
    """The wall that may be opened, and at which what shows lies; "" where there is none."""
    ends = (("left", one.min_mm[0]), ("right", length - one.max_mm[0]))
    for wall in bay.walls if need.shows else ():
        axis = {"left": 0, "right": 0, "front": 1, "back": 1}.get(wall.side, 2)
        if one.face_side not in (None, wall.side) or not _where_it_may_open(need, one, wall, axis):
            continue
        if axis == 0:
            # As deep as its nose goes into the wall, or its whole end where the wall is cut away from inside.
            into_mm = wall.thinned_mm + min(need.nose_mm, bay.wall_mm - wall.thinned_mm)
            if any(end == wall.side and -into_mm - EXACT_MM <= at < AT_END_MM for end, at in ends):
                return wall.side
        elif one.face_side == wall.side and _end_at_the_wall(one, radius, axis, wall.side) < need.gap_mm + AT_END_MM:
            return wall.side
    return ""


def _where_it_may_open(need: Need, one: Placement, wall: WallOpening, axis: int) -> bool:
    """The middle of what shows between the heights, and between the places along, at which this wall may be opened."""
    if axis == 2:
        return True
    box = tuple(high - low for low, high in zip(one.min_mm, one.max_mm, strict=True))
    sizes = [way for way in need.ways() if all(abs(a - b) < EXACT_MM for a, b in zip(way, box, strict=True))]
    low = (one.min_mm[0], one.min_mm[1], one.min_mm[2])
    spans = ((2, wall.low_mm, wall.high_mm), (1 - axis, wall.from_mm, wall.to_mm))
    return any(
        all(
            (least or 0.0) - EXACT_MM <= at[a] <= (1e9 if most is None else most) + EXACT_MM for a, least, most in spans
        )
        for size in sizes
        for at in need.face_centres(size, axis, low)
    )


def _end_at_the_wall(one: Placement, radius: float, axis: int, side: str) -> float:
    """How far the nearer corner of its end is from the bore."""
    at = (one.max_mm if side in ("back", "lid") else one.min_mm)[axis] - radius
    return radius - max(math.hypot(at, corner[3 - axis] - radius) for corner in (one.min_mm, one.max_mm))


def _doubts_of_pin(need: Need, one: Placement, pin: Pin, size: Sequence[float]) -> Iterator[Message]:
    if pin.turned and pin.turned != one.turned:
        yield say("{need} is to lie {turned}, and does not", need=need.name, turned=pin.turned)
    if pin.at_mm is not None and max(abs(a - b) for a, b in zip(pin.at_mm, one.min_mm, strict=True)) > EXACT_MM:
        yield say("{need} is not where it is pinned", need=need.name)
    if pin.side in ("left", "right"):
        away = one.min_mm[0] if pin.side == "left" else size[0] - one.max_mm[0]
    elif pin.side and not one.round:
        away = _end_at_the_wall(one, size[1] / 2, 1 if pin.side in ("front", "back") else 2, pin.side)
    elif pin.side:
        away = size[1] / 2 - _reach(one, size[1] / 2)
    if pin.side and away > need.gap_mm + AT_END_MM:
        yield say(
            "{need} is pinned to the {side} side, and lies {away} from it",
            need=need.name,
            side=pin.side,
            away=millimetres(away, 2),
        )


def _reach(one: Placement, radius: float, but: Collection[str] = ()) -> float:
    """How far from the axis the part comes: a round one's rim, or the outermost corner; `but` those at these walls."""
    y, z = ([one.min_mm[axis] - radius, one.max_mm[axis] - radius] for axis in (1, 2))
    if one.round:
        return math.hypot(sum(y) / 2, sum(z) / 2) + (y[1] - y[0]) / 2
    y = [at for at, wall in zip(y, ("front", "back"), strict=True) if wall not in but]
    z = [at for at, wall in zip(z, ("floor", "lid"), strict=True) if wall not in but]
    return max((math.hypot(a, b) for a in y for b in z), default=-math.inf)


def _across(one: Placement, other: Placement) -> float:
    """Least distance of two parts in the cross-section; at most 0 where they overlap."""
    if one.round and other.round:
        centres = [_middle(one, axis) - _middle(other, axis) for axis in (1, 2)]
        return math.hypot(*centres) - (_width(one) + _width(other)) / 2
    if one.round or other.round:
        circle, box = (one, other) if one.round else (other, one)
        away = [max(box.min_mm[a] - _middle(circle, a), _middle(circle, a) - box.max_mm[a], 0.0) for a in (1, 2)]
        return math.hypot(*away) - _width(circle) / 2
    return max(max(one.min_mm[a] - other.max_mm[a], other.min_mm[a] - one.max_mm[a]) for a in (1, 2))


def _middle(one: Placement, axis: int) -> float:
    return (one.min_mm[axis] + one.max_mm[axis]) / 2


def _width(one: Placement) -> float:
    return one.max_mm[1] - one.min_mm[1]
