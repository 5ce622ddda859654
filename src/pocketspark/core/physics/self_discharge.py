"""What a lithium cell loses by itself: 2 to 3 % a month in a room, twice at 35 C, half in the cold (from memory)."""

import numpy as np

from pocketspark.core.physics.ocv import Floats, Numbers

SELF_DISCHARGE_PER_MONTH = 0.025
HOURS_A_MONTH = 30.4 * 24
_AT_C, _TIMES = (-20.0, 0.0, 25.0, 35.0, 45.0, 60.0), (0.3, 0.5, 1.0, 2.0, 4.0, 10.0)


def self_discharge_a(capacity_ah: Numbers, at_c: Numbers = 25.0) -> Floats:
    """The current that would empty it as fast. Between the temperatures above the factor's logarithm is straight."""
    times = np.exp(np.interp(at_c, _AT_C, np.log(_TIMES)))
    return np.asarray(capacity_ah * SELF_DISCHARGE_PER_MONTH / HOURS_A_MONTH * times)
