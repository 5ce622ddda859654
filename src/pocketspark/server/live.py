"""Routes of the instruments: whole simulated logs, runs streamed live with their limits watched, spot readings."""

import asyncio
import json
from collections.abc import AsyncIterator, Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Header, HTTPException, Query, Request
from fastapi.responses import Response, StreamingResponse
from pydantic import BaseModel

from pocketspark.core.chain import Chain
from pocketspark.core.logs.watch import Alarm, limits_of
from pocketspark.core.message import Label, say
from pocketspark.core.models.model import RowNumber
from pocketspark.core.steps import NoSuchCheckpoint, procedure
from pocketspark.core.steps.first_charge import FirstCharge, first_charge
from pocketspark.formats.log_csv import to_csv
from pocketspark.instruments import (
    FAULTS,
    INSTRUMENTS,
    Fault,
    InstrumentKind,
    Meter,
    SimulatedInstrument,
    bench_of,
    simulated_run,
)
from pocketspark.instruments.instrument import log_from
from pocketspark.instruments.multimeter import step_reading
from pocketspark.server.asking import Asked, AskedBuild, projects_of
from pocketspark.server.live_runs import LiveRun, LiveRuns
from pocketspark.server.pairing import OurDevice, OurDevices
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api", tags=["instruments"], responses=PROBLEM_RESPONSES)

# How often a page gets new samples.
TOLD_EVERY_S = 0.2
# A run that is written live has this many rows at most, so that a fast one does not flood the page.
LIVE_ROWS = 1500


class InstrumentText(BaseModel):
    """An instrument of the simulated bench."""

    kind: InstrumentKind
    label: Label
    does: Label


class FaultText(BaseModel):
    """A fault that the simulated bench can have, and the instruments that show it."""

    fault: Fault
    says: Label
    shown_by: tuple[InstrumentKind, ...]


class SimulatedBench(BaseModel):
    """Everything that can be put on the simulated bench."""

    instruments: list[InstrumentText]
    faults: list[FaultText]


@router.get("/instruments")
def instruments() -> SimulatedBench:
    return SimulatedBench(
        instruments=[InstrumentText(kind=kind, label=label, does=does) for kind, (label, does) in INSTRUMENTS.items()],
        faults=[FaultText(fault=fault, says=facts.says, shown_by=facts.shown_by) for fault, facts in FAULTS.items()],
    )


class Simulated(BaseModel):
    """A log that a simulated instrument wrote, as CSV."""

    name: str
    csv: str


Kind = Annotated[InstrumentKind, Query(alias="instrument")]
WantedFault = Annotated[Fault | None, Query()]
Seed = Annotated[int, Query(ge=0, le=1_000_000)]


@router.post("/instruments/log")
def simulated_log(question: Asked, kind: Kind = "cell_meters", fault: WantedFault = None, seed: Seed = 1) -> Simulated:
    """What this instrument would write of this very build, all at once."""
    require_practice(question)
    instrument = _on_the_bench(Chain(question.project, question.build), kind, fault, Meter(seed=seed), speed_up=1)
    return Simulated(name=f"{instrument.name}.csv", csv=to_csv(instrument.run, simulated=True))


def require_practice(question: AskedBuild) -> None:
    """The simulated bench works on practice copies alone: what it reads is not to stand beside what was measured."""
    if not question.project.builds[question.build].practice:
        raise HTTPException(
            409, say("the simulated bench works on a practice copy of this build only: make one at Build")
        )


class SpotReading(BaseModel):
    """What the simulated multimeter reads at a step's checkpoint, and how it shows that."""

    value: float
    text: str


@router.post("/instruments/multimeter/{step}")
def spot_reading(step: str, question: Asked, fault: WantedFault = None, seed: Seed = 1) -> SpotReading:
    require_practice(question)
    chain = Chain(question.project, question.build)
    holds = {step.key: step.hold for step in procedure(question.project, question.build).steps if step.hold}
    if step not in holds:
        raise NoSuchCheckpoint(say("this build has no checkpoint called '{step}'", step=step))
    value = step_reading(chain, step, Meter(seed=seed), fault)
    return SpotReading(value=value, text=str(holds[step].written(value)))


@router.post("/questions/first-charge")
def watch_first_charge(question: Asked) -> FirstCharge:
    """Prompts, limits, and the alarms of the readings kept so far."""
    return first_charge(question.project, question.build)


