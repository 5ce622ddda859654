"""Random documents over the whole format of a bay and what goes into it: nothing here knows how the fit is found."""

from builders import CELL, CHARGER, plan
from chances import same_dice

SIDES = ["left", "right", "front", "back", "floor", "lid"]
SOCKETS = {"type_c": 3.2, "micro_b": 2.8, "mini_b": 3.9}


def _round(value):
    return round(value, 1)


def document(seed, tube=False, furnished=False):
    """A project whose bay is about as large as what goes into it, so that about half of them go in.

    `furnished`: a tube in which things stand, that may be opened in its side, and where parts are pinned.
    """
    chance = same_dice(seed)
    build = _build(chance)
    gadget = {"name": "any", "bay": _tube(chance, build) if tube else _boxes(chance, build)}
    if chance.random() < 0.25 and not tube:
        build["pins"] = [_pin(chance, build, gadget["bay"])]
    document = plan().model_dump(mode="json")
    document["gadget"] |= gadget
    document["builds"] = [document["builds"][0] | build]
    if seed % 5 == 0:
        document["builds"][0]["socket_stop_mm"] = 2.5
    if seed % 6 == 1 and build["boards"]:
        document["builds"][0]["boards"][0]["charger"] = CHARGER
        document["builds"][0]["cradle_mm"] = 1.2
    if not tube:
        _into_the_walls(same_dice(f"noses {seed}"), document)
    if furnished:
        _into_the_tube(same_dice(f"tube {seed}"), document)
    return document


def _into_the_tube(chance, document):
    build, bay = document["builds"][0], document["gadget"]["bay"]
    across, length = bay["tube"]["diameter_mm"], bay["tube"]["length_mm"]
    for board in build["boards"]:
        if board["socket"] and chance.random() < 0.3:
            board["socket"]["nose_mm"] = _round(chance.uniform(0.2, 2.5))
    if chance.random() < 0.6:
        bay["walls"] = [{"side": side} for side in chance.sample(SIDES, chance.choice([1, 2]))]
    for wall in bay["walls"]:
        if chance.random() < 0.2:
            wall["from_mm"] = _round(chance.uniform(0, across / 2))
            wall["to_mm"] = round(wall["from_mm"] + chance.uniform(4, across), 1)
    if chance.random() < 0.5:
        size = [
            _round(chance.uniform(1, length)),
            _round(chance.uniform(0.5, 3)),
            _round(chance.uniform(0.5, across / 3)),
        ]
        at = [_round(chance.uniform(0, length - size[0])), _round(chance.uniform(0, across - size[1])), 0.0]
        state = chance.choice(["keep", "trim", "removed"])
        bay["obstacles"] = [{"name": "rib", "at_mm": at, "size_mm": size, "state": state}]
    if chance.random() < 0.25:
        names = [build["cell"]["name"], *(board["name"] for board in build["boards"])]
        pin = {"part": chance.choice(names)}
        pin |= {"side": chance.choice(SIDES)} if chance.random() < 0.6 else {"at_mm": [1.0, across / 4, across / 4]}
        build["pins"] = [pin]


def _into_the_walls(chance, document):
    """Noses of sockets, walls that are cut away from inside or opened on part of their length, and ribs on the lid."""
    for board in document["builds"][0]["boards"]:
        if board["socket"] and chance.random() < 0.4:
            board["socket"]["nose_mm"] = _round(chance.uniform(0.2, 2.5))
    bay = document["gadget"]["bay"]
    for wall in bay["walls"]:
        if chance.random() < 0.25:
            wall["thinned_mm"] = _round(chance.uniform(0, bay["wall_mm"] - 0.8))
        if chance.random() < 0.15:
            wall["from_mm"] = _round(chance.uniform(0, 15))
            wall["to_mm"] = round(wall["from_mm"] + chance.uniform(4, 25), 1)
    for obstacle in bay["obstacles"]:
        obstacle["on_lid"] = chance.random() < 0.4


