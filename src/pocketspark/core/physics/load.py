"""A load as one law in its own terminal voltage, and the voltage it settles at behind a resistance."""

import math
from collections.abc import Sequence
from dataclasses import dataclass, fields
from functools import cached_property
from typing import Protocol

import numpy as np

from pocketspark.core.models.gadget import LoadLaw
from pocketspark.core.physics.ocv import Floats, Numbers


@dataclass(frozen=True)
class Load:
    """I(V) = steady_a + power_w / V + siemens x V, and never under least_a.

    A constant current, a constant power, a resistance, or any sum of them. Numbers or broadcastable arrays.
    """

    steady_a: Numbers = 0.0
    power_w: Numbers = 0.0
    siemens: Numbers = 0.0
    least_a: Numbers = 0.0  # of what would let nothing through at low volts

    def current(self, volts: Numbers) -> Floats:
        """Amperes at these volts. A constant power asks for no more below a millivolt, or for endless current."""
        drawn = self.sum_of(volts)
        return np.asarray(np.maximum(drawn, self.least_a) if self.has_least else drawn)

    def sum_of(self, volts: Numbers) -> Numbers:
        """The same without its least."""
        return self.steady_a + self.power_w / np.maximum(volts, LEAST_V) + self.siemens * volts

    @property
    def shape(self) -> tuple[int, ...]:
        """Of all its figures together: () for one load."""
        return np.broadcast_shapes(*(np.shape(getattr(self, field.name)) for field in fields(self)))

    def row(self, number: int) -> "Load":
        """One of many loads, by its row."""

        def of(column: Numbers) -> float:
            flat = np.ravel(column)
            return float(flat[number if len(flat) > 1 else 0])

        return Load(*(of(getattr(self, field.name)) for field in fields(self)))

    @cached_property
    def has_least(self) -> bool:
        least_a = self.least_a
        return bool(least_a) if isinstance(least_a, float | int) else bool(np.any(least_a))


class Draws(Protocol):
    """Anything that draws a current by the volts across it."""

    def current(self, volts: Numbers) -> Floats: ...


def together(loads: Sequence[Load]) -> Load:
    """Many loads as one, a row each: numpy takes hardly longer over a dozen than over one."""

    return stacked(loads, axes=1)


def stacked(loads: Sequence[Load], axes: int) -> Load:
    """Many loads along the first axis, with so many more of length one behind it for what else changes."""

    def column(name: str) -> Floats:
        return np.array([getattr(load, name) for load in loads], dtype=float).reshape(-1, *(1,) * axes)

    return Load(*(column(field.name) for field in fields(Load)))


LEAST_V = 1e-3
NO_LOAD = Load()


def or_zero(value: Floats) -> float:
    """One number out of an array of one; 0 for the NaN of a source that cannot carry its load."""
    plain = float(value)
    return 0.0 if math.isnan(plain) else plain


# A filament's current ~ V^0.55 (lighting handbooks, from memory) as a sum that has a closed form behind a resistance:
# I / I0 = a + b x + c / x with x = V / V0, to half a per cent from half its volts to 1.4 times, and 5 % at a third.
LAMP_SUM = (0.636, 0.455, -0.091)
LAMP_LEAST = 0.25
# Under their forward voltage LEDs let next to nothing through: this share of what was read.
LED_LEAST = 0.01
# A reading nearer to the forward voltage than this says nothing of the resistor.
LED_ROOM_V = 0.05


def load_from_reading(law: LoadLaw, current_a: float, at_v: float, led_v: float = 0.0) -> Load:
    """The load that draws `current_a` at `at_v` and follows `law` elsewhere; `led_v`: forward voltage of LEDs."""
    if law == "led" and at_v > led_v + LED_ROOM_V:
        siemens = current_a / (at_v - led_v)
        return Load(steady_a=-siemens * led_v, siemens=siemens, least_a=LED_LEAST * current_a)
    if law == "lamp":
        steady, rising, falling = (current_a * part for part in LAMP_SUM)
        return Load(steady, falling * at_v, rising / at_v, least_a=LAMP_LEAST * current_a)
    if law in ("resistance", "led"):
        return Load(siemens=current_a / at_v)
    if law == "power":
        return Load(power_w=current_a * at_v)
    return Load(steady_a=current_a)


def terminal_voltage(ocv_v: Numbers, r_ohm: Numbers, load: Load) -> Floats:
    """V = ocv_v - r I(V), the upper root. NaN where the source cannot carry the load.

    Closed form: (1 + r siemens) V^2 - (ocv_v - r steady) V + r power = 0. The lower root is the stuck state in
    which a constant-power load drags its source down; it is never meant.
    """
    lit_v = _upper_root(ocv_v, r_ohm, load)
    if not load.has_least:
        return lit_v
    # NaN compares false: what cannot be carried by the sum is at its least as well.
    return np.where(load.sum_of(np.maximum(lit_v, LEAST_V)) >= load.least_a, lit_v, ocv_v - r_ohm * load.least_a)


def _upper_root(ocv_v: Numbers, r_ohm: Numbers, load: Load) -> Floats:
    """The same of a load without a least current."""
    slope = 1 + r_ohm * load.siemens
    open_v = ocv_v - r_ohm * load.steady_a
    drop = 4 * slope * r_ohm * load.power_w
    rest = open_v * open_v - drop
    # One working point at a time is asked for far more often than a batch: it need not pay for an array.
    if isinstance(rest, float) and isinstance(slope, int | float):
        root = (open_v + math.sqrt(rest)) / (2 * slope) if rest >= 0 else math.nan
        return np.asarray(root if root > 0 else math.nan)
    if isinstance(drop, float) and drop == 0:
        volts = open_v / slope
        return np.where(volts > 0, volts, np.nan)
    with np.errstate(invalid="ignore"):
        volts = (open_v + np.sqrt(rest)) / (2 * slope)
    return np.where(volts > 0, volts, np.nan)


def volts_at_current(current_a: float, load: Load) -> Floats:
    """The voltage at which the load draws this current; NaN where it draws no more with more volts.

    The upper root of siemens V^2 + (steady - I) V + power = 0.
    """
    over_a, siemens = current_a - np.asarray(load.steady_a), np.asarray(load.siemens)
    with np.errstate(invalid="ignore", divide="ignore"):
        root = (over_a + np.sqrt(over_a * over_a - 4 * siemens * load.power_w)) / (2 * siemens)
    return np.where(siemens > 0, root, np.nan)


def collapse_ocv(r_ohm: Numbers, load: Load) -> Floats:
    """The lowest source voltage that still carries the load behind `r_ohm`."""
    slope = 1 + r_ohm * load.siemens
    return np.asarray(r_ohm * load.steady_a + 2 * np.sqrt(slope * r_ohm * load.power_w))


def collapse_v(r_ohm: Numbers, load: Load) -> Floats:
    """Volts at the load there: below them a constant power pulls its source down. 0 for a load that has none."""
    return np.asarray(np.sqrt(np.maximum(r_ohm * load.power_w / (1 + r_ohm * load.siemens), 0.0)))
