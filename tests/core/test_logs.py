"""Logs on simulated runs: the true cell is found, every fault is named, and clean runs raise no alarm."""

from dataclasses import replace

import numpy as np
import pytest

from builders import plan
from pocketspark.core.chain import Chain
from pocketspark.core.logs.analysis import analyse, in_words
from pocketspark.core.logs.differences import differences
from pocketspark.core.logs.log import Log, TooShort, log_of
from pocketspark.core.logs.predicted_run import predicted
from pocketspark.instruments import (
    FAULTS,
    INSTRUMENTS,
    Bench,
    Meter,
    bench_of,
    charge_log,
    discharge_log,
    simulated_run,
)

PLAN_A = 0.4


@pytest.mark.parametrize("seed", range(50))
def test_a_clean_run_raises_no_alarm(seed):
    bench = Bench(capacity_ah=0.5 + seed * 0.02, r_ohm=0.08 + seed * 0.002)
    for kind in INSTRUMENTS:
        seen = analyse(simulated_run(kind, bench, Meter(seed=seed)), plan_a=PLAN_A)
        assert seen.kind == ("charge" if kind in ("cell_meters", "usb_meter") else "discharge")
        assert [finding.code for finding in seen.findings if finding.level != "note"] == []


@pytest.mark.parametrize("seed", [3, 11])
@pytest.mark.parametrize(("fault", "kind"), [(fault, kind) for fault in FAULTS for kind in FAULTS[fault].shown_by])
def test_every_fault_is_named(fault, kind, seed):
    seen = analyse(simulated_run(kind, Bench(), Meter(seed=seed), fault), plan_a=PLAN_A)
    assert FAULTS[fault].code in {finding.code for finding in seen.findings}
    if fault == "load_left_on":
        assert seen.capacity_ah is None  # not all of the current went into the cell


@pytest.mark.parametrize(("capacity", "r_ohm"), [(0.9, 0.12), (2.2, 0.06), (0.45, 0.3)])
def test_a_whole_charge_tells_the_capacity_and_without_steps_no_resistance(capacity, r_ohm):
    bench = Bench(capacity_ah=capacity, r_ohm=r_ohm, i_prog_a=capacity * 0.45)
    seen = analyse(charge_log(bench, Meter(seed=5, gain_off=0.0)))
    assert seen.capacity_ah == pytest.approx(capacity, abs=seen.capacity_off_ah)
    assert seen.resistance_ohm is None
    assert seen.capacity_off_ah < 0.1 * capacity


@pytest.mark.parametrize("kind", ["run-down with pulses", "charge that stops and starts"])
def test_a_resistance_covers_what_the_bench_has(kind):
    """The bench's cell follows a current partly at once and partly within a minute: both are its resistance."""
    covered = 0
    for seed in range(40):
        bench = Bench(capacity_ah=0.5 + seed * 0.03, r_ohm=0.08 + seed * 0.004)
        meter, each_a = Meter(seed=seed), bench.capacity_ah / 5
        log = (
            discharge_log(bench, meter, each_a, pulse_a=3 * each_a)
            if kind == "run-down with pulses"
            else charge_log(bench, meter, "pad_starts_and_stops")
        )
        seen = analyse(log)
        covered += abs(seen.resistance_ohm - bench.r_ohm) <= seen.resistance_off_ohm
    assert covered >= 38


def test_a_run_down_with_load_steps_tells_both():
    bench = Bench(capacity_ah=1.1, r_ohm=0.15)
    seen = analyse(discharge_log(bench, Meter(seed=2, gain_off=0.0), 0.2, pulse_a=0.6))
    assert seen.kind == "discharge"
    assert seen.capacity_ah == pytest.approx(1.1, abs=seen.capacity_off_ah)
    assert seen.resistance_ohm == pytest.approx(0.15, abs=seen.resistance_off_ohm)
    assert seen.resistance_off_ohm < 0.2 * 0.15
    assert seen.average_w == pytest.approx(0.213 * 3.75, rel=0.05)


def test_phases_follow_each_other():
    seen = analyse(charge_log(Bench(), Meter(seed=1)))
    assert [phase.name for phase in seen.phases] == ["constant current", "constant voltage", "ended"]
    assert all(a.end_s <= b.start_s + 1e-6 for a, b in zip(seen.phases, seen.phases[1:], strict=False))
    assert seen.plateau_a == pytest.approx(0.4, rel=0.02)
    assert seen.end_current_a == pytest.approx(0.04, rel=0.25)
    assert seen.charge_ah == pytest.approx(0.9 * 0.98, rel=0.03)


