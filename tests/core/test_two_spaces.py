"""A bay of two spaces, joined by a gap for wires: worked by hand with the clearances of the handbook."""

import numpy as np
import pytest
from pydantic import ValidationError
from scipy.sparse.csgraph import dijkstra

from builders import CELL, board, plan
from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.putting_in import putting_in
from pocketspark.core.fit.spaces import way_mm
from pocketspark.core.models.bay import Bay
from pocketspark.core.wiring.cutlist import SERVICE_MM, cut_list

# The pouch of 5 x 37 x 59 fills the first; the board of 28 x 17 and 4 high, 30 with its wires, goes into the second,
# where the hole for the plug's body, 6.9 high, leaves 1.5 of wall below and above.
BATTERY_BAY = {"id": "room1", "at_mm": [0, 0, 0], "size_mm": [63, 38, 6]}
ELSEWHERE = {"id": "room2", "name": "beside the board", "at_mm": [73, 0, 0], "size_mm": [32, 20, 7]}
GAP = {"name": "slot", "at_mm": [63, 12, 0], "size_mm": [10, 4, 4]}


def two_spaces(gap=GAP, rooms=(BATTERY_BAY, ELSEWHERE), pins=(), **more):
    bay = {
        "rooms": list(rooms),
        "passages": [gap] if gap else [],
        "walls": [{"side": "right"}],
        "tolerance_mm": 0,
    } | more
    cell = CELL | {"size_mm": [5, 37, 59]}
    charger = board(socket={"kind": "type_c"}) | {"outline_mm": [28, 17, 4]}
    return plan(gadget={"bay": bay}, cell=cell, boards=[charger], pins=list(pins))


def placed(project):
    return {one.part: one for one in fit_of(project).placements}


def test_parts_are_put_where_they_fit():
    answer = fit_of(two_spaces())
    assert answer.fits == "yes"
    cell, charger = (next(one for one in answer.placements if one.kind == kind) for kind in ("cell", "board"))
    assert cell.max_mm[0] <= 63
    assert charger.min_mm[0] >= 73
    assert not answer.shut_in
    assert not putting_in(answer).stuck
    # Either alone is too small for both.
    for room in (BATTERY_BAY, ELSEWHERE):
        assert fit_of(two_spaces(gap=None, rooms=[room])).fits == "no"


def test_nothing_goes_through_the_gap_but_wires():
    """The gap would take the board, were it a room."""
    wide = GAP | {"at_mm": [63, 0, 0], "size_mm": [40, 20, 6]}
    small = ELSEWHERE | {"at_mm": [103, 0, 0], "size_mm": [10, 20, 6]}
    answer = fit_of(two_spaces(gap=wide, rooms=[BATTERY_BAY, small]))
    assert answer.fits == "no"


@pytest.mark.parametrize(("high_mm", "reached"), [(1.0, False), (1.1, False), (1.3, True), (4.0, True)])
def test_a_gap_lets_a_wire_of_1_2_mm_through_or_not(high_mm, reached):
    answer = fit_of(two_spaces(gap=GAP | {"size_mm": [10, 4, high_mm]}))
    assert (answer.shut_in == ()) is reached


def test_a_part_is_kept_to_one_space():
    rooms = [BATTERY_BAY | {"size_mm": [100, 60, 20]}, ELSEWHERE | {"at_mm": [110, 0, 0]}]
    gap = GAP | {"at_mm": [100, 10, 0]}
    free = placed(two_spaces(gap=gap, rooms=rooms))
    name = next(part for part, one in free.items() if one.kind == "board")
    for room, inside in (("room1", lambda one: one.max_mm[0] <= 100), ("room2", lambda one: one.min_mm[0] >= 110)):
        walls = [{"side": "right"}, {"side": "left"}]
        answer = fit_of(two_spaces(gap=gap, rooms=rooms, pins=[{"part": name, "room": room}], walls=walls))
        assert answer.fits == "yes"
        assert inside(next(one for one in answer.placements if one.part == name))


def test_wires_are_as_long_as_their_way_through_the_gap():
    bay = Bay.model_validate({"rooms": [BATTERY_BAY, ELSEWHERE], "passages": [GAP]})
    # From (30, 10, 2) to the slot's middle (68, 14, 2): 38 + 4; from there to (85, 5, 2): 17 + 9.
    assert way_mm(bay, (30, 10, 2), (85, 5, 2)) == pytest.approx(38 + 4 + 17 + 9)
    assert way_mm(bay, (30, 10, 2), (10, 5, 2)) == pytest.approx(25)
    chain = Chain(two_spaces(), 0)
    lying = fit_of(chain.project).placements
    at = {one.kind: [(a + b) / 2 for a, b in zip(one.min_mm, one.max_mm, strict=True)] for one in lying}
    slot = (68, 14, 2)
    through = sum(abs(a - s) + abs(s - b) for a, s, b in zip(at["cell"], slot, at["board"], strict=True))
    wire = next(one for one in cut_list(chain) if {one.start, one.end} == {"cell.+", "charger.B+"})
    assert wire.length_mm == pytest.approx(through + SERVICE_MM, abs=2.5)


@pytest.mark.parametrize(
    "gap", [None, GAP | {"at_mm": [200, 0, 0]}, GAP | {"size_mm": [5, 4, 4]}, GAP | {"at_mm": [63, 20, 0]}]
)
def test_spaces_that_nothing_joins_are_refused(gap):
    with pytest.raises(ValidationError, match="name the gap"):
        two_spaces(gap=gap)


def test_a_wire_takes_the_shortest_way_of_all():
    """Four rooms in a square with walls of 10 mm, all gaps or all but one: shortest paths of scipy's csgraph."""
    rooms = {
        (x, y): {"id": f"r{x}{y}", "at_mm": [50 * x, 40 * y, 0], "size_mm": [40, 30, 10]}
        for x in range(2)
        for y in range(2)
    }
    sideways = {
        ((x, y), (x + 1, y)): ([50 * x + 40, 40 * y + at, 0], [10, 4, 4])
        for x in range(1)
        for y, at in ((0, 2), (1, 24))
    }
    across = {((x, 0), (x, 1)): ([50 * x + 5 + 9 * x, 30, 0], [4, 10, 4]) for x in range(2)}
    gaps = sideways | across
    start, end = (3.0, 4.0, 1.0), (85.0, 64.0, 2.0)
    seen = set()
    for left_out in range(len(gaps) + 1):
        open_ = {pair: where for number, (pair, where) in enumerate(gaps.items()) if number != left_out - 1}
        passages = [{"name": f"gap {n}", "at_mm": at, "size_mm": size} for n, (at, size) in enumerate(open_.values())]
        bay = Bay.model_validate({"rooms": list(rooms.values()), "passages": passages})
        ends = [{(0, 0)}, *(set(pair) for pair in open_), {(1, 1)}]
        middles = [start, *(np.add(at, np.divide(size, 2)) for at, size in open_.values()), end]
        lengths = [
            [np.abs(np.subtract(a, b)).sum() if one & other else 0 for b, other in zip(middles, ends, strict=True)]
            for a, one in zip(middles, ends, strict=True)
        ]
        expected = dijkstra(np.array(lengths), indices=0)[-1]
        assert way_mm(bay, start, end) == pytest.approx(expected)
        seen.add(round(expected, 6))
    assert len(seen) > 1
