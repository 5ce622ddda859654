"""What the gadget sees, and what the cell gives, through each kind of regulator.

Every regulator answers two questions about a source of `ocv_v` volts behind `r_ohm`:
`operating_point`: at which gadget voltage and cell current does it come to rest?
`ocv_for`: which ocv_v just gives the gadget this voltage?  (inf: it never does)
Both are closed form (the diode iterates a few times), so arrays go through as easily as numbers.
Which kind has which law is said in `kinds/regulators.py`.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import NamedTuple, Protocol

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models.board import Regulator
from pocketspark.core.physics.load import NO_LOAD, Load, collapse_ocv, collapse_v, terminal_voltage, volts_at_current
from pocketspark.core.physics.ocv import Floats, Numbers

# kT/q at 27 C, where small diodes are specified.
THERMAL_V = 0.025865
# Drop of the synchronous or catch diode when a boost passes its input straight through (common practice).
PASS_THROUGH_V = 0.3


class OperatingPoint(NamedTuple):
    """Where source, regulator and gadget come to rest. NaN where the source cannot carry the load."""

    gadget_v: Floats
    cell_a: Floats


class RegulatorLaw(Protocol):
    """One kind of regulator at work."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint: ...

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats: ...

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        """The ocvs_v where the behaviour changes its law."""
        ...


@dataclass(frozen=True)
class Straight:
    """Nothing between protection and gadget."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        volts = terminal_voltage(ocv_v, r_ohm, load)
        return OperatingPoint(volts, load.current(volts))

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        # Under the volts of its collapse a constant power has a second point of rest, at which nothing ever stays.
        held_v = np.maximum(gadget_v, collapse_v(r_ohm, load))
        return np.asarray(held_v + r_ohm * load.current(held_v))

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []


# Of putting a junction's voltage back in: each is worth about two digits.
ROUNDS = 6


@dataclass(frozen=True)
class SeriesDiode:
    """A diode after Shockley with its series resistance: Vf = N Vt ln(1 + I/Is) + I Rs."""

    regulator: Regulator

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        # The junction voltage hardly moves with the current, so putting it back in converges by
        # about two digits a round.
        r_all = r_ohm + self.regulator.rs_ohm
        junction_v: Numbers = 0.3
        for _ in range(ROUNDS):
            volts = terminal_voltage(ocv_v - junction_v, r_all, load)
            junction_v = self._junction_v(load.current(volts))
        return OperatingPoint(volts, load.current(volts))

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        current = load.current(gadget_v)
        return gadget_v + self._junction_v(current) + (r_ohm + self.regulator.rs_ohm) * current

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []

    def _junction_v(self, current: Numbers) -> Floats:
        return junction_v(self.regulator, current)


def junction_v(diode: Regulator, current: Numbers) -> Floats:
    """Shockley: N Vt ln(1 + I / Is)."""
    return np.asarray(diode.n * THERMAL_V * np.log1p(current / diode.is_a))


@dataclass(frozen=True)
class LinearRegulator:
    """Holds its setting by burning the rest; below that it is a resistor with a fixed headroom on top."""

    regulator: Regulator

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        s, held_v = self.regulator, _held_v(self.regulator, load)
        dropped_v = terminal_voltage(ocv_v - s.drop_v - r_ohm * s.iq_a, r_ohm + s.drop_ohm, load)
        regulating = np.asarray(ocv_v) >= self._dropped_out_at(held_v, r_ohm, load)
        gadget_v = np.where(regulating, held_v, dropped_v)
        return OperatingPoint(gadget_v, load.current(gadget_v) + s.iq_a)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return _reached(gadget_v, self.regulator, load, self._dropped_out_at(gadget_v, r_ohm, load))

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return [_or_never(self._dropped_out_at(_held_v(self.regulator, load), r_ohm, load))]

    def _dropped_out_at(self, gadget_v: Numbers, r_ohm: Numbers, load: Load) -> Floats:
        """The source voltage that gives the gadget just so much with nothing left to burn."""
        s = self.regulator
        current = load.current(gadget_v)
        return np.asarray(gadget_v + s.drop_v + s.drop_ohm * current + r_ohm * (current + s.iq_a))


@dataclass(frozen=True)
class BehindDiode:
    """Another law with a diode before it: a blocking diode in the run path, or the cell's half of a selector."""

    diode: Regulator
    inner: RegulatorLaw

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        junction_v: Numbers = 0.3
        for _ in range(ROUNDS):
            point = self.inner.operating_point(ocv_v - junction_v, r_ohm + self.diode.rs_ohm, load)
            junction_v = self._junction_v(point.cell_a)
        return point

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return self._before_diode(self.inner.ocv_for(gadget_v, r_ohm + self.diode.rs_ohm, load), r_ohm, load)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        breakpoints = self.inner.breakpoints(r_ohm + self.diode.rs_ohm, load)
        return [self._before_diode(breakpoint, r_ohm, load) for breakpoint in breakpoints]

    def _before_diode(self, ocv_v: Floats, r_ohm: Numbers, load: Load) -> Floats:
        reachable = np.where(np.isfinite(ocv_v), ocv_v, 0.0)
        current = self.inner.operating_point(reachable, r_ohm + self.diode.rs_ohm, load).cell_a
        return np.asarray(ocv_v + np.nan_to_num(self._junction_v(current)))

    def _junction_v(self, current: Numbers) -> Floats:
        return junction_v(self.diode, current)


