"""The build sheet: all that a maker takes to the bench, as lines, tables and pictures that page and paper both show."""

from collections.abc import Iterator, Sequence
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding, Level
from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.fit.fitted import fitted_build
from pocketspark.core.fit.openings import Opening
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.record.as_built import as_built
from pocketspark.core.rules.causes import together
from pocketspark.core.steps import Step, procedure
from pocketspark.core.units.figures import amps, bare_length, days, hours, length_unit, millimetres, ohms, volts
from pocketspark.core.wiring.cutlist import CutWire, cut_list
from pocketspark.core.wiring.hookup import hook_up

PRACTICE = "PRACTICE: nothing of this was soldered, and its readings may be simulated."

NOTHING_TO_READ = "–"

SheetPicture = Literal["resistor", "hook_up", "views"]
# A box to tick, ticked where the work is done; room to write a reading, where none was taken.
ColumnKind = Literal["text", "tick", "write"]


class SheetLine(Model):
    """One line; `level` where it is a finding, `follows` where it comes of the finding before it."""

    text: str
    level: Level | None = None
    follows: bool = False


class SheetColumn(Model):
    """One column of a table, and its share of the width."""

    name: str
    share: float
    kind: ColumnKind = "text"


class SheetTable(Model):
    """Rows have as many texts as there are columns. In a column of ticks any text is a tick."""

    columns: tuple[SheetColumn, ...]
    rows: tuple[tuple[str, ...], ...]


class SheetSection(Model):
    """A heading (empty at the top of the sheet), lines, a picture and a table, in this order."""

    heading: str
    lines: tuple[SheetLine, ...] = ()
    picture: SheetPicture | None = None
    table: SheetTable | None = None


class BuildSheet(Model):
    """The whole sheet, in the order in which it is needed at the bench."""

    title: str
    sections: tuple[SheetSection, ...]


