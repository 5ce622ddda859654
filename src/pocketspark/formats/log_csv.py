"""Logs of meters as CSV of any common shape: separator, decimal comma, header words, units, kinds of time."""

import codecs
import csv
import io
import re
import warnings
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.analysis import LogAnalysis
from pocketspark.core.logs.log import Log
from pocketspark.core.logs.plausible import Columns, Doubt, MendKey, doubts_of, log_from_columns, mended, straightened
from pocketspark.core.physics.ocv import Floats
from pocketspark.formats import log_times
from pocketspark.formats.log_cells import cells_of, figure_of, separator_of
from pocketspark.formats.log_header import ColumnPlaces, UnreadableLog, is_units_row, places_by, size_of, unit_of

__all__ = ["AnalysedLog", "BadRow", "ColumnPlaces", "ReadLog", "UnreadableLog", "header_of", "read_log", "to_csv"]

LARGEST_BYTES = 60_000_000
# No row of a meter is longer; the patterns below take their time on one.
LONGEST_LINE = 2000
# What the simulated bench writes above its logs: no real build learns from one.
SIMULATED_LINE = "# simulated by the practice bench: nothing was measured"
# So many rows become numbers at once: nobody else is answered meanwhile.
ROWS_AT_ONCE = 5000
# The header stands within this many characters, and with it the first line of figures.
HEADER_WITHIN = 100_000


@dataclass(frozen=True)
class BadRow:
    """A row that was left out."""

    line: int
    why: str


@dataclass(frozen=True)
class ReadLog:
    """The log, its header, how its columns were taken, and every row that was not.

    `says`: how it was read and what was mended. `doubts`: what has to be asked before anything is judged by it.
    `unseen_s`: for so long nobody wrote anything down, though it went on.
    """

    log: Log
    header: tuple[str, ...]
    mapping: ColumnPlaces
    bad_rows: tuple[BadRow, ...]
    simulated: bool = False  # of this tool's own bench, as its first line says
    says: tuple[str, ...] = ()
    doubts: tuple[Doubt, ...] = ()
    unseen_s: float = 0.0


class AnalysedLog(LogAnalysis):
    """What a log shows, and which of its rows could not be read."""

    bad_rows: tuple[BadRow, ...]


def read_log(text: str | bytes, mapping: ColumnPlaces | None = None, mends: Sequence[MendKey] = ()) -> ReadLog:
    """Read a log; `mapping` overrides what the header words say, `mends` settle its doubts.

    Raises UnreadableLog, TooShort.
    """
    if len(text) > LARGEST_BYTES:
        raise UnreadableLog(f"the log is over {LARGEST_BYTES // 1_000_000} MB")
    if isinstance(text, bytes):
        text = _decoded(text)
    lines, broken = _sound_lines(text.removeprefix("\ufeff").splitlines())
    start = _first_data_line(lines)
    separator = separator_of(lines[start])
    header = _header(lines, start, separator)
    width = len(next(csv.reader([lines[start]], delimiter=separator)))
    places, remarks = (mapping, ()) if mapping else places_by(header, width)
    clock = next((key for key in mends if key in ("mm:ss", "hh:mm")), _told_clock(header, places))
    columns, time, bad = _columns(lines, start, separator, header, places, clock)
    straight = straightened(columns)
    doubts = doubts_of(mended(straight.columns, mends), mends)
    if time.unclear:
        doubts = (_unclear_clock(), *doubts)
    return ReadLog(
        log=log_from_columns(mended(straight.columns, mends)),
        header=header,
        mapping=places,
        bad_rows=tuple(sorted((*bad, *broken), key=lambda row: row.line)),
        simulated=lines[0].strip() == SIMULATED_LINE,
        says=(*remarks, f"Time is read {time.says}.", *straight.says),
        doubts=doubts,
        unseen_s=straight.unseen_s,
    )


def _decoded(data: bytes) -> str:
    """UTF-8, UTF-16 with or without its mark, else as western programs wrote."""
    if data.startswith((codecs.BOM_UTF16_LE, codecs.BOM_UTF16_BE)):
        return data.decode("utf-16", errors="replace")
    if data[:200].count(0) > len(data[:200]) // 4:
        return data.decode("utf-16-le" if data[1:2] == b"\0" else "utf-16-be", errors="replace")
    try:
        return data.decode("utf-8-sig")
    except UnicodeDecodeError:
        return data.decode("cp1252", errors="replace")


