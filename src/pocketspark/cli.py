"""The command line behind ./spark: demo, serve, backup, restore, assess, fit, plan, analyse, stand-ins."""

import json
import shutil
import sys
from collections.abc import Iterator
from contextlib import suppress
from datetime import date
from pathlib import Path
from typing import Annotated

import typer
from pydantic import ValidationError
from sqlalchemy.exc import DBAPIError

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding
from pocketspark.core.fit.answer_in_words import in_words as fit_in_words
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.life.serving import serving
from pocketspark.core.logs.analysis import LogFinding, analyse
from pocketspark.core.logs.analysis import in_words as log_in_words
from pocketspark.core.logs.log import TooShort
from pocketspark.core.logs.plausible import MENDS, MendKey
from pocketspark.core.message import Message, Value, all_of, row_of, say, say_of
from pocketspark.core.models import Project
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.models.load_words import UnreadableLoad
from pocketspark.core.proposals import Proposal, Wishes, proposals
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment, ModeSummary
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.load_as_lived import read_load_line
from pocketspark.core.refusal import refusals
from pocketspark.core.rules.causes import together
from pocketspark.core.steps.fixing import as_read_from_file
from pocketspark.core.units.figures import amps, bare_length, days, fixed, hours, ohms, sizes, volts
from pocketspark.core.units.quantity import NotAQuantity
from pocketspark.core.units.quantity import read as read_quantity
from pocketspark.core.units.reading import read_as, reading_named
from pocketspark.formats import project_json
from pocketspark.formats.log_csv import AnalysedLog, UnreadableLog, read_log
from pocketspark.instruments.load_stand_in import CellFault
from pocketspark.instruments.stand_ins import LineFault
from pocketspark.instruments.supply_stand_in import GadgetFault
from pocketspark.server.settings import ROOT, Settings
from pocketspark.wording import in_language

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)
packs = typer.Typer(no_args_is_help=True, help="Packs of parts that others have measured.")
app.add_typer(packs, name="pack")

DEFAULT_PORT = 8431
Port = Annotated[int, typer.Option(help="0 picks a free one.")]
Host = Annotated[str, typer.Option(help="An address of this machine; one beyond the loopback wants --lan.")]
Lan = Annotated[bool, typer.Option("--lan", help="Open to paired devices on your network as well, encrypted.")]
Load = Annotated[
    str, typer.Option(help="What it draws and when, in the place of the file's: '62 mA, 3 h each evening'.")
]
Data = Annotated[Path | None, typer.Option(help="The data folder; your own unless named.")]


@app.callback()
def main(
    context: typer.Context,
    units: Annotated[str, typer.Option(help="Of what is written: in, F, or in.F.")] = "",
    language: Annotated[str, typer.Option(help="In which answers are written: en, de.")] = "en",
) -> None:
    """Converts battery-powered gadgets to a USB-rechargeable lithium cell."""
    context.with_resource(read_as(in_language(reading_named(units), language)))


@app.command()
def demo(port: Port = DEFAULT_PORT, host: Host = "127.0.0.1", fresh: bool = False, lan: Lan = False) -> None:
    """Start with the demo conversions; --fresh forgets what was changed in them."""
    data = ROOT / "build" / "demo-data"
    if fresh:
        shutil.rmtree(data, ignore_errors=True)
    _start(Settings(data=data, demo=True), _host_for(host, lan), port, lan)


@app.command()
def serve(
    port: Port = DEFAULT_PORT,
    host: Host = "127.0.0.1",
    data: Data = None,
    lan: Lan = False,
    copies: Annotated[Path | None, typer.Option(help="Another disk or a stick that gets each copy too.")] = None,
) -> None:
    """Start with your own data."""
    settings = _settings(data)
    if copies:
        settings.copies = copies.absolute()
    _start(settings, _host_for(host, lan), port, lan)


