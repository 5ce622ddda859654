"""Routes of the trainer: faulty benches to measure on, and the grade of a diagnosis."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from pocketspark.core.message import Label
from pocketspark.instruments.trainer import (
    CONCLUSIONS,
    PROBES,
    Conclusion,
    ProbeName,
    TrainerBench,
    TrainerGrade,
    TrainerReading,
    grade_diagnosis,
    read_probe,
    trainer_benches,
)
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api/trainer", tags=["trainer"], responses=PROBLEM_RESPONSES)


class ProbeText(BaseModel):
    """A measurement that may be made on a bench."""

    probe: ProbeName
    label: Label
    instrument: Label
    minutes: int


class ConclusionText(BaseModel):
    """Something that may be wrong with a bench."""

    conclusion: Conclusion
    says: Label


class Trainer(BaseModel):
    """Everything the trainer offers."""

    benches: tuple[TrainerBench, ...]
    probes: list[ProbeText]
    conclusions: list[ConclusionText]


class Diagnosis(BaseModel):
    """What was measured, in order, and what was concluded."""

    measured: Annotated[list[ProbeName], Field(max_length=40)] = []
    conclusion: Conclusion


@router.get("")
def trainer() -> Trainer:
    return Trainer(
        benches=trainer_benches(),
        probes=[
            ProbeText(probe=key, label=one.label, instrument=one.instrument, minutes=one.minutes)
            for key, one in PROBES.items()
        ],
        conclusions=[ConclusionText(conclusion=key, says=says) for key, says in CONCLUSIONS.items()],
    )


@router.get("/{bench}/{probe}")
def reading(bench: str, probe: ProbeName, seed: Annotated[int, Query(ge=0, le=1_000_000)] = 1) -> TrainerReading:
    return read_probe(bench, probe, seed)


@router.post("/{bench}/grade")
def grade(bench: str, diagnosis: Diagnosis) -> TrainerGrade:
    return grade_diagnosis(bench, diagnosis.measured, diagnosis.conclusion)
