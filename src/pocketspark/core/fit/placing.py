"""The one door of the fit: does this build go into this bay, where, how tight, and where the holes are."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from pocketspark.core.fit.answer import FitAnswer, Fits, Gap, Placement, Point, SolidBox
from pocketspark.core.fit.bays import Space, Triple, space_of
from pocketspark.core.fit.openings import Opening, lamp_opening, socket_opening, wire_opening
from pocketspark.core.fit.parts import Part, Turned, unsized, ways_round
from pocketspark.core.fit.questions import Walls, question_of
from pocketspark.core.fit.search import Answer, Length, Placed, Question, conflict, search
from pocketspark.core.fit.styles import place_of
from pocketspark.core.fit.tubes import InTube, TubeAnswer, arrange
from pocketspark.core.nouns import Project
from pocketspark.core.nouns.bay import Bay, Pin, Side

# Placements this close to the best in play may win by shorter wires.
NEAR_BEST = 6
# A warm face this near to the cell heats it.
HOT_NEAR_MM = 3.0
# "Short by" is told down to this; beyond it does not go in by far.
SHORT_MM = 4.0
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
    off = max((attempt.off_mm or 0.0 for attempt in chosen.attempts), default=0.0)
    return Setting(
        bay=place.bay,
        assumed=place.assumed,
        parts=place.parts,
        pins=chosen.pins,
        unsized=tuple(unsized(chosen)),
        tolerance_mm=max(place.bay.tolerance_mm, off),
        outside=" and ".join(chosen.outside),
    )


def fit_of(project: Project, build: int = 0) -> FitAnswer | None:
    """The fit of one build; None where nothing is known of the bay, or there is nothing to place."""
    setting = setting_of(project, build)
    return None if setting is None else answer_to(setting)


@lru_cache(maxsize=512)
def answer_to(setting: Setting) -> FitAnswer:
    """The answer without its remedies: those are asked for on their own."""
    return _in_tube(setting) if setting.bay.tube else _in_boxes(setting)


# Boxes ---------------------------------------------------------------------------------------------------------


def _in_boxes(setting: Setting) -> FitAnswer:
    bay, parts = setting.bay, setting.parts
    space, walls = space_of(bay), Walls(bay.walls)
    question = question_of(space, parts, walls, setting.pins)
    answer = search(question, solutions=NEAR_BEST)
    if not answer.placed:
        return _no(setting, space, walls, question, answer)
    placed, hot = _chosen(question, answer, parts)
    clearance = min(answer.value, _play(space, placed, parts))
    return FitAnswer(
        fits=_verdict(clearance, setting.tolerance_mm),
        clearance_mm=round(clearance, 3),
        placements=tuple(_placement(one, parts[one.item], setting.pins) for one in placed),
        openings=tuple(_openings(placed, setting, space)),
        gaps=tuple(_gaps(space, placed, parts)[:_GAPS_SHOWN]),
        hot_against_cell=hot,
        **_frame(setting, space),
    )


def _no(setting: Setting, space: Space, walls: Walls, question: Question, answer: Answer) -> FitAnswer:
    """Proven not to go in; how far it is short, where that is little, and a smallest set that conflicts."""
    near = question_of(space, setting.parts, walls, setting.pins, least=-SHORT_MM)
    short = search(near)
    value = round(short.value, 3) if short.placed else None
    fits: Fits = "too_close" if value is not None and value > -setting.tolerance_mm else "no"
    placed = short.placed
    return FitAnswer(
        fits=fits,
        clearance_mm=value,
        placements=tuple(_placement(one, setting.parts[one.item], setting.pins) for one in placed),
        conflict=tuple(conflict(question)),
        gaps=tuple(_gaps(space, placed, setting.parts)[:_GAPS_SHOWN]),
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
    }


def _verdict(clearance: float, tolerance: float) -> Fits:
    if clearance < 0:
        return "too_close" if clearance > -tolerance else "no"
    return "too_close" if clearance < tolerance else "yes"


def _chosen(question: Question, answer: Answer, parts: Sequence[Part]) -> tuple[tuple[Placed, ...], bool]:
    """Of the placements near the best: none with a warm face on the cell where another exists, then short wires."""
    ranked = sorted((answer.placed, *answer.others), key=lambda p: (_is_hot(p, parts), _wires_mm(p, parts)))
    if not _is_hot(ranked[0], parts):
        return ranked[0], False
    cooler = search(_kept_cool(question, parts), solutions=NEAR_BEST)
    cool = [placed for placed in (cooler.placed, *cooler.others) if placed and not _is_hot(placed, parts)]
    if cool:
        return min(cool, key=lambda placed: _wires_mm(placed, parts)), False
    return ranked[0], True


def _kept_cool(question: Question, parts: Sequence[Part]) -> Question:
    """The same with room for air between warm boards and cells."""

    def gap(i: int, j: int) -> Length:
        warm = {parts[i].kind, parts[j].kind} == {"cell", "board"} and (parts[i].hot or parts[j].hot)
        now = question.item_gap[i][j]
        return Length(max(now.at, HOT_NEAR_MM), now.slope) if warm else now

    n = range(len(parts))
    return Question(
        question.items,
        question.blocks,
        tuple(tuple(gap(i, j) for j in n) for i in n),
        question.block_gap,
        question.least,
        question.most,
        question.node_limit,
    )


def _is_hot(placed: Sequence[Placed], parts: Sequence[Part]) -> bool:
    """Does a warm face look at a cell close by?"""
    cells = [one for one in placed if parts[one.item].kind == "cell"]
    for one in placed:
        side = _way(one, parts).hot_side
        if side is None or not parts[one.item].hot:
            continue
        axis, up = {"left": (0, 0), "right": (0, 1), "front": (1, 0), "back": (1, 1), "floor": (2, 0), "lid": (2, 1)}[
            side
        ]
        for cell in cells:
            away = cell.low[axis] - one.high[axis] if up else one.low[axis] - cell.high[axis]
            beside = all(one.low[a] < cell.high[a] and cell.low[a] < one.high[a] for a in range(3) if a != axis)
            if beside and -1e-6 <= away < HOT_NEAR_MM:
                return True
    return False


def _wires_mm(placed: Sequence[Placed], parts: Sequence[Part]) -> float:
    """Middle to middle from every board to the cell, along the axes as wires run."""
    cell = next((one for one in placed if parts[one.item].kind == "cell"), None)
    if cell is None:
        return 0.0
    return sum(sum(abs(_middle(one, a) - _middle(cell, a)) for a in range(3)) for one in placed)


def _middle(one: Placed, axis: int) -> float:
    return (one.low[axis] + one.high[axis]) / 2


def _way(one: Placed, parts: Sequence[Part]) -> Turned:
    """The way round that a pose stands for."""
    ways = ways_round(parts[one.item])
    return next((way for way in ways if way.name == one.pose.name and _close(way.size, one.size)), ways[0])


def _close(first: Triple, second: Triple) -> bool:
    return all(abs(a - b) < 1e-6 for a, b in zip(first, second, strict=True))


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
        socket_side=way.socket_side if way else None,
    )


def _rounded(point: Triple) -> Point:
    return (round(point[0], 4), round(point[1], 4), round(point[2], 4))


def _openings(placed: Sequence[Placed], setting: Setting, space: Space) -> list[Opening]:
    parts, wall_mm = setting.parts, setting.bay.wall_mm
    holes: list[Opening] = []
    for one in placed:
        part, way = parts[one.item], _way(one, parts)
        if part.socket and way.socket_side:
            holes.append(socket_opening(part.name, part.socket.kind, way, one.low, space.size, wall_mm))
            holes.append(lamp_opening(part.name, way, one.low, space.size, wall_mm))
    return holes + _wire_hole(setting, space.size, holes)


def _wire_hole(setting: Setting, size: Triple, taken: Sequence[Opening]) -> list[Opening]:
    """One for the leads of what stays outside, if any wall may be opened."""
    sides = [opening.side for opening in setting.bay.walls]
    if not setting.outside or not sides:
        return []
    return [wire_opening(setting.outside, sides, size, setting.bay.wall_mm, taken)]


# Gaps ----------------------------------------------------------------------------------------------------------


def _play(space: Space, placed: Sequence[Placed], parts: Sequence[Part]) -> float:
    """Smallest play beyond the clearances, as it really lies: a chosen near-best may have a little less."""
    least = 1e9
    for i, one in enumerate(placed):
        gap = parts[one.item].gap_mm
        for other in placed[:i]:
            wanted = max(gap, parts[other.item].gap_mm)
            least = min(least, _apart(one.low, one.high, other.low, other.high)[0] - wanted)
        for solid in space.solids:
            least = min(least, _apart(one.low, one.high, solid.low, solid.high)[0] - gap)
    return least


def _apart(low: Triple, high: Triple, low2: Triple, high2: Triple) -> tuple[float, int]:
    """Largest separation of two boxes over the axes, and on which; negative where they overlap."""
    return max((max(low2[a] - high[a], low[a] - high2[a]), a) for a in range(3))


def _gaps(space: Space, placed: Sequence[Placed], parts: Sequence[Part]) -> list[Gap]:
    """Room between neighbours and to the walls, tightest first."""
    found = []
    for i, one in enumerate(placed):
        name = parts[one.item].name
        for other in placed[:i]:
            found.append(_gap_line(name, one.low, one.high, parts[other.item].name, other.low, other.high))
        for solid in space.solids:
            if solid.obstacle is not None:
                found.append(_gap_line(name, one.low, one.high, solid.name, solid.low, solid.high))
        found.extend(gap for gap in _wall_gaps(name, one, space) if gap.second != _socket_wall(one, parts))
    return sorted(found, key=lambda gap: gap.mm)


def _gap_line(name: str, low: Triple, high: Triple, other: str, low2: Triple, high2: Triple) -> Gap:
    mm, axis = _apart(low, high, low2, high2)
    start = [(max(low[a], low2[a]) + min(high[a], high2[a])) / 2 for a in range(3)]
    end = list(start)
    first_below = low2[axis] >= high[axis] - 1e-9
    start[axis] = high[axis] if first_below else low[axis]
    end[axis] = low2[axis] if first_below else high2[axis]
    return Gap(
        first=name,
        second=other,
        mm=round(mm, 2),
        start_mm=(start[0], start[1], start[2]),
        end_mm=(end[0], end[1], end[2]),
    )


_WALLS: tuple[tuple[Side, Side], ...] = (("left", "right"), ("front", "back"), ("floor", "lid"))


def _socket_wall(one: Placed, parts: Sequence[Part]) -> str:
    """The wall that this part's socket is meant to touch."""
    side = _way(one, parts).socket_side
    return "" if side is None else side if side in ("floor", "lid") else f"{side} wall"


