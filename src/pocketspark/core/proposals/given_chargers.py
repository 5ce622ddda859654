"""Chargers that need no board in the gadget: one outside, to which the cell is taken, and the gadget's own."""

from collections.abc import Iterator
from dataclasses import replace

from pocketspark.core.chosen.given_charger import given_charger
from pocketspark.core.models import Board, Build, Cell, Gadget, Project
from pocketspark.core.models.build import ExternalCharger
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.proposals.offer import Offered, OnOffer
from pocketspark.core.proposals.wishes import Wishes

# Chargers with a clip or a plug for the cell that are sold: what they give, and a usual price (rough, our own).
SOLD_OUTSIDE = (
    ("250 mA external charger", 0.25, 5.0),
    ("500 mA external charger", 0.5, 6.0),
    ("1 A external charger", 1.0, 8.0),
)


def with_given_chargers(offer: OnOffer, project: Project, number: int, wishes: Wishes) -> OnOffer:
    """The offer with these too, where the build or a wish lets one of them charge."""
    build = project.builds[number]
    given: list[Offered] = []
    if wishes.any_charger or build.who_charges == "gadget":
        given += _own(project.gadget, build)
    if wishes.any_charger or build.who_charges == "external":
        classes = sorted({cell.body.cell_class for cell in offer.cells if isinstance(cell.body, Cell)})
        given += [one for one in _outside(project.gadget, build, classes) if one.own or not wishes.own_parts_only]
    return replace(offer, chargers=[*offer.chargers, *given])


def _own(gadget: Gadget, build: Build) -> Iterator[Offered]:
    """The gadget's own, where anybody has said what it gives."""
    if board := given_charger(gadget, build.model_copy(update={"who_charges": "gadget"})):
        yield Offered(board, own=True, who_charges="gadget")


def _outside(gadget: Gadget, build: Build, classes: list[str]) -> Iterator[Offered]:
    """The one that the maker has, else those that are sold, for every class of cell on offer."""
    there = build.external_charger
    has = ("external charger", there.current_a, there.price)
    for name, current_a, price in (has,) if there.current_a else SOLD_OUTSIDE:
        for full_v in [there.float_v] if there.float_v else [CELL_CLASSES[cell_class].full_v for cell_class in classes]:
            charger = ExternalCharger(current_a=current_a, float_v=full_v)
            outside = build.model_copy(update={"who_charges": "external", "external_charger": charger})
            if board := given_charger(gadget, outside):
                priced: Board = board.model_copy(update={"name": name, "price": price})
                yield Offered(priced, own=bool(there.current_a), who_charges="external")
