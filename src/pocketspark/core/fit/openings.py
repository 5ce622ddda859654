"""Holes in the shell: where each socket, lamp, switch and wire comes out, measured on the outer face."""

import itertools
import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Any

from pydantic import Field

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.blocks import FaceAt, Part, Turned
from pocketspark.core.message import Message, say
from pocketspark.core.models.bay import LEAST_WALL_MM, Side, WallOpening
from pocketspark.core.models.board import SOCKETS
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import as_typed, millimetres

# Width and height, mm, from memory: the bare socket, and the plug's plastic body (USB Type-C and Micro-B figures).
SOCKET_BARE = {"type_c": (9.0, 3.3), "micro_b": (7.8, 3.0), "mini_b": (8.0, 4.0)}
OVERMOULD = {"type_c": (12.4, 6.5), "micro_b": (10.6, 8.5), "mini_b": (11.0, 8.5)}
ROUND_ABOUT_MM = 0.2
# Deeper than this behind the outer face the plug's plastic body has to go into the wall as well (common practice).
DEEP_MM = 0.5
LAMP_MM, WIRE_MM = 2.0, 3.0
# What comes through the wall of a lamp on wires (a 3 mm LED) and of a small slide switch, its lever's travel included:
# width and height, mm, from memory of such parts' drawings.
LED_MM, LEVER_MM = 3.0, (6.0, 2.0)
# A hole leaves this much wall to its neighbour and to the edge (common practice, no source).
WEB_MM = 1.5
_AXIS: Mapping[Side, int] = {"left": 0, "right": 0, "front": 1, "back": 1, "floor": 2, "lid": 2}
_NEAR: frozenset[Side] = frozenset({"left", "front", "floor"})
# Across and up, where what is near is far as seen from outside: from the left the back wall is on the left hand, and
# the floor is looked at from below with the front wall uppermost.
_MIRRORED: Mapping[Side, tuple[bool, bool]] = {"left": (True, False), "back": (True, False), "floor": (False, True)}
# Holes are told to a hundredth of a millimetre.
_SAME_MM, _ROUNDING_MM = 0.011, 1e-6


Point = Annotated[tuple[float, ...], Field(min_length=3, max_length=3)]


class Opening(Model):
    """One hole. `across_mm` from the wall's left edge as seen from outside, `up_mm` from its lower edge, to the centre.

    Edges are those of the shell's outer face over the bay. A round hole has `width_mm` = `height_mm`. `min_mm`,
    `max_mm`: the same hole through its wall, in bay coordinates.
    """

    what: str  # socket, lamp, switch, wire
    part: str
    side: Side
    width_mm: float
    height_mm: float
    across_mm: float
    up_mm: float
    min_mm: Point
    max_mm: Point
    round: bool = False
    for_plug: bool = False  # the plug's plastic body has to go in, not the socket's shell alone
    says: Message


@dataclass(frozen=True)
class Stretch:
    """Where a wall may be opened, on its outer face as holes are told: across and up, from and to, mm."""

    across_mm: tuple[float, float]
    up_mm: tuple[float, float]

    def holds(self, hole: Opening) -> bool:
        """Is the whole hole in it?"""
        return all(
            start <= middle - wide / 2 + _SAME_MM and middle + wide / 2 - _SAME_MM <= end
            for (start, end), middle, wide in (
                (self.across_mm, hole.across_mm, hole.width_mm),
                (self.up_mm, hole.up_mm, hole.height_mm),
            )
        )


def stretch_of(opening: WallOpening, size: Triple, wall_mm: float) -> Stretch:
    """The stretch of this wall that may be opened, less what has to stay at the edges of its outer face."""
    width, height = outer_mm(opening.side, size, wall_mm)
    edge = edge_mm(wall_mm)
    across, up = (edge, width - edge), (edge, height - edge)
    if opening.side in ("floor", "lid"):
        return Stretch(across, up)
    along = width - 2 * wall_mm
    from_mm, to_mm = opening.from_mm, opening.to_mm
    if opening.side in ("left", "back"):  # seen from outside, these run the other way
        from_mm, to_mm = (None if mm is None else along - mm for mm in (to_mm, from_mm))
    return Stretch(_within(across, from_mm, to_mm, wall_mm), _within(up, opening.low_mm, opening.high_mm, wall_mm))


