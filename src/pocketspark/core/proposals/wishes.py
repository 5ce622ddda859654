"""What the maker wishes of a build: what it must come to, what may be otherwise than planned, and which parts stay."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from pocketspark.core.models import Board, Build, Project
from pocketspark.core.models.model import Model

LID_MM = 1.0
NotNegative = Annotated[float, Field(ge=0)]
RuleCode = Annotated[str, StringConstraints(max_length=60)]


class Wishes(Model):
    """What a proposal must come to, and what may be otherwise than in the build. None: no matter."""

    hours_at_least: NotNegative | None = None  # of the mode that is used most
    as_long_as_old: bool = False  # as on a fresh set of the old batteries
    full_within_h: NotNegative | None = None
    price_at_most: NotNegative | None = None
    serves_years: NotNegative | None = None
    own_parts_only: bool = False
    type_c_only: bool = False
    no_regulator: bool = False
    no_cautions: bool = False
    keep_cell: bool = False  # the build's own cell is bought already, and stays
    keep_charger: bool = False  # its charger board likewise
    keep_protection: bool = False
    keep_regulator: bool = False
    fine_cautions: tuple[RuleCode, ...] = Field((), max_length=40)  # of rules whose cautions are fine all the same
    bright: bool = False  # a lamp that gives half of its light half way through the charge
    no_holes: bool = False  # nothing is cut into a wall
    weatherproof: bool = False  # nothing lets water in: no hole, or one with a cap or a seal
    reversible: bool = False  # the old batteries can go back in
    usable_while_charging: bool = False  # in any of the ways to do so
    any_size: bool = False  # cells of every size code that is sold, not those of the library alone
    any_way_in: bool = False  # for the 5 V
    any_charger: bool = False  # one outside, or the gadget's own, as well as a board
    any_style: bool = False
    any_switch: bool = False
    lid_mm: Annotated[float, Field(ge=0, le=50)] | None = None  # by so much the lid may be raised
    trim: bool = False  # what may be trimmed is gone


WishGroup = Literal["must", "may", "parts"]


@dataclass(frozen=True)
class WishText:
    """How a wish is called, and the opposite of it. `unit`: it takes a figure in this."""

    group: WishGroup
    label: str
    opposite: str
    unit: str = ""


WISH_GROUPS: Mapping[WishGroup, tuple[str, str]] = {
    "must": ("It must", "what every build that is shown comes to"),
    "may": ("It may", "what may be otherwise than in this build: each lets more builds in"),
    "parts": ("Parts", "what is bought, and what is at hand"),
}
WISHES: Mapping[str, WishText] = {
    "hours_at_least": WishText("must", "run at least", "whatever the hours", "h"),
    "as_long_as_old": WishText("must", "last as long as the old set", "whatever the old set lasted"),
    "full_within_h": WishText("must", "be full within", "however long it charges", "h"),
    "price_at_most": WishText("must", "cost at most", "at any price", "in all"),
    "serves_years": WishText("must", "serve at least", "however few years it serves", "years"),
    "no_cautions": WishText("must", "have no cautions", "cautions allowed"),
    "bright": WishText("must", "stay bright", "however dim it gets"),
    "no_holes": WishText("must", "need no cutting", "with holes cut"),
    "weatherproof": WishText("must", "let no water in", "whatever the weather"),
    "reversible": WishText("must", "be reversible", "for good"),
    "usable_while_charging": WishText("must", "be usable while it charges", "used while charging as in this build"),
    "lid_mm": WishText("may", "raise the lid by", "with the lid as it is", "mm"),
    "trim": WishText("may", "trim what may be trimmed", "with everything that stands in the bay"),
    "any_way_in": WishText("may", "use any 5 V input", "the way in of this build"),
    "any_charger": WishText(
        "may", "be charged outside or by the gadget's own charger", "charged by what charges it in this build"
    ),
    "any_style": WishText("may", "sit anywhere", "where this build sits"),
    "any_switch": WishText("may", "have its switch anywhere", "the switch of this build"),
    "any_size": WishText("may", "use cells of any size code", "cells of the library alone"),
    "type_c_only": WishText("parts", "Type-C only", "any socket"),
    "no_regulator": WishText("parts", "no regulator", "with a regulator"),
    "own_parts_only": WishText("parts", "your own alone", "with bought parts"),
    "keep_cell": WishText("parts", "keep this cell", "with any cell"),
    "keep_charger": WishText("parts", "keep this charger", "with any charger"),
    "keep_protection": WishText("parts", "keep this protection", "with any protection"),
    "keep_regulator": WishText("parts", "keep this regulator", "with any regulator"),
}


def may_be_wished(project: Project, number: int) -> list[str]:
    """Every wish but for those that need something that is not there: an own cell to keep, a lid that may rise."""
    build, bay = project.builds[number], project.gadget.bay
    there = {
        "keep_cell": build.cell is not None,
        "keep_charger": bought(build, "charger") is not None,
        "keep_protection": bought(build, "protection") is not None,
        "keep_regulator": regulator_of(build) is not None,
        "trim": bay is not None and any(obstacle.state == "trim" for obstacle in bay.obstacles),
        "bright": project.gadget.front_end in ("led_resistor", "lamp"),
        "lid_mm": lid_may_rise_mm(project) > 0,
    }
    return [key for key in WISHES if there.get(key, True)]


def bought(build: Build, trait: Literal["charger", "protection", "regulator"]) -> Board | None:
    """The board that the build has for this: a charger board counts as nothing else."""
    alike = (board for board in build.boards if getattr(board, trait) and (trait == "charger" or not board.charger))
    return next(alike, None)


def regulator_of(build: Build) -> Board | None:
    """The board that regulates, be it one of its own or the charger's; else the regulator that stands on no board."""
    stated = build.regulator
    if stated is not None:
        return Board(name=stated.name, regulator=stated, price=0.0)
    return bought(build, "regulator") or next((board for board in build.boards if board.regulator), None)


def lid_may_rise_mm(project: Project) -> float:
    """A millimetre, or as much of it as it still may; 0 where there is no lid to raise."""
    bay = project.gadget.bay
    if bay is None or bay.tube is not None:
        return 0.0
    return LID_MM if bay.lid_raise_mm is None else max(min(LID_MM, round(bay.lid_raise_mm - bay.lid_raised_mm, 3)), 0.0)
