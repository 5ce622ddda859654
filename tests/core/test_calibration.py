"""What a run teaches the plan: the true figures come back from simulated runs, and what was predicted is kept."""

from dataclasses import replace

import pytest

from builders import CELL, board, plan
from pocketspark.core.chain import Chain
from pocketspark.core.logs.analysis import analyse
from pocketspark.core.logs.calibration import calibration_offers
from pocketspark.core.models import Project
from pocketspark.core.questions.as_built import as_built
from pocketspark.core.steps.prediction import prediction_of
from pocketspark.instruments import Bench, Meter, bench_of, simulated_run

EXACT = Meter(seed=3, gain_off=0.0)


def learnt(project, kind, fault=None, **bench):
    """The calibration_offers of a simulated run of this plan, by what they are of."""
    return {
        str(offer.what): offer
        for offer in calibration_offers(Chain(project, 0), seen_on(project, kind, fault, **bench))
    }


def seen_on(project, kind, fault=None, **bench):
    """A run on a bench that is other than the plan by `bench`, analysed."""
    chain = Chain(project, 0)
    run = simulated_run(kind, replace(bench_of(chain), **bench), EXACT, fault)
    return analyse(run, plan_a=chain.charging.current.spread.nominal_a)


def adopted(project: Project, offer) -> Project:
    """As the screen does it: fields by their path, bases by theirs."""
    basis = dict(project.basis)
    for edit in offer.edits:
        if edit.path.startswith("basis."):
            basis[edit.path.removeprefix("basis.")] = edit.value
        else:
            project = project.with_value(edit.path, edit.value)
    return Project.model_validate(project.model_dump(warnings=False) | {"basis": basis})


def test_a_charge_teaches_what_the_cell_holds():
    project = plan()
    told = learnt(project, "cell_meters", capacity_ah=0.8, r_ohm=0.2)
    assert "resistance" not in told  # no step of the current shows it
    project = adopted(project, told["capacity"])
    assert Chain(project, 0).cell.measured_capacity_ah == pytest.approx(0.8, rel=0.03)
    assert project.basis == {"builds.build1.cell.measured_capacity_ah": "measured"}
    assert "±" in str(told["capacity"].off)


def test_cells_in_parallel_share_it_out():
    told = learnt(plan(cell_count=2), "cell_meters", capacity_ah=1.6, r_ohm=0.05)
    assert told["capacity"].edits[0].value == pytest.approx(0.8, rel=0.03)


@pytest.mark.parametrize("kind", ["cell_meters", "usb_meter"])
def test_a_plateau_teaches_this_boards_own_constant(kind):
    # I = K / R (the formula of such charger boards): 360 mA at 3.0 kohm is K = 1080 V
    project = plan(r_prog_ohm=3000)
    offer = learnt(project, kind, i_prog_a=0.36)["charge current"]
    chain = Chain(adopted(project, offer), 0)
    assert chain.charging.charger.k_volts == pytest.approx(1080, rel=0.01)
    assert chain.charging.current.spread.nominal_a == pytest.approx(0.36, rel=0.01)
    assert (
        chain.charging.current.spread.most_a < 0.36 * 1.06
    )  # 3 % of the meter and 1 % of the resistor, where 10 % stood


def test_what_a_meter_is_right_to_goes_into_what_a_log_teaches():
    """K is told as well as the meter reads, and a capacity by the root of squares of meter and curve."""
    told = {}
    for share in (0.01, 0.05):
        project = plan(r_prog_ohm=3000).with_value("meter_share", share)
        offer = learnt(project, "cell_meters", i_prog_a=0.36)["charge current"]
        assert Chain(adopted(project, offer), 0).charging.charger.k_tolerance == share
        assert f"to {share * 100:.0f} %" in str(offer.off)
        told[share] = analyse(simulated_run("cell_meters", Bench(capacity_ah=0.8), Meter(seed=3)), meter_share=share)
    fine, cheap = told.values()
    assert cheap.capacity_ah == fine.capacity_ah
    wider = (cheap.capacity_off_ah / cheap.capacity_ah) ** 2 - (fine.capacity_off_ah / fine.capacity_ah) ** 2
    assert wider == pytest.approx(0.05**2 - 0.01**2, rel=0.01)


