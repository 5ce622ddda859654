"""Figures that no small cell has, and clocks that jump: asked about with the likely mend, or mended and told.

Nothing is judged by a figure that is in doubt: a wrong unit read as measured is worse than no reading.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Annotated

import numpy as np

from pocketspark.core.logs.log import Log, TooShort, log_of
from pocketspark.core.logs.pieces import PieceKind, pieces_of, rows_of
from pocketspark.core.message import Message, once, say, say_of
from pocketspark.core.models.model import Model, written_like
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.units.figures import celsius, fixed, significant

# How doubtful figures are meant; "piece3" reads the third of several charges and run-downs.
MENDS = (
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
)
MOST_PIECES = 60
MendKey = Annotated[
    str, written_like(rf"{'|'.join(MENDS)}|piece[1-9]\d?", "it is meant as one of the ways that are offered")
]
# What a small lithium cell or its USB source can show (common practice, no source).
MOST_V, MOST_A, MOST_C, LEAST_C = 25.0, 20.0, 85.0, -25.0
# A gap of so many usual steps is rows lost; a jump this near to an hour is summer time.
GAP_STEPS, SUMMER_S, SUMMER_OFF_S = 20, 3600.0, 90.0
LEAST_GAP_S = 120.0
# With so many, and so large a share, of its steps backwards the rows are out of order.
OFTEN, OUT_OF_ORDER = 4, 0.1


class Mend(Model):
    """One way to read the figures that are in doubt."""

    key: MendKey
    label: Message


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
    kind: PieceKind | None = None  # of the one piece that they are; None: of whatever the log holds


# Between two knots a counter has gone on by such a part of its whole way, and by so many of its own steps: closer, and
# those steps show.
COUNTED_KNOTS, COUNTED_STEPS = 400, 20


def amps_of_count(time_s: Floats, counted_ah: Floats) -> Floats:
    """The current that a counter of charge tells, A: how fast it grows, over stretches that its own steps do not show.

    A counter that begins anew says nothing of the moment in which it does.
    """
    grown = np.concatenate([[0.0], np.cumsum(np.maximum(np.diff(counted_ah), 0.0))])
    moves = np.flatnonzero(np.diff(grown) > 0) + 1
    smallest = float(np.quantile(np.diff(grown)[moves - 1], 0.1)) if len(moves) else 0.0
    apart = max(grown[-1] / COUNTED_KNOTS, COUNTED_STEPS * smallest)
    knots = [0]
    for row in moves:
        if grown[row] - grown[knots[-1]] >= apart * (1 - 1e-9):
            knots.append(int(row))
    last = len(grown) - 1
    knots += [last] if knots[-1] != last else []
    spans_s = np.maximum(np.diff(time_s[knots]), 1e-9)
    each = np.diff(grown[knots]) / spans_s * 3600
    return np.asarray(each[np.clip(np.searchsorted(knots, np.arange(len(grown)), side="left") - 1, 0, len(each) - 1)])


AS_IT_IS = Mend(key="as_it_is", label=say("It is right as it is"))


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
        elif is_of_a_piece(key):
            columns = _one_piece(columns, key)
    return columns


def is_of_a_piece(key: MendKey) -> bool:
    """Does it say which piece is meant, and not how figures are?"""
    return key in ("the_charge", "the_run") or key.startswith("piece")


def doubts_of(columns: Columns, settled: Sequence[MendKey] = ()) -> tuple[Doubt, ...]:
    """What is still to be asked before anything is judged."""
    if "as_it_is" in settled:
        return ()
    several = None if columns.kind else _several(columns)
    return tuple(
        doubt for doubt in (_swapped(columns), *_sizes(columns), _degrees(columns), several) if doubt is not None
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
        return Doubt(says=says, mends=(Mend(key="swapped_columns", label=say("Swap the two columns")), AS_IT_IS))
    return None


def _sizes(columns: Columns) -> Iterator[Doubt | None]:
    volts, amps = _typical(columns.volts), _most(columns.amps)
    if volts > MOST_V:
        label = say("It is in millivolts")
        says = say("No small cell has {volts} V.", volts=significant(volts, 4))
        yield Doubt(says=says, mends=(Mend(key="volts_in_mv", label=label), AS_IT_IS))
    if amps > MOST_A:
        mends = [Mend(key="amps_in_ma", label=say("It is in milliamperes"))]
        if amps > 1000 * MOST_A:
            mends.insert(0, Mend(key="amps_in_ua", label=say("It is in microamperes")))
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
        return Doubt(says=says, mends=(Mend(key="no_celsius", label=say("It is no temperature")), AS_IT_IS))
    if most > MOST_C or least < LEAST_C or (first > 55 and most > 60):
        says = (
            say("The cell would be at {first} from the first row on.", first=celsius(first))
            if first > 55
            else say("No cell reaches {degrees}.", degrees=celsius(most if most > MOST_C else least))
        )
        mends = (
            Mend(key="fahrenheit", label=say("It is in Fahrenheit")),
            Mend(key="no_celsius", label=say("Leave it out")),
        )
        return Doubt(says=says, mends=(*mends, AS_IT_IS))
    return None


def _several(columns: Columns) -> Doubt | None:
    """Charges and run-downs in one file: each is read for itself, and which is asked."""
    pieces = pieces_of(columns.time_s, columns.volts, columns.amps)
    if len(pieces) < 2:
        return None
    if sorted(piece.kind for piece in pieces) == ["charge", "discharge"]:
        return Doubt(
            says=say("Current flows one way and then the other: a charge and a run-down in one file."),
            mends=(
                Mend(key="the_charge", label=say("Read the charge")),
                Mend(key="the_run", label=say("Read the run-down")),
            ),
        )
    return Doubt(
        says=say("It holds {count} charges and run-downs. Which one is meant?", count=len(pieces)),
        mends=tuple(
            Mend(key=f"piece{number}", label=say("{number}. {piece}", number=number, piece=piece.says))
            for number, piece in enumerate(pieces[:MOST_PIECES], 1)
        ),
    )


def _one_piece(columns: Columns, key: MendKey) -> Columns:
    """The piece alone, what flows in it as plus; all of it where there is no such piece."""
    pieces = pieces_of(columns.time_s, columns.volts, columns.amps)
    number = int(key.removeprefix("piece")) - 1 if key.startswith("piece") else None
    kind = {"the_charge": "charge", "the_run": "discharge"}.get(key)
    wanted = [piece for place, piece in enumerate(pieces) if place == number or piece.kind == kind]
    if not wanted:
        return columns
    largest = max(wanted, key=lambda piece: piece.charge_ah)
    rows = rows_of(largest, columns.time_s, columns.amps)
    celsius = None if columns.celsius is None else columns.celsius[rows]
    return Columns(columns.time_s[rows], columns.volts[rows], np.abs(columns.amps[rows]), celsius, largest.kind)


# Clocks --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Straightened:
    """Columns whose time rises, and what was done to them, in sentences; seconds of gaps that nobody saw."""

    columns: Columns
    says: tuple[Message, ...]
    unseen_s: float


def straightened(columns: Columns, *, of_a_clock: bool = True) -> Straightened:
    """Midnight, summer time, a meter that began anew, rows twice: mended and told. Rows lost: told.

    `of_a_clock`: its times are those of a day; a stopwatch knows neither midnight nor summer time.
    """
    says: list[Message] = []
    columns = _in_order(_without_repeats(columns, says), says)
    time_s = columns.time_s.copy()
    steps = np.diff(time_s)
    forward = steps[steps > 0]
    usual = float(np.median(forward)) if len(forward) else 1.0
    for index in np.flatnonzero(steps < 0):
        back = time_s[index] - time_s[index + 1]
        if of_a_clock and abs(back - 86_400 + usual) < 3600 + usual:
            time_s[index + 1 :] += 86_400.0
        elif of_a_clock and abs(back - SUMMER_S) < SUMMER_OFF_S + usual:
            time_s[index + 1 :] += SUMMER_S
            says.append(say("The clock was set back by an hour in the middle. The times are corrected."))
        else:
            time_s[index + 1 :] += back + usual
            says.append(
                say("The meter started counting again in the middle. The later rows are put after the earlier.")
            )
    for index in np.flatnonzero(np.abs(np.diff(time_s) - SUMMER_S - usual) < min(SUMMER_OFF_S, 0.02 * SUMMER_S)):
        if of_a_clock and usual < 300 and abs(columns.volts[index + 1] - columns.volts[index]) < 0.01:
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


def _in_order(columns: Columns, says: list[Message]) -> Columns:
    """Rows that somebody has sorted by another column. A clock that begins anew goes back far less often."""
    known = np.isfinite(columns.time_s)
    backwards = np.diff(columns.time_s[known]) < 0
    if backwards.sum() < OFTEN or backwards.mean() < OUT_OF_ORDER:
        return columns
    says.append(say("The rows are out of order. They are sorted by their time."))
    order = np.argsort(columns.time_s, kind="stable")
    celsius = None if columns.celsius is None else columns.celsius[order]
    return Columns(columns.time_s[order], columns.volts[order], columns.amps[order], celsius)


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
    known = columns.celsius is not None and bool(np.isfinite(columns.celsius).any())
    log = log_of(columns.time_s, columns.volts, columns.amps, columns.celsius if known else None)
    if not np.abs(log.amps).max() > 0:
        raise TooShort(say("no current flows in any of its rows: nothing is charged or run down in it"))
    return log