def _within(span: tuple[float, float], start: float | None, end: float | None, wall_mm: float) -> tuple[float, float]:
    return (
        span[0] if start is None else max(span[0], start + wall_mm),
        span[1] if end is None else min(span[1], end + wall_mm),
    )


def edge_mm(wall_mm: float) -> float:
    """What stays of an outer face between a hole and its edge: a web, and of a thin wall the corner itself."""
    return min(WEB_MM, wall_mm)


def hole_mm(face: FaceAt, turned: Turned, depth_mm: float) -> tuple[float, float]:
    """Width and height of the hole for what a part shows, its face so far behind the wall's outer face."""
    if face.kind == "lamp":
        return LED_MM + ROUND_ABOUT_MM, LED_MM + ROUND_ABOUT_MM
    if face.kind == "switch":
        bare = LEVER_MM
    else:
        bare = (SOCKET_BARE if _is_bare(depth_mm) else OVERMOULD)[face.kind]
    width, height = _as_turned(bare, turned)
    return round(width + 2 * ROUND_ABOUT_MM, 2), round(height + 2 * ROUND_ABOUT_MM, 2)


def widest_hole_mm(face: FaceAt) -> tuple[float, float]:
    """Width and height of the hole for what shows of a part that lies flat, however deep its face lies."""
    if face.kind == "lamp":
        return LED_MM + ROUND_ABOUT_MM, LED_MM + ROUND_ABOUT_MM
    width, height = LEVER_MM if face.kind == "switch" else OVERMOULD[face.kind]
    return width + 2 * ROUND_ABOUT_MM, height + 2 * ROUND_ABOUT_MM


def has_own_lamp(parts: Sequence[Part]) -> bool:
    """A lamp on wires stands in for the one on the board."""
    return any(part.kind == "lamp" for part in parts)


def holes_of(parts: Sequence[Part]) -> int:
    """How many holes these parts are seen or reached through, wherever they come to lie."""
    own_lamp = has_own_lamp(parts)
    return sum(1 + _shows_its_lamp(part, own_lamp=own_lamp) for part in parts if part.face is not None)


def _shows_its_lamp(part: Part, *, own_lamp: bool) -> bool:
    """A board shows its lamp beside its socket unless the build has one of its own."""
    return part.face is not None and part.face.kind in SOCKETS and part.kind != "socket" and not own_lamp


def face_openings(
    part: Part,
    turned: Turned,
    low: Triple,
    size: Triple,
    wall_mm: float,
    *,
    own_lamp: bool,
    stretch: Stretch | None = None,
) -> list[Opening]:
    """The holes for what a part shows in its wall; its board's lamp shows where the stretch has room beside."""
    if part.face is None or turned.face_side is None:
        return []
    depth = wall_mm + _behind(turned.face_side, low, turned.size, size)
    width, height = hole_mm(part.face, turned, depth)
    across, up = _face_centre(turned, low, size, wall_mm)
    what, says = _what_shows(part.face, depth, wall_mm)
    hole = Opening(
        what=what,
        part=part.name,
        **_in_wall(turned.face_side, (across, up), (width, height), size, wall_mm),
        round=part.face.kind == "lamp",
        for_plug=part.face.kind in SOCKETS and not _is_bare(depth),
        says=says,
    )
    lamp = _lamp_beside(hole, size, wall_mm, stretch) if _shows_its_lamp(part, own_lamp=own_lamp) else None
    return [hole, lamp] if lamp else [hole]


