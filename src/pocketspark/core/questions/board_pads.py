"""Where the pads of a board are, clicked on its photograph: its four corners and its measures give the scale."""

from collections.abc import Sequence
from itertools import combinations
from math import dist

from pocketspark.core.kinds.board_features import circuit_of
from pocketspark.core.message import say
from pocketspark.core.models.model import Model, Title
from pocketspark.core.models.project import Edit, Project
from pocketspark.core.photographs.marks import BayCorners, PicturePoint
from pocketspark.core.photographs.plane import BayPlane, NoPlane

# So far over the edge a click may land (our judgement, no source).
_BESIDE_MM = 1.0
# Pads nearer than this are one and the same: half the finest pitch of pads that wires are soldered to, 1.27 mm.
_APART_MM = 0.6


class PadInPhoto(Model):
    """A pad by the name that is printed beside it, where it is seen."""

    name: Title
    at: PicturePoint


class BoardInBuild(Model):
    """A board of a build that has a size, with the pads that it is wired by, and which of them are known."""

    id: str
    name: str
    pads: tuple[str, ...]
    known: tuple[str, ...]


def boards_with_pads(project: Project, build: int) -> list[BoardInBuild]:
    return [
        BoardInBuild(
            id=board.id,
            name=board.name,
            pads=tuple(circuit_of(board).pads),
            known=tuple(pad.name for pad in board.pads),
        )
        for board in project.builds[build].boards
        if board.outline_mm
    ]


def pads_in_photo(
    project: Project, build: int, board_id: str, corners: Sequence[PicturePoint], pads: Sequence[PadInPhoto]
) -> list[Edit]:
    """Edits that put these pads of a board where they were clicked; others that it has stay as they are.

    `corners`: of the bare board, its socket, or its input, to the left: front left, front right, back right, back
    left. Raises NoPlane.
    """
    plan = project.builds[build]
    board = next((one for one in plan.boards if one.id == board_id), None)
    if board is None or board.outline_mm is None:
        raise NoPlane(say("measure that board first: its length and width give the picture its scale"))
    nose = board.socket.nose_mm if board.socket else 0.0
    length, width = board.outline_mm[0] - nose, board.outline_mm[1]
    plane = BayPlane(BayCorners(corners=tuple(corners), length_mm=length, width_mm=width))
    found = {}
    for pad, (x, y) in zip(pads, plane.in_plane([(pad.at.x, pad.at.y) for pad in pads]), strict=True):
        if not (-_BESIDE_MM <= x <= length + _BESIDE_MM and -_BESIDE_MM <= y <= width + _BESIDE_MM):
            raise NoPlane(
                say("{name} was clicked beside the board: click on the pad itself, inside its corners", name=pad.name)
            )
        found[pad.name] = [round(nose + min(max(x, 0.0), length), 1), round(min(max(y, 0.0), width), 1)]
    for first, second in combinations(found, 2):
        if dist(found[first], found[second]) < _APART_MM:
            raise NoPlane(
                say(
                    "{second} was clicked where {first} is: begin anew, and click each pad in its turn",
                    second=second,
                    first=first,
                )
            )
    kept = [pad.model_dump(mode="json") for pad in board.pads if pad.name not in found]
    value = [*kept, *({"name": name, "at_mm": at} for name, at in found.items())]
    return [Edit(path=f"builds.{plan.id}.boards.{board.id}.pads", value=value)]
