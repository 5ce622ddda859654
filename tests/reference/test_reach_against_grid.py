"""Wires to pads: our exact answer against a fine grid flooded by scipy.ndimage, a general-purpose library."""

import math

import numpy as np
import pytest
from scipy import ndimage

from pocketspark.core.fit.bays import Solid, Space
from pocketspark.core.fit.parts import Part, ways_round
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM, shut_in
from pocketspark.core.fit.search import LinearLength, Placed, Pose

STEP_MM = 0.1  # all faces lie on half millimetres and a wire's half is 0.6: no voxel is cut by any face
GRID = (18, 14, 9)


def grown(shape, low, high, by):
    """The voxels of a box grown on all sides."""
    start, stop = (
        np.rint(np.array(mm) / STEP_MM).astype(int).clip(0) for mm in (np.array(low) - by, np.array(high) + by)
    )
    where = tuple(map(slice, start, stop))
    mask = np.zeros(shape, dtype=bool)
    mask[where] = True
    return mask


def by_grid(space, boxes):
    """By name, which lakes of free room the pads at either end along x touch."""
    shape = tuple(round(mm / STEP_MM) for mm in space.size)
    half = HOOK_UP_WIRE_MM / 2
    free = np.zeros(shape, dtype=bool)
    inset = round(half / STEP_MM)
    free[inset:-inset, inset:-inset, inset:-inset] = True
    pads = {}
    for name, low, high in boxes:
        near, far = (low, (low[0] + 2, *high[1:])), ((high[0] - 2, *low[1:]), high)
        free &= ~grown(shape, near[1][:1] + low[1:], far[0][:1] + high[1:], half)
        pads[name] = (near, far)
    for solid in space.solids:
        free &= ~grown(shape, solid.low, solid.high, half)
    lakes, _ = ndimage.label(free)
    return {name: set().union(*(_lakes(lakes, grown(shape, *end, 0)) for end in ends)) for name, ends in pads.items()}


def _lakes(lakes, where):
    return {int(number) for number in np.unique(lakes[where]) if number}


def scattered(rng):
    """Three boards that do not overlap, their faces on half millimetres."""
    boxes = []
    while len(boxes) < 3:
        size = (float(rng.integers(6, 14)), float(rng.integers(4, 16)) / 2, float(rng.integers(2, 8)) / 2)
        low = tuple(float(rng.integers(0, 2 * (g - math.ceil(s)) + 1)) / 2 for g, s in zip(GRID, size, strict=True))
        high = tuple(a + s for a, s in zip(low, size, strict=True))
        taken = any(all(a < d and c < b for a, b, c, d in zip(low, high, *box[1:], strict=True)) for box in boxes)
        if not taken and all(h <= g for h, g in zip(high, GRID, strict=True)):
            boxes.append((f"board {len(boxes)}", low, high))
    return boxes


def as_placed(index, low, high):
    size = tuple(b - a for a, b in zip(low, high, strict=True))
    part = Part(f"board {index}", "board", size, 0.0)
    way = next(way for way in ways_round(part) if way.home_axes == (0, 1, 2))
    lengths = tuple(LinearLength(mm) for mm in size)
    return (
        part,
        way,
        Placed(
            index,
            Pose(
                way.name,
                lengths,
                ((lengths[0],), (lengths[1],), (lengths[2],)),
                ((lengths[0],), (lengths[1],), (lengths[2],)),
            ),
            low,
            size,
        ),
    )


@pytest.mark.parametrize("seed", range(60))
def test_whether_pads_are_joined_is_the_same_on_a_fine_grid(seed):
    rng = np.random.default_rng(seed)
    boxes = scattered(rng)
    parts, ways, placed = zip(*(as_placed(i, low, high) for i, (_, low, high) in enumerate(boxes)), strict=True)
    wall_x, door = float(rng.integers(4, 30)) / 2, float(rng.integers(0, 8)) / 2
    rib = Solid("rib", (wall_x, door, 0.0), (wall_x + 0.5, float(GRID[1]), float(GRID[2])), 0)
    space = Space(tuple(float(g) for g in GRID), (rib,))

    touched = by_grid(space, boxes)
    lakes = set().union(*touched.values()) or {0}
    most = max(sum(lake in own for own in touched.values()) for lake in lakes)
    assert len(parts) - len(shut_in(space, placed, parts, ways)) == most
