"""The build sheet as PDF: all that a maker takes to the bench, on paper. Fonts are embedded."""

import io
from collections.abc import Iterator, Sequence
from typing import Any

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.fitted import fitted_build
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.shopping import ShoppingList
from pocketspark.core.record.as_built import as_built
from pocketspark.core.rules.causes import together
from pocketspark.core.steps import Step, procedure
from pocketspark.core.units.figures import amps, days, hours, ohms, volts
from pocketspark.core.wiring.cutlist import cut_list
from pocketspark.core.wiring.drawing import Drawing, draw, middle_of
from pocketspark.core.wiring.hookup import hook_up
from pocketspark.formats import paper
from pocketspark.formats.paper import BOLD, FONT, INK, MM, WIDE_MM, PaperSize, heading, line, plain, table

PRACTICE = "PRACTICE: nothing of this was soldered, and its readings may be simulated."


def bill_as_csv(project: Project, build: int) -> str:
    """The bill of materials as CSV."""
    import csv

    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("quantity", "part", "remark"))
    writer.writerows([as_cell(entry) for entry in row] for row in bill_of_materials(project, build))
    return out.getvalue()


def shopping_as_csv(wanted: ShoppingList) -> str:
    """The shopping list as CSV, what is at hand left out."""
    import csv

    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\n")
    writer.writerow(("quantity", "part", "size", "search for", "look for", "leave", "price each"))
    for item in wanted.to_buy:
        texts = (item.part, item.size, item.search, "; ".join(item.look_for), "; ".join(item.leave))
        writer.writerow([item.missing, *map(as_cell, texts), "" if item.price is None else item.price])
    writer.writerows(["", as_cell(what), "", "", "", "", ""] for what in (*wanted.consumables, *wanted.tools))
    return out.getvalue()


def as_cell(entry: object) -> object:
    """A text that a spreadsheet would take for a formula is marked as text."""
    return f"'{entry}" if isinstance(entry, str) and entry.startswith(("=", "+", "-", "@", "\t", "\r")) else entry


