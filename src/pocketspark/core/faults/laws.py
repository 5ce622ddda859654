"""What each kind of part lets through, whichever way round it is fed.

The laws of `physics/`, drawn out to where no sound build ever gets: below nothing, backwards and into a short.

Corners are rounded off by a hair, so that Newton's method finds its way round them.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from pocketspark.core.faults.network import Flow
from pocketspark.core.models.board import Regulator
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.physics.regulator_laws import PASS_THROUGH_V, THERMAL_V

# Siemens by which a regulator or a charger holds its volts.
STIFF = 200.0
# Whatever limits a current lets a little more through with more volts across it, and what lets nothing back a little.
# Where less flows with more volts (watts, heat) the slope is left out: Newton's method would run away from the place.
SLOPE_SIEMENS, BACK_SIEMENS = 2e-3, 1e-4
# Over so many volts a part goes from off to on.
TURNS_ON_V = 0.02
Parameter = Floats | float


def least(corner_a: Floats, first: Flow, *others: Flow) -> Flow:
    """The least of these currents, with its corner rounded off."""
    for other in others:
        first = _joined(corner_a, first, other, -1.0)
    return first


def most(corner_a: Floats, first: Flow, second: Flow) -> Flow:
    return _joined(corner_a, first, second, 1.0)


def _joined(corner_a: Floats, a: Flow, b: Flow, sign: float) -> Flow:
    apart = a.amps - b.amps
    root = np.sqrt(apart * apart + corner_a * corner_a)
    share = (1 + sign * apart / root) / 2
    return Flow(
        np.asarray((a.amps + b.amps + sign * root) / 2),
        np.asarray(share * a.by_own + (1 - share) * b.by_own),
        np.asarray(share * a.by_watched + (1 - share) * b.by_watched),
    )


def constant(amps: Parameter, like: Floats) -> Flow:
    zero = np.zeros_like(like)
    return Flow(zero + amps, zero, zero)


def _turned_on(volts: Floats, at_v: Parameter) -> Floats:
    """From 0 to 1 round these volts. Its slope is left out of all that follows: a part that turns on pulls the volts
    which it waits for up or down at once, and by its slope Newton's method would walk away from both."""
    return np.asarray(1 / (1 + np.exp(-np.clip((volts - at_v) / TURNS_ON_V, -40, 40))))


@dataclass(frozen=True)
class Resistance:
    """A wire, a joint, a resistor, a transistor that is on."""

    siemens: Parameter

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        return Flow(own_v * self.siemens, self.siemens + np.zeros_like(own_v), np.zeros_like(own_v))


@dataclass(frozen=True)
class Emf:
    """A cell, or a source: volts behind a resistance. `most_a`: it gives no more. `one_way`: it takes nothing back."""

    volts: Parameter
    ohm: Parameter
    most_a: Parameter = np.inf
    one_way: bool = False

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        zero = np.zeros_like(own_v)
        taken = Flow((own_v - self.volts) / self.ohm, 1 / self.ohm + zero, zero)
        if np.all(np.isfinite(self.most_a)):
            over_v = own_v - self.volts
            limit = Flow(SLOPE_SIEMENS * over_v - self.most_a, SLOPE_SIEMENS + zero, zero)
            taken = most(corner_a, taken, limit)
        if self.one_way:
            taken = least(corner_a, taken, Flow(BACK_SIEMENS * (own_v - self.volts), zero + BACK_SIEMENS, zero))
        return taken


def through_diode(own_v: Floats, is_a: Parameter, n: Parameter, rs_ohm: Parameter) -> tuple[Floats, Floats]:
    """Shockley's diode with its resistance, as a current: by Wright's omega function. Amperes, and their change.

    With y = (I + Is) Rs / (N Vt) it is y + ln y = ln(Is Rs / (N Vt)) + (V + Is Rs) / (N Vt).
    """
    thermal_v = n * THERMAL_V
    z = np.log(is_a * rs_ohm / thermal_v) + (own_v + is_a * rs_ohm) / thermal_v
    y = np.where(z > 1, z - np.log(np.maximum(z, 1)), np.exp(np.minimum(z, 1)))
    for _ in range(4):  # of Newton's on the logarithm: each doubles the digits
        y = np.maximum(y * (1 + z - np.log(np.maximum(y, 1e-300))) / (1 + y), 1e-300)
    amps = y * thermal_v / rs_ohm - is_a
    return amps, 1 / (rs_ohm + thermal_v / np.maximum(amps + is_a, 1e-18))


