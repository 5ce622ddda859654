"""The pictures of the build sheet, drawn once for paper and for the page: to scale, in points, as large as paper lets.

Each is a drawing of a general-purpose PDF library, which writes it as SVG as well.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from pocketspark.core.chain import Chain
from pocketspark.core.fit.answer import FitAnswer, Gap, Placement
from pocketspark.core.fit.build_in_bay import fitted_build
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.questions.assess import resistor_look
from pocketspark.core.questions.assessment import ResistorLook
from pocketspark.core.questions.sheet import SheetPicture, lettered
from pocketspark.core.units.figures import bare_length
from pocketspark.core.wiring.drawing import Drawing, DrawnPart, DrawnWire, MarkKind, Role, draw
from pocketspark.formats.paper import BOLD, COPPER, FONT, INK, MM, WIDE_MM, register_fonts

# As high as a picture may be, so that its heading stands over it on the same page.
# Room that a letter takes in a view, points.
LETTER = 8.0
# As wide as a figure of two digits and a point, points.
FIGURE = 14.0
TALL_MM = 200.0

SHEET, HATCHED, QUIET = "#fdfaf3", "#c9c2b2", "#8a8478"
# Colour and dash of each kind of net, in mm; the screen uses the same table by way of its own theme.
LOOKS: Mapping[Role, tuple[str, tuple[float, ...]]] = {
    "five": ("#d9822b", (4, 1.2)),
    "cell_plus": ("#b3261e", ()),
    "cell_minus": ("#1f2a33", ()),
    "out_plus": (COPPER, (2.5, 1)),
    "ground": ("#4d5a64", (1, 1)),
    "gadget_plus": ("#b58a00", (6, 1, 1, 1)),
    "other": ("#2a5578", (1, 2)),
}
MARKS: Mapping[MarkKind, str] = {
    "socket": "#d8d2c4",
    "chip": INK,
    "coil": "#4d5a64",
    "resistor": COPPER,
    "tape": "#e3a777",
}


def picture(chain: Chain, which: SheetPicture) -> Any | None:
    """One picture of this build, in points. None where there is nothing to draw."""
    return _PICTURES[which](chain)


def as_svg(made: Any, title: str, unit: str = "pt") -> str:
    """The same picture as SVG, in real size; its letters are the reader's own plain face."""
    from reportlab.graphics import renderSVG

    wide, high = math.ceil(made.width), math.ceil(made.height)
    canvas = renderSVG.SVGCanvas(
        (wide, high),
        useClip=True,
        fontHacks={FONT: {"family": "sans-serif"}, BOLD: {"family": "sans-serif", "weight": "bold"}},
        svgAttrs={"width": f"{wide}{unit}", "height": f"{high}{unit}"},
    )
    renderSVG.draw(made, canvas)
    first, second = (canvas.svg.getElementsByTagName(name)[0] for name in ("title", "desc"))
    first.firstChild.data = title
    canvas.svg.removeChild(second)
    return str(canvas.svg.toxml())


# Hook-up ----------------------------------------------------------------------------------------------------------


def hook_up_picture(drawing: Drawing, scale: float | None = None) -> Any:
    """Boards to scale with what one knows them by, and every wire. `scale`: points of a mm; None: as paper lets."""
    sheet, scale = _paper(drawing.width, drawing.height, scale)

    def up(y: float) -> float:
        return (drawing.height - y) * scale

    for part in drawing.parts:
        _add_part(sheet, part, up, scale)
    for wire in drawing.wires:
        _add_wire(sheet, wire, drawing.nets[wire.net].role, up, scale)
    for part in drawing.parts:
        for pad in part.pads:
            sheet.add(_round(pad.x * scale, up(pad.y), 1.6))
            sheet.add(_text(pad.label_x * scale, up(pad.label_y), pad.label, 5, anchor=pad.label_anchor))
    return sheet


def _add_part(sheet: Any, part: DrawnPart, up: Callable[[float], float], scale: float) -> None:
    sheet.add(_box(part.x * scale, up(part.y + part.height), part.width * scale, part.height * scale, SHEET))
    for mark in part.marks:
        place = (mark.x * scale, up(mark.y + mark.height), mark.width * scale, mark.height * scale)
        sheet.add(_box(*place, MARKS[mark.what]))
    sheet.add(_text(part.name_x * scale, up(part.y + part.height / 2), " ".join(part.key.split("_")), 6))


def _add_wire(sheet: Any, wire: DrawnWire, role: Role, up: Callable[[float], float], scale: float) -> None:
    from reportlab.graphics.shapes import PolyLine
    from reportlab.lib.colors import HexColor

    colour, dash = LOOKS[role]
    points = [value for x, y in zip(wire.xs, wire.ys, strict=True) for value in (x * scale, up(y))]
    line = PolyLine(points, strokeColor=HexColor(colour), strokeWidth=0.6 if wire.present else 1.3)
    if dash:
        line.strokeDashArray = [length * scale for length in dash]
    sheet.add(line)
    sheet.add(_text(wire.letter_x * scale, up(wire.letter_y) + 2, wire.letter, 7, bold=True))


