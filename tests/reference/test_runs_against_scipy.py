"""Runs with everything in the way, against an ordinary-differential-equation solver and a root finder.

Reference: scipy's solve_ivp (RK45, rtol 1e-8) and brentq, general-purpose. The circuit is written out here once more,
from Kirchhoff's laws and not from our code: at each state of charge the current is the root of the loop's equation.
"""

import numpy as np
import pytest
from scipy.integrate import solve_ivp
from scipy.optimize import brentq

from pocketspark.core.nouns import Shaper
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import CURVES
from pocketspark.core.physics.running import CellGroup, ChargerSetting, charge, run_down
from pocketspark.core.physics.shaping import THERMAL_V, shaping_of

CURVE = CURVES["li_4v20"]
CAPACITY_AH, R_OHM = 1.2, 0.18
GROUP = CellGroup(CURVE, CAPACITY_AH, R_OHM)


def emf_at(soc):
    return float(np.interp(soc, CURVE.soc, CURVE.volts))


# Charge ----------------------------------------------------------------------------------------------------------


def charger_limits(cell_v, setting, emf):
    """What each limit alone lets through into a node at this voltage: program, headroom, heat.

    It leaves the trickle once the cell stands at `trickle_v` with the trickle flowing, and does not fall back.
    """
    trickle_a = setting.program_a * setting.trickle_share
    programmed = trickle_a if emf + trickle_a * R_OHM < setting.trickle_v else setting.program_a
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
    emf = emf_at(soc)

    def surplus(cell_v):
        return charger_limits(cell_v, setting, emf) - float(load.current(cell_v)) - (cell_v - emf) / R_OHM

    if surplus(setting.float_v) >= 0:
        return (setting.float_v - emf) / R_OHM
    cell_v = brentq(surplus, emf - 1.0, setting.float_v, xtol=1e-12)
    return (cell_v - emf) / R_OHM


def hours_by_solver(setting, load, from_soc):
    end_a = setting.program_a * setting.end_share

    def rate(_t, soc):
        return [charging_a(soc[0], setting, load) / CAPACITY_AH]

    def ended(_t, soc):
        cell_a = charging_a(soc[0], setting, load)
        through = cell_a + float(load.current(emf_at(soc[0]) + cell_a * R_OHM))
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
    "an early end": (ChargerSetting(0.5, end_share=0.3), Load()),
}


@pytest.mark.parametrize("name", CHARGES)
@pytest.mark.parametrize("from_soc", [0.05, 0.5])
def test_a_charge_takes_as_long_as_the_solver_says(name, from_soc):
    setting, load = CHARGES[name]
    ours = charge(GROUP, setting, load, from_soc=from_soc)
    hours, end_soc = hours_by_solver(setting, load, from_soc)
    assert float(ours.hours.flat[0]) == pytest.approx(hours, rel=0.003)
    assert float(ours.soc[..., -1].flat[0]) == pytest.approx(end_soc, abs=0.002)


def test_a_trickle_is_as_slow_as_the_solver_says():
    setting = ChargerSetting(0.5, trickle_v=3.3)
    hours, _ = hours_by_solver(setting, Load(), 0.0)
    assert float(charge(GROUP, setting).hours.flat[0]) == pytest.approx(hours, rel=0.003)


# Run-down --------------------------------------------------------------------------------------------------------


def drawn_a(shaper, load, emf, path_ohm):
    """Amps from the cell through this shaper, from its defining equation; the branch with the higher voltage."""
    r_all = R_OHM + path_ohm
    if shaper.kind == "none":
        volts = brentq(lambda v: emf - r_all * float(load.current(v)) - v, 0.5 * emf, emf)
        return float(load.current(volts)), volts
    if shaper.kind == "diode":

        def rest(current):
            junction = shaper.n * THERMAL_V * np.log1p(current / shaper.is_a)
            return float(load.current(emf - current * (r_all + shaper.rs_ohm) - junction)) - current

        current = brentq(rest, 1e-9, 1.5)
        return current, emf - current * (r_all + shaper.rs_ohm) - shaper.n * THERMAL_V * np.log1p(current / shaper.is_a)
    if shaper.kind == "ldo":
        set_a = float(load.current(shaper.v_set))
        if emf - r_all * (set_a + shaper.iq_a) - shaper.drop_v - shaper.drop_ohm * set_a >= shaper.v_set:
            return set_a + shaper.iq_a, shaper.v_set

        def fallen(v):
            current = float(load.current(v))
            return emf - r_all * (current + shaper.iq_a) - shaper.drop_v - shaper.drop_ohm * current - v

        volts = brentq(fallen, 0.5, emf)
        return float(load.current(volts)) + shaper.iq_a, volts
    out_w = shaper.v_set * float(load.current(shaper.v_set))
    power = out_w / shaper.efficiency + shaper.fixed_loss_w * out_w / (out_w + shaper.fixed_loss_w or 1)
    # Constant power behind a resistance: the smaller current.
    at = emf - shaper.iq_a * (r_all + shaper.input_ohm)
    current = (at - np.sqrt(at**2 - 4 * (r_all + shaper.input_ohm) * power)) / (2 * (r_all + shaper.input_ohm))
    return current + shaper.iq_a, shaper.v_set


