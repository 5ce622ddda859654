"""The outer sizes of all parts: where one draft does not go in, none with larger parts does."""

from collections import deque
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.fit.blocks import Part, parts_of
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.models import Build, Project
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.proposals.offer import COUNTS, Offered, OnOffer, with_build

# Columns of a draft in question by which its parts are found: cell, charger, protection (-1: none more), regulator.
_WAY, _CELL, _COUNT = 0, 1, 2
_PARTS = (_CELL, 3, 5, 6)


@dataclass(frozen=True)
class PartOutlines:
    """Of one way of building, for each group of parts: three sizes of each part, and what has to be the same for sizes
    to be compared, its form and what it shows in a wall."""

    mm: Sequence[Floats]
    kinds: Sequence[NDArray[np.intp]]


@dataclass(frozen=True)
class Outlines:
    """`columns`: the drafts in question, a row each. Their sizes are looked up and not kept: there may be millions."""

    columns: NDArray[np.int16]
    ways: Sequence[PartOutlines]

    def no_smaller_than(self, row: int, left: NDArray[np.bool_]) -> NDArray[np.intp]:
        """Of those left, drafts whose every part is as large as this one's or larger: they do not go in either."""
        own = self.columns[row]
        of_way = self.ways[own[_WAY]]
        places: NDArray[np.intp] = np.flatnonzero(left)
        places = places[(self.columns[places, _WAY] == own[_WAY]) & (self.columns[places, _COUNT] >= own[_COUNT])]
        for column, mm, kinds in zip(_PARTS, of_way.mm, of_way.kinds, strict=True):
            as_large = (mm >= mm[own[column]] - 1e-9).all(axis=1) & (kinds == kinds[own[column]])
            places = places[as_large[self.columns[places, column]]]
        return places


def part_outlines(offer: OnOffer, build: Build) -> PartOutlines:
    """Sizes as they are placed in this way of building, with their allowances; what has no size takes no room."""
    bare = build.model_copy(update={"cell_count": 1, "boards": (), "outside": (), "shell_off": (), "pins": ()})
    cells = [None if part.shapes else _placed(bare.model_copy(update={"cell": part.body})) for part in offer.cells]
    alone = bare.model_copy(update={"cell": None})

    def boards(parts: Sequence[Offered | None]) -> list[Part | None]:
        return [_placed(alone.model_copy(update={"boards": (part.body,)})) if part else None for part in parts]

    # None more of a protection is the last of its group, which is where -1 leads.
    chargers = [part if part.who_charges == "board" else None for part in offer.chargers]
    groups = cells, boards(chargers), [*boards(offer.protections), None], boards(offer.regulators)
    names: dict[object, int] = {}
    kinds = [np.array([names.setdefault(_kind(p), len(names)) for p in parts], dtype=np.intp) for parts in groups]
    # Of one cell in many shapes only the boards can be compared.
    kinds[0] = np.array([-1 - n if part.shapes else kinds[0][n] for n, part in enumerate(offer.cells)], dtype=np.intp)
    # No board at all is smaller than any, whatever it would show.
    kinds[2], kinds[3] = np.zeros_like(kinds[2]), np.zeros_like(kinds[3])
    sizes = [np.array([part.size if part else (0.0, 0.0, 0.0) for part in parts]).reshape(-1, 3) for parts in groups]
    return PartOutlines(sizes, kinds)


def cells_that_go_in(offer: OnOffer, project: Project, known: KnownFits) -> list[list[list[int]]]:
    """By cell and place in COUNTS: in which of its shapes so many of it alone go in.

    Where they do not, nothing with them does. Of cells of one form a smaller one goes in wherever a larger does, and
    so do fewer.
    """
    nothing_else: dict[str, object] = {"boards": (), "regulator": None, "unlike_cells": ()}
    bare = project.builds[0].model_copy(
        update={"cell_count": 1, "outside": (), "shell_off": (), "pins": ()} | nothing_else
    )
    bodies = [shape.body for cell in offer.cells for shape in cell.shaped]
    builds = [bare.model_copy(update={"cell": body}) for body in bodies]
    parts = [_placed(build) for build in builds]
    forms: dict[object, int] = {}
    form = np.array([forms.setdefault(_kind(part), len(forms)) for part in parts], dtype=np.intp)
    mm = np.array([part.size if part else (0.0, 0.0, 0.0) for part in parts]).reshape(-1, 3)
    answers = np.zeros((len(COUNTS), len(parts)), dtype=bool)
    for number, count in enumerate(COUNTS):
        settled = ~answers[number - 1] if number else np.zeros(len(parts), dtype=bool)
        for place in _halving(np.argsort(mm.prod(axis=1), kind="stable")):
            if settled[place]:
                continue
            build = builds[place].model_copy(update={"cell_count": count})
            goes_in = known.goes_in(with_build(project, build), 0) is not False
            alike = form == form[place]
            if goes_in:
                answers[number] |= alike & (mm <= mm[place] + 1e-9).all(axis=1)
                settled |= answers[number]
            else:
                settled |= alike & (mm >= mm[place] - 1e-9).all(axis=1)
    places = iter(range(len(parts)))
    mine = [[next(places) for _ in cell.shaped] for cell in offer.cells]
    return [[[n for n, p in enumerate(shapes) if answers[k, p]] for k in range(len(COUNTS))] for shapes in mine]


def _halving(places: NDArray[np.intp]) -> Iterator[int]:
    """The middle one first, then those of the halves, and so on: each answer settles most of what it can."""
    waiting = deque([(0, len(places))])
    while waiting:
        low, high = waiting.popleft()
        if low < high:
            middle = (low + high) // 2
            yield int(places[middle])
            waiting += [(low, middle), (middle + 1, high)]


def _placed(build: Build) -> Part | None:
    return next((part for part in parts_of(build) if part.kind in ("cell", "board")), None)


def _kind(part: Part | None) -> object:
    return None if part is None else (part.form, part.any_way, part.face)
