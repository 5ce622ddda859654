"""One drawer for many gadgets: which own cell serves which gadget best, with fit and judgement of each kept.

What a cell comes to in a gadget is its days on a charge beside those of a set of old batteries, r / (1 + r): twice as
long is worth less than twice, so that a clock that runs for years does not outweigh a lamp (our judgement). Fit and
stops are looked at where the solver wants a cell; what may not be is struck out, and it is solved again.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from pocketspark.core.assignment.assigning import CellOffer, assign
from pocketspark.core.cells.grading import grade
from pocketspark.core.cells.matching import matches
from pocketspark.core.chain import Chain
from pocketspark.core.chosen.old_batteries import old_set_days
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.outer import outer_margin_mm, room_mm
from pocketspark.core.message import NOTHING, Message, say, say_of
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.build import ParallelCell
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.rules import findings_of
from pocketspark.core.units.figures import ShownDays, percent

Aim = Literal["most_service", "most_gadgets"]
# Of a gadget whose old batteries nobody knows.
USUAL_OLD_DAYS = 30.0
NO_ROOM = say("None of your cells goes in.")


@dataclass(frozen=True)
class OpenGadget:
    """A conversion whose build is not begun. `build`: its number in the project."""

    project_id: int
    project: Project
    build: int


def is_ready(cell: Cell) -> bool:
    """One that is still to be watched, revived or tested goes into no gadget yet, and one to be recycled never."""
    return grade(cell).word not in ("watch", "untested", "recycle")


@dataclass(frozen=True)
class OwnCell:
    """A cell of the maker's own, and how many of it are free."""

    part_id: int
    cell: Cell
    free: int


class CellLine(Model):
    """A line between a gadget and the cells it gets: `days` on a charge, and what a set of old batteries lasts."""

    project_id: int
    gadget: str
    cells: tuple[int, ...]
    names: tuple[str, ...]
    days: ShownDays
    old_days: ShownDays | None
    pinned: bool
    edits: tuple[Edit, ...]


class GadgetLeft(Model):
    """A gadget that gets none, and why."""

    project_id: int
    gadget: str
    why: Message


class DrawerCell(Model):
    """One of the cells, and how many of it no line takes."""

    part_id: int
    name: str
    left: int


class Assignment(Model):
    """Who gets which. `proof`: that nothing better there is, or how much better it could be."""

    headline: Message
    proof: Message
    lines: tuple[CellLine, ...]
    left: tuple[GadgetLeft, ...]
    drawer: tuple[DrawerCell, ...]


@dataclass(frozen=True)
class Wanted:
    """What the maker says: gadget and cell, by conversion and part."""

    aim: Aim = "most_service"
    pinned: frozenset[tuple[int, int]] = frozenset()
    forbidden: frozenset[tuple[int, int]] = frozenset()


@dataclass
class _Offer:
    """One way to serve a gadget, tried: its days on a charge, and what speaks against it."""

    gadget: int
    cells: tuple[int, ...]
    days: float
    old_days: float
    project: Project
    stop: Message | None = None

    @property
    def worth(self) -> float:
        """From 0 to 1."""
        beside = self.days / (self.old_days or USUAL_OLD_DAYS)
        return beside / (1 + beside)


def who_gets_which(
    gadgets: Sequence[OpenGadget],
    cells: Sequence[OwnCell],
    wanted: Wanted = Wanted(),
) -> Assignment:
    """The best of all ways, as the maker means it."""
    offers = list(_offers(gadgets, cells, wanted))
    pieces, known = [one.free for one in cells], KnownFits()
    stops: dict[int, Message] = {}
    while True:
        pinned = [number for number, one in enumerate(offers) if _is_pinned(one, gadgets, cells, wanted)]
        servings = [CellOffer(one.gadget, one.cells, one.worth) for one in offers]
        found = assign(servings, pieces, most_gadgets=wanted.aim == "most_gadgets", pinned=pinned)
        if found is None:
            return _cannot(gadgets, cells)
        wanted_offers = [offers[number] for number in found.taken if number not in pinned]
        refused = [one for one in wanted_offers if _stopped(one, gadgets, known)]
        if not refused:
            break
        for one in refused:
            stops[one.gadget] = one.stop or NOTHING
            offers = list(_without_those_that_may_not(one, offers, gadgets, known))
    taken = [offers[number] for number in found.taken]
    return Assignment(
        headline=say_of(
            len(gadgets),
            "{taken} of one gadget gets a cell",
            "{taken} of {count} gadgets get a cell",
            taken=str(len(taken)),
        ),
        proof=say("No other way serves more.")
        if found.gap == 0
        else say("At most {share} of a gadget's service more is possible.", share=percent(found.gap)),
        lines=tuple(_line(one, gadgets, cells, wanted) for one in taken),
        left=tuple(_left(gadgets, taken, offers, stops)),
        drawer=tuple(_drawer(cells, taken)),
    )


