"""The time column of a log: numbers, clocks, dates with clocks and epochs, as meters write them, in seconds.

The shape is judged once, from the whole column, and then every row is read by it.
"""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime

import numpy as np

from pocketspark.core.physics.ocv import Floats
from pocketspark.formats.log_cells import number_of

# A number this large is no stopwatch: seconds, milliseconds or microseconds since 1970 (2001 to 2286).
_EPOCHS = ((1e15, 1e-6), (1e12, 1e-3), (1e9, 1.0))
_CLOCK = re.compile(r"(\d{1,6}):(\d{1,2})(?::(\d{1,2}(?:[.,]\d+)?))?\s*([ap])?\.?m?\.?$", re.I)
_DATES = ("%Y-%m-%d", "%Y/%m/%d", "%d.%m.%Y", "%d.%m.%y", "%d/%m/%Y", "%m/%d/%Y", "%d-%m-%Y", "%m-%d-%Y", "%Y%m%d")
# "1h 02m 03s", "2d 04:05:06", and how some programs write the latter: "2.04:05:06".
_WORDED = re.compile(
    r"(?:(\d+)\s*d(?:ays?)?[\s,]*)?(?:(\d+)\s*h(?:\w*)[\s,]*)?(?:(\d+)\s*m(?:in\w*)?[\s,]*)?"
    r"(?:(\d+(?:[.,]\d+)?)\s*s(?:ec\w*)?)?",
    re.I,
)
_DAYS_AND_CLOCK = re.compile(r"(\d+)\s*(?:d(?:ays?)?[\s,]+|\.(?=\d{1,2}:))(\d{1,2}:\d{1,2}:\d{1,2}(?:[.,]\d+)?)", re.I)
_DAY_S = 86_400.0
# Days of a spreadsheet since 1900 (1954 to 2119): seconds that large would not go on for less than a minute.
_SERIAL_DAYS, _SERIAL_SPAN = (20_000.0, 80_000.0), 60.0
_SAMPLE = 50
_HALF_DAY_H = 12


@dataclass(frozen=True)
class ReadTimes:
    """Seconds of each row, NaN where it has none; how it was read, in words; whether two-part clocks are unclear."""

    seconds: Floats
    says: str
    unclear: bool = False
    of_a_clock: bool = False  # of a day, and not counted since the beginning


def read_times(cells: Sequence[str], size: float, clock: str = "") -> ReadTimes:
    """`size`: seconds of one unit of a plain number. `clock`: what a two-part clock is, "mm:ss" or "hh:mm", if told."""
    filled = [cell.strip() for cell in cells if cell.strip()]
    # From all of it: before midnight a day may as well be a month.
    sample = filled[:: max(1, len(filled) // _SAMPLE)]
    if not sample:
        return ReadTimes(np.full(len(cells), np.nan), "no time")
    if sum(_is_number(cell) for cell in sample) > len(sample) / 2:
        return _numbers(cells, size)
    if sum(bool(_CLOCK.match(cell)) for cell in sample) > len(sample) / 2:
        return _clocks(cells, clock)
    if sum(_is_worded(cell) for cell in sample) > len(sample) / 2:
        return ReadTimes(_each(cells, _worded_s), "as days, hours, minutes and seconds")
    for reader, says in _date_readers(sample):
        seconds = _each(cells, reader)
        if np.isfinite(seconds).sum() >= max(1, np.isfinite(seconds).size // 2):
            return ReadTimes(seconds, says, of_a_clock=True)
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
        number_of(text)
    except ValueError:
        return False
    return True


def _is_worded(text: str) -> bool:
    return bool(text) and (_WORDED.fullmatch(text) or _DAYS_AND_CLOCK.fullmatch(text)) is not None


def _worded_s(text: str) -> float:
    if clock := _DAYS_AND_CLOCK.fullmatch(text):
        return int(clock[1]) * _DAY_S + _clock_s(clock[2])
    part = _WORDED.fullmatch(text)
    if part is None or not any(part.groups()):
        raise ValueError(text)
    sizes = (_DAY_S, 3600.0, 60.0, 1.0)
    return sum(float((of or "0").replace(",", ".")) * size for of, size in zip(part.groups(), sizes, strict=True))


def _numbers(cells: Sequence[str], size: float) -> ReadTimes:
    return ReadTimes(*of_numbers(numbers_of(cells), size))


def numbers_of(cells: Sequence[str]) -> Floats:
    """Each as a plain number with point or comma; NaN where it is none."""
    return _each(cells, number_of)


def of_numbers(values: Floats, size: float) -> tuple[Floats, str]:
    """Plain numbers in seconds: by the unit of their title, or by their size where they count from 1970."""
    middle = float(np.nanmedian(values)) if np.isfinite(values).any() else 0.0
    for least, epoch_size in _EPOCHS:
        if middle >= least and size == 1:
            return (values - np.nanmin(values)) * epoch_size, "as counted from 1970"
    known = values[np.isfinite(values)]
    is_late = _SERIAL_DAYS[0] <= middle <= _SERIAL_DAYS[1]
    if size == 1 and is_late and len(known) > 1 and np.ptp(known) < _SERIAL_SPAN and _step(known) < 0.1:
        return values * _DAY_S, "as a spreadsheet's days"
    return values * size, "as numbers"


def _step(known: Floats) -> float:
    return float(np.median(np.abs(np.diff(known))))


def _clocks(cells: Sequence[str], titled: str) -> ReadTimes:
    parts = [_CLOCK.match(cell.strip()) for cell in cells]
    if any(part and (part[3] or part[4]) for part in parts):
        return ReadTimes(_each(cells, _clock_s), "as clocks", of_a_clock=True)
    pairs = np.array([[float(p[1]), float(p[2])] if p else [np.nan, np.nan] for p in parts])
    kind = titled or _two_part_kind(pairs)
    seconds = pairs[:, 0] * 3600 + pairs[:, 1] * 60 if kind != "mm:ss" else pairs[:, 0] * 60 + pairs[:, 1]
    words = {"mm:ss": "as minutes and seconds", "hh:mm": "as hours and minutes", "": "as hours and minutes"}
    return ReadTimes(seconds, words[kind], unclear=not kind, of_a_clock=True)


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

    def unlikely(way: tuple[Callable[[str], float], str]) -> tuple[int, int, float]:
        """Days and months are told apart by what goes on without a jump, and takes least time."""
        seconds = _each(sample, way[0])
        known = seconds[np.isfinite(seconds)]
        back = int((np.diff(known) < 0).sum())
        return int(np.isnan(seconds).sum()), back, float(np.ptp(known)) if len(known) else 0.0

    return sorted(ways, key=unlikely)


def _iso_s(text: str) -> float:
    return datetime.fromisoformat(text.replace(",", ".")).timestamp()


def _dated_by(shape: str) -> Callable[[str], float]:
    def seconds(text: str) -> float:
        day, _, clock = text.replace("T", " ").partition(" ")
        # Days are counted and clocks added: no time zone of this machine, and no summer time, comes in between.
        days = datetime.strptime(day.rstrip(","), shape).toordinal()
        return days * _DAY_S + (_clock_s(clock.strip()) if clock.strip() else 0.0)

    return seconds
