"""The answer for a round bay: a plain row first, in closed form; where that does not do, the search.

The search has to be asked where something stands in the tube, a part is pinned, the tube may be opened in its side, or
a socket has a nose, and wherever a row of cells with boards behind or beside them does not go in: then boards may lie
one above the other, side by side, or stand across the bore.
"""

import math
from collections.abc import Sequence
from dataclasses import replace

from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.fit.answer_facts import (
    ROUNDING_MM,
    SHORT_MM,
    Setting,
    frame_of,
    judgement_of,
    openings_of,
    placement_of,
    rounded,
    wire_hole,
)
from pocketspark.core.fit.bays import Space, Triple, space_of
from pocketspark.core.fit.blocks import Turned
from pocketspark.core.fit.bore import side_of_a_tube
from pocketspark.core.fit.branch_and_bound import conflict, search
from pocketspark.core.fit.choosing import way_of
from pocketspark.core.fit.gaps import clearance_left, gaps_of
from pocketspark.core.fit.openings import Opening, face_openings, has_own_lamp
from pocketspark.core.fit.packing import Answer, Placed
from pocketspark.core.fit.placement_questions import Walls, question_of
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM, shut_in
from pocketspark.core.fit.tubes import BOTH_ENDS, FAR_MM, InTube, TubeAnswer, arrange, wire_room_mm
from pocketspark.core.models.bay import Bay, Side, Tube

# A socket this near to the end of a tube comes out of it.
END_MM = 0.5
# The clearance of a searched place is looked for up to this, and so near.
_MOST_MM, _NEAR_MM = 20.0, 0.06
# Nodes after which the search in a tube is given up.
_NODES, _NODES_FOR_MORE = 30_000, 2_000
_GAPS_SHOWN = 6


def in_tube(setting: Setting) -> FitAnswer:
    """The roomier of the two, where both can be asked."""
    row = _in_a_row(setting) if _is_plain(setting) else None
    if row is not None and row.fits == "yes":
        return row
    found = _searched(setting, row is None)
    if row is None or ((found.clearance_mm or 0.0) > (row.clearance_mm or -FAR_MM) and found.placements):
        return found
    # What neither finds is said of the row, whose shortfall is known.
    return row.model_copy(update={"proven": found.proven})


def goes_into_tube(setting: Setting, node_limit: int, spare_mm: float = 0.0) -> bool:
    """Only whether, with so much to spare; cut off at the limit: not going in."""
    tube = setting.bay.tube
    assert tube is not None
    if _is_plain(setting):
        row = arrange(tube.diameter_mm, tube.length_mm, setting.parts, _open_ends(setting.bay))
        if row is None or row.clearance_mm >= spare_mm - ROUNDING_MM:
            return row is not None
    return bool(_place(setting, spare_mm, min(node_limit, _NODES)).placed)


def _is_plain(setting: Setting) -> bool:
    """A row is all there is to be asked of it; what it knows nothing of is not there."""
    bay = setting.bay
    noses = any(part.face and part.face.nose_mm for part in setting.parts) or any(w.thinned_mm for w in bay.walls)
    in_side = any(part.face for part in setting.parts) and any(side_of_a_tube(wall.side) for wall in bay.walls)
    windows = any((w.low_mm, w.high_mm, w.from_mm, w.to_mm) != (None,) * 4 for w in bay.walls)
    return not (noses or in_side or windows or bay.standing or setting.pins)


# By the search -------------------------------------------------------------------------------------------------


def _place(setting: Setting, spare_mm: float, node_limit: int) -> Answer:
    """Everything somewhere with so much clearance."""
    question = question_of(
        space_of(setting.bay),
        setting.parts,
        Walls(setting.bay.walls, setting.bay.wall_mm),
        setting.pins,
        least=spare_mm - ROUNDING_MM,
        around_mm=spare_mm,
    )
    return search(replace(question, most=max(spare_mm, 0.0)).within(node_limit))


