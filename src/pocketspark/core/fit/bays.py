"""Bays: from the old batteries at once, and any bay as one box with solid parts in it."""

import itertools
import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace

from pocketspark.core.models.bay import Arrangement, Bay, Obstacle, Room, Tube
from pocketspark.core.models.supply import Supply

Triple = tuple[float, float, float]

# A bay is made a little larger than the largest battery of its size (common practice, no source).
CLEARANCE_MM = 0.5
# The rib between two troughs, and the springs at their ends (common practice, no source).
TONGUE_MM = (1.2, 4.0)
SPRING_MM = 5.0


@dataclass(frozen=True)
class Solid:
    """A box that no part may enter. `obstacle` is its index among the bay's own, or None for what is outside.

    `on_lid`: it goes up with the lid. `is_step`: outside, with a room over or under it, so that it has an edge inside.
    """

    name: str
    low: Triple
    high: Triple
    obstacle: int | None = None
    on_lid: bool = False
    is_step: bool = False

    @property
    def is_hard(self) -> bool:
        """What stands in the bay, and inner steps: a pouch keeps off it."""
        return self.obstacle is not None or self.is_step


@dataclass(frozen=True)
class Space:
    """A bay as the search sees it: one box from the origin, and the solids in it.

    `origin`: the place of that corner in the document, whose rooms may begin anywhere. `rooms`: by their ids, where
    there are several. `shaped`: those that are no plain boxes. `for_wires`: what a wire may not enter, where gaps let
    it go where no part does. `bore_mm`: the diameter of a round bay, which the box is drawn round.
    """

    size: Triple
    solids: tuple[Solid, ...]
    origin: Triple = (0.0, 0.0, 0.0)
    rooms: Mapping[str, tuple[Triple, Triple]] = field(default_factory=dict)
    for_wires: tuple[Solid, ...] | None = None
    shaped: tuple["ShapedRoom", ...] = ()
    bore_mm: float | None = None

    @property
    def is_curved(self) -> bool:
        """Are some of its walls no planes?"""
        return bool(self.shaped) or self.bore_mm is not None


@dataclass(frozen=True)
class ShapedRoom:
    """A room by two corners, with so many troughs side by side along x, and the radius of its upright corners."""

    low: Triple
    high: Triple
    troughs: int
    corner_mm: float

    @property
    def trough_radius_mm(self) -> float:
        """A trough is half a cylinder as wide as its share of the room."""
        return (self.high[1] - self.low[1]) / self.troughs / 2

    @property
    def ridges_mm(self) -> list[float]:
        """Where plastic stands highest, across the room: its two walls, and between troughs."""
        return [self.low[1] + 2 * self.trough_radius_mm * number for number in range(self.troughs + 1)]


def bay_from_supply(supply: Supply, arrangement: Arrangement = "side_by_side") -> Bay | None:
    """What the old batteries must have had around them; None where they are not known by size."""
    if supply.kind != "cells":
        return None
    size, count = supply.size, supply.count
    if size.form == "block":
        length, width, height = size.size_mm
        return _box(length + 6, width * count, height)  # clips and leads at its end
    diameter, tall = size.size_mm
    if size.form in ("coin", "button"):
        return _box(diameter, diameter, tall * count)
    if arrangement == "end_to_end":
        return Bay(tube=Tube(diameter_mm=diameter + CLEARANCE_MM, length_mm=tall * count + SPRING_MM))
    rows = 2 if arrangement == "two_rows" and count > 1 else 1
    across = math.ceil(count / rows)
    bay = _box(tall + SPRING_MM, diameter * across, diameter * rows)
    ribs = tuple(_rib(bay, i, diameter) for i in range(1, across)) if rows == 1 else ()
    return bay.model_copy(update={"obstacles": ribs})


def _box(length: float, width: float, height: float) -> Bay:
    size = tuple(round(mm + CLEARANCE_MM, 1) for mm in (length, width, height))
    return Bay(rooms=(Room(size_mm=size),))


def _rib(bay: Bay, index: int, diameter: float) -> Obstacle:
    """The rib on the floor between two troughs."""
    thick, tall = TONGUE_MM
    at = (6.0, round(index * diameter + CLEARANCE_MM / 2 - thick / 2, 2), 0.0)
    return Obstacle(
        name=f"rib {index}", at_mm=at, size_mm=(round(bay.rooms[0].size_mm[0] - 12, 1), thick, tall), state="trim"
    )


