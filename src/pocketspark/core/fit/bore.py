"""A round bay as the search sees it: steps along the bore, for every part its own, exact where the part lies amid it.

A part that lies amid the bore touches it with both edges at once, at an angle that follows from its width: a step there
takes nothing from it. What lies aside loses a little to the steps between.
"""

import itertools
import math
from collections.abc import Collection, Iterable, Iterator, Sequence

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.parts import Part, Turned
from pocketspark.core.fit.search import Block, LinearLength
from pocketspark.core.models.bay import Side

# Besides those of its own: where a part lies aside.
_ANGLES_ASIDE = (math.radians(22.5), math.radians(45), math.radians(67.5))
# Two steps nearer to each other than this are one.
_SAME_ANGLE = math.radians(4)
_FAR_MM = 1e4


def ways_in_bore(radius_mm: float, part: Part, ways: Iterable[Turned]) -> list[Turned]:
    """Those in which it can lie in a bore at all; a round cell along it alone."""
    along = [way for way in ways if part.form != "round" or way.home_axes[0] == 0]
    return [way for way in along if part.form == "round" or half_diagonal(way.size) <= radius_mm]


def half_diagonal(size: Triple) -> float:
    """From the middle of its cross-section to a corner."""
    return math.hypot(size[1], size[2]) / 2


def steps_in_bore(
    radius_mm: float, part: Part, ways: Sequence[Turned], gap_mm: float, slope: float, around_mm: float
) -> list[Block]:
    """What bars the places of this part's box, its gap and so much times lambda kept from the bore all round.

    `around_mm`: the lambda at which a step is exact for it.
    """
    own = part.size[1] / 2 if part.form == "round" else 0.0
    free = radius_mm - own - gap_mm
    if free <= 0:
        return []  # its poses have no place at all
    angles = _ANGLES_ASIDE if own else _angles(free - around_mm * slope, ways)
    steps = itertools.pairwise(sorted({0.0, *angles, math.pi / 2}))
    return [block for before, after in steps for block in _in_four_corners(radius_mm, free, own, slope, before, after)]


def _angles(free_mm: float, ways: Sequence[Turned]) -> list[float]:
    """From upright, at which this part's edges touch where it lies amid the bore; and some between."""
    halves = [(way.size[1] / 2, way.size[2] / 2) for way in ways]
    exact = {math.asin(across / free_mm) for across, _ in halves if across < free_mm}
    exact |= {math.acos(up / free_mm) for _, up in halves if up < free_mm}
    return [*exact, *(angle for angle in _ANGLES_ASIDE if all(abs(angle - own) > _SAME_ANGLE for own in exact))]


def _in_four_corners(
    radius: float, free: float, own: float, slope: float, before: float, after: float
) -> Iterator[Block]:
    """Beyond sin(before) across and cos(after) up of the free circle; a box reaches there by its corner.

    For a round part by its middle: a box that is barred reaches its own radius further than that.
    """
    across, up = math.sin(before), math.cos(after)
    low = [LinearLength(radius - own - free * share, slope * share) for share in (across, up)]
    high = [LinearLength(radius + own + free * share, -slope * share) for share in (across, up)]
    below = [(LinearLength(-_FAR_MM), at) for at in low]
    above = [(at, LinearLength(_FAR_MM)) for at in high]
    for y in (below[0], above[0]):
        for z in (below[1], above[1]):
            x = LinearLength(-_FAR_MM), LinearLength(_FAR_MM)
            yield Block("tube", (x[0], y[0], z[0]), (x[1], y[1], z[1]))


def chord_half_mm(radius: float, width: float) -> float:
    """How far from the axis something of this width may reach: sqrt(R^2 - w^2 / 4); 0 where it is too wide."""
    return math.sqrt(max(radius**2 - width**2 / 4, 0.0))


def side_of_a_tube(side: Side) -> bool:
    """All but its ends."""
    return side not in ("left", "right")


def reach_mm(
    radius: float, low: Triple, high: Triple, is_round: bool = False, at_wall: Collection[tuple[int, int]] = ()
) -> float:
    """How far from the axis a placed part reaches: the rim of a round one, or its outermost corner.

    `at_wall`: (axis, 0 or 1) of the ends that lie at the side of the tube: their corners are not looked at.
    """
    y, z = ((low[axis] - radius, high[axis] - radius) for axis in (1, 2))
    if is_round:
        return math.hypot(sum(y) / 2, sum(z) / 2) + (y[1] - y[0]) / 2
    corners = itertools.product(enumerate(y), enumerate(z))
    return max(
        (math.hypot(a, b) for (i, a), (j, b) in corners if (1, i) not in at_wall and (2, j) not in at_wall),
        default=-math.inf,
    )
