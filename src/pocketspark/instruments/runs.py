"""Whole runs, from the same physics as the prediction: a charge, a cell test, a run-down, each as a meter writes it."""

from collections.abc import Mapping

import numpy as np

from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.logs.log import Log
from pocketspark.core.models import Regulator
from pocketspark.core.physics.charge_and_discharge import ChargerSetting, charge, discharge
from pocketspark.core.physics.load import NO_LOAD, Load
from pocketspark.core.physics.ocv import Floats, OcvCurve
from pocketspark.instruments.bench import FAULTS, Bench, Fault, InstrumentKind
from pocketspark.instruments.meter import Meter

INSTRUMENTS: Mapping[InstrumentKind, tuple[str, str]] = {
    "cell_meters": ("Two multimeters and a probe, at the cell", "a charge and an hour and a quarter of rest"),
    "usb_meter": ("USB meter in line", "a charge, seen from the cable"),
    "cell_tester": ("Cell tester", "a full cell at a fifth of its capacity an hour, down to empty"),
    "bench_load": ("Bench load in the gadget's place", "its current, with its peak for a minute every half hour"),
}

# A sound cell settles by this much after a charge, most of it in some ten minutes (common practice, no source).
SETTLES_V, SETTLES_H = 0.012, 0.15
REST_H = 1.25
ROOM_C, WARMS_H = 24.0, 0.17
SINKS_V_PER_H = 0.12
RETRIES = 6


def simulated_run(kind: InstrumentKind, bench: Bench, meter: Meter, fault: Fault | None = None) -> Log:
    """The run that this instrument writes. Raises ValueError where it cannot show this fault."""
    if fault is not None and kind not in FAULTS[fault].shown_by:
        raise ValueError(f"{FAULTS[fault].says}: that does not show on this instrument")
    if kind == "usb_meter":
        return _seen_from_usb(bench.with_fault(fault), charge_log(bench, meter, fault), meter)
    if kind == "cell_meters":
        return charge_log(bench, meter, fault)
    if kind == "cell_tester":
        return discharge_log(bench, meter, bench.capacity_ah / 5, fault=fault)
    return discharge_log(bench, meter, bench.load_a, pulse_a=bench.peak_a, fault=fault)


# Charge ----------------------------------------------------------------------------------------------------------


def charge_log(bench: Bench, meter: Meter, fault: Fault | None = None, from_soc: float = 0.02) -> Log:
    """A charge from nearly empty to its end and a rest, or two hours into a tail that never ends."""
    bench = bench.with_fault(fault)
    load = Load(steady_a=bench.i_prog_a * 0.3) if fault == "load_left_on" else NO_LOAD
    hours, cell_v, cell_a, ends = _charge(bench, load, from_soc, hot=fault == "hot_box", over=fault == "over_charge")
    time_h = np.arange(0, hours[-1] + (REST_H if ends else 2.0), meter.step_s / 3600)
    volts, amps = np.interp(time_h, hours, cell_v), np.interp(time_h, hours, cell_a)
    past = time_h > hours[-1]
    since_h = time_h[past] - hours[-1]
    if ends:
        sinks = SINKS_V_PER_H * since_h if fault == "self_discharge" else 0.0
        settles = SETTLES_V * (1 - np.exp(-since_h / SETTLES_H))
        amps[past], volts[past] = 0.0, cell_v[-1] - cell_a[-1] * bench.r_ohm - settles - sinks
    else:
        amps[past], volts[past] = float(load.steady_a) + 0.002, bench.float_v
    if fault == "pad_starts_and_stops":
        _stop_now_and_then(time_h, volts, amps, bench, meter)
    celsius = _warmth(time_h, amps / max(bench.i_prog_a, 1e-9), 24.0 if fault == "warm_cell" else 7.0)
    return meter.log(time_h * 3600, volts, amps, celsius, swapped=fault == "swapped_leads")


def _charge(bench: Bench, load: Load, from_soc: float, *, hot: bool, over: bool) -> tuple[Floats, Floats, Floats, bool]:
    """Hours, volts and amps of the charge itself, and whether it ends."""
    burn_w = (bench.source_v - 3.7) * bench.i_prog_a * 0.67 if hot else np.inf
    setting = ChargerSetting(
        bench.i_prog_a, bench.float_v, burn_w=burn_w, source_v=bench.source_v, cable_ohm=bench.cable_ohm
    )
    group = bench.group
    if over:
        # The curve goes on above full, for a charger that does not stop there.
        top = OcvCurve(np.append(bench.curve.soc, 1.05), np.append(bench.curve.volts, bench.float_v + 0.05))
        group = type(group)(top, bench.capacity_ah, bench.r_ohm)
    run = charge(group, setting, load, from_soc=from_soc)
    hours, cell_v, cell_a = (np.asarray(column).ravel() for column in (run.time_h, run.cell_v, run.charger_a))
    keep = np.concatenate([[True], np.diff(hours) > 1e-9])
    return hours[keep], cell_v[keep], cell_a[keep], not bool(run.never_ends.flat[0])


