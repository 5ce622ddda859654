"""Parts as blocks with their true heights, and every way round that each may lie.

At home a part lies with its length along x, its face (socket, lamp or lever) at the left wall, its components up.
"""

import itertools
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Literal

from pocketspark.core.fit.allowances import (
    BOARD_GAP_MM,
    CELL_GAP_MM,
    CELL_PLUG_MM,
    CRADLE_SLACK_MM,
    FOLDED_PROTECTION_MM,
    HARD_TO_POUCH_MM,
    PAD_MM,
    PLATE_MM,
    ROUND_OVER_MM,
    SMALL_GAP_MM,
    SOCKET_HEIGHT_MM,
    SWELL_SHARE,
    TABS_MM,
    WIRE_ROOM_MM,
    WIRED_SOCKET,
    WIRED_SOCKET_MM,
    board_height_mm,
)
from pocketspark.core.fit.bays import Triple
from pocketspark.core.models import Board, Build, Cell
from pocketspark.core.models.bay import Side
from pocketspark.core.models.board import SOCKETS, SocketKind
from pocketspark.core.models.small_part import SmallPart

Axes = tuple[int, int, int]
_ORDERS: tuple[Axes, ...] = ((0, 1, 2), (0, 2, 1), (1, 0, 2), (1, 2, 0), (2, 0, 1), (2, 1, 0))

_SIDE_OF: dict[tuple[int, int], Side] = {
    (0, -1): "left",
    (0, 1): "right",
    (1, -1): "front",
    (1, 1): "back",
    (2, -1): "floor",
    (2, 1): "lid",
}
_FACING = {"left": "left", "right": "right", "front": "forward", "back": "back", "floor": "down", "lid": "up"}


FaceKind = SocketKind | Literal["lamp", "switch"]


@dataclass(frozen=True)
class FaceAt:
    """What shows in a wall: socket, lamp or lever amid the part's left end, its centre so high over the underside.

    `nose_mm`: so much of the part's length is what shows alone, and may go into the wall.
    """

    kind: FaceKind
    centre_mm: float
    nose_mm: float = 0.0


@dataclass(frozen=True)
class Part:
    """One thing to place. `size` is length, width, height at home; for a round cell length, diameter, diameter."""

    name: str
    kind: str  # cell, board, pad, plug, socket, lamp, switch, spacer
    size: Triple
    gap_mm: float
    form: str = ""  # of a cell: pouch, round, block
    face: FaceAt | None = None
    hot: bool = False  # its upper face gets warm
    any_way: bool = False  # a pouch that may stand on its edge
    stop_mm: float = 0.0  # so much of the length, at the end away from the socket, is what takes the push of the plug
    cradle_mm: float = 0.0  # so much under it is its printed cradle, and so much and its slack on either side

    @property
    def gap_to_hard_mm(self) -> float:
        """The air to what stands in the bay."""
        return max(self.gap_mm, HARD_TO_POUCH_MM) if self.form == "pouch" else self.gap_mm

    @property
    def socket(self) -> SocketKind | None:
        """The kind of its socket, where that is what shows in a wall."""
        return next((kind for kind in SOCKETS if self.face is not None and self.face.kind == kind), None)


@dataclass(frozen=True)
class Turned:
    """One way round: the box it then takes, where its face points and sits, and where its warm side looks."""

    name: str
    size: Triple
    home_axes: Axes  # which home axis lies along x, y, z
    face_side: Side | None = None
    face_centre: Triple | None = None  # from the low corner of the box
    hot_side: Side | None = None
    upside_down: bool = False  # flat with its parts below; of what shows nothing in a wall either way would do