def test_a_board_with_a_table_of_its_own_gets_a_row():
    table = [{"r_ohm": 2000, "current_a": 0.58}, {"r_ohm": 5000, "current_a": 0.24}]
    project = plan(boards=[board(r_table=table)], r_prog_ohm=3000)
    offer = learnt(project, "cell_meters", i_prog_a=0.39)["charge current"]
    rows = Chain(adopted(project, offer), 0).charging.charger.readings
    assert [r for r, _ in rows] == [2000, 3000, 5000]
    assert rows[1][1] == pytest.approx(0.39, rel=0.01)


@pytest.mark.parametrize(("fault", "bench"), [("hot_box", {}), ("wrong_resistor", {}), (None, {"i_prog_a": 0.2})])
def test_a_plateau_that_something_else_explains_is_not_taken(fault, bench):
    assert "charge current" not in learnt(plan(r_prog_ohm=3000), "cell_meters", fault, **bench)


@pytest.mark.parametrize(
    "regulator",
    [None, {"kind": "diode"}, {"kind": "ldo", "v_set": 3.0, "iq_a": 5e-5}, {"kind": "buck_boost", "v_set": 3.3}],
)
def test_a_run_down_teaches_what_the_gadget_draws_behind_any_regulator(regulator):
    """The offer turned round: a gadget that draws this has its cell give what was measured."""
    project = plan(regulator=regulator, gadget={"window": {"v_run_min": 2.2, "v_abs_max": 4.8}})
    offer = learnt(project, "bench_load", load_a=0.075, peak_a=0.0)["gadget's current"]
    chain = Chain(adopted(project, offer), 0)
    seen = seen_on(project, "bench_load", load_a=0.075, peak_a=0.0)
    mean_v = seen.energy_wh / seen.charge_ah
    point = chain.running.chosen.regulator_law.operating_point(
        mean_v, chain.running.chosen.path_ohm, chain.load_of(chain.gadget.modes[0])
    )
    assert float(point.cell_a) == pytest.approx(0.075, rel=0.03)
    assert "only if it was the gadget" in str(offer.off)


def test_pulses_and_charges_say_nothing_of_the_gadget():
    pulsed = {"modes": [{"name": "blinks", "current_a": 0.06, "on_s": 1, "every_s": 10}]}
    assert "gadget's current" not in learnt(plan(gadget=pulsed), "bench_load")
    assert "gadget's current" not in learnt(plan(), "cell_meters")
    assert calibration_offers(Chain(plan(cell=None, boards=[]), 0), seen_on(plan(), "cell_tester")) == ()


def test_an_unlikely_current_is_not_taken():
    assert "gadget's current" not in learnt(plan(), "cell_tester", capacity_ah=20.0)


# What was predicted ----------------------------------------------------------------------------------------------


def test_the_forecast_is_the_chains_own():
    chain = Chain(plan(r_prog_ohm=3000), 0)
    told = prediction_of(chain)
    assert told.charge_current_a == pytest.approx(0.4)  # 1200 V / 3 kohm
    assert told.run_hours == chain.running.most_used.hours
    assert (told.capacity_ah, told.r_ohm) == (CELL["capacity_ah"], CELL["r_ohm"])


def test_what_cannot_be_told_is_left_open():
    told = prediction_of(Chain(plan(cell=None, boards=[]), 0))
    assert (told.charge_hours, told.run_hours, told.capacity_ah) == (None, None, None)
    endless = prediction_of(
        Chain(plan(use_while_charging="on_cell", gadget={"modes": [{"name": "on", "current_a": 0.3}]}), 0)
    )
    assert endless.charge_hours is None


def test_as_built_is_held_against_what_was_foretold_first():
    steps = [{"step": "discharge", "done": True, "value": 12.0}, {"step": "first_charge", "done": True, "value": 0.36}]
    first = prediction_of(Chain(plan(), 0)).model_dump()
    kept = [{"at": "2026-11-25T10:00:00Z", "adopted": "capacity 720 mAh, from run.csv", "before": first}]
    later = plan(cell=CELL | {"measured_capacity_ah": 0.72}, steps=steps, predictions=kept)
    figures = {str(figure.what): figure for figure in as_built(later)}
    assert figures["run time"].off_share == pytest.approx(12.0 / first["run_hours"] - 1)
    assert figures["charge current"].off_share == pytest.approx(0.36 / first["charge_current_a"] - 1)
