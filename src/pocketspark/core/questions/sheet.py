"""The build sheet: all that a maker takes to the bench, as lines, tables and pictures that page and paper both show."""

from collections.abc import Iterator, Sequence
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding, Level
from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.fit.build_in_bay import fitted_build
from pocketspark.core.fit.openings import Opening
from pocketspark.core.life.serving import serving
from pocketspark.core.message import NOTHING, Message, Value, capitalised, row_of, say, verbatim
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.as_built import as_built
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.shared_pack import shared_pack
from pocketspark.core.rules.causes import together
from pocketspark.core.steps import Step, procedure
from pocketspark.core.steps.step import Verdict
from pocketspark.core.units.figures import (
    amps,
    bare_length,
    bare_sizes,
    days,
    hours,
    length_unit,
    millimetres,
    ohms,
    signed_percent,
    volts,
)
from pocketspark.core.wiring.cutlist import CutWire, cut_list

PRACTICE = say("PRACTICE: nothing was soldered for this, and its readings can be simulated.")

NOTHING_TO_READ = "–"

SheetPicture = Literal["resistor", "hook_up", "views"]
# A box to tick, ticked where the work is done; room to write a reading, where none was taken.
ColumnKind = Literal["text", "tick", "write"]


class SheetLine(Model):
    """One line; `level` where it is a finding, `follows` where it comes of the finding before it."""

    text: Message
    level: Level | None = None
    follows: bool = False


class SheetColumn(Model):
    """One column of a table, and its share of the width."""

    name: Message
    share: float
    kind: ColumnKind = "text"


class SheetTable(Model):
    """Rows have as many texts as there are columns. In a column of ticks any text is a tick."""

    columns: tuple[SheetColumn, ...]
    rows: tuple[tuple[Message, ...], ...]


class SheetSection(Model):
    """A heading (empty at the top of the sheet), lines, a picture and a table, in this order."""

    heading: Message
    lines: tuple[SheetLine, ...] = ()
    picture: SheetPicture | None = None
    table: SheetTable | None = None


class BuildSheet(Model):
    """The whole sheet, in the order in which it is needed at the bench."""

    title: Message
    sections: tuple[SheetSection, ...]