# Three views ------------------------------------------------------------------------------------------------------

VIEWS = ((0, 1, 2, "from above"), (0, 2, 1, "from the front"), (1, 2, 0, "from the left"))
_AROUND, _BETWEEN, _TITLE = 22.0, 30.0, 46.0  # points, for the figures, and for a view's name


def views_picture(answer: FitAnswer) -> Any:
    """The bay with what lies in it from three sides: its measures, and the tightest places in copper."""
    from reportlab.graphics.shapes import Drawing as Sheet

    length, width, height = (mm + 2 * answer.wall_mm for mm in answer.size_mm)
    free = WIDE_MM * MM - 2 * _AROUND - _BETWEEN
    across = min(free / (length + width), (free - _TITLE) / length)
    upwards = (TALL_MM * MM - 2 * _AROUND - _BETWEEN) / (width + height)
    scale = min(across, upwards, 3 * MM)
    top, side = _AROUND + height * scale + _BETWEEN, _AROUND + length * scale + _BETWEEN
    sheet = Sheet(side + max(width * scale, _TITLE) + _AROUND, top + width * scale + _AROUND)
    for view, (x, y) in zip(VIEWS, ((_AROUND, top), (_AROUND, _AROUND), (side, _AROUND)), strict=True):
        _View(answer, view, x + answer.wall_mm * scale, y + answer.wall_mm * scale, scale).add_to(sheet)
    return sheet


class _View:
    """One of the three: `x` and `y` is where the bay's corner is on paper."""

    def __init__(self, answer: FitAnswer, view: tuple[int, int, int, str], x: float, y: float, scale: float) -> None:
        self.answer, self.x, self.y, self.scale = answer, x, y, scale
        self.across, self.up, self.away, self.title = view
        self._written: list[tuple[float, float]] = []  # where letters and figures stand

    def at(self, point: Sequence[float]) -> tuple[float, float]:
        return self.x + point[self.across] * self.scale, self.y + point[self.up] * self.scale

    def add_to(self, sheet: Any) -> None:
        wall, size = self.answer.wall_mm, self.answer.size_mm
        sheet.add(self._shell([-wall] * 3, [mm + wall for mm in size], HATCHED))
        for room in self.answer.rooms or ():
            sheet.add(self._block(room.min_mm, room.max_mm, SHEET))
        if not self.answer.rooms:
            sheet.add(self._shell([0.0] * 3, size, SHEET))
        for solid in self.answer.solids:
            sheet.add(self._block(solid.min_mm, solid.max_mm, HATCHED))
        # Parts farther from the eye first.
        far_first = self.away == 2
        parts = sorted(lettered(self.answer), key=lambda one: one[1].max_mm[self.away], reverse=not far_first)
        for _, part in parts:
            fill = "#e3a777" if part.kind == "cell" else "#b9d3c4"
            sheet.add(self._block(part.min_mm, part.max_mm, fill, round_=part.round and self.across == 1))
        self._written = self._measures()
        self._add_letters(sheet, parts)
        for gap in self.answer.gaps[:3]:
            self._add_gap(sheet, gap)
        self._add_measures(sheet)

    def _shell(self, low: Sequence[float], high: Sequence[float], fill: str) -> Any:
        """A case is a box, a tube is round from its end."""
        return self._block(low, high, fill, round_=self.answer.tube_mm is not None and self.across == 1)

    def _block(self, low: Sequence[float], high: Sequence[float], fill: str, *, round_: bool = False) -> Any:
        (x, y), (right, top) = self.at(low), self.at(high)
        if round_:
            return _ellipse((x + right) / 2, (y + top) / 2, (right - x) / 2, (top - y) / 2, fill)
        return _box(x, y, right - x, top - y, fill)

    def _add_letters(self, sheet: Any, parts: Sequence[tuple[str, Placement]]) -> None:
        """In the middle of its part; beside it where the letter of one behind it stands there."""
        for letter, part in parts:
            x, y = self.at([(low + high) / 2 for low, high in zip(part.min_mm, part.max_mm, strict=True)])
            while self._is_written(x, y, LETTER):
                x += LETTER
            self._written.append((x, y))
            sheet.add(_text(x, y - 2.5, letter, 7, bold=True))

    def _add_gap(self, sheet: Any, gap: Gap) -> None:
        (x, y), (right, top) = self.at(gap.start_mm), self.at(gap.end_mm)
        if math.hypot(right - x, top - y) > 1e-6:
            sheet.add(_line(x, y, right, top, COPPER, 1.2))
            # Beside the line, and as near to it as nothing else is written.
            begins, middle = max(x, right) + 2, (y + top) / 2 + 2
            places = [middle + way * LETTER * steps for steps in range(6) for way in (-1, 1)]
            free = (at for at in places if not self._is_written(begins + FIGURE / 2, at, FIGURE))
            middle = next(free, middle)
            self._written.append((begins + FIGURE / 2, middle))
            sheet.add(_text(begins, middle, str(bare_length(gap.mm)), 6, anchor="start", colour=COPPER))

    def _is_written(self, x: float, y: float, wide: float) -> bool:
        return any(abs(x - at) < wide and abs(y - up) < LETTER for at, up in self._written)

    def _measures(self) -> list[tuple[float, float]]:
        """Where the figures of its length and height stand."""
        wall = self.answer.wall_mm * self.scale
        right, top = self.at(self.answer.size_mm)
        return [((self.x + right) / 2, self.y - wall - 13), (self.x - wall - 8, (self.y + top) / 2)]

    def _add_measures(self, sheet: Any) -> None:
        """How large the bay is, outside its walls."""
        from reportlab.graphics.shapes import Group

        wall = self.answer.wall_mm * self.scale
        right, top = self.at(self.answer.size_mm)
        low, left = self.y - wall - 5, self.x - wall - 5
        sheet.add(_line(self.x, low, right, low, QUIET, 0.5))
        sheet.add(_text((self.x + right) / 2, low - 8, str(bare_length(self.answer.size_mm[self.across])), 6.5))
        sheet.add(_line(left, self.y, left, top, QUIET, 0.5))
        upright = Group(_text(0, 0, str(bare_length(self.answer.size_mm[self.up])), 6.5))
        upright.translate(left - 3, (self.y + top) / 2)
        upright.rotate(90)
        sheet.add(upright)
        sheet.add(_text(self.x - wall, top + wall + 4, self.title, 6.5, anchor="start", bold=True))


