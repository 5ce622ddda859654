"""The drill template on paper, 1:1: pages of A4 or Letter, told not to be scaled, and tiled where a face is larger.

Every page has the gadget's name and a ruler. Neighbour tiles overlap, with crosses to lay over one another.
"""

import io
import itertools
import math
from collections.abc import Iterator
from dataclasses import dataclass
from typing import TYPE_CHECKING

from pocketspark.formats.drill_template import RULER_MM, Face, Sheet
from pocketspark.formats.paper import PAPER_MM, PaperSize

if TYPE_CHECKING:
    from reportlab.pdfgen.canvas import Canvas

# Printers leave about so much of a page white (common practice, no source).
MARGIN_MM = 12.0
OVERLAP_MM = 10.0
_POINTS_PER_MM = 72 / 25.4
_TOP_MM, _RULER_ROOM_MM, _LINE_MM = 14.0, 14.0, 4.0


@dataclass(frozen=True)
class Tile:
    """One face, or a piece of it, on one page: where the face's lower left corner comes to lie, and what is shown.

    `window_mm`: left, lower, right and upper edge of the piece, from the face's lower left corner.
    """

    face: Face
    x_mm: float
    y_mm: float
    window_mm: tuple[float, float, float, float]
    piece: str = ""  # which of several


def pages_of(sheet: Sheet, paper: PaperSize) -> list[list[Tile]]:
    """Small faces share a page, one above the other; a face larger than a page has pages of its own."""
    width, height = PAPER_MM[paper]
    free_w, free_h = width - 2 * MARGIN_MM, height - 2 * MARGIN_MM - _TOP_MM - _RULER_ROOM_MM
    pages: list[list[Tile]] = []
    room = 0.0
    for face in sheet.faces:
        lines = _LINE_MM * (len(face.captions) + 2)
        if face.width_mm > free_w or face.height_mm + lines > free_h:
            pages += [[tile] for tile in _tiles(face, free_w, free_h - lines)]
            room = 0.0
            continue
        if face.height_mm + lines > room:
            pages.append([])
            room = free_h
        whole = (0.0, 0.0, face.width_mm, face.height_mm)
        bottom = MARGIN_MM + _RULER_ROOM_MM + room - face.height_mm - _LINE_MM
        pages[-1].append(Tile(face, MARGIN_MM, bottom, whole))
        room -= face.height_mm + lines
    return pages


def _tiles(face: Face, free_w: float, free_h: float) -> Iterator[Tile]:
    columns, rows = (
        max(1, math.ceil((mm - OVERLAP_MM) / (free - OVERLAP_MM)))
        for mm, free in ((face.width_mm, free_w), (face.height_mm, free_h))
    )
    for row, column in itertools.product(range(rows), range(columns)):
        left, low = column * (free_w - OVERLAP_MM), row * (free_h - OVERLAP_MM)
        window = (left, low, min(left + free_w, face.width_mm), min(low + free_h, face.height_mm))
        piece = f"row {row + 1} of {rows} from below, column {column + 1} of {columns} from the left"
        bottom = MARGIN_MM + _RULER_ROOM_MM + _LINE_MM * len(face.captions)
        yield Tile(face, MARGIN_MM - left, bottom - low, window, piece)


def to_pdf(sheet: Sheet, title: str, paper: PaperSize = "a4") -> bytes:
    """The pages, 1:1. `title`: the gadget's name and what this is."""
    from reportlab.pdfgen.canvas import Canvas

    width, height = PAPER_MM[paper]
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(width * _POINTS_PER_MM, height * _POINTS_PER_MM), invariant=True)
    canvas.setTitle(title)
    canvas.setViewerPreference("PrintScaling", "None")
    pages = pages_of(sheet, paper)
    for number, tiles in enumerate(pages, 1):
        canvas.scale(_POINTS_PER_MM, _POINTS_PER_MM)
        canvas.setLineWidth(0.2)
        canvas.setFont("Helvetica", 3.6)
        canvas.drawString(MARGIN_MM, height - MARGIN_MM - 4, f"{title}; page {number} of {len(pages)}")
        canvas.setFont("Helvetica", 3)
        says = "Print at 100 %, not fitted to the page, and hold a ruler to the line below before you cut."
        canvas.drawString(MARGIN_MM, height - MARGIN_MM - 9, says)
        for tile in tiles:
            _draw(canvas, tile)
        _ruler(canvas)
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _draw(canvas: "Canvas", tile: Tile) -> None:
    face, (left, low, right, top) = tile.face, tile.window_mm
    x, y = tile.x_mm, tile.y_mm
    piece = f"; {tile.piece}" if tile.piece else ""
    canvas.drawString(x + left, y + top + 1.5, f"{face.title}{piece}")
    for index, caption in enumerate(face.captions):
        canvas.drawString(x + left, y + low - 4 - _LINE_MM * index, caption)
    canvas.saveState()
    window = canvas.beginPath()
    window.rect(x + left - 0.3, y + low - 0.3, right - left + 0.6, top - low + 0.6)
    canvas.clipPath(window, stroke=0)
    if face.round:
        canvas.circle(x + face.width_mm / 2, y + face.height_mm / 2, face.width_mm / 2)
    else:
        canvas.rect(x, y, face.width_mm, face.height_mm)
    for hole in face.openings:
        at_x, at_y = x + hole.across_mm, y + hole.up_mm
        if hole.round:
            canvas.circle(at_x, at_y, hole.width_mm / 2)
        else:
            low_x, low_y = at_x - hole.width_mm / 2, at_y - hole.height_mm / 2
            canvas.roundRect(low_x, low_y, hole.width_mm, hole.height_mm, 1)
        _cross(canvas, at_x, at_y, 4)
    canvas.restoreState()
    if tile.piece:
        inset = OVERLAP_MM / 2
        for mark_x, mark_y in itertools.product((left + inset, right - inset), (low + inset, top - inset)):
            _cross(canvas, x + mark_x, y + mark_y, 2)


def _cross(canvas: "Canvas", x: float, y: float, arm: float) -> None:
    canvas.line(x - arm, y, x + arm, y)
    canvas.line(x, y - arm, x, y + arm)


def _ruler(canvas: "Canvas") -> None:
    canvas.line(MARGIN_MM, MARGIN_MM, MARGIN_MM + RULER_MM, MARGIN_MM)
    for mm in range(int(RULER_MM) + 1):
        canvas.line(MARGIN_MM + mm, MARGIN_MM, MARGIN_MM + mm, MARGIN_MM + (4 if mm % 10 == 0 else 2))
    canvas.drawString(MARGIN_MM + RULER_MM + 2, MARGIN_MM, f"{RULER_MM:.0f} mm")