RUNS = {
    "straight, constant current": (Shaper(), Load(steady_a=0.2)),
    "straight, resistor": (Shaper(), Load(siemens=0.06)),
    "straight, constant power": (Shaper(), Load(power_w=0.7)),
    "diode, resistor": (Shaper(kind="diode"), Load(siemens=0.05)),
    "diode, current": (Shaper(kind="diode"), Load(steady_a=0.15)),
    "ldo, resistor": (Shaper(kind="ldo", v_set=3.3, drop_ohm=0.6, iq_a=4e-3), Load(siemens=0.05)),
    "old ldo": (Shaper(kind="ldo", v_set=3.0, drop_v=0.4, iq_a=5e-3), Load(steady_a=0.1)),
    "boost": (Shaper(kind="boost", v_set=5.0, efficiency=0.86, fixed_loss_w=0.02, input_ohm=0.1), Load(steady_a=0.12)),
    "buck-boost": (Shaper(kind="buck_boost", v_set=3.3, efficiency=0.84, iq_a=1e-3), Load(steady_a=0.2)),
}


@pytest.mark.parametrize("name", RUNS)
def test_a_run_lasts_as_long_as_the_solver_says(name):
    shaper, load = RUNS[name]
    path_ohm, cut_v, v_run_min = 0.08, 3.0, 1.5
    ours = run_down(
        GROUP, path_ohm, shaping_of(shaper), load, v_run_min=v_run_min, cell_cuts={"cell": cut_v}, full_v=4.2
    )
    start = float(ours.soc[..., 0].flat[0])

    def rate(_t, soc):
        return [-drawn_a(shaper, load, emf_at(soc[0]), path_ohm)[0] / CAPACITY_AH]

    def stops(_t, soc):
        emf = emf_at(soc[0])
        return emf - drawn_a(shaper, load, emf, path_ohm)[0] * R_OHM - cut_v

    stops.terminal = True
    found = solve_ivp(rate, (0, 200), [start], events=stops, rtol=1e-8, atol=1e-10, max_step=0.05)
    assert float(ours.hours.flat[0]) == pytest.approx(float(found.t_events[0][0]), rel=0.003)


@pytest.mark.parametrize("name", RUNS)
@pytest.mark.parametrize("emf", [4.1, 3.7, 3.4])
def test_the_gadget_sees_what_the_equation_says(name, emf):
    shaper, load = RUNS[name]
    settled = shaping_of(shaper).settle(emf, R_OHM + 0.08, load)
    current, volts = drawn_a(shaper, load, emf, 0.08)
    assert float(settled.cell_a) == pytest.approx(current, rel=1e-4)
    assert float(settled.gadget_v) == pytest.approx(volts, abs=1e-4)


def test_the_trades_own_runs():
    # Common practice, no source: 500 mAh ran a handheld for 10 h 48 min, an average of 46 mA; three times the capacity
    # runs three times as long.
    def hours(capacity):
        cells = CellGroup(CURVE, capacity, 0.09 / capacity)
        run = run_down(
            cells, 0.0, shaping_of(Shaper()), Load(steady_a=0.046), v_run_min=1.0, cell_cuts={"cell": 3.0}, full_v=4.2
        )
        return float(run.hours.flat[0])

    assert hours(0.5) == pytest.approx(10.8, rel=0.02)
    assert hours(1.5) / hours(0.5) == pytest.approx(3.0, rel=0.02)