def sheet_of(project: Project, build: int) -> BuildSheet:
    """Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    chain.required_running()
    seen = assess(project, build)
    steps = procedure(project, build).steps
    sections = (
        SheetSection(heading="", lines=tuple(_top(project, chain, seen))),
        _parts(project, build),
        *_resistor(seen),
        _hook_up(chain, {step.key for step in steps if step.state == "done"}),
        *_where_it_lies(chain),
        SheetSection(
            heading="Cautions, before the first step", lines=tuple(SheetLine(text=one.text) for one in seen.cautions)
        ),
        _steps(steps),
        *_as_built(project, build),
        *_logbook(project),
    )
    return BuildSheet(title=f"{project.gadget.name}: {project.builds[build].name}", sections=sections)


# The top ----------------------------------------------------------------------------------------------------------


def _top(project: Project, chain: Chain, seen: Assessment) -> Iterator[SheetLine]:
    """What must not be overlooked first; then the figures, the notes of the maker, and all that is softer."""
    if chain.build.practice:
        yield SheetLine(text=PRACTICE)
    yield from _findings(seen, "stop")
    yield SheetLine(text=_summary(seen))
    yield from (SheetLine(text=note) for note in project.notes.splitlines())
    yield from _findings(seen, "caution", "note")


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
    return "; ".join(words)


def _findings(seen: Assessment, *levels: str) -> Iterator[SheetLine]:
    """The causes of these levels, what else comes of each under it; what is only assumed says so."""
    for head, others in together(seen.findings):
        if head.level in levels:
            yield SheetLine(text=_said(head), level=head.level)
            for other in others:
                yield SheetLine(text=f"of the same cause: {_said(other)}", level=other.level, follows=True)


def _said(finding: Finding) -> str:
    return f"{finding.headline} (assumed)" if finding.assumed else finding.headline


# Parts and wires --------------------------------------------------------------------------------------------------


TICK = SheetColumn(name="", share=4, kind="tick")


def _columns(*columns: tuple[str, float]) -> tuple[SheetColumn, ...]:
    return tuple(SheetColumn(name=name, share=share) for name, share in columns)


def _parts(project: Project, build: int) -> SheetSection:
    rows = [("", str(quantity), part, remark) for quantity, part, remark in bill_of_materials(project, build)]
    columns = (TICK, *_columns(("pieces", 10), ("part", 46), ("", 40)))
    return SheetSection(heading="Parts", table=SheetTable(columns=columns, rows=tuple(rows)))


def _resistor(seen: Assessment) -> Iterator[SheetSection]:
    if seen.charge:
        look = seen.charge.fitted
        codes = ", ".join(filter(None, (look.chip_code, look.chip_code_4, look.eia96)))
        line = SheetLine(text=f"{look.text}: {' '.join(look.bands)}; chip {codes}")
        yield SheetSection(heading="Charge-current resistor", lines=(line,), picture="resistor")


def _hook_up(chain: Chain, steps_done: set[str]) -> SheetSection:
    """A wire is on when it was ticked off, or its whole step is done."""
    hookup = hook_up(chain)
    done = steps_done | set(chain.build.record.soldered)
    rows = tuple(_wire(wire, done) for wire in cut_list(chain, hookup))
    ends = (("from", 22.0), ("to", 22.0))
    columns = (TICK, *_columns(("wire", 7), *ends, ("cut", 16), ("gauge", 18), ("colour", 11)))
    return SheetSection(heading="Hook-up", picture="hook_up", table=SheetTable(columns=columns, rows=rows))


def _wire(wire: CutWire, done: set[str]) -> tuple[str, ...]:
    start, end = (" ".join(pad.split(".")) for pad in (wire.start, wire.end))
    length = f"{millimetres(wire.length_mm, 0)}{' (guessed)' if wire.guessed else ''}"
    on = wire.step in done or f"{wire.start} to {wire.end}" in done
    return ("done" if on else "", wire.letter, start, end, length, wire.gauge, wire.colour)


# Where it lies ----------------------------------------------------------------------------------------------------


def lettered(answer: FitAnswer) -> list[tuple[str, Placement]]:
    """Every part that lies in the bay, with the letter it has in the drawing."""
    return [(chr(65 + number % 26), part) for number, part in enumerate(answer.placements)]


def _where_it_lies(chain: Chain) -> Iterator[SheetSection]:
    fitted = fitted_build(chain)
    if fitted is None or fitted.answer is None:
        return
    answer = fitted.answer
    rows = tuple(_place(letter, part) for letter, part in lettered(answer))
    sides = (("from the left", 14.0), ("from the front", 14.0), ("from the floor", 14.0))
    table = SheetTable(columns=_columns(("", 4), ("part", 36), *sides, ("turned", 18)), rows=rows)
    yield SheetSection(heading=f"Where it lies, {length_unit()}", picture="views", table=table)
    if answer.openings:
        names = ("wall", "hole", "size", "from left edge", "from lower edge")
        columns = (TICK, *_columns(*((name, 19.2) for name in names)))
        holes = SheetTable(columns=columns, rows=tuple(map(_hole, answer.openings)))
        yield SheetSection(heading=f"Holes, {length_unit()}, seen from outside", table=holes)


def _place(letter: str, part: Placement) -> tuple[str, ...]:
    spans = [f"{bare_length(low)} to {bare_length(high)}" for low, high in zip(part.min_mm, part.max_mm, strict=True)]
    return (letter, part.part, *spans, part.turned)


def _hole(opening: Opening) -> tuple[str, ...]:
    dimensions = (opening.width_mm,) if opening.round else (opening.width_mm, opening.height_mm)
    size = f"{'dia. ' if opening.round else ''}{' x '.join(map(bare_length, dimensions))}"
    return ("", opening.side, opening.what, size, bare_length(opening.across_mm), bare_length(opening.up_mm))


# Steps and what was measured --------------------------------------------------------------------------------------


def _steps(steps: Sequence[Step]) -> SheetSection:
    columns = (TICK, *_columns(("step", 52), ("checkpoint", 28)), SheetColumn(name="reads", share=16, kind="write"))
    rows = tuple(_step(number, step) for number, step in enumerate(steps, 1))
    return SheetSection(heading="Steps", table=SheetTable(columns=columns, rows=rows))


def _step(number: int, step: Step) -> tuple[str, ...]:
    title = f"{number}. {step.title}." + (f" {step.caution}" if step.caution else "")
    limits = f"{step.hold.quantity}: {step.hold.limits}" if step.hold else ""
    unread = "" if step.hold else NOTHING_TO_READ
    read = f"{step.reads}, {step.origin}" if step.reads else unread
    return ("done" if step.state == "done" else "", title, limits, read)


def _as_built(project: Project, build: int) -> Iterator[SheetSection]:
    rows = tuple(
        (one.what, one.planned, one.built, "as planned" if one.same else f"{one.off_share:+.0%}")
        for one in as_built(project, build)
    )
    if rows:
        columns = _columns(("", 40), ("planned", 20), ("measured", 20), ("off", 20))
        yield SheetSection(heading="As built, beside as planned", table=SheetTable(columns=columns, rows=rows))


def _logbook(project: Project) -> Iterator[SheetSection]:
    rows = tuple((entry.at[:16].replace("T", " "), entry.kind, entry.text) for entry in project.logbook)
    if rows:
        yield SheetSection(
            heading="Logbook", table=SheetTable(columns=_columns(("at", 18), ("", 12), ("", 70)), rows=rows)
        )
