"""The time column of a log: numbers, clocks, dates with clocks and epochs, as meters write them, in seconds.

The shape is judged once, from the whole column, and then every row is read by it.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from pocketspark.core.physics.ocv import Floats

# A number this large is no stopwatch: seconds, milliseconds or microseconds since 1970 (2001 to 2286).
_EPOCHS = ((1e15, 1e-6), (1e12, 1e-3), (1e9, 1.0))
_CLOCK = re.compile(r"(\d{1,6}):(\d{1,2})(?::(\d{1,2}(?:[.,]\d+)?))?\s*([ap])?\.?m?\.?$", re.I)
_DATES = ("%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y", "%d.%m.%y", "%d/%m/%Y", "%m/%d/%Y", "%d-%m-%Y", "%m-%d-%Y", "%Y%m%d")
_DAY_S = 86_400.0
_HALF_DAY_H = 12


@dataclass(frozen=True)
class ReadTimes:
    """Seconds of each row, NaN where it has none; how it was read, in words; whether two-part clocks are unclear."""

    seconds: Floats
    says: str
    unclear: bool = False


def read_times(cells: Sequence[str], size: float, clock: str = "") -> ReadTimes:
    """`size`: seconds of one unit of a plain number. `clock`: what a two-part clock is, "mm:ss" or "hh:mm", if told."""
    sample = [cell.strip() for cell in cells if cell.strip()][:50]
    if not sample:
        return ReadTimes(np.full(len(cells), np.nan), "no time")
    if sum(_is_number(cell) for cell in sample) > len(sample) / 2:
        return _numbers(cells, size)
    if sum(bool(_CLOCK.match(cell)) for cell in sample) > len(sample) / 2:
        return _clocks(cells, clock)
    for reader, says in _date_readers(sample):
        seconds = _each(cells, reader)
        if np.isfinite(seconds).sum() >= max(1, np.isfinite(seconds).size // 2):
            return ReadTimes(seconds, says)
    return ReadTimes(np.full(len(cells), np.nan), "no time that could be read")


def _each(cells: Sequence[str], reader: Callable[[str], float]) -> Floats:
    seconds = np.full(len(cells), np.nan)
    for index, cell in enumerate(cells):
        try:
            seconds[index] = reader(cell.strip())
        except (ValueError, OverflowError):
            continue
    return seconds


def _is_number(text: str) -> bool:
    try:
        float(text.replace(",", "."))
    except ValueError:
        return False
    return True


def _numbers(cells: Sequence[str], size: float) -> ReadTimes:
    return ReadTimes(*of_numbers(numbers_of(cells), size))


def numbers_of(cells: Sequence[str]) -> Floats:
    """Each as a plain number with point or comma; NaN where it is none."""
    return _each(cells, lambda cell: float(cell.replace(",", ".")))


def of_numbers(values: Floats, size: float) -> tuple[Floats, str]:
    """Plain numbers in seconds: by the unit of their title, or by their size where they count from 1970."""
    middle = float(np.nanmedian(values)) if np.isfinite(values).any() else 0.0
    for least, epoch_size in _EPOCHS:
        if middle >= least and size == 1:
            return (values - np.nanmin(values)) * epoch_size, "as counted from 1970"
    return values * size, "as numbers"


def _clocks(cells: Sequence[str], titled: str) -> ReadTimes:
    parts = [_CLOCK.match(cell.strip()) for cell in cells]
    if any(part and (part[3] or part[4]) for part in parts):
        return ReadTimes(_each(cells, _clock_s), "as clocks")
    pairs = np.array([[float(p[1]), float(p[2])] if p else [np.nan, np.nan] for p in parts])
    kind = titled or _two_part_kind(pairs)
    seconds = pairs[:, 0] * 3600 + pairs[:, 1] * 60 if kind != "mm:ss" else pairs[:, 0] * 60 + pairs[:, 1]
    words = {"mm:ss": "as minutes and seconds", "hh:mm": "as hours and minutes", "": "as hours and minutes"}
    return ReadTimes(seconds, words[kind], unclear=not kind)


def _two_part_kind(pairs: Floats) -> str:
    """By their progress: rows that share a clock come several a minute; hours end at 24, and minutes at 60."""
    known = pairs[np.isfinite(pairs).all(axis=1)]
    if len(known) < 2:
        return ""
    repeated = float(np.mean((np.diff(known, axis=0) == 0).all(axis=1)))
    if repeated > 0.2:
        return "hh:mm"  # a meter writes no two rows in one second as a rule, and several in a minute
    before, after = known[:-1, 0], known[1:, 0]
    if ((before == 23) & (after == 0)).any() and known[:, 0].max() == 23:
        return "hh:mm"
    if known[:, 0].max() >= 24 or ((before == 59) & (after == 0)).any():
        return "mm:ss"
    return ""


def _clock_s(cell: str) -> float:
    part = _CLOCK.match(cell)
    if part is None:
        raise ValueError(cell)
    hour = int(part[1])
    if part[4]:
        hour = hour % _HALF_DAY_H + (_HALF_DAY_H if part[4].lower() == "p" else 0)
    return hour * 3600 + int(part[2]) * 60 + float((part[3] or "0").replace(",", "."))


def _date_readers(sample: Sequence[str]) -> list[tuple[Callable[[str], float], str]]:
    """Ways to read a date with a clock, those first that read all of the sample."""
    ways: list[tuple[Callable[[str], float], str]] = [(_iso_s, "as dates and clocks")]
    ways += [(_dated_by(shape), "as dates and clocks") for shape in _DATES]

    def unread(way: tuple[Callable[[str], float], str]) -> int:
        return int(np.isnan(_each(sample, way[0])).sum())

    return sorted(ways, key=unread)


def _iso_s(text: str) -> float:
    return datetime.fromisoformat(text.replace(",", ".")).timestamp()


def _dated_by(shape: str) -> Callable[[str], float]:
    def seconds(text: str) -> float:
        day, _, clock = text.replace("T", " ").partition(" ")
        # Days are counted and clocks added: no time zone of this machine, and no summer time, comes in between.
        days = datetime.strptime(day.rstrip(","), shape).toordinal()
        return days * _DAY_S + (_clock_s(clock.strip()) if clock.strip() else 0.0)

    return seconds
