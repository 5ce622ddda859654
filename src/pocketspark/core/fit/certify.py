"""A second look at a fit that knows nothing of how it was found: the document, the placements, and exact solids.

Whatever is told as fitting is measured here again: every part whole and inside, nothing in anything else, the air that
is asked for and the clearance that is claimed really there, what shows in a wall really at one that may be opened.
It shares with the search only what a part needs by the trade (its allowances), and no geometry.
"""

import itertools
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.fit.curves import doubts_of_curves
from pocketspark.core.fit.needs import Need, needs_of
from pocketspark.core.fit.openings import Opening
from pocketspark.core.fit.roundness import doubts_in_a_tube
from pocketspark.core.message import Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay, Pin, Side
from pocketspark.core.units.figures import millimetres

Point = tuple[float, float, float]
# Placements are written to a ten-thousandth of a millimetre.
EXACT_MM = 2e-3
# A socket's face lies this close behind the inside of its wall (common practice, no source).
AT_WALL_MM = 0.3
# Wall that a hole leaves to the edge of the face; of a thinner wall its corner (common practice, no source).
WEB_MM = 1.5
# Of the room that is left so much beside and over a part is worth having (common practice, no source).
WORTH_HAVING_MM = 1.0
# Holes are told to a hundredth of a millimetre.
AS_TOLD_MM = 0.011
_WALLS: dict[Side, tuple[int, int]] = {
    "left": (0, -1),
    "right": (0, 1),
    "front": (1, -1),
    "back": (1, 1),
    "floor": (2, -1),
    "lid": (2, 1),
}


@dataclass(frozen=True)
class Box:
    """A box by two corners."""

    low: Point
    high: Point

    def grown(
        self, mm: float, but: Collection[tuple[int, int]] = (), down: float | None = None, up: float | None = None
    ) -> "Box":
        """Larger by so much on every side, but for some: (axis, -1 or 1). `down`, `up`: there by so much instead."""
        low = [at - (0 if (axis, -1) in but else mm) for axis, at in enumerate(self.low)]
        high = [at + (0 if (axis, 1) in but else mm) for axis, at in enumerate(self.high)]
        if down is not None and (2, -1) not in but:
            low[2] = self.low[2] - down
        if up is not None and (2, 1) not in but:
            high[2] = self.high[2] + up
        return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))

    def reaching(self, axis: int, to: float) -> "Box":
        """Stretched along one axis until it touches this plane."""
        low, high = list(self.low), list(self.high)
        low[axis], high[axis] = min(low[axis], to), max(high[axis], to)
        return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))

    def meets(self, other: "Box") -> bool:
        """Whether the two share more than a face."""
        return all(
            a0 < b1 - EXACT_MM and b0 < a1 - EXACT_MM
            for a0, a1, b0, b1 in zip(self.low, self.high, other.low, other.high, strict=True)
        )


@dataclass(frozen=True)
class Hollow:
    """The bay of boxes as it is: what is free is what is inside any of its rooms. Its lowest corner is the origin."""

    rooms: tuple[Box, ...]
    size: Point

    def holds(self, box: Box) -> bool:
        """Whether the box is wholly inside, perhaps in several rooms: every piece of it between their faces is."""
        inner = box.grown(-EXACT_MM)
        cuts = [self._cuts(inner, axis) for axis in range(3)]
        return all(
            any(all(a < m < b for a, m, b in zip(room.low, middle, room.high, strict=True)) for room in self.rooms)
            for middle in itertools.product(*(_middles(cut) for cut in cuts))
        )

    def has_a_step_in(self, box: Box) -> bool:
        """Whether some of it is outside, over or under a room: an edge of the case that stands into the bay."""
        low = [max(at + EXACT_MM, 0.0) for at in box.low]
        high = [min(at - EXACT_MM, size) for at, size in zip(box.high, self.size, strict=True)]
        inner = Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))
        for middle in itertools.product(*(_middles(self._cuts(inner, axis)) for axis in range(3))):
            within = [
                [start < at < end for start, at, end in zip(room.low, middle, room.high, strict=True)]
                for room in self.rooms
            ]
            if any(x and y for x, y, _ in within) and not any(all(axes) for axes in within):
                return True
        return False

    def _cuts(self, box: Box, axis: int) -> list[float]:
        faces = {room.low[axis] for room in self.rooms} | {room.high[axis] for room in self.rooms}
        return sorted({box.low[axis], box.high[axis], *(at for at in faces if box.low[axis] < at < box.high[axis])})


