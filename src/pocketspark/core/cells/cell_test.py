"""A cell under an electronic load: rest, a pulse, its whole charge at a gentle rate, and back to half; what that tells.

A supply brings it back to the volts at which it keeps best; a thermometer ends it all where it gets hot.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from pocketspark.core.models import Cell
from pocketspark.core.physics.ocv import Floats, curve_of

PhaseName = Literal["rest", "pulse", "recover", "drain", "settle"]
# Rest before, pulse and rest after it, and rest at the end, in seconds (common practice, no source).
REST_S, PULSE_S, RECOVER_S, SETTLE_S = 60.0, 60.0, 120.0, 600.0
# A fifth of the capacity an hour; a pulse draws twice as much, so that its step stands out of the meter's last digit.
DRAIN_C, PULSE_C = 0.2, 0.4
# No lithium cell is drawn under this, whatever its class says.
NEVER_UNDER_V = 2.5
# Half full it keeps best (data sheets: 40 to 60 %, from memory); charged as gently as it was drawn, until so little of
# that flows, and no longer than so.
STORE_SHARE, STORED_AT, STORE_S = 0.5, 0.2, 4 * 3600.0
# A cell that rests further under its full volts was not full, and tells no capacity.
FULL_WITHIN_V = 0.10
# A drain that has not ended after so many times its hours is broken off.
LONGEST_TIMES = 1.6
SOON_S = 1.0


@dataclass(frozen=True)
class CellTestPlan:
    """Amperes of pulse and drain, the volts at which it ends, and the most that the load may ever draw."""

    pulse_a: float
    drain_a: float
    cut_v: float
    full_v: float
    longest_s: float
    storage_v: float = 3.8

    @property
    def most_a(self) -> float:
        return max(self.pulse_a, self.drain_a)

    def phases(self) -> tuple[tuple[PhaseName, float, float], ...]:
        """Name, amperes, seconds at most."""
        return (
            ("rest", 0.0, REST_S),
            ("pulse", self.pulse_a, PULSE_S),
            ("recover", 0.0, RECOVER_S),
            ("drain", self.drain_a, self.longest_s),
            ("settle", 0.0, SETTLE_S),
        )


def cell_test_plan(cell: Cell) -> CellTestPlan:
    """Gentle by what is known of it: no more than it may give, and never under 2.5 V."""
    may_give_a = cell.discharge_max_a or cell.planning_capacity_ah
    return CellTestPlan(
        pulse_a=round(min(PULSE_C * cell.planning_capacity_ah, may_give_a), 3),
        drain_a=round(min(DRAIN_C * cell.planning_capacity_ah, may_give_a), 3),
        cut_v=max(cell.facts.empty_v, NEVER_UNDER_V),
        full_v=cell.facts.full_v,
        longest_s=LONGEST_TIMES / DRAIN_C * 3600,
        storage_v=round(float(curve_of(cell.cell_class).at(STORE_SHARE)), 2),
    )


@dataclass(frozen=True)
class CellTested:
    """What a test told; None: it did not get so far, or the cell was not full."""

    rest_v: float | None
    r_soon_ohm: float | None  # a second into the pulse
    r_minute_ohm: float | None
    capacity_ah: float | None
    was_full: bool
    ended_at_cut: bool


def cell_tested(plan: CellTestPlan, time_s: Floats, volts: Floats, amps: Floats) -> CellTested:
    """From its rows, amperes out of the cell. Charge is counted from the first pulse on, and never guessed."""
    flows = amps > 0.5 * plan.drain_a
    started = int(np.argmax(flows)) if flows.any() else len(amps)
    rest_v = float(np.median(volts[max(started - 10, 0) : started])) if started else None
    was_full = rest_v is not None and rest_v > plan.full_v - FULL_WITHIN_V
    soon, minute = _ohms(time_s, volts, amps, started, rest_v)
    ended = bool(flows.any() and float(np.min(volts[flows])) <= plan.cut_v + 0.01)
    capacity = float(np.trapezoid(np.maximum(amps, 0.0), time_s)) / 3600 if ended and was_full else None
    return CellTested(rest_v, soon, minute, capacity, was_full, ended)


def _ohms(
    time_s: Floats, volts: Floats, amps: Floats, started: int, rest_v: float | None
) -> tuple[float | None, float | None]:
    """A second into the first pulse (rest - loaded) / current; at its end by what the cell comes back to, so that what
    it has lost of its charge meanwhile is left out."""
    if rest_v is None or started >= len(amps):
        return None, None
    stops = np.flatnonzero(amps[started:] < 0.5 * amps[started])
    upto = started + (int(stops[0]) if stops.size else len(amps) - started)
    since_s = time_s[started:upto] - time_s[started]
    if len(since_s) < 2:
        return None, None
    drawn_a = float(np.median(amps[started:upto]))
    soon_ohm = (rest_v - float(np.interp(SOON_S, since_s, volts[started:upto]))) / drawn_a
    again = np.flatnonzero(amps[upto:] > 0.1 * drawn_a)
    rested = volts[upto : upto + int(again[0])] if again.size else volts[upto:]
    if since_s[-1] < 0.8 * PULSE_S or len(rested) < 3:
        return soon_ohm, None
    return soon_ohm, (float(np.median(rested[-3:])) - float(volts[upto - 1])) / drawn_a
