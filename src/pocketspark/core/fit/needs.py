"""What each part of a build needs of a bay by the trade: its box with its allowances, its air, and what must show.

Written for the second look alone, from the document: the search has its own parts.
"""

import itertools
from collections.abc import Iterator
from dataclasses import dataclass, replace

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
from pocketspark.core.models import Build

Point = tuple[float, float, float]


@dataclass(frozen=True)
class Need:
    """One part. `mm`: length, width, height; `shows`: what of it must be seen in a wall, amid its length's end.

    `centre_mm`: how high over its underside the middle of that is; `nose_mm`: what may go into the wall.
    `lies`: "any", "flat" (height upright), "round" (its length an axis).
    """

    name: str
    mm: Point
    gap_mm: float
    lies: str = "any"
    shows: str = ""
    centre_mm: float = 0.0
    nose_mm: float = 0.0
    gap_to_hard_mm: float = 0.0  # to what stands in the bay, where it is more
    in_cradle: bool = False  # with its printed cradle, that stands on the floor

    @property
    def hole(self) -> str:
        """What the hole for it is called."""
        return self.shows

    def ways(self) -> list[Point]:
        """Every box that it may take."""
        length, width, height = self.mm
        if self.lies == "flat":
            return [(length, width, height), (width, length, height)]
        return sorted({(x, y, z) for x, y, z in itertools.permutations(self.mm)})

    def face_centres(self, size: Point, axis: int, low: Point) -> Iterator[Point]:
        """Where the middle of what shows may be, the part being this large and showing along this axis.

        Either of its flat sides may be its underside; along its width it is in the middle.
        """
        length, width, height = self.mm
        for along_width, along_height in itertools.permutations([a for a in range(3) if a != axis]):
            fits = (axis, length), (along_width, width), (along_height, height)
            if any(abs(size[a] - mm) > 1e-6 for a, mm in fits):
                continue
            for up in (self.centre_mm, height - self.centre_mm):
                centre = list(low)
                centre[along_width] += width / 2
                centre[along_height] += up
                yield centre[0], centre[1], centre[2]


def needs_of(build: Build, *, cells_alone: bool = False, flat_floor: bool = True) -> list[Need]:
    """Every part with a size that is to go in, by the names that the answer uses."""
    cradle_mm = build.cradle_mm if flat_floor else 0.0
    needs = [*_cells(build), *(() if cells_alone else (*_boards(build, cradle_mm), *_rest(build)))]
    return [need for need in _named_apart(needs) if need.name not in build.outside]


def _named_apart(needs: list[Need]) -> list[Need]:
    """The second of a name is called "#2", and so on."""
    count: dict[str, int] = {}
    named = []
    for need in needs:
        count[need.name] = number = count.get(need.name, 0) + 1
        name = need.name if number == 1 else f"{need.name} #{number}"
        named.append(replace(need, name=name))
    return named


def _cells(build: Build) -> Iterator[Need]:
    for number, cell in enumerate(build.cells):
        if cell.size_mm is None:
            continue
        name = cell.name if len(build.cells) == 1 else f"{cell.name} #{number + 1}"
        if cell.form == "round":
            across = cell.size_mm[0] + ROUND_OVER_MM
            yield Need(name, (cell.size_mm[1], across, across), CELL_GAP_MM, "round")
            continue
        thick, width, length = cell.size_mm
        if cell.form == "pouch":
            length += TABS_MM + (FOLDED_PROTECTION_MM if cell.own_protection else 0.0)
            thick = round(thick * (1 + SWELL_SHARE), 3)
        flat = cell.form == "pouch" and not build.cell_any_way
        hard = HARD_TO_POUCH_MM if cell.form == "pouch" else 0.0
        yield Need(name, (length, width, thick), CELL_GAP_MM, "flat" if flat else "any", gap_to_hard_mm=hard)


def _boards(build: Build, cradle_mm: float) -> Iterator[Need]:
    """Of the first charger board its printed cradle as well: under it, and with its slack on either side."""
    names: list[str] = []
    cradled = next((n for n, one in enumerate(build.boards) if one.charger and one.outline_mm), None)
    for number, board in enumerate(build.boards):
        names.append(board.name)
        again = names.count(board.name)
        name = board.name if again == 1 else f"{board.name} #{again}"
        if board.outline_mm is None:
            continue
        length, width, _ = board.outline_mm
        wall = cradle_mm if number == cradled else 0.0
        beside = 2 * (wall + CRADLE_SLACK_MM) if wall else 0.0
        tall = board_height_mm(board, socket_off=name in build.shell_off)
        mm = (length + WIRE_ROOM_MM, width + beside, tall + wall)
        lies = "flat" if wall else "any"
        if board.socket and name not in build.shell_off and build.input.facts.on_board:
            centre = wall + board.pcb_mm + SOCKET_HEIGHT_MM[board.socket.kind] / 2
            nose = board.socket.nose_mm
            mm = (mm[0] + build.socket_stop_mm, mm[1], mm[2])
            yield Need(name, mm, BOARD_GAP_MM, lies, "socket", centre, nose, in_cradle=wall > 0)
        else:
            yield Need(name, mm, BOARD_GAP_MM, lies, in_cradle=wall > 0)


def _rest(build: Build) -> Iterator[Need]:
    if build.input.facts.over_a_gap:
        yield Need("receiver pad", PAD_MM, SMALL_GAP_MM)
    if build.input.facts.own_socket:
        length, width, height = WIRED_SOCKET_MM
        centre = PLATE_MM + SOCKET_HEIGHT_MM["type_c"] / 2
        mm = (length + WIRE_ROOM_MM + build.socket_stop_mm, width, height)
        yield Need(WIRED_SOCKET, mm, BOARD_GAP_MM, shows="socket", centre_mm=centre)
    plug = CELL_PLUG_MM.get(build.cell_lead)
    if plug and build.cell and build.cell.size_mm:
        yield Need("cell plug", plug, SMALL_GAP_MM)
    for part in build.small_parts_in_all:
        depth, width, height = part.mm
        if part.kind == "spacer":
            yield Need(part.name, (depth, width, height), 0.0)
        else:
            mm = (depth + WIRE_ROOM_MM, width, height)
            yield Need(part.name, mm, SMALL_GAP_MM, shows=part.kind, centre_mm=height / 2)
