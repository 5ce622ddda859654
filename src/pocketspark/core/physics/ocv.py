"""Open-circuit voltage of a lithium cell over its state of charge, by class.

The curves are piecewise linear. Their knots crowd at the bottom, where the curve is steep: evenly spread knots
cost up to a fifth of the charge time.
"""

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models.cell_class import CELL_CLASSES

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


def curve_of(cell_class: str) -> OcvCurve:
    """The open-circuit curve of a class of cells."""
    facts = CELL_CLASSES[cell_class]
    return OcvCurve(np.array([soc for soc, _ in facts.ocv]) / 100, np.array([volts for _, volts in facts.ocv]))
