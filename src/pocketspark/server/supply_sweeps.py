"""Routes of a sweep with a programmable supply: begun, looked at while it goes on, stopped. Nobody looks: it is off."""

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import Field

from pocketspark.core.load_laws.supply_sweep import (
    STEP_S,
    Seen,
    SweepPlan,
    SweepTold,
    SweptStep,
    next_step,
    sleep_plan,
    sweep_plan,
    told_by,
)
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model, RowNumber
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.models.project import APPENDED, Edit
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps, volts
from pocketspark.instruments.gadget_sweep import swept
from pocketspark.instruments.guarded_instrument import Guarded
from pocketspark.server.asking import OurProjects, Question, read_question
from pocketspark.server.bench_runs import BenchRun, BenchState, OneAtATime
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api/instruments/supply-sweep", tags=["instruments"], responses=PROBLEM_RESPONSES)

# A bench supply tells less than so much from nothing, or wrongly (common practice, no source).
LEAST_SURE_A = 1e-3

SweepOf = Literal["mode", "sleep"]


@dataclass(kw_only=True)
class SupplySweep(BenchRun):
    """One sweep, and its steps so far."""

    project: Project
    mode: str
    of: SweepOf
    plan: SweepPlan
    address: str
    steps: list[SweptStep] = field(default_factory=list)
    seen: Seen = ""
    introduces: str = ""

    def is_whole_after_work(self) -> bool:
        supply = None
        try:
            with Guarded("supply", self.address) as supply:
                self.simulated, self.introduces = supply.simulated, supply.introduces
                for step in swept(supply, self.plan, self.stop, self.is_looked_at, self._said):
                    self.steps.append(step)
        finally:
            self.left_off = None if supply is None else supply.was_left_off
        return next_step(self.plan, self.steps) is None

    def _said(self) -> Seen:
        """Once: it belongs to the step during which it was said."""
        said, self.seen = self.seen, ""
        return said

    @property
    def told(self) -> SweepTold:
        return told_by(self.steps)


SupplySweeps = OneAtATime[SupplySweep]


def sweeps_of(request: Request) -> SupplySweeps:
    sweeps: SupplySweeps = request.app.state.supply_sweeps
    return sweeps


OurSweeps = Annotated[SupplySweeps, Depends(sweeps_of)]


class SupplySweepQuestion(Question):
    """A document, the mode by its id that the gadget is switched to (or its sleep), and where the supply answers."""

    mode: Annotated[str, Field(max_length=60)] = ""
    of: SweepOf = "mode"
    step_s: Annotated[float, Field(ge=0, le=20)] = STEP_S
    address: Annotated[str, Field(min_length=1, max_length=200), ON_ONE_LINE]


class SweptReading(Model):
    """One step of a sweep."""

    volts: ShownVolts
    current_a: ShownAmps


class SweepNews(Model):
    """How far it is. `edits` put what was read into the survey; empty where that may not be. `at`: the step before."""

    id: int
    of: SweepOf
    state: BenchState
    says: Message
    failure: str
    at: SweptReading | None
    share: float
    results: tuple[Message, ...]
    simulated: bool
    introduces: str
    edits: tuple[Edit, ...]


class SeenAtGadget(Model):
    """What whoever watches the gadget has just seen."""

    seen: Literal["stopped", "started"]


@router.post("", status_code=201)
def start_sweep(question: SupplySweepQuestion, projects: OurProjects, sweeps: OurSweeps) -> SweepNews:
    """Begins at the fresh volts of the old batteries, and goes down. Its limits are set in the supply first."""
    project = read_question(question, projects).project
    modes = project.gadget.modes
    mode = next((one for one in modes if one.id == question.mode), next(iter(modes), None))
    if mode is None:
        raise HTTPException(409, say("add the mode first that the gadget is switched to"))
    gadget, step_s = project.gadget, question.step_s
    plan = sleep_plan(gadget, step_s) if question.of == "sleep" else sweep_plan(gadget, mode, step_s)
    sweep = SupplySweep(project=project, mode=mode.id, of=question.of, plan=plan, address=question.address)
    return _news(sweeps.start(sweep))


@router.get("/{sweep_id}")
def look_at_sweep(sweep_id: RowNumber, sweeps: OurSweeps) -> SweepNews:
    """To be asked twice a second: where nobody asks, it stops."""
    return _news(sweeps.looked_at(sweep_id))


