"""What every printed page has: its fonts, which are embedded, its lines, headings, tables and foot."""

from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from pathlib import Path
from typing import Any, Literal
from xml.sax.saxutils import escape

MM = 72 / 25.4
WIDE_MM = 176.0
INK, COPPER, PAPER = "#1f2a33", "#9c4a1a", "#f3efe6"
FONT, BOLD = "SheetSans", "SheetSans-Bold"


PaperSize = Literal["a4", "letter"]
# ISO 216; ANSI Letter, 8.5 x 11 inches.
PAPER_MM: Mapping[PaperSize, tuple[float, float]] = {"a4": (210.0, 297.0), "letter": (215.9, 279.4)}
MARGIN_MM = 17.0


def to_pdf(title: str, story: Iterator[Any], size: PaperSize = "a4") -> bytes:
    """These lines and tables on paper of this size."""
    import io

    from reportlab.platypus import SimpleDocTemplate

    register_fonts()
    out = io.BytesIO()
    document = SimpleDocTemplate(
        out,
        pagesize=tuple(mm * MM for mm in PAPER_MM[size]),
        leftMargin=MARGIN_MM * MM,
        rightMargin=MARGIN_MM * MM,
        topMargin=15 * MM,
        bottomMargin=15 * MM,
        title=title,
        invariant=True,
    )
    document.build(list(story), onFirstPage=foot, onLaterPages=foot)
    return out.getvalue()


def register_fonts() -> None:
    import reportlab
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    folder = Path(reportlab.__file__).parent / "fonts"
    for name, file in ((FONT, "Vera.ttf"), (BOLD, "VeraBd.ttf")):
        if name not in pdfmetrics.getRegisteredFontNames():
            pdfmetrics.registerFont(TTFont(name, str(folder / file)))


def foot(canvas: Any, document: Any) -> None:
    canvas.setFont(FONT, 7)
    canvas.drawString(MARGIN_MM * MM, 9 * MM, "Local rules and the gadget's maker prevail over this sheet.")
    right = document.pagesize[0] - MARGIN_MM * MM
    canvas.drawRightString(right, 9 * MM, f"printed {date.today().isoformat()} · page {document.page}")


def plain(text: str) -> str:
    """The sheet's own face has the micro sign and not the letter mu, which looks the same."""
    return text.replace("μ", "µ")


def style(size: float, bold: bool, indent: float = 0.0) -> Any:
    from reportlab.lib.styles import ParagraphStyle

    face = BOLD if bold else FONT
    return ParagraphStyle(
        "sheet", fontName=face, fontSize=size, leading=size * 1.3, textColor=INK, leftIndent=indent, spaceAfter=1
    )


def line(text: str, size: float, *, bold: bool = False, indent: bool = False) -> Any:
    from reportlab.platypus import Paragraph

    return Paragraph(escape(plain(text)), style(size, bold, 5 * MM if indent else 0.0))


def tick_box(*, ticked: bool) -> Any:
    """A box to tick, or one that is ticked."""
    from reportlab.graphics.shapes import Drawing, PolyLine, Rect
    from reportlab.lib.colors import HexColor

    drawn = Drawing(9, 9)
    drawn.add(Rect(0.5, 0.5, 8, 8, fillColor=None, strokeColor=HexColor(INK), strokeWidth=0.7))
    if ticked:
        drawn.add(PolyLine([2, 4.5, 4, 2.5, 7.5, 7], strokeColor=HexColor(INK), strokeWidth=1.4))
    return drawn


def room_to_write() -> Any:
    """A line for a reading by hand, high enough for a pencil."""
    from reportlab.graphics.shapes import Drawing, Line
    from reportlab.lib.colors import HexColor

    drawn = Drawing(24 * MM, 16)
    drawn.add(Line(0, 2, 24 * MM, 2, strokeColor=HexColor(INK), strokeWidth=0.6))
    return drawn


def heading(text: str) -> Any:
    """It stays with what stands under it."""
    from reportlab.platypus import Paragraph

    look = style(11, bold=True)
    look.spaceBefore, look.spaceAfter, look.keepWithNext = 10, 4, 1
    return Paragraph(escape(plain(text)), look)


def table(rows: Sequence[Sequence[Any]], widths: Sequence[float] | None = None) -> Any:
    """The first row is the head. What is drawn stays; all else is text, broken to its column. Widths are mm."""
    from reportlab.platypus import Flowable, Table, TableStyle

    def cell(content: Any, *, bold: bool) -> Any:
        return content if isinstance(content, Flowable) else line(str(content), 7.5, bold=bold)

    cells = [[cell(content, bold=index == 0) for content in row] for index, row in enumerate(rows)]
    columns = [w * MM for w in widths] if widths else [WIDE_MM * MM / len(rows[0])] * len(rows[0])
    look = [
        ("LINEBELOW", (0, 0), (-1, -1), 0.3, "#c4b8a3"),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("TOPPADDING", (0, 0), (-1, -1), 1.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 1.5),
    ]
    return Table(cells, colWidths=columns, style=TableStyle(look), repeatRows=1)
