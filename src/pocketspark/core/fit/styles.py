"""Where the parts of a build go, by its style: the old bay, the outline of one old battery, or a box of their own."""

from collections.abc import Sequence
from dataclasses import dataclass

from pocketspark.core.fit.allowances import BOARD_GAP_MM
from pocketspark.core.fit.bays import Triple, bay_from_supply
from pocketspark.core.fit.blocks import Part, parts_of
from pocketspark.core.fit.openings import widest_hole_mm
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Build, Gadget
from pocketspark.core.models.bay import Bay, Room, Tube
from pocketspark.core.units.figures import millimetres

# Printed walls, and room for wires and foam in a box of its own (common practice, no source).
BOX_WALL_MM, OUTLINE_WALL_MM = 1.6, 0.8
BOX_ROOM_MM, BOX_CLEARANCE_MM = 3.0, 0.5
# A printed room comes out this close to its drawing (common practice, no source).
PRINT_TOLERANCE_MM = 0.2


@dataclass(frozen=True)
class Place:
    """The room, what goes into it, whether nobody has measured it, and in words what it is where it is no bay."""

    bay: Bay
    parts: tuple[Part, ...]
    assumed: bool = False
    says: Message = NOTHING


def place_of(gadget: Gadget, build: Build) -> Place | None:
    """None where nothing is known of the room, or there is nothing to place."""
    parts = _largest_first(parts_of(build))
    if not parts:
        return None
    if build.facts_of_style.own_box:
        return _own_box(parts)
    if build.facts_of_style.like_a_battery and (outline := _outline(gadget, build)):
        return outline
    bay = gadget.bay or bay_from_supply(gadget.supply, gadget.arrangement)
    if bay is None:
        return None
    parts = parts if bay.has_flat_floor else _largest_first(parts_of(build, flat_floor=False))
    return Place(bay, parts, assumed=gadget.bay is None)


def _largest_first(parts: Sequence[Part]) -> tuple[Part, ...]:
    return tuple(sorted(parts, key=_bulk, reverse=True))


def _bulk(part: Part) -> float:
    return part.size[0] * part.size[1] * part.size[2]


def box_inside_mm(parts: Sequence[Part]) -> Triple:
    """Inside of a box of its own: everything on top of each other, with room for wires.

    A socket lies so high, and its wall is so wide, that the hole for its plug has wall all round.
    """
    length, width = (max(part.size[axis] for part in parts) + BOX_ROOM_MM for axis in (0, 1))
    gaps = (len(parts) + 1) * (BOARD_GAP_MM + BOX_CLEARANCE_MM)
    holes = [(part.face, *widest_hole_mm(part.face)) for part in parts if part.face]
    lift = max((max(high / 2 - face.centre_mm, 0.0) for face, _, high in holes), default=0.0)
    width = max([width, *(wide + BOX_CLEARANCE_MM for _, wide, _ in holes)])
    return round(length, 2), round(width, 2), round(sum(part.size[2] for part in parts) + gaps + lift, 2)


def _own_box(parts: tuple[Part, ...]) -> Place:
    inside = box_inside_mm(parts)
    bay = Bay(rooms=(Room(size_mm=inside),), wall_mm=BOX_WALL_MM, tolerance_mm=PRINT_TOLERANCE_MM)
    length, width, height = (millimetres(mm) for mm in inside)
    return Place(
        bay,
        parts,
        says=say("a box of its own, {length} x {width} x {height} inside", length=length, width=width, height=height),
    )


def _places_filled(gadget: Gadget, build: Build) -> int:
    """Of the old batteries' places, those that the new one's outline takes."""
    return gadget.supply.count if build.style == "dummy_cell" and gadget.arrangement == "end_to_end" else 1


def places_to_bridge(gadget: Gadget, build: Build) -> int:
    """Places in the row of old batteries that stay empty beside one that is shaped like them: current has to pass
    through each. In a row beside that one nothing may, or it would short the new cell."""
    if gadget.supply.kind != "cells" or not build.facts_of_style.like_a_battery:
        return 0
    return max(gadget.supply.cells_in_series - _places_filled(gadget, build), 0)


def _outline(gadget: Gadget, build: Build) -> Place | None:
    """A shell in the outline of one old round battery. In a dummy cell only the cell itself goes.

    Where the old ones stood end to end, one dummy with its spacers takes the place of the whole stack.
    """
    supply = gadget.supply
    if supply.kind != "cells" or supply.size.form != "stick":
        return None
    parts = _largest_first(parts_of(build, flat_floor=False))
    inside = parts if build.style == "stand_in" else tuple(part for part in parts if part.kind == "cell")
    if not inside:
        return None
    diameter, length = supply.size.size_mm
    stack = _places_filled(gadget, build)
    length *= stack
    tube = Tube(diameter_mm=diameter - 2 * OUTLINE_WALL_MM, length_mm=length - 2 * OUTLINE_WALL_MM)
    bay = Bay(tube=tube, wall_mm=OUTLINE_WALL_MM, tolerance_mm=PRINT_TOLERANCE_MM)
    whole = (
        say("one {common}", common=supply.size.common)
        if stack == 1
        else say("the whole stack of {stack} {common}", stack=stack, common=supply.size.common)
    )
    says = say(
        "the outline of {whole}, {outline_wall_mm} of wall", whole=whole, outline_wall_mm=millimetres(OUTLINE_WALL_MM)
    )
    return Place(bay, inside, says=says)
