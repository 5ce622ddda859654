"""At which volts the next reading is to be taken, while there are too few."""

from collections.abc import Sequence
from itertools import pairwise

# A reading nearer than this to another tells little more.
APART_V = 0.15


def widest_gap(read_v: Sequence[float], low_v: float, high_v: float) -> float | None:
    """The top first, then the bottom, then the middle of the widest gap; None where they lie close enough."""
    for wanted in (high_v, low_v):
        if all(abs(wanted - one) > APART_V for one in read_v):
            return wanted
    inside = sorted(one for one in read_v if low_v - APART_V <= one <= high_v + APART_V)
    gaps = [(after - before, (before + after) / 2) for before, after in pairwise(inside)]
    gap, middle = max(gaps, default=(0.0, 0.0))
    return middle if gap > 2 * APART_V else None
