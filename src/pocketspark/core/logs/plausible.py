"""Figures that no small cell has, and clocks that jump: asked about with the likely mend, or mended and told.

Nothing is judged by a figure that is in doubt: a wrong unit read as measured is worse than no reading.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.message import Message, once, say, say_of
from pocketspark.core.models.model import Model
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.units.figures import celsius, fixed, significant

MendKey = Literal[
    "volts_in_mv",
    "amps_in_ma",
    "amps_in_ua",
    "swapped_columns",
    "fahrenheit",
    "no_celsius",
    "mm:ss",
    "hh:mm",
    "the_charge",
    "the_run",
    "as_it_is",
]
# What a small lithium cell or its USB source can show (common practice, no source).
MOST_V, MOST_A, MOST_C, LEAST_C = 25.0, 20.0, 85.0, -25.0
# A gap of so many usual steps is rows lost; a jump this near to an hour is summer time.
GAP_STEPS, SUMMER_S, SUMMER_OFF_S = 20, 3600.0, 90.0
LEAST_GAP_S = 120.0
# Less of a file than this the other way is a meter's zero, or a moment on the charger.
TWO_RUNS_SHARE = 0.05


class Mend(Model):
    """One way to read the figures that are in doubt."""

    key: MendKey
    label: str


class Doubt(Model):
    """What cannot be so, in a sentence, and how it may be meant, likeliest first."""

    says: Message
    mends: tuple[Mend, ...]


@dataclass(frozen=True)
class Columns:
    """A log's columns before they are believed."""

    time_s: Floats
    volts: Floats
    amps: Floats
    celsius: Floats | None = None


AS_IT_IS = Mend(key="as_it_is", label="It is right as it is")


def mended(columns: Columns, keys: Sequence[MendKey]) -> Columns:
    """The columns as they were said to be meant."""
    for key in keys:
        if key == "volts_in_mv":
            columns = replace(columns, volts=columns.volts * 1e-3)
        elif key in ("amps_in_ma", "amps_in_ua"):
            columns = replace(columns, amps=columns.amps * (1e-3 if key == "amps_in_ma" else 1e-6))
        elif key == "swapped_columns":
            columns = replace(columns, volts=columns.amps, amps=columns.volts)
        elif key == "fahrenheit" and columns.celsius is not None:
            columns = replace(columns, celsius=(columns.celsius - 32) / 1.8)
        elif key == "no_celsius":
            columns = replace(columns, celsius=None)
        elif key in ("the_charge", "the_run"):
            columns = _one_way(columns, 1 if key == "the_charge" else -1)
    return columns


def doubts_of(columns: Columns, settled: Sequence[MendKey] = ()) -> tuple[Doubt, ...]:
    """What is still to be asked before anything is judged."""
    if "as_it_is" in settled:
        return ()
    return tuple(
        doubt
        for doubt in (_swapped(columns), *_sizes(columns), _degrees(columns), _both_ways(columns))
        if doubt is not None
    )


def _typical(values: Floats) -> float:
    known = values[np.isfinite(values)]
    return float(np.median(np.abs(known))) if len(known) else 0.0


def _most(values: Floats) -> float:
    known = values[np.isfinite(values)]
    return float(np.quantile(np.abs(known), 0.99)) if len(known) else 0.0


def _swapped(columns: Columns) -> Doubt | None:
    """Amperes that hold a cell's volts, and volts that no cell has."""
    volts, amps = _typical(columns.volts), _typical(columns.amps)
    spread = float(np.nanstd(columns.amps)) if np.isfinite(columns.amps).any() else 0.0
    if 2.2 < amps < 5.8 and volts < 2.0 and spread < 0.8:
        says = say(
            "No cell is at {volts} V while {amps} A flows. Volts and amps look swapped.",
            volts=fixed(volts, 2),
            amps=fixed(amps, 2),
        )
        return Doubt(says=says, mends=(Mend(key="swapped_columns", label="Swap the two columns"), AS_IT_IS))
    return None


def _sizes(columns: Columns) -> Iterator[Doubt | None]:
    volts, amps = _typical(columns.volts), _most(columns.amps)
    if volts > MOST_V:
        label = "It is in millivolts"
        says = say("No small cell has {volts} V.", volts=significant(volts, 4))
        yield Doubt(says=says, mends=(Mend(key="volts_in_mv", label=label), AS_IT_IS))
    if amps > MOST_A:
        mends = [Mend(key="amps_in_ma", label="It is in milliamperes")]
        if amps > 1000 * MOST_A:
            mends.insert(0, Mend(key="amps_in_ua", label="It is in microamperes"))
        yield Doubt(says=say("No small cell carries {amps} A.", amps=significant(amps, 4)), mends=(*mends, AS_IT_IS))


