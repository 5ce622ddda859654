"""Routes of the fit: the answer, what must give, what would fit, and printed parts."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from pydantic import BaseModel

from pocketspark.core.fit import placing, remedies, sweep
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.answer_in_words import in_words
from pocketspark.core.fit.bays import bay_from_supply
from pocketspark.core.fit.styles import place_of
from pocketspark.core.fit.sweep import Fitting, Largest
from pocketspark.core.message import NOTHING, Label, Message, say
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.bay import Bay
from pocketspark.core.models.model import RowNumber
from pocketspark.formats import printed_parts, solids
from pocketspark.formats.exports import NothingPlaced
from pocketspark.formats.printed_parts import PrintSettings
from pocketspark.parts import Library
from pocketspark.server.asking import Asked, OurLibrary, OurProjects, Question, read_question
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.jobs import Job, Jobs, State
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory

router = APIRouter(prefix="/api/questions/fit", tags=["fit"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)


def sweeps_of(request: Request) -> Jobs[Fitting]:
    sweeps: Jobs[Fitting] = request.app.state.sweeps
    return sweeps


OurSweeps = Annotated[Jobs[Fitting], Depends(sweeps_of)]


class FitReply(BaseModel):
    """The fit, or None where nothing is known of the bay or there is nothing to place."""

    answer: FitAnswer | None
    says: Message  # the answer in one sentence
    bay: Bay | None
    room_says: Message  # where the style puts it, if not into the bay
    prints: dict[str, Label]  # which printed parts make sense, and what they are


@router.post("")
def fit(question: Asked) -> FitReply:
    """Where everything goes, and what must give."""
    project, build = question.project, question.build
    gadget = project.gadget
    place = place_of(gadget, project.builds[build])
    answer = placing.fit_of(project, build)
    if answer is not None:
        answer = answer.model_copy(update={"remedies": remedies.remedies_for(project, build)})
    return FitReply(
        answer=answer,
        says=in_words(answer) if answer else NOTHING,
        bay=gadget.bay or bay_from_supply(gadget.supply, gadget.arrangement),
        room_says=place.says if place else NOTHING,
        prints=printed_parts.prints_of(project, build, answer),
    )


@router.post("/larger-cell")
def larger_cell(question: Asked) -> list[Largest]:
    """How much larger the cells could be in each measure alone; in what is round it is tried, which takes longer."""
    return list(sweep.largest(question.project, question.build))


# What would fit ------------------------------------------------------------------------------------------------


class Sweep(BaseModel):
    """A search over all cells and board sets, as far as it has got. `fitting` is by energy, most first."""

    id: int
    state: State
    done: int
    total: int
    fitting: list[Fitting]


@router.post("/sweep", status_code=202)
def start_sweep(question: Asked, library: OurLibrary, inventory: OurInventory, sweeps: OurSweeps) -> Sweep:
    """Every cell of library and inventory, with the build's own boards and with each charger instead."""
    if placing.setting_of(question.project, question.build) is None:
        raise NothingPlaced
    cells = {cell.name: cell for cell in library.cells}
    cells |= {part.body.name: part.body for part in inventory.parts("cell") if isinstance(part.body, Cell)}
    sets = _board_sets(list(question.project.builds[question.build].boards), library)
    return _sweep(sweeps.start(sweep.what_fits(question.project, question.build, cells, sets)))


def _board_sets(own: list[Board], library: Library) -> dict[str, list[Board]]:
    """The boards as chosen, and the same with another charger."""
    others = [board for board in own if not board.charger]
    chargers = [part.board for part in library.of("charger") if part.board and part.board not in own]
    return {"as chosen": own} | {board.name: [board, *others] for board in chargers}


@router.get("/sweep/{job_id}")
def look_at_sweep(job_id: RowNumber, sweeps: OurSweeps) -> Sweep:
    return _sweep(sweeps.get(job_id))


@router.delete("/sweep/{job_id}", status_code=204)
def cancel_sweep(job_id: RowNumber, sweeps: OurSweeps) -> None:
    sweeps.cancel(job_id)


def _sweep(job: Job[Fitting]) -> Sweep:
    fitting = sorted(job.results, key=lambda fit: -fit.energy_wh)
    return Sweep(id=job.id, state=job.state, done=job.done, total=job.total, fitting=fitting)


# Files ---------------------------------------------------------------------------------------------------------


class PrintQuestion(Question):
    """A whole document, and with which wall and clearance to print."""

    settings: PrintSettings = PrintSettings()


@router.post("/printed/{name}", response_class=Response)
def printed_part(
    name: str,
    question: PrintQuestion,
    projects: OurProjects,
    kind: Annotated[Literal["stl", "3mf", "svg"], Query()] = "stl",
) -> Response:
    """A part for the printer, or its preview."""
    if name not in printed_parts.PRINTS:
        raise HTTPException(404, say("there is no printed part called '{name}'", name=str(name)))
    asked = read_question(question, projects)
    solid = printed_parts.on_the_bed(name, printed_parts.in_place(name, asked.project, asked.build, question.settings))
    if kind == "svg":
        return Response(solids.to_svg(solid), media_type="image/svg+xml")
    return Response(solids.to_file(solid, kind), media_type=solids.FILE_TYPES[kind])
