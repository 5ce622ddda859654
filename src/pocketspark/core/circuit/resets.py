"""Peaks that pull the gadget under its lowest volts while charge is left in the cell."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.chain import ModeRun, Running
from pocketspark.core.models import Mode

# Twice so many places along the charge: to a two-thousandth of it.
_PLACES = 45


@dataclass(frozen=True)
class PeakReset:
    """Such a peak: `left` is the share of the charge that is left then."""

    mode: Mode
    left: float
    cell_v: float


def first_peak_reset(running: Running) -> PeakReset | None:
    """The peak that resets the gadget earliest; None where none does before its run ends anyway."""
    resets = []
    for run in running.runs:
        if run.mode.peak_a is None or run.mode.peak_a <= run.mode.current_a or run.hours <= 0:
            continue
        left = _left_where_peak_fails(running, run)
        if left > run.unused:
            resets.append(PeakReset(run.mode, left, float(running.chosen.curve.at(left))))
    return max(resets, key=lambda reset: reset.left, default=None)


def _left_where_peak_fails(running: Running, run: ModeRun) -> float:
    """With more charge the gadget always sees more volts under the same peak."""
    peak, least_v = running.chain.load_of(run.mode, run.mode.most_a), running.chain.window.v_run_min
    low, high = 0.0, 1.0
    for _ in range(2):
        left = np.linspace(low, high, _PLACES)
        fails = ~(running.gadget_volts(running.chosen.curve.at(left), peak) >= least_v)
        if fails[-1]:
            return 1.0
        last = int(np.flatnonzero(fails)[-1]) if fails.any() else 0
        low, high = float(left[last]), float(left[last + 1])
    return high
