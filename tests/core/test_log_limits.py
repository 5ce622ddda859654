"""What a log shows, on both sides of every limit, on logs drawn by hand.

Limits are common practice, no source, but 45 C at a charging cell (IEC 62133-2 as commonly stated, from memory) and
4.40 V behind a cable (USB 2.0, from memory).
"""

import numpy as np
import pytest

from pocketspark.core.logs.analysis import analyse
from pocketspark.core.logs.log import Log, log_of

STEP_S = 10.0
PLATEAU_H, TAIL_H, REST_H = 1.5, 1.0, 1.25


def charge(
    *,
    plateau_a=0.4,
    plateau_h=PLATEAU_H,
    full_v=4.2,
    termination_share=0.08,
    rest_sinks_v_per_h=0.0,
    celsius=None,
    volts=None,
    tail=True,
    rest=True,
):
    """Constant current to `full_v`, a tail down to `termination_share`, an hour and a quarter of rest."""
    cc = np.arange(0, plateau_h * 3600, STEP_S)
    time, amps, cell_v = [cc], [np.full_like(cc, plateau_a)], [3.4 + (full_v - 3.4) * cc / cc[-1]]
    if tail:
        cv = np.arange(0, TAIL_H * 3600, STEP_S)
        time.append(time[-1][-1] + STEP_S + cv)
        amps.append(plateau_a * termination_share ** (cv / cv[-1]))
        cell_v.append(np.full_like(cv, full_v))
    if rest:
        idle = np.arange(0, REST_H * 3600, STEP_S)
        time.append(time[-1][-1] + STEP_S + idle)
        amps.append(np.zeros_like(idle))
        cell_v.append(full_v - rest_sinks_v_per_h * idle / 3600)
    t, a, v = (np.concatenate(column) for column in (time, amps, cell_v))
    if volts is not None:
        v = volts - 0.5 * a
    return Log(t, v, a, None if celsius is None else np.full_like(t, celsius))


def discharge(*, from_v=4.15, to_v=3.0, amps=0.2, hours=3.0):
    t = np.arange(0, hours * 3600, STEP_S)
    return Log(t, from_v + (to_v - from_v) * t / t[-1], np.full_like(t, amps))


def codes(log, **known):
    return {finding.code for finding in analyse(log, **known).findings}


def test_a_sound_charge_and_a_sound_run_show_nothing():
    assert codes(charge(), plan_a=0.4) == set()
    assert codes(discharge()) == set()


@pytest.mark.parametrize(("over", "off"), [(1.119, False), (1.121, True), (0.881, False), (0.879, True)])
def test_the_plateau_against_the_plan(over, off):
    assert ("log.plateau_off" in codes(charge(), plan_a=0.4 / over)) == off


@pytest.mark.parametrize(("full_v", "over"), [(4.229, False), (4.232, True)])
def test_volts_over_full(full_v, over):
    assert ("log.over_voltage" in codes(charge(full_v=full_v))) == over
    assert "log.over_voltage" not in codes(charge(full_v=full_v), cell_class="li_4v35")


@pytest.mark.parametrize(("celsius", "warm"), [(45.0, False), (45.1, True)])
def test_degrees_at_the_cell(celsius, warm):
    assert ("log.too_warm" in codes(charge(celsius=celsius))) == warm


@pytest.mark.parametrize(("rest_v", "sags"), [(4.61, False), (4.59, True)])
def test_volts_behind_a_cable(rest_v, sags):
    # 0.5 ohm of cable takes 0.2 V at 0.4 A: 4.41 and 4.39 V left while the most flows
    log = charge(volts=rest_v)
    seen = analyse(Log(log.time_s, log.volts + 0.4 * (log.amps < 0.01), log.amps))
    assert seen.usb_side
    assert ("log.cable_sags" in {finding.code for finding in seen.findings}) == sags


@pytest.mark.parametrize(("sinks", "told"), [(0.045, False), (0.055, True)])
def test_volts_lost_at_rest(sinks, told):
    assert ("log.sinks_at_rest" in codes(charge(rest_sinks_v_per_h=sinks))) == told


@pytest.mark.parametrize(("gap_s", "told"), [(0, 0), (20, 1), (70, 1)])
def test_whiles_without_current(gap_s, told):
    log = charge()
    amps = log.amps.copy()
    amps[(log.time_s >= 2000) & (log.time_s < 2000 + gap_s)] = 0.0
    seen = analyse(Log(log.time_s, log.volts, amps))
    assert len(seen.interruptions) == told
    assert ("log.interrupted" in {finding.code for finding in seen.findings}) == bool(told)
    if told:
        assert seen.interruptions[0].start_s == 2000
        assert seen.interruptions[0].length_s == gap_s


