"""The laws a gadget may follow, each as a current in the volts at its terminals. One entry is one law."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np

from pocketspark.core.models.gadget import FrontEnd, LoadLaw
from pocketspark.core.physics.ocv import Floats

FormKey = Literal["resistor", "leds", "filament", "motor", "same_current", "same_power", "own_regulator"]
Parameters = Floats
# A filament's current goes with the volts to this power (lighting handbooks, from memory).
FILAMENT_POWER = 0.55
# How softly LEDs begin to let current through: each is tried (from memory of their curves: some tens of millivolts).
KNEES_V = (0.02, 0.05, 0.08, 0.12)
LEAST_A = 1e-9


@dataclass(frozen=True)
class LawForm:
    """`current`: of its parameters and the volts. `begins`: parameters to begin a fit at, by volts and amperes read;
    what comes behind the first `parameters` of them stays as it is.
    """

    law: LoadLaw
    front_end: FrontEnd
    parameters: int
    current: Callable[[Parameters, Floats], Floats]
    begins: Callable[[Floats, Floats], list[tuple[float, ...]]]


def _leds(parameters: Parameters, volts: Floats) -> Floats:
    """(V - Vf) / R, and less and less below: ln(1 + e^x) is x where x is large."""
    forward_v, ohm, knee_v = parameters
    return np.asarray(knee_v / ohm * np.logaddexp(0.0, (volts - forward_v) / knee_v))


def _leds_begin(volts: Floats, amps: Floats) -> list[tuple[float, ...]]:
    """A line through the first and the last reading, and others that begin lower."""
    low, high = int(np.argmin(volts)), int(np.argmax(volts))
    rises = max(amps[high] - amps[low], LEAST_A)
    ohm = max((volts[high] - volts[low]) / rises, 0.1)
    crosses_v = volts[high] - amps[high] * ohm
    begins_v = [float(np.clip(at_v, 0.1, volts[high] - 0.02)) for at_v in (crosses_v, volts[low] - 0.1, 2.0)]
    return [(at_v, float(ohm), knee_v) for at_v in begins_v for knee_v in KNEES_V]


def _regulated(parameters: Parameters, volts: Floats) -> Floats:
    """The same above the volts it needs, in proportion below."""
    amps, needs_v = parameters
    return np.asarray(amps * np.minimum(volts / needs_v, 1.0))


FORMS: Mapping[FormKey, LawForm] = {
    "resistor": LawForm(
        "resistance",
        "heater",
        1,
        lambda p, v: v / p[0],
        lambda v, a: [(float(np.mean(v)) / max(float(np.mean(a)), LEAST_A),)],
    ),
    "leds": LawForm("led", "led_resistor", 2, _leds, _leds_begin),
    "filament": LawForm(
        "lamp",
        "lamp",
        1,
        lambda p, v: p[0] * np.maximum(v, 0.0) ** FILAMENT_POWER,
        lambda v, a: [(float(np.mean(a) / np.mean(v) ** FILAMENT_POWER),)],
    ),
    "motor": LawForm(
        "resistance",
        "motor",
        2,
        lambda p, v: p[0] + p[1] * v,
        lambda v, a: [(float(np.min(a)) / 2, float(np.mean(a) / np.mean(v)) / 2)],
    ),
    "same_current": LawForm(
        "current", "logic", 1, lambda p, v: np.full_like(v, p[0]), lambda _v, a: [(float(np.mean(a)),)]
    ),
    "same_power": LawForm("power", "converter", 1, lambda p, v: p[0] / v, lambda v, a: [(float(np.mean(v * a)),)]),
    "own_regulator": LawForm(
        "current",
        "regulator",
        2,
        _regulated,
        lambda v, a: [(float(np.max(a)), float(at_v)) for at_v in np.quantile(v, (0.3, 0.6))],
    ),
}