def _cannot(gadgets: Sequence[OpenGadget], cells: Sequence[OwnCell]) -> Assignment:
    return Assignment(
        headline=say("What is pinned does not go together: let one line go."),
        proof=NOTHING,
        lines=(),
        left=tuple(
            GadgetLeft(project_id=one.project_id, gadget=one.project.gadget.name, why=NOTHING) for one in gadgets
        ),
        drawer=tuple(_drawer(cells, [])),
    )


# What each cell comes to -------------------------------------------------------------------------------------------


def _offers(gadgets: Sequence[OpenGadget], cells: Sequence[OwnCell], wanted: Wanted) -> Iterator[_Offer]:
    pairs = _pairs(cells) if any(one.project.builds[one.build].cell_count > 1 for one in gadgets) else []
    for number, gadget in enumerate(gadgets):
        build = gadget.project.builds[gadget.build]
        groups: Iterable[tuple[int, ...]] = ((at,) for at in range(len(cells)))
        if build.cell_count > 1:
            # Two of one part are as like as can be.
            groups = [*((at, at) for at in range(len(cells)) if cells[at].free > 1), *pairs]
        for group in groups:
            if any((gadget.project_id, cells[at].part_id) in wanted.forbidden for at in group):
                continue
            offer = _offer(number, gadget, cells, group)
            if offer is not None and offer.days > 0:
                yield offer


def _pairs(cells: Sequence[OwnCell]) -> list[tuple[int, int]]:
    """Those that go together in parallel."""
    return [(one.first, one.second) for one in matches([cell.cell for cell in cells]) if not one.spoilers]


def _offer(number: int, gadget: OpenGadget, cells: Sequence[OwnCell], group: tuple[int, ...]) -> _Offer | None:
    """None for a cell that is too large for the room of the old batteries, whatever else."""
    cell = cells[group[0]].cell
    margin_mm = outer_margin_mm(cell, room_mm(gadget.project.gadget.supply))
    if gadget.project.gadget.bay is None and margin_mm is not None and margin_mm < 0:
        return None
    project = _with_cells(gadget, [cells[at] for at in group])
    chain = Chain(project, gadget.build, advises=False)
    running = chain.required_running()
    most_used = running.most_used
    days = running.served_days
    if days is None:
        days = most_used.service_hours / 24 if most_used else 0.0
    return _Offer(number, group, days, old_set_days(chain) or 0.0, project)


def _with_cells(gadget: OpenGadget, own: Sequence[OwnCell]) -> Project:
    """Its plan with these cells, and with the resistor that suits them."""
    first, *others = [one.cell.model_copy(update={"inventory_id": one.part_id}) for one in own]
    alike = all(one.part_id == own[0].part_id for one in own)
    plan = gadget.project.builds[gadget.build]
    updates = {
        "cell": first,
        "cell_count": len(own) if alike else 1,
        "unlike_cells": () if alike else tuple(ParallelCell(**dict(other), id="") for other in others),
        "wiring": plan.wiring.model_copy(update={"matched": len(own) > 1}),
    }
    project = _with_build(gadget, updates)
    board = Chain(project, gadget.build, advises=False).board_charging
    return _with_build(gadget, updates | {"r_prog_ohm": board.current.suggested_r_ohm}) if board else project


def _with_build(gadget: OpenGadget, updates: Mapping[str, object]) -> Project:
    """Judged by nothing: what goes in was judged as a part."""
    builds = list(gadget.project.builds)
    builds[gadget.build] = builds[gadget.build].model_copy(update=updates)
    return gadget.project.model_copy(update={"builds": tuple(builds)})