def _wall_gaps(name: str, one: Placed, space: Space) -> list[Gap]:
    found = []
    for axis, (near, far) in enumerate(_WALLS):
        middle = [_middle(one, a) for a in range(3)]
        start, end = list(middle), list(middle)
        start[axis], end[axis] = one.low[axis], 0.0
        found.append(_wall_gap(name, near, one.low[axis], start, end))
        start, end = list(middle), list(middle)
        start[axis], end[axis] = one.high[axis], space.size[axis]
        found.append(_wall_gap(name, far, space.size[axis] - one.high[axis], start, end))
    return found


def _wall_gap(name: str, side: Side, mm: float, start: list[float], end: list[float]) -> Gap:
    wall = side if side in ("floor", "lid") else f"{side} wall"
    return Gap(
        first=name,
        second=wall,
        mm=round(mm, 2),
        start_mm=(start[0], start[1], start[2]),
        end_mm=(end[0], end[1], end[2]),
    )


# Tubes ---------------------------------------------------------------------------------------------------------


def _in_tube(setting: Setting) -> FitAnswer:
    tube = setting.bay.tube
    assert tube is not None
    answer = arrange(tube.diameter_mm, tube.length_mm, setting.parts)
    assert answer is not None
    clearance = round(answer.clearance_mm, 3)
    fits = _verdict(clearance, setting.tolerance_mm)
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
        conflict=() if clearance >= 0 else _tube_conflict(setting, answer),
        size_mm=(tube.length_mm, tube.diameter_mm, tube.diameter_mm),
        wall_mm=setting.bay.wall_mm,
        tube_mm=(tube.diameter_mm, tube.length_mm),
        open_sides=tuple(opening.side for opening in setting.bay.walls),
        assumed_bay=setting.assumed,
        unsized=setting.unsized,
    )


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
    """Socket and lamp in the end of the tube that this board reaches, if that end may be opened."""
    part, tube = setting.parts[one.part], setting.bay.tube
    assert tube is not None
    end: Side = "left" if one.low[0] < END_MM else "right"
    reaches = end == "left" or one.high[0] > tube.length_mm - END_MM
    if part.socket is None or not reaches or end not in {opening.side for opening in setting.bay.walls}:
        return []
    at = 0.0 if end == "left" else part.size[0]
    turned = Turned(one.lane, part.size, (0, 1, 2), end, (at, part.size[1] / 2, part.socket.centre_mm))
    low = (lies.min_mm[0], lies.min_mm[1], lies.min_mm[2])
    size = (tube.length_mm, tube.diameter_mm, tube.diameter_mm)
    lamp = lamp_opening(part.name, turned, low, size, setting.bay.wall_mm)
    middle = tube.diameter_mm / 2 + setting.bay.wall_mm
    seen = math.hypot(lamp.across_mm - middle, lamp.up_mm - middle) < tube.diameter_mm / 2 - lamp.width_mm / 2
    socket = socket_opening(part.name, part.socket.kind, turned, low, size, setting.bay.wall_mm)
    return [socket, lamp] if seen else [socket]


def _tube_conflict(setting: Setting, answer: TubeAnswer) -> tuple[str, ...]:
    """Along the tube everything in it conflicts; across it, the cell and what lies beside it."""
    if answer.along_mm < answer.across_mm:
        return tuple(part.name for part in setting.parts)
    beside = [setting.parts[one.part].name for one in answer.placed if one.lane != "in line"]
    cells = [part.name for part in setting.parts if part.kind == "cell"]
    return (*cells, *beside)
