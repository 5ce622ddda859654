"""Which own cell goes into which gadget: against every way there is, tried one by one."""

import itertools

import pytest

from builders import CELL, PROTECTION, board, plan
from chances import FULL, dice
from pocketspark.core.assignment.assigning import CellOffer, assign
from pocketspark.core.models import Cell
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.who_gets_which import OpenGadget, OwnCell, Wanted, who_gets_which

DRAWS = 400 if FULL else 120


def every_way(offers, pieces):
    """Each gadget gets one of its offers or none."""
    by_gadget = [[None, *group] for _, group in itertools.groupby(offers, key=lambda one: one.gadget)]
    for way in itertools.product(*by_gadget):
        taken = [one for one in way if one]
        used = [sum(one.cells.count(cell) for one in taken) for cell in range(len(pieces))]
        if all(count <= free for count, free in zip(used, pieces, strict=True)):
            yield taken


@pytest.mark.parametrize("most_gadgets", [False, True])
def test_the_solver_finds_the_best_of_every_way_there_is(most_gadgets):
    chance = dice(f"assigned {most_gadgets}")
    for _ in range(DRAWS):
        cells, gadgets = chance.randint(1, 5), chance.randint(1, 4)
        pieces = [chance.choice([1, 1, 2]) for _ in range(cells)]
        offers = []
        for gadget in range(gadgets):
            for cell in range(cells):
                if chance.random() < 0.7:
                    offers.append(CellOffer(gadget, (cell,), round(chance.random(), 3)))
            if cells > 1 and chance.random() < 0.4:
                offers.append(CellOffer(gadget, tuple(chance.sample(range(cells), 2)), round(chance.random(), 3)))
        found = assign(offers, pieces, most_gadgets=most_gadgets)
        rank = (
            (lambda way: (len(way), sum(one.worth for one in way)))
            if most_gadgets
            else (lambda way: (sum(one.worth for one in way),))
        )
        best = max(map(rank, every_way(offers, pieces)))
        assert rank([offers[number] for number in found.taken]) == pytest.approx(best)
        assert found.gap == 0


def test_what_is_pinned_is_taken_and_what_cannot_be_is_told():
    offers = [CellOffer(0, (0,), 0.9), CellOffer(0, (1,), 0.1), CellOffer(1, (0,), 0.8), CellOffer(1, (1,), 0.1)]
    assert set(assign(offers, [1, 1], most_gadgets=False).taken) == {0, 3}
    assert set(assign(offers, [1, 1], most_gadgets=False, pinned={2}).taken) == {1, 2}
    assert assign(offers, [1, 1], most_gadgets=False, pinned={0, 2}) is None
    assert assign([], [1], most_gadgets=False).taken == ()


def own(number, **changes):
    cell = CELL | {"name": f"cell {number}", "own_protection": PROTECTION} | changes
    return OwnCell(number, Cell.model_validate(cell), 1)


def gadget(number, current_a, hours=2.0, **changes):
    modes = {"modes": [{"name": "on", "current_a": current_a, "hours_per_day": hours}]}
    return OpenGadget(number, plan(gadget=modes, boards=[board(socket={"kind": "type_c"})], **changes), 0)


CELLS = [
    own(1, capacity_ah=0.9, size_mm=[5, 34, 50]),
    own(2, capacity_ah=0.3, size_mm=[4, 20, 35]),
    own(3, capacity_ah=0.5, size_mm=[5, 25, 40]),
    own(4, capacity_ah=5.0, size_mm=[20, 60, 90]),  # goes into no room of three AAA
]
GADGETS = [gadget(11, 0.03), gadget(12, 0.01), gadget(13, 0.09)]


def brute_force(gadgets, cells, aim):
    """By applying every cell to every document, judging each with all rules, and trying every way."""
    offers = []
    for number, one in enumerate(gadgets):
        for at, cell in enumerate(cells):
            alone = who_gets_which([one], [cell])
            if alone.lines:
                document = one.project.apply(alone.lines[0].edits)
                assert "stop" not in [one.level for one in assess(document, 0).findings]
                days, old = alone.lines[0].days, alone.lines[0].old_days
                offers.append(CellOffer(number, (at,), days / (days + old)))
    rank = len if aim == "most_gadgets" else (lambda way: sum(one.worth for one in way))
    return max(rank(way) for way in every_way(offers, [cell.free for cell in cells])), rank, offers


@pytest.mark.parametrize("aim", ["most_service", "most_gadgets"])
def test_real_gadgets_and_cells_against_every_way(aim):
    found = who_gets_which(GADGETS, CELLS, Wanted(aim))
    best, rank, offers = brute_force(GADGETS, CELLS, aim)
    by_pair = {(GADGETS[one.gadget].project_id, CELLS[one.cells[0]].part_id): one for one in offers}
    assert rank([by_pair[line.project_id, line.cells[0]] for line in found.lines]) == pytest.approx(best)
    assert len(found.lines) > 1
    assert str(found.proof) == "No other way serves more."
    used = [cell for line in found.lines for cell in line.cells]
    assert len(used) == len(set(used))
    assert 4 not in used
    assert {one.part_id: one.left for one in found.drawer} == {n: int(n not in used) for n in (1, 2, 3, 4)}


def test_a_line_that_is_taken_is_a_plan_without_a_stop():
    lines = who_gets_which(GADGETS, CELLS).lines
    assert lines
    for line in lines:
        project = next(one.project for one in GADGETS if one.project_id == line.project_id).apply(line.edits)
        assert "stop" not in [one.level for one in assess(project, 0).findings]
        assert project.builds[0].cell.inventory_id == line.cells[0]


def test_pinned_forbidden_and_left():
    found = who_gets_which(GADGETS, CELLS, Wanted(pinned=frozenset({(12, 1)})))
    assert {line.project_id: line.cells for line in found.lines}[12] == (1,)
    assert [line.pinned for line in found.lines if line.project_id == 12] == [True]
    without = who_gets_which(GADGETS[:1], CELLS[:1], Wanted(forbidden=frozenset({(11, 1)})))
    assert without.lines == ()
    assert str(without.headline) == "0 of one gadget gets a cell"
    both = Wanted(pinned=frozenset({(11, 1), (12, 1)}))
    assert "does not go together" in str(who_gets_which(GADGETS, CELLS, both).headline)
    [left] = who_gets_which(GADGETS[:1], CELLS[3:]).left
    assert str(left.why) in ("None of your cells goes in.", "None of your cells fits it and serves.")
    assert who_gets_which([], CELLS).lines == ()
    assert len(who_gets_which(GADGETS, []).left) == 3


def test_two_of_a_kind_go_where_the_plan_has_two():
    pairs = [own(1, capacity_ah=0.12, size_mm=[3, 14, 30]), own(2, capacity_ah=0.12, size_mm=[3, 14, 30])]
    asked = gadget(11, 0.03, cell_count=2)
    alike = who_gets_which([asked], [OwnCell(7, pairs[0].cell, 2)]).lines[0]
    assert alike.cells == (7, 7)
    assert asked.project.apply(alike.edits).builds[0].cell_count == 2
    matched = who_gets_which([asked], pairs).lines[0]
    assert matched.cells == (1, 2)
    build = asked.project.apply(matched.edits).builds[0]
    assert (build.cell_count, len(build.unlike_cells), build.wiring.matched) == (1, 1, True)
    assert who_gets_which([asked], pairs[:1]).lines == ()
