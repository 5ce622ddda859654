"""Causes tried against logs of the simulated bench, whose cell follows other laws than the planner's.

One figure of the plan is wrong by a known factor; the cause that fits best has to be that one, or one that the log
cannot tell from it, and its figure has to be near the truth.
"""

import pytest

from builders import CELL, board, plan
from pocketspark.core.chain import Chain
from pocketspark.core.logs.explanations import NothingToExplain, explained
from pocketspark.instruments import Bench, Meter, charge_log, discharge_log

TRUE_AH, TRUE_OHM, DRAWN_A = 0.9, 0.12, 0.18


def run_down(seed, drawn_a=DRAWN_A):
    return discharge_log(Bench(capacity_ah=TRUE_AH, r_ohm=TRUE_OHM), Meter(seed=seed, gain_off=0.0), drawn_a)


def planned(capacity_ah=TRUE_AH, drawn_a=DRAWN_A, r_ohm=TRUE_OHM, **build):
    cell = CELL | {"measured_capacity_ah": capacity_ah, "r_ohm": r_ohm, "charge_max_a": 0.9}
    gadget = {
        "modes": [{"name": "on", "current_a": drawn_a, "hours_per_day": 1, "law": "current"}],
        "window": {"v_run_min": 2.8, "v_abs_max": 4.8},
    }
    return Chain(plan(gadget=gadget, cell=cell, **build), 0, advises=False)


def figure_of(one):
    return next(edit.value for edit in one.edits if not edit.path.startswith("basis."))


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize("factor", [0.7, 1.3])
def test_a_cell_that_holds_less_is_found(seed, factor):
    found = explained(planned(capacity_ah=TRUE_AH / factor), run_down(seed))
    best = found.explanations[0]
    assert "holds" in str(best.cause)
    assert figure_of(best) == pytest.approx(TRUE_AH, rel=0.06)
    assert found.as_planned == "badly"
    assert best.fits != "badly"
    assert all(words in str(best.then) for words in ("“on” ", "as used ", "full after "))


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize("factor", [0.6, 1.5])
def test_a_gadget_that_draws_otherwise_is_found(seed, factor):
    found = explained(planned(drawn_a=DRAWN_A / factor), run_down(seed))
    best = found.explanations[0]
    assert "draws" in str(best.cause)
    assert figure_of(best) == pytest.approx(DRAWN_A, rel=0.06)