@dataclass(frozen=True)
class Diode:
    """Anode to cathode; backwards it lets nothing through."""

    is_a: float
    n: float
    rs_ohm: float

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        amps, by_own = through_diode(own_v, self.is_a, self.n, self.rs_ohm)
        return Flow(amps, by_own, np.zeros_like(own_v))


def diode_of(regulator: Regulator) -> Diode:
    return Diode(regulator.is_a, regulator.n, max(regulator.rs_ohm, 1e-3))


# Of a transistor of a protection: the diode that lies across it (common practice, no source).
BODY_IS_A, BODY_N = 1e-12, 1.0


@dataclass(frozen=True)
class Transistors:
    """The pair of a protection, from the cell's side to the load's: charging current flows that way, and what the
    gadget takes comes back.

    `takes`, `gives`: 1 where the transistor that lets it be charged, or discharged, is on. Of one that is off its body
    diode lets through what flows the other way.
    """

    r_on_ohm: float
    takes: Floats
    gives: Floats
    sign: Floats  # -1 where its cell sits in it the wrong way round

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        zero = np.zeros_like(own_v)
        own_v = own_v * self.sign
        both = own_v / (2 * self.r_on_ohm)
        inwards, by_in = through_diode(own_v, BODY_IS_A, BODY_N, self.r_on_ohm)
        outwards, by_out = through_diode(-own_v, BODY_IS_A, BODY_N, self.r_on_ohm)
        takes, gives = self.takes > 0, self.gives > 0
        amps = np.select([takes & gives, takes, gives], [both, inwards, -outwards], zero)
        by_own = np.select([takes & gives, takes, gives], [zero + 0.5 / self.r_on_ohm, by_in, by_out], zero)
        return Flow(amps * self.sign, by_own, zero)


@dataclass(frozen=True)
class LinearCharger:
    """From its input to the cell's plus; it watches its output over its ground. `stuck`: its transistor is a short.

    The least of what it is set to, what holds its end voltage, what its transistor lets through and what heat leaves.
    """

    set_a: Parameter
    end_v: float
    pass_ohm: float
    precharge_v: float
    precharge_share: float
    heat_w: float
    stuck: Parameter

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        zero = np.zeros_like(own_v)
        share = _turned_on(watched_v, self.precharge_v)
        wanted = Flow(np.asarray(self.set_a * (self.precharge_share + (1 - self.precharge_share) * share)), zero, zero)
        holds = Flow(STIFF * (self.end_v - watched_v), zero, zero - STIFF)
        lets = Flow(own_v / self.pass_ohm, zero + 1 / self.pass_ohm, zero)
        limits = [holds, lets]
        if np.isfinite(self.heat_w):
            volts = np.maximum(own_v, 0.1)
            limits.append(Flow(self.heat_w / volts, zero, zero))  # its slope is left out, as below
        works = most(corner_a, least(corner_a, wanted, *limits), constant(0.0, own_v))
        stuck = np.asarray(self.stuck) > 0
        return Flow(*(np.where(stuck, a, b) for a, b in zip(lets, works, strict=True)))


@dataclass(frozen=True)
class SeriesRegulator:
    """From its input to its output, which it watches over ground. A driver gives no more than it is set to."""

    set_v: float
    drop_v: float
    drop_ohm: float
    most_a: float
    on: Parameter = 1.0

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        zero = np.zeros_like(own_v)
        holds = Flow(STIFF * (self.set_v - watched_v), zero, zero - STIFF)
        lets = Flow((own_v - self.drop_v) / self.drop_ohm, zero + 1 / self.drop_ohm, zero)
        gives = most(corner_a, least(corner_a, holds, lets, constant(self.most_a, own_v)), constant(0.0, own_v))
        return Flow(*(part * self.on for part in gives))


@dataclass(frozen=True)
class ConverterOutput:
    """From its output to its ground: it gives what holds its setting, as long as its input carries it.

    `steps_down`: it gives no more than its input lets through, and no more volts than that has.
    """

    set_v: float
    most_a: float
    from_v: float
    drop_ohm: float
    steps_down: bool
    on: Parameter = 1.0

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        given = self.given(own_v, watched_v, corner_a)
        return Flow(-given.amps, -given.by_own, -given.by_watched)

    def given(self, out_v: Floats, in_v: Floats, corner_a: Floats) -> Flow:
        zero = np.zeros_like(out_v)
        limits = [constant(self.most_a, out_v)]
        if self.steps_down:
            siemens = 1 / max(self.drop_ohm, 1e-3)
            limits.append(Flow((in_v - out_v) * siemens, zero - siemens, zero + siemens))
        gives = most(
            corner_a,
            least(corner_a, Flow(STIFF * (self.set_v - out_v), zero - STIFF, zero), *limits),
            constant(0.0, out_v),
        )
        works = _turned_on(in_v, self.from_v) * self.on
        return Flow(gives.amps * works, gives.by_own * works, gives.by_watched * works)