def behind_diodes(count: int, diode: Regulator, law: RegulatorLaw) -> RegulatorLaw:
    """The same law with so many diodes before it."""
    for _ in range(count):
        law = BehindDiode(diode, law)
    return law


@dataclass(frozen=True)
class Converter:
    """A switching converter: constant power from the cell, so its current grows as the cell empties.

    It burns up to `fixed_loss_w` for its switching (less when it skips pulses under a light load), and the drop over
    its `input_ohm` on top: efficiency falls at light loads and at low inputs.
    """

    regulator: Regulator

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        drawn = self._input_load(load)
        v_in = terminal_voltage(ocv_v, r_ohm + self.regulator.input_ohm, drawn)
        held_v = np.where(np.isnan(v_in), np.nan, _held_v(self.regulator, load))
        return OperatingPoint(held_v, drawn.current(v_in))

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return _reached(gadget_v, self.regulator, load, self._starts_at(r_ohm, load))

    def _starts_at(self, r_ohm: Numbers, load: Load) -> Floats:
        """The source voltage from which it works."""
        s, drawn = self.regulator, self._input_load(load)
        before = r_ohm + s.input_ohm
        at_input = s.v_in_min + before * drawn.current(s.v_in_min)
        return np.maximum(at_input, collapse_ocv(before, drawn))

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []

    def _input_load(self, load: Load) -> Load:
        s, held_v = self.regulator, _held_v(self.regulator, load)
        out_w = held_v * load.current(held_v)
        # Pulse skipping: the loss falls with the load once the load is no more than the loss itself.
        switching_w = s.fixed_loss_w * out_w / np.maximum(out_w + s.fixed_loss_w, 1e-12)
        return Load(steady_a=s.iq_a, power_w=out_w / s.efficiency + switching_w)


