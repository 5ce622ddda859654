"""The voltage classes a lithium cell may belong to. One entry is one class: its volts, and its open-circuit curve.

Curves are (state of charge in %, volts at rest), piecewise linear. Their breakpoints crowd at the bottom, where the
curve is steep: evenly spread ones cost up to a fifth of the charge time.
"""

from dataclasses import dataclass

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


@dataclass(frozen=True)
class CellClass:
    """Volts of a class: printed, full, empty at rest, and where the run is cut under load; its curve."""

    label: str
    remark: str
    nominal_v: float
    full_v: float
    empty_v: float
    cut_v: float
    ocv: tuple[tuple[float, float], ...]


def _curve(soc: tuple[float, ...], volts: tuple[float, ...]) -> tuple[tuple[float, float], ...]:
    return tuple(zip(soc, volts, strict=True))


CELL_CLASSES: dict[str, CellClass] = {
    "li_4v20": CellClass(
        "4.20 V lithium", "usual", 3.7, 4.20, 3.0, 3.0, _curve((*_SOC_BELOW, *_SOC), (*_V_BELOW, *_V_4V20))
    ),
    "li_4v35": CellClass(
        "4.35 V lithium", "high voltage", 3.8, 4.35, 3.0, 3.0, _curve((*_SOC_BELOW, *_SOC), (*_V_BELOW, *_V_4V35))
    ),
    "lfp": CellClass("lithium iron phosphate", "LFP", 3.2, 3.65, 2.5, 2.5, _curve(_SOC_LFP, _V_LFP)),
}
