"""The last page of a conversion: what was promised, what was measured and where that is known from, and a label.

Made only of a finished build: every step done, every checkpoint passed or passed over with a reason.
"""

from collections.abc import Iterator
from typing import Any

from pocketspark.core.chain import Chain
from pocketspark.core.error import PocketSparkError
from pocketspark.core.life.unused import Unused
from pocketspark.core.message import say
from pocketspark.core.models import Project
from pocketspark.core.questions.as_built import as_built
from pocketspark.core.questions.assess import CAUTIONS
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.sheet import PRACTICE
from pocketspark.core.steps import Procedure
from pocketspark.core.units.figures import amp_hours, days, signed_percent, volts
from pocketspark.formats import paper
from pocketspark.formats.paper import PaperSize, heading, line, table


class NotFinished(PocketSparkError, ValueError):
    """Steps are left; the message says which is next."""

    status = 409


def to_pdf(project: Project, build: int, size: PaperSize = "a4") -> bytes:
    """The certificate with the labels for lid and jack. Raises MissingPart, NotFinished."""
    steps = build_steps(project, build)
    if not steps.finished:
        left = next((step.title for step in steps.steps if step.key == steps.next_step), "")
        raise NotFinished(say("this build is not finished: next is “{left}”", left=left))
    title = f"{project.gadget.name}: {project.builds[build].name}"
    assert steps.verdict is not None  # of a build that has steps
    return paper.to_pdf(f"{title}, {steps.verdict.label}", _story(project, build, steps, title), size)


def _story(project: Project, build: int, steps: Procedure, title: str) -> Iterator[Any]:
    chain = Chain(project, build)
    verdict = steps.verdict
    yield line(f"{verdict.label if verdict else ''}: {title}", 16, bold=True)
    for reason in verdict.because if verdict else ():
        yield line(str(reason), 9, bold=True)
    if steps.fixed_at:
        yield line(f"Held against the plan as it stood at the first cut, {steps.fixed_at[:10]}.", 9)
    if steps.practice:
        yield line(str(PRACTICE), 11, bold=True)
    yield heading("Promised, and measured")
    figures = as_built(project, build)
    if figures:
        rows = [(f.what, f.planned, f.built, "as promised" if f.same else signed_percent(f.off_share)) for f in figures]
        yield table([("", "promised", "measured", ""), *rows])
    else:
        yield line("Nothing that was promised has been measured.", 9)
    yield heading("Checkpoints")
    checked = [(s.title, s.hold.limits, s.reads, f"{s.origin} {s.at[:10]}") for s in steps.steps if s.hold]
    yield table([("step", "wanted", "read", "from, on"), *checked], widths=(80, 40, 20, 36))
    yield heading("Label, to cut out and glue into the lid")
    yield table([(text,) for text in _label(chain)], widths=(90,))
    if jack := jack_label(chain):
        yield heading("Label for its jack")
        yield table([(text,) for text in jack], widths=(60,))
    yield heading("Cautions")
    for caution in CAUTIONS:
        yield line(str(caution.text), 8)


def jack_label(chain: Chain) -> list[str]:
    """Where 5 V comes in by the gadget's own jack, which its old adapter still fits; none at a socket of USB."""
    way_in = chain.build.input
    if "centre" not in way_in.facts.asks or chain.build.who_charges != "board":
        return []
    pin = "not measured: do not use" if way_in.centre == "unknown" else way_in.centre
    return ["5 V ONLY", f"centre pin {pin}", "not its old adapter"]


def _label(chain: Chain) -> list[str]:
    """What the next person who opens it, or plugs something in, has to know."""
    running = chain.required_running()
    cell = running.cell
    lines = ["CONVERTED: lithium cell inside" + (" (PRACTICE)" if chain.build.practice else "")]
    lines.append(f"{amp_hours(running.chosen.capacity_ah)}, full at {volts(cell.facts.full_v)}. No other batteries.")
    lines.append("Charge with 5 V only. Never leave a first charge alone.")
    if chain.gadget.existing_charging.kind != "none":
        lines.append("Plug nothing into its old jack or contacts.")
    if chain.build.use_while_charging == "off":
        lines.append("Switch it off while it charges.")
    lines.append(f"Unused, charge it within {days(Unused(running).recharge_days)}.")
    lines.append("Swollen, hot or smelling: unplug, take it outside, recycle it.")
    return lines
