"""Routes of the drawer: which own cell goes into which gadget, and a line that is taken into its conversion."""

from contextlib import suppress
from typing import Annotated

from fastapi import APIRouter, HTTPException, Request
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, BeforeValidator, Field, ValidationError

from pocketspark.core.message import say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.project import Edit
from pocketspark.core.proposals.own_parts import can_be_had
from pocketspark.core.questions.shopping import OpenShopping, Owned, WantedBuild, shopping_over_all
from pocketspark.core.questions.who_gets_which import (
    Aim,
    Assignment,
    OpenGadget,
    OwnCell,
    Wanted,
    is_ready,
    who_gets_which,
)
from pocketspark.server.asking import OurProjects
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.cell_tests import tests_of
from pocketspark.server.json_text import sound
from pocketspark.server.live import live_runs_of
from pocketspark.server.own_stock import own_stock
from pocketspark.server.pairing import OurDevice
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.store import NothingThere, Projects, Unreadable

router = APIRouter(prefix="/api/drawer", tags=["inventory"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)

# The conversions that were touched last, of those that are not begun; so many cells.
MOST_GADGETS, MOST_CELLS = 40, 400
LOOKED_AT = 200

Pair = tuple[RowNumber, RowNumber]


class DrawerQuestion(BaseModel):
    """What is wanted of it: conversions and parts by their numbers."""

    aim: Aim = "most_service"
    pinned: Annotated[list[Pair], Field(max_length=100)] = Field(default_factory=list)
    forbidden: Annotated[list[Pair], Field(max_length=400)] = Field(default_factory=list)


@router.post("/assignment")
def assignment(
    request: Request, question: DrawerQuestion, projects: OurProjects, inventory: OurInventory
) -> Assignment:
    """Every own cell that can be had against every conversion that is not begun."""
    stock = own_stock(inventory, projects, on_test=tests_of(request).on_test(live_runs_of(request)))
    cells = [
        OwnCell(part.id, part.body, at_hand.free)
        for part, at_hand in stock
        if isinstance(part.body, Cell) and is_ready(part.body) and can_be_had([at_hand])[0]
    ]
    wanted = Wanted(question.aim, frozenset(question.pinned), frozenset(question.forbidden))
    return who_gets_which(_open_gadgets(projects), cells[:MOST_CELLS], wanted)


def _open_gadgets(projects: Projects) -> list[OpenGadget]:
    found: list[OpenGadget] = []
    for line in projects.shelf.lines(most=LOOKED_AT):
        with suppress(NothingThere, Unreadable):
            project = projects.get(line.id).project
            build = _not_begun(project)
            if build is not None:
                found.append(OpenGadget(line.id, project, build))
        if len(found) == MOST_GADGETS:
            break
    return found


def _not_begun(project: Project) -> int | None:
    """Its first build that is no practice; None where a step of it is done, or the gadget draws nothing yet."""
    number = next((number for number, build in enumerate(project.builds) if not build.practice), None)
    if number is None or not any(mode.current_a > 0 for mode in project.gadget.modes):
        return None
    return None if any(step.done for step in project.builds[number].record.steps) else number


@router.get("/shopping")
def shopping_of_all(request: Request, projects: OurProjects, inventory: OurInventory) -> OpenShopping:
    """What every conversion still wants that is not begun: own parts that are free count once."""
    on_test = tests_of(request).on_test(live_runs_of(request))
    own = [
        Owned(at_hand.body.name, at_hand.body, at_hand.free)
        for _, at_hand in own_stock(inventory, projects, on_test=on_test)
    ]
    wanted = (WantedBuild(one.project.gadget.name, one.project, one.build) for one in _open_gadgets(projects))
    return shopping_over_all(wanted, own)


class TakenLine(BaseModel):
    """A line of the assignment that is put into its conversion."""

    project_id: RowNumber
    edits: Annotated[list[Edit], Field(min_length=1, max_length=10), BeforeValidator(sound)]


@router.post("/taken", status_code=204)
def take_line(line: TakenLine, projects: OurProjects, device: OurDevice) -> None:
    """Saved like an edit of the conversion: it can be undone there. 409 where its build was begun meanwhile."""
    present = projects.get(line.project_id)
    if _not_begun(present.project) is None:
        raise HTTPException(409, say("its build was begun meanwhile: what is soldered keeps its cell"))
    try:
        changed = present.project.apply(line.edits)
    except ValidationError as error:
        raise RequestValidationError(error.errors()) from None
    projects.save(line.project_id, changed, based_on=present.revision, device=device)
