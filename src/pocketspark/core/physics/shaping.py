"""What the gadget sees, and what the cell gives, through each kind of shaper.

Every shaper answers two questions about a source of `emf` volts behind `r_ohm`:
`settle`: at which gadget voltage and cell current does it come to rest?
`emf_for`: which emf just gives the gadget this voltage?  (inf: it never does)
Both are closed form (the diode iterates a few times), so arrays go through as easily as numbers.
A new kind is one class and one entry in SHAPING.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import NamedTuple, Protocol

import numpy as np

from pocketspark.core.nouns.board import Shaper, ShaperKind
from pocketspark.core.physics.load import Load, collapse_emf, terminal_voltage
from pocketspark.core.physics.ocv import Floats, Numbers

# kT/q at 27 C, where small diodes are specified.
THERMAL_V = 0.025865
# Drop of the synchronous or catch diode when a boost passes its input straight through (common practice).
PASS_THROUGH_V = 0.3


class Settled(NamedTuple):
    """Where source, shaper and gadget come to rest. NaN where the source cannot carry the load."""

    gadget_v: Floats
    cell_a: Floats


class Shaping(Protocol):
    """One kind of shaper at work."""

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled: ...

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats: ...

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        """The emfs where the behaviour changes its law."""
        ...


@dataclass(frozen=True)
class Straight:
    """Nothing between guard and gadget."""

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
        volts = terminal_voltage(emf, r_ohm, load)
        return Settled(volts, load.current(volts))

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return gadget_v + r_ohm * load.current(gadget_v)

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []


# Of putting a junction's voltage back in: each is worth about two digits.
ROUNDS = 6


@dataclass(frozen=True)
class SeriesDiode:
    """A diode after Shockley with its series resistance: Vf = N Vt ln(1 + I/Is) + I Rs."""

    shaper: Shaper

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
        # The junction voltage hardly moves with the current, so putting it back in converges by
        # about two digits a round.
        r_all = r_ohm + self.shaper.rs_ohm
        junction_v: Numbers = 0.3
        for _ in range(ROUNDS):
            volts = terminal_voltage(emf - junction_v, r_all, load)
            junction_v = self._junction_v(load.current(volts))
        return Settled(volts, load.current(volts))

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        current = load.current(gadget_v)
        return gadget_v + self._junction_v(current) + (r_ohm + self.shaper.rs_ohm) * current

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return []

    def _junction_v(self, current: Numbers) -> Floats:
        return _junction_v(self.shaper, current)


def _junction_v(diode: Shaper, current: Numbers) -> Floats:
    """Shockley: N Vt ln(1 + I / Is)."""
    return np.asarray(diode.n * THERMAL_V * np.log1p(current / diode.is_a))


@dataclass(frozen=True)
class LinearRegulator:
    """Holds v_set by burning the rest; below that it is a resistor with a fixed headroom on top."""

    shaper: Shaper

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
        s, v_set = self.shaper, _setting(self.shaper)
        dropped_v = terminal_voltage(emf - s.drop_v - r_ohm * s.iq_a, r_ohm + s.drop_ohm, load)
        regulating = np.asarray(emf) >= self._emf_at_setting(r_ohm, load)
        gadget_v = np.where(regulating, v_set, dropped_v)
        return Settled(gadget_v, load.current(gadget_v) + s.iq_a)

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        if gadget_v > _setting(self.shaper):
            return np.asarray(np.inf)
        s = self.shaper
        current = load.current(gadget_v)
        return gadget_v + s.drop_v + s.drop_ohm * current + r_ohm * (current + s.iq_a)

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        return [self._emf_at_setting(r_ohm, load)]

    def _emf_at_setting(self, r_ohm: Numbers, load: Load) -> Floats:
        return self.emf_for(_setting(self.shaper), r_ohm, load)


@dataclass(frozen=True)
class BehindDiode:
    """Another shaping with a diode before it: a blocking diode in the run path, or the cell's half of a selector."""

    diode: Shaper
    inner: Shaping

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
        junction_v: Numbers = 0.3
        for _ in range(ROUNDS):
            settled = self.inner.settle(emf - junction_v, r_ohm + self.diode.rs_ohm, load)
            junction_v = self._junction_v(settled.cell_a)
        return settled

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        return self._before_diode(self.inner.emf_for(gadget_v, r_ohm + self.diode.rs_ohm, load), r_ohm, load)

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        knees = self.inner.knees(r_ohm + self.diode.rs_ohm, load)
        return [self._before_diode(knee, r_ohm, load) for knee in knees]

    def _before_diode(self, emf: Floats, r_ohm: Numbers, load: Load) -> Floats:
        reachable = np.where(np.isfinite(emf), emf, 0.0)
        current = self.inner.settle(reachable, r_ohm + self.diode.rs_ohm, load).cell_a
        return np.asarray(emf + np.nan_to_num(self._junction_v(current)))

    def _junction_v(self, current: Numbers) -> Floats:
        return _junction_v(self.diode, current)


