"""The one door of the fit: does this build go into this bay, where, how tight, and where the holes are."""

import logging
import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from pocketspark.core.fit.answer import FitAnswer, Fits, Placement, Point, RoomShape, SolidBox
from pocketspark.core.fit.bays import Space, Triple, space_of
from pocketspark.core.fit.certify import doubts
from pocketspark.core.fit.choosing import NEAR_BEST, choose, way_of
from pocketspark.core.fit.gaps import clearance_left, gaps_of
from pocketspark.core.fit.openings import Opening, face_openings, wire_opening
from pocketspark.core.fit.parts import Part, Turned, unsized, ways_round
from pocketspark.core.fit.putting_in import putting_in
from pocketspark.core.fit.questions import Walls, question_of
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM
from pocketspark.core.fit.search import Answer, Packing, Placed, conflict, search
from pocketspark.core.fit.standing import standing
from pocketspark.core.fit.styles import place_of
from pocketspark.core.fit.tolerances import chains_of
from pocketspark.core.fit.tubes import BOTH_ENDS, FAR_MM, InTube, TubeAnswer, arrange, wire_room_mm
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay, Passage, Pin, Side
from pocketspark.core.models.project import SOFT

logger = logging.getLogger("pocketspark")
# "Short by" is given down to this; beyond, it does not go in by far.
SHORT_MM = 4.0
# Sums of tenths of a millimetre are off by less than this in the last digit.
ROUNDING_MM = 1e-6
# A socket this near to the end of a tube comes out of it.
END_MM = 0.5
_GAPS_SHOWN = 6


@dataclass(frozen=True)
class Setting:
    """All that a fit depends on; equal settings have equal answers."""

    bay: Bay
    assumed: bool
    parts: tuple[Part, ...]
    pins: tuple[Pin, ...]
    unsized: tuple[str, ...]
    tolerance_mm: float
    outside: str = ""  # what stays out of the bay and has leads into it