def doubts(project: Project, build: int, bay: Bay, answer: FitAnswer) -> tuple[Message, ...]:
    """What speaks against an answer that says it goes in, each in a sentence; empty where it is confirmed.

    `bay` is where the parts go: the gadget's own, or by its style a box or an outline.
    """
    chosen = project.builds[build]
    # Into a dummy of the old battery goes the cell alone; its outline is no bay of the gadget's.
    cells_alone = chosen.style == "dummy_cell" and bay.tube is not None and bay != project.gadget.bay
    needs = {need.name: need for need in needs_of(chosen, cells_alone=cells_alone, flat_floor=bay.has_flat_floor)}
    found = list(_missing(needs, answer.placements))
    known = [(needs[one.part], one) for one in answer.placements if one.part in needs]
    claimed = max(answer.clearance_mm or 0.0, 0.0)
    if bay.tube is not None:
        return (*found, *doubts_in_a_tube(chosen, bay, known, claimed))
    # What lies on something keeps its gap from it; beside and over it, of all that could be had, what is worth having.
    claimed = min(claimed, max(WORTH_HAVING_MM, answer.tolerance_mm))
    hollow = hollow_of(bay)
    pins = {pin.part: pin for pin in reversed(chosen.pins)}
    for need, one in known:
        found += _doubts_of_one(need, one, hollow, bay, claimed, pins.get(need.name), answer)
    for hole in answer.openings:
        found += _doubts_of_hole(hole, hollow, bay)
    for (need, one), (other_need, other) in itertools.combinations(known, 2):
        gap = max(need.gap_mm, other_need.gap_mm)
        air = gap + claimed
        if _box(one).grown(air, down=gap, up=gap).meets(_box(other)):
            found.append(
                say(
                    "{need} and {other_need} do not keep {air} apart",
                    need=need.name,
                    other_need=other_need.name,
                    air=millimetres(air, 2),
                )
            )
    return tuple(found)


def _missing(needs: dict[str, Need], placements: Sequence[Placement]) -> Iterator[Message]:
    placed = [one.part for one in placements]
    yield from (say("{name} is not placed", name=name) for name in needs if name not in placed)
    yield from (say("{name} is placed and not wanted", name=name) for name in placed if name not in needs)
    yield from (say("{name} is placed twice", name=name) for name in set(placed) if placed.count(name) > 1)


def hollow_of(bay: Bay) -> Hollow:
    """The rooms from their lowest corner; what reaches up to the lid goes up with it."""
    origin = tuple(min(room.at_mm[axis] for room in bay.rooms) for axis in range(3))
    top = max(room.at_mm[2] + room.inside_mm[2] for room in bay.rooms)
    rooms = []
    for room in bay.rooms:
        low = [at - start for at, start in zip(room.at_mm, origin, strict=True)]
        high = [at + size for at, size in zip(low, room.inside_mm, strict=True)]
        if room.at_mm[2] + room.inside_mm[2] > top - 1e-6:
            high[2] += bay.lid_raised_mm
        rooms.append(Box((low[0], low[1], low[2]), (high[0], high[1], high[2])))
    size = tuple(max(room.high[axis] for room in rooms) for axis in range(3))
    return Hollow(tuple(rooms), (size[0], size[1], size[2]))


