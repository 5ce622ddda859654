"""What every answer holds, whatever the bay: what it answers to, the bay as drawn, parts, holes, the word for it."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pocketspark.core.fit.answer import Fits, OpenWall, Placement, Point, RoomShape, SolidBox
from pocketspark.core.fit.bays import Space, Triple
from pocketspark.core.fit.blocks import Part, ways_round
from pocketspark.core.fit.choosing import way_of
from pocketspark.core.fit.openings import (
    Opening,
    Stretch,
    across_the_seam,
    face_openings,
    has_own_lamp,
    stretch_of,
    wire_opening,
)
from pocketspark.core.fit.packing import Placed
from pocketspark.core.models.bay import Bay, Passage, Pin, Side, WallOpening

# Sums of tenths of a millimetre are off by less than this in the last digit.
ROUNDING_MM = 1e-6
# "Short by" is given down to this; beyond, it does not go in by far.
SHORT_MM = 4.0


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


def seam_of(bay: Bay, space: Space) -> float | None:
    """The height at which the case comes apart; None where its lid is flat."""
    return round(space.size[2] - bay.lid_depth_mm, 4) if bay.lid_depth_mm else None


def frame_of(setting: Setting, space: Space) -> dict[str, Any]:
    """What is the same whatever the answer: the bay as drawn."""
    bay = setting.bay
    solids = tuple(
        SolidBox(
            name=solid.name,
            min_mm=solid.low,
            max_mm=solid.high,
            state="outside" if solid.obstacle is None else bay.obstacles[solid.obstacle].state,
            on_lid=solid.on_lid,
            obstacle="" if solid.obstacle is None else bay.obstacles[solid.obstacle].id,
        )
        for solid in space.solids
    )
    return {
        "tolerance_mm": setting.tolerance_mm,
        "size_mm": space.size,
        "wall_mm": bay.wall_mm,
        "seam_mm": seam_of(bay, space),
        "tube_mm": (bay.tube.diameter_mm, bay.tube.length_mm) if bay.tube else None,
        "solids": solids,
        "open_walls": tuple(_open_wall(opening, space.size) for opening in bay.walls),
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


def _open_wall(opening: WallOpening, size: Triple) -> OpenWall:
    length, width, height = size
    level = opening.side in ("floor", "lid")
    along = width if opening.side in ("left", "right") else length
    if level:
        return OpenWall(side=opening.side, along_mm=(0.0, length), up_mm=(0.0, width))
    return OpenWall(
        side=opening.side,
        along_mm=(opening.from_mm or 0.0, min(along if opening.to_mm is None else opening.to_mm, along)),
        up_mm=(opening.low_mm or 0.0, min(height if opening.high_mm is None else opening.high_mm, height)),
    )


def _passage(passage: Passage, space: Space) -> SolidBox:
    low = tuple(at - start for at, start in zip(passage.at_mm, space.origin, strict=True))
    high = tuple(at + size for at, size in zip(low, passage.size_mm, strict=True))
    return SolidBox(name=passage.name, min_mm=low, max_mm=high, state="passage")


def judgement_of(clearance: float, tolerance: float) -> Fits:
    if clearance < 0:
        return "too_close" if clearance > -tolerance else "no"
    return "too_close" if clearance < tolerance - ROUNDING_MM else "yes"


def placement_of(one: Placed, part: Part, pins: Sequence[Pin]) -> Placement:
    way = next((w for w in ways_round(part) if w.name == one.pose.name), None)
    return Placement(
        part=part.name,
        kind=part.kind,
        min_mm=rounded(one.low),
        max_mm=rounded(one.high),
        turned=one.pose.name,
        ways=tuple(dict.fromkeys(w.name for w in ways_round(part))),
        round=part.form == "round",
        pinned=any(pin.part == part.name for pin in pins),
        face_side=way.face_side if way else None,
        upside_down=bool(way and way.upside_down),
        nose_mm=part.face.nose_mm if part.face else 0.0,
        stop_mm=part.stop_mm,
        cradle_mm=part.cradle_mm,
    )


def rounded(point: Triple) -> Point:
    return (round(point[0], 4), round(point[1], 4), round(point[2], 4))


def openings_of(placed: Sequence[Placed], setting: Setting, space: Space) -> list[Opening]:
    parts, wall_mm = setting.parts, setting.bay.wall_mm
    stretches = _stretches(setting.bay, space.size)
    holes: list[Opening] = []
    for one in placed:
        part, way = parts[one.item], way_of(one, parts)
        stretch = stretches.get(way.face_side) if way.face_side else None
        holes += face_openings(part, way, one.low, space.size, wall_mm, own_lamp=has_own_lamp(parts), stretch=stretch)
    holes += wire_hole(setting, space.size, holes)
    seam = seam_of(setting.bay, space)
    return holes if seam is None else [across_the_seam(hole, seam + wall_mm) for hole in holes]


def _stretches(bay: Bay, size: Triple) -> dict[Side, Stretch]:
    """By its side, the stretch of each wall that may be opened."""
    return {opening.side: stretch_of(opening, size, bay.wall_mm) for opening in bay.walls}


def wire_hole(setting: Setting, size: Triple, taken: Sequence[Opening]) -> list[Opening]:
    """One for the leads of what stays outside, if any wall may be opened."""
    if not setting.outside:
        return []
    hole = wire_opening(setting.outside, _stretches(setting.bay, size), size, setting.bay.wall_mm, taken)
    return [hole] if hole else []
