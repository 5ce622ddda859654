"""Drafts that are worth a whole judgement: all of them by their bounds, in the order in which they are asked."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.physics.ocv import Floats
from pocketspark.core.proposals.bounds import TOO_MANY_VOLTS, WOULD_NOT_RUN, Bounds, bounds_of, suited
from pocketspark.core.proposals.judging import WISHED, Search, least_hours
from pocketspark.core.proposals.offer import COUNTS, drafts_of
from pocketspark.core.proposals.outlines import Outlines, cells_that_go_in, outlines_of
from pocketspark.core.proposals.ways import Way

# Points of the picture: more cannot be seen.
DOTS = 600


@dataclass
class Question:
    """Drafts that their bounds leave in question, in the order they are asked; `left`: which are still to be.

    A row each: `columns` are the way and those of the drafts, `figures` the six at best.
    """

    columns: NDArray[np.intp]
    figures: Floats
    weights: NDArray[np.intp]  # builds that each stands for
    outlines: Outlines
    dots: tuple[tuple[float, float], ...]
    left: NDArray[np.bool_]


def in_question(search: Search) -> Question:
    parts = [_of_one_way(search, number) for number in range(len(search.ways))]
    columns = np.concatenate([columns for columns, _, _, _ in parts])
    figures = np.concatenate([part[1].weighed(way.build) for part, way in zip(parts, search.ways, strict=True)])
    weights = np.concatenate([weights for _, _, weights, _ in parts])
    order = np.lexsort((*figures.T[::-1][:-1], figures[:, 0]))
    return Question(
        columns=columns[order],
        figures=figures[order],
        weights=weights[order],
        outlines=Outlines.joined([outlines for _, _, _, outlines in parts]).in_order(order),
        dots=_dots([bounds for _, bounds, _, _ in parts]),
        left=np.ones(len(order), dtype=bool),
    )


def _of_one_way(search: Search, number: int) -> tuple[NDArray[np.intp], Bounds, NDArray[np.intp], Outlines]:
    way, offer = search.ways[number], search.offer
    shapes = cells_that_go_in(offer, way.project, search.memory.known)
    search.shapes[number] = shapes
    shapes_in = np.array([[len(places) for places in counts] for counts in shapes], dtype=np.intp).reshape(
        -1, len(COUNTS)
    )
    counted = drafts_of(offer, shapes_in, suited(offer), socket=way.build.input.facts.on_board)
    search.total += counted.total
    search.fell.update(counted.fell)
    drafts, weights = counted.drafts, counted.weights
    bounds = bounds_of(way.project, search.mode, offer, drafts)
    runs = bounds.hours > 0
    stands = runs & ~bounds.too_many_volts
    wished = stands & _may_be_wished(bounds, search, way)
    for reason, fallen in ((WOULD_NOT_RUN, ~runs), (TOO_MANY_VOLTS, runs & ~stands), (WISHED, stands & ~wished)):
        search.fell[reason] += int(weights[fallen].sum())
    drafts, bounds = drafts.only(wished), bounds.only(wished)
    columns = np.column_stack([np.full(len(drafts), number, dtype=np.intp), *drafts.columns()])
    return columns, bounds, weights[wished], outlines_of(offer, drafts, way.build, number)


def _may_be_wished(bounds: Bounds, search: Search, way: Way) -> NDArray[np.bool_]:
    wishes, wished = search.wishes, np.ones(len(bounds.hours), dtype=bool)
    least_h = least_hours(search, way)
    if least_h is not None:
        wished &= bounds.hours >= least_h
    if wishes.no_holes:
        wished &= bounds.holes == 0
    if wishes.full_within_h is not None:
        wished &= bounds.full_h <= wishes.full_within_h
    if wishes.price_at_most is not None:
        wished &= bounds.price <= wishes.price_at_most
    return wished


def _dots(bounds: Sequence[Bounds]) -> tuple[tuple[float, float], ...]:
    hours, price = (np.concatenate([getattr(one, name) for one in bounds]) for name in ("hours", "price"))
    step = max(1, -(-len(hours) // DOTS))
    return tuple((round(float(h), 2), round(float(p), 2)) for h, p in zip(hours[::step], price[::step], strict=True))
