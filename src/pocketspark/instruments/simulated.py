"""A simulated bench: a cell, a charger, a meter whose readings wander as real ones do, and the faults makers meet."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.nouns import Shaper
from pocketspark.core.physics.load import NO_LOAD, Load
from pocketspark.core.physics.ocv import CURVES, Floats, OcvCurve
from pocketspark.core.physics.running import CellGroup, ChargerSetting, charge, run_down
from pocketspark.core.physics.shaping import shaping_of

Fault = Literal[
    "worn_cell", "hot_box", "load_left_on", "pad_starts_and_stops", "wrong_resistor", "warm_cell", "over_charge"
]

FAULTS: Mapping[Fault, tuple[str, str]] = {
    "worn_cell": ("log.long_tail", "a worn cell or thin wires stretch the tail"),
    "hot_box": ("log.folds_back", "the chip holds itself back in a hot closed box"),
    "load_left_on": ("log.never_ends", "a load left on the cell hides the end"),
    "pad_starts_and_stops": ("log.interrupted", "a pad charger that starts and stops"),
    "wrong_resistor": ("log.plateau_off", "another resistor than the planned one is fitted"),
    "warm_cell": ("log.too_warm", "the cell gets too warm"),
    "over_charge": ("log.over_voltage", "the charger's float voltage is too high"),
}


@dataclass(frozen=True)
class Meter:
    """Noise and offset of a cheap in-line meter: one standard deviation each, and how often it writes."""

    step_s: float = 10.0
    noise_v: float = 0.002
    noise_a: float = 0.0015
    gain_off: float = 0.003
    seed: int = 1


@dataclass(frozen=True)
class Bench:
    """What is on the bench."""

    capacity_ah: float = 0.9
    r_ohm: float = 0.12
    program_a: float = 0.4
    float_v: float = 4.20
    curve: OcvCurve = CURVES["li_4v20"]

    @property
    def group(self) -> CellGroup:
        return CellGroup(self.curve, self.capacity_ah, self.r_ohm)

    def with_fault(self, fault: Fault | None) -> "Bench":
        if fault == "worn_cell":
            return replace(self, r_ohm=self.r_ohm * 8)
        if fault == "wrong_resistor":
            return replace(self, program_a=self.program_a * 0.6)
        if fault == "over_charge":
            return replace(self, float_v=self.float_v + 0.08)
        return self


def charge_log(bench: Bench, meter: Meter, fault: Fault | None = None, from_soc: float = 0.02) -> Log:
    """A charge from nearly empty to its end and ten minutes more, or two hours into a tail that never ends."""
    bench = bench.with_fault(fault)
    burn_w = 0.35 if fault == "hot_box" else np.inf
    load = Load(steady_a=bench.program_a * 0.3) if fault == "load_left_on" else NO_LOAD
    setting = ChargerSetting(bench.program_a, float_v=bench.float_v, burn_w=burn_w, cable_ohm=0.1)
    group = bench.group
    if fault == "over_charge":
        top = OcvCurve(np.append(bench.curve.soc, 1.05), np.append(bench.curve.volts, bench.float_v + 0.05))
        group = CellGroup(top, bench.capacity_ah, bench.r_ohm)
    run = charge(group, setting, load, from_soc=from_soc)
    hours, cell_v, cell_a = (np.asarray(column).ravel() for column in (run.time_h, run.cell_v, run.charger_a))
    keep = np.concatenate([[True], np.diff(hours) > 1e-9])
    hours, cell_v, cell_a = hours[keep], cell_v[keep], cell_a[keep]
    ends = not bool(run.never_ends.flat[0])
    after_h = 1 / 6 if ends else 2.0
    time_h = np.arange(0, hours[-1] + after_h, meter.step_s / 3600)
    volts, amps = np.interp(time_h, hours, cell_v), np.interp(time_h, hours, cell_a)
    past = time_h > hours[-1]
    rest_v = float(np.interp(1.0, [0, 1], [0, cell_v[-1] - cell_a[-1] * bench.r_ohm]))
    amps[past] = 0.0 if ends else float(load.steady_a) + 0.002
    volts[past] = rest_v if ends else bench.float_v
    if fault == "pad_starts_and_stops":
        _stop_now_and_then(time_h, volts, amps, bench, meter)
    celsius = 24 + (24 if fault == "warm_cell" else 7) * amps / max(bench.program_a, 1e-9)
    return _metered(time_h * 3600, volts, amps, celsius, meter)


def _stop_now_and_then(time_h: Floats, volts: Floats, amps: Floats, bench: Bench, meter: Meter) -> None:
    """Half a minute to two without current, some ten times."""
    rng = np.random.default_rng(meter.seed + 1000)
    for start in rng.uniform(0.05, 0.6 * time_h[-1], 10):
        off = (time_h >= start) & (time_h < start + rng.uniform(40, 120) / 3600)
        volts[off] -= amps[off] * bench.r_ohm
        amps[off] = 0.0


def run_down_log(bench: Bench, meter: Meter, load_a: float = 0.15, pulse_a: float = 0.0) -> Log:
    """A run-down from full to 3.0 V, with a heavier pulse for a minute every half hour where `pulse_a` is given."""
    load = Load(steady_a=load_a)
    run = run_down(
        bench.group, 0.0, shaping_of(Shaper()), load, v_run_min=0.5, cell_cuts={"cell": 3.0}, full_v=bench.float_v
    )
    hours, soc = np.asarray(run.time_h).ravel(), np.asarray(run.soc).ravel()
    time_h = np.arange(0, hours[-1], meter.step_s / 3600)
    amps = np.full_like(time_h, load_a)
    if pulse_a:
        amps[(time_h * 2) % 1 < 1 / 30] = pulse_a
    moved = np.concatenate([[0.0], np.cumsum(np.diff(time_h) * (amps[1:] + amps[:-1]) / 2)])
    at = soc[0] - moved / bench.capacity_ah
    volts = bench.curve.at(at) - amps * bench.r_ohm
    running = volts >= 3.0 - (pulse_a - load_a if pulse_a else 0) * bench.r_ohm
    return _metered(time_h[running] * 3600, volts[running], amps[running], None, meter)


def _metered(time_s: Floats, volts: Floats, amps: Floats, celsius: Floats | None, meter: Meter) -> Log:
    rng = np.random.default_rng(meter.seed)
    gain_v, gain_a = 1 + rng.normal(0, meter.gain_off / 4), 1 + rng.normal(0, meter.gain_off)
    flowing = amps > 0
    seen_v = volts * gain_v + rng.normal(0, meter.noise_v, len(volts))
    seen_a = np.where(flowing, amps * gain_a + rng.normal(0, meter.noise_a, len(amps)), 0.0)
    seen_c = None if celsius is None else celsius + rng.normal(0, 0.3, len(celsius))
    return Log(time_s, seen_v, np.maximum(seen_a, 0.0), seen_c)
