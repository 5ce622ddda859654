"""How often a switching converter works in bursts at a light load: slow enough, it is a tone that is heard."""

import numpy as np

from pocketspark.core.physics.ocv import Floats, Numbers

# A converter lets its output fall by so much before the next burst, held up by a capacitor of this size meanwhile
# (common practice, no source).
BURST_SHARE, OUTPUT_F = 0.01, 22e-6
# What people hear at best (common practice, no source).
HEARD_HZ, LEAST_HZ = 20_000.0, 20.0


def bursts_hz(load_a: Numbers, out_v: float) -> Floats:
    """Bursts a second: the output falls by dV = 1 % of V between two of them, so f = I / (C dV)."""
    return np.asarray(load_a) / (OUTPUT_F * BURST_SHARE * out_v)


def is_heard(hertz: float) -> bool:
    return LEAST_HZ <= hertz <= HEARD_HZ
