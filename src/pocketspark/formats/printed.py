"""Parts for the printer, as watertight solids: lid blank, sleeve, spacers, cradle, dummy cell, outside box with lid."""

from collections.abc import Mapping
from typing import TYPE_CHECKING, Annotated, Any

from pydantic import Field

from pocketspark.core.error import PocketSparkError
from pocketspark.core.fit.allowances import SOCKET_HEIGHT_MM
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.openings import Opening
from pocketspark.core.fit.tubes import Filling
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.model import Model

if TYPE_CHECKING:
    from manifold3d import Manifold

_ROUND = 128
# Cuts go a little past the face they cut, so that no skin is left.
_PAST = 1.0


class NoSuchPrint(PocketSparkError, LookupError):
    """This build has no use for the part that was asked for; the message says why."""

    status = 409


class PrintSettings(Model):
    """Wall and clearance of printed parts, mm."""

    wall_mm: Annotated[float, Field(ge=0.8, le=6)] = 1.6
    clearance_mm: Annotated[float, Field(ge=0.0, le=1.5)] = 0.3


def lid_blank(answer: FitAnswer, settings: PrintSettings) -> "Manifold":
    """A flat lid over the bay with its openings, and a rim that keeps it in place."""
    length, width = (mm + 2 * answer.wall_mm for mm in answer.size_mm[:2])
    plate = _box(length, width, settings.wall_mm)
    clearance = answer.wall_mm + settings.clearance_mm
    rim = _box(length - 2 * clearance, width - 2 * clearance, 2.0, (clearance, clearance, settings.wall_mm))
    inner = clearance + settings.wall_mm
    hollow = _box(
        max(length - 2 * inner, 0.1), max(width - 2 * inner, 0.1), 2.0 + _PAST, (inner, inner, settings.wall_mm)
    )
    solid = plate + (rim - hollow)
    for hole in (opening for opening in answer.openings if opening.side == "lid"):
        solid -= _hole(hole, settings.wall_mm)
    return solid


def sleeve(filling: Filling) -> "Manifold":
    """A tube that carries a thin cell in a thick tube."""
    outer = _cylinder(filling.sleeve_outer_mm, filling.sleeve_length_mm)
    inner = _cylinder(filling.sleeve_inner_mm, filling.sleeve_length_mm + 2 * _PAST, -_PAST)
    return outer - inner


def spacer(filling: Filling, which: str) -> "Manifold":
    """A disc with a hole for the contact: `front` reaches the button, `rear` the spring."""
    length = filling.front_spacer_mm if which == "front" else filling.rear_spacer_mm
    if length < 0.4:
        raise NoSuchPrint(f"{length:.1f} mm is missing there: too little for a printed spacer, use a washer")
    hole = _cylinder(min(6.0, filling.sleeve_inner_mm / 2), length + 2 * _PAST, -_PAST)
    return _cylinder(filling.sleeve_inner_mm - 0.4, length) - hole


def cradle(board: Board, settings: PrintSettings) -> "Manifold":
    """A tray for a board, open towards its socket, with a stop behind it that takes the push of the plug."""
    if board.outline_mm is None:
        raise NoSuchPrint(f"nobody has given the size of {board.name}")
    length, width, _ = board.outline_mm
    gap, wall = settings.clearance_mm, settings.wall_mm
    inner_length, inner_width = length + gap, width + 2 * gap
    rise = wall + board.pcb_mm + 1.5
    tray = _box(inner_length + wall, inner_width + 2 * wall, rise)
    room = _box(inner_length + _PAST, inner_width, rise, (-_PAST, wall, wall))
    # Wires leave through a slot in the stop.
    slot = _box(
        wall + 2 * _PAST, inner_width / 2, rise, (inner_length - _PAST, wall + inner_width / 4, wall + board.pcb_mm)
    )
    return tray - room - slot


def dummy_cell(diameter_mm: float, length_mm: float, cell: Cell, settings: PrintSettings) -> "Manifold":
    """The outline of an old battery with room for a round cell inside, open at the rear."""
    if cell.form != "round" or cell.size_mm is None:
        raise NoSuchPrint("a dummy cell is made round a round cell")
    bore = cell.size_mm[0] + 2 * settings.clearance_mm
    if bore + 2 * 0.8 > diameter_mm:
        raise NoSuchPrint(f"a cell of {cell.size_mm[0]:.1f} mm leaves no wall in an outline of {diameter_mm:.1f} mm")
    depth = min(cell.size_mm[1] + settings.clearance_mm, length_mm - 1.0)
    body = _cylinder(diameter_mm - 0.2, length_mm)
    contact = _cylinder(min(4.0, bore / 2), length_mm + 2 * _PAST, -_PAST)
    return body - _cylinder(bore, depth + _PAST, -_PAST) - contact