def _build(chance):
    cell = CELL | _cell(chance)
    boards = [_board(chance, number) for number in range(chance.choice([0, 1, 1, 1, 2]))]
    names = [board["name"] for board in boards]
    build = {
        "cell": cell,
        "cell_count": chance.choice([1, 1, 1, 1, 2]),
        "boards": boards,
        "cell_any_way": chance.random() < 0.3,
        "input": {"kind": chance.choice(["board_socket"] * 5 + ["old_jack", "dock"])},
        "cell_lead": chance.choice(["soldered"] * 6 + ["small_plug"]),
        "shell_off": [name for name in names if chance.random() < 0.1],
        "outside": [name for name in names if chance.random() < 0.07],
        "small_parts": [],
    }
    if chance.random() < 0.2:
        build["small_parts"] = [{"kind": chance.choice(["lamp", "switch", "spacer"]), "name": "small thing"}]
    return build


def _cell(chance):
    form = chance.choice(["pouch", "pouch", "round", "block"])
    if form == "round":
        size = [_round(chance.uniform(8, 18)), _round(chance.uniform(15, 50))]
    else:
        size = [_round(chance.uniform(2, 9)), _round(chance.uniform(10, 30)), _round(chance.uniform(15, 45))]
    return {"form": form, "size_mm": size, "own_protection": {} if chance.random() < 0.3 else None}


def _board(chance, number):
    board = {"name": "board" if chance.random() < 0.2 else f"board {number}"}
    board["outline_mm"] = [
        _round(chance.uniform(10, 30)),
        _round(chance.uniform(6, 18)),
        _round(chance.uniform(2, 5.5)),
    ]
    board["pcb_mm"] = chance.choice([0.8, 1.0, 1.6])
    if chance.random() < 0.7:
        kind = chance.choice(list(SOCKETS))
        board["socket"] = {"kind": kind}
        board["outline_mm"][2] = max(board["outline_mm"][2], round(board["pcb_mm"] + SOCKETS[kind], 1))
    if chance.random() < 0.2:
        board["above_mm"] = _round(chance.uniform(0.8, 4))
    return {"charger": None, "protection": None, "socket": None, "id": f"board{number + 1}"} | board


def _volume(build):
    cell = build["cell"]
    size = cell["size_mm"]
    volume = build["cell_count"] * (size[0] ** 2 * size[1] if cell["form"] == "round" else size[0] * size[1] * size[2])
    for board in build["boards"]:
        x, y, z = board["outline_mm"]
        volume += (x + 2.5) * (y + 1) * (z + 1)
    return volume


def _boxes(chance, build):
    volume = _volume(build) * chance.uniform(1.3, 7)
    long = max(*build["cell"]["size_mm"], *(board["outline_mm"][0] + 2 for board in build["boards"]), 10)
    length = _round(long * chance.uniform(0.95, 1.5))
    height = _round(max(4.0, min(chance.uniform(6, 22), (volume / length) ** 0.5)))
    width = _round(max(5.0, volume / length / height))
    corner = [0.0, 0.0, 0.0] if chance.random() < 0.6 else [_round(chance.uniform(-20, 40)) for _ in range(3)]
    rooms = [{"at_mm": corner, "size_mm": [length, width, height]}]
    if chance.random() < 0.4:
        rooms.append(_neighbour(chance, rooms[0]))
    gaps = []
    if len(rooms) == 1 and chance.random() < 0.35:
        room, gap = _elsewhere(chance, rooms[0])
        rooms, gaps = [*rooms, room], [gap]
    wall = chance.choice([1.0, 2.0])
    bay = {"rooms": rooms, "wall_mm": wall, "tolerance_mm": 0.0, "walls": _walls(chance, height), "obstacles": []}
    bay["passages"] = gaps
    if chance.random() < 0.3:
        bay["obstacles"] = [_obstacle(chance, rooms[0])]
    if chance.random() < 0.15:
        bay["lid_raised_mm"] = _round(chance.uniform(0.2, 2))
    return bay


