"""Rows of a log, gathered as they come: blocks of plain figures at once, rows that need care one by one."""

import csv
import io
import warnings
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np

from pocketspark.core.message import say
from pocketspark.core.physics.ocv import Floats
from pocketspark.formats import log_times
from pocketspark.formats.log_cells import figure_of
from pocketspark.formats.log_header import ColumnPlaces, UnreadableLog
from pocketspark.formats.log_lines import BadRow

# More rows than these become one for every two, and again: no charge of a cell has more to tell.
MOST_ROWS = 1_000_000
# Of the columns that are wanted the first so many have to be filled.
_NEEDED = 2
# More rows than these without figures, and it is no log.
MOST_BAD = 100_000


class Gathered:
    """Rows as they come, blocks of plain figures beside rows that need care; their times are read at the end."""

    def __init__(self, wanted: Sequence[int], sizes: Sequence[float], places: ColumnPlaces) -> None:
        self.wanted, self.sizes, self.places = list(wanted), list(sizes), places
        self.bad: list[BadRow] = []
        self.every = 1  # so many rows were made one
        self._blocks: list[_Block] = []

    @property
    def table(self) -> Floats:
        return np.concatenate([np.empty((0, len(self.wanted))), *(block.rows for block in self._blocks)])

    def take(self, lines: Sequence[str], first: int, separator: str) -> None:
        """Lines as they come; `first`: the number of the first of them."""
        if not lines:
            return
        table = _plain_table(lines, separator) if self.places.date is None else None
        if table is not None and max(self.places.time, *self.wanted) < table.shape[1]:
            self._keep(
                _Block(table[:, self.places.time], table[:, self.wanted] * self.sizes, range(first, first + len(table)))
            )
        else:
            self._keep(self._of_rows(_rows(lines, first, separator), separator))

    def _keep(self, block: "_Block") -> None:
        self._blocks.append(block.thinned(self.every))
        if sum(len(kept.rows) for kept in self._blocks) > MOST_ROWS:
            self.every *= 2
            self._blocks = [kept.thinned(2) for kept in self._blocks]

    def _of_rows(self, rows: Iterator[tuple[int, list[str]]], separator: str) -> "_Block":
        times: list[str] = []
        values: list[list[float]] = []
        lines: list[int] = []
        for line, cells in rows:
            try:
                read = [self._figure(cells, column) for column in range(len(self.wanted))]
                time = self._time_of(cells)
            except (ValueError, IndexError):
                if any(cell.strip() for cell in cells):
                    self._leave_out(BadRow(line + 1, separator.join(cells)[:60]))
                continue
            values.append(read)
            times.append(time)
            lines.append(line)
        return _Block(times, np.array(values, dtype=float).reshape(len(values), len(self.wanted)), lines)

    def _figure(self, cells: Sequence[str], column: int) -> float:
        """Volts and current have to be there; degrees may be missing."""
        cell = cells[self.wanted[column]]
        if column >= _NEEDED and not any(map(str.isdecimal, cell)):
            return float("nan")
        return figure_of(cell) * self.sizes[column]

    def _leave_out(self, row: BadRow) -> None:
        self.bad.append(row)
        if len(self.bad) > MOST_BAD:
            raise UnreadableLog(
                say("over {most_bad} of its rows have no figures where others do: is it one log?", most_bad=MOST_BAD)
            )

    def _time_of(self, cells: Sequence[str]) -> str:
        clock = cells[self.places.time].strip()
        if not any(map(str.isdecimal, clock)):
            raise ValueError(clock)
        return clock if self.places.date is None else f"{cells[self.places.date].strip()} {clock}"

    def times(self, size: float, clock: str) -> log_times.ReadTimes:
        times = [block.times for block in self._blocks]
        texts = [cell for block in times if isinstance(block, list) for cell in block]
        if times and len(texts) == sum(map(len, times)):
            return log_times.read_times(texts, size, clock)
        # Where whole blocks are plain numbers, so is the column: one row that needs care changes nothing of it.
        numbers = [log_times.numbers_of(block) if isinstance(block, list) else block for block in times]
        return log_times.ReadTimes(*log_times.of_numbers(np.concatenate([np.empty(0), *numbers]), size))

    def line_of(self, row: int) -> int:
        for block in self._blocks:
            if row < len(block.lines):
                return block.lines[row]
            row -= len(block.lines)
        return 0


@dataclass(frozen=True)
class _Block:
    """Rows of one go: their times as numbers or as texts, their figures, the lines that they stood on."""

    times: Floats | list[str]
    rows: Floats
    lines: Sequence[int]

    def thinned(self, every: int) -> "_Block":
        """So many rows as one, their figures averaged: the charge that they tell stays."""
        if every == 1:
            return self
        whole = len(self.rows) // every * every
        rows = self.rows[:whole].reshape(-1, every, self.rows.shape[1]).mean(axis=1)
        times = (
            self.times[:whole].reshape(-1, every).mean(axis=1)
            if isinstance(self.times, np.ndarray)
            else self.times[:whole:every]
        )
        return _Block(times, rows, self.lines[:whole:every])


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