# Resistor ---------------------------------------------------------------------------------------------------------


def resistor_picture(look: ResistorLook) -> Any:
    """As it lies on the bench: leaded with its bands, and the chip with its code."""
    from reportlab.graphics.shapes import Drawing as Sheet

    sheet = Sheet(200, 34)
    sheet.add(_line(2, 17, 142, 17, QUIET, 1.5))
    sheet.add(_box(28, 5, 88, 24, "#e6d3ac"))
    for number, paint in enumerate(look.paints):
        x = 100 if number == len(look.paints) - 1 else 40 + number * 15
        sheet.add(_box(x, 5, 6, 24, paint))
    sheet.add(_box(156, 8, 40, 18, "#c9ced1"))
    sheet.add(_box(162, 8, 28, 18, "#20262a"))
    sheet.add(_text(176, 14, look.chip_code, 8, colour="#f4f4f0"))
    return sheet


# One picture of a build each --------------------------------------------------------------------------------------


def _views_of(chain: Chain) -> Any | None:
    fitted = fitted_build(chain)
    return views_picture(fitted.answer) if fitted and fitted.answer else None


def _resistor_of(chain: Chain) -> Any | None:
    current = chain.board_charging.current if chain.board_charging else None
    return resistor_picture(resistor_look(current, current.r_marked_ohm)) if current else None


_PICTURES: Mapping[SheetPicture, Callable[[Chain], Any | None]] = {
    "resistor": _resistor_of,
    "hook_up": lambda chain: hook_up_picture(draw(hook_up(chain))),
    "views": _views_of,
}


# Strokes ----------------------------------------------------------------------------------------------------------


def _paper(width_mm: float, height_mm: float, scale: float | None) -> tuple[Any, float]:
    from reportlab.graphics.shapes import Drawing as Sheet

    register_fonts()
    scale = scale or min(WIDE_MM / width_mm, TALL_MM / height_mm, 1.0) * MM
    return Sheet(width_mm * scale, height_mm * scale), scale


def _box(x: float, y: float, width: float, height: float, fill: str) -> Any:
    from reportlab.graphics.shapes import Rect
    from reportlab.lib.colors import HexColor

    return Rect(x, y, width, height, fillColor=HexColor(fill), strokeColor=HexColor(INK), strokeWidth=0.5)


def _ellipse(x: float, y: float, rx: float, ry: float, fill: str) -> Any:
    from reportlab.graphics.shapes import Ellipse
    from reportlab.lib.colors import HexColor

    return Ellipse(x, y, rx, ry, fillColor=HexColor(fill), strokeColor=HexColor(INK), strokeWidth=0.5)


def _round(x: float, y: float, radius: float) -> Any:
    return _ellipse(x, y, radius, radius, INK)


def _line(x: float, y: float, right: float, top: float, colour: str, width: float) -> Any:
    from reportlab.graphics.shapes import Line
    from reportlab.lib.colors import HexColor

    return Line(x, y, right, top, strokeColor=HexColor(colour), strokeWidth=width)


def _text(
    x: float, y: float, text: str, size: float, *, bold: bool = False, anchor: str = "middle", colour: str = INK
) -> Any:
    from reportlab.graphics.shapes import String
    from reportlab.lib.colors import HexColor

    register_fonts()
    face = BOLD if bold else FONT
    return String(x, y, text, fontName=face, fontSize=size, textAnchor=anchor, fillColor=HexColor(colour))