def _degrees(columns: Columns) -> Doubt | None:
    if columns.celsius is None or not np.isfinite(columns.celsius).any():
        return None
    known = columns.celsius[np.isfinite(columns.celsius)]
    first, most, least = float(known[0]), float(np.quantile(known, 0.99)), float(known.min())
    counts_up = abs(first) < 0.05 and known[-1] > 0.1 and bool((np.diff(known) >= -1e-3).all())
    if counts_up:
        says = say(
            "The column read as temperature begins at 0 and only rises, up to {last}. It looks like counted charge.",
            last=significant(float(known[-1]), 3),
        )
        return Doubt(says=says, mends=(Mend(key="no_celsius", label="It is no temperature"), AS_IT_IS))
    if most > MOST_C or least < LEAST_C or (first > 55 and most > 60):
        says = (
            say("The cell would be at {first} from the first row on.", first=celsius(first))
            if first > 55
            else say("No cell reaches {degrees}.", degrees=celsius(most if most > MOST_C else least))
        )
        mends = (Mend(key="fahrenheit", label="It is in Fahrenheit"), Mend(key="no_celsius", label="Leave it out"))
        return Doubt(says=says, mends=(*mends, AS_IT_IS))
    return None


def _both_ways(columns: Columns) -> Doubt | None:
    """Current into the cell and out of it: two runs in one file."""
    most = _most(columns.amps)
    if most == 0:
        return None
    into, out = (float(np.mean(way * columns.amps > 0.1 * most)) for way in (1, -1))
    if min(into, out) < TWO_RUNS_SHARE:
        return None
    return Doubt(
        says=say("Current flows one way and then the other: a charge and a run-down in one file."),
        mends=(Mend(key="the_charge", label="Read the charge"), Mend(key="the_run", label="Read the run-down")),
    )


def _one_way(columns: Columns, way: int) -> Columns:
    """From the first to the last row in which current flows this way; a charge counts as plus."""
    flowing = np.flatnonzero(way * columns.amps > 0.1 * _most(columns.amps))
    if not len(flowing):
        return columns
    part = slice(int(flowing[0]), int(flowing[-1]) + 1)
    celsius = None if columns.celsius is None else columns.celsius[part]
    return Columns(columns.time_s[part], columns.volts[part], way * columns.amps[part], celsius)


# Clocks --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Straightened:
    """Columns whose time rises, and what was done to them, in sentences; seconds of gaps that nobody saw."""

    columns: Columns
    says: tuple[Message, ...]
    unseen_s: float


def straightened(columns: Columns) -> Straightened:
    """Midnight, summer time, a meter that began anew, rows twice: mended and told. Rows lost: told."""
    says: list[Message] = []
    columns = _without_repeats(columns, says)
    time_s = columns.time_s.copy()
    steps = np.diff(time_s)
    forward = steps[steps > 0]
    usual = float(np.median(forward)) if len(forward) else 1.0
    for index in np.flatnonzero(steps < 0):
        back = time_s[index] - time_s[index + 1]
        if abs(back - 86_400 + usual) < 3600 + usual:
            time_s[index + 1 :] += 86_400.0
        elif abs(back - SUMMER_S) < SUMMER_OFF_S + usual:
            time_s[index + 1 :] += SUMMER_S
            says.append(say("The clock was set back by an hour in the middle. The times are corrected."))
        else:
            time_s[index + 1 :] += back + usual
            says.append(
                say("The meter started counting again in the middle. The later rows are put after the earlier.")
            )
    for index in np.flatnonzero(np.abs(np.diff(time_s) - SUMMER_S - usual) < min(SUMMER_OFF_S, 0.02 * SUMMER_S)):
        if usual < 300 and abs(columns.volts[index + 1] - columns.volts[index]) < 0.01:
            time_s[index + 1 :] -= SUMMER_S
            says.append(say("The clock was set forward by an hour in the middle. The times are corrected."))
    gaps = np.diff(time_s)
    lost = gaps[(gaps > GAP_STEPS * usual) & (gaps > LEAST_GAP_S)]
    if len(lost):
        says.append(
            say_of(
                len(lost),
                "Rows are missing once, over {longest} minutes.",
                "Rows are missing {count} times, over {longest} minutes at the longest.",
                longest=fixed(lost.max() / 60, 0),
            )
        )
    return Straightened(replace(columns, time_s=time_s), once(says), float(lost.sum()))


def _without_repeats(columns: Columns, says: list[Message]) -> Columns:
    same = np.concatenate([[False], (np.diff(columns.time_s) == 0) & (np.diff(columns.volts) == 0)])
    same &= np.concatenate([[False], np.diff(columns.amps) == 0])
    count = int(same.sum())
    if count == 0 or count > 0.6 * len(same):
        return columns
    says.append(say_of(count, "1 row is repeated and left out.", "{count} rows are repeated and left out."))
    kept = ~same
    celsius = None if columns.celsius is None else columns.celsius[kept]
    return Columns(columns.time_s[kept], columns.volts[kept], columns.amps[kept], celsius)


def log_from_columns(columns: Columns) -> Log:
    """As a log. Raises TooShort."""
    from pocketspark.core.logs.log import log_of

    return log_of(columns.time_s, columns.volts, columns.amps, columns.celsius)
