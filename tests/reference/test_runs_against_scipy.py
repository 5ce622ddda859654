"""Runs with everything in the way, against an ordinary-differential-equation solver and a root finder.

Reference: scipy's solve_ivp (RK45, rtol 1e-8) and brentq, general-purpose. The circuit is written out here once more,
from Kirchhoff's laws and not from our code: at each state of charge the current is the root of the loop's equation.
"""

from dataclasses import replace

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Regulator
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import curve_of
from pocketspark.core.physics.regulator_laws import THERMAL_V

CURVE = curve_of("li_4v20")
CAPACITY_AH, R_OHM = 1.2, 0.18
GROUP = CellGroup(CURVE, CAPACITY_AH, R_OHM)


def ocv_at(soc):
    return float(np.interp(soc, CURVE.soc, CURVE.volts))


# Charge ----------------------------------------------------------------------------------------------------------


def charger_limits(cell_v, setting, ocv_v):
    """What each limit alone lets through into a node at this voltage: program, headroom, heat.

    It leaves the precharge once the cell stands at `precharge_v` with the precharge flowing, and does not fall back.
    """
    precharge_a = setting.i_prog_a * setting.precharge_share
    programmed = precharge_a if ocv_v + precharge_a * R_OHM < setting.precharge_v else setting.i_prog_a
    headroom = (setting.source_v - cell_v) / (setting.cable_ohm + setting.pass_ohm)
    limits = [programmed, headroom]
    if np.isfinite(setting.burn_w):
        # x (V_source - x R_cable - V_cell) = burn: the smaller root, if there is one.
        root = (setting.source_v - cell_v) ** 2 - 4 * setting.cable_ohm * setting.burn_w
        if root >= 0:
            limits.append((setting.source_v - cell_v - np.sqrt(root)) / (2 * setting.cable_ohm))
    return min(limits)


def charging_a(soc, setting, load):
    """Amps into the cell: the loop solved for the node's voltage, held at the float voltage where it would pass it."""
    ocv_v = ocv_at(soc)

    def surplus(cell_v):
        return charger_limits(cell_v, setting, ocv_v) - float(load.current(cell_v)) - (cell_v - ocv_v) / R_OHM

    if surplus(setting.float_v) >= 0:
        return (setting.float_v - ocv_v) / R_OHM
    cell_v = brentq(surplus, ocv_v - 1.0, setting.float_v, xtol=1e-12)
    return (cell_v - ocv_v) / R_OHM


def hours_by_solver(setting, load, from_soc):
    end_a = setting.i_prog_a * setting.termination_share

    def rate(_t, soc):
        return [charging_a(soc[0], setting, load) / CAPACITY_AH]

    def ended(_t, soc):
        cell_a = charging_a(soc[0], setting, load)
        through = cell_a + float(load.current(ocv_at(soc[0]) + cell_a * R_OHM))
        return 1.0 if soc[0] < 0.5 else through - end_a

    ended.terminal = True
    found = solve_ivp(rate, (0, 60), [from_soc], events=ended, rtol=1e-8, atol=1e-10, max_step=0.05)
    return float(found.t_events[0][0]), float(found.y[0, -1])


CHARGES = {
    "plain": (ChargerSetting(0.5), Load()),
    "a long thin cable": (ChargerSetting(0.8, cable_ohm=0.7), Load()),
    "a weak source": (ChargerSetting(0.8, source_v=4.75, cable_ohm=0.3), Load()),
    "a small load that goes on": (ChargerSetting(0.5), Load(steady_a=0.03)),
    "a resistor on the cell": (ChargerSetting(0.5), Load(siemens=0.005)),
    "a hot chip": (ChargerSetting(0.6, cable_ohm=0.1, burn_w=0.45), Load()),
    "an early end": (ChargerSetting(0.5, termination_share=0.3), Load()),
}


@pytest.mark.parametrize("name", CHARGES)
@pytest.mark.parametrize("from_soc", [0.05, 0.5])
def test_a_charge_takes_as_long_as_the_solver_says(name, from_soc):
    setting, load = CHARGES[name]
    ours = charge(GROUP, setting, load, from_soc=from_soc)
    hours, end_soc = hours_by_solver(setting, load, from_soc)
    assert float(ours.hours.flat[0]) == pytest.approx(hours, rel=0.003)
    assert float(ours.soc[..., -1].flat[0]) == pytest.approx(end_soc, abs=0.002)


def test_a_precharge_is_as_slow_as_the_solver_says():
    setting = ChargerSetting(0.5, precharge_v=3.3)
    hours, _ = hours_by_solver(setting, Load(), 0.0)
    assert float(charge(GROUP, setting).hours.flat[0]) == pytest.approx(hours, rel=0.003)


# Run-down --------------------------------------------------------------------------------------------------------