def to_pdf(project: Project, build: int, size: PaperSize = "a4") -> bytes:
    """The whole sheet. Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    chain.required_running()
    title = f"{project.gadget.name}: {project.builds[build].name}"
    return paper.to_pdf(title, _story(project, build, chain, title), size)


# The parts of the sheet ----------------------------------------------------------------------------------------


def _story(project: Project, build: int, chain: Chain, title: str) -> Iterator[Any]:
    seen = assess(project, build)
    yield line(title, 16, bold=True)
    if chain.build.practice:
        yield line(PRACTICE, 11, bold=True)
    yield from _findings(seen, "stop")
    yield line(_summary(seen), 9)
    for note in project.notes.splitlines():
        yield line(note, 9)
    yield from _findings(seen, "caution", "note")
    yield heading("Parts")
    yield table(
        [("pieces", "part", ""), *((str(n), what, remark) for n, what, remark in bill_of_materials(project, build))]
    )
    if seen.charge:
        look = seen.charge.fitted
        yield heading("Charge-current resistor")
        codes = ", ".join(filter(None, (look.chip_code, look.chip_code_4, look.eia96)))
        yield line(f"{plain(look.text)}: {' '.join(look.bands)}; chip {codes}", 9)
    hookup = hook_up(chain)
    yield heading("Hook-up")
    yield _hook_up_drawing(draw(hookup))
    rows = [
        (f"[  ] {w.letter}", w.start, w.end, f"{w.length_mm:.0f} mm", w.gauge, w.colour)
        for w in cut_list(chain, hookup)
    ]
    yield table([("wire", "from", "to", "cut", "gauge", "colour"), *rows])
    fitted = fitted_build(chain)
    answer = fitted.answer if fitted else None
    if answer is not None:
        yield heading("Where it lies, mm")
        yield _three_views(answer)
        yield table([("part", "from x y z", "to x y z", "turned"), *_placements(answer)])
        holes = [
            (h.side, h.what, f"{h.width_mm:.1f} x {h.height_mm:.1f}", f"{h.across_mm:.1f}", f"{h.up_mm:.1f}")
            for h in answer.openings
        ]
        if holes:
            yield table([("wall", "hole", "size", "from left edge", "from lower edge"), *holes])
    yield heading("Cautions, before the first step")
    for caution in seen.cautions:
        yield line(caution.text, 8)
    yield heading("Steps")
    yield table([("", "step", "checkpoint", "reads"), *_steps(procedure(project, build).steps)], widths=(8, 88, 62, 18))
    if figures := as_built(project, build):
        yield heading("As built, beside as planned")
        built = [(f.what, f.planned, f.built, "as planned" if f.same else f"{f.off_share:+.0%}") for f in figures]
        yield table([("", "planned", "measured", ""), *built])
    if project.logbook:
        yield heading("Logbook")
        yield table([("", "", ""), *((e.at[:16].replace("T", " "), e.kind, e.text) for e in project.logbook)])


def _summary(seen: Assessment) -> str:
    words = []
    if seen.charge:
        ends = f"full in about {hours(seen.charge.hours)}" if seen.charge.hours else "never ends"
        words.append(f"{ohms(seen.charge.r_prog_ohm)}, {amps(seen.charge.current_a)}, {ends}")
    elif seen.charging:
        ends = f"full in about {hours(seen.charging.hours)}" if seen.charging.hours else "never ends"
        words.append(f"{amps(seen.charging.current_a)} from the {seen.charging.says}, {ends}")
    if seen.gadget_v:
        words.append(f"{volts(seen.gadget_v.max)} to {volts(seen.gadget_v.min)} at the gadget")
    if seen.run and seen.run.days:
        words.append(f"{days(seen.run.days)} as used, {days(seen.run.standby_days)} switched off")
    return plain("; ".join(words))


def _findings(seen: Assessment, *levels: str) -> Iterator[Any]:
    """The causes of these levels, what else comes of each under it; what is only assumed says so."""
    for head, others in together(seen.findings):
        if head.level in levels:
            yield line(f"{head.level.upper()}: {_said(head)}", 8, bold=head.level == "stop")
            for other in others:
                yield line(f"    {other.level}, of the same cause: {_said(other)}", 8)


def _said(finding: Finding) -> str:
    return f"{finding.headline} (assumed)" if finding.assumed else finding.headline


def _placements(answer: FitAnswer) -> list[tuple[str, ...]]:
    def place(point: Sequence[float]) -> str:
        return "  ".join(f"{mm:.1f}" for mm in point)

    return [(p.part, place(p.min_mm), place(p.max_mm), p.turned) for p in answer.placements]


def _steps(steps: Sequence[Step]) -> list[tuple[str, ...]]:
    rows: list[tuple[str, ...]] = []
    for number, step in enumerate(steps, 1):
        limits = ""
        if step.hold:
            low = "" if step.hold.low is None else f"from {step.hold.low:.4g} "
            high = "" if step.hold.high is None else f"to {step.hold.high:.4g} "
            limits = f"{step.hold.quantity}: {low}{high}{step.hold.unit}"
        caution = f" {step.caution}" if step.caution else ""
        read = f"{step.reads}, {step.origin}" if step.reads else ""
        rows.append((str(number), step.title + "." + caution, limits, read))
    return rows


# Drawing -------------------------------------------------------------------------------------------------------


def _hook_up_drawing(drawing: Drawing) -> Any:
    from reportlab.graphics.shapes import Circle, PolyLine, Rect, String
    from reportlab.graphics.shapes import Drawing as Sheet
    from reportlab.lib.colors import HexColor

    from pocketspark.formats.hookup_svg import LOOKS

    scale = min(WIDE_MM / drawing.width, 1.0) * MM
    sheet = Sheet(drawing.width * scale, drawing.height * scale)

    def up(y: float) -> float:
        return (drawing.height - y) * scale

    for part in drawing.parts:
        box = Rect(part.x * scale, up(part.y + part.height), part.width * scale, part.height * scale)
        box.fillColor, box.strokeColor, box.strokeWidth = HexColor("#fdfaf3"), HexColor(INK), 0.5
        sheet.add(box)
        middle = (part.x + part.width / 2) * scale
        sheet.add(
            String(middle, up(part.y + part.height / 2), part.key, fontName=FONT, fontSize=6, textAnchor="middle")
        )
    for wire in drawing.wires:
        colour, dash = LOOKS[drawing.nets[wire.net].role]
        points = [value for x, y in zip(wire.xs, wire.ys, strict=True) for value in (x * scale, up(y))]
        line = PolyLine(points, strokeColor=HexColor(colour), strokeWidth=0.6 if wire.present else 1.3)
        if dash:
            line.strokeDashArray = [float(length) * scale for length in dash.split()]
        sheet.add(line)
        x, y = middle_of(wire)
        sheet.add(String(x * scale, up(y) + 2, wire.letter, fontName=BOLD, fontSize=7, textAnchor="middle"))
    for part in drawing.parts:
        for pad in part.pads:
            sheet.add(Circle(pad.x * scale, up(pad.y), 1.6, fillColor=HexColor(INK)))
            y = up(pad.y + (3.6 if pad.upper else -1.8))
            sheet.add(String(pad.x * scale, y, pad.label, fontName=FONT, fontSize=5, textAnchor="middle"))
    return sheet


def _three_views(answer: FitAnswer) -> Any:
    from reportlab.graphics.shapes import Drawing as Sheet
    from reportlab.graphics.shapes import Rect, String
    from reportlab.lib.colors import HexColor

    length, width, height = answer.size_mm
    views = ((0, 1, "from above"), (0, 2, "from the front"), (1, 2, "from the left"))
    across = 2 * length + width + 16
    scale = min(WIDE_MM / across, 1.0) * MM
    tall = (max(width, height) + 6) * scale
    sheet = Sheet(across * scale, tall)
    x = 2.0
    for a, b, title in views:
        sheet.add(
            Rect(x * scale, 0, answer.size_mm[a] * scale, answer.size_mm[b] * scale, fillColor=HexColor("#fdfaf3"))
        )
        for solid in answer.solids:
            sheet.add(_block(solid.min_mm, solid.max_mm, a, b, x, scale, HexColor("#c9c2b2")))
        for number, placement in enumerate(answer.placements):
            fill = HexColor("#e3a777" if placement.kind == "cell" else "#b9d3c4")
            sheet.add(_block(placement.min_mm, placement.max_mm, a, b, x, scale, fill))
            at = [(placement.min_mm[i] + placement.max_mm[i]) / 2 for i in (a, b)]
            letter = String((x + at[0]) * scale, at[1] * scale - 2, chr(65 + number), fontName=BOLD, fontSize=6)
            letter.textAnchor = "middle"
            sheet.add(letter)
        sheet.add(String(x * scale, tall - 8, title, fontName=FONT, fontSize=6))
        x += answer.size_mm[a] + 6
    return sheet


def _block(low: Sequence[float], high: Sequence[float], a: int, b: int, x: float, scale: float, fill: Any) -> Any:
    from reportlab.graphics.shapes import Rect

    box = Rect((x + low[a]) * scale, low[b] * scale, (high[a] - low[a]) * scale, (high[b] - low[b]) * scale)
    box.fillColor, box.fillOpacity, box.strokeWidth = fill, 0.75, 0.4
    return box