def outside_box(inner_mm: tuple[float, float, float], settings: PrintSettings, board: Board | None) -> "Manifold":
    """A box for an outside pack, open on top, with a hole for the socket and one for the lead."""
    wall = settings.wall_mm
    length, width, height = (mm + 2 * settings.clearance_mm for mm in inner_mm)
    solid = _box(length + 2 * wall, width + 2 * wall, height + wall) - _box(
        length, width, height + _PAST, (wall, wall, wall)
    )
    if board and board.socket:
        tall = SOCKET_HEIGHT_MM[board.socket.kind]
        solid -= _box(wall + 2 * _PAST, 13.0, tall + 4.0, (-_PAST, wall + width / 2 - 6.5, wall + 0.5))
    lead = (
        _cylinder(4.0, wall + 2 * _PAST)
        .rotate((0, 90, 0))
        .translate((length + wall - _PAST, wall + width / 2, wall + height / 2))
    )
    return solid - lead


def outside_lid(inner_mm: tuple[float, float, float], settings: PrintSettings) -> "Manifold":
    """The lid of the outside box, with a rim that goes inside."""
    wall, gap = settings.wall_mm, settings.clearance_mm
    length, width = (mm + 2 * gap for mm in inner_mm[:2])
    plate = _box(length + 2 * wall, width + 2 * wall, wall)
    rim = _box(length - 2 * gap, width - 2 * gap, 2.5, (wall + gap, wall + gap, wall))
    inside = gap + wall
    hollow = _box(length - 2 * inside, width - 2 * inside, 2.5 + _PAST, (wall + inside, wall + inside, wall))
    return plate + (rim - hollow)


# Solids --------------------------------------------------------------------------------------------------------


def _box(x: float, y: float, z: float, at: tuple[float, float, float] = (0, 0, 0)) -> "Manifold":
    from manifold3d import Manifold

    return Manifold.cube((x, y, z)).translate(at)


def _cylinder(diameter: float, height: float, at: float = 0.0) -> "Manifold":
    from manifold3d import Manifold

    return Manifold.cylinder(height, diameter / 2, diameter / 2, _ROUND).translate((0, 0, at))


def _hole(opening: Opening, thick: float) -> "Manifold":
    x, y = opening.across_mm, opening.up_mm
    if opening.round:
        return _cylinder(opening.width_mm, thick + 2 * _PAST, -_PAST).translate((x, y, 0))
    low = (x - opening.width_mm / 2, y - opening.height_mm / 2, -_PAST)
    return _box(opening.width_mm, opening.height_mm, thick + 2 * _PAST, low)


# Files ---------------------------------------------------------------------------------------------------------

FILE_TYPES: Mapping[str, str] = {"stl": "model/stl", "3mf": "model/3mf"}


def to_file(solid: "Manifold", kind: str) -> bytes:
    """STL (binary) or 3MF, in mm."""
    import numpy as np
    import trimesh

    mesh = solid.to_mesh()
    made = trimesh.Trimesh(np.asarray(mesh.vert_properties)[:, :3], np.asarray(mesh.tri_verts), process=True)
    exported: Any = made.export(file_type=kind)
    return bytes(exported)


def to_svg(solid: "Manifold") -> str:
    """A preview: outline from above and from the front, in mm."""
    views = [("from above", solid), ("from the front", solid.rotate((90, 0, 0)))]
    parts, x = [], 2.0
    height = 0.0
    for _, turned in views:
        x0, y0, _z0, x1, y1, _z1 = turned.bounding_box()
        outline = turned.project().simplify(0.01).to_polygons()
        path = "".join(
            "M" + "L".join(f"{px - x0 + x:.2f} {y1 - py + 2:.2f}" for px, py in loop) + "Z" for loop in outline
        )
        parts.append(f'<path d="{path}"/>')
        x += x1 - x0 + 6
        height = max(height, y1 - y0)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {x:.1f} {height + 4:.1f}" fill="#f3e0d0" '
        f'fill-rule="evenodd" stroke="#9c4a1a" stroke-width="0.4">{"".join(parts)}</svg>'
    )