def parts_of(build: Build, flat_floor: bool = True) -> list[Part]:
    """Everything of a build that has to go into the bay. Parts without a size, or kept outside, are left out.

    `flat_floor`: a printed cradle stands on such a one alone.
    """
    cells = [_cell(cell, number, build) for number, cell in enumerate(build.cells, 1) if cell.size_mm]
    boards = [_board(name, board, build) for name, board in boards_by_name(build) if board.outline_mm]
    if build.cradle_mm and flat_floor:
        boards = _with_a_cradle(boards, build.cradle_mm)
    pad = [Part("receiver pad", "pad", PAD_MM, SMALL_GAP_MM)] if build.input.facts.over_a_gap else []
    if build.input.facts.own_socket:
        length, width, height = WIRED_SOCKET_MM
        face = FaceAt("type_c", PLATE_MM + SOCKET_HEIGHT_MM["type_c"] / 2)
        size = (length + WIRE_ROOM_MM + build.socket_stop_mm, width, height)
        pad.append(Part(WIRED_SOCKET, "socket", size, BOARD_GAP_MM, face=face, stop_mm=build.socket_stop_mm))
    plug_mm = CELL_PLUG_MM.get(build.cell_lead)
    plug = [Part("cell plug", "plug", plug_mm, SMALL_GAP_MM)] if cells and plug_mm else []
    small = [_small(part) for part in build.small_parts_in_all]
    named = _named_apart((*cells, *boards, *pad, *plug, *small))
    return [part for part in named if part.name not in build.outside]


def _with_a_cradle(boards: Sequence[Part], mm: float) -> list[Part]:
    """Round the first charger board: under it and on either side; its ends are its wires' and its socket's."""
    charger = next((index for index, part in enumerate(boards) if part.hot), None)
    return [_in_a_cradle(part, mm) if index == charger else part for index, part in enumerate(boards)]


def _in_a_cradle(part: Part, mm: float) -> Part:
    length, width, height = part.size
    size = (length, width + 2 * (mm + CRADLE_SLACK_MM), height + mm)
    face = part.face and replace(part.face, centre_mm=part.face.centre_mm + mm)
    return replace(part, size=size, face=face, cradle_mm=mm)


def _named_apart(parts: Sequence[Part]) -> list[Part]:
    names = _apart(part.name for part in parts)
    return [part if part.name == name else replace(part, name=name) for part, name in zip(parts, names, strict=True)]


def _apart(names: Iterable[str]) -> list[str]:
    """Names by which parts are told apart: the second of a name is "name #2", as the second of two cells is."""
    apart: dict[str, None] = {}
    for name in names:
        numbered = (name if number == 1 else f"{name} #{number}" for number in itertools.count(1))
        apart[next(one for one in numbered if one not in apart)] = None
    return list(apart)


def unsized(build: Build) -> list[str]:
    """Names of parts that cannot be placed because nobody has given their size."""
    cells = [cell.name for cell in dict.fromkeys(build.cells) if cell.size_mm is None]
    return cells + [board.name for board in build.boards if board.outline_mm is None]


def _cell(cell: Cell, number: int, build: Build) -> Part:
    assert cell.size_mm is not None
    name = _cell_name(cell, number, build)
    if cell.form == "round":
        diameter, length = cell.size_mm
        size = (length, diameter + ROUND_OVER_MM, diameter + ROUND_OVER_MM)
    else:
        thickness, width, length = cell.size_mm
        pouch = cell.form == "pouch"
        folded = FOLDED_PROTECTION_MM if pouch and cell.own_protection else 0.0
        length_mm = length + (TABS_MM + folded if pouch else 0.0)
        size = (length_mm, width, round(thickness * (1 + SWELL_SHARE), 3) if pouch else thickness)
    return Part(name, "cell", size, CELL_GAP_MM, form=cell.form, any_way=build.cell_any_way)


def _cell_name(cell: Cell, number: int, build: Build) -> str:
    return cell.name if len(build.cells) == 1 else f"{cell.name} #{number}"


def boards_by_name(build: Build) -> list[tuple[str, Board]]:
    """Boards under the names that tell them apart from one another, and from the cells."""
    cells = [_cell_name(cell, number, build) for number, cell in enumerate(build.cells, 1)]
    names = _apart((*cells, *(board.name for board in build.boards)))
    return list(zip(names[len(cells) :], build.boards, strict=True))


def _board(name: str, board: Board, build: Build) -> Part:
    assert board.outline_mm is not None
    length, width, _ = board.outline_mm
    bare = name in build.shell_off
    height = board_height_mm(board, socket_off=bare)
    face = None
    if board.socket and not bare and build.input.facts.on_board:  # else no wall has to open for it
        centre = board.pcb_mm + SOCKET_HEIGHT_MM[board.socket.kind] / 2
        face = FaceAt(board.socket.kind, centre, board.socket.nose_mm)
    stop_mm = build.socket_stop_mm if face else 0.0
    size = (length + WIRE_ROOM_MM + stop_mm, width, height)
    return Part(name, "board", size, BOARD_GAP_MM, face=face, hot=bool(board.charger), stop_mm=stop_mm)