def _neighbour(chance, room):
    """Another room that touches the first along part of a face."""
    (x, y, z), (length, width, height) = room["at_mm"], room["size_mm"]
    side = chance.choice(["end", "side", "below"])
    if side == "end":
        size = [_round(chance.uniform(4, 25)), _round(chance.uniform(4, width)), _round(chance.uniform(3, height))]
        return {"at_mm": [round(x + length, 1), y, z], "size_mm": size}
    if side == "side":
        size = [_round(chance.uniform(5, length)), _round(chance.uniform(4, 15)), _round(chance.uniform(3, height))]
        return {"at_mm": [x, round(y - size[1], 1), z], "size_mm": size}
    size = [_round(chance.uniform(5, length)), _round(chance.uniform(4, width)), _round(chance.uniform(3, 8))]
    return {"at_mm": [x, y, round(z - size[2], 1)], "size_mm": size}


def _elsewhere(chance, room):
    """A room of its own some way beyond the first one's end, and the gap that joins the two for wires."""
    (x, y, z), (length, width, height) = room["at_mm"], room["size_mm"]
    away = _round(chance.uniform(2, 12))
    size = [_round(chance.uniform(8, 45)), _round(chance.uniform(6, 30)), _round(chance.uniform(4, 16))]
    other = {"id": "other", "at_mm": [round(x + length + away, 1), y, z], "size_mm": size}
    gap = {"name": "gap", "at_mm": [round(x + length, 1), y, z], "size_mm": [away, min(3.0, width), min(3.0, height)]}
    return other, gap


def _walls(chance, height):
    walls = []
    for side in chance.sample(SIDES, chance.choice([1, 2, 2, 3])):
        wall = {"side": side}
        if chance.random() < 0.3:
            low = _round(chance.uniform(0, height * 0.6))
            wall |= {"low_mm": low, "high_mm": round(low + chance.uniform(1, 6), 1)}
        walls.append(wall)
    return walls


def _obstacle(chance, room):
    (x, y, z), (length, width, height) = room["at_mm"], room["size_mm"]
    size = [_round(chance.uniform(1, length / 2)), _round(chance.uniform(1, 3)), _round(chance.uniform(1, height))]
    at = [_round(x + chance.uniform(0, length - size[0])), _round(y + chance.uniform(0, max(width - size[1], 0))), z]
    return {"name": "rib", "at_mm": at, "size_mm": size, "state": chance.choice(["keep", "trim", "trim", "removed"])}


def _pin(chance, build, bay):
    names = [board["name"] for board in build["boards"]] or [build["cell"]["name"]]
    pin = {"part": chance.choice([*names, build["cell"]["name"]])}
    if chance.random() < 0.5:
        return pin | {"side": chance.choice(SIDES)}
    if bay["passages"] and chance.random() < 0.5:
        return pin | {"room": "other"}
    room = bay["rooms"][0]
    return pin | {"at_mm": [_round(at + chance.uniform(0, 4)) for at in room["at_mm"]]}


def _tube(chance, build):
    across = max(build["cell"]["size_mm"][0] if build["cell"]["form"] == "round" else build["cell"]["size_mm"][1], 8)
    length = sum(
        [max(build["cell"]["size_mm"][1:]) * build["cell_count"], *(b["outline_mm"][0] for b in build["boards"])]
    )
    ends = [{"side": side} for side in chance.choice([["left"], ["right"], ["left", "right"]])]
    size = {
        "diameter_mm": _round(across * chance.uniform(1.0, 2.2)),
        "length_mm": _round(length * chance.uniform(0.6, 1.3)),
    }
    return {"tube": size, "rooms": [], "walls": ends, "tolerance_mm": 0.0, "wall_mm": 1.5}
