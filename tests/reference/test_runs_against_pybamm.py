"""Charge and discharge against PyBaMM's Thevenin model with the same curve and resistance.

Source of the reference: PyBaMM (open, general-purpose battery models), solved here at rtol 1e-8.
"""

import numpy as np
import pybamm
import pytest
from pybamm_cell import CAPACITY_AH, R_OHM, START_SOC, charge_hours, discharge_hours

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import curve_of

GROUP = CellGroup(curve_of("li_4v20"), CAPACITY_AH, R_OHM)


@pytest.mark.parametrize(("current_a", "end_a"), [(1.0, 0.1), (0.5, 0.05)])
def test_a_charge_takes_as_long_and_is_as_long_at_constant_current(current_a, end_a):
    setting = ChargerSetting(current_a, termination_share=end_a / current_a, cable_ohm=0, pass_ohm=0)
    ours = charge(GROUP, setting, from_soc=START_SOC)
    cc_h, all_h = charge_hours(current_a, end_a)
    assert float(ours.hours) == pytest.approx(all_h, rel=0.01)
    assert float(ours.cc_share) == pytest.approx(cc_h / all_h, rel=0.01)


@pytest.mark.parametrize(
    ("load", "step"),
    [
        (Load(steady_a=0.5), pybamm.step.current(0.5, termination="3.0V")),
        (Load(power_w=1.85), pybamm.step.power(1.85, termination="3.0V")),
        (Load(siemens=1 / 7.4), pybamm.step.resistance(7.4, termination="3.0V")),
    ],
    ids=["current", "power", "resistance"],
)
def test_a_discharge_takes_as_long_under_each_law(load, step):
    ours = discharge(GROUP, 0, law_of_regulator(Regulator()), load, v_run_min=0.5, cell_cuts={"cell": 3.0}, full_v=4.2)
    assert float(ours.hours) == pytest.approx(discharge_hours(step), rel=0.01)


@pytest.mark.parametrize(
    ("c_rate", "termination_share", "hours", "cc_time", "cc_charge"),
    [(1.0, 0.1, 1.150, 0.73, 0.865), (0.5, 0.2, 2.038, 0.90, 0.944)],
)
def test_the_noted_reference_charge_is_met(c_rate, termination_share, hours, cc_time, cc_charge):
    # PyBaMM, Ai2020 curve, solved once and noted in the numerics of this project
    run = charge(
        GROUP, ChargerSetting(c_rate, termination_share=termination_share, cable_ohm=0, pass_ohm=0), from_soc=START_SOC
    )
    assert float(run.hours) == pytest.approx(hours, rel=2e-3)
    assert float(run.cc_share) == pytest.approx(cc_time, abs=6e-3)
    assert float(run.cc_charge_share) == pytest.approx(cc_charge, abs=6e-3)


def test_a_4v35_cell_on_a_4v20_charger_reaches_some_92_percent():
    # handbook of this project, by the extended Ai2020 curve
    assert float(curve_of("li_4v35").soc_at(4.20)) == pytest.approx(0.917, abs=1e-3)


def test_one_series_resistance_explains_two_measured_runs_of_two_worn_cells():
    """The same two worn cells, 3.0 Ah together: 1.2 kohm, 1.0 A: 7 h 10; 900 ohm, 1.4 A: 5 h 44.

    Common practice, no source. One resistance brings both within 10 %. Fitted on the first run alone it misses the
    second by 10.5 %: the second had a heat sink and a fan, the first perhaps folded back.
    """
    measured = {1.0: 7 + 10 / 60, 1.4: 5 + 44 / 60}

    def errors(r_ohm):
        group = CellGroup(curve_of("li_4v20"), 3.0, r_ohm)
        return [abs(float(charge(group, ChargerSetting(a)).hours) / h - 1) for a, h in measured.items()]

    best = min((errors(r_ohm) for r_ohm in np.linspace(0.05, 2, 200)), key=max)
    assert max(best) < 0.10
