"""Routes that need no saved project: assess a document, list the parts, and the words and tables of the trade."""

from collections.abc import Mapping
from typing import Any, TypeVar

from fastapi import APIRouter, HTTPException
from pydantic import BaseModel

from pocketspark.core.assess import assess
from pocketspark.core.assessment import Assessment
from pocketspark.core.finder import Candidate, candidates
from pocketspark.core.finding import STATIONS
from pocketspark.core.next_reading import NextReading, next_readings
from pocketspark.core.nouns import BATTERIES, CELL_CLASSES, CHEMISTRIES, FRONT_ENDS, SOURCES, Battery, Project
from pocketspark.core.nouns.build import POLICIES, USES_WHILE_CHARGING
from pocketspark.core.nouns.gadget import LOAD_LAWS
from pocketspark.core.nouns.noun import Noun
from pocketspark.core.quantity import amps
from pocketspark.core.rules import RULES
from pocketspark.core.shaper_options import ShaperOption, shaper_options
from pocketspark.formats.project_json import json_schema
from pocketspark.parts import Part, library
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api", tags=["trade"], responses=PROBLEM_RESPONSES)


class Question(BaseModel):
    """A whole document, and which of its builds is asked about."""

    project: Project
    build: int = 0


class Choice(Noun):
    """One value a field may take, in words."""

    value: str
    label: str
    detail: str = ""


class BatterySize(Noun):
    """One row of the battery table, as the picture and the picker need it."""

    iec: str
    common: str
    form: str
    nominal_v: float
    size_mm: tuple[float, ...]
    chemistries: tuple[str, ...]


class RuleText(Noun):
    """One rule of the handbook."""

    code: str
    station: str
    source: str
    says: str


class Trade(Noun):
    """The tables and labels of the trade, so that they stand once, here."""

    batteries: tuple[BatterySize, ...]
    chemistries: tuple[Choice, ...]
    front_ends: tuple[Choice, ...]
    laws: tuple[Choice, ...]
    cell_classes: tuple[Choice, ...]
    sources: tuple[Choice, ...]
    policies: tuple[Choice, ...]
    uses_while_charging: tuple[Choice, ...]
    stations: tuple[str, ...]
    rules: tuple[RuleText, ...]


@router.post("/assess")
def assess_document(question: Question) -> Assessment:
    _require_build(question)
    return assess(question.project, question.build)


def _require_build(question: Question) -> None:
    if not 0 <= question.build < len(question.project.builds):
        raise HTTPException(404, f"this project has no build {question.build}")


class CellCandidate(Noun):
    """A cell of the library, and what it would come to."""

    part: str
    outcome: Candidate


@router.post("/candidates")
def cell_candidates(question: Question) -> list[CellCandidate]:
    _require_build(question)
    cells = library().of("cell")
    outcomes = candidates(question.project, question.build, [part.cell for part in cells if part.cell])
    return [CellCandidate(part=part.id, outcome=outcome) for part, outcome in zip(cells, outcomes, strict=True)]


@router.post("/shapers")
def compare_shapers(question: Question) -> list[ShaperOption]:
    """Straight through and every shaper of the library in this build, best first."""
    _require_build(question)
    if question.project.builds[question.build].cell is None:
        raise HTTPException(409, "choose a cell first: its voltage is what a shaper shapes")
    boards = [part.board for part in library().of("shaper") if part.board]
    return shaper_options(question.project, question.build, boards)


@router.post("/measure-next")
def measure_next(question: Question) -> list[NextReading]:
    """Which numbers nobody has measured would change something, the most telling first."""
    _require_build(question)
    return next_readings(question.project, question.build)


@router.get("/parts")
def parts() -> tuple[Part, ...]:
    return library().parts


@router.get("/schema")
def schema() -> dict[str, Any]:
    return json_schema()


@router.get("/trade")
def trade() -> Trade:
    return Trade(
        batteries=tuple(_battery(battery) for battery in BATTERIES.values()),
        chemistries=tuple(Choice(value=key, label=facts.label) for key, facts in CHEMISTRIES.items()),
        front_ends=tuple(
            Choice(value=key, label=facts.label, detail=f"too much: {facts.too_much}; too little: {facts.too_little}")
            for key, facts in FRONT_ENDS.items()
        ),
        laws=_choices(LOAD_LAWS),
        cell_classes=tuple(Choice(value=key, label=facts.label) for key, facts in CELL_CLASSES.items()),
        sources=tuple(
            Choice(value=key, label=facts.label, detail=amps(facts.limit_a)) for key, facts in SOURCES.items()
        ),
        policies=_choices(POLICIES),
        uses_while_charging=_choices(USES_WHILE_CHARGING),
        stations=STATIONS,
        rules=tuple(RuleText(code=r.code, station=r.station, source=r.source, says=r.says) for r in RULES.values()),
    )


def _battery(battery: Battery) -> BatterySize:
    return BatterySize(
        iec=battery.iec,
        common=battery.common,
        form=battery.form,
        nominal_v=battery.nominal_v,
        size_mm=battery.size_mm,
        chemistries=battery.chemistries,
    )


K = TypeVar("K", bound=str)


def _choices(table: Mapping[K, tuple[str, str]]) -> tuple[Choice, ...]:
    return tuple(Choice(value=key, label=label, detail=detail) for key, (label, detail) in table.items())
