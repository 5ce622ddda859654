"""A load as one law in its own terminal voltage, and the voltage it settles at behind a resistance."""

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from pocketspark.core.models.gadget import LoadLaw
from pocketspark.core.physics.ocv import Floats, Numbers


@dataclass(frozen=True)
class Load:
    """I(V) = steady_a + power_w / V + siemens x V.

    A constant current, a constant power, a resistance, or any sum of them. Numbers or broadcastable arrays.
    """

    steady_a: Numbers = 0.0
    power_w: Numbers = 0.0
    siemens: Numbers = 0.0

    def current(self, volts: Numbers) -> Floats:
        """Amperes at these volts. A constant power asks for no more below a millivolt, or for endless current."""
        return np.asarray(self.steady_a + self.power_w / np.maximum(volts, LEAST_V) + self.siemens * volts)


class Draws(Protocol):
    """Anything that draws a current by the volts across it."""

    def current(self, volts: Numbers) -> Floats: ...


LEAST_V = 1e-3
NO_LOAD = Load()


def or_zero(value: Floats) -> float:
    """One number out of an array of one; 0 for the NaN of a source that cannot carry its load."""
    plain = float(value)
    return 0.0 if math.isnan(plain) else plain


def load_from_reading(law: LoadLaw, current_a: float, at_v: float) -> Load:
    """The load that draws `current_a` at `at_v` and follows `law` elsewhere."""
    if law == "resistance":
        return Load(siemens=current_a / at_v)
    if law == "power":
        return Load(power_w=current_a * at_v)
    return Load(steady_a=current_a)


def terminal_voltage(ocv_v: Numbers, r_ohm: Numbers, load: Load) -> Floats:
    """V = ocv_v - r I(V), the upper root. NaN where the source cannot carry the load.

    Closed form: (1 + r siemens) V^2 - (ocv_v - r steady) V + r power = 0. The lower root is the stuck state in
    which a constant-power load drags its source down; it is never meant.
    """
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


def collapse_ocv(r_ohm: Numbers, load: Load) -> Floats:
    """The lowest source voltage that still carries the load behind `r_ohm`."""
    slope = 1 + r_ohm * load.siemens
    return np.asarray(r_ohm * load.steady_a + 2 * np.sqrt(slope * r_ohm * load.power_w))
