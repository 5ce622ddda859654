"""What a log tells of the cell itself, each figure with a give-or-take that covers the truth in 95 of 100 logs.

Charge is counted and never guessed: a log that begins or ends in the middle tells no capacity. Resistance is read from
steps of the current alone: the shape of a curve may be that of another chemistry.
"""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.physics.ocv import OcvCurve

# Within these shares of its charge a cell counts as empty when a log begins, and as full.
EMPTY_SHARE, FULL_SHARE = 0.15, 0.88
# A charge that ended at no more than this share of its plateau ended full.
END_SHARE = 0.2
# Meters of makers, and what curves of one class differ by (common practice, no source): each as a share of the charge.
METER_OFF, CURVE_OFF = 0.02, 0.04
# A cell of one ampere-hour seldom has more than this; a larger one has less (common practice, no source).
MOST_OHM_AH = 0.30
# More of the time than this unseen, and what flowed meanwhile is a guess.
UNSEEN_SHARE = 0.02
# A clean step: by this share of the plateau, within so many seconds.
STEP_SHARE, STEP_S = 0.3, 15.0
LEAST_STEPS = 2


@dataclass(frozen=True)
class Told:
    """A figure and its give-or-take."""

    value: float
    off: float


def capacity_of_charge(
    log: Log, curve: OcvCurve, plateau_a: float, end_a: float | None, unseen_s: float = 0.0
) -> Told | None:
    """Ah, from a charge that began empty and ended by itself; None from any other.

    While it charges a cell's terminals stand above its open-circuit volts: by them it was no fuller than this.
    """
    flowing = np.flatnonzero(log.amps > 0.04 * plateau_a)
    if len(flowing) < 5 or end_a is None or end_a > END_SHARE * plateau_a or _unseen(log, unseen_s):
        return None
    began = float(curve.soc_at(float(np.median(log.volts[flowing[:3]]))))
    if began > EMPTY_SHARE:
        return None
    # What the end current leaves undone is about a twentieth of its share of the plateau.
    return _counted(float(log.charge_ah[-1]), 0.0, began, besides=0.05 * end_a / plateau_a)


def capacity_of_run(log: Log, curve: OcvCurve, resistance: Told | None, unseen_s: float = 0.0) -> Told | None:
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
    return _counted(moved_ah, least, most, besides=(1 - began) / 2)


def _counted(moved_ah: float, least: float, most: float, besides: float) -> Told:
    """The charge moved over the share of the cell that it was; what of it is not known goes into the give-or-take.

    Between `least` and `most` of the cell was not moved at its empty end, and `besides` not at its full one.
    """
    share = 1 - (least + most) / 2 - besides
    value = moved_ah / share
    off = value * float(np.hypot(np.hypot(METER_OFF, CURVE_OFF), (most - least) / 2 / share))
    return Told(value, off)


def _unseen(log: Log, unseen_s: float) -> bool:
    return unseen_s > UNSEEN_SHARE * float(log.time_s[-1])


def resistance_of(log: Log, plateau_a: float) -> Told | None:
    """Ohm, from sudden changes of the current: dV / dI, at least two of them that agree."""
    if log.is_usb_side:
        return None
    change_a, change_v = np.diff(log.amps), np.diff(log.volts)
    quick = np.diff(log.time_s) <= STEP_S
    steps = np.flatnonzero((np.abs(change_a) > STEP_SHARE * plateau_a) & quick)
    if len(steps) < LEAST_STEPS:
        return None
    found = np.abs(change_v[steps] / change_a[steps])
    value = float(np.median(found))
    scatter = float(np.median(np.abs(found - value))) * 1.48
    noise_v = float(np.median(np.abs(np.diff(log.volts)))) + 1e-3
    alone = 2 * noise_v / float(np.median(np.abs(change_a[steps]))) / float(np.sqrt(len(steps)))
    # The longer after a step it is read, the more of the cell's slow part is in it.
    off = float(np.hypot(np.hypot(2 * scatter / np.sqrt(len(steps)), alone), 0.1 * value))
    return None if value <= 0 or off > 0.6 * value else Told(value, off)
