"""The second look in a round bay: circles and rectangles across it, lengths along it, by their true distances.

Like `certify.py` it knows nothing of how an arrangement was found. Coordinates are the answer's: x along the tube from
its left end, y and z from the corner of the square round it.
"""

import itertools
import math
from collections.abc import Iterator, Sequence

from pocketspark.core.fit.answer import Placement
from pocketspark.core.fit.needs import Need
from pocketspark.core.models import Build
from pocketspark.core.models.bay import Bay

EXACT_MM = 5e-3
AT_END_MM = 0.5

Known = Sequence[tuple[Need, Placement]]


def doubts_in_a_tube(build: Build, bay: Bay, known: Known, claimed: float) -> Iterator[str]:
    """What speaks against these placements in the tube, each in a sentence."""
    assert bay.tube is not None
    radius, length = bay.tube.diameter_mm / 2, bay.tube.length_mm
    for need, one in known:
        yield from _doubts_of_one(need, one, radius, length, bay, claimed)
    for (need, one), (other_need, other) in itertools.combinations(known, 2):
        air = max(need.gap_mm, other_need.gap_mm) + claimed
        along = max(other.min_mm[0] - one.max_mm[0], one.min_mm[0] - other.max_mm[0])
        if along < air - EXACT_MM and _across(one, other) < air - EXACT_MM:
            yield f"{need.name} and {other_need.name} do not keep {air:.2f} mm apart"
    for obstacle in bay.standing:
        yield f"{obstacle.name} stands in the tube, and tubes are judged without what stands in them"
    if build.pins:
        yield "parts are pinned, and in a tube pins are not followed"


def _doubts_of_one(need: Need, one: Placement, radius: float, length: float, bay: Bay, claimed: float) -> Iterator[str]:
    box = tuple(high - low for low, high in zip(one.min_mm, one.max_mm, strict=True))
    if not any(all(abs(a - b) < EXACT_MM for a, b in zip(way, box, strict=True)) for way in need.ways()):
        yield f"{need.name} does not have its size, or lies as it may not"
    air = need.gap_mm + claimed
    if _reach(one, radius) > radius - air + EXACT_MM:
        yield f"{need.name} comes nearer than {air:.2f} mm to the tube's wall"
    near, far = one.min_mm[0], length - one.max_mm[0]
    shown = _end_shown(need, near, far, bay)
    if need.shows and not shown:
        yield f"the {need.shows} of {need.name} comes out of no end that may be opened"
    for end, room in (("left", near), ("right", far)):
        if end != shown and room < air - EXACT_MM:
            yield f"{need.name} does not keep {air:.2f} mm from the {end} end"


def _end_shown(need: Need, near: float, far: float, bay: Bay) -> str:
    """The end that may be opened, and at which what shows lies; "" where there is none."""
    ends = {opening.side for opening in bay.walls}
    if need.shows and "left" in ends and near < AT_END_MM:
        return "left"
    return "right" if need.shows and "right" in ends and far < AT_END_MM else ""


def _reach(one: Placement, radius: float) -> float:
    """How far from the axis the part comes: a round one's rim, or the outermost corner."""
    y, z = ((one.min_mm[axis] - radius, one.max_mm[axis] - radius) for axis in (1, 2))
    if one.round:
        return math.hypot(sum(y) / 2, sum(z) / 2) + (y[1] - y[0]) / 2
    return max(math.hypot(a, b) for a in y for b in z)


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