def _searched(setting: Setting, alone: bool) -> FitAnswer:
    parts, space = setting.parts, space_of(setting.bay)
    found = _place(setting, 0.0, _NODES)
    if not found.placed:
        return _too_small(setting, space, found, alone)
    placed, clearance = _roomiest(setting, found.placed)
    ways = [way_of(one, parts) for one in placed]
    return FitAnswer(
        fits=judgement_of(clearance, setting.tolerance_mm),
        clearance_mm=round(clearance, 3),
        placements=tuple(placement_of(one, parts[one.item], setting.pins) for one in placed),
        openings=tuple(openings_of(placed, setting, space)),
        gaps=tuple(gaps_of(space, placed, parts)[:_GAPS_SHOWN]),
        shut_in=tuple(
            dict.fromkeys([*_far_pole_shut_in(setting, space.size[1]), *shut_in(space, placed, parts, ways)])
        ),
        **frame_of(setting, space),
    )


def _too_small(setting: Setting, space: Space, found: Answer, alone: bool) -> FitAnswer:
    """How far it is short, where that is little: by how much the tube is too small all round, and how it then lies."""
    bay, parts = setting.bay, setting.parts
    short_mm, placed = _short(setting) if alone else (None, ())
    walls = Walls(bay.walls, bay.wall_mm)
    between = conflict(question_of(space, parts, walls, setting.pins).within(_NODES)) if alone else ()
    return FitAnswer(
        fits=("no" if found.proven else "not_settled")
        if short_mm is None or short_mm >= setting.tolerance_mm
        else "too_close",
        clearance_mm=None if short_mm is None else round(-short_mm, 3),
        placements=tuple(placement_of(one, parts[one.item], setting.pins) for one in placed),
        gaps=tuple(gaps_of(space, placed, parts)[:_GAPS_SHOWN]),
        conflict=tuple(between),
        proven=found.proven,
        **frame_of(setting, space),
    )


def _short(setting: Setting) -> tuple[float | None, tuple[Placed, ...]]:
    """By halves in tubes that are larger all round; None where that is beyond what is told."""
    low, high, placed = 0.0, SHORT_MM, _place(_in_a_larger_tube(setting, SHORT_MM), 0.0, _NODES).placed
    if not placed:
        return None, ()
    while high - low > _NEAR_MM / 2:
        middle = (low + high) / 2
        found = _place(_in_a_larger_tube(setting, middle), 0.0, _NODES).placed
        low, high, placed = (low, middle, found) if found else (middle, high, placed)
    return high, tuple(replace(one, low=_less(one.low, high)) for one in placed)


def _in_a_larger_tube(setting: Setting, mm: float) -> Setting:
    """Larger by so much all round; what stands in it, and where its wall may be opened, stays in the middle."""
    bay, tube = setting.bay, setting.bay.tube
    assert tube is not None
    larger = Tube(diameter_mm=tube.diameter_mm + 2 * mm, length_mm=tube.length_mm + 2 * mm)
    obstacles = tuple(one.model_copy(update={"at_mm": _less(one.at_mm, -mm)}) for one in bay.obstacles)
    pins = tuple(pin.model_copy(update={"at_mm": pin.at_mm and _less(pin.at_mm, -mm)}) for pin in setting.pins)
    bounds = ("low_mm", "high_mm", "from_mm", "to_mm")
    walls = tuple(
        wall.model_copy(update={key: at + mm for key in bounds if (at := getattr(wall, key)) is not None})
        for wall in bay.walls
    )
    changed = {"tube": larger, "obstacles": obstacles, "walls": walls}
    return replace(setting, bay=bay.model_copy(update=changed), pins=pins)


def _less(corner: Sequence[float], mm: float) -> Triple:
    x, y, z = (at - mm for at in corner)
    return x, y, z