@app.command("backup")
def back_up_data(
    file: Annotated[Path | None, typer.Argument(help="pocket-spark-DATE.sqlite in this folder unless named.")] = None,
    data: Data = None,
    history: Annotated[bool, typer.Option(help="With every earlier state of each conversion.")] = True,
) -> None:
    """Write everything into one file; Pocket Spark may be running meanwhile."""
    from pocketspark.core.error import PocketSparkError
    from pocketspark.store.backup import back_up
    from pocketspark.store.database import FILE_NAME, close_database, open_database, why_not

    folder = _settings(data).data
    if not (folder / FILE_NAME).exists():
        raise _refused(say("there is no data in {folder}", folder=str(folder)))
    file = file or Path(f"pocket-spark-{date.today():%Y-%m-%d}.sqlite")
    if file.exists():
        raise _refused(say("{file} is there already; name another file", file=str(file)))
    try:
        engine = open_database(folder)
        back_up(engine, file, history=history)
        close_database(engine)
    except PocketSparkError as refusal:
        raise _refused(str(refusal)) from None
    except (OSError, DBAPIError) as error:
        raise _refused(str(why_not(error, file.absolute().parent))) from None
    typer.echo(say("{file} holds everything that is in {folder}", file=str(file), folder=str(folder)))


@app.command("restore")
def restore_data(file: Path, data: Data = None) -> None:
    """Put a backup into a folder that holds no data yet."""
    from pocketspark.core.error import PocketSparkError
    from pocketspark.store.backup import restore

    folder = _settings(data).data
    try:
        conversions = restore(file, folder)
    except PocketSparkError as refusal:
        raise _refused(str(refusal)) from None
    except OSError as error:
        raise _refused(
            say("{folder} cannot be written to: {why}", folder=str(folder), why=str(error.strerror))
        ) from None
    typer.echo(
        say_of(
            conversions,
            "{folder} now holds what was in {file}, one conversion; start with ./spark serve",
            "{folder} now holds what was in {file}, {count} conversions; start with ./spark serve",
            folder=str(folder),
            file=str(file),
        )
    )


@packs.command("check")
def check_pack(file: Path) -> None:
    """Say whether a file is a pack of parts, and what is in it."""
    from collections import Counter

    from pocketspark.core.error import PocketSparkError
    from pocketspark.parts import read_pack

    try:
        pack = read_pack(file.read_bytes())
    except PocketSparkError as refusal:
        raise _refused(f"{file}: {refusal}") from None
    except OSError as error:
        raise _refused(say("{file} cannot be read: {why}", file=str(file), why=str(error.strerror))) from None
    typer.echo(
        say(
            "{title} {version}, from {origin}, licence: {licence}",
            title=pack.title,
            version=pack.version,
            origin=pack.origin,
            licence=pack.licence,
        )
    )
    for kind, count in Counter(part.kind for part in pack.parts).items():
        typer.echo(f"{count:4d}  {kind}")
    typer.echo(say("It is a pack. Put it into the folder packs of your data, and start Pocket Spark anew."))


