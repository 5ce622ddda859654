"""What a log tells of the cell itself, each figure with a give-or-take that covers the truth in 95 of 100 logs.

Charge is counted and never guessed: a log that begins or ends in the middle tells no capacity. Resistance is read from
steps of the current alone: the shape of a curve may be that of another chemistry.
"""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.models.tools import METERS
from pocketspark.core.physics.ocv import OcvCurve

# Within these shares of its charge a cell counts as empty when a log begins, and as full.
EMPTY_SHARE, FULL_SHARE = 0.15, 0.88
# Less of the charge than this at its set current, and the cell's tail is most of it (common practice, no source).
LEAST_BEFORE_TAIL = 0.35
# A charge that ended at no more than this share of its plateau ended full.
END_SHARE = 0.2
# What curves of one class differ by, as a share of the charge (common practice, no source).
CURVE_OFF = 0.04
# A cell of one ampere-hour seldom has more than this; a larger one has less (common practice, no source).
MOST_OHM_AH = 0.30
# More of the time than this unseen, and what flowed meanwhile is a guess.
UNSEEN_SHARE = 0.02
# A clean step: by this share of the plateau, within so many seconds.
STEP_SHARE, STEP_S = 0.3, 15.0
LEAST_STEPS = 2
# Steady so long before a step, and followed so long after it; within this share of the change a current is the same.
BEFORE_S, AFTER_S, STEADY_SHARE = 600.0, 65.0, 0.1
# What a minute does not show of a cell's resistance, and what a first row does not (common practice, no source).
FOLLOWED_OFF, AT_ONCE_OFF = 0.1, 0.25


@dataclass(frozen=True)
class Told:
    """A figure and its give-or-take."""

    value: float
    off: float


def capacity_of_charge(
    log: Log,
    curve: OcvCurve,
    plateau_a: float,
    end_a: float | None,
    unseen_s: float = 0.0,
    meter_share: float = METERS["usual"].right_to,
) -> Told | None:
    """Ah, from a charge that began empty and ended by itself; None from any other.

    While it charges a cell's terminals stand above its open-circuit volts: by them it was no fuller than this.
    """
    flowing = np.flatnonzero(log.amps > 0.04 * plateau_a)
    if len(flowing) < 5 or end_a is None or end_a > END_SHARE * plateau_a or _unseen(log, unseen_s):
        return None
    began = float(curve.soc_at(float(np.median(log.volts[flowing[:3]]))))
    if began > EMPTY_SHARE or _share_before_the_tail(log, plateau_a) < LEAST_BEFORE_TAIL:
        return None
    # What the end current leaves undone is about a twentieth of its share of the plateau.
    return _counted(float(log.charge_ah[-1]), 0.0, began, 0.05 * end_a / plateau_a, meter_share)


def _share_before_the_tail(log: Log, plateau_a: float) -> float:
    """How much of the charge flowed at the set current. A worn cell is at its end voltage long before it is full, and
    how much its end current leaves undone cannot be told."""
    moved = np.diff(log.charge_ah, append=log.charge_ah[-1])
    return float(moved[log.amps > 0.85 * plateau_a].sum() / max(log.charge_ah[-1], 1e-9))


def capacity_of_run(
    log: Log,
    curve: OcvCurve,
    resistance: Told | None,
    unseen_s: float = 0.0,
    meter_share: float = METERS["usual"].right_to,
) -> Told | None:
    """Ah, from a run that began full and ended empty; None from any other.

    While it runs a cell's terminals stand below its open-circuit volts: by them it was no emptier than this. How far
    below is told by its resistance, where the log shows that.
    """
    flowing = np.flatnonzero(log.amps > 0.04 * float(np.quantile(log.amps, 0.98)))
    moved_ah = float(log.charge_ah[-1])
    if len(flowing) < 5 or moved_ah <= 0 or _unseen(log, unseen_s):
        return None
    first, last = flowing[:3], flowing[-3:]
    began = float(curve.soc_at(float(np.median(log.volts[first]))))
    # The slow part of a cell's resistance, which no step shows, is about as much again.
    ohms = (resistance.value, 2 * resistance.value) if resistance else (0.0, MOST_OHM_AH / moved_ah)
    ends_v, ends_a = float(np.median(log.volts[last])), float(np.median(log.amps[last]))
    least, most = (float(curve.soc_at(ends_v + ohm * ends_a)) for ohm in ohms)
    if began < FULL_SHARE or most > EMPTY_SHARE:
        return None
    return _counted(moved_ah, least, most, (1 - began) / 2, meter_share)


