"""How a build may be made, its parts apart: where it sits, how the 5 V comes in, where the switch is, what may be cut.

A build's own way is one of them. What a wish lets be otherwise makes more, and each is searched through like the first.
"""

import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import TypeVar

from pocketspark.core.message import Message, row_of, say, verbatim
from pocketspark.core.models import Build, Project
from pocketspark.core.models.build import (
    STYLES,
    SWITCH_PLACES,
    USES_WHILE_CHARGING,
    WHO_CHARGES,
    CellLead,
    Input,
    Style,
    SwitchPlace,
    UseWhileCharging,
    WhoCharges,
)
from pocketspark.core.models.input_kind import INPUTS
from pocketspark.core.models.project import Edit
from pocketspark.core.proposals.offer import with_build
from pocketspark.core.proposals.wishes import Wishes
from pocketspark.core.units.figures import millimetres

Kind = TypeVar("Kind")


@dataclass(frozen=True)
class Way:
    """One way. `project`: of this build alone; `edits`: what the gadget's bay has to become for it."""

    project: Project
    edits: tuple[Edit, ...]
    says: Message  # what of it is not as the maker's own build has it

    @property
    def build(self) -> Build:
        return self.project.builds[0]

    @property
    def key(self) -> str:
        """The same for ways in which every build comes to the same."""
        return self.project.model_dump_json()


def ways_of(project: Project, number: int, wishes: Wishes) -> list[Way]:
    """Every way that the wishes allow, the maker's own first where it is one of them."""
    own = project.builds[number]
    edits, says = _allowed_in_the_bay(project, wishes)
    changed = project.apply(edits) if edits else project
    found: dict[str, Way] = {}
    for who, style, way_in, switch, use in itertools.product(*_choices(project, own, wishes)):
        may_be_used = _used_while_charging(who, use, wishes)
        if style not in _STYLES_OF.get(who, STYLES) or may_be_used is None:
            continue
        updates: Mapping[str, object] = {
            "who_charges": who,
            "style": style,
            # What charges without a board has a way in of its own.
            "input": _way_in(own, way_in, wishes) if who == "board" else _way_in_without(own, who),
            "switch_place": switch,
            "use_while_charging": may_be_used,
            "cell_lead": _lead(own, who),
        }
        build = own.model_copy(update=updates)
        in_bay = STYLES[style].in_the_gadget and not STYLES[style].like_a_battery
        otherwise = (*(says if in_bay else ()), *_otherwise(build, own))
        way = Way(with_build(changed if in_bay else project, build), edits if in_bay else (), row_of(otherwise))
        found.setdefault(way.key, way)
    return list(found.values())


def _choices(
    project: Project, own: Build, wishes: Wishes
) -> tuple[Sequence[WhoCharges], Sequence[Style], Sequence[str], Sequence[SwitchPlace], Sequence[UseWhileCharging]]:
    whos = [_now(own, project), *WHO_CHARGES] if wishes.any_charger else [_now(own, project)]
    if not project.gadget.has_lithium_charger:
        whos = [who for who in whos if who != "gadget"]
    styles: list[Style] = [own.style, *_styles_for(project)] if wishes.any_style else [own.style]
    if wishes.reversible:
        styles = [style for style in (*styles, *_styles_for(project)) if STYLES[style].reversible]
    ways_in = [own.input.kind, *_ways_in(project)] if wishes.any_way_in else [own.input.kind]
    switches = [own.switch_place, *SWITCH_PLACES] if wishes.any_switch else [own.switch_place]
    uses = [own.use_while_charging]
    if wishes.usable_while_charging:
        uses = [use for use in (own.use_while_charging, *USES_WHILE_CHARGING) if use != "off"]
    return _once(whos), _once(styles), _once(ways_in), _once(switches), _once(uses)


def _now(own: Build, project: Project) -> WhoCharges:
    """Who charges in the maker's build; a board where it counts on a charger that is not there."""
    return "board" if own.who_charges == "gadget" and not project.gadget.has_lithium_charger else own.who_charges


