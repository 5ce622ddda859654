"""Routes of the shelf: its lines in pages, found by words and put in order, and how many there are of each stage."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Query, Request
from pydantic import BaseModel, Field

from pocketspark.core.questions.summary import STAGES, Summary
from pocketspark.server.asking import OurProjects
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.summaries import read_summary
from pocketspark.store import ListedProject, Sieve
from pocketspark.store.shelf import Order

router = APIRouter(prefix="/api/projects", tags=["projects"], responses=PROBLEM_RESPONSES)


class ProjectLine(BaseModel):
    """One line of the list of projects, with what its first build comes to.

    `summary` is None where it is not judged yet, or cannot be: then `unreadable` says why, and `damaged` that it is not
    what was saved. `outdated`: it was judged by the rules of an earlier release, and is being judged anew.
    """

    id: int
    name: str
    saved_at: datetime
    summary: Summary | None
    outdated: bool
    unreadable: str
    damaged: bool


class ShelfPage(BaseModel):
    """Which lines of the shelf are wanted: all of `words` in each, of this stage, so many after so many."""

    words: Annotated[str, Field(max_length=200)] = ""
    stage: Annotated[str, Field(max_length=20)] = ""
    archived: bool = False
    order: Order = "touched"
    skip: Annotated[int, Field(ge=0, le=1_000_000)] = 0
    most: Annotated[int, Field(ge=1, le=200)] = 200


class ShelfCounts(BaseModel):
    """How many conversions there are, of each stage, and in the archive."""

    shelf: int
    archived: int
    stages: dict[str, int]


@router.get("")
def list_projects(request: Request, projects: OurProjects, page: Annotated[ShelfPage, Query()]) -> list[ProjectLine]:
    """As they were judged when they were saved: no document is read for the list."""
    sieve = Sieve(page.words, page.stage, page.archived, page.order, tuple(STAGES))
    lines = [_line(line) for line in projects.shelf.lines(sieve, skip=page.skip, most=page.most)]
    if any(line.outdated for line in lines):
        request.app.state.housekeeping.wake()
    return lines


@router.get("/counts")
def count_projects(projects: OurProjects) -> ShelfCounts:
    stages = projects.shelf.counts()
    archived = sum(projects.shelf.counts(archived=True).values())
    return ShelfCounts(shelf=sum(stages.values()), archived=archived, stages=stages)


def _line(line: ListedProject) -> ProjectLine:
    return ProjectLine(
        id=line.id,
        name=line.name,
        saved_at=line.saved_at,
        summary=read_summary(line.summary),
        outdated=line.outdated,
        unreadable=(line.summary or {}).get("unreadable", ""),
        damaged=(line.summary or {}).get("damaged", False),
    )
