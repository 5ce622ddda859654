"""The one door of the fit: does this build go into this bay, where, how tight, and where the holes are."""

import logging
from dataclasses import dataclass, replace
from functools import lru_cache

from pocketspark.core.fit.answer import NOWHERE, FitAnswer, Fits
from pocketspark.core.fit.answer_facts import (
    ROUNDING_MM,
    SHORT_MM,
    Setting,
    frame_of,
    judgement_of,
    openings_of,
    placement_of,
)
from pocketspark.core.fit.bays import Space, space_of
from pocketspark.core.fit.blocks import unsized
from pocketspark.core.fit.branch_and_bound import conflict, search
from pocketspark.core.fit.certify import doubts
from pocketspark.core.fit.choosing import NEAR_BEST, choose
from pocketspark.core.fit.gaps import clearance_left, gaps_of
from pocketspark.core.fit.in_tubes import goes_into_tube, in_tube
from pocketspark.core.fit.packing import Answer, Packing, Placed
from pocketspark.core.fit.placement_questions import Walls, question_of
from pocketspark.core.fit.plug_way import cells_behind_plugs
from pocketspark.core.fit.putting_in import putting_in
from pocketspark.core.fit.settling import COMFORT_MM
from pocketspark.core.fit.standing import standing
from pocketspark.core.fit.styles import place_of
from pocketspark.core.fit.tolerances import chains_of
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay
from pocketspark.core.models.project import SOFT

logger = logging.getLogger("pocketspark")
_GAPS_SHOWN = 6
# Round walls are searched in steps, which can cost so much: within it no no is proven.
STEPS_COST_MM = 1.0


def setting_of(project: Project, build: int, *, asks_basis: bool = True) -> Setting | None:
    """None where nothing is known of the bay, or there is nothing to place. Not `asks_basis`: whether anybody has
    measured the bay is left out, where only the room counts and is asked about thousands of builds."""
    chosen = project.builds[build]
    place = place_of(project.gadget, chosen)
    if place is None:
        return None
    # A lid that was too tight once tells how far the calipers can be off here.
    off = max((attempt.off_mm or 0.0 for attempt in chosen.record.attempts), default=0.0)
    return Setting(
        bay=place.bay,
        assumed=place.assumed or (asks_basis and place.bay == project.gadget.bay and bay_is_guessed(project)),
        parts=place.parts,
        pins=chosen.pins,
        unsized=tuple(unsized(chosen)),
        tolerance_mm=max(place.bay.tolerance_mm, off),
        outside=" and ".join(chosen.outside),
    )


def bay_is_guessed(project: Project) -> bool:
    """Is one of its main lengths still what the old batteries suggest?"""
    bay = project.gadget.bay
    if bay is None:
        return True
    lengths = ["tube.diameter_mm", "tube.length_mm"] if bay.tube else []
    lengths += [f"rooms.{room.id}.size_mm.{axis}" for room in bay.rooms for axis in range(3)]
    return any(project.basis_of(f"gadget.bay.{length}") in SOFT for length in lengths)


def fit_of(project: Project, build: int = 0) -> FitAnswer | None:
    """The fit of one build; None where nothing is known of the bay, or there is nothing to place."""
    return _fit_of(_This(project), build)


@dataclass(frozen=True, eq=False)
class _This:
    """This very document, whose answer is kept while it is asked about again and again; it never changes."""

    project: Project

    def __hash__(self) -> int:
        return id(self.project)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _This) and other.project is self.project


@lru_cache(maxsize=8)
def _fit_of(this: _This, build: int) -> FitAnswer | None:
    project = this.project
    setting = setting_of(project, build)
    return None if setting is None else certified(project, build, setting.bay, answer_to(setting))


def certified(project: Project, build: int, bay: Bay, answer: FitAnswer) -> FitAnswer:
    """The answer, if it says that it goes in, once a second look that knows nothing of the search has confirmed it."""
    if answer.fits in NOWHERE or (answer.clearance_mm or 0.0) < 0:
        return answer
    found = doubts(project, build, bay, answer)
    if not found:
        return answer
    # With its document, since what is wrong can be found only with it. The log stays in the maker's own folder.
    logger.warning(
        "a fit is not confirmed: %s; build %d of %s", "; ".join(map(str, found)), build, project.model_dump_json()
    )
    return answer.model_copy(update={"fits": "not_certain", "doubts": found})


@lru_cache(maxsize=512)
def answer_to(setting: Setting) -> FitAnswer:
    """The answer without its remedies: those are asked for on their own."""
    answer = in_tube(setting) if setting.bay.tube else _in_boxes(setting)
    if answer.fits in NOWHERE:
        return answer
    way = putting_in(answer)
    # In a trough or a tube a part lies on a curve, which no thickness of foam tells.
    on_curves = answer.tube_mm is not None or bool(answer.shapes)
    stands = () if on_curves else standing(answer.placements, answer.solids, answer.size_mm[2])
    return answer.model_copy(update={"order": way.order, "stuck": way.stuck, "stands": stands})