@pytest.mark.parametrize(("share", "told"), [(0.04, False), (0.08, True)])
def test_a_current_held_back_before_the_tail(share, told):
    log = charge()
    amps = log.amps.copy()
    held = (log.time_s > 600) & (log.time_s < 600 + share * PLATEAU_H * 3600)
    amps[held] = 0.25
    assert ("log.folds_back" in codes(Log(log.time_s, log.volts, amps))) == told


@pytest.mark.parametrize(("falls", "told"), [(0.02, True), (0.30, False)])
def test_a_tail_that_does_not_fall(falls, told):
    """Two hours at 100 mA that fall by so much in each half hour."""
    log = charge(tail=False, rest=False)
    t = np.arange(0, 7200, STEP_S)
    amps = 0.1 * (1 - falls) ** (t / 1800)
    whole = Log(
        np.concatenate([log.time_s, log.time_s[-1] + STEP_S + t]),
        np.concatenate([log.volts, np.full_like(t, 4.2)]),
        np.concatenate([log.amps, amps]),
    )
    assert ("log.never_ends" in codes(whole)) == told


@pytest.mark.parametrize(("hours", "told"), [(0.9, True), (1.6, False)])
def test_more_time_in_the_tail_than_before_it(hours, told):
    # a tail of one hour; only its part under 93 % of the plateau counts
    assert ("log.long_tail" in codes(charge(plateau_h=hours))) == told


@pytest.mark.parametrize(("to_v", "told"), [(2.45, False), (2.35, True)])
def test_a_run_deeper_than_a_cell_likes(to_v, told):
    assert ("log.too_deep" in codes(discharge(to_v=to_v))) == told


@pytest.mark.parametrize(("peak_a", "code"), [(0.5, "log.trips_at_peak"), (0.22, "log.interrupted")])
def test_stops_at_a_peak_are_the_protections(peak_a, code):
    log = discharge()
    amps, volts = log.amps.copy(), log.volts.copy()
    for start in (300, 500, 700, 900):
        amps[start] = peak_a
        amps[start + 1 : start + 8] = 0.0
    shown = codes(Log(log.time_s, volts, amps))
    assert shown & {"log.trips_at_peak", "log.interrupted"} == {code}


@pytest.mark.parametrize(("sign", "told"), [(1, False), (-1, True)])
def test_minus_on_the_meter(sign, told):
    log = charge()
    assert ("log.swapped" in codes(log_of(log.time_s, sign * log.volts, log.amps))) == told


# What it counts -------------------------------------------------------------------------------------------------


def test_figures_of_a_charge_worked_by_hand():
    seen = analyse(charge(rest=False))
    # 0.4 A for 1.5 h, then an hour from 0.4 A down to 8 %: 0.4 x (1 - 0.08) / ln(1 / 0.08) = 0.1457 Ah
    assert seen.charge_ah == pytest.approx(0.6 + 0.1457, rel=0.005)
    assert seen.plateau_a == pytest.approx(0.4)
    assert seen.end_current_a == pytest.approx(0.032, rel=0.02)
    assert seen.flow_hours == pytest.approx(2.5, rel=0.01)
    assert (seen.most_v, seen.least_v) == (pytest.approx(4.2), pytest.approx(3.4, abs=0.01))
    phases = {phase.name: (phase.end_s - phase.start_s) / 3600 for phase in seen.phases}
    # the plateau counts down to 93 % of itself: ln(0.93) / ln(0.08) of the hour more
    assert phases["constant current"] == pytest.approx(1.5 + 0.0287, abs=0.01)


def test_figures_of_a_run_worked_by_hand():
    seen = analyse(discharge())
    # 0.2 A for 3 h at 3.575 V on average
    assert seen.kind == "discharge"
    assert seen.charge_ah == pytest.approx(0.6, rel=0.002)
    assert seen.energy_wh == pytest.approx(0.6 * 3.575, rel=0.002)
    assert seen.average_w == pytest.approx(0.2 * 3.575, rel=0.002)
    assert seen.usual_a == pytest.approx(0.2)


def test_resistance_from_two_steps_of_the_load():
    log = discharge()
    amps = log.amps.copy()
    heavy = (log.time_s > 3600) & (log.time_s < 3700) | (log.time_s > 7200) & (log.time_s < 7300)
    amps[heavy] = 0.6
    # The heavier current moves more charge, so the cell is further down afterwards.
    volts = np.interp(Log(log.time_s, log.volts, amps).charge_ah, log.charge_ah, log.volts)
    volts[heavy] -= 0.4 * 0.15
    # (0.06 V more) / (0.4 A more) = 0.15 ohm
    assert analyse(Log(log.time_s, volts, amps)).resistance_ohm == pytest.approx(0.15, rel=0.02)