def obstacles_of(bay: Bay) -> Iterator[tuple[str, Box]]:
    """What stands in the bay still, from the same corner."""
    origin = tuple(min(room.at_mm[axis] for room in bay.rooms) for axis in range(3))
    for obstacle in bay.standing:
        low = [at - start for at, start in zip(obstacle.at_mm, origin, strict=True)]
        low[2] += bay.lid_raised_mm if obstacle.on_lid else 0.0
        high = [at + size for at, size in zip(low, obstacle.size_mm, strict=True)]
        yield obstacle.name, Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _doubts_of_one(
    need: Need, one: Placement, hollow: Hollow, bay: Bay, claimed: float, pin: Pin | None, answer: FitAnswer
) -> Iterator[Message]:
    box = _box(one)
    against = {_WALLS[side] for side in (one.face_side, pin.side if pin else None) if side}
    if need.in_cradle and pin is None:
        against.add(_WALLS["floor"])
        if abs(box.low[2]) > EXACT_MM:
            yield say("the cradle of {need} does not stand on the floor", need=need.name)
    inside = box if one.face_side is None else _but_in_the_wall(box, one.face_side, hollow)
    turned = [way for way in need.ways() if _is_as_large(way, box)]
    if not turned:
        yield say("{need} does not have its size, or lies in a way it must not", need=need.name)
    air = need.gap_mm + claimed
    if not hollow.holds(inside.grown(air, but=against, down=need.gap_mm)):
        yield say("{need} does not lie inside with {air} round it", need=need.name, air=millimetres(air, 2))
    corners, hard = (inside.low, inside.high), max(need.gap_mm, need.gap_to_hard_mm)
    yield from doubts_of_curves(need.name, corners, air, hard, is_round=one.round, bay=bay)
    if hard > need.gap_mm and hollow.has_a_step_in(box.grown(hard + claimed, down=hard)):
        yield say(
            "{need} does not keep {off} from an inner step of the bay",
            need=need.name,
            off=millimetres(hard + claimed, 2),
        )
    for name, obstacle in obstacles_of(bay):
        off = hard + claimed
        if box.grown(off, down=hard).meets(obstacle):
            yield say("{need} does not keep {off} from {name}", need=need.name, off=millimetres(off, 2), name=name)
    if need.shows and one.face_side is None:
        yield say("the {shows} of {need} shows in no wall", shows=need.shows, need=need.name)
    if need.shows and one.face_side is not None:
        yield from _doubts_of_face(need, one.face_side, box, turned, hollow, bay, answer)
    if pin is not None:
        yield from _doubts_of_pin(need, one, pin, hollow, bay)


def _doubts_of_face(
    need: Need, side: Side, box: Box, turned: Sequence[Point], hollow: Hollow, bay: Bay, answer: FitAnswer
) -> Iterator[Message]:
    axis, way = _WALLS[side]
    opening = next((opening for opening in bay.walls if opening.side == side), None)
    if opening is None:
        yield say("{need} shows in the {side} wall, which must not be opened", need=need.name, side=side)
        return
    wall_at = 0.0 if way < 0 else hollow.size[axis]
    behind = box.low[axis] - wall_at if way < 0 else wall_at - box.high[axis]
    # What is cut away of the wall from inside takes the part's whole end, the rest of it only its nose.
    deepest = opening.thinned_mm + min(need.nose_mm, bay.wall_mm - opening.thinned_mm)
    if behind < -deepest - EXACT_MM:
        goes, takes = millimetres(-behind, 2), millimetres(deepest, 2)
        yield say(
            "{need} reaches {goes} into the {side} wall, where {takes} is possible",
            need=need.name,
            goes=goes,
            side=side,
            takes=takes,
        )
    inside = _but_in_the_wall(box, side, hollow)
    if behind > AT_WALL_MM - deepest + EXACT_MM or not hollow.holds(inside.reaching(axis, wall_at)):
        yield say(
            "{need} lies {behind} behind the {side} wall", need=need.name, behind=millimetres(behind, 2), side=side
        )
    centres = [centre for size in turned for centre in need.face_centres(size, axis, box.low)]
    holes = [hole for hole in answer.openings if hole.part == need.name and hole.what == need.hole]
    if holes and not any(_hole_serves(holes[0].across_mm, holes[0].up_mm, side, c, hollow, bay) for c in centres):
        yield say("the hole for the {shows} of {need} is not in front of it", shows=need.shows, need=need.name)


