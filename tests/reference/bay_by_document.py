"""What a document asks of a fit, read from docs/formats.md and the trade by a route of its own: rotation matrices, a
bay cut into cells, one mixed-integer program. It imports nothing of the fit.

Allowances, mm (common practice, no source, but for the shells of sockets, which are from memory): a pouch swells by a
tenth and has 2 of tabs, and 1 of a folded protection board, and 0.5 to what stands in the bay and to its inner steps; a
round cell runs over by 0.4; a board has 2 for its wires' bend and 0.5 of air; small parts 0.2; a socket's face lies
within 0.3 of as deep in its wall as it goes: its nose goes into what the wall has left, and the whole end of its board
into what is cut away of the wall from inside. The whole hole lies where the wall may be opened, and 1.5 off the edge.
"""

import itertools
from collections import Counter
from types import SimpleNamespace as Plain
from typing import NamedTuple

import numpy as np
from milp_packing import best_value

SHELL_MM = {"type_c": 3.2, "micro_b": 2.8, "mini_b": 3.9}
USUAL_MM = {"lamp": (5.3, 3.9, 3.9), "switch": (3.6, 8.6, 3.7), "spacer": (20.0, 10.0, 3.0)}
PLUG_MM = {"small_plug": (10.0, 4.5, 3.4), "common_plug": (13.0, 6.0, 4.8)}
# Holes, mm across and up for a part that lies flat (from memory, as the handbook has them): a socket whose face lies
# within 0.5 of the outside, the plug's body where it lies deeper, and 0.2 all round; an LED's; a lever's slot.
BARE_MM = {"type_c": (9.0, 3.3), "micro_b": (7.8, 3.0), "mini_b": (8.0, 4.0)}
PLUG_BODY_MM = {"type_c": (12.4, 6.5), "micro_b": (10.6, 8.5), "mini_b": (11.0, 8.5)}
LED_HOLE_MM, SLOT_MM = (3.2, 3.2), (6.4, 2.4)
WALL_OF = {(0, -1): "left", (0, 1): "right", (1, -1): "front", (1, 1): "back", (2, -1): "floor", (2, 1): "lid"}
# The 24 proper rotations of a cube: signed permutation matrices with determinant 1.
ROTATIONS = [
    matrix
    for order in itertools.permutations(range(3))
    for signs in itertools.product((1, -1), repeat=3)
    if round(np.linalg.det(matrix := np.eye(3)[list(order)] * np.array(signs)[:, None])) == 1
]


class Length(NamedTuple):
    """`at + slope x lambda`."""

    at: float
    slope: float = 0.0


class Body(NamedTuple):
    """A part: its size, its air, which way up it may lie, and how high over its underside what shows has its middle."""

    name: str
    mm: tuple
    air: float
    lies: str = "any"
    shows_at: float | None = None
    shows: str = ""
    nose: float = 0.0
    off_hard: float = 0.0


def bodies(build):
    """Everything that goes in, by the names it has there."""
    found = [*_cells(build), *_boards(build), *_small(build)]
    seen = Counter()
    named = []
    for body in found:
        seen[body.name] += 1
        named.append(body if seen[body.name] == 1 else body._replace(name=f"{body.name} #{seen[body.name]}"))
    return [body for body in named if body.name not in build["outside"]]


def _cells(build):
    cell, count = build["cell"], build["cell_count"]
    for number in range(count):
        name = cell["name"] if count == 1 else f"{cell['name']} #{number + 1}"
        if cell["form"] == "round":
            across, tall = cell["size_mm"]
            yield Body(name, (tall, across + 0.4, across + 0.4), 0.0)
        elif cell["form"] == "block":
            thick, width, length = cell["size_mm"]
            yield Body(name, (length, width, thick), 0.0)
        else:
            thick, width, length = cell["size_mm"]
            length += 2 + (1 if cell["own_protection"] is not None else 0)
            lies = "any" if build["cell_any_way"] else "flat"
            yield Body(name, (length, width, thick * 1.1), 0.0, lies, off_hard=0.5)


