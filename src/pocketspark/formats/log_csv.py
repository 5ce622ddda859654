"""Logs of meters as CSV of any common shape: separator, decimal comma, header words, units, kinds of time."""

import contextlib
import csv
import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import datetime

import numpy as np

from pocketspark.core.error import PocketSparkError
from pocketspark.core.logs.analysis import LogAnalysis
from pocketspark.core.logs.log import Log, log_of

LARGEST_BYTES = 60_000_000
# No row of a meter is longer; the patterns below take their time on one.
LONGEST_LINE = 2000
# What the simulated bench writes above its logs: no real build learns from one.
SIMULATED_LINE = "# simulated by the practice bench: nothing was measured"
# The header stands within this many characters, and with it the first line of figures.
HEADER_WITHIN = 100_000
# So many rows become numbers at once: nobody else is answered meanwhile.
ROWS_AT_ONCE = 5000
# Header words of each column, in the languages that meters' programs speak most.
WORDS: Mapping[str, tuple[str, ...]] = {
    "time": ("time", "elapsed", "seconds", "sec", "timestamp", "date", "zeit", "temps", "t"),
    "volts": ("voltage", "volts", "volt", "spannung", "tension", "vbus", "vbat", "u", "v"),
    "amps": ("current", "amps", "amp", "ampere", "strom", "courant", "ibus", "ibat", "i", "a"),
    "celsius": ("temperature", "temp", "temperatur", "celsius", "degc"),
}
_UNIT = re.compile(r"[\[(/ _]\s*(mv|v|ma|ua|µa|a|ms|s|sec|min|h|°?c)\s*[\])]?\s*$", re.I)
_SIZES = {
    "mv": 1e-3,
    "v": 1,
    "ma": 1e-3,
    "ua": 1e-6,
    "µa": 1e-6,
    "a": 1,
    "ms": 1e-3,
    "s": 1,
    "sec": 1,
    "min": 60,
    "h": 3600,
}
_DATES = ("%Y-%m-%d %H:%M:%S", "%Y/%m/%d %H:%M:%S", "%d.%m.%Y %H:%M:%S", "%m/%d/%Y %H:%M:%S", "%Y-%m-%dT%H:%M:%S")
_CLOCK = re.compile(r"(\d{1,6}):(\d{1,2})(?::(\d{1,2}(?:[.,]\d+)?))?$")


class UnreadableLog(PocketSparkError, ValueError):
    """The text is no log; the message says what is missing."""


@dataclass(frozen=True)
class ColumnPlaces:
    """Which column holds what, by its place; None where there is none."""

    time: int
    volts: int
    amps: int
    celsius: int | None = None


@dataclass(frozen=True)
class BadRow:
    """A row that was left out."""

    line: int
    why: str


@dataclass(frozen=True)
class ReadLog:
    """The log, its header, how its columns were taken, and every row that was not."""

    log: Log
    header: tuple[str, ...]
    mapping: ColumnPlaces
    bad_rows: tuple[BadRow, ...]
    simulated: bool = False  # of this tool's own bench, as its first line says


class AnalysedLog(LogAnalysis):
    """What a log shows, and which of its rows could not be read."""

    bad_rows: tuple[BadRow, ...]


def read_log(text: str | bytes, mapping: ColumnPlaces | None = None) -> ReadLog:
    """Read a log; `mapping` overrides what the header words say. Raises UnreadableLog, TooShort."""
    if len(text) > LARGEST_BYTES:
        raise UnreadableLog(f"the log is over {LARGEST_BYTES // 1_000_000} MB")
    if isinstance(text, bytes):
        text = text.decode("utf-8-sig", errors="replace")
    lines, broken = _sound_lines(text.splitlines())
    start = _first_data_line(lines)
    separator = _separator(lines[start])
    header = _header(lines, start, separator)
    width = len(next(csv.reader([lines[start]], delimiter=separator)))
    taken = mapping or _mapping(header, width)
    log = _columns(lines, start, separator, header, taken)
    bad_rows = tuple(sorted((*log.bad_rows, *broken), key=lambda row: row.line))
    return replace(log, bad_rows=bad_rows, simulated=lines[0].strip() == SIMULATED_LINE)


def _sound_lines(lines: list[str]) -> tuple[list[str], list[BadRow]]:
    """The lines, those that no meter writes emptied: one too long, or with a quote that is not closed on it."""
    broken = [
        number
        for number, line in enumerate(lines)
        if len(line) > LONGEST_LINE or ('"' in line and line.count('"') % 2 == 1)
    ]
    rows = [BadRow(number + 1, lines[number][:60]) for number in broken]
    for number in broken:
        lines[number] = ""
    return lines, rows


def header_of(text: str) -> tuple[str, ...]:
    """The header line's words; empty where there is none. Raises UnreadableLog."""
    lines, _ = _sound_lines(text[:HEADER_WITHIN].splitlines())
    start = _first_data_line(lines)
    return _header(lines, start, _separator(lines[start]))


def _first_data_line(lines: Sequence[str]) -> int:
    """The first line with three figures or more, after whatever the meter's program wrote above."""
    for number, line in enumerate(lines[:200]):
        separator = _separator(line)
        cells = [cell.strip().strip('"') for cell in line.split(separator)]
        if len(cells) >= 2 and sum(map(_looks_like_a_figure, cells)) >= 2:
            return number
    raise UnreadableLog("no line of figures was found: a log has time, volts and amps in columns")


def _looks_like_a_figure(cell: str) -> bool:
    return any(map(str.isdecimal, cell)) and not cell.strip("+-0123456789.,:/T ")


