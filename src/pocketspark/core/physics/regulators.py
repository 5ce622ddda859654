"""What the gadget sees, and what the cell gives, through each kind of regulator.

Every regulator answers two questions about a source of `ocv_v` volts behind `r_ohm`:
`operating_point`: at which gadget voltage and cell current does it come to rest?
`ocv_for`: which ocv_v just gives the gadget this voltage?  (inf: it never does)
Both are closed form (the diode iterates a few times), so arrays go through as easily as numbers.
Which kind has which law is said in `kinds/regulators.py`.
"""

from dataclasses import dataclass
from typing import NamedTuple, Protocol

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models.board import Regulator
from pocketspark.core.physics.load import Load, collapse_ocv, terminal_voltage
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
        return gadget_v + r_ohm * load.current(gadget_v)

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
    """Holds v_set by burning the rest; below that it is a resistor with a fixed headroom on top."""

    regulator: Regulator

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        s, v_set = self.regulator, _setting(self.regulator)
        dropped_v = terminal_voltage(ocv_v - s.drop_v - r_ohm * s.iq_a, r_ohm + s.drop_ohm, load)
        regulating = np.asarray(ocv_v) >= self._ocv_at_setting(r_ohm, load)
        gadget_v = np.where(regulating, v_set, dropped_v)
        return OperatingPoint(gadget_v, load.current(gadget_v) + s.iq_a)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        if gadget_v > _setting(self.regulator):
            return np.asarray(np.inf)
        s = self.regulator
        current = load.current(gadget_v)
        return gadget_v + s.drop_v + s.drop_ohm * current + r_ohm * (current + s.iq_a)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return [self._ocv_at_setting(r_ohm, load)]

    def _ocv_at_setting(self, r_ohm: Numbers, load: Load) -> Floats:
        return self.ocv_for(_setting(self.regulator), r_ohm, load)


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
        return OperatingPoint(np.where(np.isnan(v_in), np.nan, _setting(self.regulator)), drawn.current(v_in))

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        s = self.regulator
        if gadget_v > _setting(s):
            return np.asarray(np.inf)
        drawn = self._input_load(load)
        before = r_ohm + s.input_ohm
        at_input = s.v_in_min + before * drawn.current(s.v_in_min)
        return np.maximum(at_input, collapse_ocv(before, drawn))

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []

    def _input_load(self, load: Load) -> Load:
        s, v_set = self.regulator, _setting(self.regulator)
        out_w = v_set * load.current(v_set)
        # Pulse skipping: the loss falls with the load once the load is no more than the loss itself.
        switching_w = s.fixed_loss_w * out_w / np.maximum(out_w + s.fixed_loss_w, 1e-12)
        return Load(steady_a=s.iq_a, power_w=out_w / s.efficiency + switching_w)


@dataclass(frozen=True)
class StepDown(Converter):
    """A buck: near its input it lets through like a regulator that has dropped out."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        s, v_set = self.regulator, _setting(self.regulator)
        held, drawn = super().operating_point(ocv_v, r_ohm, load), self._input_load(load)
        v_in = terminal_voltage(ocv_v, r_ohm + s.input_ohm, drawn)
        other = _as_resistor(s).operating_point(ocv_v, r_ohm, load)
        return _either(v_in >= v_set + s.drop_ohm * load.current(v_set), held, other)

    def ocv_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        if gadget_v > _setting(self.regulator):
            return np.asarray(np.inf)
        return _as_resistor(self.regulator).ocv_for(gadget_v, r_ohm, load)

    def breakpoints(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        v_set = _setting(self.regulator)
        v_in = v_set + self.regulator.drop_ohm * load.current(v_set)
        return [v_in + (r_ohm + self.regulator.input_ohm) * self._input_load(load).current(v_in)]


@dataclass(frozen=True)
class StepUp(Converter):
    """A boost: above its setting it passes its input straight through."""

    def operating_point(self, ocv_v: Numbers, r_ohm: Numbers, load: Load) -> OperatingPoint:
        v_in = terminal_voltage(ocv_v, r_ohm + self.regulator.input_ohm, self._input_load(load))
        # Where it cannot carry its load it has still not begun to pass its input through.
        converting = (v_in <= _setting(self.regulator)) | np.isnan(v_in)
        passing = Straight().operating_point(ocv_v - PASS_THROUGH_V, r_ohm, load)
        return _either(converting, super().operating_point(ocv_v, r_ohm, load), passing)


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


def _setting(regulator: Regulator) -> float:
    assert regulator.v_set is not None  # the model refuses a regulator without one
    return regulator.v_set
