"""Boxes of seven to twelve parts, where the own search alone runs out of its nodes: yes where there is room.

That there is room is known by construction: a box is cut into pieces by straight cuts, and each piece made smaller by
the gap that is asked for. What is found is looked at pair by pair, by nothing of ours; a no is asked of HiGHS as well.
"""

import itertools

import pytest
from milp_packing import best_value

from chances import dice
from packing_instances import GAP, question
from pocketspark.core.fit.branch_and_bound import search
from pocketspark.core.fit.constraints import settle
from pocketspark.core.fit.packing import Item, LinearLength, Packing, Pose


def cut_up(chance, size, pieces):
    """A box cut into so many by straight cuts from wall to wall, the largest piece first."""
    parts = [size]
    while len(parts) < pieces:
        whole = max(parts, key=lambda part: part[0] * part[1] * part[2])
        parts.remove(whole)
        axis = max(range(3), key=lambda one: whole[one])
        at = whole[axis] * chance.uniform(0.35, 0.65)
        parts += [(*whole[:axis], length, *whole[axis + 1 :]) for length in (at, whole[axis] - at)]
    return sorted(parts, key=lambda part: -part[0] * part[1] * part[2])


def known_to_go_in(chance, pieces, loss_mm):
    """Pieces with a gap between all of them and the walls, and `loss_mm` more room on every side of each."""
    box = tuple(chance.uniform(40, 80) for _ in range(3))
    parts = [tuple(length - GAP - loss_mm for length in part) for part in cut_up(chance, box, pieces)]
    room = tuple(length + GAP for length in box)
    gap = LinearLength(GAP, 1.0)
    items = []
    for number, size in enumerate(parts):
        poses = tuple(
            Pose(
                "".join(map(str, turn)),
                tuple(LinearLength(size[axis]) for axis in turn),
                ((gap,), (gap,), (gap,)),
                tuple((LinearLength(room[place] - size[axis] - GAP, -1.0),) for place, axis in enumerate(turn)),
            )
            for turn in itertools.permutations(range(3))
        )
        items.append(Item(f"piece {number}", poses))
    return room, Packing(tuple(items), (), tuple(tuple(gap for _ in items) for _ in items), tuple(() for _ in items))


def lies_well(room, answer):
    """Every part within the walls and clear of every other, by as much as is asked for."""
    for one in answer.placed:
        assert min(one.low) >= GAP - 1e-3
        assert all(high <= end - GAP + 1e-3 for high, end in zip(one.high, room, strict=True))
    for one, other in itertools.combinations(answer.placed, 2):
        apart = max(
            max(a_low - b_high, b_low - a_high)
            for a_low, a_high, b_low, b_high in zip(one.low, one.high, other.low, other.high, strict=True)
        )
        assert apart >= GAP - 1e-3


@pytest.mark.parametrize(("pieces", "loss_mm"), [(7, 1.0), (8, 0.8), (8, 1.2), (10, 1.5), (12, 1.8)])
def test_what_is_known_to_go_in_goes_in_and_is_never_said_not_to(pieces, loss_mm):
    found = 0
    for number in range(4):
        room, asked = known_to_go_in(dice(f"{pieces} {loss_mm} {number}"), pieces, loss_mm)
        answer = search(asked)
        if answer.placed:
            lies_well(room, answer)
        else:
            assert not answer.proven
        found += len(answer.placed) == pieces
    assert found >= 3


def test_both_engines_say_the_same_of_what_one_settles():
    answers, seed = [], dice("both engines").randrange(10_000)
    for number in range(24):
        asked = question(seed * 100 + number, 5, density=0.7)
        first, second = search(asked), settle(asked)
        assert second.proven
        assert bool(first.placed) == bool(second.placed)
        assert second.value <= first.value + 1e-3
        answers.append(bool(first.placed))
    assert len(set(answers)) == 2


def test_a_no_of_the_second_engine_is_one_of_a_general_solver_too():
    seed = dice("a no").randrange(10_000)
    refused = (question(seed * 100 + number, 5, density=0.72) for number in range(40))
    found = [asked for asked in refused if not settle(asked).placed][:4]
    assert found
    assert all(best_value(asked) is None for asked in found)