def _unclear_clock() -> Doubt:
    return Doubt.model_validate(
        {
            "says": "Whether its clock is minutes and seconds or hours and minutes cannot be told.",
            "mends": [
                {"key": "mm:ss", "label": "Minutes and seconds"},
                {"key": "hh:mm", "label": "Hours and minutes"},
            ],
        }
    )


def _told_clock(header: Sequence[str], places: ColumnPlaces) -> str:
    """What the title itself says of a clock: "Time (mm:ss)"."""
    title = header[places.time].lower() if places.time < len(header) else ""
    return next((kind for kind in ("mm:ss", "hh:mm") if kind in title and "hh:mm:ss" not in title), "")


# Lines ---------------------------------------------------------------------------------------------------------


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
    return lines or [""], rows


def header_of(text: str) -> tuple[str, ...]:
    """The header line's words; empty where there is none. Raises UnreadableLog."""
    lines, _ = _sound_lines(text[:HEADER_WITHIN].removeprefix("\ufeff").splitlines())
    start = _first_data_line(lines)
    return _header(lines, start, separator_of(lines[start]))


def _first_data_line(lines: Sequence[str]) -> int:
    """The first line with three figures or more, after whatever the meter's program wrote above."""
    for number, line in enumerate(lines[:200]):
        if line.lstrip().startswith(("#", "//")):
            continue
        cells = [cell.strip().strip('"') for cell in line.split(separator_of(line))]
        if len(cells) >= 2 and sum(map(_looks_like_a_figure, cells)) >= 2:
            return number
    raise UnreadableLog("no line of figures was found: a log has time, volts and amps in columns")


def _looks_like_a_figure(cell: str) -> bool:
    return any(map(str.isdecimal, cell)) and not re.sub(r"\s*([mµu]?[va]|°?c|s|min|h)$", "", cell, flags=re.I).strip(
        "+-0123456789.,:/TZeE amp"
    )


def _header(lines: Sequence[str], start: int, separator: str) -> tuple[str, ...]:
    """The titles above the first row; a row of units below them is put behind each."""
    if start == 0:
        return ()
    titles = cells_of(lines[start - 1].lstrip("#/ "), separator)
    if start > 1 and is_units_row(titles):
        above = cells_of(lines[start - 2].lstrip("#/ "), separator)
        units = [*titles, *[""] * len(above)]
        titles = [
            f"{title} ({unit.strip('[]() ')})" if unit.strip() else title
            for title, unit in zip(above, units, strict=False)
        ]
    named = [title for title in titles if any(map(str.isalpha, title))]
    return tuple(titles) if len(named) >= 2 else ()


# Columns -------------------------------------------------------------------------------------------------------


def _columns(
    lines: Sequence[str], start: int, separator: str, header: tuple[str, ...], places: ColumnPlaces, clock: str
) -> tuple[Columns, log_times.ReadTimes, list[BadRow]]:
    wanted = [places.volts, places.amps] + ([places.celsius] if places.celsius is not None else [])
    sizes = [size_of(header[place]) if place < len(header) else 1.0 for place in wanted]
    time_size = size_of(header[places.time]) if places.time < len(header) else 1.0
    gathered = _Gathered(wanted, sizes, places)
    for first in range(start, len(lines), ROWS_AT_ONCE):
        part = lines[first : first + ROWS_AT_ONCE]
        table = _plain_table(part, separator) if places.date is None else None
        if table is not None and max(places.time, *wanted) < table.shape[1]:
            gathered.take_plain(table, first)
        else:
            gathered.take_rows(_rows(part, first, separator), separator)
    table = np.concatenate([np.empty((0, len(wanted))), *gathered.blocks])
    read = gathered.times(time_size, clock)
    for row in np.flatnonzero(np.isnan(read.seconds)).tolist():
        gathered.bad.append(BadRow(gathered.line_of(row) + 1, "no time that could be read"))
    celsius = table[:, 2] if places.celsius is not None else None
    if celsius is not None and places.celsius is not None and places.celsius < len(header):
        celsius = (celsius - 32) / 1.8 if unit_of(header[places.celsius]) == "f" else celsius
    return Columns(read.seconds, table[:, 0], table[:, 1], celsius), read, gathered.bad


