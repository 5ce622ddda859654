"""At which volts a supply is to feed a gadget so that its law shows, and what the supply may give at most."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.models import Gadget, Mode

# Steps of a sweep, from the top down.
STEPS = 12
# Under this share of the volts at which the gadget gives up nothing new is seen (our judgement).
LOWEST_SHARE = 0.7
# The supply's own protection stands so far over the highest step.
OVER_V = 0.3
# A gadget whose current is known may take so many times that when it starts; of another a supply gives so much at most.
STARTS_TIMES, UNKNOWN_A = 5.0, 0.5
LEAST_A = 0.05


@dataclass(frozen=True)
class SupplyLimits:
    """What the supply may give at most."""

    volts: float
    amps: float

    @property
    def watts(self) -> float:
        return self.volts * self.amps


@dataclass(frozen=True)
class SweepPlan:
    """The volts one after the other, from the top down, and the limits."""

    volts: tuple[float, ...]
    limits: SupplyLimits


def sweep_plan(gadget: Gadget, mode: Mode) -> SweepPlan:
    """From the fresh volts of its batteries, or what it survives if that is less, down to where it has given up."""
    known_v = gadget.window.v_abs_max if gadget.window else None
    top_v = min(gadget.supply.fresh_v, known_v) if known_v else gadget.supply.fresh_v
    bottom_v = min(LOWEST_SHARE * gadget.supply.empty_v, 0.6 * top_v)
    most_a = max(STARTS_TIMES * mode.most_a, LEAST_A) if mode.most_a else UNKNOWN_A
    volts = tuple(round(float(one), 2) for one in np.linspace(top_v, bottom_v, STEPS))
    return SweepPlan(volts, SupplyLimits(round(top_v + OVER_V, 2), round(most_a, 3)))