def _warmth(time_h: Floats, load_share: Floats, rise_c: float) -> Floats:
    """Temperature of the cell: it follows what flows as a body of its size does, in some ten minutes."""
    step = 1 - np.exp(-np.diff(time_h, prepend=time_h[0]) / WARMS_H)
    celsius = np.empty_like(time_h)
    now = ROOM_C
    for index, (share, part) in enumerate(zip(load_share.tolist(), step.tolist(), strict=True)):
        now += part * (ROOM_C + rise_c * share - now)
        celsius[index] = now
    return celsius


def _stop_now_and_then(time_h: Floats, volts: Floats, amps: Floats, bench: Bench, meter: Meter) -> None:
    """Half a minute to two without current, some ten times."""
    rng = np.random.default_rng(meter.seed + 1000)
    for start in rng.uniform(0.05, 0.6 * time_h[-1], 10):
        off = (time_h >= start) & (time_h < start + rng.uniform(40, 120) / 3600)
        volts[off] -= amps[off] * bench.r_ohm
        amps[off] = 0.0


def _seen_from_usb(bench: Bench, run: Log, meter: Meter) -> Log:
    """The same charge from the charger's end of the cable: its current, and what the cable leaves of the 5 V."""
    left_v = bench.source_v - run.amps * bench.cable_ohm
    rng = np.random.default_rng(meter.seed + 2000)
    return Log(run.time_s, left_v + rng.normal(0, meter.noise_v, len(left_v)), run.amps)


# Run-down --------------------------------------------------------------------------------------------------------


def discharge_log(
    bench: Bench, meter: Meter, load_a: float = 0.15, pulse_a: float = 0.0, fault: Fault | None = None
) -> Log:
    """From full to empty, with a heavier pulse for a minute every half hour where `pulse_a` is given."""
    load = Load(steady_a=load_a)
    run = discharge(
        bench.group,
        0.0,
        law_of_regulator(Regulator()),
        load,
        v_run_min=0.5,
        cell_cuts={"cell": bench.empty_v},
        full_v=bench.float_v,
    )
    hours, soc = np.asarray(run.time_h).ravel(), np.asarray(run.soc).ravel()
    time_h = np.arange(0, hours[-1], meter.step_s / 3600)
    amps = np.full_like(time_h, load_a)
    if pulse_a:
        amps[(time_h * 2) % 1 < 1 / 30] = pulse_a
    moved = np.concatenate([[0.0], np.cumsum(np.diff(time_h) * (amps[1:] + amps[:-1]) / 2)])
    volts = bench.curve.at(soc[0] - moved / bench.capacity_ah) - amps * bench.r_ohm
    running = volts >= bench.empty_v - (pulse_a - load_a if pulse_a else 0) * bench.r_ohm
    time_h, volts, amps = time_h[running], volts[running], amps[running]
    if fault == "protection_trips":
        volts, amps = _trips(volts, amps, pulse_a, load_a)
    return meter.log(time_h * 3600, volts, amps, None, swapped=fault == "swapped_leads")


def _trips(volts: Floats, amps: Floats, pulse_a: float, load_a: float) -> tuple[Floats, Floats]:
    """In the last third each start-up trips the protection: nothing for a while, another try, at last no more."""
    volts, amps = volts.copy(), amps.copy()
    peaks = np.flatnonzero((amps[1:] >= pulse_a) & (amps[:-1] < pulse_a)) + 1
    late = peaks[peaks > len(amps) * 0.6]
    if pulse_a <= load_a or len(late) == 0:
        return volts, amps
    for again in range(RETRIES):
        start = int(late[0]) + again * 6
        volts[start + 1 : start + 6], amps[start + 1 : start + 6] = 0.0, 0.0
        amps[start] = pulse_a
    last = int(late[0]) + RETRIES * 6
    volts[last:], amps[last:] = 0.0, 0.0
    return volts, amps