def _roomiest(setting: Setting, placed: tuple[Placed, ...]) -> tuple[tuple[Placed, ...], float]:
    """With ever more clearance, then by halves, for a circle is kept at one only; measured where the parts lie."""
    space = space_of(setting.bay)
    best = max(clearance_left(space, placed, setting.parts, setting.pins), 0.0)
    # What the calipers may be off comes first: it decides the word.
    low, high, wanted = best, math.inf, setting.tolerance_mm if best < setting.tolerance_mm else max(2 * best, 0.5)
    while wanted < _MOST_MM and high - low > _NEAR_MM:
        # Beyond that a tenth more is not worth a long search.
        found = _place(setting, wanted, _NODES if wanted <= setting.tolerance_mm else _NODES_FOR_MORE)
        left = clearance_left(space, found.placed, setting.parts, setting.pins) if found.placed else 0.0
        if left > best:
            placed, best = found.placed, left
        low, high = (max(wanted, best), high) if found.placed else (low, wanted)
        wanted = (low + high) / 2 if high < math.inf else 2 * low
    return placed, best


# As a plain row ------------------------------------------------------------------------------------------------


def _in_a_row(setting: Setting) -> FitAnswer:
    tube = setting.bay.tube
    assert tube is not None
    answer = arrange(tube.diameter_mm, tube.length_mm, setting.parts, _open_ends(setting.bay))
    assert answer is not None
    clearance = round(answer.clearance_mm + ROUNDING_MM, 3) if answer.clearance_mm > -FAR_MM else None
    fits = "no" if clearance is None else judgement_of(clearance, setting.tolerance_mm)
    radius = tube.diameter_mm / 2
    placements = [_tube_placement(one, radius, setting) for one in answer.placed]
    holes = [
        hole for one, lies in zip(answer.placed, placements, strict=True) for hole in _end_holes(one, lies, setting)
    ]
    holes += wire_hole(setting, (tube.length_mm, tube.diameter_mm, tube.diameter_mm), holes)
    return FitAnswer(
        fits=fits,
        clearance_mm=clearance,
        placements=tuple(placements),
        openings=tuple(holes),
        conflict=() if clearance is not None and clearance >= 0 else _tube_conflict(setting, answer),
        shut_in=_far_pole_shut_in(setting, tube.diameter_mm),
        **frame_of(setting, space_of(setting.bay)),
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
        min_mm=rounded((one.low[0], one.low[1] + radius, one.low[2] + radius)),
        max_mm=rounded((one.high[0], one.high[1] + radius, one.high[2] + radius)),
        turned=one.lane,
        ways=(),
        round=part.form == "round",
        face_side=_end_shown(one, setting),
        stop_mm=part.stop_mm,
    )


def _end_shown(one: InTube, setting: Setting) -> Side | None:
    """The end at which something of it shows, if it reaches one that may be opened."""
    tube = setting.bay.tube
    assert tube is not None
    end: Side = "left" if one.low[0] < END_MM else "right"
    reaches = end == "left" or one.high[0] > tube.length_mm - END_MM
    shows = setting.parts[one.part].face is not None and reaches and end in _open_ends(setting.bay)
    return end if shows else None


def _end_holes(one: InTube, lies: Placement, setting: Setting) -> list[Opening]:
    """Holes in the end of the tube that this part reaches, if that end may be opened."""
    part, tube, end = setting.parts[one.part], setting.bay.tube, lies.face_side
    assert tube is not None
    if part.face is None or end is None:
        return []
    at = 0.0 if end == "left" else part.size[0]
    turned = Turned(one.lane, part.size, (0, 1, 2), end, (at, part.size[1] / 2, part.face.centre_mm))
    low = (lies.min_mm[0], lies.min_mm[1], lies.min_mm[2])
    size = (tube.length_mm, tube.diameter_mm, tube.diameter_mm)
    wall_mm = setting.bay.wall_mm
    holes = face_openings(part, turned, low, size, wall_mm, own_lamp=has_own_lamp(setting.parts))
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
