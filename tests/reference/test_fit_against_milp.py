"""The placement search against HiGHS (through scipy), a general-purpose MILP solver, and against a solid kernel."""

import itertools

import pytest
from fit_instances import question
from manifold3d import Manifold
from milp_packing import best_value

from pocketspark.core.fit.search import search

INSTANCES = 200


@pytest.mark.parametrize("block", range(0, INSTANCES, 25))
def test_same_answer_on_random_instances(block):
    fitting = 0
    for seed in range(block, block + 25):
        asked = question(seed, parts=3)
        ours, theirs = search(asked), best_value(asked)
        assert bool(ours.placed) == (theirs is not None), seed
        assert ours.proven
        if theirs is not None:
            fitting += 1
            assert ours.value == pytest.approx(theirs, abs=0.05), seed
    assert 3 <= fitting <= 22  # both answers occur in every block


@pytest.mark.parametrize("seed", range(300, 310))
def test_same_answer_with_four_parts(seed):
    asked = question(seed, parts=4, density=0.5)
    ours, theirs = search(asked), best_value(asked)
    assert bool(ours.placed) == (theirs is not None)
    assert theirs is None or ours.value == pytest.approx(theirs, abs=0.05)


def solid(placed):
    return Manifold.cube(placed.size).translate(placed.low)


def test_placements_do_not_overlap_and_stay_inside():
    # manifold3d, a solid kernel: the common volume of any two parts is nothing
    checked = 0
    for seed in range(60):
        asked = question(seed)
        for first, second in itertools.combinations(search(asked).placed, 2):
            assert (solid(first) ^ solid(second)).volume() == pytest.approx(0, abs=1e-9)
            checked += 1
        for placed in search(asked).placed:
            for block in asked.blocks:
                post = Manifold.cube([h.at - low.at for low, h in zip(block.low, block.high, strict=True)])
                post = post.translate([low.at for low in block.low])
                assert (solid(placed) ^ post).volume() == pytest.approx(0, abs=1e-9)
            pose = placed.pose
            for a in range(3):
                assert pose.low[a][0].at - 1e-6 <= placed.low[a] <= pose.high[a][0].at + 1e-6
    assert checked > 60