def drawn_a(regulator, load, ocv_v, path_ohm, cell_ohm=R_OHM):
    """Amps from the cell through this regulator, from its defining equation; the branch with the higher voltage."""
    r_all = cell_ohm + path_ohm
    if regulator.kind == "none":
        volts = brentq(lambda v: ocv_v - r_all * float(load.current(v)) - v, 0.5 * ocv_v, ocv_v)
        return float(load.current(volts)), volts
    if regulator.kind == "diode":

        def rest(current):
            junction = regulator.n * THERMAL_V * np.log1p(current / regulator.is_a)
            return float(load.current(ocv_v - current * (r_all + regulator.rs_ohm) - junction)) - current

        current = brentq(rest, 1e-9, 1.5)
        return current, ocv_v - current * (r_all + regulator.rs_ohm) - regulator.n * THERMAL_V * np.log1p(
            current / regulator.is_a
        )
    if regulator.kind == "ldo":
        set_a = float(load.current(regulator.v_set))
        if ocv_v - r_all * (set_a + regulator.iq_a) - regulator.drop_v - regulator.drop_ohm * set_a >= regulator.v_set:
            return set_a + regulator.iq_a, regulator.v_set

        def fallen(v):
            current = float(load.current(v))
            return ocv_v - r_all * (current + regulator.iq_a) - regulator.drop_v - regulator.drop_ohm * current - v

        volts = brentq(fallen, 0.5, ocv_v)
        return float(load.current(volts)) + regulator.iq_a, volts
    out_w = regulator.v_set * float(load.current(regulator.v_set))
    power = out_w / regulator.efficiency + regulator.fixed_loss_w * out_w / (out_w + regulator.fixed_loss_w or 1)
    # Constant power behind a resistance: the smaller current.
    at = ocv_v - regulator.iq_a * (r_all + regulator.input_ohm)
    current = (at - np.sqrt(at**2 - 4 * (r_all + regulator.input_ohm) * power)) / (2 * (r_all + regulator.input_ohm))
    return current + regulator.iq_a, regulator.v_set


RUNS = {
    "straight, constant current": (Regulator(), Load(steady_a=0.2)),
    "straight, resistor": (Regulator(), Load(siemens=0.06)),
    "straight, constant power": (Regulator(), Load(power_w=0.7)),
    "diode, resistor": (Regulator(kind="diode"), Load(siemens=0.05)),
    "diode, current": (Regulator(kind="diode"), Load(steady_a=0.15)),
    "ldo, resistor": (Regulator(kind="ldo", v_set=3.3, drop_ohm=0.6, iq_a=4e-3), Load(siemens=0.05)),
    "old ldo": (Regulator(kind="ldo", v_set=3.0, drop_v=0.4, iq_a=5e-3), Load(steady_a=0.1)),
    "boost": (
        Regulator(kind="boost", v_set=5.0, efficiency=0.86, fixed_loss_w=0.02, input_ohm=0.1),
        Load(steady_a=0.12),
    ),
    "buck-boost": (Regulator(kind="buck_boost", v_set=3.3, efficiency=0.84, iq_a=1e-3), Load(steady_a=0.2)),
}


def emptier_cells_resist_more(soc):
    """What six published cells have, in the mean, with so much charge left (the table is written out once more)."""
    return float(np.interp(soc, [0, 0.05, 0.1, 0.2, 0.3], [2.6, 1.85, 1.35, 1.1, 1.0])) * R_OHM


@pytest.mark.parametrize("rises", [False, True])
@pytest.mark.parametrize("name", RUNS)
def test_a_run_lasts_as_long_as_the_solver_says(name, rises):
    regulator, load = RUNS[name]
    path_ohm, cut_v, v_run_min = 0.08, 3.0, 1.5
    cell_ohm = emptier_cells_resist_more if rises else lambda _: R_OHM
    ours = discharge(
        replace(GROUP, rises=rises),
        path_ohm,
        law_of_regulator(regulator),
        load,
        v_run_min=v_run_min,
        cell_cuts={"cell": cut_v},
        full_v=4.2,
    )
    start = float(ours.soc[..., 0].flat[0])

    def rate(_t, soc):
        return [-drawn_a(regulator, load, ocv_at(soc[0]), path_ohm, cell_ohm(soc[0]))[0] / CAPACITY_AH]

    def stops(_t, soc):
        ocv_v, r_ohm = ocv_at(soc[0]), cell_ohm(soc[0])
        return ocv_v - drawn_a(regulator, load, ocv_v, path_ohm, r_ohm)[0] * r_ohm - cut_v

    stops.terminal = True
    found = solve_ivp(rate, (0, 200), [start], events=stops, rtol=1e-8, atol=1e-10, max_step=0.05)
    assert float(ours.hours.flat[0]) == pytest.approx(float(found.t_events[0][0]), rel=0.003)


@pytest.mark.parametrize("name", RUNS)
@pytest.mark.parametrize("ocv_v", [4.1, 3.7, 3.4])
def test_the_gadget_sees_what_the_equation_says(name, ocv_v):
    regulator, load = RUNS[name]
    point = law_of_regulator(regulator).operating_point(ocv_v, R_OHM + 0.08, load)
    current, volts = drawn_a(regulator, load, ocv_v, 0.08)
    assert float(point.cell_a) == pytest.approx(current, rel=1e-4)
    assert float(point.gadget_v) == pytest.approx(volts, abs=1e-4)


def test_the_trades_own_runs():
    # Common practice, no source: 500 mAh ran a handheld for 10 h 48 min, an average of 46 mA; three times the capacity
    # runs three times as long.
    def hours(capacity):
        cells = CellGroup(CURVE, capacity, 0.09 / capacity)
        run = discharge(
            cells,
            0.0,
            law_of_regulator(Regulator()),
            Load(steady_a=0.046),
            v_run_min=1.0,
            cell_cuts={"cell": 3.0},
            full_v=4.2,
        )
        return float(run.hours.flat[0])

    assert hours(0.5) == pytest.approx(10.8, rel=0.02)
    assert hours(1.5) / hours(0.5) == pytest.approx(3.0, rel=0.02)
