"""Charge and discharge runs: what must hold whatever the numbers."""

from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.charge_and_discharge import RESISTANCE_THEN, CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import curve_of

capacities = st.floats(0.05, 5)
resistances = st.floats(0.01, 0.5)
regulators = st.sampled_from(
    [
        Regulator(),
        Regulator(kind="diode"),
        Regulator(kind="ldo", v_set=3.0),
        Regulator(kind="ldo", v_set=3.3, drop_v=1.1),
        Regulator(kind="buck", v_set=2.5),
        Regulator(kind="boost", v_set=5),
        Regulator(kind="buck_boost", v_set=3.3),
    ]
)


def group(capacity_ah=1.0, r_ohm=0.15, cell_class="li_4v20"):
    return CellGroup(curve_of(cell_class), capacity_ah, r_ohm)


def down(cells, load, regulator=None, v_run_min=1.0, path_ohm=0.05):
    regulator_law = law_of_regulator(regulator or Regulator())
    return discharge(cells, path_ohm, regulator_law, load, v_run_min=v_run_min, cell_cuts={"cell": 3.0}, full_v=4.2)


@given(capacities, st.floats(1.01, 3), resistances, regulators)
@settings(max_examples=60)
def test_more_capacity_never_shortens_a_run(capacity_ah, factor, r_ohm, regulator):
    load = Load(steady_a=0.05)
    small, large = (down(group(c, r_ohm), load, regulator).hours for c in (capacity_ah, capacity_ah * factor))
    assert large >= small


@given(resistances, st.floats(0.001, 0.4), regulators)
@settings(max_examples=60)
def test_more_current_never_lengthens_a_run(r_ohm, current_a, regulator):
    runs = [down(group(1.0, r_ohm), Load(steady_a=a), regulator).hours for a in (current_a, current_a * 1.1)]
    assert runs[1] <= runs[0] * (1 + 1e-9)


@given(st.floats(0.001, 5), st.floats(0.001, 4), regulators, st.sampled_from(["steady_a", "power_w"]))
@settings(max_examples=80)
def test_a_resistance_that_rises_ends_a_run_sooner_and_not_later_than_its_highest(r_ohm, drawn, regulator, law):
    cells, load = group(1.0, r_ohm), Load(**{law: drawn})
    flat, rising, highest = (
        float(down(each, load, regulator).hours.flat[0])
        for each in (cells, replace(cells, rises=True), group(1.0, r_ohm * RESISTANCE_THEN[0]))
    )
    assert highest <= rising * (1 + 1e-4) + 1e-6
    assert rising <= flat * (1 + 1e-4) + 1e-6


@given(resistances, resistances)
@settings(max_examples=40)
def test_more_resistance_never_shortens_the_charge(one, other):
    low, high = sorted((one, other))
    hours = [charge(group(1.0, r), ChargerSetting(0.5)).hours for r in (low, high)]
    assert hours[1] >= hours[0] * (1 - 1e-9)


@given(regulators, st.sampled_from([Load(0.02), Load(power_w=0.1), Load(siemens=0.01)]))
def test_volts_only_fall_and_charge_balances(regulator, load):
    run = down(group(), load, regulator)
    assert np.all(np.diff(run.cell_v[run.time_h.cumsum() >= 0]) <= 1e-9)
    drawn = np.sum(np.diff(run.time_h) * (run.cell_a[1:] + run.cell_a[:-1]) / 2)
    assert drawn == pytest.approx(float(run.charge_ah), rel=2e-3, abs=1e-6)


def test_a_batch_gives_what_single_runs_give():
    capacity, current = np.array([[0.3], [1.0], [2.5]]), np.array([[0.1], [0.5], [0.9]])
    batch = charge(group(capacity), ChargerSetting(current))
    runs = down(group(capacity), Load(current))
    for i in range(3):
        one = float(capacity[i, 0]), float(current[i, 0])
        assert batch.hours[i] == pytest.approx(float(charge(group(one[0]), ChargerSetting(one[1])).hours))
        assert runs.hours[i] == pytest.approx(float(down(group(one[0]), Load(one[1])).hours))


def test_the_first_stop_ends_the_run():
    assert down(group(), Load(0.05)).stopped_by == "cell"
    assert down(group(), Load(0.05), v_run_min=3.4).stopped_by == "gadget"
