"""Routes of a sweep with a programmable supply: begun, looked at while it goes on, stopped. Nobody looks: it is off."""

import threading
import time
from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import count
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import Field

from pocketspark.core.error import PocketSparkError
from pocketspark.core.load_laws.supply_sweep import SweepPlan, sweep_plan
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model, RowNumber
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.models.project import APPENDED, Edit
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps, volts
from pocketspark.instruments.connection import MeterReading
from pocketspark.instruments.guarded import Guarded, swept
from pocketspark.server.asking import OurProjects, Question, read_question
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api/instruments/supply-sweep", tags=["instruments"], responses=PROBLEM_RESPONSES)

# A page looks twice a second. Where none has for so long it was closed, or its line is dead: the supply goes off.
LOOKED_WITHIN_S = 3.0
ENDS_WITHIN_S = 12.0

SweepState = Literal["running", "finished", "stopped", "failed"]


@dataclass
class SupplySweep:
    """One sweep, by its number, and what has come of it. `left_off`: None while it goes on."""

    id: int
    project: Project
    mode: str
    plan: SweepPlan
    looked_s: float
    readings: list[MeterReading] = field(default_factory=list)
    state: SweepState = "running"
    failure: str = ""
    simulated: bool = False
    introduces: str = ""
    left_off: bool | None = None
    stop: threading.Event = field(default_factory=threading.Event)

    @property
    def is_looked_at(self) -> bool:
        return time.monotonic() - self.looked_s < LOOKED_WITHIN_S

    def run(self, address: str) -> None:
        supply = None
        try:
            with Guarded("supply", address) as supply:
                self.simulated, self.introduces = supply.simulated, supply.introduces
                for reading in swept(supply, self.plan, self.stop, lambda: self.is_looked_at):
                    self.readings.append(reading)
            whole = len(self.readings) == len(self.plan.volts)
            state: SweepState = "finished" if whole else "stopped"
        except PocketSparkError as refusal:
            state, self.failure = "failed", str(refusal)
        self.left_off = None if supply is None else supply.was_left_off
        self.state = state


class SupplySweeps:
    """One at a time: there is one bench."""

    def __init__(self) -> None:
        self._ids = count(1)
        self._last: SupplySweep | None = None
        self._thread: threading.Thread | None = None
        self._starting = threading.Lock()

    def start(self, project: Project, mode: str, plan: SweepPlan, address: str) -> SupplySweep:
        with self._starting:
            if self._last is not None and self._last.state == "running":
                raise HTTPException(409, "a sweep goes on already: stop it first")
            sweep = SupplySweep(next(self._ids), project, mode, plan, time.monotonic())
            self._last = sweep
            self._thread = threading.Thread(target=sweep.run, args=(address,), daemon=True)
            self._thread.start()
        return sweep

    def get(self, sweep_id: int) -> SupplySweep:
        if self._last is None or self._last.id != sweep_id:
            raise HTTPException(404, "this sweep is not known any more: start it again")
        return self._last

    def stop(self) -> None:
        """Returns when the supply is off."""
        if self._last is not None:
            self._last.stop.set()
        if self._thread is not None:
            self._thread.join(timeout=ENDS_WITHIN_S)


def sweeps_of(request: Request) -> SupplySweeps:
    sweeps: SupplySweeps = request.app.state.supply_sweeps
    return sweeps


OurSweeps = Annotated[SupplySweeps, Depends(sweeps_of)]


class SupplySweepQuestion(Question):
    """A document, the mode by its id that the gadget is switched to, and where the supply answers."""

    mode: Annotated[str, Field(max_length=60)] = ""
    address: Annotated[str, Field(min_length=1, max_length=200), ON_ONE_LINE]


class SweptReading(Model):
    """One step of a sweep."""

    volts: ShownVolts
    current_a: ShownAmps


class SweepNews(Model):
    """How far it is. `edits` put what was read into the mode's readings; empty where that may not be."""

    id: int
    state: SweepState
    says: Message
    failure: str
    steps: int
    readings: tuple[SweptReading, ...]
    simulated: bool
    introduces: str
    edits: tuple[Edit, ...]


@router.post("", status_code=201)
def start_sweep(question: SupplySweepQuestion, projects: OurProjects, sweeps: OurSweeps) -> SweepNews:
    """Begins at the fresh volts of the old batteries, and goes down. Its limits are set in the supply first."""
    project = read_question(question, projects).project
    modes = project.gadget.modes
    mode = next((one for one in modes if one.id == question.mode), next(iter(modes), None))
    if mode is None:
        raise HTTPException(409, "add the mode first that the gadget is switched to")
    return _news(sweeps.start(project, mode.id, sweep_plan(project.gadget, mode), question.address))


@router.get("/{sweep_id}")
def look_at_sweep(sweep_id: RowNumber, sweeps: OurSweeps) -> SweepNews:
    """To be asked twice a second: where nobody asks, it stops."""
    sweep = sweeps.get(sweep_id)
    sweep.looked_s = time.monotonic()
    return _news(sweep)


@router.delete("/{sweep_id}", status_code=204)
def stop_sweep(sweep_id: RowNumber, sweeps: OurSweeps) -> None:
    """Answers when the supply is off."""
    sweeps.get(sweep_id)
    sweeps.stop()


def _news(sweep: SupplySweep) -> SweepNews:
    ended = sweep.state != "running"
    may_stay = not sweep.simulated or all(build.practice for build in sweep.project.builds)
    return SweepNews(
        id=sweep.id,
        state=sweep.state,
        says=_says(sweep, may_stay=may_stay),
        failure=sweep.failure,
        steps=len(sweep.plan.volts),
        readings=tuple(SweptReading(volts=at_v, current_a=drawn_a) for at_v, drawn_a in _points(sweep.readings)),
        simulated=sweep.simulated,
        introduces=sweep.introduces,
        edits=tuple(_edits(sweep)) if ended and may_stay else (),
    )


def _points(readings: Sequence[MeterReading]) -> list[tuple[float, float]]:
    return [(one.volts or 0.0, max(one.amps or 0.0, 0.0)) for one in readings]


def _edits(sweep: SupplySweep) -> list[Edit]:
    rows = [
        {"volts": round(at_v, 3), "current_a": round(drawn_a, 6)}
        for at_v, drawn_a in _points(sweep.readings)
        if at_v >= 0.1
    ]
    path = f"gadget.modes.{sweep.mode}.readings"
    return [Edit(path=path, value=[]), *(Edit(path=f"{path}.{APPENDED}", value=row) for row in rows)] if rows else []


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
