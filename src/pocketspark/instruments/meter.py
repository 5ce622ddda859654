"""How the readings of cheap meters wander: a gain that is a little off, and noise."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.physics.ocv import Floats


@dataclass(frozen=True)
class Meter:
    """Noise and gain of a cheap meter: one standard deviation each, and how often it writes."""

    step_s: float = 10.0
    noise_v: float = 0.002
    noise_a: float = 0.0015
    gain_off: float = 0.003
    seed: int = 1

    def log(self, time_s: Floats, volts: Floats, amps: Floats, celsius: Floats | None, *, swapped: bool = False) -> Log:
        """What it writes of the true columns. Nothing flowing reads as nothing."""
        rng = np.random.default_rng(self.seed)
        gain_v, gain_a = 1 + rng.normal(0, self.gain_off / 4), 1 + rng.normal(0, self.gain_off)
        flowing = amps > 0
        seen_v = volts * gain_v + rng.normal(0, self.noise_v, len(volts))
        seen_a = np.where(flowing, amps * gain_a + rng.normal(0, self.noise_a, len(amps)), 0.0)
        seen_c = None if celsius is None else celsius + rng.normal(0, 0.3, len(celsius))
        return Log(time_s, seen_v, np.maximum(seen_a, 0.0), seen_c, swapped)

    def reads(self, value: float, *, key: int = 0, volts: bool = False) -> float:
        """One spot reading of a true value; the same `key` reads the same. A meter is best at volts."""
        rng = np.random.default_rng([self.seed, key])
        return float(value * (1 + rng.normal(0, self.gain_off / (4 if volts else 1))))
