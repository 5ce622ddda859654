"""Logs of meters as CSV of any common shape: separator, decimal comma, header words, units, kinds of time."""

import re
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from itertools import chain

import numpy as np

from pocketspark.core.logs.analysis import LogAnalysis
from pocketspark.core.logs.log import Log
from pocketspark.core.logs.pieces import Piece, PieceKind, pieces_of
from pocketspark.core.logs.plausible import (
    Columns,
    Doubt,
    Mend,
    MendKey,
    amps_of_count,
    doubts_of,
    is_of_a_piece,
    log_from_columns,
    mended,
    straightened,
)
from pocketspark.core.message import Message, say
from pocketspark.core.physics.ocv import Floats
from pocketspark.formats import log_times
from pocketspark.formats.log_cells import cells_of, separator_of
from pocketspark.formats.log_guess import places_by_figures
from pocketspark.formats.log_header import ColumnPlaces, UnreadableLog, is_units_row, places_by, size_of, unit_of
from pocketspark.formats.log_lines import LARGEST_BYTES, BadRow, Lines, LogSource, lines_of
from pocketspark.formats.log_rows import Gathered

__all__ = [
    "LARGEST_BYTES",
    "AnalysedLog",
    "BadRow",
    "ColumnPlaces",
    "ReadLog",
    "UnreadableLog",
    "header_of",
    "read_log",
    "to_csv",
]

# What the simulated bench writes above its logs: no real build learns from one.
SIMULATED_LINE = "# simulated by the practice bench: nothing was measured"


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
    says: tuple[Message, ...] = ()
    doubts: tuple[Doubt, ...] = ()
    unseen_s: float = 0.0
    kind: PieceKind | None = None  # of the piece that is meant; None: the log shows it
    pieces: tuple[Piece, ...] = ()  # all that the file holds, whichever is meant


class AnalysedLog(LogAnalysis):
    """What a log shows, and which of its rows could not be read."""

    bad_rows: tuple[BadRow, ...]


def read_log(source: LogSource, mapping: ColumnPlaces | None = None, mends: Sequence[MendKey] = ()) -> ReadLog:
    """Read a log; `mapping` overrides what the header words say, `mends` settle its doubts.

    Raises UnreadableLog, TooShort.
    """
    parts = lines_of(source)
    head = next(parts)
    start = _first_data_line(head.lines)
    separator = separator_of(head.lines[start])
    header = _header(head.lines, start, separator)
    width = len(cells_of(head.lines[start], separator))
    places, remarks = _places(head.lines[start:], separator, header, width) if mapping is None else (mapping, ())
    interval_s = _interval_s(head.lines[:start]) if places.samples else 1.0
    clock = next((key for key in mends if key in ("mm:ss", "hh:mm")), _told_clock(header, places))
    gathered = _gathered(chain([head], parts), start, separator, header, places)
    columns, time = _columns(gathered, header, places, clock, interval_s)
    straight = straightened(columns, of_a_clock=time.of_a_clock)
    whole = mended(straight.columns, [key for key in mends if not is_of_a_piece(key)])
    meant = mended(whole, [key for key in mends if is_of_a_piece(key)])
    doubts = doubts_of(meant, mends)
    if time.unclear:
        doubts = (_unclear_clock(), *doubts)
    return ReadLog(
        log=log_from_columns(meant),
        header=header,
        mapping=places,
        bad_rows=tuple(sorted(gathered.bad, key=lambda row: row.line)),
        simulated=head.lines[0].strip() == SIMULATED_LINE,
        says=(
            *remarks,
            say("The time column was read {format}.", format=time.says),
            *_thinned(gathered.every),
            *straight.says,
        ),
        doubts=doubts,
        unseen_s=straight.unseen_s,
        kind=meant.kind,
        pieces=tuple(pieces_of(whole.time_s, whole.volts, whole.amps)),
    )


def _places(
    rows: Sequence[str], separator: str, header: tuple[str, ...], width: int
) -> tuple[ColumnPlaces, tuple[Message, ...]]:
    """By the titles; where there are none by how the figures behave."""
    if header or width < 3:
        return places_by(header, width)
    return places_by_figures(rows, separator, width)


_INTERVAL = re.compile(r"(?:interval|every|period|rate)\D{0,20}?(\d+(?:[.,]\d+)?)\s*(ms|s|sec\w*|min\w*|h)\b", re.I)


