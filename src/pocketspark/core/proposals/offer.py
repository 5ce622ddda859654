"""What may be put together: parts on offer, and every combination of them."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.chosen.prices import price_of
from pocketspark.core.message import Message, say
from pocketspark.core.models import Board, Build, Cell, Project
from pocketspark.core.models.build import ExternalCharger, Policy, WhoCharges
from pocketspark.core.models.record import Record
from pocketspark.core.models.wiring import Wiring
from pocketspark.core.proposals.wishes import Wishes, bought, regulator_of

# Like cells side by side: more than three are a pack, and no small conversion.
COUNTS = (1, 2, 3)
# How fast it may be charged; by its data sheet only where that allows more than the label.
POLICIES: tuple[Policy, ...] = ("gentle", "label", "data_sheet")


@dataclass(frozen=True)
class Offered:
    """One part on offer. Own ones cost nothing any more. `shapes`: cells that differ from this in their size alone.

    `free`: so many of it are there to be used; None: as many as are wanted. `who_charges`: "board", unless it is a
    charger that is no part of the build.
    """

    body: Cell | Board
    own: bool = False
    shapes: tuple[Cell, ...] = ()
    free: int | None = None
    who_charges: WhoCharges = "board"

    @cached_property
    def shaped(self) -> list["Offered"]:
        """Itself, and the same in each of its other shapes."""
        return [replace(self, shapes=()), *(replace(self, body=shape, shapes=()) for shape in self.shapes)]

    @property
    def price(self) -> float:
        return 0.0 if self.own else price_of(self.body)

    @cached_property
    def key(self) -> tuple[str, bool]:
        """The same for parts that come to the same."""
        return self.body.model_dump_json(), self.own


@dataclass(frozen=True)
class OnOffer:
    """Parts by what they are for. A regulator of None is none: straight from the cell."""

    cells: Sequence[Offered]
    chargers: Sequence[Offered]
    protections: Sequence[Offered]
    regulators: Sequence[Offered | None]
    sized: Sequence[Offered] = ()  # cells of every size code, on wish
    resistors_ohm: Sequence[float] = ()  # the maker's own

    @cached_property
    def policies_of(self) -> NDArray[np.intp]:
        """By cell, so many of POLICIES make a difference."""
        return np.array([len(POLICIES) - (not _charges_faster(cell.body)) for cell in self.cells], dtype=np.intp)

    def narrowed(self, wishes: Wishes, base: Build) -> "OnOffer":
        """Without what no wish lets in; with what the build has, where that stays."""

        def kept(parts: Sequence[Offered]) -> list[Offered]:
            return [part for part in parts if part.own or not wishes.own_parts_only]

        chargers = [part for part in kept(self.chargers) if not wishes.type_c_only or _is_type_c(part.body)]
        regulators: list[Offered | None] = [None]
        if not wishes.no_regulator:
            regulators = [part for part in self.regulators if part is None or kept([part])]
        cells = kept((*self.cells, *(self.sized if wishes.any_size else ())))
        if wishes.keep_cell and base.cell:
            cells = [Offered(base.cell, own=True)]
        if wishes.keep_charger and (charger := bought(base, "charger")):
            chargers = [Offered(charger, own=True)]
        protections = kept(self.protections)
        if wishes.keep_protection and (protection := bought(base, "protection")):
            protections = [Offered(protection, own=True)]
        if wishes.keep_regulator and (regulator := regulator_of(base)):
            if regulator.charger:
                chargers, regulators = [Offered(regulator, own=True)], [None]
            else:
                regulators = [Offered(regulator, own=True)]
        return OnOffer(cells, chargers, protections, regulators, (), self.resistors_ohm)


def in_order(offer: OnOffer) -> OnOffer:
    """The same with its parts by name, so that it does not matter how they were listed."""

    def ordered(parts: Iterable[Offered]) -> list[Offered]:
        return sorted(parts, key=lambda part: (part.body.name, part.key))

    through = [part for part in offer.regulators if part is None]
    regulators = [*through, *ordered(part for part in offer.regulators if part is not None)]
    return replace(
        offer,
        cells=ordered(offer.cells),
        chargers=ordered(offer.chargers),
        protections=ordered(offer.protections),
        regulators=regulators,
    )


def grouped(cells: Iterable[Cell]) -> list[Offered]:
    """Those that come to the same but for their size as one, so that all but the fit is asked once of them."""
    groups: dict[str, list[Cell]] = {}
    for cell in cells:
        groups.setdefault(cell.model_dump_json(exclude={"name", "size_mm"}), []).append(cell)
    return [Offered(first, shapes=tuple(others)) for first, *others in groups.values()]


def _charges_faster(body: Cell | Board) -> bool:
    """Does its data sheet allow more than once its capacity an hour? Of a used cell nobody's data sheet holds."""
    fresh = isinstance(body, Cell) and body.origin != "salvaged"
    return fresh and isinstance(body, Cell) and (body.charge_max_a or 0.0) > body.planning_capacity_ah


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


class Counted(NamedTuple):
    """Drafts that are worth a look, and how many builds there are in all; how many others fell to each reason.

    A draft whose cell is there in several shapes stands for so many builds: `weights`.
    """

    drafts: Drafts
    weights: NDArray[np.intp]
    total: int
    fell: Mapping[Message, int]