def setting_of(project: Project, build: int) -> Setting | None:
    """None where nothing is known of the bay, or there is nothing to place."""
    chosen = project.builds[build]
    place = place_of(project.gadget, chosen)
    if place is None:
        return None
    # A lid that was too tight once tells how far the calipers can be off here.
    off = max((attempt.off_mm or 0.0 for attempt in chosen.record.attempts), default=0.0)
    return Setting(
        bay=place.bay,
        assumed=place.assumed or (place.bay == project.gadget.bay and bay_is_guessed(project)),
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
    if answer.fits == "no" or (answer.clearance_mm or 0.0) < 0:
        return answer
    found = doubts(project, build, bay, answer)
    if not found:
        return answer
    # With its document, since what is wrong can be found only with it. The log stays in the maker's own folder.
    logger.warning("a fit is not confirmed: %s; build %d of %s", "; ".join(found), build, project.model_dump_json())
    return answer.model_copy(update={"fits": "not_certain", "doubts": found})


@lru_cache(maxsize=512)
def answer_to(setting: Setting) -> FitAnswer:
    """The answer without its remedies: those are asked for on their own."""
    answer = _in_tube(setting) if setting.bay.tube else _in_boxes(setting)
    if answer.fits == "no":
        return answer
    way = putting_in(answer)
    # In a trough or a tube a part lies on a curve, which no thickness of foam tells.
    on_curves = answer.tube_mm is not None or bool(answer.shapes)
    stands = () if on_curves else standing(answer.placements, answer.solids)
    return answer.model_copy(update={"order": way.order, "stuck": way.stuck, "stands": stands})


def goes_in(setting: Setting, node_limit: int, spare_mm: float = 0.0) -> bool:
    """Only whether, with so much to spare: any placement that has it will do. Cut off at the limit: not going in."""
    bay = setting.bay
    if bay.tube:
        answer = arrange(bay.tube.diameter_mm, bay.tube.length_mm, setting.parts, _open_ends(bay))
        return answer is not None and answer.clearance_mm >= spare_mm - ROUNDING_MM
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
    chosen = choose(space, question, answer, parts)
    placed = chosen.placed
    clearance = min(answer.value, clearance_left(space, placed, parts, setting.pins))
    if clearance < setting.tolerance_mm - ROUNDING_MM <= answer.value:
        # Shorter wires are not worth a doubt.
        placed = choose(space, question, replace(answer, others=()), parts).placed
        clearance = min(answer.value, clearance_left(space, placed, parts, setting.pins))
    clearance = max(clearance, 0.0) if clearance > -ROUNDING_MM else clearance
    return FitAnswer(
        fits=_judgement(clearance, setting.tolerance_mm),
        clearance_mm=round(clearance, 3),
        placements=tuple(_placement(one, parts[one.item], setting.pins) for one in placed),
        openings=tuple(_openings(placed, setting, space)),
        gaps=tuple(gaps_of(space, placed, parts)[:_GAPS_SHOWN]),
        # A row across a trough ends at its curve and not at the walls.
        chains=() if space.shaped else chains_of(space, placed, parts, setting.tolerance_mm),
        hot_against_cell=chosen.hot,
        shut_in=chosen.shut_in,
        **_frame(setting, space),
    )


def _no(setting: Setting, space: Space, walls: Walls, question: Packing, answer: Answer) -> FitAnswer:
    """Proven not to go in; how far it is short, where that is little, and a smallest set that conflicts."""
    near = question_of(space, setting.parts, walls, setting.pins, least=-SHORT_MM)
    short = search(near)
    value = round(short.value, 3) if short.placed else None
    fits: Fits = "too_close" if value is not None and value > -setting.tolerance_mm else "no"
    # Drawn with the shortfall where it is, and not on every axis.
    placed = short.spread
    return FitAnswer(
        fits=fits,
        clearance_mm=value,
        placements=tuple(_placement(one, setting.parts[one.item], setting.pins) for one in placed),
        conflict=tuple(conflict(question)),
        gaps=tuple(gaps_of(space, placed, setting.parts)[:_GAPS_SHOWN]),
        openings=tuple(_openings(placed, setting, space)),
        proven=answer.proven,
        **_frame(setting, space),
    )


def _frame(setting: Setting, space: Space) -> dict[str, Any]:
    """What is the same whatever the answer: the bay as drawn."""
    bay = setting.bay
    solids = tuple(
        SolidBox(
            name=solid.name,
            min_mm=solid.low,
            max_mm=solid.high,
            state="outside" if solid.obstacle is None else bay.obstacles[solid.obstacle].state,
            on_lid=solid.on_lid,
        )
        for solid in space.solids
    )
    return {
        "tolerance_mm": setting.tolerance_mm,
        "size_mm": space.size,
        "wall_mm": bay.wall_mm,
        "solids": solids,
        "open_sides": tuple(opening.side for opening in bay.walls),
        "assumed_bay": setting.assumed,
        "unsized": setting.unsized,
        "rooms": tuple(
            SolidBox(name=room.name, min_mm=space.rooms[room.id][0], max_mm=space.rooms[room.id][1], state="room")
            for room in bay.rooms
        )
        if bay.passages
        else (),
        "shapes": tuple(
            RoomShape(min_mm=room.low, max_mm=room.high, troughs=room.troughs, corner_mm=room.corner_mm)
            for room in space.shaped
        ),
        "passages": tuple(_passage(passage, space) for passage in bay.passages),
    }


def _passage(passage: Passage, space: Space) -> SolidBox:
    low = tuple(at - start for at, start in zip(passage.at_mm, space.origin, strict=True))
    high = tuple(at + size for at, size in zip(low, passage.size_mm, strict=True))
    return SolidBox(name=passage.name, min_mm=low, max_mm=high, state="passage")


def _judgement(clearance: float, tolerance: float) -> Fits:
    if clearance < 0:
        return "too_close" if clearance > -tolerance else "no"
    return "too_close" if clearance < tolerance - ROUNDING_MM else "yes"


def _placement(one: Placed, part: Part, pins: Sequence[Pin]) -> Placement:
    way = next((w for w in ways_round(part) if w.name == one.pose.name), None)
    return Placement(
        part=part.name,
        kind=part.kind,
        min_mm=_rounded(one.low),
        max_mm=_rounded(one.high),
        turned=one.pose.name,
        ways=tuple(dict.fromkeys(w.name for w in ways_round(part))),
        round=part.form == "round",
        pinned=any(pin.part == part.name for pin in pins),
        face_side=way.face_side if way else None,
        nose_mm=part.face.nose_mm if part.face else 0.0,
    )


def _rounded(point: Triple) -> Point:
    return (round(point[0], 4), round(point[1], 4), round(point[2], 4))


def _openings(placed: Sequence[Placed], setting: Setting, space: Space) -> list[Opening]:
    parts, wall_mm = setting.parts, setting.bay.wall_mm
    holes: list[Opening] = []
    for one in placed:
        part, way = parts[one.item], way_of(one, parts)
        holes += face_openings(part, way, one.low, space.size, wall_mm, own_lamp=_has_own_lamp(parts))
    return holes + _wire_hole(setting, space.size, holes)


def _has_own_lamp(parts: Sequence[Part]) -> bool:
    """A lamp on wires stands in for the one on the board."""
    return any(part.kind == "lamp" for part in parts)


def _wire_hole(setting: Setting, size: Triple, taken: Sequence[Opening]) -> list[Opening]:
    """One for the leads of what stays outside, if any wall may be opened."""
    sides = [opening.side for opening in setting.bay.walls]
    if not setting.outside or not sides:
        return []
    return [wire_opening(setting.outside, sides, size, setting.bay.wall_mm, taken)]


# Tubes ---------------------------------------------------------------------------------------------------------


def _in_tube(setting: Setting) -> FitAnswer:
    tube = setting.bay.tube
    assert tube is not None
    answer = arrange(tube.diameter_mm, tube.length_mm, setting.parts, _open_ends(setting.bay))
    assert answer is not None
    clearance = round(answer.clearance_mm + ROUNDING_MM, 3) if answer.clearance_mm > -FAR_MM else None
    fits = "no" if clearance is None else _judgement(clearance, setting.tolerance_mm)
    radius = tube.diameter_mm / 2
    placements = [_tube_placement(one, radius, setting) for one in answer.placed]
    holes = [
        hole for one, lies in zip(answer.placed, placements, strict=True) for hole in _end_holes(one, lies, setting)
    ]
    holes += _wire_hole(setting, (tube.length_mm, tube.diameter_mm, tube.diameter_mm), holes)
    return FitAnswer(
        fits=fits,
        clearance_mm=clearance,
        tolerance_mm=setting.tolerance_mm,
        placements=tuple(placements),
        openings=tuple(holes),
        conflict=() if clearance is not None and clearance >= 0 else _tube_conflict(setting, answer),
        shut_in=_far_pole_shut_in(setting, tube.diameter_mm),
        size_mm=(tube.length_mm, tube.diameter_mm, tube.diameter_mm),
        wall_mm=setting.bay.wall_mm,
        tube_mm=(tube.diameter_mm, tube.length_mm),
        open_sides=tuple(opening.side for opening in setting.bay.walls),
        assumed_bay=setting.assumed,
        unsized=setting.unsized,
    )


def _open_ends(bay: Bay) -> tuple[Side, ...]:
    return tuple(opening.side for opening in bay.walls if opening.side in BOTH_ENDS)


def _far_pole_shut_in(setting: Setting, diameter_mm: float) -> tuple[str, ...]:
    room_mm = wire_room_mm(diameter_mm, setting.parts)
    if room_mm is None or room_mm >= HOOK_UP_WIRE_MM:
        return ()
    return tuple(part.name for part in setting.parts if part.kind == "cell")


def _tube_placement(one: InTube, radius: float, setting: Setting) -> Placement:
    """In bay coordinates, whose floor and front touch the tube's wall."""
    part = setting.parts[one.part]
    return Placement(
        part=part.name,
        kind=part.kind,
        min_mm=_rounded((one.low[0], one.low[1] + radius, one.low[2] + radius)),
        max_mm=_rounded((one.high[0], one.high[1] + radius, one.high[2] + radius)),
        turned=one.lane,
        ways=(),
        round=part.form == "round",
    )


def _end_holes(one: InTube, lies: Placement, setting: Setting) -> list[Opening]:
    """Holes in the end of the tube that this part reaches, if that end may be opened."""
    part, tube = setting.parts[one.part], setting.bay.tube
    assert tube is not None
    end: Side = "left" if one.low[0] < END_MM else "right"
    reaches = end == "left" or one.high[0] > tube.length_mm - END_MM
    if part.face is None or not reaches or end not in {opening.side for opening in setting.bay.walls}:
        return []
    at = 0.0 if end == "left" else part.size[0]
    turned = Turned(one.lane, part.size, (0, 1, 2), end, (at, part.size[1] / 2, part.face.centre_mm))
    low = (lies.min_mm[0], lies.min_mm[1], lies.min_mm[2])
    size = (tube.length_mm, tube.diameter_mm, tube.diameter_mm)
    wall_mm = setting.bay.wall_mm
    holes = face_openings(part, turned, low, size, wall_mm, own_lamp=_has_own_lamp(setting.parts))
    return [hole for hole in holes if hole.what == "socket" or _in_the_end(hole, tube.diameter_mm / 2, wall_mm)]


def _in_the_end(hole: Opening, radius: float, wall_mm: float) -> bool:
    """Is the middle of the hole far enough within the round end?"""
    middle = radius + wall_mm
    return math.hypot(hole.across_mm - middle, hole.up_mm - middle) < radius - hole.width_mm / 2


def _tube_conflict(setting: Setting, answer: TubeAnswer) -> tuple[str, ...]:
    """Along the tube everything in it conflicts; across it, the cell and what lies beside it."""
    if answer.along_mm < answer.across_mm:
        return tuple(part.name for part in setting.parts)
    beside = [setting.parts[one.part].name for one in answer.placed if one.lane != "in line"]
    cells = [part.name for part in setting.parts if part.kind == "cell"]
    return (*cells, *beside)
