"""Unlike cells in parallel against the circuit that they are: sources behind resistances, as linear equations."""

import numpy as np
import pytest

from builders import CELL, finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.questions.bill import bill_of_materials

WORN = CELL | {"name": "worn", "capacity_ah": 0.5, "r_ohm": 0.30, "size_mm": [4, 30, 40], "charge_max_a": 0.4}
FRESH = CELL | {"name": "fresh", "r_ohm": 0.10, "charge_max_a": 0.9}


def solved(volts, ohms, load_a):
    """Current of each source into a common node from which so much flows, by Kirchhoff."""
    n = len(volts)
    equations = np.zeros((n + 1, n + 1))
    right = np.zeros(n + 1)
    for k in range(n):
        equations[k, k], equations[k, n], right[k] = ohms[k], 1.0, volts[k]
    equations[n, :n], right[n] = 1.0, load_a
    return np.linalg.solve(equations, right)[:n]


def group(*others, **changes):
    return {"cell": FRESH, "unlike_cells": list(others)} | changes


@pytest.mark.parametrize("others", [(WORN,), (WORN, WORN | {"r_ohm": 0.05}), (FRESH | {"name": "twin"},)])
def test_a_group_is_the_circuit_that_it_is(others):
    chosen = Chain(plan(**group(*others)), 0).chosen_cell
    ohms = [FRESH["r_ohm"], *(cell["r_ohm"] for cell in others)]
    currents = solved([3.8] * len(ohms), ohms, 1.0)
    assert chosen.load_shares == pytest.approx(list(currents))
    assert chosen.r_ohm == pytest.approx(1 / sum(1 / ohm for ohm in ohms))
    assert chosen.capacity_ah == pytest.approx(FRESH["capacity_ah"] + sum(cell["capacity_ah"] for cell in others))


def test_what_flows_as_they_join_is_told_and_held_against_the_emptier_one():
    """4.10 V and 3.70 V through 0.10 and 0.30 ohm: 1 A, more than the worn cell's 0.4 A."""
    apart = group(WORN | {"intake": {"rest_v": 3.7}}, cell=FRESH | {"intake": {"rest_v": 4.1}})
    told = finding(judged(**apart), "cell.unlike_joining")
    flows = solved([4.1, 3.7], [0.10, 0.30], 0.0)[0]
    assert told.level == "caution"
    assert told.figure.value == pytest.approx(flows)
    near = group(WORN | {"intake": {"rest_v": 4.08}}, cell=FRESH | {"intake": {"rest_v": 4.1}})
    assert finding(judged(**near), "cell.unlike_joining") is None


def test_the_group_takes_until_the_first_of_them_is_at_its_most():
    """Three quarters of the current go through the fresh one: 0.9 A of it are 1.2 A of both, not 1.3 A."""
    chosen = Chain(plan(**group(WORN)), 0).chosen_cell
    assert chosen.charge_max_a == pytest.approx(0.9 / 0.75)
    assert Chain(plan(**group(WORN | {"charge_max_a": None})), 0).chosen_cell.charge_max_a is None


def test_like_cells_are_what_they_were():
    """Two of a kind, said either way, are the same group."""
    twice, beside = (Chain(plan(**changes), 0) for changes in ({"cell": FRESH, "cell_count": 2}, group(FRESH)))
    for figure in ("capacity_ah", "r_ohm", "charge_max_a", "count"):
        assert getattr(twice.chosen_cell, figure) == pytest.approx(getattr(beside.chosen_cell, figure))


def test_they_are_placed_wired_and_listed():
    project = plan(**group(WORN))
    assert {"fresh #1", "worn #2"} <= {part.part for part in fit_of(project).placements}
    wires = {(wire.start, wire.end) for wire in hook_up(Chain(project, 0)).wires}
    assert ("cell.+", "cell2.+") in wires
    assert [name for _, name, _ in bill_of_materials(project, 0)][:2] == ["fresh", "worn"]
