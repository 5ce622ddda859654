"""Wire by its gauge: how thick, how much it resists, and how much it can carry.

Gauges: ASTM B258, from memory of its table; copper 1.7241e-8 ohm m, IEC 60028.
"""

import math
from collections.abc import Mapping

import numpy as np

from pocketspark.core.units.figures import significant

COPPER_OHM_M = 1.7241e-8  # IEC 60028, at 20 C
# What is sold as hook-up wire.
GAUGES = (30, 28, 26, 24, 22, 20)
# Amperes in a single insulated wire in free air (tables for wiring within a chassis, from memory).
CARRIES_A: Mapping[int, float] = {
    18: 16.0,
    20: 11.0,
    22: 7.0,
    24: 3.5,
    26: 2.2,
    28: 1.4,
    30: 0.86,
    32: 0.53,
    34: 0.33,
    36: 0.21,
    38: 0.13,
    40: 0.09,
}
# Over both wires of a pair (handbook: the peak with under 50 mV of drop).
DROP_V = 0.050


def diameter_mm(awg: float) -> float:
    """Diameter of a gauge: 0.127 mm x 92 ^ ((36 - n) / 39), ASTM B258."""
    return float(0.127 * 92 ** ((36 - awg) / 39))


def area_mm2(awg: float) -> float:
    """Cross-section of the copper."""
    return math.pi / 4 * diameter_mm(awg) ** 2


def ohm_per_m(awg: float) -> float:
    """Resistance of a metre of solid copper."""
    return COPPER_OHM_M / (area_mm2(awg) * 1e-6)


def carries_a(awg: float) -> float:
    """What a gauge can carry; between two of the table in proportion."""
    return float(np.interp(awg, list(CARRIES_A), list(CARRIES_A.values())))


def gauge(awg: int) -> str:
    """As wire is sold in either half of the world."""
    return f"{awg} AWG, {significant(area_mm2(awg), 2)} mm²"


def gauge_for(current_a: float, length_m: float) -> int:
    """The thinnest gauge that can carry this with no more than half of the pair's 50 mV lost in one wire."""
    carry = (awg for awg in GAUGES if current_a <= carries_a(awg))
    return next((awg for awg in carry if current_a * ohm_per_m(awg) * length_m <= DROP_V / 2), GAUGES[-1])