NOT_SUITED = say("charger and cell do not suit each other")
NO_SHARING = say("it is to run while it charges, and its charger does not share the load")
TOO_FEW = say("you have fewer of its cell")
NO_SOCKET = say("its charger has no socket, and none is planned")
NO_FIT = say("it does not fit into the bay")


def drafts_of(offer: OnOffer, shapes_in: NDArray[np.intp], suited: NDArray[np.bool_], base: Build) -> Counted:
    """All of them, but for those that a look at two parts rules out.

    `shapes_in`: by cell and place in COUNTS, in how many of its shapes so many of it alone go in; `suited`: by cell and
    charger. `base`: the way of building, which may need a charger board with a socket, or one that shares the load. A
    separate protection is tried where neither cell nor charger board
    has one.
    """
    own_protection = np.array([cell.body.protection is not None for cell in offer.cells], dtype=bool)
    boards = [part.body for part in offer.chargers]
    on_board = np.array([board.protection is not None for board in boards], dtype=bool)
    socket = base.input.facts.on_board and base.who_charges == "board"
    sharing = base.use_while_charging == "load_sharing"
    enters: NDArray[np.bool_] = suited & np.array([_has_socket(board) or not socket for board in boards], dtype=bool)
    shares = np.array([_shares_load(board) or not sharing for board in boards], dtype=bool)
    enough = np.array(
        [[cell.free is None or cell.free >= count for count in COUNTS] for cell in offer.cells], dtype=bool
    )
    enough = enough.reshape(-1, len(COUNTS))
    single = own_protection[:, None] | on_board[None, :]
    mine = np.array([part.who_charges == base.who_charges for part in offer.chargers], dtype=bool)
    # What charges already has its rate.
    policies = offer.policies_of[:, None] if base.who_charges == "board" else np.ones_like(offer.policies_of)[:, None]
    # So many builds of each cell and charger: protections, shapes, counts, rates and regulators.
    each = np.where(single, 1, len(offer.protections)) * mine * policies * len(offer.regulators)
    shapes = np.array([len(cell.shaped) for cell in offer.cells], dtype=np.intp)[:, None]
    every, had = each * shapes * len(COUNTS), each * shapes * enough.sum(axis=1)[:, None]
    in_all = each * (shapes_in * enough).sum(axis=1)[:, None]
    takes = enters & shares & mine
    fell = {
        NOT_SUITED: int(every[~suited].sum()),
        NO_SOCKET: int(every[suited & ~enters].sum()),
        NO_SHARING: int(every[enters & ~shares].sum()),
        TOO_FEW: int((every - had)[takes].sum()),
        NO_FIT: int((had - in_all)[takes].sum()),
    }
    enters, shapes_in = takes, shapes_in * enough
    rows = [
        (c, h, p)
        for c, h in np.argwhere(enters & (shapes_in.max(axis=1, initial=0) > 0)[:, None]).tolist()
        for p in ([-1] if single[c, h] else range(len(offer.protections)))
    ]
    pairs = np.array(rows, dtype=np.intp).reshape(-1, 3)
    most_policies = int(policies.max(initial=0))
    axes = np.indices((len(pairs), len(COUNTS), most_policies, len(offer.regulators)))
    pair, count, policy, regulator = (axis.ravel() for axis in axes)
    cell, charger, protection = (pairs[pair, column] for column in range(3))
    drafts = Drafts(cell, count, charger, policy, protection, regulator)
    weights: NDArray[np.intp] = shapes_in[cell, count]
    go_in = np.asarray((weights > 0) & (policy < policies[cell, 0]))
    return Counted(drafts.only(go_in), weights[go_in], int(every.sum()), fell)


def _shares_load(body: Cell | Board) -> bool:
    return isinstance(body, Board) and body.load_sharing


def _has_socket(body: Cell | Board) -> bool:
    return isinstance(body, Board) and body.socket is not None


def build_of(draft: Sequence[int], offer: OnOffer, base: Build, shape: int = 0) -> Build:
    """The draft as a build, all else as the base has it; its charge-current resistor is still to be set."""
    c, k, h, p, g, r = draft
    cell, charging, regulator = offer.cells[c].shaped[shape].body, offer.chargers[h], offer.regulators[r]
    boards = [charging.body] if charging.who_charges == "board" else []
    boards += ([offer.protections[g].body] if g >= 0 else []) + ([regulator.body] if regulator else [])
    numbered = [board.model_copy(update={"id": f"board{n + 1}"}) for n, board in enumerate(boards)]
    return base.model_copy(
        update={
            "cell": cell,
            "cell_count": COUNTS[k],
            "cells_in_series": 1,
            "unlike_cells": (),
            "who_charges": charging.who_charges,
            "external_charger": _outside(charging) or base.external_charger,
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


def _outside(charging: Offered) -> ExternalCharger | None:
    if charging.who_charges != "external" or not isinstance(charging.body, Board) or charging.body.charger is None:
        return None
    charger, price = charging.body.charger, charging.body.price
    return ExternalCharger(current_a=charger.rated_a, float_v=charger.float_v, price=price)


def with_build(project: Project, build: Build) -> Project:
    """A project of this build alone: ways of others' fields say nothing of it."""
    basis = {path: value for path, value in project.basis.items() if not path.startswith("builds.")}
    return project.model_copy(update={"builds": (build,), "basis": basis})