def test_a_run_that_began_half_empty_is_found_and_changes_no_plan():
    log = run_down(4)
    late = type(log)(log.time_s[len(log.time_s) // 2 :] - log.time_s[len(log.time_s) // 2], *(
        column[len(log.time_s) // 2 :] for column in (log.volts, log.amps)
    ))  # fmt: skip
    best = explained(planned(), late).explanations[0]
    assert "was not full" in str(best.cause)
    assert best.edits == ()
    assert str(best.then) == ""


@pytest.mark.parametrize("true_a", [0.25, 0.33])
def test_a_board_that_charges_with_less_is_found(true_a):
    log = charge_log(Bench(capacity_ah=TRUE_AH, r_ohm=TRUE_OHM, i_prog_a=true_a), Meter(seed=2, gain_off=0.0))
    chain = planned(boards=[board()], r_prog_ohm=3000.0)
    best = explained(chain, log).explanations[0]
    assert "charges with" in str(best.cause)
    assert figure_of(best) == pytest.approx(true_a * 3000, rel=0.06)


def charged(seed=2, *, from_soc=0.02, **bench):
    bench = Bench(capacity_ah=TRUE_AH, r_ohm=TRUE_OHM, **bench)
    return charge_log(bench, Meter(seed=seed, gain_off=0.0), from_soc=from_soc)


def on_charge(set_a=0.4, **build):
    """Planned for a charge with so much."""
    return planned(boards=[board()], r_prog_ohm=1200 / set_a, **build)


@pytest.mark.parametrize("factor", [0.7, 1.3])
def test_a_cell_that_holds_less_is_found_in_its_charge(factor):
    best = explained(on_charge(capacity_ah=TRUE_AH / factor), charged()).explanations[0]
    assert "holds" in str(best.cause)
    assert figure_of(best) == pytest.approx(TRUE_AH, rel=0.08)


@pytest.mark.parametrize("soc", [0.35, 0.6])
def test_a_charge_that_began_with_something_in_the_cell_is_found_and_changes_no_plan(soc):
    best = explained(on_charge(), charged(from_soc=soc)).explanations[0]
    assert "was not empty" in str(best.cause)
    assert best.edits == ()


def test_a_thin_cable_is_found_where_the_plan_has_none():
    """It leaves the charger too little: the current falls as the cell fills."""
    found = explained(on_charge(source={"r_cable_ohm": 0}), charged(cable_ohm=3.0))
    best = found.explanations[0]
    assert "Cable" in str(best.cause)
    assert figure_of(best) == pytest.approx(3.0, rel=0.15)
    assert f"have {figure_of(best):.2f} Ω, not 0 Ω" in str(best.cause)


@pytest.mark.parametrize(("held", "set_to"), [(0.7, 0.7), (1.3, 0.7), (0.75, 1.4)])
def test_two_figures_that_are_wrong_at_once_are_found_in_a_charge(held, set_to):
    chain = on_charge(capacity_ah=TRUE_AH / held)
    best = explained(chain, charged(i_prog_a=0.4 * set_to)).explanations[0]
    assert "holds" in str(best.cause)
    assert "charges with" in str(best.cause)
    figures = {edit.path.rsplit(".", 1)[-1]: edit.value for edit in best.edits if not edit.path.startswith("basis.")}
    assert figures == {
        "measured_capacity_ah": pytest.approx(TRUE_AH, rel=0.1),
        "k_volts": pytest.approx(1200 * set_to, rel=0.1),
    }


@pytest.mark.parametrize(("held", "drawn"), [(0.7, 1.4), (1.3, 0.6), (0.8, 0.8)])
def test_two_figures_that_are_wrong_at_once_are_found_together(held, drawn):
    found = explained(planned(capacity_ah=TRUE_AH / held, drawn_a=DRAWN_A / drawn), run_down(7))
    best = found.explanations[0]
    assert "holds" in str(best.cause)
    assert "draws" in str(best.cause)
    figures = {edit.path.rsplit(".", 1)[-1]: edit.value for edit in best.edits if not edit.path.startswith("basis.")}
    assert figures == {
        "measured_capacity_ah": pytest.approx(TRUE_AH, rel=0.08),
        "current_a": pytest.approx(DRAWN_A, rel=0.08),
    }
    # What would decide is told of both.
    assert "a fifth of the capacity" in str(best.decides)
    assert "multimeter" in str(best.decides)


def test_a_run_in_another_mode_is_found_and_changes_no_plan():
    both = [
        {"name": name, "current_a": drawn_a, "hours_per_day": hours, "law": "current"}
        for name, drawn_a, hours in (("low", 0.06, 5), ("on", DRAWN_A, 0.5))
    ]
    gadget = {"modes": both, "window": {"v_run_min": 2.8, "v_abs_max": 4.8}}
    cell = CELL | {"measured_capacity_ah": TRUE_AH, "r_ohm": TRUE_OHM}
    found = explained(Chain(plan(gadget=gadget, cell=cell), 0, advises=False), run_down(8))
    told = [one for one in found.explanations if "It was in “on”, not in “low”" in str(one.cause)]
    assert told
    assert told[0].edits == ()
    # A draw of three times as much fits as well: both are told, and what decides.
    assert told[0].fits == found.explanations[0].fits


def test_where_all_went_as_predicted_nothing_needs_explaining():
    found = explained(planned(), run_down(5))
    assert found.as_planned in ("well", "roughly")
    assert all(one.left_v <= found.left_v + 1e-9 or one.fits != "badly" for one in found.explanations)


def test_every_cause_says_what_would_decide():
    found = explained(planned(capacity_ah=0.5), run_down(6))
    assert found.explanations
    assert all(str(one.decides) and str(one.cause) for one in found.explanations)
    order = [one.fits for one in found.explanations]
    assert order == sorted(order, key=["well", "roughly", "badly"].index)


def test_without_a_cell_there_is_nothing_to_hold_it_against():
    with pytest.raises(NothingToExplain):
        explained(Chain(plan(cell=None), 0), run_down(1))
