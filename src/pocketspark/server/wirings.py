"""Routes of what goes on paper: hook-up, cut list, bill of materials, shopping list, and the files made of a build."""

from fastapi import APIRouter, Response
from pydantic import BaseModel

from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.models.record import Prediction
from pocketspark.core.models.wiring import Wire
from pocketspark.core.questions.as_built import BuiltFigure, as_built
from pocketspark.core.questions.sheet import BuildSheet, SheetPicture, sheet_of
from pocketspark.core.questions.shopping import Owned, ShoppingList, shopping_list
from pocketspark.core.steps.prediction import prediction_of
from pocketspark.core.wiring.cutlist import CutWire, cut_list
from pocketspark.core.wiring.drawing import Drawing, draw
from pocketspark.core.wiring.laid_drawing import LaidDrawing, draw_as_laid
from pocketspark.formats.exports import ExportedBuild, export_of
from pocketspark.formats.sheet_pictures import as_svg, picture
from pocketspark.server.asking import Asked
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.store import Inventory

router = APIRouter(
    prefix="/api/questions/wiring", tags=["wiring"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute
)


class WiringReply(BaseModel):
    """The hook-up in force; `own` where the maker changed it."""

    own: bool
    wires: list[Wire]
    drawing: Drawing
    cut_list: list[CutWire]
    laid: LaidDrawing | None  # None where it has no place yet, or lies in a tube


@router.post("")
def wiring(question: Asked) -> WiringReply:
    chain = Chain(question.project, question.build)
    hookup = hook_up(chain)
    return WiringReply(
        own=hookup.own,
        wires=list(hookup.wires),
        drawing=draw(hookup),
        cut_list=cut_list(chain),
        laid=draw_as_laid(chain, hookup, fit_of(question.project, question.build)),
    )


paper = APIRouter(prefix="/api/questions/sheet", tags=["sheet"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)


class DrawnPicture(BaseModel):
    """A picture as SVG, and its size in points."""

    svg: str
    width: int
    height: int


class SheetReply(BaseModel):
    """The build sheet as its page shows it and as it is printed; pictures by the names that sections use."""

    sheet: BuildSheet
    pictures: dict[SheetPicture, DrawnPicture]


@paper.post("")
def sheet(question: Asked) -> SheetReply:
    wanted = sheet_of(question.project, question.build)
    chain = Chain(question.project, question.build)
    drawn = {
        section.picture: DrawnPicture(
            svg=as_svg(made, str(section.heading)), width=round(made.width), height=round(made.height)
        )
        for section in wanted.sections
        if section.picture and (made := picture(chain, section.picture))
    }
    return SheetReply(sheet=wanted, pictures=drawn)


class BuiltReply(BaseModel):
    """As built beside as planned, and what is predicted now beside the predictions that the build has kept."""

    as_built: tuple[BuiltFigure, ...]
    prediction: Prediction


@paper.post("/as-built")
def built(question: Asked) -> BuiltReply:
    return BuiltReply(
        as_built=as_built(question.project, question.build),
        prediction=prediction_of(Chain(question.project, question.build)),
    )


@paper.post("/shopping")
def shopping(question: Asked, inventory: OurInventory) -> ShoppingList:
    """What is still to buy for this build: by what words, of what size, what to look for and what to leave."""
    return shopping_list(question.project, question.build, owned_in(inventory))


files = APIRouter(
    prefix="/api/questions/export", tags=["files"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute
)


@files.post("/{key}", response_class=Response)
def export(key: str, question: Asked, inventory: OurInventory) -> Response:
    """One of the files that can be made of a build; /api/reference lists them."""
    wanted = export_of(key)
    made = wanted.made(ExportedBuild(question.project, question.build, owned_in(inventory)))
    return Response(made, media_type=wanted.media_type)


def owned_in(inventory: Inventory) -> list[Owned]:
    return [Owned(part.body.name, part.body, part.stock) for part in inventory.parts()]