@app.command("stand-ins")
def start_stand_ins(
    file: Annotated[Path | None, typer.Argument(help="A project file: its build is charged.")] = None,
    build: Annotated[int, typer.Option(help="Which build, counted from 1.")] = 1,
    speed_up: Annotated[float, typer.Option(min=1, max=20_000, help="So many times as fast as it would happen.")] = 60,
    fault: Annotated[LineFault | None, typer.Option(help="What is wrong with the serial line.")] = None,
    gadget_fault: Annotated[GadgetFault | None, typer.Option(help="What is wrong with the gadget.")] = None,
    cell_fault: Annotated[CellFault | None, typer.Option(help="What is wrong with the cell on test.")] = None,
    port: Annotated[int, typer.Option(help="Of the SCPI meter; 0 picks a free one.")] = 5025,
    supply_port: Annotated[int, typer.Option(help="Of the SCPI supply; 0 picks a free one.")] = 5026,
    load_port: Annotated[int, typer.Option(help="Of the SCPI load; 0 picks a free one.")] = 5027,
    charge_port: Annotated[int, typer.Option(help="Of the SCPI supply beside it; 0 picks a free one.")] = 5028,
) -> None:
    """Start a simulated board and SCPI meter at one charge, a simulated supply at its gadget, a load at its cell."""
    import threading

    from pocketspark.core.error import PocketSparkError
    from pocketspark.instruments import Bench, Meter, bench_of, charge_log
    from pocketspark.instruments.load_stand_in import LoadStandIn, SimulatedLoad, cell_on_test
    from pocketspark.instruments.stand_ins import BoardStandIn, ScpiStandIn, on_the_bench
    from pocketspark.instruments.supply_stand_in import SimulatedSupply, SupplyStandIn, drawn_by

    project = None if file is None else _read(file, build)
    try:
        bench = Bench() if project is None else bench_of(Chain(project, build - 1))
    except PocketSparkError as refusal:
        raise _refused(str(refusal)) from None
    running = on_the_bench(charge_log(bench, Meter()), speed_up)
    on_test = SimulatedLoad(cell_on_test(project, cell_fault), speed_up)
    with (
        BoardStandIn(running, Settings().ports / "simulated-board", fault=fault) as board,
        ScpiStandIn(running, port) as meter,
        SupplyStandIn(SimulatedSupply(drawn_by(project, gadget_fault)), supply_port) as supply,
        LoadStandIn(on_test, load_port) as load,
        SupplyStandIn(on_test.with_supply(), charge_port) as beside,
    ):
        typer.echo(f"serial line   {board.link}")
        typer.echo(f"SCPI          {meter.address}")
        typer.echo(f"SCPI supply   {supply.address}")
        typer.echo(f"SCPI load     {load.address}")
        typer.echo(f"and a supply  {beside.address}")
        typer.echo(say("All are simulated: connect them at Prove, Survey or Your parts. Ctrl-C ends them."))
        with suppress(KeyboardInterrupt):
            threading.Event().wait()


def _settings(data: Path | None) -> Settings:
    return Settings(data=data) if data else Settings()


def _host_for(host: str, lan: bool) -> str:
    """With --lan and no host named, every address that this machine has."""
    return "0.0.0.0" if lan and host == "127.0.0.1" else host