@router.post("/{sweep_id}/seen", status_code=204)
def say_what_was_seen(sweep_id: RowNumber, what: SeenAtGadget, sweeps: OurSweeps) -> None:
    """It counts for the volts at which the gadget is just now."""
    sweeps.get(sweep_id).seen = what.seen


@router.delete("/{sweep_id}", status_code=204)
def stop_sweep(sweep_id: RowNumber, sweeps: OurSweeps) -> None:
    """Answers when the supply is off."""
    sweeps.get(sweep_id)
    sweeps.stop()


def _news(sweep: SupplySweep) -> SweepNews:
    ended = sweep.state != "running"
    may_stay = not sweep.simulated or all(build.practice for build in sweep.project.builds)
    last = sweep.steps[-1] if sweep.steps else None
    return SweepNews(
        id=sweep.id,
        of=sweep.of,
        state=sweep.state,
        says=_says(sweep, may_stay=may_stay),
        failure=sweep.failure,
        at=SweptReading(volts=last.volts, current_a=last.current_a) if last else None,
        share=min(len(sweep.steps) / len(sweep.plan.volts), 1.0),
        results=tuple(_results(sweep)) if ended else (),
        simulated=sweep.simulated,
        introduces=sweep.introduces,
        edits=tuple(_edits(sweep)) if ended and may_stay else (),
    )


def _results(sweep: SupplySweep) -> Iterator[Message]:
    """What it told, one thing after the other: to be looked at before it is taken."""
    found = sweep.told
    if sweep.of == "sleep":
        if found.ran:
            yield _sleeps(found.ran[0])
        return
    if found.ran:
        yield say(
            "{count} readings from {high} down to {low}.",
            count=len(found.ran),
            high=volts(found.ran[0].volts),
            low=volts(found.ran[-1].volts),
        )
    if found.v_run_min is not None:
        yield say("It runs down to {volts}.", volts=volts(found.v_run_min))
    elif sweep.state == "finished":
        yield say("It ran at every voltage: its lowest volts lie lower still.")
    if found.v_start_min is not None:
        yield say("Switched on, it starts from {volts} on.", volts=volts(found.v_start_min))
    if found.peak_a is not None:
        yield say(
            "It peaks at {amps}. A supply reads a few times a second: shorter peaks are missed.",
            amps=amps(found.peak_a),
        )


def _sleeps(step: SweptStep) -> Message:
    if step.current_a < LEAST_SURE_A:
        return say(
            "Asleep it draws {amps}. So little is at the end of a supply's scale: read it again with a multimeter.",
            amps=amps(step.current_a),
        )
    return say("Asleep it draws {amps}.", amps=amps(step.current_a))


def _edits(sweep: SupplySweep) -> Iterator[Edit]:
    found = sweep.told
    if not found.ran:
        return
    if sweep.of == "sleep":
        yield from _measured("gadget.off_current_a", found.ran[0].current_a)
        return
    path = f"gadget.modes.{sweep.mode}"
    yield Edit(path=f"{path}.readings", value=[])
    for step in found.ran:
        row = {"volts": round(step.volts, 3), "current_a": round(step.current_a, 6)}
        yield Edit(path=f"{path}.readings.{APPENDED}", value=row)
    if found.peak_a is not None:
        yield from _measured(f"{path}.peak_a", found.peak_a)
    for name, found_v in (("v_run_min", found.v_run_min), ("v_start_min", found.v_start_min)):
        if found_v is not None:
            yield from _measured(f"gadget.window.{name}", round(found_v, 2))


def _measured(path: str, value: float) -> Iterator[Edit]:
    yield Edit(path=path, value=float(f"{value:.3g}"))
    yield Edit(path=f"basis.{path}", value="measured")


def _says(sweep: SupplySweep, *, may_stay: bool) -> Message:
    limits = sweep.plan.limits
    if sweep.state == "running":
        return say(
            "The supply gives {volts} and {amps} at most; it goes off when you stop it, or close this page.",
            volts=volts(limits.volts),
            amps=amps(limits.amps),
        )
    if sweep.left_off is False:
        return say("The supply did not say that it is off: switch it off by hand, now.")
    if sweep.state == "failed":
        return NOTHING
    if not may_stay:
        return say("The supply is off. It is a stand-in: its readings stay in practice copies alone.")
    return say("The supply is off.")
