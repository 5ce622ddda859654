"""Drill templates 1:1: outer faces with their holes, and a ruler to check the print; as SVG and DXF.

The pages to print are made in drill_pages.py.
"""

import io
import math
from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

from pocketspark.core.error import PocketSparkError
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.openings import Opening, outer_mm
from pocketspark.core.message import say
from pocketspark.core.models.bay import Side
from pocketspark.core.units.figures import bare_length, millimetres, sizes

RULER_MM = 50.0
_MARGIN = 12.0
_BETWEEN = 22.0
_LINE_MM = 4.0


class NothingToDrill(PocketSparkError, ValueError):
    """There is no hole to make, so there is no template."""

    status = 409


@dataclass(frozen=True)
class Face:
    """The outer face of one wall over the bay, its holes, and where it stands on the sheet (from the lower left)."""

    side: Side
    width_mm: float
    height_mm: float
    openings: tuple[Opening, ...]
    captions: tuple[str, ...]  # one for each opening
    x_mm: float
    y_mm: float
    round: bool = False  # the end of a tube
    rolled: bool = False  # the side of a tube: half of it, as the paper is laid round it

    @property
    def title(self) -> str:
        if self.rolled:
            return f"{self.side} side of the tube, seen from outside: lay the paper round it"
        turned = ", its front edge uppermost" if self.side == "floor" else ""
        return f"{self.side}, seen from outside{turned}"


@dataclass(frozen=True)
class Sheet:
    """All faces on one sheet. The ruler lies along its lower edge, from (margin, margin)."""

    width_mm: float
    height_mm: float
    faces: tuple[Face, ...]


def sheet_of(answer: FitAnswer) -> Sheet:
    """Faces one above the other. Raises NothingToDrill."""
    sides = list(dict.fromkeys(opening.side for opening in answer.openings))
    if not sides:
        raise NothingToDrill(say("no opening is needed: nothing has a socket at a wall"))
    faces, y = [], _MARGIN + 16.0
    for side in sides:
        width, height = outer_mm(side, _size(answer), answer.wall_mm)
        holes = tuple(opening for opening in answer.openings if opening.side == side)
        rolled = answer.tube_mm is not None and side not in ("left", "right")
        if rolled:
            holes = tuple(_laid_round(hole, height / 2) for hole in holes)
            height *= math.pi / 2
        captions = tuple(_caption(hole) for hole in holes)
        end = answer.tube_mm is not None and side in ("left", "right")
        y += _LINE_MM * max(len(holes) - 3, 0)
        faces.append(Face(side, width, height, holes, captions, _MARGIN, y, round=end, rolled=rolled))
        y += height + _BETWEEN
    width_mm = max([face.width_mm for face in faces] + [RULER_MM]) + 2 * _MARGIN
    return Sheet(max(width_mm, 110.0), y, tuple(faces))


def _laid_round(hole: Opening, radius_mm: float) -> Opening:
    """Its height along the paper: the arc from the edge of this half of the tube, whose middle is in the middle."""
    aside = max(-1.0, min(1.0, (hole.up_mm - radius_mm) / radius_mm))
    return hole.model_copy(update={"up_mm": round(radius_mm * (math.pi / 2 + math.asin(aside)), 2)})


def _size(answer: FitAnswer) -> tuple[float, float, float]:
    length, width, height = answer.size_mm
    return length, width, height


def _caption(opening: Opening) -> str:
    """What goes through the hole, its size and its middle."""
    size = millimetres(opening.width_mm) if opening.round else sizes(opening.width_mm, opening.height_mm)
    where = f"{bare_length(opening.across_mm)} across, {bare_length(opening.up_mm)} up"
    return f"{opening.what} of {opening.part}: {size}; {where}"


# SVG -----------------------------------------------------------------------------------------------------------


def to_svg(sheet: Sheet, title: str) -> str:
    """Real millimetres: width, height and viewBox agree, y downwards."""
    lines = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{sheet.width_mm:.2f}mm" height="{sheet.height_mm:.2f}mm" '
        f'viewBox="0 0 {sheet.width_mm:.2f} {sheet.height_mm:.2f}">',
        f"<title>{escape(title)}</title>",
        '<g fill="none" stroke="#1f2a33" stroke-width="0.2" font-family="sans-serif" font-size="3">',
    ]
    for face in sheet.faces:
        lines.extend(_svg_face(face, sheet.height_mm))
    lines.extend(_svg_ruler(sheet.height_mm))
    return "\n".join([*lines, "</g>", "</svg>", ""])


