"""Holes in the shell: where each socket, lamp, switch and wire comes out, measured on the outer face."""

import itertools
import math
from collections.abc import Sequence

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.blocks import Part, Turned
from pocketspark.core.message import Message, say
from pocketspark.core.models.bay import LEAST_WALL_MM, Side
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


class Opening(Model):
    """One hole. `across_mm` from the wall's left edge as seen from outside, `up_mm` from its lower edge, to the centre.

    Edges are those of the shell's outer face over the bay. A round hole has `width_mm` = `height_mm`.
    """

    what: str  # socket, lamp, switch, wire
    part: str
    side: Side
    width_mm: float
    height_mm: float
    across_mm: float
    up_mm: float
    round: bool = False
    for_plug: bool = False  # the plug's plastic body has to go in, not the socket's shell alone
    says: Message


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
    part: Part, turned: Turned, low: Triple, size: Triple, wall_mm: float, *, own_lamp: bool
) -> list[Opening]:
    """The holes for what a part shows in its wall."""
    if part.face is None or turned.face_side is None:
        return []
    if part.face.kind == "lamp":
        return [_led_opening(part.name, turned, low, size, wall_mm)]
    if part.face.kind == "switch":
        return [_lever_opening(part.name, turned, low, size, wall_mm)]
    socket = socket_opening(part.name, part.face.kind, turned, low, size, wall_mm)
    if not _shows_its_lamp(part, own_lamp=own_lamp):
        return [socket]
    return [socket, lamp_opening(part.name, turned, low, size, wall_mm, socket)]


def socket_opening(part: str, kind: str, turned: Turned, low: Triple, size: Triple, wall_mm: float) -> Opening:
    """The hole for a socket whose board lies with its low corner here."""
    side, centre = turned.face_side, turned.face_centre
    assert side is not None
    assert centre is not None
    at = (low[0] + centre[0], low[1] + centre[1], low[2] + centre[2])
    behind = _behind(side, low, turned.size, size)
    depth = wall_mm + behind
    bare = depth <= DEEP_MM
    width, height = _as_turned((SOCKET_BARE if bare else OVERMOULD)[kind], turned)
    says = _of_the_bare_socket(behind) if bare else _of_the_plug(depth, wall_mm)
    across, up = _on_face(side, at, size, wall_mm)
    return Opening(
        what="socket",
        part=part,
        side=side,
        width_mm=round(width + 2 * ROUND_ABOUT_MM, 2),
        height_mm=round(height + 2 * ROUND_ABOUT_MM, 2),
        across_mm=across,
        up_mm=up,
        for_plug=not bare,
        says=says,
    )


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


def lamp_opening(part: str, turned: Turned, low: Triple, size: Triple, wall_mm: float, socket: Opening) -> Opening:
    """A small hole for the board's own lamp or its light pipe, beside the socket's and clear of it."""
    across, up = _face_centre(turned, low, size, wall_mm)
    beside = (socket.width_mm + LAMP_MM) / 2 + WEB_MM + ROUND_ABOUT_MM
    along = size[1] if turned.face_side in ("left", "right") else size[0]
    # Towards the middle of the wall, where there is more room.
    across += beside if across < wall_mm + along / 2 else -beside
    assert turned.face_side is not None
    return Opening(
        what="lamp",
        part=part,
        side=turned.face_side,
        width_mm=LAMP_MM,
        height_mm=LAMP_MM,
        across_mm=round(across, 2),
        up_mm=up,
        round=True,
        says=say("{lamp_mm} hole or light pipe, or the wall thinned from inside", lamp_mm=as_typed(LAMP_MM)),
    )


def _led_opening(part: str, turned: Turned, low: Triple, size: Triple, wall_mm: float) -> Opening:
    """A round hole that the lamp looks through."""
    across, up = _face_centre(turned, low, size, wall_mm)
    assert turned.face_side is not None
    return Opening(
        what="lamp",
        part=part,
        side=turned.face_side,
        width_mm=LED_MM + ROUND_ABOUT_MM,
        height_mm=LED_MM + ROUND_ABOUT_MM,
        across_mm=across,
        up_mm=up,
        round=True,
        says=say("for a {led_mm} LED, held by a drop of glue", led_mm=as_typed(LED_MM)),
    )


def _lever_opening(part: str, turned: Turned, low: Triple, size: Triple, wall_mm: float) -> Opening:
    """A slot along the lever's travel, which is along the switch's width."""
    width, height = _as_turned(LEVER_MM, turned)
    across, up = _face_centre(turned, low, size, wall_mm)
    assert turned.face_side is not None
    return Opening(
        what="switch",
        part=part,
        side=turned.face_side,
        width_mm=round(width + 2 * ROUND_ABOUT_MM, 2),
        height_mm=round(height + 2 * ROUND_ABOUT_MM, 2),
        across_mm=across,
        up_mm=up,
        says=say("a slot for the lever's way; try the switch in it before it is glued"),
    )


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


def wire_opening(part: str, sides: Sequence[Side], size: Triple, wall_mm: float, taken: Sequence[Opening]) -> Opening:
    """A round hole for the leads to `part`, low in a wall that may be opened, clear of the holes already there."""
    holes = [_wire_hole(part, side, share, size, wall_mm) for side in sides for share in (0.5, 0.25, 0.75, 0.1, 0.9)]
    return next((hole for hole in holes if not any(_meet(hole, other) for other in taken)), holes[0])


def _wire_hole(part: str, side: Side, share: float, size: Triple, wall_mm: float) -> Opening:
    along = {"left": size[1], "right": size[1]}.get(side, size[0])
    return Opening(
        what="wire",
        part=part,
        side=side,
        width_mm=WIRE_MM,
        height_mm=WIRE_MM,
        across_mm=round(wall_mm + along * share, 2),
        up_mm=round(wall_mm + WEB_MM + WIRE_MM / 2, 2),
        round=True,
        says=say("for the leads; a knot or a tie inside takes the pull, its edge is rounded"),
    )


def outer_mm(side: Side, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Width and height of the shell's outer face over the bay, as seen from outside."""
    x, y, z = (mm + 2 * wall_mm for mm in size)
    return {"left": (y, z), "right": (y, z), "front": (x, z), "back": (x, z), "floor": (x, y), "lid": (x, y)}[side]


def over_the_edge_mm(opening: Opening, size: Triple, wall_mm: float) -> float:
    """How far the hole reaches beyond its outer face; 0 where it stays on it."""
    width, height = outer_mm(opening.side, size, wall_mm)
    across = abs(opening.across_mm - width / 2) + opening.width_mm / 2 - width / 2
    up = abs(opening.up_mm - height / 2) + opening.height_mm / 2 - height / 2
    return round(max(across, up, 0.0), 2)


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
    axis = {"left": 0, "right": 0, "front": 1, "back": 1, "floor": 2, "lid": 2}[side]
    near = side in ("left", "front", "floor")
    return low[axis] if near else size[axis] - low[axis] - box[axis]


def _on_face(side: Side, at: Triple, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Across from the left edge as seen from outside, up from the lower edge; walls add their thickness.

    The floor is looked at from below with the front wall uppermost: turned over like this nothing is mirrored.
    """
    x, y, z = at
    across = {
        "left": size[1] - y,  # seen from the left, the back wall is on the left hand
        "right": y,
        "front": x,
        "back": size[0] - x,
        "floor": x,
        "lid": x,
    }[side]
    up = {"floor": size[1] - y, "lid": y}.get(side, z)
    return round(across + wall_mm, 2), round(up + wall_mm, 2)