@app.command("assess")
def assess_file(
    file: Path,
    build: Annotated[int, typer.Option(help="Which build, counted from 1.")] = 1,
    load: Load = "",
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Judge a project file."""
    project = _with_load(_read(file, build), load)
    seen = assess(project, build - 1)
    if as_json:
        typer.echo(json.dumps(seen.model_dump(mode="json"), indent=2, ensure_ascii=False))
    else:
        typer.echo(f"{project.gadget.name}: {project.builds[build - 1].name}\n{in_words(seen)}")
        further = (*_years_in_words(project, build - 1), *_record_in_words(project, build - 1))
        typer.echo("".join(f"{line}\n" for line in further), nl=False)


def _years_in_words(project: Project, build: int) -> Iterator[str]:
    if served := serving(Chain(project, build)):
        yield f"Over the years: {served.says}."


def _record_in_words(project: Project, build: int) -> Iterator[str]:
    """What the record proves and its reasons; nothing before anything has been done."""
    if not any(step.done for step in project.builds[build].record.steps) or project.builds[build].cell is None:
        return
    verdict = build_steps(as_read_from_file(project, date.today().isoformat()), build).verdict
    if verdict is not None:
        yield str(say("Its record: {verdict}.", verdict=verdict.label))
        yield from (f"  {reason}" for reason in verdict.because)


@app.command("fit")
def fit_file(
    file: Path,
    build: Annotated[int, typer.Option(help="Which build, counted from 1.")] = 1,
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Say whether a project goes into its bay, where, and what must give."""
    project = _read(file, build)
    answer = fit_of(project, build - 1)
    if answer is None:
        raise _refused(say("gadget.bay: nothing is known of the bay, or no part of the build has a size"))
    answer = answer.model_copy(update={"remedies": remedies_for(project, build - 1)})
    if as_json:
        typer.echo(json.dumps(answer.model_dump(mode="json"), indent=2, ensure_ascii=False))
        return
    typer.echo(f"{project.gadget.name}: {fit_in_words(answer)}")
    for placement in answer.placements:
        low, high = (
            " ".join(f"{bare_length(mm):>6}" for mm in point) for point in (placement.min_mm, placement.max_mm)
        )
        typer.echo(f"  {low}  to {high}  {placement.part}, {placement.turned}")
    if answer.conflict:
        typer.echo(f"  {say('conflict: {parts}', parts=all_of(answer.conflict))}")
    for given in answer.remedies:
        typer.echo(f"  - {given.says}")
    for hole in answer.openings:
        where = say(
            "{side}: {what} {size}, {across} across, {up} up",
            side=hole.side,
            what=hole.what,
            size=sizes(hole.width_mm, hole.height_mm),
            across=bare_length(hole.across_mm),
            up=bare_length(hole.up_mm),
        )
        typer.echo(f"  o {where}")


@app.command("plan")
def plan_builds(
    file: Path,
    build: Annotated[int, typer.Option(help="Whose style, source and way of use are meant, counted from 1.")] = 1,
    wish: Annotated[
        list[str] | None, typer.Option(help=f"Any of {', '.join(Wishes.model_fields)}; as price_at_most=9.")
    ] = None,
    load: Load = "",
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Propose builds for the gadget in a project file: every combination of the library's parts, the best few told."""
    from pocketspark.parts import library
    from pocketspark.server.proposals import on_offer

    wishes = _wishes(wish or [])
    last = None
    for last in proposals(_with_load(_read(file, build), load), build - 1, on_offer(library()), wishes):
        if sys.stderr.isatty():
            settled = say("{settled} of {builds} builds settled", settled=last.settled, builds=last.builds)
            typer.echo(f"\r{settled}", err=True, nl=False)
    if sys.stderr.isatty():
        typer.echo("", err=True)
    if last is None:
        raise _refused(say("measure one current of the gadget first: without it no build has hours"))
    if as_json:
        typer.echo(json.dumps(last.model_dump(mode="json"), indent=2, ensure_ascii=False))
        return
    if best := last.recommended:
        typer.echo(say("Build {parts}: {because}", parts=_parts_in_words(last.front[best.place]), because=best.because))
        if best.runner_up is not None and best.instead is not None:
            typer.echo(
                say("Or {parts}: {instead}", parts=_parts_in_words(last.front[best.runner_up]), instead=best.instead)
            )
    for one in last.front:
        if one.because:
            typer.echo(f"{one.because}: {_parts_in_words(one)}")
            if one.otherwise:
                typer.echo(f"  {one.otherwise}")
            figures = say(
                "{hours}, full in {full}, {price} in all",
                hours=hours(one.hours),
                full=hours(one.full_h),
                price=fixed(one.price, 2),
            )
            typer.echo(f"  {figures}")
    for line in last.fell:
        typer.echo(f"{line.count:8}  {line.station:6}  {line.reason}")
    for mind in last.minded:
        unless = say("unless {option}: {says}", option=f"--wish fine_cautions={mind.code}", says=mind.says)
        typer.echo(f"{mind.count:8}  {unless}")


def _parts_in_words(one: Proposal) -> str:
    return "; ".join((one.cell, ", ".join((one.charger, *one.others))))


def _wishes(words: list[str]) -> Wishes:
    """Each a field of the wishes by its name; one that takes a figure has it behind "="."""
    pairs = (one.partition("=") for one in words)
    try:
        wished: dict[str, object] = {key.replace("-", "_"): value if equals else True for key, equals, value in pairs}
        if isinstance(codes := wished.get("fine_cautions"), str):
            wished["fine_cautions"] = codes.split(",")
        return Wishes.model_validate(wished)
    except ValidationError as error:
        raise _refused(f"--wish {refusals(error)[0]}") from None


@app.command("analyse")
def analyse_log(
    file: Path,
    plan: Annotated[str, typer.Option(help="The planned charge current, like '400 mA'.")] = "",
    cell_class: Annotated[
        str, typer.Option("--class", help=f"The cell's class: {', '.join(CELL_CLASSES)}.")
    ] = "li_4v20",
    capacity: Annotated[str, typer.Option(help="What the cell is said to hold, like '900 mAh'.")] = "",
    mend: Annotated[
        list[str] | None, typer.Option(help="How doubtful figures are meant; asked for where needed.")
    ] = None,
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Read a log of a charge or a run-down (CSV) and say what it shows."""
    try:
        taken = read_log(file.read_bytes(), mends=_mends(mend or []))
        plan_a = read_quantity(plan, "A") if plan else None
        label_ah = read_quantity(capacity, "Ah") if capacity else None
    except OSError:
        raise _refused(say("{file} cannot be read", file=str(file))) from None
    except (UnreadableLog, TooShort, NotAQuantity) as error:
        raise _refused(str(error)) from None
    if cell_class not in CELL_CLASSES:
        raise _refused(say("{option} is one of {classes}", option="--class", classes=row_of(CELL_CLASSES)))
    if taken.doubts:
        ways = [
            f"{doubt.says} " + "; or ".join(f"{m.label}: --mend {m.key}" for m in doubt.mends) for doubt in taken.doubts
        ]
        raise _refused("\n".join(ways))
    for line in taken.says:
        typer.echo(line, err=True)
    seen = analyse(
        taken.log, cell_class=cell_class, plan_a=plan_a, kind=taken.kind, unseen_s=taken.unseen_s, label_ah=label_ah
    )
    if as_json:
        answer = AnalysedLog(**dict(seen), bad_rows=taken.bad_rows)
        typer.echo(json.dumps(answer.model_dump(mode="json"), indent=2, ensure_ascii=False))
        return
    typer.echo("\n".join([*map(str, log_in_words(seen)), *map(_log_line, seen.findings)]))
    for row in taken.bad_rows[:10]:
        typer.echo(say("left out, line {line}: {why}", line=row.line, why=row.why), err=True)
    if len(taken.bad_rows) > 10:
        typer.echo(say("and {count} more lines left out", count=len(taken.bad_rows) - 10), err=True)


def _mends(keys: list[str]) -> list[MendKey]:
    known = [key for key in dict.fromkeys(keys) if key in MENDS or key.removeprefix("piece").isdecimal()]
    if len(known) < len(set(keys)):
        raise _refused(
            say("{option} is one of {mends}, or piece1, piece2 and so on", option="--mend", mends=row_of(MENDS))
        )
    return known


def _with_load(project: Project, line: str) -> Project:
    if not line:
        return project
    try:
        return project.apply(read_load_line(project, line).edits)
    except UnreadableLoad as error:
        raise _refused(f"--load: {error}") from None


def _read(file: Path, build: int) -> Project:
    """A project file that has this build, counted from 1; else a sentence and exit code 2."""
    try:
        project = project_json.loads(file.read_bytes())
    except OSError:
        raise _refused(say("{file} cannot be read", file=str(file))) from None
    except project_json.UnreadableProject as error:
        raise _refused(str(error)) from None
    if not 1 <= build <= len(project.builds):
        raise _refused(
            say("builds: this project has builds 1 to {most}, not {build}", most=len(project.builds), build=build)
        )
    return project


def in_words(seen: Assessment) -> str:
    """The assessment as a maker reads it in a terminal."""
    lines = _worth_in_words(seen)
    if charge := seen.charge:
        charges = say(
            "Charge: {r_prog}, {current} ({least} to {most}), {ends}",
            r_prog=ohms(charge.r_prog_ohm),
            current=amps(charge.current_a),
            least=amps(charge.current_least_a),
            most=amps(charge.current_most_a),
            ends=_ends(charge.hours),
        )
        lines.append(str(charges))
    elif other := seen.charging:
        charges = say(
            "Charge: {current} from the {charger}, {ends}",
            current=amps(other.current_a),
            charger=other.says,
            ends=_ends(other.hours),
        )
        lines.append(str(charges))
    if seen.gadget_v:
        span = {"most": volts(seen.gadget_v.max), "least": volts(seen.gadget_v.min)}
        lines.append(str(say("Gadget: {most} to {least}", **span)))
    for mode in seen.run.modes if seen.run else ():
        lines.append(str(_run_in_words(mode)))
    if seen.run and seen.run.served_days is not None:
        lasts = {"used": days(seen.run.served_days), "off": days(seen.run.standby_days)}
        lines.append(str(say("Lasts:  {used} as used, {off} switched off", **lasts)))
    lines.append("")
    for head, others in together(seen.findings):
        lines.extend(_told(head))
        for consequence in others:
            lines.extend(f"    {line}" for line in _told(consequence))
    lines.extend(line for finding in seen.findings if finding.level == "pass" for line in _told(finding))
    return "\n".join([*lines, "", *(str(caution.text) for caution in seen.cautions)])


def _ends(after_h: float | None) -> Message:
    return say("full in about {hours}", hours=hours(after_h)) if after_h else say("never ends")


def _run_in_words(mode: ModeSummary) -> Message:
    figures: dict[str, Value] = {"hours": hours(mode.hours), "mode": mode.name, "who": mode.stopped_by}
    if mode.service_hours is None:
        return say("Runs:   {hours} {mode}, ended by the {who}", **figures)
    served = hours(mode.service_hours)
    return say("Runs:   {hours} {mode} ({served} of them doing its job), ended by the {who}", served=served, **figures)


def _worth_in_words(seen: Assessment) -> list[str]:
    """The answer first, its reasons, and what would change it."""
    if seen.worth is None:
        return []
    reasons = (f"  {reason.title}. {reason.text}" for reason in seen.worth.reasons)
    changes = (f"  or: {change.text}" for change in seen.worth.changes)
    return [str(seen.worth.says), *reasons, *changes, ""]


def _log_line(finding: LogFinding) -> str:
    return f"{finding.level.upper():8}{finding.headline}  [{finding.code}]"


def _told(finding: Finding) -> Iterator[str]:
    assumed = " (assumed)" if finding.assumed else ""
    yield f"{finding.level.upper():8}{finding.headline}{assumed}  [{finding.code}]"
    if finding.working and finding.level != "pass":
        yield f"        {finding.working}"


def _not_writable(folder: Path, error: OSError) -> Message:
    return say("{folder} cannot be written to: {why}", folder=str(folder), why=str(error.strerror))


def _refused(sentence: str | Message) -> typer.Exit:
    typer.echo(str(sentence), err=True)
    return typer.Exit(2)


def _start(settings: Settings, host: str, port: int, lan: bool = False) -> None:
    from pocketspark.server.own_log import log_into
    from pocketspark.server.serve import LOOPBACK, NotOnTheNetwork, serve_until_stopped
    from pocketspark.store.database import UnusableData

    if host not in LOOPBACK and not lan:
        raise _refused(
            say("{host} is open to your network: add --lan, and pair each device that may use Pocket Spark", host=host)
        )
    try:
        log_into(settings.data)
        serve_until_stopped(settings, "127.0.0.1" if lan else host, port, lan_host=host if lan else None)
    except (UnusableData, NotOnTheNetwork) as refusal:
        raise _refused(str(refusal)) from None
    except OSError as error:
        raise _refused(
            say("{folder} cannot be written to: {why}", folder=str(settings.data), why=str(error.strerror))
        ) from None


if __name__ == "__main__":
    app()
