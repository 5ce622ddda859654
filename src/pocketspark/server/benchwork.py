"""Routes of the bench: the build procedure, and logs read and analysed."""

import math
from collections.abc import Callable, Sequence
from contextlib import suppress
from typing import Annotated

from fastapi import APIRouter, Depends, Request
from pydantic import BaseModel, Field

from pocketspark.core.cells.intake_readings import IntakeReading, NotInThisOrder, intake_edits
from pocketspark.core.chain import Chain
from pocketspark.core.logs.analysis import LogAnalysis, LogFinding, analyse, kind_of
from pocketspark.core.logs.calibration import CalibrationOffer, calibration_offers
from pocketspark.core.logs.differences import differences
from pocketspark.core.logs.explanations import Explained, explained
from pocketspark.core.logs.load_profile import NoLoadInLog, load_profile
from pocketspark.core.logs.log import Log, TooShort
from pocketspark.core.logs.plausible import MOST_PIECES, Doubt, MendKey, is_of_a_piece
from pocketspark.core.logs.predicted_run import PredictedRun, predicted
from pocketspark.core.message import Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.project import Edit
from pocketspark.core.models.record import Moment, Origin, Prediction
from pocketspark.core.models.tools import METERS
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.steps import Procedure, learnt_from, read_value
from pocketspark.core.steps.prediction import prediction_of
from pocketspark.formats.log_csv import ColumnPlaces, ReadLog, UnreadableLog, header_of, read_log
from pocketspark.formats.log_lines import LogSource
from pocketspark.server.asking import Asked, OurProjects, Question, read_question
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.logs import OurLogFiles
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Meters