@dataclass(frozen=True)
class StepDown(Converter):
    """A buck: near its input it lets through like a regulator that has dropped out."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        s, held_v = self.regulator, _held_v(self.regulator, load)
        held, drawn = super().operating_point(ocv_v, r_ohm, load), self._input_load(load)
        v_in = terminal_voltage(ocv_v, r_ohm + s.input_ohm, drawn)
        other = _as_resistor(s).operating_point(ocv_v, r_ohm, load)
        return _either(v_in >= held_v + s.drop_ohm * load.current(held_v), held, other)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return _as_resistor(self.regulator).ocv_for(gadget_v, r_ohm, load)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        held_v = _held_v(self.regulator, load)
        v_in = held_v + self.regulator.drop_ohm * load.current(held_v)
        return [_or_never(v_in + (r_ohm + self.regulator.input_ohm) * self._input_load(load).current(v_in))]


@dataclass(frozen=True)
class StepUp(Converter):
    """A boost: it holds its setting until its input, less the diode on the way, is above that, and then passes it."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        passing = self._passes(ocv_v, r_ohm, load)
        # Where it cannot carry its load it has still not begun to pass its input through.
        passes = passing.gadget_v > _held_v(self.regulator, load)
        return _either(~passes, super().operating_point(ocv_v, r_ohm, load), passing)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        passing, held_v = self._passes_at(gadget_v, r_ohm, load), _held_v(self.regulator, load)
        starts = np.where(gadget_v <= held_v, self._starts_at(r_ohm, load), passing)
        return np.where(np.isnan(held_v), np.inf, starts)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return [_or_never(self._passes_at(_held_v(self.regulator, load), r_ohm, load))]

    def _passes_at(self, gadget_v: Numbers, r_ohm: Numbers, load: Load) -> Floats:
        """The source voltage that gives the gadget just so much when its input passes through."""
        s = self.regulator
        drawn_a = load.current(gadget_v) + s.iq_a
        return np.asarray(gadget_v + PASS_THROUGH_V + (r_ohm + s.input_ohm) * drawn_a)

    def _passes(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        s = self.regulator
        before_ohm = r_ohm + s.input_ohm
        volts = terminal_voltage(ocv_v - PASS_THROUGH_V - before_ohm * s.iq_a, before_ohm, load)
        return OperatingPoint(volts, load.current(volts) + s.iq_a)


@dataclass(frozen=True)
class InARow:
    """One regulator feeding another: `first` stands nearer to the source, `then` is what it sees as its load."""

    first: RegulatorLaw
    then: RegulatorLaw

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        between = self.between(ocv_v, r_ohm, load)
        cell_a = self.first.operating_point(ocv_v, r_ohm, self._as_load(between.gadget_v, load)).cell_a
        return OperatingPoint(self.then.operating_point(between.gadget_v, 0.0, load).gadget_v, cell_a)

    def between(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        """Volts and amperes between the two."""
        between_v = self.first.operating_point(ocv_v, r_ohm, NO_LOAD).gadget_v + np.zeros(load.shape)
        for _ in range(_ROUNDS_IN_A_ROW):
            before_v = between_v
            between_v = self.first.operating_point(ocv_v, r_ohm, self._as_load(between_v, load)).gadget_v
            if np.allclose(before_v, between_v, rtol=0, atol=1e-7, equal_nan=True):
                break
        return OperatingPoint(between_v, self.then.operating_point(between_v, 0.0, load).cell_a)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        between_v = np.asarray(self.then.ocv_for(gadget_v, 0.0, load))
        needed = np.broadcast_to(between_v, np.broadcast_shapes(between_v.shape, load.shape))
        return np.asarray(_each(lambda v, row: self.first.ocv_for(v, r_ohm, self._as_load(v, row)), needed, load))

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        held_v = self.first.operating_point(_PLENTY_V, r_ohm, NO_LOAD).gadget_v
        return self.first.breakpoints(r_ohm, self._as_load(held_v, load))

    def _as_load(self, between_v: Numbers, load: Load) -> Load:
        """What the second draws at these volts, settled by rounds: constant watts where it converts, else a current.

        As watts, what only passes its current on would pull its source down where it really does not.
        """
        drawn_a = np.asarray(self.then.operating_point(between_v, 0.0, load).cell_a)
        if _converts(self.then):
            return Load(power_w=np.nan_to_num(drawn_a * between_v, nan=_NEVER_CARRIED))
        return Load(steady_a=np.nan_to_num(drawn_a, nan=_NEVER_CARRIED))


def _converts(law: RegulatorLaw) -> bool:
    if isinstance(law, InARow):
        return _converts(law.first)
    return _converts(law.inner) if isinstance(law, BehindDiode) else isinstance(law, Converter)


# W or A that no source carries: the second asks for it where it cannot work at all.
_NEVER_CARRIED = 1e6
# What each learns of the other is worth about two digits a round.
_ROUNDS_IN_A_ROW = 12
# More than any first regulator is set to.
_PLENTY_V = 60.0


def _each(function: Callable[[float, Load], Numbers], volts: Floats, load: Load) -> Floats:
    """Asked row by row: a law takes one voltage and any number of loads, and here each load needs its own."""
    if volts.ndim == 0:
        return np.asarray(function(float(volts), load)) if np.isfinite(volts) else volts
    rows = [
        function(float(v), load.row(i)) if np.isfinite(v) else np.inf for i, v in enumerate(volts.reshape(len(volts)))
    ]
    return np.array([float(np.asarray(row).flat[0]) for row in rows]).reshape(volts.shape)


@dataclass(frozen=True)
class DroppingResistor:
    """A resistor in series with lamp or LEDs: V = V_in - I R."""

    regulator: Regulator

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        return Straight().operating_point(ocv_v, r_ohm + self._ohm, load)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return Straight().ocv_for(gadget_v, r_ohm + self._ohm, load)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []

    @property
    def _ohm(self) -> float:
        assert self.regulator.series_ohm is not None  # the model refuses a dropping resistor without one
        return self.regulator.series_ohm


@dataclass(frozen=True)
class ThroughRegulator:
    """A load as its supply sees it, wires and regulator between, and what hangs before the regulator.

    `load` None: the regulator is off or cut off, and only what hangs before it draws.
    """

    law: RegulatorLaw
    r_ohm: float
    load: Load | None
    before_a: float = 0.0

    def current(self, volts: Numbers) -> Floats:
        """Amperes at these volts; a regulator that cannot carry its load there takes nothing."""
        if self.load is None:
            return np.full(np.shape(volts), self.before_a)
        drawn = self.law.operating_point(volts, self.r_ohm, self.load).cell_a
        return np.where(np.isnan(drawn), 0.0, drawn) + self.before_a


def _either(first: NDArray[np.bool_], where: OperatingPoint, elsewhere: OperatingPoint) -> OperatingPoint:
    return OperatingPoint(
        np.where(first, where.gadget_v, elsewhere.gadget_v), np.where(first, where.cell_a, elsewhere.cell_a)
    )


def _as_resistor(regulator: Regulator) -> "LinearRegulator":
    """A buck near its input behaves like a regulator that has dropped out."""
    return LinearRegulator(regulator.model_copy(update={"drop_v": 0.0}))


def _held_v(regulator: Regulator, load: Load) -> Numbers:
    """Volts that it holds: its setting, or, of a driver that holds a current, those at which the load draws that.

    NaN where the load draws more whatever the volts.
    """
    assert regulator.v_set is not None  # the model refuses a regulator without one
    if regulator.i_set_a is None:
        return regulator.v_set
    draws_less = load.current(regulator.v_set) <= regulator.i_set_a
    return np.where(draws_less, regulator.v_set, volts_at_current(regulator.i_set_a, load))


def _or_never(breakpoint_v: Floats) -> Floats:
    """Below every cell, where the load is more than a driver can hold."""
    return np.where(np.isnan(breakpoint_v), 0.0, breakpoint_v)


def _reached(gadget_v: float, regulator: Regulator, load: Load, ocv_v: Floats) -> Floats:
    """That source voltage, and inf where the regulator never gives so many volts."""
    held_v = _held_v(regulator, load)
    if isinstance(held_v, float):
        return ocv_v if gadget_v <= held_v else np.asarray(np.inf)
    return np.where(gadget_v <= held_v, ocv_v, np.inf)
