"""A box cut into pieces: that they go in again is known from the cutting, that larger ones do not from their volume.

No solver is asked, so that seven parts are no more work to check than three. The pieces are spacers, which keep no air.
"""

import itertools
import math

import pytest

from builders import CELL, plan
from chances import EXAMPLES, same_dice
from pocketspark.core.fit.placing import fit_of

BOX = (40.0, 30.0, 20.0)
SAWN_MM, LARGER_MM = 0.5, 0.1
BOXES = max(6, EXAMPLES // 400)


def sawn(chance, count):
    """The largest piece is cut in two, until there are so many."""
    pieces = [BOX]
    while len(pieces) < count:
        pieces.sort(key=math.prod)
        size = pieces.pop()
        axis = max(range(3), key=lambda a: size[a] * chance.uniform(0.5, 1))
        at = round(size[axis] * chance.uniform(0.3, 0.7), 1)
        pieces += [(*size[:axis], round(mm, 1), *size[axis + 1 :]) for mm in (at, size[axis] - at)]
    return pieces


def put_in(sizes):
    bay = {"rooms": [{"size_mm": BOX}], "walls": [], "wall_mm": 1, "tolerance_mm": 0}
    parts = [{"kind": "spacer", "name": f"piece {number}", "size_mm": size} for number, size in enumerate(sizes)]
    return fit_of(plan(gadget={"bay": bay}, cell=CELL | {"size_mm": None}, boards=[], small_parts=parts))


@pytest.mark.parametrize("count", [2, 3, 4, 5, 6, 7])
def test_pieces_of_a_box_go_in_again_and_larger_ones_do_not(count):
    for seed in range(BOXES):
        pieces = sawn(same_dice(f"{count} {seed}"), count)
        back = put_in([[round(mm - SAWN_MM, 1) for mm in size] for size in pieces])
        # Where they were, with half of what was sawn off on either side.
        assert back.fits == "yes", (seed, back.fits, back.doubts)
        assert back.clearance_mm >= SAWN_MM / 2 - 0.05, (seed, back.clearance_mm)
        # What lies on something touches it; beside and over everything is what is left, of more than 1 mm that much.
        spare = min(back.clearance_mm, 1.0) - 2e-3
        for one, other in itertools.combinations(back.placements, 2):
            ends = zip(one.min_mm, one.max_mm, other.min_mm, other.max_mm, strict=True)
            along, across, up = (max(c - b, a - d) for a, b, c, d in ends)
            assert max(along, across) >= spare or up >= -2e-3
        for one in back.placements:
            assert all(low >= spare for low in one.min_mm[:2])
            assert one.min_mm[2] >= -2e-3
            assert all(high <= mm - spare for high, mm in zip(one.max_mm, BOX, strict=True))
        # The pieces alone fill the box.
        larger = put_in([[round(mm + LARGER_MM, 1) for mm in size] for size in pieces])
        assert larger.fits == "no", (seed, larger.fits)
        assert larger.proven
