"""Holes in the shell: where each socket, lamp, switch and wire comes out, measured on the outer face."""

from collections.abc import Sequence

from pocketspark.core.fit.bays import Triple
from pocketspark.core.fit.parts import Turned
from pocketspark.core.nouns.bay import Side
from pocketspark.core.nouns.noun import Noun

# Width and height, mm, from memory: the bare socket, and the plug's overmould (USB Type-C and Micro-B figures).
SOCKET_BARE = {"type_c": (9.0, 3.3), "micro_b": (7.8, 3.0), "mini_b": (8.0, 4.0)}
OVERMOULD = {"type_c": (12.4, 6.5), "micro_b": (10.6, 8.5), "mini_b": (11.0, 8.5)}
ROUND_ABOUT_MM = 0.2
# Deeper than this behind the outer face the plug's overmould has to go into the wall as well (common practice).
DEEP_MM = 0.5
LAMP_MM, WIRE_MM = 2.0, 3.0
# A hole leaves this much wall to its neighbour and to the edge (common practice, no source).
WEB_MM = 1.5


class Opening(Noun):
    """One hole. `across_mm` from the wall's left edge as seen from outside, `up_mm` from its lower edge, to the centre.

    Edges are those of the shell's outer face over the bay. A round hole has `width_mm` = `height_mm`.
    """

    what: str  # socket, lamp, wire
    part: str
    side: Side
    width_mm: float
    height_mm: float
    across_mm: float
    up_mm: float
    round: bool = False
    says: str


def socket_opening(part: str, kind: str, turned: Turned, low: Triple, size: Triple, wall_mm: float) -> Opening:
    """The hole for a socket whose board lies with its low corner here."""
    side, centre = turned.socket_side, turned.socket_centre
    assert side is not None
    assert centre is not None
    at = (low[0] + centre[0], low[1] + centre[1], low[2] + centre[2])
    behind = _behind(side, low, turned.size, size)
    depth = wall_mm + behind
    bare = depth <= DEEP_MM
    width, height = (SOCKET_BARE if bare else OVERMOULD)[kind]
    # A board on its edge turns its socket with it.
    upright = turned.home_axes[2] != 2
    if upright:
        width, height = height, width
    says = (
        f"bare socket, {ROUND_ABOUT_MM} mm all round"
        if bare
        else f"its face lies {depth:.1f} mm behind the outside, so the plug's overmould has to go in"
    )
    across, up = _on_face(side, at, size, wall_mm)
    return Opening(
        what="socket",
        part=part,
        side=side,
        width_mm=round(width + 2 * ROUND_ABOUT_MM, 2),
        height_mm=round(height + 2 * ROUND_ABOUT_MM, 2),
        across_mm=across,
        up_mm=up,
        says=says,
    )


def lamp_opening(part: str, turned: Turned, low: Triple, size: Triple, wall_mm: float) -> Opening:
    """A small hole beside the socket for the lamp, 5 mm from the opening's edge or a light pipe's way off."""
    side, centre = turned.socket_side, turned.socket_centre
    assert side is not None
    assert centre is not None
    at = [low[0] + centre[0], low[1] + centre[1], low[2] + centre[2]]
    along = 1 if side in ("left", "right") else 0
    at[along] += 8.5 if at[along] < size[along] / 2 else -8.5
    across, up = _on_face(side, (at[0], at[1], at[2]), size, wall_mm)
    return Opening(
        what="lamp",
        part=part,
        side=side,
        width_mm=LAMP_MM,
        height_mm=LAMP_MM,
        across_mm=across,
        up_mm=up,
        round=True,
        says="2 mm hole or light pipe, or the wall thinned from inside",
    )


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
        says="for the leads; a knot or a tie inside takes the pull, its edge is rounded",
    )


def _meet(one: Opening, other: Opening) -> bool:
    across = (one.width_mm + other.width_mm) / 2 + WEB_MM
    up = (one.height_mm + other.height_mm) / 2 + WEB_MM
    near = abs(one.across_mm - other.across_mm) < across and abs(one.up_mm - other.up_mm) < up
    return one.side == other.side and near


def _behind(side: Side, low: Triple, box: Triple, size: Triple) -> float:
    """Gap between the socket's face and the inside of its wall."""
    axis = {"left": 0, "right": 0, "front": 1, "back": 1, "floor": 2, "lid": 2}[side]
    near = side in ("left", "front", "floor")
    return max(low[axis] if near else size[axis] - low[axis] - box[axis], 0.0)


def _on_face(side: Side, at: Triple, size: Triple, wall_mm: float) -> tuple[float, float]:
    """Across from the left edge as seen from outside, up from the lower edge; walls add their thickness."""
    x, y, z = at
    across = {
        "left": size[1] - y,  # seen from the left, the back wall is on the left hand
        "right": y,
        "front": x,
        "back": size[0] - x,
        "floor": x,
        "lid": x,
    }[side]
    up = z if side not in ("floor", "lid") else y
    return round(across + wall_mm, 2), round(up + wall_mm, 2)
