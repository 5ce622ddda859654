"""Questions about a document as it stands, saved or not: whole project in, answer out."""

from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import BaseModel, Field

from pocketspark.core.assess import assess
from pocketspark.core.assessment import Assessment
from pocketspark.core.compare import Comparison, compare
from pocketspark.core.drawer_resistors import DrawerChoice, drawer_choices
from pocketspark.core.finder import Candidate, candidates
from pocketspark.core.next_reading import NextReading, next_readings
from pocketspark.core.nouns import Board, Cell, Project
from pocketspark.core.nouns.drawer import Resistor
from pocketspark.core.nouns.noun import Noun
from pocketspark.core.outlook import Outlook, outlook
from pocketspark.core.shaper_options import ShaperOption, shaper_options
from pocketspark.core.size_codes import SizeReading, read_size_code
from pocketspark.parts import library
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Drawer

router = APIRouter(prefix="/api", tags=["questions"], responses=PROBLEM_RESPONSES)


def drawer_of(request: Request) -> Drawer:
    drawer: Drawer = request.app.state.drawer
    return drawer


OurDrawer = Annotated[Drawer, Depends(drawer_of)]


class Question(BaseModel):
    """A whole document, and which of its builds is asked about."""

    project: Project
    build: int = 0


def asked(question: Question) -> Question:
    """The question, once its build is known to be there."""
    if not 0 <= question.build < len(question.project.builds):
        raise HTTPException(404, f"this project has no build {question.build}")
    return question


Asked = Annotated[Question, Depends(asked)]


@router.post("/assess")
def assess_document(question: Asked) -> Assessment:
    return assess(question.project, question.build)


class CellCandidate(Noun):
    """A cell of the library or of the drawer, and what it would come to."""

    part: str
    outcome: Candidate


@router.post("/candidates")
def cell_candidates(question: Asked, drawer: OurDrawer) -> list[CellCandidate]:
    """`part` is the library's own id, or "drawer-7" for the maker's."""
    cells = {part.id: part.cell for part in library().of("cell") if part.cell}
    cells |= {f"drawer-{part.id}": part.body for part in drawer.parts("cell") if isinstance(part.body, Cell)}
    outcomes = candidates(question.project, question.build, cells.values())
    return [CellCandidate(part=part, outcome=outcome) for part, outcome in zip(cells, outcomes, strict=True)]


@router.post("/shapers")
def compare_shapers(question: Asked, drawer: OurDrawer) -> list[ShaperOption]:
    """Straight through and every shaper of library and drawer in this build, best first."""
    if question.project.builds[question.build].cell is None:
        raise HTTPException(409, "choose a cell first: its voltage is what a shaper shapes")
    boards = [part.board for part in library().parts if part.board and part.board.shaper]
    own = [part.body for part in drawer.parts() if isinstance(part.body, Board) and part.body.shaper]
    return shaper_options(question.project, question.build, [*boards, *own])


@router.post("/measure-next")
def measure_next(question: Asked) -> list[NextReading]:
    """Which numbers nobody has measured would change something, the most telling first."""
    return next_readings(question.project, question.build)


@router.post("/outlook")
def other_circumstances(question: Asked) -> Outlook:
    """Every way to use it while it charges; the same build with an old or a cold cell."""
    return outlook(question.project, question.build)


@router.post("/resistors")
def resistors_of_the_drawer(question: Asked, drawer: OurDrawer) -> list[DrawerChoice]:
    """The best single, pair in series and pair in parallel from the maker's own resistors."""
    own = [part.body for part in drawer.parts("resistor") if isinstance(part.body, Resistor) and part.stock > 0]
    return drawer_choices(question.project, question.build, own)


class ComparisonQuestion(BaseModel):
    """A whole document, and which of its builds to set side by side."""

    project: Project
    builds: Annotated[list[Annotated[int, Field(ge=0)]], Field(min_length=2, max_length=6)]


@router.post("/compare")
def compare_builds(question: ComparisonQuestion) -> Comparison:
    if max(question.builds) >= len(question.project.builds):
        raise HTTPException(404, f"this project has no build {max(question.builds)}")
    return compare(question.project, question.builds)


@router.get("/size-code")
def size_code(code: str) -> list[SizeReading]:
    """Every plausible reading of the size printed on a cell."""
    return read_size_code(code)
