"""What volts beyond, or short of, its design do to a front end, as shares of what it did at its design voltage."""

import numpy as np

from pocketspark.core.physics.ocv import Floats, Numbers

# Lamp re-rating relations of the lighting handbooks, from memory: exponents on V / V0.
LAMP_CURRENT, LAMP_LIGHT, LAMP_LIFE = 0.55, 3.4, -13.0


def led_share(volts: Numbers, design_v: float, led_v: float) -> Floats:
    """Current of LEDs behind a resistor: I / I0 = (V - Vf) / (V0 - Vf). 0 where they are dark."""
    return np.maximum(np.asarray(volts) - led_v, 0.0) / max(design_v - led_v, 0.05)


def lamp_life_share(volts: float, design_v: float) -> float:
    """Life of a filament lamp: (V / V0) ^ -13."""
    return float((volts / design_v) ** LAMP_LIFE)


def lamp_light_share(volts: Numbers, design_v: float) -> Floats:
    """Light of a filament lamp: (V / V0) ^ 3.4."""
    return np.asarray((np.asarray(volts) / design_v) ** LAMP_LIGHT)


def loudness_db(volts: Numbers, design_v: float) -> Floats:
    """The loudest that a sounder, or an amplifier driven to its rails, gets: 20 log10 (V / V0), dB, -60 for nothing.

    Sound pressure goes with the swing that the supply allows (acoustics; level as ISO 1683 defines it, from memory).
    """
    return np.asarray(20 * np.log10(np.maximum(np.asarray(volts) / design_v, 1e-3)))


def motor_speed_share(volts: Numbers, design_v: float) -> Floats:
    """No-load speed of a brushed motor follows the volts."""
    return np.asarray(volts, dtype=float) / design_v


def stall_current_a(volts: float, winding_ohm: float, source_ohm: float) -> float:
    """A motor that stands still is its winding: I = V / (R_winding + R_source)."""
    return volts / max(winding_ohm + source_ohm, 1e-3)


def heater_power_share(volts: Numbers, design_v: float) -> Floats:
    """P = V^2 / R."""
    return np.asarray((np.asarray(volts) / design_v) ** 2)


def regulator_heat_w(volts: float, regulated_v: float, current_a: float) -> float:
    """A linear regulator turns the excess into heat: (V - V_out) I."""
    return max(volts - regulated_v, 0.0) * current_a
