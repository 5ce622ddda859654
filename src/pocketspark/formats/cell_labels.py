"""Labels for tested cells, on a sheet to cut up: code, what it holds, when that was read, and a QR code of its page."""

import io
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import segno

from pocketspark.formats.paper import BOLD, FONT, MARGIN_MM, MM, PAPER_MM, PaperSize, register_fonts

# Each as wide as a pouch is long; three in a row, eight rows on A4.
WIDE_MM, HIGH_MM, GAP_MM, QR_MM = 57.0, 30.0, 2.0, 21.0
ACROSS = 3


@dataclass(frozen=True)
class CellLabel:
    """`link`: what the QR code holds. `lines`: beside it, the first of them largest."""

    code: str
    link: str
    lines: tuple[str, ...]


def to_pdf(labels: Iterable[CellLabel], size: PaperSize = "a4") -> bytes:
    """As many sheets as they take."""
    from reportlab.pdfgen.canvas import Canvas

    register_fonts()
    out = io.BytesIO()
    wide_mm, high_mm = PAPER_MM[size]
    canvas = Canvas(out, pagesize=(wide_mm * MM, high_mm * MM), invariant=True)
    canvas.setTitle("Labels of cells")
    down = int((high_mm - 2 * MARGIN_MM + GAP_MM) // (HIGH_MM + GAP_MM))
    for number, label in enumerate(labels):
        place = number % (ACROSS * down)
        if number and place == 0:
            canvas.showPage()
        left_mm = MARGIN_MM + place % ACROSS * (WIDE_MM + GAP_MM)
        top_mm = high_mm - MARGIN_MM - place // ACROSS * (HIGH_MM + GAP_MM)
        _draw(canvas, label, left_mm, top_mm)
    canvas.save()
    return out.getvalue()


def _draw(canvas: Any, label: CellLabel, left_mm: float, top_mm: float) -> None:
    canvas.setLineWidth(0.3)
    canvas.rect(left_mm * MM, (top_mm - HIGH_MM) * MM, WIDE_MM * MM, HIGH_MM * MM)
    _draw_qr(canvas, label.link, left_mm + WIDE_MM - QR_MM - 2, top_mm - 3)
    canvas.setFont(BOLD, 15)
    canvas.drawString((left_mm + 2.5) * MM, (top_mm - 7.5) * MM, label.code)
    at_mm = top_mm - 12.5
    for number, text in enumerate(label.lines):
        canvas.setFont(BOLD if number == 0 else FONT, 9 if number == 0 else 6.5)
        room_mm = WIDE_MM - QR_MM - 6.5 if at_mm > top_mm - QR_MM - 3 else WIDE_MM - 5
        canvas.drawString((left_mm + 2.5) * MM, at_mm * MM, _cut(canvas, text, room_mm * MM))
        at_mm -= 4.2


def _cut(canvas: Any, text: str, room: float) -> str:
    """As much of it as there is room for."""
    font, points = canvas._fontname, canvas._fontsize
    while text and canvas.stringWidth(text, font, points) > room:
        text = text[:-1]
    return text


def _draw_qr(canvas: Any, link: str, left_mm: float, top_mm: float) -> None:
    rows = list(segno.make(link, error="m").matrix)
    step = QR_MM / len(rows)
    for down, row in enumerate(rows):
        for across, dark in enumerate(row):
            if dark:
                canvas.rect(
                    (left_mm + across * step) * MM,
                    (top_mm - (down + 1) * step) * MM,
                    step * MM,
                    step * MM,
                    stroke=0,
                    fill=1,
                )