def _svg_face(face: Face, sheet_height: float) -> list[str]:
    top = sheet_height - face.y_mm - face.height_mm
    size = f'width="{face.width_mm:.2f}" height="{face.height_mm:.2f}"'
    radius, middle = face.width_mm / 2, face.x_mm + face.width_mm / 2
    outline = (
        f'<circle class="face" cx="{middle:.2f}" cy="{top + radius:.2f}" r="{radius:.2f}"/>'
        if face.round
        else f'<rect class="face" x="{face.x_mm:.2f}" y="{top:.2f}" {size}/>'
    )
    lines = [
        outline,
        _svg_text(face.x_mm, top - 2, face.title),
    ]
    for index, hole in enumerate(face.openings):
        x, y = face.x_mm + hole.across_mm, top + face.height_mm - hole.up_mm
        if hole.round:
            lines.append(
                f'<circle class="hole" cx="{x:.2f}" cy="{y:.2f}" r="{hole.width_mm / 2:.2f}" stroke="#9c4a1a"/>'
            )
        else:
            lines.append(
                f'<rect class="hole" x="{x - hole.width_mm / 2:.2f}" y="{y - hole.height_mm / 2:.2f}" '
                f'width="{hole.width_mm:.2f}" height="{hole.height_mm:.2f}" rx="1" stroke="#9c4a1a"/>'
            )
        lines.append(f'<path d="M{x - 4:.2f} {y:.2f}h8M{x:.2f} {y - 4:.2f}v8" stroke-width="0.1"/>')
        lines.append(_svg_text(face.x_mm, top + face.height_mm + 4 + _LINE_MM * index, face.captions[index]))
    return lines


def _svg_ruler(sheet_height: float) -> list[str]:
    y = sheet_height - _MARGIN
    ticks = "".join(f"M{_MARGIN + mm:.2f} {y:.2f}v{-4 if mm % 10 == 0 else -2}" for mm in range(int(RULER_MM) + 1))
    return [
        f'<path class="ruler" d="M{_MARGIN:.2f} {y:.2f}h{RULER_MM:.2f}{ticks}"/>',
        _svg_text(_MARGIN + RULER_MM + 2, y, f"{RULER_MM:.0f} mm: print at 100 % and hold a ruler to it"),
    ]


def _svg_text(x: float, y: float, text: str) -> str:
    return f'<text x="{x:.2f}" y="{y:.2f}" fill="#1f2a33" stroke="none">{escape(text)}</text>'


# DXF -----------------------------------------------------------------------------------------------------------


def to_dxf(sheet: Sheet) -> str:
    """Faces on layer FACE, holes on layer HOLE, in mm."""
    from ezdxf import units
    from ezdxf.filemanagement import new

    drawing = new("R2010", setup=False)
    drawing.units = units.MM
    for layer in ("FACE", "HOLE"):
        drawing.layers.add(layer)
    space = drawing.modelspace()
    for face in sheet.faces:
        if face.round:
            middle = (face.x_mm + face.width_mm / 2, face.y_mm + face.height_mm / 2)
            space.add_circle(middle, face.width_mm / 2, dxfattribs={"layer": "FACE"})
        else:
            corners = _corners(face.x_mm, face.y_mm, face.width_mm, face.height_mm)
            space.add_lwpolyline(corners, close=True, dxfattribs={"layer": "FACE"})
        for hole in face.openings:
            x, y = face.x_mm + hole.across_mm, face.y_mm + hole.up_mm
            if hole.round:
                space.add_circle((x, y), hole.width_mm / 2, dxfattribs={"layer": "HOLE"})
            else:
                box = _corners(x - hole.width_mm / 2, y - hole.height_mm / 2, hole.width_mm, hole.height_mm)
                space.add_lwpolyline(box, close=True, dxfattribs={"layer": "HOLE"})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


def _corners(x: float, y: float, width: float, height: float) -> Sequence[tuple[float, float]]:
    return [(x, y), (x + width, y), (x + width, y + height), (x, y + height)]
