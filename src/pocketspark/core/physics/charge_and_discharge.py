"""Runs along the open-circuit curve: charging up it, discharging down it, with the time each stretch takes.

No time loop. Charger and load are explicit in the terminal voltage, so every event (cut-off, float, end current) has
an explicit place on the curve. Between knots the curve is straight, and the time is charge over the logarithmic mean
of the two currents: exact for a constant current, for a resistance, and for the tail at constant voltage.

Every figure may be a number or an array; a batch has a trailing axis of length one, so 2,000 scenarios are one call.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

import numpy as np

from pocketspark.core.physics.load import NO_LOAD, Draws, Load
from pocketspark.core.physics.ocv import Floats, Numbers, OcvCurve
from pocketspark.core.physics.regulator_laws import RegulatorLaw

GADGET = "gadget"
_SMALLEST_OHM = 1e-6


# Of its resistance at half charge, what a cell has with so much charge left: the mean of six published cells of the
# 4.2 V class in PyBaMM's single particle model (named in core/chain/charging.py), at 0.25C to 1C.
CHARGE_LEFT, RESISTANCE_THEN = (0.0, 0.05, 0.10, 0.20, 0.30), (2.6, 1.85, 1.35, 1.10, 1.0)
# Closer than this two open-circuit voltages are one; so many steps come there at most.
_SAME_V, _STEPS = 2e-5, 5


@dataclass(frozen=True)
class CellGroup:
    """One cell, or like cells in parallel, as a source: curve, charge and series resistance of the whole group.

    `rises`: that resistance is the one with charge left, and grows as the cell empties.
    """

    curve: OcvCurve
    capacity_ah: Numbers
    r_ohm: Numbers
    rises: bool = False

    def r_at(self, ocv_v: Numbers) -> Numbers:
        """Its resistance where it stands at this open-circuit voltage."""
        if not self.rises:
            return self.r_ohm
        left = self.curve.soc_at(np.where(np.isfinite(ocv_v), ocv_v, self.curve.volts[-1]))
        return np.asarray(self.r_ohm) * np.interp(left, CHARGE_LEFT, RESISTANCE_THEN)

    def settled(self, ocv_by: Callable[[Numbers], Floats], matters_over_v: Numbers = -np.inf) -> Floats:
        """The open-circuit voltage that `ocv_by` its resistance gives, with the resistance that it has just there.

        A higher voltage means less resistance, and that a lower voltage, so there is one such place: by Steffensen's
        steps. Inf where none carries it. What cannot come over `matters_over_v` is left as it is.
        """
        least = np.asarray(ocv_by(self.r_ohm), dtype=float)
        if not self.rises:
            return least
        first = ocv_by(self.r_at(least))
        low, high = least, np.minimum(first, self.curve.volts[-1])
        if np.all(~(high - low > _SAME_V) | (first < matters_over_v)):
            return least
        ocv_v = high
        for _ in range(_STEPS):
            once = ocv_by(self.r_at(ocv_v))
            if np.all(~(np.abs(once - ocv_v) > _SAME_V)):
                break
            twice = ocv_by(self.r_at(once))
            bend = twice - 2 * once + ocv_v
            with np.errstate(invalid="ignore", divide="ignore"):
                there = np.where(np.abs(bend) > 1e-12, ocv_v - (once - ocv_v) ** 2 / bend, twice)
            ocv_v = np.clip(there, low, high)
        return np.where(np.isfinite(least), ocv_v, least)


# Running down --------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Discharge:
    """A discharge, knot by knot (last axis). Voltages in V, currents in A, times in h, `soc` from 1 down."""

    time_h: Floats
    soc: Floats
    cell_v: Floats
    gadget_v: Floats
    cell_a: Floats
    capacity_ah: Floats
    stop: Floats  # index into stop_names
    stop_names: tuple[str, ...]

    @property
    def hours(self) -> Floats:
        return self.time_h[..., -1]

    @property
    def charge_ah(self) -> Floats:
        return (self.soc[..., 0] - self.soc[..., -1]) * self.capacity_ah

    @property
    def stopped_by(self) -> str:
        """Who ended a single run."""
        return self.stop_names[int(self.stop.flat[0])]

    def rows(self) -> Iterator["Discharge"]:
        """Each run of many by itself."""
        columns = np.broadcast_arrays(self.time_h, self.soc, self.cell_v, self.gadget_v, self.cell_a)
        for time_h, soc, cell_v, gadget_v, cell_a, stop in zip(*columns, self.stop, strict=True):
            yield Discharge(time_h, soc, cell_v, gadget_v, cell_a, self.capacity_ah, np.asarray(stop), self.stop_names)


def discharge(
    group: CellGroup,
    path_ohm: Numbers,
    regulator_law: RegulatorLaw,
    load: Load,
    *,
    v_run_min: float,
    cell_cuts: Mapping[str, Numbers],
    full_v: Numbers,
) -> Discharge:
    """Discharge from rest at `full_v` to the first of: gadget browns out, or one of the cuts at the cell's terminals.

    `path_ohm` is everything between cell and regulator: protection transistors and wires.
    """
    stops = {GADGET: group.settled(lambda r_ohm: regulator_law.ocv_for(v_run_min, r_ohm + path_ohm, load))}
    for name, cut_v in cell_cuts.items():
        # At the cut the cell's own terminals hold cut_v: solve the rest of the circuit from there.
        current = regulator_law.operating_point(cut_v, path_ohm, load).cell_a
        at_cut = group.settled(partial(_behind, cut_v, current), matters_over_v=stops[GADGET])
        if np.any(np.isnan(at_cut)):
            # A load that cannot be carried there ends where it pulls its source down.
            collapse = _collapse_ocv(group, path_ohm, regulator_law, load, cut_v, full_v)
            at_cut = np.where(np.isnan(at_cut), collapse, at_cut)
        stops[name] = at_cut
    ends = np.stack(np.broadcast_arrays(*(np.atleast_1d(end) for end in stops.values())))
    end_ocv = np.clip(ends.max(axis=0), group.curve.volts[0], full_v)

    knees = regulator_law.breakpoints(group.r_ohm + path_ohm, load)
    if group.rises:
        knees = [knee for by in knees for knee in regulator_law.breakpoints(group.r_at(by) + path_ohm, load)]
    ocv_v = _grid(group.curve, end_ocv, np.atleast_1d(full_v), knees)[..., ::-1]
    soc, r_ohm = group.curve.soc_at(ocv_v), group.r_at(ocv_v)
    point = regulator_law.operating_point(ocv_v, r_ohm + path_ohm, load)
    # A source that cannot carry the load at all ends before it starts: no current, no volts, no time.
    current = _or_none(point.cell_a)
    capacity = np.asarray(group.capacity_ah, dtype=float)
    return Discharge(
        time_h=_times(-np.diff(soc) * capacity, current),
        soc=soc,
        cell_v=ocv_v - r_ohm * current,
        gadget_v=_or_none(point.gadget_v),
        cell_a=current,
        capacity_ah=capacity.reshape(capacity.shape[:-1]),
        stop=ends.argmax(axis=0)[..., 0].astype(float),
        stop_names=tuple(stops),
    )


def _behind(terminal_v: Numbers, current_a: Numbers, r_ohm: Numbers) -> Floats:
    return np.asarray(terminal_v + r_ohm * current_a)


def _collapse_ocv(
    group: CellGroup, path_ohm: Numbers, regulator_law: RegulatorLaw, load: Load, low_v: Numbers, full_v: Numbers
) -> Floats:
    """The lowest source voltage that still carries the load, by halves; inf where even a full cell does not."""

    def carried(ocv_v: Floats) -> "np.typing.NDArray[np.bool_]":
        return np.isfinite(regulator_law.operating_point(ocv_v, group.r_at(ocv_v) + path_ohm, load).cell_a)

    shape = np.broadcast(np.asarray(group.r_ohm + path_ohm), np.asarray(load.current(full_v))).shape
    low, high = np.full(shape, low_v), np.full(shape, full_v)
    never = np.logical_not(carried(high))
    for _ in range(40):
        middle = (low + high) / 2
        holds = carried(middle)
        low, high = np.where(holds, low, middle), np.where(holds, middle, high)
    return np.where(never, np.inf, high)


# Charging up ---------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class ChargerSetting:
    """A linear charger as set: its currents, its voltages, and the watts it may burn before it folds back."""

    i_prog_a: Numbers
    float_v: float = 4.20
    termination_share: float = 0.10
    precharge_v: float = 2.9
    precharge_share: float = 0.10
    pass_ohm: Numbers = 0.35
    burn_w: Numbers = np.inf
    source_v: Numbers = 5.0
    cable_ohm: Numbers = 0.15

    def fed_by(self, source_v: Numbers) -> "ChargerSetting":
        """The same on another source."""
        return replace(self, source_v=source_v)


@dataclass(frozen=True)
class ChargeRun:
    """A charge, knot by knot (last axis). `charger_v` and `charger_a` are at the charger's output, which feeds the cell
    through its path and whatever load hangs there."""

    time_h: Floats
    soc: Floats
    cell_v: Floats
    charger_v: Floats
    cell_a: Floats
    charger_a: Floats
    precharge_h: Floats
    cc_h: Floats
    cc_charge_share: Floats
    never_ends: Floats  # true where the load keeps the charger above its end current
    stalls: Floats  # true where the net current into the cell falls to nothing on the way

    @property
    def hours(self) -> Floats:
        """Time until the charger ends the charge; inf where it never does."""
        return np.where(self.never_ends.astype(bool) | self.stalls.astype(bool), np.inf, self.time_h[..., -1])

    @property
    def cc_share(self) -> Floats:
        """Share of the time spent at constant current."""
        with np.errstate(invalid="ignore"):
            return np.nan_to_num(self.cc_h / self.time_h[..., -1])


def charge(
    group: CellGroup,
    setting: ChargerSetting,
    load: Draws = NO_LOAD,
    *,
    path_ohm: Numbers = 0.0,
    from_soc: float = 0.0,
    tail_h: Numbers = 0.0,
) -> ChargeRun:
    """Precharge, constant current, constant voltage, end. `load` hangs on the charger's output meanwhile.

    `path_ohm`: leads and protection transistors between the charger's output and the cell's terminals.
    `tail_h`: by so much the time at constant voltage is longer than a resistance alone makes it.
    """
    r_ohm, curve = np.maximum(group.r_ohm + path_ohm, _SMALLEST_OHM), group.curve
    float_load = load.current(setting.float_v)
    end_a = setting.i_prog_a * setting.termination_share
    precharge_a = setting.i_prog_a * setting.precharge_share
    precharge_load = load.current(setting.precharge_v)

    start = curve.at(from_soc)
    end_ocv = np.clip(setting.float_v - r_ohm * (end_a - float_load), start, curve.volts[-1])
    flat_ohm = np.maximum(group.r_at(setting.precharge_v) + path_ohm, _SMALLEST_OHM)
    precharge_ocv = setting.precharge_v - flat_ohm * (precharge_a - precharge_load)
    cv_ocv = _constant_voltage_from(setting, r_ohm, float_load)
    breakpoints = [precharge_ocv, np.nextafter(precharge_ocv, 9), cv_ocv, _fold_back_until(setting, r_ohm, float_load)]

    ocv_v = _grid(curve, np.atleast_1d(start), np.atleast_1d(end_ocv), breakpoints)
    soc, cell_ohm = curve.soc_at(ocv_v), group.r_at(ocv_v)
    r_ohm = np.maximum(cell_ohm + path_ohm, _SMALLEST_OHM)
    cell_a = _cell_current(ocv_v, setting, r_ohm, load)
    cell_a = np.where(ocv_v <= precharge_ocv, np.minimum(cell_a, precharge_a - precharge_load), cell_a)
    charger_v = ocv_v + r_ohm * cell_a
    moved = np.diff(soc)
    stalls = ((cell_a[..., :-1] <= 0) & (moved > 0)).any(axis=-1)
    time_h = _times(moved * np.asarray(group.capacity_ah), np.maximum(cell_a, 1e-12))

    middle = (ocv_v[..., 1:] + ocv_v[..., :-1]) / 2
    in_cc = (middle > precharge_ocv) & (middle < cv_ocv)
    spans = _with_tail(np.diff(time_h), middle >= cv_ocv, tail_h)
    time_h = np.concatenate([np.zeros_like(time_h[..., :1]), np.cumsum(spans, axis=-1)], axis=-1)
    return ChargeRun(
        time_h=time_h,
        soc=soc,
        cell_v=ocv_v + cell_ohm * cell_a,
        charger_v=charger_v,
        cell_a=cell_a,
        charger_a=cell_a + load.current(charger_v),
        precharge_h=np.where(middle <= precharge_ocv, spans, 0).sum(axis=-1),
        cc_h=np.where(in_cc, spans, 0).sum(axis=-1),
        cc_charge_share=np.where(in_cc, moved, 0).sum(axis=-1) / np.maximum(moved.sum(axis=-1), 1e-12),
        never_ends=np.broadcast_to(float_load >= end_a, ocv_v.shape)[..., 0].astype(float),
        stalls=stalls.astype(float),
    )


def _with_tail(spans: Floats, at_constant_v: "np.typing.NDArray[np.bool_]", tail_h: Numbers) -> Floats:
    """The spans at constant voltage stretched alike, so that together they take so much longer."""
    if np.all(np.asarray(tail_h) == 0):
        return spans
    held_h = np.where(at_constant_v, spans, 0).sum(axis=-1, keepdims=True)
    stretched = spans * (1 + tail_h / np.maximum(held_h, 1e-9))
    return np.where(at_constant_v & (held_h > 1e-6), stretched, spans)


def charging_now(ocv_v: Numbers, setting: ChargerSetting, r_ohm: Numbers, load: Draws) -> tuple[Floats, Floats]:
    """Volts at the charger's output and amperes out of it at one moment, or at many, by the open-circuit voltage.

    `r_ohm`: everything between that output and the cell's own voltage.
    """
    r_ohm = np.maximum(r_ohm, _SMALLEST_OHM)
    ocv_v = np.asarray(ocv_v, dtype=float)
    cell_a = _cell_current(ocv_v, setting, r_ohm, load, rounds=_ROUNDS_AT_ONE_MOMENT)
    precharge_a = setting.i_prog_a * setting.precharge_share - load.current(setting.precharge_v)
    cell_a = np.where(ocv_v <= setting.precharge_v - r_ohm * precharge_a, np.minimum(cell_a, precharge_a), cell_a)
    # A charger takes nothing back: over its end voltage the cell alone carries the load.
    if np.any(cell_a < 0):
        alone_v = ocv_v
        for _ in range(_ROUNDS_AT_ONE_MOMENT):
            alone_v = ocv_v - r_ohm * load.current(alone_v)
        cell_a = np.where(cell_a < 0, np.maximum(cell_a, (alone_v - ocv_v) / r_ohm), cell_a)
    charger_v = ocv_v + r_ohm * cell_a
    return charger_v, np.maximum(cell_a + load.current(charger_v), 0.0)


# A constant power that all but drags the cell down comes to rest slowly; three are enough for a whole run's mean.
_ROUNDS_AT_ONE_MOMENT = 30
# No meter shows less.
SETTLED_A = 1e-9


def _cell_current(ocv_v: Floats, setting: ChargerSetting, r_ohm: Numbers, load: Draws, rounds: int = 3) -> Floats:
    """Current into the cell at each ocv_v: the least of what each limit alone would give. Each is closed form.

    The load moves a little with the terminal voltage, so it is put back in `rounds` times.
    """
    series = setting.cable_ohm + setting.pass_ohm
    at_float = (setting.float_v - ocv_v) / r_ohm
    cell_a = np.zeros_like(ocv_v)
    for _ in range(rounds):
        before_a = cell_a
        load_a = load.current(ocv_v + r_ohm * cell_a)
        programmed = setting.i_prog_a - load_a
        dropped_out = (setting.source_v - ocv_v - load_a * series) / (series + r_ohm)
        folded = _folded_current(ocv_v, setting, r_ohm, load_a) - load_a
        cell_a = np.minimum(np.minimum(programmed, at_float), np.minimum(dropped_out, folded))
        if np.max(np.abs(cell_a - before_a), initial=0.0) < SETTLED_A:
            break
    return cell_a


def _folded_current(ocv_v: Floats, setting: ChargerSetting, r_ohm: Numbers, load_a: Floats) -> Floats:
    """Charger current x at which it burns `burn_w`: x (V_source - ocv_v + r load - x (cable + r)) = burn_w."""
    if np.all(np.isinf(setting.burn_w)):
        return np.full_like(ocv_v, np.inf)
    headroom = setting.source_v - ocv_v + r_ohm * load_a
    rest = headroom**2 - 4 * (setting.cable_ohm + r_ohm) * setting.burn_w
    with np.errstate(invalid="ignore"):
        current = 2 * setting.burn_w / (headroom + np.sqrt(rest))
    # Where there is no root, or no headroom, the chip can never get that hot.
    return np.where((rest < 0) | (headroom <= 0), np.inf, current)


def _constant_voltage_from(setting: ChargerSetting, r_ohm: Floats, load_a: Floats) -> Floats:
    """The ocv_v from which the float voltage holds: reached at the set current, or in drop-out."""
    series = np.maximum(setting.cable_ohm + setting.pass_ohm, _SMALLEST_OHM)
    programmed = setting.float_v - r_ohm * (setting.i_prog_a - load_a)
    dropped_out = setting.float_v + r_ohm * (setting.float_v - setting.source_v + load_a * series) / series
    return np.maximum(programmed, dropped_out)


def _fold_back_until(setting: ChargerSetting, r_ohm: Floats, load_a: Floats) -> Floats:
    """The ocv_v above which the set current no longer overheats the chip."""
    if np.all(np.isinf(setting.burn_w)):
        return np.asarray(0.0)
    i_prog_a = setting.i_prog_a
    return np.asarray(
        setting.source_v - i_prog_a * setting.cable_ohm - r_ohm * (i_prog_a - load_a) - setting.burn_w / i_prog_a
    )


# Both ----------------------------------------------------------------------------------------------------------


def _grid(curve: OcvCurve, low: Floats, high: Floats, breakpoints: Sequence[Numbers]) -> Floats:
    """All knots between two ocvs_v, rising; those outside collapse onto the ends and take no time."""
    columns = [np.atleast_1d(breakpoint) for breakpoint in breakpoints]
    shape = np.broadcast_shapes(low.shape, high.shape, *(column.shape for column in columns))[:-1]
    parts = [np.broadcast_to(part, (*shape, part.shape[-1])) for part in (curve.volts, *columns, low, high)]
    return np.sort(np.clip(np.concatenate(parts, axis=-1), low, high), axis=-1)


def _or_none(values: Floats) -> Floats:
    """None of it, 0, where a source could not carry its load. (numpy's nan_to_num does more, and takes its time.)"""
    return np.where(np.isnan(values), 0.0, values)


def _times(charge_ah: Floats, current_a: Floats) -> Floats:
    """Cumulated hours for moving each stretch of charge while the current goes from one knot's to the next's."""
    with np.errstate(divide="ignore", invalid="ignore"):
        spans = np.where(charge_ah > 0, charge_ah / _log_mean(current_a[..., :-1], current_a[..., 1:]), 0.0)
    return np.concatenate([np.zeros((*spans.shape[:-1], 1)), np.cumsum(spans, axis=-1)], axis=-1)


def _log_mean(first: Floats, second: Floats) -> Floats:
    """(y - x) / ln(y / x), and plain mean where the two are all but equal."""
    with np.errstate(divide="ignore", invalid="ignore"):
        mean = (second - first) / np.log(second / first)
    return np.where(np.abs(second - first) <= 1e-7 * np.abs(first), (first + second) / 2, mean)
