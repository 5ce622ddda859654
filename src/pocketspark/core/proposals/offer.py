"""What may be put together, and what the maker wishes of it."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models import Board, Build, Cell, Project
from pocketspark.core.models.build import Policy
from pocketspark.core.models.model import Model
from pocketspark.core.models.record import Record
from pocketspark.core.models.wiring import Wiring

# Like cells side by side: more than three are a pack, and no small conversion.
COUNTS = (1, 2, 3)
# How fast it may be charged: by the label's own figures it is the maker's, and not proposed.
POLICIES: tuple[Policy, ...] = ("gentle", "label")


class Wishes(Model):
    """What a proposal must come to. None: no matter."""

    hours_at_least: float | None = None  # of the mode that is used most
    full_within_h: float | None = None
    price_at_most: float | None = None
    own_parts_only: bool = False
    type_c_only: bool = False
    no_regulator: bool = False
    no_cautions: bool = False
    keep_cell: bool = False  # the build's own cell is bought already, and stays
    keep_charger: bool = False  # its charger board likewise


@dataclass(frozen=True)
class Offered:
    """One part on offer. Own ones cost nothing any more."""

    body: Cell | Board
    own: bool = False

    @property
    def price(self) -> float:
        return 0.0 if self.own else self.body.price or 0.0


@dataclass(frozen=True)
class OnOffer:
    """Parts by what they are for. A regulator of None is none: straight from the cell."""

    cells: Sequence[Offered]
    chargers: Sequence[Offered]
    protections: Sequence[Offered]
    regulators: Sequence[Offered | None]

    def narrowed(self, wishes: Wishes, base: Build) -> "OnOffer":
        """Without what no wish lets in; with what the build has, where that stays."""

        def kept(parts: Sequence[Offered]) -> list[Offered]:
            return [part for part in parts if part.own or not wishes.own_parts_only]

        chargers = [part for part in kept(self.chargers) if not wishes.type_c_only or _is_type_c(part.body)]
        regulators = [None] if wishes.no_regulator else [p for p in self.regulators if p is None or p in kept([p])]
        cells = kept(self.cells)
        if wishes.keep_cell and base.cell:
            cells = [Offered(base.cell, own=True)]
        bought = next((board for board in base.boards if board.charger), None)
        if wishes.keep_charger and bought:
            chargers = [Offered(bought, own=True)]
        return OnOffer(cells, chargers, kept(self.protections), regulators)


def _is_type_c(body: Cell | Board) -> bool:
    return isinstance(body, Board) and body.socket is not None and body.socket.kind == "type_c"


@dataclass(frozen=True)
class Drafts:
    """Every combination, a row each: which cell, how many, charger, policy, protection (-1: none more), regulator."""

    cell: NDArray[np.intp]
    count: NDArray[np.intp]
    charger: NDArray[np.intp]
    policy: NDArray[np.intp]
    protection: NDArray[np.intp]
    regulator: NDArray[np.intp]

    def __len__(self) -> int:
        return len(self.cell)

    def only(self, chosen: NDArray[np.bool_]) -> "Drafts":
        return Drafts(*(column[chosen] for column in self.columns()))

    def columns(self) -> tuple[NDArray[np.intp], ...]:
        return self.cell, self.count, self.charger, self.policy, self.protection, self.regulator


def drafts_of(offer: OnOffer) -> Drafts:
    """All of them. A separate protection is tried where neither cell nor charger board has one, and only there."""
    pairs = np.array(
        [
            (c, h, p)
            for c, cell in enumerate(offer.cells)
            for h, charger in enumerate(offer.chargers)
            for p in ([-1] if _is_protected(cell.body, charger.body) else range(len(offer.protections)))
        ],
        dtype=np.intp,
    ).reshape(-1, 3)
    shape = (len(pairs), len(COUNTS), len(POLICIES), len(offer.regulators))
    pair, count, policy, regulator = (axis.ravel() for axis in np.indices(shape))
    cell, charger, protection = (pairs[pair, column] for column in range(3))
    return Drafts(cell, count, charger, policy, protection, regulator)


def _is_protected(cell: Cell | Board, charger: Cell | Board) -> bool:
    assert isinstance(cell, Cell)
    assert isinstance(charger, Board)
    return cell.protection is not None or charger.protection is not None


def build_of(draft: Sequence[int], offer: OnOffer, base: Build) -> Build:
    """The draft as a build, all else as the base has it; its charge-current resistor is still to be set."""
    c, k, h, p, g, r = draft
    cell, charger, regulator = offer.cells[c].body, offer.chargers[h].body, offer.regulators[r]
    boards = [charger] + ([offer.protections[g].body] if g >= 0 else []) + ([regulator.body] if regulator else [])
    numbered = [board.model_copy(update={"id": f"board{n + 1}"}) for n, board in enumerate(boards)]
    return base.model_copy(
        update={
            "cell": cell,
            "cell_count": COUNTS[k],
            "cells_in_series": 1,
            "unlike_cells": (),
            "who_charges": "board",
            "boards": tuple(numbered),
            "regulator": None,
            "policy": POLICIES[p],
            "r_prog_ohm": None,
            "outside": (),
            "shell_off": (),
            "pins": (),
            "wiring": Wiring(),
            "practice": False,
            "record": Record(),
        }
    )


def with_build(project: Project, build: Build) -> Project:
    """A project of this build alone: bases of others' fields say nothing of it."""
    basis = {path: value for path, value in project.basis.items() if not path.startswith("builds.")}
    return project.model_copy(update={"builds": (build,), "basis": basis})