def _separator(line: str) -> str:
    """Tab and semicolon are unmistakable; a comma may be a decimal one."""
    for separator in ("\t", ";", "|"):
        if separator in line:
            return separator
    return "," if "," in line else " "


def _header(lines: Sequence[str], start: int, separator: str) -> tuple[str, ...]:
    if start == 0:
        return ()
    return tuple(cell.strip() for cell in next(csv.reader([lines[start - 1]], delimiter=separator), []))


def _mapping(header: Sequence[str], width: int) -> ColumnPlaces:
    """By header words; without any, time, volts, amps in this order."""
    if not header:
        if width < 3:
            raise UnreadableLog("without a header three columns are needed: time, volts, amps")
        return ColumnPlaces(0, 1, 2, 3 if width > 3 else None)
    found: dict[str, int] = {}
    for what, words in WORDS.items():
        for index, cell in enumerate(header):
            plain = [word for word in re.split(r"[^a-zµ°]+", cell.lower()) if word]
            if index not in found.values() and plain and plain[0] in words:
                found.setdefault(what, index)
    missing = [what for what in ("time", "volts", "amps") if what not in found]
    if missing:
        raise UnreadableLog(f"no column for {' and '.join(missing)} among: {', '.join(header)}")
    return ColumnPlaces(found["time"], found["volts"], found["amps"], found.get("celsius"))


def _columns(lines: Sequence[str], start: int, separator: str, header: tuple[str, ...], taken: ColumnPlaces) -> ReadLog:
    columns = [taken.time, taken.volts, taken.amps] + ([taken.celsius] if taken.celsius is not None else [])
    places = [(i, _size(header[i]) if i < len(header) else 1.0) for i in columns]
    rows: list[list[float]] = []
    tables: list[np.ndarray] = [np.empty((0, len(columns)))]
    bad: list[BadRow] = []
    reader = csv.reader(io.StringIO("\n".join(lines[start:])), delimiter=separator)
    for offset, row in enumerate(reader):
        try:
            rows.append(_plain_row(row, places))
        except (ValueError, IndexError):
            if any(cell.strip() for cell in row):
                bad.append(BadRow(start + offset + 1, separator.join(row)[:60]))
        if len(rows) == ROWS_AT_ONCE:
            tables.append(np.array(rows))
            rows = []
    table = np.concatenate([*tables, np.array(rows, dtype=float).reshape(len(rows), len(columns))])
    celsius = table[:, 3] if taken.celsius is not None else None
    log = log_of(_unwrapped(table[:, 0]), table[:, 1], table[:, 2], celsius)
    return ReadLog(log, header, taken, tuple(bad))


def _plain_row(row: Sequence[str], places: Sequence[tuple[int, float]]) -> list[float]:
    """Plain figures, as nearly all are; else read with care. Raises ValueError, IndexError."""
    try:
        return [float(row[place]) * size for place, size in places]
    except ValueError:
        (first, size), *others = places
        return [_time(row[first].strip()) * size, *(_figure(row[place]) * size for place, size in others)]


def _size(title: str) -> float:
    found = _UNIT.search(title)
    return float(_SIZES.get(found[1].lower(), 1.0)) if found else 1.0


def _figure(text: str) -> float:
    """A number with point or comma, and perhaps its unit behind it."""
    try:
        return float(text)
    except ValueError:
        cleaned = text.strip().replace(",", ".")
        found = re.fullmatch(r"([-+]?\d*\.?\d+(?:e[-+]?\d+)?)\s*(mv|v|ma|a|°?c)?", cleaned, re.I)
        if not found:
            raise
        return float(found[1]) * float(_SIZES.get((found[2] or "v").lower(), 1.0))


def _time(text: str) -> float:
    """Seconds from a number, a clock (h:mm:ss), or a date with a clock."""
    with contextlib.suppress(ValueError):
        return float(text)
    if found := _CLOCK.fullmatch(text):
        h, m, s = found[1], found[2], found[3]
        return int(h) * 3600 + int(m) * 60 + float((s or "0").replace(",", "."))
    if re.fullmatch(r"[-+]?\d+,\d+", text):
        return float(text.replace(",", "."))
    plain, _, fraction = text.partition(".") if text.count(".") == 1 else (text, "", "")
    for shape in _DATES:
        for candidate, rest in ((text, ""), (plain, fraction)):
            try:
                return datetime.strptime(candidate.rstrip("Z"), shape).timestamp() + float(f"0.{rest or 0}")
            except ValueError:
                continue
    raise ValueError(text)


def _unwrapped(time_s: np.ndarray) -> np.ndarray:
    """A clock that passes midnight goes on."""
    back = np.flatnonzero(np.diff(time_s) < -3600)
    for index in back:
        time_s[index + 1 :] += 86_400
    return time_s


def to_csv(log: Log, *, simulated: bool = False) -> str:
    """As this tool writes logs: seconds, volts, amps, and degrees where known; a simulated one says so first."""
    titles = "time_s,voltage_v,current_a" + (",temperature_c" if log.celsius is not None else "")
    shown_v = -log.volts if log.swapped else log.volts
    columns = [log.time_s, shown_v, log.amps] + ([log.celsius] if log.celsius is not None else [])
    rows = (f"{row[0]:.1f}," + ",".join(f"{value:.4f}" for value in row[1:]) for row in zip(*columns, strict=True))
    return "\n".join([*([SIMULATED_LINE] if simulated else []), titles, *rows, ""])
