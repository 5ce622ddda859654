"""The outer sizes of every draft's parts, in one table: where one draft does not go in, no larger one does."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.fit.parts import Part, parts_of
from pocketspark.core.models import Build
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.proposals.offer import COUNTS, Drafts, Offered, OnOffer


@dataclass(frozen=True)
class Outlines:
    """A row for each draft. `mm`: how many cells, and three sizes each of cell, charger, protection and regulator.

    `kinds`: what has to be the same for sizes to be compared: the cell's form, what each board shows in a wall.
    """

    mm: Floats
    kinds: NDArray[np.intp]

    def no_smaller_than(self, row: int) -> NDArray[np.bool_]:
        """Drafts whose every part is as large as this one's or larger: they do not go in where it does not."""
        alike = (self.kinds == self.kinds[row]).all(axis=1)
        larger: NDArray[np.bool_] = alike & (self.mm >= self.mm[row] - 1e-9).all(axis=1)
        return larger

    def in_order(self, order: NDArray[np.intp]) -> "Outlines":
        return Outlines(self.mm[order], self.kinds[order])


def outlines_of(offer: OnOffer, drafts: Drafts, base: Build) -> Outlines:
    """Sizes as they are placed, with their allowances; what has no size takes no room."""
    bare = base.model_copy(update={"cell_count": 1, "boards": (), "outside": (), "shell_off": (), "pins": ()})
    cells = [_placed(bare.model_copy(update={"cell": part.body})) for part in offer.cells]
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
    # No board at all is smaller than any, whatever it would show.
    kinds[2], kinds[3] = np.zeros_like(kinds[2]), np.zeros_like(kinds[3])
    count = np.array(COUNTS, dtype=float)[drafts.count]
    return Outlines(np.column_stack([count, *sizes]), np.column_stack(kinds))


def _placed(build: Build) -> Part | None:
    return next((part for part in parts_of(build) if part.kind in ("cell", "board")), None)


def _kind(part: Part | None) -> object:
    return None if part is None else (part.form, part.any_way, part.face)