def _boards(build):
    seen, cradled = Counter(), False
    for board in build["boards"]:
        seen[board["name"]] += 1
        number = seen[board["name"]]
        name = board["name"] if number == 1 else f"{board['name']} #{number}"
        length, width, tall = board["outline_mm"]
        above = board.get("above_mm")
        tall = max(tall, board["pcb_mm"] + (above or 0))
        socket = board["socket"] and board["socket"]["kind"]
        shows_at = None
        if socket and name in build["shell_off"]:
            if above is not None and above < SHELL_MM[socket] - 0.3:
                tall = board["pcb_mm"] + above
            elif tall <= board["pcb_mm"] + SHELL_MM[socket] + 0.3:
                tall = min(tall, board["pcb_mm"] + 1.6)
        elif socket and build["input"]["kind"] == "board_socket":
            shows_at = board["pcb_mm"] + SHELL_MM[socket] / 2
        nose = board["socket"].get("nose_mm", 0.0) if shows_at is not None else 0.0
        behind = build.get("socket_stop_mm", 0.0) if shows_at is not None else 0.0
        body = Body(name, (length + 2 + behind, width, tall), 0.5, shows_at=shows_at, shows=socket or "", nose=nose)
        cradle = build.get("cradle_mm", 0.0) if board["charger"] and not cradled else 0.0
        cradled = cradled or bool(cradle)
        yield _in_cradle(body, cradle) if cradle else body


def _in_cradle(body, wall):
    """Under the board, and beside it with 0.15 mm of slack; parts up, on the floor."""
    length, width, tall = body.mm
    shows_at = body.shows_at and body.shows_at + wall
    return body._replace(mm=(length, width + 2 * wall + 0.3, tall + wall), shows_at=shows_at, lies="on the floor")


def _small(build):
    if build["cell_lead"] in PLUG_MM:
        yield Body("cell plug", PLUG_MM[build["cell_lead"]], 0.2)
    for part in build["small_parts"]:
        deep, width, tall = part.get("size_mm") or USUAL_MM[part["kind"]]
        if part["kind"] == "spacer":
            yield Body(part["name"], (deep, width, tall), 0.0)
        else:
            yield Body(part["name"], (deep + 2, width, tall), 0.2, shows_at=tall / 2, shows=part["kind"])


def question_of(document):
    """The mixed-integer program's question; every length from the bay's lowest corner."""
    bay, build = document["gadget"]["bay"], document["builds"][0]
    rooms = np.array([[room["at_mm"], np.add(room["at_mm"], room["size_mm"])] for room in bay["rooms"]], float)
    origin, top = rooms[:, 0].min(axis=0), rooms[:, 1, 2].max()
    raised = bay.get("lid_raised_mm", 0.0)
    rooms[np.isclose(rooms[:, 1, 2], top), 1, 2] += raised
    rooms -= origin
    named = {room.get("id"): box for room, box in zip(bay["rooms"], rooms, strict=True)}
    size = rooms[:, 1].max(axis=0)
    outside, standing = list(_outside(rooms, size)), list(_obstacles(bay, origin, raised))
    blocks = [*outside, *standing]
    parts = bodies(build)
    pins = {}
    for pin in build.get("pins", []):
        pins.setdefault(pin["part"], pin)
    items = tuple(Plain(poses=_poses(body, size, origin, bay, pins.get(body.name), named)) for body in parts)
    return Plain(
        items=items,
        blocks=tuple(blocks),
        item_gap=tuple(tuple(Length(max(a.air, b.air), 1.0) for b in parts) for a in parts),
        block_gap=tuple(
            tuple(
                Length(max(body.air, body.off_hard) if hard else body.air, 1.0)
                for hard in (*(_is_inner_step(block, rooms) for block in outside), *(True for _ in standing))
            )
            for body in parts
        ),
        least=0.0,
        most=60.0,
    )


def clearance_of(document):
    """The largest clearance beyond every clearance, mm; None where it does not go in."""
    question = question_of(document)
    return best_value(question) if all(item.poses for item in question.items) else None


def _outside(rooms, size):
    """Cells of the grid along all faces that are in no room."""
    cuts = [sorted({0.0, size[axis], *rooms[:, :, axis].ravel()}) for axis in range(3)]
    spans = [[(a, b) for a, b in itertools.pairwise(cut) if b - a > 1e-6] for cut in cuts]
    for corner in itertools.product(*spans):
        low, high = np.array(corner).T
        middle = (low + high) / 2
        if not any(((room[0] < middle) & (middle < room[1])).all() for room in rooms):
            yield _block(low, high)


def _is_inner_step(block, rooms):
    """Seen from above it lies where a room is: it is over or under that, with an edge in the bay."""
    middle = [(low.at + high.at) / 2 for low, high in zip(block.low, block.high, strict=True)]
    return any((room[0, :2] < middle[:2]).all() and (middle[:2] < room[1, :2]).all() for room in rooms)


def _obstacles(bay, origin, raised):
    for obstacle in bay["obstacles"]:
        if obstacle["state"] != "removed":
            low = np.array(obstacle["at_mm"]) - origin + [0, 0, raised if obstacle.get("on_lid") else 0]
            yield _block(low, low + obstacle["size_mm"])


def _block(low, high):
    return Plain(low=tuple(map(Length, low)), high=tuple(map(Length, high)))