# Where the cell may sit with a charger that is no part of the build.
_STYLES_OF: Mapping[WhoCharges, Sequence[Style]] = {
    "gadget": ("inside", "rebuilt_shell"),
    "external": ("inside", "rebuilt_shell", "dummy_cell", "outside_pack", "stand_alone"),
}


def _used_while_charging(who: WhoCharges, use: UseWhileCharging, wishes: Wishes) -> UseWhileCharging | None:
    """Taken out, the cell feeds nothing; the gadget's own charger feeds it beside the cell or not at all.

    None: not as it is wished.
    """
    if who == "board" or (who == "gadget" and use == "on_cell"):
        return use
    return None if wishes.usable_while_charging else "off"


def _lead(own: Build, who: WhoCharges) -> CellLead:
    """What is taken out has to come off its leads."""
    return "common_plug" if who == "external" and own.cell_lead == "soldered" else own.cell_lead


def _way_in(own: Build, kind: str, wishes: Wishes) -> Input:
    """What must let no water in gets a cap or a seal at its hole."""
    sealed = own.input.sealed or (wishes.weatherproof and INPUTS[kind].opens_a_wall)
    return own.input.model_copy(update={"kind": kind, "sealed": sealed})


def _way_in_without(own: Build, who: WhoCharges) -> Input:
    return own.input if own.who_charges == who else Input()


def _once(kinds: Sequence[Kind]) -> list[Kind]:
    return list(dict.fromkeys(kinds))


def _styles_for(project: Project) -> Iterator[Style]:
    """What is shaped like a battery needs a round one to be shaped like; a pack for anything converts no gadget."""
    supply = project.gadget.supply
    sticks = supply.kind == "cells" and supply.size.form == "stick"
    for style, facts in STYLES.items():
        if style != "stand_alone" and (sticks or not facts.like_a_battery):
            yield style


def _ways_in(project: Project) -> Iterator[str]:
    """An old jack only where there is one."""
    has_jack = project.gadget.existing_charging.kind == "jack"
    return (kind for kind in INPUTS if kind != "old_jack" or has_jack)


def _otherwise(build: Build, own: Build) -> Iterator[Message]:
    if build.who_charges != own.who_charges:
        yield verbatim(WHO_CHARGES[build.who_charges][0].lower())
    if build.style != own.style:
        yield verbatim(STYLES[build.style].label.lower())
    if build.input.kind != own.input.kind and build.who_charges == "board":
        yield verbatim(INPUTS[build.input.kind].label.lower())
    if build.input.sealed != own.input.sealed and build.who_charges == "board":
        yield say("a cap or a seal at its hole")
    if build.switch_place != own.switch_place:
        yield say("switch {switch_places}", switch_places=SWITCH_PLACES[build.switch_place][0].lower())
    if build.use_while_charging != own.use_while_charging:
        yield verbatim(USES_WHILE_CHARGING[build.use_while_charging][0].lower())


def _allowed_in_the_bay(project: Project, wishes: Wishes) -> tuple[tuple[Edit, ...], tuple[Message, ...]]:
    """The lid raised by what is allowed, and what may be trimmed away gone, as edits to the document."""
    bay = project.gadget.bay
    edits: list[Edit] = []
    says: list[Message] = []
    if bay is not None and wishes.lid_mm and bay.tube is None:
        most = wishes.lid_mm if bay.lid_raise_mm is None else min(wishes.lid_mm, bay.lid_raise_mm - bay.lid_raised_mm)
        if most > 0:
            edits.append(Edit(path="gadget.bay.lid_raised_mm", value=round(bay.lid_raised_mm + most, 3)))
            says.append(say("lid raised by {most}", most=millimetres(most)))
    for obstacle in bay.obstacles if bay is not None and wishes.trim else ():
        if obstacle.state == "trim":
            edits.append(Edit(path=f"gadget.bay.obstacles.{obstacle.id}.state", value="removed"))
            says.append(say("{obstacle} trimmed away", obstacle=obstacle.name))
    return tuple(edits), tuple(says)
