"""Parts come to rest: from where the search has them, each sinks until something carries it.

The search spreads what room is left to every side. Hands do not: a part lies on the floor or on what is under it, with
its tape between, and the room is over it.
"""

from collections.abc import Sequence
from dataclasses import replace

from pocketspark.core.fit.packing import LinearLength, Packing, Placed

# Beyond every clearance, as much air as is worth keeping beside a part: for more of it none stands on foam.
COMFORT_MM = 1.0
_TOUCH_MM = 1e-6


def settled(question: Packing, placed: Sequence[Placed], air_mm: float) -> tuple[Placed, ...]:
    """The same placement with every part as low as it comes, in the order of the placement.

    `air_mm`: kept between the parts beyond their gaps, where they stand side by side. From below a part keeps its gap
    alone; where its bounds hold it (a socket in its window, a pin) it stays as high as they say.
    """
    resting: dict[int, Placed] = {}
    for one in sorted(placed, key=lambda one: one.low[2]):
        resting[one.item] = _sunk(question, one, list(resting.values()), air_mm)
    return tuple(resting[one.item] for one in placed)


def _sunk(question: Packing, one: Placed, below: Sequence[Placed], air_mm: float) -> Placed:
    """One part, those that lay lower already at rest."""
    levels = [bound.at for bound in one.pose.low[2]]
    for other in below:
        gap_mm = question.item_gap[one.item][other.item].at
        box = other.low, other.high
        if other.high[2] + gap_mm <= one.low[2] + _TOUCH_MM and not _beside(one, box, gap_mm + air_mm):
            levels.append(other.high[2] + gap_mm)
    for number, block in enumerate(question.blocks):
        gap_mm = question.block_gap[one.item][number].at
        box = _at(block.low, air_mm), _at(block.high, air_mm)
        top = block.high[2].at
        if top + gap_mm <= one.low[2] + _TOUCH_MM and not _beside(one, box, gap_mm + air_mm):
            levels.append(top + gap_mm)
    low_mm = min(max(levels), one.low[2])
    return replace(one, low=(one.low[0], one.low[1], low_mm))


def _beside(one: Placed, box: tuple[Sequence[float], Sequence[float]], apart_mm: float) -> bool:
    """Is it so far aside, seen from above, that it passes by?"""
    low, high = box
    return any(max(low[axis] - one.high[axis], one.low[axis] - high[axis]) >= apart_mm - _TOUCH_MM for axis in (0, 1))


def _at(corner: tuple[LinearLength, LinearLength, LinearLength], grown_mm: float) -> tuple[float, float, float]:
    x, y, z = (length.at + length.slope * grown_mm for length in corner)
    return x, y, z