def space_of(bay: Bay) -> Space:
    """A bay as one box with solids: its obstacles, and what the joined boxes leave of their bounding box.

    The corner of the bounding box becomes the origin.
    """
    if bay.tube:
        diameter_mm = bay.tube.diameter_mm
        size = (bay.tube.length_mm, diameter_mm, diameter_mm)
        return Space(size, tuple(_obstacles(bay, (0.0, 0.0, 0.0), 0.0)), bore_mm=diameter_mm)
    low = origin_of(bay)
    high = tuple(max(room.at_mm[a] + room.inside_mm[a] for room in bay.rooms) for a in range(3))
    raised_mm = bay.lid_raised_mm
    # Rounded as the rooms are, or the last digit of a face makes a wall of nothing that nothing passes.
    size = _triple((high[0] - low[0], high[1] - low[1], high[2] - low[2] + raised_mm))
    rooms = [_room(room.at_mm, room.inside_mm, low, size[2], raised_mm) for room in bay.rooms]
    gaps = [_room(passage.at_mm, passage.size_mm, low, size[2], raised_mm) for passage in bay.passages]
    standing = _obstacles(bay, low, raised_mm)
    for_wires = (*_outside([*rooms, *gaps], size), *standing) if gaps else None
    ids = {room.id: box for room, box in zip(bay.rooms, rooms, strict=True)}
    shaped = tuple(
        ShapedRoom(*box, room.troughs, room.corner_mm)
        for room, box in zip(bay.rooms, rooms, strict=True)
        if room.troughs or room.corner_mm
    )
    return Space(size, (*_outside(rooms, size), *standing), low, ids, for_wires, shaped)


def origin_of(bay: Bay) -> Triple:
    """The lowest corner of its rooms, from which a fit is counted; of a tube that of the square round it."""
    if bay.tube:
        return (0.0, 0.0, 0.0)
    return _triple(min(room.at_mm[axis] for room in bay.rooms) for axis in range(3))


def _obstacles(bay: Bay, origin: tuple[float, ...], raised_mm: float) -> list[Solid]:
    found = []
    for index, obstacle in enumerate(bay.obstacles):
        if obstacle.state == "removed":
            continue
        up = (0.0, 0.0, raised_mm if obstacle.on_lid else 0.0)
        low = _triple(a - o + u for a, o, u in zip(obstacle.at_mm, origin, up, strict=True))
        high = _triple(a + s for a, s in zip(low, obstacle.size_mm, strict=True))
        found.append(Solid(obstacle.name, low, high, index, obstacle.on_lid))
    return found


def _outside(rooms: Sequence[tuple[Triple, Triple]], size: Triple) -> list[Solid]:
    """The bounding box less the boxes: cut into a grid along all their faces, then joined again along x."""
    if len(rooms) == 1:
        return []
    cuts = [_cuts(rooms, axis, size[axis]) for axis in range(3)]
    solids: list[Solid] = []
    for z, y, x in itertools.product(*(itertools.pairwise(cuts[axis]) for axis in (2, 1, 0))):
        low, high = (x[0], y[0], z[0]), (x[1], y[1], z[1])
        middle = _triple((a + b) / 2 for a, b in zip(low, high, strict=True))
        if any(_inside(middle, *room) for room in rooms):
            continue
        piece = Solid("outside", low, high, is_step=any(_inside(middle[:2], a[:2], b[:2]) for a, b in rooms))
        before = solids[-1] if solids else None
        if before and before.is_step == piece.is_step and _joins(before, piece):
            solids[-1] = replace(before, high=high)
        else:
            solids.append(piece)
    return solids


def _joins(before: Solid, after: Solid) -> bool:
    """Does the one go on where the other ends along x?"""
    return before.high[0] == after.low[0] and (before.low[1:], before.high[1:]) == (after.low[1:], after.high[1:])


def _cuts(rooms: Sequence[tuple[Triple, Triple]], axis: int, end: float) -> list[float]:
    """Where faces of the boxes cut this axis, rising."""
    inside = (corner[axis] for room in rooms for corner in room)
    return sorted({0.0, end, *(at for at in inside if 0.0 <= at <= end)})


def _room(
    at_mm: Sequence[float], size_mm: Sequence[float], origin: Sequence[float], top: float, raised_mm: float
) -> tuple[Triple, Triple]:
    low = _triple(a - o for a, o in zip(at_mm, origin, strict=True))
    high = _triple(a + s for a, s in zip(low, size_mm, strict=True))
    # What reaches up to the lid goes up with it.
    return low, (high[0], high[1], top if high[2] > top - raised_mm - 1e-6 else high[2])


def _inside(point: Sequence[float], low: Sequence[float], high: Sequence[float]) -> bool:
    return all(a < p < b for a, p, b in zip(low, point, high, strict=True))


def _triple(values: Iterable[float]) -> Triple:
    x, y, z = (round(value, 6) for value in values)
    return (x, y, z)
