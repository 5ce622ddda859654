"""What lies behind the hole of a plug: pushed in askew it goes past its board, and a cell there takes the push."""

from collections.abc import Sequence

from pocketspark.core.fit.answer import Placement
from pocketspark.core.fit.openings import Opening
from pocketspark.core.models.bay import Side

# So deep behind the wall nothing soft lies in the way of a plug (common practice, no source).
BEHIND_MM = 2.0
# A plug does not get past its socket where less than this of the hole is free of it (common practice, no source).
BESIDE_MM = 1.0
_TOUCH_MM = 1e-3
# By wall: the axis through it and whether it is the far one; the axes across and up on its face, and which are seen
# mirrored from outside.
_FACES: dict[Side, tuple[int, bool, int, int, bool, bool]] = {
    "left": (0, False, 1, 2, True, False),
    "right": (0, True, 1, 2, False, False),
    "front": (1, False, 0, 2, False, False),
    "back": (1, True, 0, 2, True, False),
    "floor": (2, False, 0, 1, False, True),
    "lid": (2, True, 0, 1, False, False),
}


def cells_behind_plugs(
    placements: Sequence[Placement], openings: Sequence[Opening], size_mm: Sequence[float], wall_mm: float
) -> tuple[str, ...]:
    """Names of the cells that lie right behind a hole for a plug, with nothing between."""
    holes = [hole for hole in openings if hole.what == "socket"]
    cells = [one for one in placements if one.kind == "cell"]
    return tuple(one.part for one in cells if any(_is_behind(one, hole, size_mm, wall_mm) for hole in holes))


def _is_behind(one: Placement, hole: Opening, size_mm: Sequence[float], wall_mm: float) -> bool:
    low, high = _behind(hole, size_mm, wall_mm)
    shared = [min(b, d) - max(a, c) for a, b, c, d in zip(one.min_mm, one.max_mm, low, high, strict=True)]
    axis = _FACES[hole.side][0]
    return all(mm > (_TOUCH_MM if number == axis else BESIDE_MM) for number, mm in enumerate(shared))


def _behind(hole: Opening, size_mm: Sequence[float], wall_mm: float) -> tuple[list[float], list[float]]:
    """The room behind the hole, in the bay."""
    axis, far, across, up, across_mirrored, up_mirrored = _FACES[hole.side]
    low, high = [0.0] * 3, [0.0] * 3
    low[axis], high[axis] = (size_mm[axis] - BEHIND_MM, size_mm[axis]) if far else (0.0, BEHIND_MM)
    for along, at, wide, mirrored in (
        (across, hole.across_mm, hole.width_mm, across_mirrored),
        (up, hole.up_mm, hole.height_mm, up_mirrored),
    ):
        middle = size_mm[along] - (at - wall_mm) if mirrored else at - wall_mm
        low[along], high[along] = middle - wide / 2, middle + wide / 2
    return low, high