def _what_shows(face: FaceAt, depth: float, wall_mm: float) -> tuple[str, Message]:
    if face.kind == "lamp":
        return "lamp", say("for a {led_mm} LED, held by a drop of glue", led_mm=as_typed(LED_MM))
    if face.kind == "switch":
        return "switch", say("a slot for the lever's way; try the switch in it before it is glued")
    return "socket", _of_the_bare_socket(depth - wall_mm) if _is_bare(depth) else _of_the_plug(depth, wall_mm)


def _is_bare(depth: float) -> bool:
    """Whether the socket's face lies near enough to the outer face for a hole of its own size."""
    return depth <= DEEP_MM + _ROUNDING_MM


def _of_the_bare_socket(behind: float) -> Message:
    about = as_typed(ROUND_ABOUT_MM)
    if behind < 0:
        return say(
            "bare socket, {about} all round; it reaches {into} into the wall", about=about, into=millimetres(-behind)
        )
    return say("bare socket, {about} all round", about=about)


def _of_the_plug(depth: float, wall_mm: float) -> Message:
    """The face lies deep, so that the plug's body goes in; or a wall thinned from inside brings it near."""
    thinner_mm = math.ceil((depth - DEEP_MM) * 10 - 1e-6) / 10
    if 0 < thinner_mm <= wall_mm - LEAST_WALL_MM:
        return say(
            "its face lies {depth} behind the outside, so the plug's plastic body has to go in; with the wall thinned "
            "by {thinner} from inside, a hole for the bare socket is enough",
            depth=millimetres(depth),
            thinner=millimetres(thinner_mm),
        )
    return say(
        "its face lies {depth} behind the outside, so the plug's plastic body has to go in", depth=millimetres(depth)
    )


def _in_wall(
    side: Side, middle: tuple[float, float], wide: tuple[float, float], size: Triple, wall_mm: float
) -> dict[str, Any]:
    """Where a hole is, told both ways: on the outer face as seen from outside, and in the bay."""
    axis = _AXIS[side]
    low, high = [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]
    low[axis], high[axis] = (-wall_mm, 0.0) if side in _NEAR else (size[axis], size[axis] + wall_mm)
    along = [other for other in range(3) if other != axis]
    for other, at, mm, mirrored in zip(along, middle, wide, _MIRRORED.get(side, (False, False)), strict=True):
        inside = size[other] - (at - wall_mm) if mirrored else at - wall_mm
        low[other], high[other] = inside - mm / 2, inside + mm / 2
    return {
        "side": side,
        "across_mm": middle[0],
        "up_mm": middle[1],
        "width_mm": wide[0],
        "height_mm": wide[1],
        "min_mm": tuple(round(at, 4) for at in low),
        "max_mm": tuple(round(at, 4) for at in high),
    }


def _lamp_beside(socket: Opening, size: Triple, wall_mm: float, stretch: Stretch | None) -> Opening | None:
    """A small hole for the board's own lamp or its light pipe, beside the socket's and clear of it."""
    beside = (socket.width_mm + LAMP_MM) / 2 + WEB_MM + ROUND_ABOUT_MM
    along = size[1] if socket.side in ("left", "right") else size[0]
    # Towards the middle of the wall, where there is more room.
    inwards = 1 if socket.across_mm < wall_mm + along / 2 else -1
    for way in (inwards, -inwards):
        middle = round(socket.across_mm + way * beside, 2)
        hole = Opening(
            what="lamp",
            part=socket.part,
            **_in_wall(socket.side, (middle, socket.up_mm), (LAMP_MM, LAMP_MM), size, wall_mm),
            round=True,
            says=say("{lamp_mm} hole or light pipe, or the wall thinned from inside", lamp_mm=as_typed(LAMP_MM)),
        )
        if stretch is None or stretch.holds(hole):
            return hole
    return None


def across_the_seam(opening: Opening, up_mm: float) -> Opening:
    """The same, saying so where the case comes apart within it, so high on the outer face."""
    if opening.side in ("floor", "lid") or abs(opening.up_mm - up_mm) >= opening.height_mm / 2:
        return opening
    says = say("{opening}; the case comes apart across it: cut both halves while they are closed", opening=opening.says)
    return opening.model_copy(update={"says": says})


