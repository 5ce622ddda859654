"""Open-circuit voltage of a lithium cell over its state of charge, by class.

The curves are piecewise linear. Their knots crowd at the bottom, where the curve is steep: evenly spread knots
cost up to a fifth of the charge time.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models.cell import CellClass

Floats: TypeAlias = NDArray[np.float64]
# A number, or an array of them that broadcasts against the others.
Numbers: TypeAlias = float | Floats


@dataclass(frozen=True)
class OcvCurve:
    """State of charge (0 to 1, a little under 0 for an over-discharged cell) against volts at rest. Both rise."""

    soc: Floats
    volts: Floats

    def at(self, soc: Numbers) -> Floats:
        return np.asarray(np.interp(soc, self.soc, self.volts))

    def soc_at(self, volts: Numbers) -> Floats:
        return np.asarray(np.interp(volts, self.volts, self.soc))


_SOC = (0, 0.1, 0.3, 0.7, 1.5, 3, 5, 8, 12, 20, 30, 40, 50, 60, 70, 76, 84, 91, 96, 98.5, 100)

# Open parameter set Ai2020 (Ai et al., J. Electrochem. Soc. 167 (2019) 013512), read at these knots.
_V_4V20 = (
    *(3.000, 3.034, 3.089, 3.171, 3.285, 3.424, 3.542, 3.625, 3.648, 3.695, 3.733),
    *(3.762, 3.793, 3.836, 3.909, 3.960, 4.031, 4.098, 4.149, 4.176, 4.200),
)

# The same set, extended linearly above 4.291 V (our extension).
_V_4V35 = (
    *(3.000, 3.037, 3.096, 3.182, 3.301, 3.443, 3.562, 3.632, 3.652, 3.705, 3.741),
    *(3.772, 3.810, 3.871, 3.963, 4.021, 4.104, 4.188, 4.278, 4.323, 4.350),
)

# Our composite of two open half-cell curves (Afshar 2017 LFP, Mohtat 2020 graphite), balance assumed.
_SOC_LFP = (0, 0.5, 1, 2, 3.5, 5, 7, 10, 15, 20, 27, 35, 50, 60, 70, 80, 95, 97.5, 98.5, 99.3, 100)
_V_LFP = (
    *(2.501, 2.642, 2.752, 2.905, 3.034, 3.102, 3.148, 3.177, 3.208, 3.242, 3.270),
    *(3.274, 3.277, 3.297, 3.310, 3.312, 3.315, 3.323, 3.348, 3.420, 3.601),
)

# Below empty, for over-discharged cells.
_SOC_BELOW = (-0.48, -0.22)
_V_BELOW = (2.5, 2.9)


def _curve(soc_percent: tuple[float, ...], volts: tuple[float, ...]) -> OcvCurve:
    return OcvCurve(np.array(soc_percent) / 100, np.array(volts))


CURVES: Mapping[CellClass, OcvCurve] = {
    "li_4v20": _curve((*_SOC_BELOW, *_SOC), (*_V_BELOW, *_V_4V20)),
    "li_4v35": _curve((*_SOC_BELOW, *_SOC), (*_V_BELOW, *_V_4V35)),
    "lfp": _curve(_SOC_LFP, _V_LFP),
}