def _doubts_of_hole(hole: Opening, hollow: Hollow, bay: Bay) -> Iterator[Message]:
    """The whole hole, told on the outer face, lies where its wall may be opened and not over the edge of that face."""
    opening = next((opening for opening in bay.walls if opening.side == hole.side), None)
    if opening is None:
        yield say("a {what} hole is in the {side} wall, which must not be opened", what=hole.what, side=hole.side)
        return
    length, width, height = hollow.size
    wide = {"left": width, "right": width}.get(hole.side, length)
    tall = {"floor": width, "lid": width}.get(hole.side, height)
    start, end = (hole.across_mm + way * hole.width_mm / 2 - bay.wall_mm for way in (-1, 1))
    low, high = (hole.up_mm + way * hole.height_mm / 2 - bay.wall_mm for way in (-1, 1))
    if hole.side in ("left", "back"):  # from outside, what is near is seen on the right
        start, end = wide - end, wide - start
    least, edge = -bay.wall_mm + min(WEB_MM, bay.wall_mm) - AS_TOLD_MM, min(WEB_MM, bay.wall_mm)
    over = min(start, low) < least or end > wide - least or high > tall - least
    level = hole.side in ("floor", "lid")
    spans = ((opening.from_mm, opening.to_mm, start, end), (opening.low_mm, opening.high_mm, low, high))
    outside = any(
        (stated is not None and at < stated - AS_TOLD_MM) or (most is not None and to > most + AS_TOLD_MM)
        for stated, most, at, to in (() if level else spans)
    )
    if over:
        yield say(
            "the {what} hole of {part} leaves less than {edge} to the edge of the {side} wall",
            what=hole.what,
            part=hole.part,
            edge=millimetres(edge),
            side=hole.side,
        )
    if outside:
        yield say(
            "the {what} hole of {part} is not wholly where the {side} wall may be opened",
            what=hole.what,
            part=hole.part,
            side=hole.side,
        )


def _but_in_the_wall(box: Box, side: Side, hollow: Hollow) -> Box:
    """The part of a box that is not in the wall of this side."""
    axis, way = _WALLS[side]
    low, high = list(box.low), list(box.high)
    if way < 0:
        low[axis] = max(low[axis], 0.0)
    else:
        high[axis] = min(high[axis], hollow.size[axis])
    return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _hole_serves(across: float, up: float, side: Side, centre: Point, hollow: Hollow, bay: Bay) -> bool:
    """Whether a hole that is measured on the outer face lies in front of this point inside.

    Seen from outside, looking at each wall: which bay axis runs to the right, and which way.
    """
    x, y, z = centre
    right = {"left": hollow.size[1] - y, "right": y, "front": x, "back": hollow.size[0] - x, "floor": x, "lid": x}[side]
    # From below the front wall is uppermost: x still runs to the right.
    high = {"floor": hollow.size[1] - y, "lid": y}.get(side, z)
    return abs(across - bay.wall_mm - right) < 0.02 and abs(up - bay.wall_mm - high) < 0.02


def _doubts_of_pin(need: Need, one: Placement, pin: Pin, hollow: Hollow, bay: Bay) -> Iterator[Message]:
    if pin.turned and pin.turned != one.turned:
        yield say("{need} is to lie {turned}, and does not", need=need.name, turned=pin.turned)
    if pin.at_mm is not None:
        origin = [min(room.at_mm[axis] for room in bay.rooms) for axis in range(3)]
        off = max(abs(at - start - low) for at, start, low in zip(pin.at_mm, origin, one.min_mm, strict=True))
        if off > EXACT_MM:
            yield say("{need} is pinned {off} away from where it lies", need=need.name, off=millimetres(off, 2))
    if pin.room and pin.room in {room.id for room in bay.rooms}:
        number = [room.id for room in bay.rooms].index(pin.room)
        if not Hollow((hollow.rooms[number],), hollow.size).holds(_box(one)):
            yield say("{need} is kept to one room, and lies outside it", need=need.name)
    if pin.at_mm is None and pin.side is not None:
        axis, way = _WALLS[pin.side]
        away = one.min_mm[axis] if way < 0 else hollow.size[axis] - one.max_mm[axis]
        if away > max(need.gap_mm, AT_WALL_MM) + EXACT_MM:
            yield say(
                "{need} is pinned to the {side} wall, and lies {away} from it",
                need=need.name,
                side=pin.side,
                away=millimetres(away, 2),
            )


def _box(one: Placement) -> Box:
    low, high = one.min_mm, one.max_mm
    return Box((low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _is_as_large(size: Point, box: Box) -> bool:
    return all(abs(h - low - mm) < EXACT_MM for low, h, mm in zip(box.low, box.high, size, strict=True))


def _middles(cuts: Sequence[float]) -> Iterable[float]:
    """Of every piece, but for a sliver that is only the rounding of two faces that meet."""
    return [(a + b) / 2 for a, b in itertools.pairwise(cuts) if b - a > 1e-9]