class _Gathered:
    """Rows as they come, blocks of plain figures beside rows that need care; their times are read at the end."""

    def __init__(self, wanted: Sequence[int], sizes: Sequence[float], places: ColumnPlaces) -> None:
        self.wanted, self.sizes, self.places = list(wanted), list(sizes), places
        self.blocks: list[Floats] = []
        self.bad: list[BadRow] = []
        self._times: list[Floats | list[str]] = []  # of each block
        self._lines: list[Sequence[int]] = []

    def take_plain(self, table: Floats, first: int) -> None:
        self._times.append(table[:, self.places.time])
        self.blocks.append(table[:, self.wanted] * self.sizes)
        self._lines.append(range(first, first + len(table)))

    def take_rows(self, rows: Iterator[tuple[int, list[str]]], separator: str) -> None:
        times: list[str] = []
        values: list[list[float]] = []
        lines: list[int] = []
        for line, cells in rows:
            try:
                read = [figure_of(cells[place]) * size for place, size in zip(self.wanted, self.sizes, strict=True)]
                time = self._time_of(cells)
            except (ValueError, IndexError):
                if any(cell.strip() for cell in cells):
                    self.bad.append(BadRow(line + 1, separator.join(cells)[:60]))
                continue
            values.append(read)
            times.append(time)
            lines.append(line)
        self.blocks.append(np.array(values, dtype=float).reshape(len(values), len(self.wanted)))
        self._times.append(times)
        self._lines.append(lines)

    def _time_of(self, cells: Sequence[str]) -> str:
        clock = cells[self.places.time].strip()
        if not any(map(str.isdecimal, clock)):
            raise ValueError(clock)
        return clock if self.places.date is None else f"{cells[self.places.date].strip()} {clock}"

    def times(self, size: float, clock: str) -> log_times.ReadTimes:
        arrays = [block for block in self._times if isinstance(block, np.ndarray)]
        if len(arrays) == len(self._times):
            return log_times.ReadTimes(*log_times.of_numbers(np.concatenate([np.empty(0), *arrays]), size))
        texts = [repr(one) if isinstance(one, float) else one for block in self._times for one in list(block)]
        return log_times.read_times([str(text) for text in texts], size, clock)

    def line_of(self, row: int) -> int:
        for lines in self._lines:
            if row < len(lines):
                return lines[row]
            row -= len(lines)
        return 0


def _plain_table(lines: Sequence[str], separator: str) -> Floats | None:
    """Rows of plain figures only, all of one width, at once; None where one is anything else."""
    width = lines[0].count(separator) + 1
    joined = separator.join(lines)
    if separator == " " or joined.count(separator) != width * len(lines) - 1:
        return None
    if separator != "," and "," in joined:
        joined = joined.replace(",", ".")
    with warnings.catch_warnings():
        warnings.simplefilter("error")  # numpy stops at the first text that is no number, with a warning
        try:
            flat = np.fromstring(joined, sep=separator)
        except (DeprecationWarning, ValueError):
            return None
    return flat.reshape(len(lines), width) if flat.size == width * len(lines) else None


def _rows(lines: Sequence[str], first: int, separator: str) -> Iterator[tuple[int, list[str]]]:
    reader = csv.reader(io.StringIO("\n".join(lines)), delimiter=separator)
    for offset, cells in enumerate(reader):
        yield first + offset, cells


def to_csv(log: Log, *, simulated: bool = False) -> str:
    """As this tool writes logs: seconds, volts, amps, and degrees where known; a simulated one says so first."""
    titles = "time_s,voltage_v,current_a" + (",temperature_c" if log.celsius is not None else "")
    shown_v = -log.volts if log.swapped else log.volts
    columns = [log.time_s, shown_v, log.amps] + ([log.celsius] if log.celsius is not None else [])
    rows = (f"{row[0]:.1f}," + ",".join(f"{value:.4f}" for value in row[1:]) for row in zip(*columns, strict=True))
    return "\n".join([*([SIMULATED_LINE] if simulated else []), titles, *rows, ""])
