"""A recorded current as the load as it is lived: how much, how long, how often, what flows between, and how sure."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.error import PocketSparkError
from pocketspark.core.logs.log import Log
from pocketspark.core.message import Message, say
from pocketspark.core.models.load_line import DrawnCurrent, written
from pocketspark.core.models.load_words import DAY_S
from pocketspark.core.models.tools import METERS
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.units.figures import amps, percent

# Less between high and low than this is one steady current.
LEVELS_APART = 1.5
# A use whose current reaches this many times its mean has a peak of its own.
PEAK_OVER = 1.5
# Starts that come within this share of their mean distance are a beat, and not chance.
REGULAR = 0.2


class NoLoadInLog(PocketSparkError, ValueError):
    """The log tells no use; the message says what to record instead."""


@dataclass(frozen=True)
class LoadProfile:
    """The line that says the load; its mean current, and how far that can be off, as a share."""

    line: Message
    average_a: float
    off: float

    @property
    def says(self) -> Message:
        return say(
            "The log draws {average} on average, give or take {off}.",
            average=amps(self.average_a),
            off=percent(self.off),
        )


@dataclass(frozen=True)
class _Uses:
    """Stretches in which more than the sleep current flows: when each begins, how long it lasts, and its charge, As."""

    starts_s: Floats
    lasts_s: Floats
    charge_as: Floats


def load_profile(log: Log, meter_share: float = METERS["usual"].right_to) -> LoadProfile:
    """Read a log of a gadget in use. Raises NoLoadInLog where nothing flows, or one use alone is in it.

    `meter_share`: what the meter that wrote it is right to.
    """
    spans_s = np.diff(log.time_s, append=log.time_s[-1] + float(np.median(np.diff(log.time_s))))
    flows = np.abs(log.amps)
    average_a = float(np.average(flows, weights=spans_s))
    if average_a <= 0:
        raise NoLoadInLog(str(say("No current flows in this log. Record the gadget in use.")))
    low_a, high_a = (float(np.quantile(flows, share)) for share in (0.05, 0.995))
    if high_a < LEVELS_APART * max(low_a, 1e-9):
        return LoadProfile(
            written([DrawnCurrent(_rounded(average_a), hours_per_day=24.0)], 0.0), average_a, meter_share
        )
    is_on = flows > np.sqrt(max(low_a, high_a * 1e-3) * high_a)
    uses = _uses(log.time_s, spans_s, flows, is_on)
    if len(uses.starts_s) < 2:
        raise NoLoadInLog(
            str(say("The log holds one use alone, and not how often it comes. Record for longer, or type the line."))
        )
    asleep_a = float(np.average(flows[~is_on], weights=spans_s[~is_on]))
    drawn = _drawn(uses, flows[is_on], spans_s[is_on])
    return LoadProfile(written([drawn], _rounded(asleep_a)), average_a, float(np.hypot(meter_share, _chance(uses))))


def _chance(uses: _Uses) -> float:
    """How far the mean of so few uses may be from that of all: 95 of 100 times, by Student's t near enough."""
    count = len(uses.charge_as)
    spread = float(np.std(uses.charge_as, ddof=1) / np.mean(uses.charge_as)) / np.sqrt(count)
    return float((2 + 2.5 / (count - 1)) * spread)


def _uses(time_s: Floats, spans_s: Floats, flows: Floats, is_on: NDArray[np.bool_]) -> _Uses:
    """Whole ones: a use in which the log begins or ends says not how long it lasts."""
    edges = np.flatnonzero(np.diff(np.concatenate([[False], is_on, [False]]).astype(int)))
    first, last = edges[::2], edges[1::2]
    whole = (first > 0) & (last < len(is_on))
    first, last = first[whole], last[whole]
    charge_as = np.concatenate([[0.0], np.cumsum(flows * spans_s)])
    until_s = np.cumsum(spans_s) + time_s[0]
    return _Uses(time_s[first], until_s[last - 1] - time_s[first], charge_as[last] - charge_as[first])


def _drawn(uses: _Uses, flows: Floats, spans_s: Floats) -> DrawnCurrent:
    """The mean of all uses; by their beat, or by how many come in a day where they keep none."""
    lasts_s, apart_s = float(np.mean(uses.lasts_s)), np.diff(uses.starts_s)
    mean_apart_s = float(np.mean(apart_s))
    current_a = float(np.mean(uses.charge_as)) / lasts_s
    beats = float(np.std(apart_s)) < REGULAR * mean_apart_s
    every_s = _rounded(mean_apart_s) if beats else DAY_S / max(round(DAY_S / mean_apart_s), 1)
    peak_a = float(np.quantile(flows, 0.99))
    peak_s = float(spans_s[flows > (peak_a + current_a) / 2].sum()) / len(uses.starts_s)
    has_peak = peak_a > PEAK_OVER * current_a
    return DrawnCurrent(
        _rounded(current_a),
        hours_per_day=24.0,
        on_s=_rounded(lasts_s),
        every_s=every_s,
        peak_a=_rounded(peak_a) if has_peak else None,
        peak_s=_rounded(peak_s) if has_peak else None,
    )


def _rounded(value: float) -> float:
    """To three digits: no log tells more."""
    return float(f"{value:.3g}")