def _poses(body, size, origin, bay, pin, named):
    """Every rotation that is allowed, as bounds of its low corner."""
    found = {}
    for rotation in ROTATIONS:
        box = np.abs(rotation @ np.array(body.mm))
        if (body.lies == "flat" and abs(rotation[2, 2]) != 1) or (body.lies == "on the floor" and rotation[2, 2] != 1):
            continue
        side = _face_wall(rotation) if body.shows_at is not None else None
        wall = next((wall for wall in bay["walls"] if wall["side"] == side), None)
        if side and wall is None:
            continue
        low, high = _bounds(body, box, rotation, size, side, wall, bay["wall_mm"])
        if body.lies == "on the floor" and not pin:
            low[2] = [Length(0.0), *(bound for bound in low[2] if bound != Length(body.air, 1.0))]
            high[2].append(Length(0.0))
        if pin and pin.get("side") and pin["side"] != side:
            _against(low, high, pin["side"], body.air, box, size)
        if pin and pin.get("room"):
            for axis, (least, most) in enumerate(zip(*named[pin["room"]], strict=True)):
                low[axis].append(Length(least))
                high[axis].append(Length(most - box[axis]))
        if pin and pin.get("at_mm"):
            for axis in range(3):
                at = Length(pin["at_mm"][axis] - origin[axis])
                low[axis].append(at)
                high[axis].append(at)
        found[str((box.round(6), low, high))] = Plain(
            size=tuple(map(Length, box)), low=tuple(map(tuple, low)), high=tuple(map(tuple, high))
        )
    return tuple(found.values())


def _face_wall(rotation):
    """Which wall the part's end at length 0 looks at."""
    outward = rotation @ np.array([-1.0, 0.0, 0.0])
    axis = int(np.abs(outward).argmax())
    return WALL_OF[(axis, int(np.sign(outward[axis])))]


def _bounds(body, box, rotation, size, side, wall, wall_mm):
    low = [[Length(body.air, 1.0)] for _ in range(3)]
    high = [[Length(size[axis] - box[axis] - body.air, -1.0)] for axis in range(3)]
    if side is None:
        return low, high
    axis, way = next(key for key, name in WALL_OF.items() if name == side)
    cut_away = wall.get("thinned_mm", 0.0)
    into = cut_away + min(body.nose, wall_mm - cut_away)
    # What can have the hole of the bare socket lies near enough for it.
    deep = wall_mm - into
    off = 0.3 if deep > 0.5 else min(0.3, 0.5 - deep)
    if way < 0:
        low[axis] = [Length(-into)]
        high[axis].append(Length(off - into))
    else:
        high[axis] = [Length(size[axis] - box[axis] + into)]
        low[axis].append(Length(size[axis] - box[axis] - off + into))
    # The hole as a box, turned about the middle of the part like everything of it.
    at_end = np.array([0.0, body.mm[1] / 2, body.shows_at]) - np.array(body.mm) / 2
    shown = rotation @ at_end + box / 2
    half = np.abs(rotation @ np.array([0.0, *_hole(body, deep)])) / 2
    margin = min(1.5, wall_mm)
    for other in range(3):
        if other == axis:
            continue
        stated = {2: ("low_mm", "high_mm")}.get(other, ("from_mm", "to_mm")) if axis != 2 else ("", "")
        low[other].append(Length(margin - wall_mm + half[other] - shown[other]))
        high[other].append(Length(size[other] + wall_mm - margin - half[other] - shown[other]))
        if wall.get(stated[0]) is not None:
            low[other].append(Length(wall[stated[0]] + half[other] - shown[other]))
        if wall.get(stated[1]) is not None:
            high[other].append(Length(wall[stated[1]] - half[other] - shown[other]))
    return low, high


def _hole(body, deep):
    """Width and height of what has to be cut for what shows."""
    if body.shows in ("lamp", "switch"):
        return {"lamp": LED_HOLE_MM, "switch": SLOT_MM}[body.shows]
    width, height = (BARE_MM if deep <= 0.5 + 1e-9 else PLUG_BODY_MM)[body.shows]
    return width + 0.4, height + 0.4


def _against(low, high, side, air, box, size):
    """Pinned to a wall: it lies against it with its air, and that wall takes no part in the clearance."""
    axis, way = next(key for key, name in WALL_OF.items() if name == side)
    at = Length(air) if way < 0 else Length(size[axis] - box[axis] - air)
    low[axis] = [bound for bound in low[axis] if way > 0 or bound != Length(air, 1.0)] + [at]
    high[axis] = [bound for bound in high[axis] if way < 0 or bound.slope == 0] + [at]
