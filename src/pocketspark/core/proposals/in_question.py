"""Drafts that are worth a whole judgement: all of them by their bounds, in the order in which they are asked."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.limits import DIM
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.proposals.bounds import Bounds, Tables, bounds_of, suited, surely_falls
from pocketspark.core.proposals.judging import (
    BEATEN,
    LONGEST_CHARGE_H,
    NEVER_FULL,
    TOO_SLOW,
    WISHED,
    Search,
    least_hours,
)
from pocketspark.core.proposals.objectives import Steps
from pocketspark.core.proposals.offer import COUNTS, drafts_of
from pocketspark.core.proposals.outlines import Outlines, PartOutlines, part_outlines
from pocketspark.core.proposals.ways import Way

# Points of the picture, hours and price: more cannot be seen.
DOTS = 600
Dot = tuple[float, float]


@dataclass
class InQuestion:
    """Drafts that their bounds leave in question, in the order they are asked; `left`: which are still to be.

    A row each: `columns` are the way and those of the drafts, `figures` the seven at best.
    """

    columns: NDArray[np.int16]
    figures: Steps
    weights: NDArray[np.int32]  # builds that each stands for
    outlines: Outlines
    dots: tuple[tuple[float, float], ...]
    left: NDArray[np.bool_]

    def with_its_cells(self, place: int, *, and_charger: bool) -> NDArray[np.intp]:
        """Those left that have, in the same way of building, the same cells as this one, and the same charger."""
        way, cell, count, charger = self.columns[place, :4]
        rows = self._by_cells[int(way), int(cell), int(count)]
        rows = rows[self.left[rows]]
        return rows[self.columns[rows, 3] == charger] if and_charger else rows

    @cached_property
    def _by_cells(self) -> Mapping[tuple[int, int, int], NDArray[np.intp]]:
        """Rows by way, cell and count."""
        order = np.lexsort(self.columns[:, 2::-1].T)
        ordered = self.columns[order, :3]
        starts = np.flatnonzero(np.r_[True, (ordered[1:] != ordered[:-1]).any(axis=1)])
        rows = np.split(order, starts[1:])
        return {(int(w), int(c), int(k)): group for (w, c, k), group in zip(ordered[starts], rows, strict=True)}


def in_question(search: Search) -> InQuestion:
    """Of every way of building; what something sound beats already is left out."""
    return joined(list(way_by_way(search)))


def way_by_way(search: Search) -> Iterator["OneWay"]:
    """The same in parts, since of many ways it takes long."""
    tables = Tables(search.mode, search.offer)
    return (_of_one_way(search, number, tables) for number in range(len(search.ways)))


def joined(parts: list["OneWay"]) -> InQuestion:
    """In the order in which they are asked. `parts` is emptied: of millions of rows a second copy is a gigabyte."""
    outlines, dots = [part.outlines for part in parts], [dot for part in parts for dot in part.dots]
    columns, figures, weights, hours = (np.concatenate([part[n] for part in parts]) for n in range(4))
    parts.clear()
    # Of those that come to the same, as far as anybody notices, the one that lasts longest is asked first.
    order = np.lexsort((-hours, *figures.T[::-1][:-1], figures[:, 0]))
    columns = columns[order]
    return InQuestion(
        columns=columns,
        figures=figures[order],
        weights=weights[order],
        outlines=Outlines(columns, outlines),
        dots=_thinned(dots),
        left=np.ones(len(order), dtype=bool),
    )


class OneWay(NamedTuple):
    """The question of one way of building."""

    columns: NDArray[np.int16]
    figures: Steps
    weights: NDArray[np.int32]
    hours: NDArray[np.float32]
    outlines: PartOutlines
    dots: list[Dot]


def _of_one_way(search: Search, number: int, tables: Tables) -> OneWay:
    way, offer = search.ways[number], search.offer
    search.shapes[number] = shapes = tables.shapes(way.project, search.memory.known)
    shapes_in = np.array([[len(places) for places in counts] for counts in shapes], dtype=np.intp).reshape(
        -1, len(COUNTS)
    )
    counted = drafts_of(offer, shapes_in, suited(offer), way.build)
    search.total += counted.total
    search.fell.update(counted.fell)
    drafts, weights = counted.drafts, counted.weights
    stands = np.ones(len(drafts), dtype=bool)
    for reason, falls in surely_falls(way.project, drafts, tables).items():
        search.fell[reason] += int(weights[falls].sum())
        stands &= ~falls
    drafts, weights = drafts.only(stands), weights[stands]
    bounds = bounds_of(way.project, drafts, tables)
    ends = np.isfinite(bounds.full_h)
    soon = ends if search.wishes.full_within_h is not None else ends & (bounds.full_h <= LONGEST_CHARGE_H)
    wished = soon & _may_be_wished(bounds, search, way)
    for reason, fallen in (
        (NEVER_FULL, ~ends),
        (TOO_SLOW, ends & ~soon),
        (WISHED, soon & ~wished),
    ):
        search.fell[reason] += int(weights[fallen].sum())
    figures, dots = bounds.weighed(way.build), _dots(bounds.only(wished))
    left = wished & ~beaten(figures, search.table)
    search.fell[BEATEN] += int(weights[wished & ~left].sum())
    drafts = drafts.only(left)
    columns = np.column_stack([np.full(len(drafts), number), *drafts.columns()]).astype(np.int16)
    return OneWay(
        columns,
        figures[left],
        weights[left].astype(np.int32),
        bounds.hours[left].astype(np.float32),
        part_outlines(offer, way.build),
        dots,
    )


def beaten(figures: Steps, table: Sequence[Steps]) -> NDArray[np.bool_]:
    """Which rows come, even at best, to no more than one of the table."""
    found = np.zeros(len(figures), dtype=bool)
    left = np.arange(len(figures))
    for one in table:
        places = left
        for column, figure in enumerate(one):
            places = places[figures[places, column] >= figure]
        if len(places):
            found[places] = True
            left = left[~found[left]]
        if not len(left):
            break
    return found


def _may_be_wished(bounds: Bounds, search: Search, way: Way) -> NDArray[np.bool_]:
    wishes, wished = search.wishes, np.ones(len(bounds.hours), dtype=bool)
    least_h = least_hours(search, way)
    if least_h is not None:
        wished &= bounds.hours >= least_h
    if wishes.bright:
        wished &= bounds.light >= DIM
    if wishes.no_holes:
        wished &= bounds.holes == 0
    if wishes.full_within_h is not None:
        wished &= bounds.full_h <= wishes.full_within_h
    if wishes.price_at_most is not None:
        wished &= bounds.price <= wishes.price_at_most
    return wished


def _dots(bounds: Bounds) -> list[Dot]:
    return [
        (round(float(h), 2), round(float(p), 2))
        for h, p in zip(*map(_thinned, (bounds.hours, bounds.price)), strict=True)
    ]


def _thinned(row: Sequence[Any] | Floats) -> tuple[Any, ...]:
    """So many of them, evenly."""
    return tuple(row[:: max(1, -(-len(row) // DOTS))])