def _counted(moved_ah: float, least: float, most: float, besides: float, meter_share: float) -> Told:
    """The charge moved over the share of the cell that it was; what of it is not known goes into the give-or-take.

    Between `least` and `most` of the cell was not moved at its empty end, and `besides` not at its full one.
    """
    share = 1 - (least + most) / 2 - besides
    value = moved_ah / share
    off = value * float(np.hypot(np.hypot(meter_share, CURVE_OFF), (most - least) / 2 / share))
    return Told(value, off)


def _unseen(log: Log, unseen_s: float) -> bool:
    return unseen_s > UNSEEN_SHARE * float(log.time_s[-1])


def resistance_of(log: Log, plateau_a: float) -> Told | None:
    """Ohm, from sudden changes of the current: dV / dI a minute after them, at least two that agree.

    A cell's volts follow a current partly at once and partly within a minute; a run is governed by both. Where no step
    is followed for so long, what shows at once is told, with that much more give-or-take.
    """
    if log.is_usb_side:
        return None
    change_a = np.diff(log.amps)
    quick = np.diff(log.time_s) <= STEP_S
    steps = np.flatnonzero((np.abs(change_a) > STEP_SHARE * plateau_a) & quick)
    if len(steps) < LEAST_STEPS:
        return None
    followed = [ohm for step in steps.tolist() if (ohm := _a_minute_after(log, step)) is not None]
    slow_off = FOLLOWED_OFF if len(followed) >= LEAST_STEPS else AT_ONCE_OFF
    found = np.array(followed) if len(followed) >= LEAST_STEPS else np.abs(np.diff(log.volts)[steps] / change_a[steps])
    value = float(np.median(found))
    scatter = float(np.median(np.abs(found - value))) * 1.48
    noise_v = float(np.median(np.abs(np.diff(log.volts)))) + 1e-3
    alone = 2 * noise_v / float(np.median(np.abs(change_a[steps]))) / float(np.sqrt(len(found)))
    off = float(np.hypot(np.hypot(2 * scatter / np.sqrt(len(found)), alone), slow_off * value))
    return None if value <= 0 or off > 0.6 * value else Told(value, off)


def _a_minute_after(log: Log, step: int) -> float | None:
    """dV / dI from the row before a step to a minute after it, less what the charge moved meanwhile changes.

    None where the current was not steady before it, or does not stay for most of that minute.
    """
    before_a, after_a = float(log.amps[step]), float(log.amps[step + 1])
    change_a = after_a - before_a
    first, last = step, step + 1
    while (
        first > 0
        and log.time_s[step] - log.time_s[first - 1] <= BEFORE_S
        and _near(log.amps[first - 1], before_a, change_a)
    ):
        first -= 1
    while (
        last + 1 < len(log.amps)
        and log.time_s[last + 1] - log.time_s[step] <= AFTER_S
        and _near(log.amps[last + 1], after_a, change_a)
    ):
        last += 1
    if log.time_s[step] - log.time_s[first] < BEFORE_S / 2 or log.time_s[last] - log.time_s[step] < AFTER_S / 2:
        return None
    moved_ah = log.charge_ah
    steady_ah = float(moved_ah[step] - moved_ah[first])
    volts_per_ah = float(log.volts[step] - log.volts[first]) / steady_ah if steady_ah else 0.0
    change_v = float(log.volts[last] - log.volts[step]) - volts_per_ah * float(moved_ah[last] - moved_ah[step])
    return abs(change_v / change_a)


def _near(current_a: float, to_a: float, change_a: float) -> bool:
    return bool(abs(current_a - to_a) < STEADY_SHARE * abs(change_a))
