"""What lies behind the hole of a plug: pushed in askew it goes past its board, and a cell there takes the push."""

from collections.abc import Sequence

from pocketspark.core.fit.answer import Placement
from pocketspark.core.fit.openings import Opening
from pocketspark.core.fit.placement_questions import AXIS_OF

# So deep behind the wall nothing soft lies in the way of a plug (common practice, no source).
BEHIND_MM = 2.0
# A plug does not get past its socket where less than this of the hole is free of it (common practice, no source).
BESIDE_MM = 1.0
_TOUCH_MM = 1e-3


def cells_behind_plugs(placements: Sequence[Placement], openings: Sequence[Opening]) -> tuple[str, ...]:
    """Names of the cells that lie right behind a hole for a plug, with nothing between."""
    holes = [hole for hole in openings if hole.what == "socket"]
    cells = [one for one in placements if one.kind == "cell"]
    return tuple(one.part for one in cells if any(_is_behind(one, hole) for hole in holes))


def _is_behind(one: Placement, hole: Opening) -> bool:
    low, high = list(hole.min_mm), list(hole.max_mm)
    axis, far = AXIS_OF[hole.side]
    low[axis], high[axis] = (low[axis] - BEHIND_MM, low[axis]) if far else (high[axis], high[axis] + BEHIND_MM)
    shared = [min(b, d) - max(a, c) for a, b, c, d in zip(one.min_mm, one.max_mm, low, high, strict=True)]
    return all(mm > (_TOUCH_MM if number == axis else BESIDE_MM) for number, mm in enumerate(shared))