def _small(part: SmallPart) -> Part:
    """A lamp and a switch have their wires behind them; a spacer touches what it holds."""
    depth, width, height = part.mm
    if part.kind == "spacer":
        return Part(part.name, part.kind, (depth, width, height), 0.0)
    size = (depth + WIRE_ROOM_MM, width, height)
    return Part(part.name, part.kind, size, SMALL_GAP_MM, face=FaceAt(part.kind, height / 2))


@lru_cache(maxsize=4096)
def ways_round(part: Part, grows: bool = False) -> tuple[Turned, ...]:
    """Every way round that differs in what matters: its box, its face, and for a board with one its warm side.

    `grows`: of a part that is to be larger in one measure, those as well that are alike only while it is as large as
    it is, such as both of a square one.
    """
    seen: dict[tuple[object, ...], Turned] = {}
    for turned in _rotations(part):
        key = (turned.size, turned.face_side, turned.face_centre, turned.home_axes if grows else None)
        seen.setdefault(key, turned)
    return tuple(seen.values())


def _rotations(part: Part) -> Iterator[Turned]:
    for axes in _ORDERS:
        if not _may_lie(part, axes):
            continue
        size = (part.size[axes[0]], part.size[axes[1]], part.size[axes[2]])
        if part.face is None:
            yield Turned(_name(part, axes, None), size, axes)
            continue
        for signs in itertools.product((1, -1), repeat=3):
            if _handed(axes, signs) and not (part.cradle_mm and signs[2] < 0):
                yield _with_face(part, part.face, axes, signs, size)


def _may_lie(part: Part, axes: Axes) -> bool:
    """A pouch lies on its broad face, and so does what has a cradle; a round cell looks the same about its own axis."""
    if part.cradle_mm or (part.form == "pouch" and not part.any_way):
        return axes[2] == 2
    return part.form != "round" or axes in ((0, 1, 2), (1, 0, 2), (1, 2, 0))


def _handed(axes: Axes, signs: tuple[int, ...]) -> bool:
    """Rotations only, no mirror images."""
    swaps = sum(axes[i] > axes[j] for i in range(3) for j in range(i + 1, 3))
    return (1 if swaps % 2 == 0 else -1) * signs[0] * signs[1] * signs[2] == 1


def _with_face(part: Part, face: FaceAt, axes: Axes, signs: tuple[int, ...], size: Triple) -> Turned:
    """`signs[i]` is -1 where the home axis that lies along bay axis i runs backwards."""
    at_home = (0.0, part.size[1] / 2, face.centre_mm)
    centre = tuple(
        at_home[home] if sign > 0 else part.size[home] - at_home[home] for home, sign in zip(axes, signs, strict=True)
    )
    along = axes.index(0)
    side = _SIDE_OF[(along, -signs[along])]
    up = axes.index(2)
    looks = _SIDE_OF[(up, signs[up])]
    # Which way its parts look is said where it makes a difference.
    named = looks if part.hot or abs(face.centre_mm * 2 - part.size[2]) > 1e-6 else None
    hot = looks if part.hot else None
    face_centre = (centre[0], centre[1], centre[2])
    return Turned(_name(part, axes, side, named), size, axes, side, face_centre, hot, looks == "floor")


def _name(part: Part, axes: Axes, side: Side | None, looks: Side | None = None) -> str:
    """How a maker would say it: "flat, along the bay", "on edge, socket left"."""
    if part.form == "round":
        return ("along the bay", "across the bay", "upright")[axes.index(0)]
    lies = "flat" if axes[2] == 2 else "on edge" if axes[2] == 1 else "on end"
    if side is None:
        return f"{lies}, {'along' if axes.index(0) == 0 else 'across'}"
    turned = f", parts {_FACING[looks]}" if looks else ""
    shown = "socket" if part.kind == "board" else part.kind
    return f"{lies}, {shown} {_FACING[side]}{turned}"
