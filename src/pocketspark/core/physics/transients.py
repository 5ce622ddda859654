"""What coils do when a circuit is closed or opened: a cable that is plugged in, a motor that is switched off."""

import math


def ring_peak_v(source_v: float, inductance_h: float, capacitance_f: float, r_ohm: float) -> float:
    """The highest volts on a capacitor that is plugged into a source through a coil and a resistance.

    A series circuit of R, L and C on a step (any textbook of circuits): damping zeta = R/2 sqrt(C/L), and while that is
    under 1 the volts go over the source's by exp(-pi zeta / sqrt(1 - zeta^2)) of them, at most once more.
    """
    damping = r_ohm / 2 * math.sqrt(capacitance_f / inductance_h)
    if damping >= 1:
        return source_v
    return source_v * (1 + math.exp(-math.pi * damping / math.sqrt(1 - damping**2)))


def kick_v(rest_v: float, inductance_h: float, current_a: float, capacitance_f: float) -> float:
    """Volts of a capacitor after all that a coil held is in it: C V^2 = C V0^2 + L I^2."""
    return math.sqrt(rest_v**2 + inductance_h * current_a**2 / capacitance_f)