router = APIRouter(prefix="/api/questions", tags=["bench"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)

# Points of a drawn curve: more cannot be seen.
DRAWN = 600


@router.post("/procedure")
def steps(question: Asked) -> Procedure:
    """Every step of the build with its state."""
    return build_steps(question.project, question.build)


class ReadingQuestion(Question):
    """A document, a step of one of its builds, and what was typed at its checkpoint."""

    step: Annotated[str, Field(max_length=40)]
    text: Annotated[str, Field(max_length=60)]
    at: Moment | None = None  # when it was read, for the logbook's line


class ReadValue(BaseModel):
    """What was typed, in the checkpoint's own unit."""

    value: float
    edits: tuple[Edit, ...]  # what it tells survey and plan, as measured


@router.post("/step-reading")
def step_reading(question: ReadingQuestion, projects: OurProjects) -> ReadValue:
    """Read with its unit; the wrong one is refused."""
    asked = read_question(question, projects)
    value = read_value(asked.project, asked.build, question.step, question.text)
    return ReadValue(value=value, edits=learnt_from(asked.project, asked.build, question.step, value, question.at))


class IntakeQuestion(Question):
    """A document, and what a meter shows of the cell of one of its builds."""

    what: IntakeReading
    volts: Annotated[float, Field(ge=-60, le=60, allow_inf_nan=False)] | None = None
    current_a: Annotated[float, Field(ge=-50, le=50, allow_inf_nan=False)] | None = None
    origin: Origin = "typed"
    at: Moment


class IntakeEdits(BaseModel):
    """What a reading changes of the document."""

    edits: tuple[Edit, ...]


@router.post("/intake-reading")
def intake_reading(question: IntakeQuestion, projects: OurProjects) -> IntakeEdits:
    """Puts a reading into the cell's intake. What is simulated goes into practice copies alone."""
    asked = read_question(question, projects)
    if question.origin == "simulated" and not asked.project.builds[asked.build].practice:
        raise NotInThisOrder(say("that meter is a stand-in: what it shows goes into practice copies alone"))
    return IntakeEdits(
        edits=intake_edits(
            asked.project,
            asked.build,
            question.what,
            question.volts,
            question.current_a,
            origin=question.origin,
            at=question.at,
        )
    )


class Drawn(BaseModel):
    """A run as it is drawn."""

    hours: list[float]
    volts: list[float]
    amps: list[float]
    celsius: list[float]


class BadLine(BaseModel):
    """A row that was left out."""

    line: int
    why: str


class LogPiece(BaseModel):
    """One charge or run-down of the file, by the key that reads it alone; hours since its first row."""

    key: str
    kind: str
    says: Message
    starts_h: float
    ends_h: float


class LogReply(BaseModel):
    """A log read and analysed, beside what was predicted for it."""

    header: list[str]
    places: list[int | None]  # columns of time, volts, amps, degrees
    bad_rows: list[BadLine]
    bad_count: int
    says: tuple[Message, ...]  # how it was read, and what was mended
    doubts: tuple[Doubt, ...]  # to be settled before anything is judged; then `analysis` is None
    pieces: list[LogPiece]  # empty where the file is one run
    analysis: LogAnalysis | None
    measured: Drawn
    predicted: PredictedRun | None
    differences: tuple[LogFinding, ...]
    calibration_offers: tuple[CalibrationOffer, ...]
    simulated: bool  # of the simulated bench: a real build learns nothing from it
    prediction: Prediction | None  # as it stands before any of the calibration_offers is adopted


class LogQuestion(Question):
    """A document, a log as text or by the number it is kept by, and which columns hold what (None: by the header)."""

    text: str = ""
    log_id: RowNumber | None = None
    places: Annotated[list[Annotated[int, Field(ge=0, le=500)] | None], Field(max_length=8)] | None = None
    mends: Annotated[tuple[MendKey, ...], Field(max_length=8)] = ()


def meters_of(request: Request) -> Meters:
    """How columns are put right is remembered; not for a device that may only read."""
    return Meters(request.app.state.engine, reads_only=getattr(request.state, "reads_only", False))


@router.post("/log")
def read_a_log(
    question: LogQuestion, meters: Annotated[Meters, Depends(meters_of)], logs: OurLogFiles, projects: OurProjects
) -> LogReply:
    """Reads and analyses. Nothing is kept but how the columns were put right, for the next log of that meter."""
    taken = _taken(question, meters, logs)
    asked = read_question(question, projects)
    return _reply(asked.project, asked.build, taken)


def _taken(question: LogQuestion, meters: Meters, logs: OurLogFiles) -> ReadLog:
    def source() -> LogSource:
        return question.text if question.log_id is None else logs.content(question.log_id)

    if question.places is None:
        return _as_before(source, meters, question.mends)
    taken = read_log(source(), _places(question.places), question.mends)
    meters.remember(taken.header, tuple(question.places))
    return taken


@router.post("/log-explained")
def explain_a_log(
    question: LogQuestion, meters: Annotated[Meters, Depends(meters_of)], logs: OurLogFiles, projects: OurProjects
) -> Explained:
    """Causes tried against a log that differs from its prediction. A second of work, so it is asked for."""
    taken = _taken(question, meters, logs)
    asked = read_question(question, projects)
    return explained(Chain(asked.project, asked.build, advises=False), taken.log)


class LoadLog(BaseModel):
    """A log of a gadget in use, as text."""

    text: Annotated[str, Field(max_length=20_000_000)]


class LoadLogReply(BaseModel):
    """The line that says the same load, and how sure that is."""

    line: Message
    says: Message


@router.post("/load-log")
def read_a_load_log(question: LoadLog) -> LoadLogReply:
    """A recorded current as one line. 422 where its figures are in doubt, or it tells no use."""
    taken = read_log(question.text)
    unsettled = [doubt for doubt in taken.doubts if not all(is_of_a_piece(mend.key) for mend in doubt.mends)]
    if unsettled:
        raise NoLoadInLog(str(unsettled[0].says))
    profile = load_profile(taken.log)
    return LoadLogReply(line=profile.line, says=profile.says)


def _as_before(source: Callable[[], LogSource], meters: Meters, mends: Sequence[MendKey]) -> ReadLog:
    """As this meter's columns were taken before; by the header's words where they never were, or that fails."""
    known = meters.columns_of(header_of(source()))
    if known is not None:
        with suppress(UnreadableLog, TooShort):
            return read_log(source(), _places(known), mends)
    return read_log(source(), mends=mends)


def _places(places: Sequence[int | None]) -> ColumnPlaces:
    time, volts, amps, celsius, *_ = [*places, None, None, None, None]
    if time is None or volts is None or amps is None:
        raise UnreadableLog(say("time, volts and amps each need a column"))
    return ColumnPlaces(time, volts, amps, celsius)


def _reply(project: Project, build: int, taken: ReadLog) -> LogReply:
    chain = Chain(project, build) if 0 <= build < len(project.builds) else None
    places = taken.mapping
    reply = LogReply(
        header=list(taken.header),
        places=[places.time, places.volts, places.amps, places.celsius],
        bad_rows=[BadLine(line=row.line, why=row.why) for row in taken.bad_rows[:20]],
        bad_count=len(taken.bad_rows),
        says=taken.says,
        doubts=taken.doubts,
        pieces=_pieces(taken) if len(taken.pieces) > 1 else [],
        analysis=None,
        measured=_drawn(taken.log),
        predicted=None,
        differences=(),
        calibration_offers=(),
        simulated=taken.simulated,
        prediction=prediction_of(chain) if chain else None,
    )
    # Nothing is judged by figures that are in doubt.
    return reply if taken.doubts else _judged(reply, chain, taken)


def _pieces(taken: ReadLog) -> list[LogPiece]:
    return [
        LogPiece(
            key=f"piece{number}",
            kind=piece.kind,
            says=piece.says,
            starts_h=piece.starts_s / 3600,
            ends_h=(piece.starts_s + piece.seconds) / 3600,
        )
        for number, piece in enumerate(taken.pieces[:MOST_PIECES], 1)
    ]


def _judged(reply: LogReply, chain: Chain | None, taken: ReadLog) -> LogReply:
    cell = chain.chosen_cell if chain else None
    seen = analyse(
        taken.log,
        cell_class=cell.cell.cell_class if cell else "li_4v20",
        plan_a=_plan_a(chain),
        unseen_s=taken.unseen_s,
        kind=taken.kind,
        label_ah=cell.cell.planning_capacity_ah * cell.count if cell else None,
        meter_share=chain.project.meter_share if chain else METERS["usual"].right_to,
    )
    run = predicted(chain, kind_of(taken.log)) if chain else None
    offers = _offers(taken, chain, seen) if chain else ()
    judged = {"analysis": seen, "predicted": run, "differences": differences(seen, run), "calibration_offers": offers}
    return reply.model_copy(update=judged)


def _offers(taken: ReadLog, chain: Chain, seen: LogAnalysis) -> tuple[CalibrationOffer, ...]:
    """A simulated log teaches a practice copy alone; from there nothing reaches the gadget that all builds share."""
    practice = chain.build.practice
    if taken.simulated and not practice:
        return ()
    offers = calibration_offers(chain, seen)
    shared = [offer for offer in offers if any(edit.path.startswith("gadget.") for edit in offer.edits)]
    return tuple(offer for offer in offers if not (practice and offer in shared))


def _plan_a(chain: Chain | None) -> float | None:
    return chain.charging.current.spread.nominal_a if chain and chain.charging else None


def _drawn(log: Log) -> Drawn:
    step = max(1, math.ceil(len(log.time_s) / DRAWN))
    celsius = [] if log.celsius is None else log.celsius[::step].round(1).tolist()
    return Drawn(
        hours=log.hours[::step].round(5).tolist(),
        volts=log.volts[::step].round(4).tolist(),
        amps=log.amps[::step].round(5).tolist(),
        celsius=celsius,
    )
