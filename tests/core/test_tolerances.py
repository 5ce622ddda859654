"""Tolerances in a row: by hand, and by pushing everything to one wall with all of it off at once."""

import math

import pytest
from any_bay import document

from builders import CELL, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project


def test_a_row_by_hand():
    # Engineering handbooks (from memory): worst case is the sum, the likely case the root of the sum of squares.
    # 30 mm of bay (calipers 0.3), a pouch of 20 mm (0.5 over its code) beside a board of 8 mm (0.2, and 0.5 of air).
    board = {"name": "board", "outline_mm": [38, 8, 3], "charger": None, "protection": None, "socket": None}
    cell = CELL | {"size_mm": [5, 20, 37]}
    bay = {"rooms": [{"size_mm": [42, 30, 7]}], "tolerance_mm": 0.3}
    answer = fit_of(plan(gadget={"bay": bay}, cell=cell, boards=[board]))
    width = next(chain for chain in answer.chains if chain.axis == "width")
    assert set(width.parts) == {"Pouch 503450", "board"}
    # Air at the board's two sides, none between cell and wall.
    assert width.spare_mm == pytest.approx(30 - 20 - 8 - 2 * 0.5, abs=2e-3)
    assert width.worst_mm == pytest.approx(width.spare_mm - 0.3 - 0.5 - 0.2, abs=2e-3)
    assert width.likely_mm == pytest.approx(width.spare_mm - math.sqrt(0.3**2 + 0.5**2 + 0.2**2), abs=2e-3)


AXES = ("length", "width", "height")
AIR = {"cell": 0.0, "board": 0.5, "socket": 0.5, "spacer": 0.0}
NEAR = ("left", "front", "floor")
FAR = ("right", "back", "lid")


def pushed(placements, axis, size):
    """What is left at the far wall with every part larger by its tolerance and pushed to the near wall."""
    ends, left = [], math.inf
    for one in sorted(placements, key=lambda one: one.min_mm[axis]):
        air = AIR.get(one.kind, 0.2)
        at = 0.0 if one.face_side == NEAR[axis] else air
        if one.face_side == NEAR[axis]:
            at = min(one.min_mm[axis], 0.0)
        for other, end in ends:
            before = other.max_mm[axis] <= one.min_mm[axis] + 1e-6
            beside = all(
                min(one.max_mm[a], other.max_mm[a]) - max(one.min_mm[a], other.min_mm[a]) > 1e-6
                for a in range(3)
                if a != axis
            )
            if before and beside:
                at = max(at, end + max(air, AIR.get(other.kind, 0.2)))
        over = 0.2 if one.kind != "cell" else 0.1 if one.round else 0.5
        end = at + one.max_mm[axis] - one.min_mm[axis] + over
        ends.append((one, end))
        at_wall = one.face_side == FAR[axis]
        left = min(left, size - end + max(one.max_mm[axis] - size, 0.0) if at_wall else size - end - air)
    return left


def test_the_worst_row_is_what_is_left_with_everything_off_at_once():
    compared = 0
    for seed in range(200):
        said = document(seed)
        if len(said["gadget"]["bay"]["rooms"]) > 1 or said["gadget"]["bay"]["obstacles"] or said["builds"][0]["pins"]:
            continue
        answer = fit_of(Project.model_validate(said))
        if answer is None or answer.fits == "no":
            continue
        for axis, chain in enumerate(answer.chains):
            assert chain.axis == AXES[axis]
            wanted = pushed(answer.placements, axis, answer.size_mm[axis])
            assert chain.worst_mm == pytest.approx(wanted, abs=5e-3), (seed, axis)
            assert chain.worst_mm <= chain.likely_mm <= chain.spare_mm + 1e-9
            compared += 1
    assert compared > 60