def _as_turned(hole: tuple[float, float], turned: Turned) -> tuple[float, float]:
    """Width and height on the face: a part on its edge turns its hole with it."""
    across_axis = 1 if turned.face_side in ("left", "right") else 0
    return hole if turned.home_axes[across_axis] == 1 else (hole[1], hole[0])


def _face_centre(turned: Turned, low: Triple, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Across and up, on the outer face."""
    side, centre = turned.face_side, turned.face_centre
    assert side is not None
    assert centre is not None
    return _on_face(side, (low[0] + centre[0], low[1] + centre[1], low[2] + centre[2]), size, wall_mm)


def wire_opening(
    part: str, stretches: Mapping[Side, Stretch], size: Triple, wall_mm: float, taken: Sequence[Opening]
) -> Opening | None:
    """A round hole for the leads to `part`, low in a wall that may be opened, clear of the holes already there.

    Where none is clear of them the first; None where no stretch has room for it.
    """
    holes = [
        hole
        for side, stretch in stretches.items()
        for share in (0.5, 0.25, 0.75, 0.1, 0.9)
        if stretch.holds(hole := _wire_hole(part, side, share, stretch, size, wall_mm))
    ]
    return next((hole for hole in holes if not any(_meet(hole, other) for other in taken)), next(iter(holes), None))


def _wire_hole(part: str, side: Side, share: float, stretch: Stretch, size: Triple, wall_mm: float) -> Opening:
    along = {"left": size[1], "right": size[1]}.get(side, size[0])
    start, end = max(stretch.across_mm[0], wall_mm), min(stretch.across_mm[1], wall_mm + along)
    across = round(start + (end - start) * share, 2)
    up = round(max(wall_mm + WEB_MM, stretch.up_mm[0]) + WIRE_MM / 2, 2)
    return Opening(
        what="wire",
        part=part,
        **_in_wall(side, (across, up), (WIRE_MM, WIRE_MM), size, wall_mm),
        round=True,
        says=say("for the leads; a knot or a tie inside takes the pull, its edge is rounded"),
    )


def outer_mm(side: Side, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Width and height of the shell's outer face over the bay, as seen from outside."""
    x, y, z = (mm + 2 * wall_mm for mm in size)
    return {"left": (y, z), "right": (y, z), "front": (x, z), "back": (x, z), "floor": (x, y), "lid": (x, y)}[side]


def meeting(openings: Sequence[Opening]) -> list[tuple[Opening, Opening]]:
    """Pairs of holes in one wall that leave less than a web of it between them."""
    return [(one, other) for one, other in itertools.combinations(openings, 2) if _meet(one, other)]


def _meet(one: Opening, other: Opening) -> bool:
    across = (one.width_mm + other.width_mm) / 2 + WEB_MM
    up = (one.height_mm + other.height_mm) / 2 + WEB_MM
    near = abs(one.across_mm - other.across_mm) < across and abs(one.up_mm - other.up_mm) < up
    return one.side == other.side and near


def _behind(side: Side, low: Triple, box: Triple, size: Triple) -> float:
    """Gap between the socket's face and the inside of its wall; negative where it goes into the wall."""
    axis = _AXIS[side]
    return low[axis] if side in _NEAR else size[axis] - low[axis] - box[axis]


def _on_face(side: Side, at: Triple, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Across from the left edge as seen from outside, up from the lower edge; walls add their thickness.

    The floor is looked at from below with the front wall uppermost: turned over like this nothing is mirrored.
    """
    along = [axis for axis in range(3) if axis != _AXIS[side]]
    across, up = (
        round((size[axis] - at[axis] if mirrored else at[axis]) + wall_mm, 2)
        for axis, mirrored in zip(along, _MIRRORED.get(side, (False, False)), strict=True)
    )
    return across, up
