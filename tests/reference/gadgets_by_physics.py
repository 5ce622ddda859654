"""Gadgets by the physics of their parts, for laws to be told from readings. Nothing of Pocket Spark is used.

Sources: Shockley's equation of a diode; a filament's heat as sigma T^4 and tungsten's resistance as T^1.2 (handbooks of
physics, from memory); a permanent-magnet motor by its torque; regulators and converters by what they hold.
"""

import numpy as np
from scipy.optimize import brentq

KINDS = ("resistor", "leds", "filament", "motor", "same_current", "same_power", "own_regulator")
THERMAL_V = 0.02585


def leds(chance):
    in_row, ohm = chance.choice([1, 1, 2]), chance.uniform(4, 60)
    ideality, at_20_ma_v = chance.uniform(1.6, 2.4), chance.choice([1.9, 2.1, 2.9, 3.1])
    wide_v = ideality * THERMAL_V
    saturation_a = 0.02 / np.expm1(at_20_ma_v / wide_v)

    def drawn(volts):
        def over(amps):
            return in_row * wide_v * np.log1p(amps / saturation_a) + amps * ohm - volts

        return brentq(over, 0.0, volts / ohm + 1e-9)

    return drawn, in_row * at_20_ma_v + 0.15, in_row * at_20_ma_v + 1.6


def filament(chance):
    at_v, at_a, hot_k = chance.uniform(2.5, 6), chance.uniform(0.1, 0.5), chance.uniform(2200, 2700)
    hot_ohm = at_v / at_a
    radiates = at_v * at_a / (hot_k**4 - 300**4)

    def drawn(volts):
        def balance(kelvin):
            return volts**2 / (hot_ohm * (kelvin / hot_k) ** 1.2) - radiates * (kelvin**4 - 300**4)

        kelvin = brentq(balance, 301, 5000)
        return volts / (hot_ohm * (kelvin / hot_k) ** 1.2)

    return drawn, 0.6 * at_v, 1.1 * at_v


def motor(chance):
    winding_ohm, per_turn = chance.uniform(1, 6), chance.uniform(0.004, 0.01)
    friction_a, slowing = chance.uniform(0.03, 0.1), chance.uniform(0.3, 1.5) * 1e-6
    # (V - I R) / k turns a second; k I = k I0 + b w
    slope = slowing / per_turn**2

    def drawn(volts):
        return (friction_a + slope * volts) / (1 + slope * winding_ohm)

    return drawn, 1.5, 4.5


def same_power(chance):
    out_w, own_a = chance.uniform(0.05, 1.0), chance.uniform(0, 2e-3)

    def drawn(volts):
        return out_w / ((0.84 + 0.01 * (volts - 3)) * volts) + own_a

    return drawn, 2.4, chance.choice([4.8, 6.0])


def own_regulator(chance):
    holds_v, drop_v, amps = chance.choice([2.8, 3.0, 3.3]), chance.uniform(0.1, 0.5), chance.uniform(0.01, 0.2)

    def drawn(volts):
        return amps * min(1.0, max(volts - drop_v, 0.1) / holds_v)

    return drawn, 2.2, 5.0


def resistor(chance):
    ohm = chance.uniform(4, 200)
    return lambda volts: volts / ohm, 2.0, chance.choice([4.8, 6.4])


def same_current(chance):
    amps, slope = chance.uniform(0.005, 0.2), chance.uniform(0, 0.01)
    return lambda volts: amps * (1 + slope * (volts - 4)), 2.6, chance.choice([4.8, 6.4])


MAKES = dict(zip(KINDS, (resistor, leds, filament, motor, same_current, same_power, own_regulator), strict=True))


def read(chance, drawn, low_v, high_v, count):
    """As a meter shows it: wrong by one share throughout, scattering, to the tenth of a milliampere."""
    gain = 1 + chance.gauss(0, 0.01)
    volts = [round(low_v + (high_v - low_v) * n / (count - 1), 2) for n in range(count)]
    return volts, [round(drawn(one) * gain * (1 + chance.gauss(0, 0.007)), 4) for one in volts]
