"""The command line behind ./spark: demo, serve, assess."""

import json
import shutil
import socket
from pathlib import Path
from typing import Annotated

import typer

from pocketspark.core.fit.in_words import in_words as fit_in_words
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.remedies import remedies_for
from pocketspark.core.logs.analysis import analyse
from pocketspark.core.logs.analysis import in_words as log_in_words
from pocketspark.core.logs.log import TooShort
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment
from pocketspark.core.units.figures import amps, days, hours, ohms, volts
from pocketspark.core.units.quantity import NotAQuantity
from pocketspark.core.units.quantity import read as read_quantity
from pocketspark.formats import project_json
from pocketspark.formats.log_csv import AnalysedLog, UnreadableLog, read_log
from pocketspark.server.settings import ROOT, Settings

app = typer.Typer(add_completion=False, no_args_is_help=True, pretty_exceptions_enable=False)

DEFAULT_PORT = 8431
Port = Annotated[int, typer.Option(help="0 picks a free one.")]
Host = Annotated[str, typer.Option(help="Loopback unless you mean to open it to your network.")]


@app.command()
def demo(port: Port = DEFAULT_PORT, host: Host = "127.0.0.1", fresh: bool = False) -> None:
    """Start with the demo conversions; --fresh forgets what was changed in them."""
    data = ROOT / "build" / "demo-data"
    if fresh:
        shutil.rmtree(data, ignore_errors=True)
    _start(Settings(data=data, demo=True), host, port)


@app.command()
def serve(port: Port = DEFAULT_PORT, host: Host = "127.0.0.1", data: Path | None = None) -> None:
    """Start with your own data."""
    _start(Settings(data=data) if data else Settings(), host, port)


@app.command("assess")
def assess_file(
    file: Path,
    build: Annotated[int, typer.Option(help="Which build, counted from 1.")] = 1,
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Judge a project file."""
    project = _read(file, build)
    seen = assess(project, build - 1)
    if as_json:
        typer.echo(json.dumps(seen.model_dump(mode="json"), indent=2, ensure_ascii=False))
    else:
        typer.echo(f"{project.gadget.name}: {project.builds[build - 1].name}\n{in_words(seen)}")


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
        raise _refused("gadget.bay: nothing is known of the bay, or no part of the build has a size")
    answer = answer.model_copy(update={"remedies": remedies_for(project, build - 1)})
    if as_json:
        typer.echo(json.dumps(answer.model_dump(mode="json"), indent=2, ensure_ascii=False))
        return
    typer.echo(f"{project.gadget.name}: {fit_in_words(answer)}")
    for placement in answer.placements:
        low, high = (" ".join(f"{mm:6.1f}" for mm in point) for point in (placement.min_mm, placement.max_mm))
        typer.echo(f"  {low}  to {high}  {placement.part}, {placement.turned}")
    if answer.conflict:
        typer.echo(f"  conflict: {', '.join(answer.conflict)}")
    for given in answer.remedies:
        typer.echo(f"  - {given.says}")
    for hole in answer.openings:
        size = f"{hole.width_mm:.1f} x {hole.height_mm:.1f} mm"
        typer.echo(f"  o {hole.side}: {hole.what} {size}, {hole.across_mm:.1f} across, {hole.up_mm:.1f} up")


@app.command("analyse")
def analyse_log(
    file: Path,
    plan: Annotated[str, typer.Option(help="The planned charge current, like '400 mA'.")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="As data, not words.")] = False,
) -> None:
    """Read a log of a charge or a run-down (CSV) and say what it shows."""
    try:
        taken = read_log(file.read_bytes())
        plan_a = read_quantity(plan, "A") if plan else None
    except OSError:
        raise _refused(f"{file} cannot be read") from None
    except (UnreadableLog, TooShort, NotAQuantity) as error:
        raise _refused(str(error)) from None
    seen = analyse(taken.log, plan_a=plan_a)
    if as_json:
        answer = AnalysedLog(**dict(seen), bad_rows=taken.bad_rows)
        typer.echo(json.dumps(answer.model_dump(mode="json"), indent=2, ensure_ascii=False))
        return
    typer.echo(log_in_words(seen))
    for row in taken.bad_rows[:10]:
        typer.echo(f"left out, line {row.line}: {row.why}", err=True)
    if len(taken.bad_rows) > 10:
        typer.echo(f"and {len(taken.bad_rows) - 10} more lines left out", err=True)


def _read(file: Path, build: int) -> Project:
    """A project file that has this build, counted from 1; else a sentence and exit code 2."""
    try:
        project = project_json.loads(file.read_bytes())
    except OSError:
        raise _refused(f"{file} cannot be read") from None
    except project_json.UnreadableProject as error:
        raise _refused(str(error)) from None
    if not 1 <= build <= len(project.builds):
        raise _refused(f"builds: this project has builds 1 to {len(project.builds)}, not {build}")
    return project


def in_words(seen: Assessment) -> str:
    """The assessment as a maker reads it in a terminal."""
    lines = []
    if charge := seen.charge:
        ends = f"full in about {hours(charge.hours)}" if charge.hours else "never ends"
        spread = f"{amps(charge.current_least_a)} to {amps(charge.current_most_a)}"
        lines.append(f"Charge: {ohms(charge.r_prog_ohm)}, {amps(charge.current_a)} ({spread}), {ends}")
    if seen.gadget_v:
        lines.append(f"Gadget: {volts(seen.gadget_v.max)} to {volts(seen.gadget_v.min)}")
    for mode in seen.run.modes if seen.run else ():
        lines.append(f"Runs:   {hours(mode.hours)} {mode.name}, ended by the {mode.stopped_by}")
    if seen.run and seen.run.days:
        lines.append(f"Lasts:  {days(seen.run.days)} as used, {days(seen.run.standby_days)} switched off")
    lines.append("")
    for finding in seen.findings:
        assumed = " (assumed)" if finding.assumed else ""
        lines.append(f"{finding.level.upper():8}{finding.headline}{assumed}  [{finding.code}]")
        if finding.working and finding.level != "pass":
            lines.append(f"        {finding.working}")
    return "\n".join([*lines, "", *seen.cautions])


def _refused(sentence: str) -> typer.Exit:
    typer.echo(sentence, err=True)
    return typer.Exit(2)


def _start(settings: Settings, host: str, port: int) -> None:
    import uvicorn

    from pocketspark.server.app import create_app
    from pocketspark.server.log import log_into
    from pocketspark.store.database import NewerData

    if host not in settings.hosts and host not in ("0.0.0.0", "::"):
        settings.hosts.append(host)
    elif host in ("0.0.0.0", "::"):
        settings.hosts = ["*"]
    log_into(settings.data)
    try:
        web_app = create_app(settings)
    except NewerData as refusal:
        raise _refused(str(refusal)) from None
    listener = _listen(host, port)
    address, actual = listener.getsockname()[:2]
    listener.listen(128)  # so that whoever reads the next line may connect at once
    typer.echo(f"Pocket Spark is at http://{address}:{actual}  (Ctrl+C ends it; data in {settings.data})")
    config = uvicorn.Config(web_app, log_level="warning", timeout_graceful_shutdown=1)
    uvicorn.Server(config).run(sockets=[listener])


def _listen(host: str, port: int) -> socket.socket:
    """Bind the wanted port, or the next free one where it is taken."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    # Named as TCP, or asyncio leaves its small-packet delay on and every answer takes 40 ms longer.
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError:
        typer.echo(f"Port {port} is taken; using a free one.", err=True)
        listener.bind((host, 0))
    return listener


if __name__ == "__main__":
    app()
