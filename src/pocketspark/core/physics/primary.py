"""How the old batteries run down: volts over charge taken, and how much less they give when pressed.

Everything here is from memory, rounded from makers' published curves of ordinary cells; it serves to set the new run
time beside the old one, and nothing hangs on it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from pocketspark.core.models.battery import Chemistry
from pocketspark.core.models.supply import Supply
from pocketspark.core.physics.charge_and_discharge import CellGroup, Discharge, discharge
from pocketspark.core.physics.load import Load
from pocketspark.core.physics.ocv import Floats, OcvCurve, curve_of
from pocketspark.core.physics.regulator_laws import Straight


@dataclass(frozen=True)
class DrainCurve:
    """One cell of a chemistry: volts at charge left, resistance x capacity, and the share it gives at a rate."""

    left: tuple[float, ...]
    volts: tuple[float, ...]
    ohm_ah: float
    rate_c: tuple[float, ...]  # current over capacity, 1/h
    share: tuple[float, ...]  # of the light-drain capacity


_LIGHT_TO_HEAVY = (0.001, 0.01, 0.05, 0.1, 0.2, 0.4, 1.0)
_LEFT = (0.0, 0.05, 0.15, 0.3, 0.5, 0.8, 0.95, 1.0)
_ALKALINE = (0.80, 1.00, 1.10, 1.18, 1.25, 1.40, 1.52, 1.60)

DRAIN: Mapping[Chemistry, DrainCurve] = {
    "alkaline": DrainCurve(_LEFT, _ALKALINE, 0.30, _LIGHT_TO_HEAVY, (1.0, 1.0, 0.85, 0.72, 0.52, 0.32, 0.10)),
    "zinc_carbon": DrainCurve(_LEFT, _ALKALINE, 0.60, _LIGHT_TO_HEAVY, (1.0, 0.9, 0.6, 0.42, 0.25, 0.12, 0.03)),
    "lithium_iron": DrainCurve(
        _LEFT, (0.9, 1.20, 1.40, 1.48, 1.52, 1.60, 1.72, 1.80), 0.30, _LIGHT_TO_HEAVY, (1, 1, 1, 0.98, 0.95, 0.9, 0.8)
    ),
    "nimh": DrainCurve(
        _LEFT, (0.95, 1.12, 1.19, 1.23, 1.26, 1.31, 1.37, 1.42), 0.06, _LIGHT_TO_HEAVY, (1, 1, 1, 1, 0.97, 0.94, 0.88)
    ),
    "lithium_manganese": DrainCurve(
        _LEFT, (1.9, 2.5, 2.75, 2.85, 2.92, 3.0, 3.1, 3.2), 3.0, _LIGHT_TO_HEAVY, (1, 0.9, 0.6, 0.4, 0.25, 0.15, 0.05)
    ),
    "silver": DrainCurve(
        _LEFT, (1.0, 1.45, 1.52, 1.54, 1.55, 1.55, 1.56, 1.58), 1.5, _LIGHT_TO_HEAVY, (1, 0.95, 0.8, 0.6, 0.4, 0.2, 0.1)
    ),
}
_LITHIUM_OHM_AH = 0.08
_SMALLEST_RATE = 1e-6


# Kept, since the old set stays what it is while everything else is tried.
@lru_cache(maxsize=256)
def old_run(supply: Supply, load: Load, v_run_min: float) -> Discharge:
    """A fresh set carries this load until the gadget gives up."""
    light_ah = supply.capacity_ah
    rate_c = max(float(load.current(supply.working_v)) / light_ah, _SMALLEST_RATE)
    if supply.kind == "lithium":
        curve, ohm_ah, share = curve_of(supply.lithium_class), _LITHIUM_OHM_AH, 1.0
    else:
        drain = DRAIN[supply.chemistry]
        curve = _curve(drain, supply.cells_in_series)
        ohm_ah = drain.ohm_ah * supply.cells_in_series
        share = float(np.interp(np.log(rate_c), np.log(drain.rate_c), drain.share))
    # What a heavy drain costs stands in `share` already, so only a light cell's own sag is added on top.
    group = CellGroup(curve, light_ah * share, ohm_ah / light_ah)
    ends = {"battery": float(curve.volts[0])}
    return discharge(group, 0.0, Straight(), load, v_run_min=v_run_min, cell_cuts=ends, full_v=float(curve.volts[-1]))


def old_hours(supply: Supply, load: Load, v_run_min: float) -> float:
    """Hours of it."""
    return float(old_run(supply, load, v_run_min).hours.flat[0])


def _curve(drain: DrainCurve, cells: int) -> OcvCurve:
    volts: Floats = np.array(drain.volts) * cells
    return OcvCurve(np.array(drain.left), volts)