def sheet_of(project: Project, build: int) -> BuildSheet:
    """Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    chain.required_running()
    seen = assess(project, build)
    steps = procedure(project, build).steps
    sections = (
        SheetSection(heading=NOTHING, lines=tuple(_top(project, chain, seen))),
        _parts(project, build),
        *_resistor(seen),
        _hook_up(chain, {step.key for step in steps if step.state == "done"}),
        *_where_it_lies(chain),
        *_on_the_pack(project, chain),
        SheetSection(
            heading=say("Cautions, before the first step"),
            lines=tuple(SheetLine(text=one.text) for one in seen.cautions),
        ),
        _steps(steps),
        *_as_built(project, build),
        *_logbook(project),
    )
    return BuildSheet(
        title=say("{gadget}: {build}", gadget=project.gadget.name, build=project.builds[build].name),
        sections=sections,
    )


def _on_the_pack(project: Project, chain: Chain) -> Iterator[SheetSection]:
    """A box that goes from gadget to gadget says itself what it may be clipped to."""
    if chain.build.also_feeds or chain.build.style == "stand_alone":
        label = shared_pack(project, chain.build_number).label
        yield SheetSection(heading=say("To be written on the pack"), lines=tuple(SheetLine(text=one) for one in label))


# The top ----------------------------------------------------------------------------------------------------------


def _top(project: Project, chain: Chain, seen: Assessment) -> Iterator[SheetLine]:
    """What must not be overlooked first; then the figures, the notes of the maker, and all that is softer."""
    if chain.build.practice:
        yield SheetLine(text=PRACTICE)
    if chain.build.record.fixed and not chain.build.practice:
        yield from _verdict(build_steps(project, chain.build_number).verdict)
    yield from _findings(seen, "stop")
    if seen.worth:
        yield SheetLine(text=seen.worth.says)
    yield SheetLine(text=_summary(seen))
    if served := serving(chain):
        yield SheetLine(text=say("{it}.", it=capitalised(served.says)))
    yield from (SheetLine(text=one.headline) for one in seen.findings if one.code == "power.recharge_by")
    yield from (SheetLine(text=verbatim(note)) for note in project.notes.splitlines())
    yield from _findings(seen, "caution", "note")


def _verdict(verdict: Verdict | None) -> Iterator[SheetLine]:
    """What the record proves once the case is open, and why it proves no more."""
    if verdict is not None:
        yield SheetLine(text=say("{verdict}.", verdict=verdict.label))
        yield from (SheetLine(text=reason) for reason in verdict.because)


def _summary(seen: Assessment) -> Message:
    lines = []
    if seen.charge:
        figures = {"resistor": ohms(seen.charge.r_prog_ohm), "current": amps(seen.charge.current_a)}
        if seen.charge.hours:
            lines.append(say("{resistor}, {current}, full in about {full}", full=hours(seen.charge.hours), **figures))
        else:
            lines.append(say("{resistor}, {current}, never ends", **figures))
    elif seen.charging:
        figures = {"current": amps(seen.charging.current_a)}
        charger = seen.charging.says
        if seen.charging.hours:
            full = hours(seen.charging.hours)
            lines.append(
                say("{current} from the {charger}, full in about {full}", charger=charger, full=full, **figures)
            )
        else:
            lines.append(say("{current} from the {charger}, never ends", charger=charger, **figures))
    if seen.gadget_v:
        lines.append(
            say("{most} to {least} at the gadget", most=volts(seen.gadget_v.max), least=volts(seen.gadget_v.min))
        )
    if seen.run and seen.run.served_days is not None:
        lines.append(
            say(
                "{used} as used, {unused} switched off",
                used=days(seen.run.served_days),
                unused=days(seen.run.standby_days),
            )
        )
    return row_of(lines, ";")


def _findings(seen: Assessment, *levels: str) -> Iterator[SheetLine]:
    """The causes of these levels, what else comes of each under it; what is only assumed says so."""
    for head, others in together(seen.findings):
        if head.level in levels:
            yield SheetLine(text=_said(head), level=head.level)
            for other in others:
                yield SheetLine(
                    text=say("of the same cause: {said}", said=_said(other)), level=other.level, follows=True
                )


def _said(finding: Finding) -> Message:
    return say("{headline} (assumed)", headline=finding.headline) if finding.assumed else finding.headline


# Parts and wires --------------------------------------------------------------------------------------------------


TICK = SheetColumn(name=NOTHING, share=4, kind="tick")


def _columns(*columns: tuple[Message, float]) -> tuple[SheetColumn, ...]:
    return tuple(SheetColumn(name=name, share=share) for name, share in columns)


def _parts(project: Project, build: int) -> SheetSection:
    rows = tuple(_row("", quantity, part, remark) for quantity, part, remark in bill_of_materials(project, build))
    columns = (TICK, *_columns((say("pieces"), 10), (say("part"), 46), (NOTHING, 40)))
    return SheetSection(heading=say("Parts"), table=SheetTable(columns=columns, rows=rows))


def _row(*cells: Value) -> tuple[Message, ...]:
    return tuple(cell if isinstance(cell, Message) else say("{cell}", cell=cell) if cell else NOTHING for cell in cells)


def _resistor(seen: Assessment) -> Iterator[SheetSection]:
    if seen.charge:
        look = seen.charge.fitted
        codes = ", ".join(filter(None, (look.chip_code, look.chip_code_4, look.eia96)))
        line = SheetLine(
            text=say("{look}: {bands}; chip {codes}", look=look.text, bands=" ".join(look.bands), codes=codes)
        )
        yield SheetSection(heading=say("Charge-current resistor"), lines=(line,), picture="resistor")


def _hook_up(chain: Chain, steps_done: set[str]) -> SheetSection:
    """A wire is on when it was ticked off, or its whole step is done."""
    done = steps_done | set(chain.build.record.soldered)
    rows = tuple(_wire(wire, done) for wire in cut_list(chain))
    columns = (
        TICK,
        *_columns(
            (say("wire"), 7),
            (say("from"), 22),
            (say("to"), 22),
            (say("cut"), 16),
            (say("gauge"), 18),
            (say("colour"), 11),
        ),
    )
    return SheetSection(heading=say("Hook-up"), picture="hook_up", table=SheetTable(columns=columns, rows=rows))


def _wire(wire: CutWire, done: set[str]) -> tuple[Message, ...]:
    start, end = (" ".join(pad.split(".")) for pad in (wire.start, wire.end))
    length = say("{length} (guessed)" if wire.guessed else "{length}", length=millimetres(wire.length_mm, 0))
    on = wire.step in done or f"{wire.start} to {wire.end}" in done
    return _row(_tick(on), wire.letter, start, end, length, wire.gauge, wire.colour)


def _tick(done: bool) -> Message:
    return say("done") if done else NOTHING


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
    sides = ((say("from the left"), 14), (say("from the front"), 14), (say("from the floor"), 14))
    columns = _columns((NOTHING, 4), (say("part"), 36), *sides, (say("turned"), 18))
    table = SheetTable(columns=columns, rows=rows)
    yield SheetSection(
        heading=say("Where it lies, {length_unit}", length_unit=length_unit()), picture="views", table=table
    )
    if answer.openings:
        names = (say("wall"), say("hole"), say("size"), say("from left edge"), say("from lower edge"))
        columns = (TICK, *_columns(*((name, 19.2) for name in names)))
        holes = SheetTable(columns=columns, rows=tuple(map(_hole, answer.openings)))
        yield SheetSection(
            heading=say("Holes, {length_unit}, seen from outside", length_unit=length_unit()), table=holes
        )


def _place(letter: str, part: Placement) -> tuple[Message, ...]:
    spans = [
        say("{low} to {high}", low=bare_length(low), high=bare_length(high))
        for low, high in zip(part.min_mm, part.max_mm, strict=True)
    ]
    return _row(letter, part.part, *spans, part.turned)


def _hole(opening: Opening) -> tuple[Message, ...]:
    size: Value = bare_sizes(opening.width_mm, opening.height_mm)
    if opening.round:
        size = say("dia. {across}", across=bare_length(opening.width_mm))
    at = bare_length(opening.across_mm), bare_length(opening.up_mm)
    return _row(NOTHING, opening.side, opening.what, size, *at)


# Steps and what was measured --------------------------------------------------------------------------------------


def _steps(steps: Sequence[Step]) -> SheetSection:
    columns = (
        TICK,
        *_columns((say("step"), 52), (say("checkpoint"), 28)),
        SheetColumn(name=say("reads"), share=16, kind="write"),
    )
    rows = tuple(_step(number, step) for number, step in enumerate(steps, 1))
    return SheetSection(heading=say("Steps"), table=SheetTable(columns=columns, rows=rows))


def _step(number: int, step: Step) -> tuple[Message, ...]:
    title = say("{number}. {title}.", number=number, title=step.title)
    if step.caution:
        title = say("{step} {caution}", step=title, caution=step.caution)
    if step.hold is None:
        return _row(_tick(step.state == "done"), title, NOTHING, NOTHING_TO_READ)
    limits = say("{quantity}: {limits}", quantity=step.hold.quantity, limits=step.hold.limits)
    return _row(_tick(step.state == "done"), title, limits, row_of((step.reads, step.origin)))


def _as_built(project: Project, build: int) -> Iterator[SheetSection]:
    rows = tuple(
        _row(one.what, one.planned, one.built, say("as planned") if one.same else signed_percent(one.off_share))
        for one in as_built(project, build)
    )
    if rows:
        columns = _columns((NOTHING, 40), (say("planned"), 20), (say("measured"), 20), (say("off"), 20))
        yield SheetSection(heading=say("As built, beside as planned"), table=SheetTable(columns=columns, rows=rows))


def _logbook(project: Project) -> Iterator[SheetSection]:
    rows = tuple(_row(entry.at[:16].replace("T", " "), entry.kind, entry.text) for entry in project.logbook)
    if rows:
        columns = _columns((say("at"), 18), (NOTHING, 12), (NOTHING, 70))
        yield SheetSection(heading=say("Logbook"), table=SheetTable(columns=columns, rows=rows))