@dataclass(frozen=True)
class ConverterInput:
    """From its input to its ground: as many watts as its output gives, and its losses."""

    regulator: Regulator
    output: ConverterOutput
    idle_a: Parameter

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        """By differences of what it draws: the watts hang on both its voltages in a roundabout way."""
        here, tiny = self._drawn(own_v, watched_v, corner_a), 1e-6
        by_own = np.maximum((self._drawn(own_v + tiny, watched_v, corner_a) - here) / tiny, 0.0)
        by_watched = (self._drawn(own_v, watched_v + tiny, corner_a) - here) / tiny
        return Flow(here, by_own, by_watched)

    def _drawn(self, in_v: Floats, out_v: Floats, corner_a: Floats) -> Floats:
        one, output = self.regulator, self.output
        given_a = output.given(out_v, in_v, corner_a).amps
        out_w = np.maximum(out_v, 0.0) * given_a
        skipped_w = one.fixed_loss_w * out_w / np.maximum(out_w + one.fixed_loss_w, 1e-12)
        in_w = out_w / one.efficiency + skipped_w
        if output.steps_down:
            # With nothing left to step down it only lets through.
            passes = _turned_on(-in_v, -(output.set_v + output.drop_ohm * given_a))
            in_w = in_w * (1 - passes) + passes * given_a * in_v
        volts, ohm = np.maximum(in_v, 0.3), one.input_ohm
        rest = np.maximum(volts**2 - 4 * ohm * in_w, 0.0)
        drawn_a = 2 * in_w / (volts + np.sqrt(rest))
        return np.asarray(drawn_a + self.idle_a * np.clip(in_v, 0.0, 1.0))


@dataclass(frozen=True)
class Idle:
    """What a regulator takes for itself as long as there are volts at its input."""

    amps: Floats

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        inside = (own_v > 0) & (own_v < 1)
        return Flow(self.amps * np.clip(own_v, 0.0, 1.0), self.amps * inside, np.zeros_like(own_v))


@dataclass(frozen=True)
class PassedThrough:
    """A step-up's own way from input to output, which nothing switches off: the drop of its diode behind its coil."""

    ohm: float

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        zero, siemens = np.zeros_like(own_v), 1 / max(self.ohm, 1e-2)
        return most(corner_a, Flow((own_v - PASS_THROUGH_V) * siemens, zero + siemens, zero), constant(0.0, own_v))


# A gadget that gets less than this share of the least it runs on draws in proportion (our judgement, no source).
STARVED_SHARE = 0.5


@dataclass(frozen=True)
class GadgetDraws:
    """The gadget by its load law, where it gets enough; starved it draws in proportion.

    Backwards: the same both ways for what is a resistance, the diodes of its chips for electronics, and nothing for
    LEDs (common practice, no source).
    """

    load: Load
    starved_v: float
    backwards: str

    def flow(self, own_v: Floats, watched_v: Floats, corner_a: Floats) -> Flow:
        amps, by_own = _with_slope(self._forwards, np.maximum(own_v, 0.0))
        by_own = np.where(own_v > 0, by_own, self._forwards(np.full_like(own_v, 1e-3)) / 1e-3)
        amps = np.where(own_v > 0, amps, by_own * own_v)
        if self.backwards == "same":
            back, by_back = _with_slope(self._forwards, np.maximum(-own_v, 0.0))
            amps, by_own = np.where(own_v < 0, -back, amps), np.where(own_v < 0, by_back, by_own)
        elif self.backwards == "diodes":
            back, by_back = through_diode(-own_v, BODY_IS_A, BODY_N, 0.5)
            amps, by_own = np.where(own_v < 0, -back, amps), np.where(own_v < 0, by_back + 1e-9, by_own)
        else:
            amps, by_own = np.where(own_v < 0, 1e-9 * own_v, amps), np.where(own_v < 0, 1e-9, by_own)
        return Flow(amps, by_own, np.zeros_like(own_v))

    def _forwards(self, volts: Floats) -> Floats:
        at_v = np.maximum(volts, self.starved_v)
        return np.asarray(self.load.current(at_v) * np.minimum(volts / self.starved_v, 1.0))


def _with_slope(current: Callable[[Floats], Floats], volts: Floats) -> tuple[Floats, Floats]:
    here = current(volts)
    return here, np.maximum((current(volts + 1e-6) - here) / 1e-6, 0.0)
