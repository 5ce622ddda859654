"""Routes of the fit: the answer, what must give, what would fit, templates and printed parts."""

from typing import TYPE_CHECKING, Annotated, Literal

from fastapi import APIRouter, Depends, HTTPException, Query, Request, Response
from pydantic import BaseModel

from pocketspark.core.fit import placing, remedies, sweep
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.bays import bay_from_supply
from pocketspark.core.fit.in_words import in_words
from pocketspark.core.fit.parts import parts_of
from pocketspark.core.fit.prints import PRINTS, filling_of
from pocketspark.core.fit.styles import OUTLINE, OWN_BOX, box_inside_mm, place_of
from pocketspark.core.fit.sweep import Fitting, Largest
from pocketspark.core.models import Board, Cell, Project
from pocketspark.core.models.bay import Bay
from pocketspark.core.models.model import RowNumber
from pocketspark.formats import drill_template, printed
from pocketspark.formats.printed import NoSuchPrint, PrintSettings
from pocketspark.parts import library
from pocketspark.server.asking import Asked, AskedBuild, OurProjects, Question, read_question
from pocketspark.server.jobs import Job, Jobs, State
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.questions import OurInventory

if TYPE_CHECKING:
    from manifold3d import Manifold

router = APIRouter(prefix="/api/questions/fit", tags=["fit"], responses=PROBLEM_RESPONSES)

NOTHING = "nothing is known of the bay, or there is nothing to place in it yet"


def sweeps_of(request: Request) -> Jobs[Fitting]:
    sweeps: Jobs[Fitting] = request.app.state.sweeps
    return sweeps


OurSweeps = Annotated[Jobs[Fitting], Depends(sweeps_of)]


class FitReply(BaseModel):
    """The fit, or None where nothing is known of the bay or there is nothing to place."""

    answer: FitAnswer | None
    says: str  # the answer in one sentence
    bay: Bay | None
    room_says: str  # where the style puts it, if not into the bay
    largest: list[Largest]
    prints: dict[str, str]  # which printed parts make sense, and what they are


@router.post("")
def fit(question: Asked) -> FitReply:
    """Where everything goes, what must give, and how much larger the cell could be."""
    project, build = question.project, question.build
    gadget = project.gadget
    place = place_of(gadget, project.builds[build])
    answer = placing.fit_of(project, build)
    if answer is not None:
        answer = answer.model_copy(update={"remedies": remedies.remedies_for(project, build)})
    return FitReply(
        answer=answer,
        says=in_words(answer) if answer else "",
        bay=gadget.bay or bay_from_supply(gadget.supply, gadget.arrangement),
        room_says=place.says if place else "",
        largest=sweep.largest(project, build),
        prints=_useful(question, answer),
    )


def _useful(question: AskedBuild, answer: FitAnswer | None) -> dict[str, str]:
    """Names of the printed parts that this build has a use for."""
    build = question.project.builds[question.build]
    own_box = build.style in OWN_BOX
    fill = filling_of(question.project, question.build)
    wanted = {
        "lid": answer is not None and answer.tube_mm is None,
        "sleeve": fill is not None,
        "front-spacer": fill is not None and fill.front_spacer_mm >= 0.4,
        "rear-spacer": fill is not None and fill.rear_spacer_mm >= 0.4,
        "cradle": any(board.outline_mm and board.charger for board in build.boards),
        "dummy": build.style in OUTLINE,
        "box": own_box,
        "box-lid": own_box,
    }
    return {name: PRINTS[name] for name in PRINTS if wanted[name]}


# What would fit ------------------------------------------------------------------------------------------------


class Sweep(BaseModel):
    """A search over all cells and board sets, as far as it has got. `fitting` is by energy, most first."""

    id: int
    state: State
    done: int
    total: int
    fitting: list[Fitting]