def _edits(gadget: OpenGadget, project: Project) -> tuple[Edit, ...]:
    """What turns its document into this one."""
    path, build = f"builds.{gadget.build}", project.builds[gadget.build]
    assert build.cell is not None
    unlike = [cell.model_dump(mode="json") for cell in build.unlike_cells]
    return (
        Edit(path=f"{path}.cell", value=build.cell.model_dump(mode="json")),
        Edit(path=f"{path}.cell_count", value=build.cell_count),
        Edit(path=f"{path}.unlike_cells", value=unlike),
        Edit(path=f"{path}.wiring.matched", value=build.wiring.matched),
        Edit(path=f"{path}.r_prog_ohm", value=build.r_prog_ohm),
    )


def _without_those_that_may_not(
    refused: _Offer,
    offers: Sequence[_Offer],
    gadgets: Sequence[OpenGadget],
    known: KnownFits,
) -> Iterator[_Offer]:
    """Down to the next best of this gadget that may be: whatever is worth more to it would be asked for next."""
    mine = sorted((one for one in offers if one.gadget == refused.gadget), key=lambda one: -one.worth)
    struck = set()
    for one in mine:
        if one.worth <= refused.worth and not _stopped(one, gadgets, known):
            break
        if _stopped(one, gadgets, known):
            struck.add(id(one))
    return (one for one in offers if id(one) not in struck)


def _stopped(offer: _Offer, gadgets: Sequence[OpenGadget], known: KnownFits) -> bool:
    """Whether it does not go in, or a rule says stop; which one is kept with it."""
    if offer.stop is None:
        build = gadgets[offer.gadget].build
        if known.goes_in(offer.project, build) is False:
            offer.stop = NO_ROOM
        else:
            findings = findings_of(Chain(offer.project, build, advises=False))
            stop = next((one for one in findings if one.level == "stop"), None)
            offer.stop = stop.headline if stop else NOTHING
    return bool(offer.stop)


def _is_pinned(offer: _Offer, gadgets: Sequence[OpenGadget], cells: Sequence[OwnCell], wanted: Wanted) -> bool:
    project_id = gadgets[offer.gadget].project_id
    mine = {part for project, part in wanted.pinned if project == project_id}
    return bool(mine) and mine == {cells[at].part_id for at in offer.cells}


# What is told ------------------------------------------------------------------------------------------------------


def _line(offer: _Offer, gadgets: Sequence[OpenGadget], cells: Sequence[OwnCell], wanted: Wanted) -> CellLine:
    gadget = gadgets[offer.gadget]
    return CellLine(
        project_id=gadget.project_id,
        gadget=gadget.project.gadget.name,
        cells=tuple(cells[at].part_id for at in offer.cells),
        names=tuple(cells[at].cell.name for at in offer.cells),
        days=offer.days,
        old_days=offer.old_days or None,
        pinned=_is_pinned(offer, gadgets, cells, wanted),
        edits=_edits(gadget, offer.project),
    )


def _left(
    gadgets: Sequence[OpenGadget], taken: Sequence[_Offer], offers: Sequence[_Offer], stops: Mapping[int, Message]
) -> Iterator[GadgetLeft]:
    served, possible = {one.gadget for one in taken}, {one.gadget for one in offers}
    for number, gadget in enumerate(gadgets):
        if number in served:
            continue
        why = say("None of your cells fits it and serves.")
        if number in possible:
            why = say("Those that would serve it serve others better.")
        elif number in stops:
            stop = stops[number]
            why = stop if stop is NO_ROOM else say("With each of your cells: {stop}", stop=stop)
        yield GadgetLeft(project_id=gadget.project_id, gadget=gadget.project.gadget.name, why=why)


def _drawer(cells: Sequence[OwnCell], taken: Sequence[_Offer]) -> Iterator[DrawerCell]:
    for number, one in enumerate(cells):
        used = sum(offer.cells.count(number) for offer in taken)
        yield DrawerCell(part_id=one.part_id, name=one.cell.name, left=one.free - used)