def _on_the_bench(
    chain: Chain, kind: InstrumentKind, fault: Fault | None, meter: Meter, speed_up: float
) -> SimulatedInstrument:
    name = "-".join(filter(None, ("simulated", kind, fault))).replace("_", "-")
    try:
        return SimulatedInstrument(name, simulated_run(kind, bench_of(chain), meter, fault), speed_up)
    except ValueError as refusal:
        raise HTTPException(422, str(refusal)) from None


# Live ------------------------------------------------------------------------------------------------------------


class LiveStarted(BaseModel):
    """A run that has begun."""

    id: int
    name: str
    seconds: float  # of the run itself, where it is known beforehand


class LiveNews(BaseModel):
    """What the page gets, again and again: the new rows of (s, V, A, C or None)."""

    samples: list[tuple[float, float, float, float | None]]
    alarms: list[Alarm]
    state: Literal["running", "finished"]
    cut_short: bool  # the server was started anew while it was written
    failure: str  # why it broke off; empty where it did not
    remarks: tuple[str, ...]  # what happened on the way
    simulated: bool


def live_runs_of(request: Request) -> LiveRuns:
    runs: LiveRuns = request.app.state.live_runs
    return runs


@router.post("/instruments/live", status_code=201)
def start_live(
    request: Request,
    question: Asked,
    kind: Kind = "cell_meters",
    fault: WantedFault = None,
    seed: Seed = 1,
    speed_up: Annotated[float, Query(ge=1, le=20_000)] = 600,
) -> LiveStarted:
    """Begins to read an instrument. Charges are watched against the limits of this build."""
    require_practice(question)
    chain = Chain(question.project, question.build)
    instrument = _on_the_bench(chain, kind, fault, Meter(seed=seed, step_s=_step_s(chain, kind, fault)), speed_up)
    charging = kind in ("cell_meters", "usb_meter")
    # Of one that is not stored, or not any more, the run belongs to nobody.
    project_id = question.project_id if question.project_id in projects_of(request) else None
    run = live_runs_of(request).start(instrument, limits_of(chain) if charging else None, project_id)
    return LiveStarted(id=run.id, name=instrument.name, seconds=float(instrument.run.time_s[-1]))


def _step_s(chain: Chain, kind: InstrumentKind, fault: Fault | None) -> float:
    """As often as such a meter writes, or less often where the run is long."""
    whole = _on_the_bench(chain, kind, fault, Meter(step_s=60), speed_up=1).run.time_s[-1]
    return max(10.0, float(whole) / LIVE_ROWS)


@router.get("/instruments/live/{run_id}", response_class=StreamingResponse, responses={200: {"model": LiveNews}})
def follow_live(
    request: Request,
    run_id: RowNumber,
    devices: OurDevices,
    device: OurDevice,
    last_event_id: Annotated[int, Header()] = 0,
) -> StreamingResponse:
    """Server-sent events of LiveNews. Each carries the row count as its id, so a page that comes back misses none.

    They end at once for a device that is let in no more.
    """
    news = _news(live_runs_of(request).get(run_id), last_event_id, lambda: devices.has(device))
    return StreamingResponse(news, media_type="text/event-stream")


async def _news(run: LiveRun, sent: int, is_let_in: Callable[[], bool]) -> AsyncIterator[str]:
    while is_let_in():
        finished = run.finished
        upto = len(run.samples)
        rows = [tuple(sample) for sample in run.samples[sent:upto]]
        news = {
            "samples": rows,
            "alarms": [alarm.model_dump(mode="json") for alarm in run.passed.values()],
            "state": "finished" if finished else "running",
            "cut_short": run.cut_short,
            "failure": run.failure,
            "remarks": list(run.remarks),
            "simulated": run.simulated,
        }
        sent = upto
        yield f"id: {sent}\ndata: {json.dumps(news)}\n\n"
        if finished:
            return
        await asyncio.sleep(TOLD_EVERY_S)


@router.get(
    "/instruments/live/{run_id}/log.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}}
)
def live_log(request: Request, run_id: RowNumber) -> Response:
    """What has been written so far. 422 while that is too little."""
    run = live_runs_of(request).get(run_id)
    return Response(to_csv(log_from(list(run.samples)), simulated=run.simulated), media_type="text/csv; charset=utf-8")


@router.delete("/instruments/live/{run_id}", status_code=204)
def stop_live(request: Request, run_id: RowNumber) -> None:
    """Stops the run; what it wrote stays."""
    live_runs_of(request).get(run_id).stop.set()
