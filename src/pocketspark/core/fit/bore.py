"""What a round bay leaves of a part seen along it: chords, corners, and which ways round go in at all."""

import itertools
import math
from collections.abc import Collection, Iterable

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.blocks import Part, Turned
from pocketspark.core.models.bay import Side


def ways_in_bore(radius_mm: float, part: Part, ways: Iterable[Turned]) -> list[Turned]:
    """Those in which it can lie in a bore at all; a round cell along it alone."""
    along = [way for way in ways if part.form != "round" or way.home_axes[0] == 0]
    return [way for way in along if part.form == "round" or half_diagonal(way.size) <= radius_mm]


def half_diagonal(size: Triple) -> float:
    """From the middle of its cross-section to a corner."""
    return math.hypot(size[1], size[2]) / 2


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