def goes_in(setting: Setting, node_limit: int, spare_mm: float = 0.0) -> bool:
    """Only whether, with so much to spare: any placement that has it will do. Cut off at the limit: not going in."""
    bay = setting.bay
    if bay.tube:
        return goes_into_tube(setting, node_limit, spare_mm)
    walls = Walls(bay.walls, bay.wall_mm)
    question = question_of(space_of(bay), setting.parts, walls, setting.pins, spare_mm=spare_mm)
    return bool(search(replace(question, most=0.0).within(node_limit)).placed)


# Boxes ---------------------------------------------------------------------------------------------------------


def _in_boxes(setting: Setting) -> FitAnswer:
    bay, parts = setting.bay, setting.parts
    space, walls = space_of(bay), Walls(bay.walls, bay.wall_mm)
    question = question_of(space, parts, walls, setting.pins, least=-ROUNDING_MM)
    answer = search(question, solutions=NEAR_BEST)
    if not answer.placed:
        return _no(setting, space, walls, question, answer)
    # Short wires and a cool cell are worth room, and no doubt whether it goes in.
    sure = setting.tolerance_mm if answer.value >= setting.tolerance_mm else 0.0
    least_mm = max(COMFORT_MM, setting.tolerance_mm)

    def laid(placed: tuple[Placed, ...]) -> FitAnswer:
        return _laid(setting, space, placed, answer.value, least_mm)

    def trouble(placed: tuple[Placed, ...]) -> int:
        lies = laid(placed)
        return len(putting_in(lies).stuck) + len(lies.behind_plugs)

    chosen = choose(space, replace(question, least=sure - ROUNDING_MM), answer, parts, least_mm, trouble)
    lies = laid(chosen.placed)
    if (lies.clearance_mm or 0.0) < setting.tolerance_mm - ROUNDING_MM <= answer.value:
        # Shorter wires are not worth a doubt.
        chosen = choose(space, question, replace(answer, others=()), parts, least_mm, trouble)
        lies = laid(chosen.placed)
    return lies.model_copy(update={"hot_against_cell": chosen.hot, "shut_in": chosen.shut_in})


def _laid(setting: Setting, space: Space, placed: tuple[Placed, ...], most_mm: float, least_mm: float) -> FitAnswer:
    """The answer with the parts as they lie here."""
    parts = setting.parts
    clearance = _clearance(space, setting, placed, most_mm, least_mm)
    clearance = max(clearance, 0.0) if clearance > -ROUNDING_MM else clearance
    placements = tuple(placement_of(one, parts[one.item], setting.pins) for one in placed)
    openings = tuple(openings_of(placed, setting, space))
    return FitAnswer(
        fits=judgement_of(clearance, setting.tolerance_mm),
        clearance_mm=round(clearance, 3),
        placements=placements,
        openings=openings,
        behind_plugs=cells_behind_plugs(placements, openings),
        gaps=tuple(gaps_of(space, placed, parts)[:_GAPS_SHOWN]),
        # A row across a trough ends at its curve and not at the walls.
        chains=() if space.shaped else chains_of(space, placed, parts, setting.tolerance_mm),
        **frame_of(setting, space),
    )


def _clearance(space: Space, setting: Setting, placed: tuple[Placed, ...], most_mm: float, least_mm: float) -> float:
    """The most that can be had, where the placement keeps what is worth keeping of it; else what it has."""
    left = clearance_left(space, placed, setting.parts, setting.pins)
    return most_mm if left >= min(most_mm, least_mm) else left


def _no(setting: Setting, space: Space, walls: Walls, question: Packing, answer: Answer) -> FitAnswer:
    """No place was found; how far it is short, where that is little, and a smallest set that conflicts."""
    near = question_of(space, setting.parts, walls, setting.pins, least=-SHORT_MM)
    short = search(near)
    value = round(short.value, 3) if short.placed else None
    fits: Fits = "no" if answer.proven else "not_settled"
    if space.shaped and value is not None and value > -STEPS_COST_MM:
        fits = "not_settled"
    if value is not None and value > -setting.tolerance_mm:
        fits = "too_close"
    # Drawn with the shortfall where it is, and not on every axis.
    placed = short.spread
    return FitAnswer(
        fits=fits,
        clearance_mm=value,
        placements=tuple(placement_of(one, setting.parts[one.item], setting.pins) for one in placed),
        conflict=tuple(conflict(question) if answer.proven else (item.name for item in question.items)),
        gaps=tuple(gaps_of(space, placed, setting.parts)[:_GAPS_SHOWN]),
        openings=tuple(openings_of(placed, setting, space)),
        proven=answer.proven,
        **frame_of(setting, space),
    )