def test_interruptions_are_counted_with_their_length():
    time_s = np.arange(0, 7200, 5.0)
    amps = np.full_like(time_s, 0.5)
    for start, length in ((1000, 30), (3000, 60), (5000, 100)):
        amps[(time_s >= start) & (time_s < start + length)] = 0.0
    seen = analyse(Log(time_s, np.full_like(time_s, 3.8), amps))
    assert [round(one.length_s) for one in seen.interruptions] == [30, 60, 100]


def test_a_meter_on_the_usb_side_says_nothing_of_the_cell():
    run = charge_log(Bench(), Meter(seed=4))
    seen = analyse(Log(run.time_s, np.full_like(run.volts, 5.02), run.amps))
    assert seen.usb_side
    assert seen.capacity_ah is None
    assert seen.charge_ah == pytest.approx(0.9 * 0.98, rel=0.03)  # mAh in is mAh to the cell, through a linear charger


def test_a_negative_current_is_the_same_run():
    run = discharge_log(Bench(), Meter(seed=4))
    turned = log_of(run.time_s, run.volts, -run.amps)
    assert analyse(turned).charge_ah == pytest.approx(analyse(run).charge_ah)


def test_words_begin_with_what_it_is():
    assert str(in_words(analyse(charge_log(Bench(), Meter())))[0]).startswith("Charge: ")


@pytest.mark.parametrize(
    ("kind", "changed", "code"),
    [
        ("cell_meters", {}, None),
        ("cell_meters", {"capacity_ah": 0.7}, "log.took_less"),
        ("cell_meters", {"capacity_ah": 1.1}, "log.took_more"),
        ("cell_meters", {"i_prog_a": 0.28}, "log.slower"),
        ("bench_load", {}, None),
        ("bench_load", {"capacity_ah": 0.6}, "log.holds_less"),
        ("bench_load", {"load_a": 0.085}, "log.draws_more"),
        ("bench_load", {"load_a": 0.04}, "log.draws_less"),
    ],
)
def test_what_differs_from_the_forecast_is_explained(kind, changed, code):
    chain = Chain(plan(r_prog_ohm=3000), 0)
    bench = replace(bench_of(chain), peak_a=0.0, **changed)
    seen = analyse(simulated_run(kind, bench, Meter(seed=6)))
    told = differences(seen, predicted(chain, seen.kind))
    assert [finding.code for finding in told] == ([code] if code else [])


def test_too_few_rows_are_refused():
    with pytest.raises(TooShort, match="at least 5"):
        log_of(*(np.zeros(3) for _ in range(3)))


# No false alarms: what a sound bench shows ---------------------------------------------------------------------------


def run_of(amps, step_s):
    """A run-down whose volts fall with the charge taken out."""
    q = np.cumsum(amps)
    return log_of(np.arange(len(amps)) * step_s, 4.15 - q / q[-1] - 0.1 * amps, amps)


def test_a_zero_that_flickers_and_a_chargers_own_current_are_no_load_on_the_cell():
    log, chance = charge_log(Bench(), Meter(seed=3)), np.random.default_rng(1)
    end = np.flatnonzero(log.amps > 0.03)[-1] + 1
    flickers = log.amps.copy()
    flickers[end:] = np.abs(chance.normal(0, 0.003, len(flickers) - end))
    assert analyse(log_of(log.time_s, log.volts, flickers), plan_a=PLAN_A).findings == ()
    small = charge_log(Bench(capacity_ah=0.04, i_prog_a=0.02, r_ohm=1.2), Meter(seed=3))
    seen = analyse(log_of(small.time_s, small.volts, small.amps + 0.002))  # 2 mA for itself
    assert "log.never_ends" not in {finding.code for finding in seen.findings}


def test_a_gadget_that_sleeps_or_is_switched_off_has_no_weak_joint():
    t = np.arange(0, 36_000, 10.0)
    pulses = run_of(np.where(t % 600 < 60, 0.2, 0.0005), 10)
    assert "log.interrupted" not in {finding.code for finding in analyse(pulses).findings}
    t = np.arange(0, 20 * 3600, 30.0)
    night = run_of(np.where((t > 6 * 3600) & (t < 14 * 3600), 0.0, 0.06), 30)
    assert "log.interrupted" not in {finding.code for finding in analyse(night).findings}
    amps = np.full(len(t), 0.06)
    amps[[300, 311, 700]] = 0  # half a minute each, now and then
    assert "log.interrupted" in {finding.code for finding in analyse(run_of(amps, 30)).findings}
