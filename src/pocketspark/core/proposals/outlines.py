"""The outer sizes of every draft's parts, in one table: where one draft does not go in, no larger one does."""

from collections import deque
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.parts import Part, parts_of
from pocketspark.core.models import Build, Project
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.proposals.offer import COUNTS, Drafts, Offered, OnOffer, with_build


@dataclass(frozen=True)
class Outlines:
    """A row for each draft. `mm`: how many cells, and three sizes each of cell, charger, protection and regulator.

    `kinds`: what has to be the same for sizes to be compared: the cell's form, what each board shows in a wall, the
    way.
    """

    mm: Floats
    kinds: NDArray[np.intp]

    def no_smaller_than(self, row: int, left: NDArray[np.bool_]) -> NDArray[np.intp]:
        """Of those left, drafts whose every part is as large as this one's or larger: they do not go in either."""
        places = np.flatnonzero(left)
        for column, own in enumerate(self.mm[row]):
            places = places[self.mm[places, column] >= own - 1e-9]
        alike: NDArray[np.intp] = places[(self.kinds[places] == self.kinds[row]).all(axis=1)]
        return alike

    @classmethod
    def joined(cls, several: Sequence["Outlines"]) -> "Outlines":
        return cls(np.concatenate([one.mm for one in several]), np.concatenate([one.kinds for one in several]))

    def in_order(self, order: NDArray[np.intp]) -> "Outlines":
        return Outlines(self.mm[order], self.kinds[order])


def outlines_of(offer: OnOffer, drafts: Drafts, build: Build, number: int) -> Outlines:
    """Sizes as they are placed, with their allowances; what has no size takes no room. `number`: of the way."""
    bare = build.model_copy(update={"cell_count": 1, "boards": (), "outside": (), "shell_off": (), "pins": ()})
    cells = [None if part.shapes else _placed(bare.model_copy(update={"cell": part.body})) for part in offer.cells]
    alone = bare.model_copy(update={"cell": None})

    def boards(parts: Sequence[Offered | None]) -> list[Part | None]:
        return [_placed(alone.model_copy(update={"boards": (part.body,)})) if part else None for part in parts]

    groups = (
        (cells, drafts.cell),
        (boards(offer.chargers), drafts.charger),
        ([*boards(offer.protections), None], drafts.protection),
        (boards(offer.regulators), drafts.regulator),
    )
    sizes = [np.array([part.size if part else (0.0, 0.0, 0.0) for part in parts])[column] for parts, column in groups]
    names: dict[object, int] = {}
    kinds = [np.array([names.setdefault(_kind(p), len(names)) for p in parts])[column] for parts, column in groups]
    # Of one cell in many shapes only the boards can be compared.
    several = np.array([bool(part.shapes) for part in offer.cells])[drafts.cell]
    kinds[0] = np.where(several, -1 - drafts.cell, kinds[0])
    # No board at all is smaller than any, whatever it would show.
    kinds[2], kinds[3] = np.zeros_like(kinds[2]), np.zeros_like(kinds[3])
    count = np.array(COUNTS, dtype=float)[drafts.count]
    kinds.append(np.full(len(drafts), number, dtype=np.intp))
    return Outlines(np.column_stack([count, *sizes]), np.column_stack(kinds))


def cells_that_go_in(offer: OnOffer, project: Project, known: KnownFits) -> list[list[list[int]]]:
    """By cell and place in COUNTS: in which of its shapes so many of it alone go in.

    Where they do not, nothing with them does. Of cells of one form a smaller one goes in wherever a larger does, and
    so do fewer.
    """
    bare = project.builds[0].model_copy(
        update={"cell_count": 1, "boards": (), "outside": (), "shell_off": (), "pins": (), "unlike_cells": ()}
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
