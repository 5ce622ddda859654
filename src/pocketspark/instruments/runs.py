"""Whole runs of a cell that is not the planner's: a charge, a cell test, a run-down, each as a meter writes it."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.physics.ocv import Floats
from pocketspark.instruments.bench import FAULTS, Bench, Fault, InstrumentKind
from pocketspark.instruments.cell_model import SteppedCell, soc_at
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
# The charger on the bench (common practice, no source): its pass transistor, and where it begins gently.
PASS_OHM, PRECHARGE_V, PRECHARGE_SHARE, TERMINATION_SHARE = 0.35, 2.9, 0.1, 0.1
# Steps of a charge's time; a cell that takes less than this of its capacity an hour takes nothing more.
STEPS, RESTS_SHARE, LONGEST_H, PART_S = 2000, 0.005, 400.0, 10.0


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
    load_a = bench.i_prog_a * 0.3 if fault == "load_left_on" else 0.0
    breaks = _breaks(bench, meter) if fault == "pad_starts_and_stops" else ()
    hours, cell_v, cell_a, ends = _charge(bench, load_a, from_soc, breaks, hot=fault == "hot_box")
    time_h = np.arange(0, hours[-1] + (REST_H if ends else 2.0), meter.step_s / 3600)
    volts, amps = np.interp(time_h, hours, cell_v), np.interp(time_h, hours, cell_a)
    past = time_h > hours[-1]
    since_h = time_h[past] - hours[-1]
    if ends:
        sinks = SINKS_V_PER_H * since_h if fault == "self_discharge" else 0.0
        settles = SETTLES_V * (1 - np.exp(-since_h / SETTLES_H))
        amps[past], volts[past] = 0.0, cell_v[-1] - cell_a[-1] * bench.r_ohm - settles - sinks
    else:
        amps[past], volts[past] = load_a + 0.002, bench.float_v
    celsius = _warmth(time_h, amps / max(bench.i_prog_a, 1e-9), 24.0 if fault == "warm_cell" else 7.0)
    return meter.log(time_h * 3600, volts, amps, celsius, swapped=fault == "swapped_leads")


def _breaks(bench: Bench, meter: Meter) -> Sequence[tuple[float, float]]:
    """Half a minute to two without current, some ten times: from when to when, h."""
    rng = np.random.default_rng(meter.seed + 1000)
    starts = rng.uniform(0.05, 0.7 * bench.capacity_ah / bench.i_prog_a, 10)
    return [(start, start + rng.uniform(40, 120) / 3600) for start in sorted(starts.tolist())]


def _charge(
    bench: Bench, load_a: float, from_soc: float, breaks: Sequence[tuple[float, float]], *, hot: bool
) -> tuple[Floats, Floats, Floats, bool]:
    """Hours, volts and amps of the charge itself, and whether it ends."""
    burn_w = (bench.source_v - 3.7) * bench.i_prog_a * 0.67 if hot else math.inf
    charger = _Charger(bench.i_prog_a, bench.float_v, bench.source_v, bench.cable_ohm, bench.path_ohm, burn_w)
    cell = bench.cell_at(from_soc)
    step_s = max(bench.capacity_ah / bench.i_prog_a * 3600 / STEPS, 1.0)
    rows: list[tuple[float, float, float]] = []
    at_s = 0.0
    while at_s < LONGEST_H * 3600:
        paused = any(begins <= at_s / 3600 < ends for begins, ends in breaks)
        current_a = 0.0 if paused else charger.current_into(cell, load_a)
        cell_v = cell.source_v + (current_a - load_a) * cell.ohmic_ohm
        rows.append((at_s / 3600, cell_v, current_a))
        at_float = cell_v + (current_a - load_a) * bench.path_ohm >= charger.float_v - 1e-4
        if at_float and current_a < bench.i_prog_a * TERMINATION_SHARE:
            return *_columns(rows), True
        if at_float and current_a - load_a < bench.capacity_ah * RESTS_SHARE:
            return *_columns(rows), False
        cell.step(current_a - load_a, step_s)
        at_s += step_s
    return *_columns(rows), False


@dataclass(frozen=True)
class _Charger:
    """A linear charger as it is on the bench."""

    i_prog_a: float
    float_v: float
    source_v: float
    cable_ohm: float
    path_ohm: float
    burn_w: float

    def current_into(self, cell: SteppedCell, load_a: float) -> float:
        """Amps out of the charger: the least that its setting, its end voltage, its source and its heat allow."""
        ohmic = cell.ohmic_ohm + self.path_ohm
        set_a = self.i_prog_a * (PRECHARGE_SHARE if cell.source_v < PRECHARGE_V else 1.0)
        at_float_a = (self.float_v - cell.source_v) / ohmic + load_a
        left_a = (self.source_v - cell.source_v + load_a * ohmic) / (PASS_OHM + self.cable_ohm + ohmic)
        current_a = max(min(set_a, at_float_a, left_a), 0.0)
        over_v = self.source_v - cell.source_v - (current_a - load_a) * ohmic - current_a * self.cable_ohm
        if over_v * current_a > self.burn_w:
            current_a = self.burn_w / over_v
        return current_a


def _columns(rows: Sequence[tuple[float, float, float]]) -> tuple[Floats, Floats, Floats]:
    hours, volts, amps = np.array(rows, dtype=float).T
    return hours, volts, amps


def _warmth(time_h: Floats, load_share: Floats, rise_c: float) -> Floats:
    """Temperature of the cell: it follows what flows as a body of its size does, in some ten minutes."""
    step = 1 - np.exp(-np.diff(time_h, prepend=time_h[0]) / WARMS_H)
    celsius = np.empty_like(time_h)
    now = ROOM_C
    for index, (share, part) in enumerate(zip(load_share.tolist(), step.tolist(), strict=True)):
        now += part * (ROOM_C + rise_c * share - now)
        celsius[index] = now
    return celsius


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
    time_h, volts, amps = _discharged(bench, load_a, pulse_a, meter.step_s)
    if fault == "protection_trips":
        volts, amps = _trips(volts, amps, pulse_a, load_a)
    return meter.log(time_h * 3600, volts, amps, None, swapped=fault == "swapped_leads")


def _discharged(bench: Bench, load_a: float, pulse_a: float, step_s: float) -> tuple[Floats, Floats, Floats]:
    """Hours, volts and amps down to empty, where a heavier pulse may pull it under for a moment."""
    cell = bench.cell_at(soc_at(bench.cell_class, bench.float_v))
    rows: list[tuple[float, float, float]] = []
    parts = max(round(step_s / PART_S), 1)
    while len(rows) < LONGEST_H * 3600 / step_s:
        at_h = len(rows) * step_s / 3600
        now_a = pulse_a if pulse_a and at_h * 2 % 1 < 1 / 30 else load_a
        cell_v = cell.source_v - now_a * cell.ohmic_ohm
        if cell_v < bench.empty_v - max(now_a - load_a, 0.0) * bench.r_ohm:
            break
        rows.append((at_h, cell_v, now_a))
        for _ in range(parts):
            cell.step(-now_a, step_s / parts)
    return _columns(rows)


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
