"""A log without titles: which column is the time, which the volts, which the current, by how their figures behave."""

from collections.abc import Sequence

import numpy as np

from pocketspark.core.message import Message, say
from pocketspark.core.physics.ocv import Floats
from pocketspark.formats.log_cells import cells_of, figure_of
from pocketspark.formats.log_header import ColumnPlaces

# So many rows show how a column behaves.
_ROWS = 5000
# What a cell or its USB source shows, in volts or in millivolts.
_VOLTS = (2.0, 5.6)
# A room and a cell in it, C; a column that begins at 0 and only rises is a count.
_CELSIUS = (5.0, 80.0)


def places_by_figures(lines: Sequence[str], separator: str, width: int) -> tuple[ColumnPlaces, tuple[Message, ...]]:
    """The order as it shows, else time, volts, amps; and how it was taken, where that is another order."""
    usual = ColumnPlaces(0, 1, 2, 3 if width > 3 else None)
    columns = _columns(lines, separator, width)
    time = _time(columns)
    others = [place for place in range(width) if place != time]
    volts = [place for place in others if _is_volts(columns[place])]
    if time is None or len(volts) != 1:
        return usual, ()
    flows = [place for place in others if place != volts[0] and not _counts_up(columns[place])]
    degrees = [place for place in flows if len(flows) > 1 and _is_celsius(columns[place])]
    amps = next((place for place in flows if place not in degrees), None)
    if amps is None:
        return usual, ()
    found = ColumnPlaces(time, volts[0], amps, degrees[0] if degrees else None)
    if (time, volts[0], amps) == (0, 1, 2):
        return found, ()
    numbers = {"time": time + 1, "volts": volts[0] + 1, "amps": amps + 1}
    return found, (
        say("It has no titles. By its figures column {time} is time, {volts} volts and {amps} current.", **numbers),
    )


def _columns(lines: Sequence[str], separator: str, width: int) -> list[Floats]:
    """NaN where there is no figure, as in a column of clocks."""
    rows = [cells_of(line, separator) for line in lines[:_ROWS]]
    return [np.array([_figure(row[place]) if place < len(row) else np.nan for row in rows]) for place in range(width)]


def _figure(cell: str) -> float:
    try:
        return figure_of(cell)
    except ValueError:
        return float("nan")


def _time(columns: Sequence[Floats]) -> int | None:
    """A clock, which is no figure; else what rises most evenly, a count of the rows only where nothing else does."""
    texts = [place for place, column in enumerate(columns) if np.isnan(column).mean() > 0.5]
    if texts:
        return texts[0]
    even = [(_unevenness(column), _counts_rows(column), place) for place, column in enumerate(columns)]
    rising = [(counts, uneven, place) for uneven, counts, place in even if np.isfinite(uneven)]
    return min(rising)[2] if rising else None


def _unevenness(column: Floats) -> float:
    """Of its steps, as a share of them; inf where it does not always rise."""
    steps = np.diff(column[np.isfinite(column)])
    if len(steps) < 3 or not (steps > 0).all():
        return float("inf")
    return round(float(np.std(steps) / np.mean(steps)), 3)


def _counts_rows(column: Floats) -> bool:
    return bool((np.diff(column) == 1).all())


def _is_volts(column: Floats) -> bool:
    known = column[np.isfinite(column)]
    if not len(known):
        return False
    middle = float(np.median(np.abs(known)))
    in_volts = middle / 1000 if middle > 1000 else middle
    return _VOLTS[0] <= in_volts <= _VOLTS[1] and float(np.std(known)) < 0.25 * middle


def _counts_up(column: Floats) -> bool:
    """From nothing, and never down: counted charge, energy, or rows."""
    known = column[np.isfinite(column)]
    return (
        len(known) > 3 and abs(float(known[0])) <= 1.001 and bool((np.diff(known) >= 0).all()) and known[-1] > known[0]
    )


def _is_celsius(column: Floats) -> bool:
    known = column[np.isfinite(column)]
    return bool(len(known)) and bool((known >= _CELSIUS[0]).all()) and bool((known <= _CELSIUS[1]).all())
