"""Wires to pads: our exact answer against a fine grid flooded by scipy.ndimage, a general-purpose library.

The question is put as a document: boards pinned where they lie, a rib that stays. What a board and a wire are comes
from docs/formats.md and the handbook (2 mm of pads at either end, a wire of 1.2 mm), and nothing from the fit.
"""

import numpy as np
import pytest
from scipy import ndimage

from builders import CELL, plan
from pocketspark.core.fit.placing import fit_of

STEP_MM = 0.1  # all faces lie on half millimetres and a wire's half is 0.6: no voxel is cut by any face
WIRE_MM, PADS_MM, AIR_MM = 1.2, 2.0, 0.5
BAY = (18.0, 14.0, 9.0)


def grown(shape, low, high, by):
    """The voxels of a box grown on all sides."""
    start, stop = (
        np.rint(np.array(mm) / STEP_MM).astype(int).clip(0) for mm in (np.array(low) - by, np.array(high) + by)
    )
    mask = np.zeros(shape, dtype=bool)
    mask[tuple(map(slice, start, stop))] = True
    return mask


def by_grid(rib, boxes):
    """By name, which lakes of free room the pads at either end along x touch."""
    shape = tuple(round(mm / STEP_MM) for mm in BAY)
    inset = round(WIRE_MM / 2 / STEP_MM)
    free = np.zeros(shape, dtype=bool)
    free[inset:-inset, inset:-inset, inset:-inset] = True
    pads = {}
    for name, low, high in boxes:
        near, far = (low, (low[0] + PADS_MM, *high[1:])), ((high[0] - PADS_MM, *low[1:]), high)
        free &= ~grown(shape, near[1][:1] + low[1:], far[0][:1] + high[1:], WIRE_MM / 2)
        pads[name] = (near, far)
    free &= ~grown(shape, *rib, WIRE_MM / 2)
    lakes, _ = ndimage.label(free)
    return {name: set().union(*(_lakes(lakes, grown(shape, *end, 0)) for end in ends)) for name, ends in pads.items()}


def _lakes(lakes, where):
    return {int(number) for number in np.unique(lakes[where]) if number}


def apart(one, other, by):
    return any(b + by <= c + 1e-9 or d + by <= a + 1e-9 for a, b, c, d in zip(*one, *other, strict=True))


def scattered(rng):
    """A rib, and three boards that keep their air from it, from one another and from the walls; on half millimetres."""
    wall_x, door = float(rng.integers(14, 22)) / 2, float(rng.integers(0, 5)) / 2
    rib = ((wall_x, door, 0.0), (wall_x + 0.5, BAY[1], BAY[2]))
    boxes = []
    while len(boxes) < 3:
        size = (float(rng.integers(5, 10)), float(rng.integers(4, 16)) / 2, float(rng.integers(2, 8)) / 2)
        low = tuple(float(rng.integers(1, 2 * (room - mm))) / 2 for room, mm in zip(BAY, size, strict=True))
        box = (low, tuple(at + mm for at, mm in zip(low, size, strict=True)))
        clear = all(apart(box, other, AIR_MM) for other in [rib, *(placed[1:] for placed in boxes)])
        if clear and all(high <= room - AIR_MM for high, room in zip(box[1], BAY, strict=True)):
            boxes.append((f"board {len(boxes)}", *box))
    return rib, boxes


def as_document(rib, boxes):
    """Each board pinned where it lies; its outline is without the room for its wires."""
    low, high = rib
    standing = {
        "name": "rib",
        "at_mm": low,
        "size_mm": [b - a for a, b in zip(low, high, strict=True)],
        "state": "keep",
    }
    boards, pins = [], []
    for name, start, end in boxes:
        length, width, height = (b - a for a, b in zip(start, end, strict=True))
        boards.append({"name": name, "outline_mm": [length - PADS_MM, width, height]})
        pins.append({"part": name, "at_mm": start, "turned": "flat, along"})
    bay = {"rooms": [{"size_mm": BAY}], "obstacles": [standing], "tolerance_mm": 0, "wall_mm": 1}
    return plan(gadget={"bay": bay}, cell=CELL | {"size_mm": None}, boards=boards, pins=pins)


@pytest.mark.parametrize("seed", range(60))
def test_whether_pads_are_joined_is_the_same_on_a_fine_grid(seed):
    rib, boxes = scattered(np.random.default_rng(seed))
    answer = fit_of(as_document(rib, boxes))
    assert answer.clearance_mm is not None
    assert {one.part: one.min_mm for one in answer.placements} == {name: low for name, low, _ in boxes}
    touched = by_grid(rib, boxes)
    lakes = set().union(*touched.values()) or {0}
    most = max(sum(lake in own for own in touched.values()) for lake in lakes)
    assert len(boxes) - len(answer.shut_in) == most


def test_both_answers_occur():
    shut = [bool(fit_of(as_document(*scattered(np.random.default_rng(seed)))).shut_in) for seed in range(60)]
    assert 5 < sum(shut) < 55