@dataclass(frozen=True)
class Converter:
    """A switching converter: constant power from the cell, so its current grows as the cell empties.

    It burns up to `fixed_loss_w` for its switching (less when it skips pulses under a light load), and the drop over
    its `input_ohm` on top: efficiency falls at light loads and at low inputs. Where it cannot convert it lets
    through: a buck near its input, a boost above its setting.
    """

    shaper: Shaper

    def settle(self, emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
        v_set = _setting(self.shaper)
        drawn = self._input_load(load)
        v_in = terminal_voltage(emf, r_ohm + self.shaper.input_ohm, drawn)
        kind = self.shaper.kind
        if kind == "buck":
            converting = v_in >= v_set + self.shaper.drop_ohm * load.current(v_set)
            other = _as_resistor(self.shaper).settle(emf, r_ohm, load)
        elif kind == "boost":
            # Where it cannot carry its load it has still not begun to pass its input through.
            converting = (v_in <= v_set) | np.isnan(v_in)
            other = _passing(emf, r_ohm, load)
        else:
            return Settled(np.where(np.isnan(v_in), np.nan, v_set), drawn.current(v_in))
        held_v = np.where(np.isnan(v_in), np.nan, v_set)
        return Settled(
            np.where(converting, held_v, other.gadget_v), np.where(converting, drawn.current(v_in), other.cell_a)
        )

    def emf_for(self, gadget_v: float, r_ohm: Numbers, load: Load) -> Floats:
        s = self.shaper
        if gadget_v > _setting(s):
            return np.asarray(np.inf)
        if s.kind == "buck":
            return _as_resistor(s).emf_for(gadget_v, r_ohm, load)
        drawn = self._input_load(load)
        before = r_ohm + s.input_ohm
        at_input = s.v_in_min + before * drawn.current(s.v_in_min)
        return np.maximum(at_input, collapse_emf(before, drawn))

    def knees(self, r_ohm: Numbers, load: Load) -> list[Floats]:
        v_set = _setting(self.shaper)
        if self.shaper.kind == "buck":
            v_in = v_set + self.shaper.drop_ohm * load.current(v_set)
            return [v_in + (r_ohm + self.shaper.input_ohm) * self._input_load(load).current(v_in)]
        return []

    def _input_load(self, load: Load) -> Load:
        s, v_set = self.shaper, _setting(self.shaper)
        out_w = v_set * load.current(v_set)
        # Pulse skipping: the loss falls with the load once the load is no more than the loss itself.
        switching_w = s.fixed_loss_w * out_w / np.maximum(out_w + s.fixed_loss_w, 1e-12)
        return Load(steady_a=s.iq_a, power_w=out_w / s.efficiency + switching_w)


def efficiency_at(shaper: Shaper, v_in: float, load_a: float) -> float:
    """Power out over power in with `v_in` at the shaper's own terminals; 0 where it cannot carry the load."""
    load = Load(steady_a=load_a)
    settled = shaping_of(shaper).settle(v_in, 0.0, load)
    out_w, in_w = float(settled.gadget_v) * load_a, v_in * float(settled.cell_a)
    return out_w / in_w if np.isfinite(out_w) and in_w > 0 else 0.0


def _passing(emf: Numbers, r_ohm: Numbers, load: Load) -> Settled:
    return Straight().settle(emf - PASS_THROUGH_V, r_ohm, load)


def _as_resistor(shaper: Shaper) -> "LinearRegulator":
    """A buck near its input behaves like a regulator that has dropped out."""
    return LinearRegulator(shaper.model_copy(update={"drop_v": 0.0}))


def _setting(shaper: Shaper) -> float:
    assert shaper.v_set is not None  # the noun refuses a regulator without one
    return shaper.v_set


SHAPING: Mapping[ShaperKind, type[SeriesDiode] | type[LinearRegulator] | type[Converter]] = {
    "diode": SeriesDiode,
    "ldo": LinearRegulator,
    "buck": Converter,
    "boost": Converter,
    "buck_boost": Converter,
}


def shaping_of(shaper: Shaper) -> Shaping:
    """The shaper at work."""
    return SHAPING[shaper.kind](shaper) if shaper.kind in SHAPING else Straight()