@router.post("/sweep", status_code=202)
def start_sweep(question: Asked, inventory: OurInventory, sweeps: OurSweeps) -> Sweep:
    """Every cell of library and inventory, with the build's own boards and with each charger instead."""
    if placing.setting_of(question.project, question.build) is None:
        raise HTTPException(409, NOTHING)
    cells = {part.cell.name: part.cell for part in library().of("cell") if part.cell}
    cells |= {part.body.name: part.body for part in inventory.parts("cell") if isinstance(part.body, Cell)}
    sets = _board_sets(list(question.project.builds[question.build].boards))
    return _sweep(sweeps.start(sweep.what_fits(question.project, question.build, cells, sets)))


def _board_sets(own: list[Board]) -> dict[str, list[Board]]:
    """The boards as chosen, and the same with another charger."""
    others = [board for board in own if not board.charger]
    chargers = [part.board for part in library().of("charger") if part.board and part.board not in own]
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

_TEMPLATES = {"svg": "image/svg+xml", "pdf": "application/pdf", "dxf": "image/vnd.dxf"}


@router.post("/template", response_class=Response)
def template(question: Asked, kind: Annotated[Literal["svg", "pdf", "dxf"], Query()] = "svg") -> Response:
    """Drill template 1:1."""
    answer = placing.fit_of(question.project, question.build)
    if answer is None:
        raise HTTPException(409, NOTHING)
    sheet = drill_template.sheet_of(answer)
    title = f"{question.project.gadget.name}: drill template"
    if kind == "dxf":
        return Response(drill_template.to_dxf(sheet), media_type=_TEMPLATES[kind])
    made = drill_template.to_svg(sheet, title) if kind == "svg" else drill_template.to_pdf(sheet, title)
    return Response(made, media_type=_TEMPLATES[kind])


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
    if name not in PRINTS:
        raise HTTPException(404, f"there is no printed part called '{name}'")
    asked = read_question(question, projects)
    solid = _solid(name, asked.project, asked.build, question.settings)
    if kind == "svg":
        return Response(printed.to_svg(solid), media_type="image/svg+xml")
    return Response(printed.to_file(solid, kind), media_type=printed.FILE_TYPES[kind])


def _solid(name: str, project: Project, build: int, settings: PrintSettings) -> "Manifold":
    if name in ("sleeve", "front-spacer", "rear-spacer"):
        return _filling(name, project, build)
    if name in ("box", "box-lid"):
        return _own_box(name, project, build, settings)
    chosen = project.builds[build]
    if name == "cradle":
        board = next((board for board in chosen.boards if board.charger), None)
        if board is None:
            raise NoSuchPrint("a cradle is made for a charger board: choose one first")
        return printed.cradle(board, settings)
    if name == "lid":
        answer = placing.fit_of(project, build)
        if answer is None or answer.tube_mm:
            raise NoSuchPrint("a lid is made for a bay of boxes with parts in it")
        return printed.lid_blank(answer, settings)
    size = project.gadget.supply.size.size_mm
    if chosen.cell is None or len(size) != 2:
        raise NoSuchPrint("a dummy cell is made round a cell, in the outline of a round battery")
    return printed.dummy_cell(size[0], size[1], chosen.cell, settings)


def _filling(name: str, project: Project, build: int) -> "Manifold":
    fill = filling_of(project, build)
    if fill is None:
        raise NoSuchPrint("a sleeve is for a round cell thinner and shorter than the old batteries")
    return printed.sleeve(fill) if name == "sleeve" else printed.spacer(fill, name.removesuffix("-spacer"))


def _own_box(name: str, project: Project, build: int, settings: PrintSettings) -> "Manifold":
    parts = parts_of(project.builds[build])
    if not parts:
        raise NoSuchPrint("a box needs something to go in: choose a cell or a board with a size")
    inside = box_inside_mm(parts)
    if name == "box-lid":
        return printed.outside_lid(inside, settings)
    socketed = next((board for board in project.builds[build].boards if board.socket), None)
    return printed.outside_box(inside, settings, socketed)