def _interval_s(above: Sequence[str]) -> float:
    """How long a row takes, as it stands above the rows. Raises UnreadableLog."""
    stated = next((found for line in above if (found := _INTERVAL.search(line))), None)
    if stated is None:
        raise UnreadableLog(
            say("its rows are only counted, and no interval is said: add a line like “interval: 10 s” above them")
        )
    unit = stated[2].lower()
    name = next(name for name in ("ms", "min", "s", "h") if unit.startswith(name))
    return float(stated[1].replace(",", ".")) * size_of(f"({name})")


def _unclear_clock() -> Doubt:
    return Doubt(
        says=say("Whether its clock is minutes and seconds or hours and minutes cannot be told."),
        mends=(Mend(key="mm:ss", label=say("Minutes and seconds")), Mend(key="hh:mm", label=say("Hours and minutes"))),
    )


def _told_clock(header: Sequence[str], places: ColumnPlaces) -> str:
    """What the title itself says of a clock: "Time (mm:ss)"."""
    title = header[places.time].lower() if places.time < len(header) else ""
    return next((kind for kind in ("mm:ss", "hh:mm") if kind in title and "hh:mm:ss" not in title), "")


# Lines ---------------------------------------------------------------------------------------------------------


def header_of(source: LogSource) -> tuple[str, ...]:
    """The header line's words; empty where there is none. Raises UnreadableLog."""
    lines = next(lines_of(source)).lines
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
    raise UnreadableLog(say("no line of figures was found: a log has time, volts and amps in columns"))


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


def _gathered(
    parts: Iterable[Lines], start: int, separator: str, header: tuple[str, ...], places: ColumnPlaces
) -> Gathered:
    wanted = [places.volts, places.current] + ([places.celsius] if places.celsius is not None else [])
    gathered = Gathered(wanted, [size_of(header[place]) if place < len(header) else 1.0 for place in wanted], places)
    for part in parts:
        before = max(start - part.first, 0)
        gathered.take(part.lines[before:], part.first + before, separator)
        gathered.bad += part.broken
    return gathered


def _columns(
    gathered: Gathered, header: tuple[str, ...], places: ColumnPlaces, clock: str, interval_s: float
) -> tuple[Columns, log_times.ReadTimes]:
    table = gathered.table
    unit_s = size_of(header[places.time]) if places.time < len(header) and not places.samples else interval_s
    read = gathered.times(unit_s, clock)
    for row in np.flatnonzero(np.isnan(read.seconds)).tolist():
        gathered.bad.append(BadRow(gathered.line_of(row) + 1, "no time that could be read"))
    celsius = table[:, 2] if places.celsius is not None else None
    if celsius is not None and places.celsius is not None and places.celsius < len(header):
        celsius = (celsius - 32) / 1.8 if unit_of(header[places.celsius]) == "f" else celsius
    return Columns(read.seconds, table[:, 0], _amps(places, read.seconds, table), celsius), read


def _amps(places: ColumnPlaces, seconds: Floats, table: Floats) -> Floats:
    """As written; else watts over volts, or how fast the counted charge grows."""
    if places.amps is not None:
        return table[:, 1]
    if places.watts is not None:
        return np.divide(table[:, 1], table[:, 0], out=np.zeros(len(table)), where=np.abs(table[:, 0]) > 0.1)
    return amps_of_count(seconds, table[:, 1])


def _thinned(every: int) -> Iterator[Message]:
    if every > 1:
        yield say("The file is so long that every {every} rows are averaged into one.", every=every)


def to_csv(log: Log, *, simulated: bool = False) -> str:
    """As this tool writes logs: seconds, volts, amps, and degrees where known; a simulated one says so first."""
    titles = "time_s,voltage_v,current_a" + (",temperature_c" if log.celsius is not None else "")
    shown_v = -log.volts if log.swapped else log.volts
    columns = [log.time_s, shown_v, log.amps] + ([log.celsius] if log.celsius is not None else [])
    rows = (f"{row[0]:.1f}," + ",".join(f"{value:.4f}" for value in row[1:]) for row in zip(*columns, strict=True))
    return "\n".join([*([SIMULATED_LINE] if simulated else []), titles, *rows, ""])
