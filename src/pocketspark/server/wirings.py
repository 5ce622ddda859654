"""Routes of what goes on paper: hook-up, drawing, cut list, circuits as netlists, bill of materials, build sheet."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel

from pocketspark.core.chain import Chain
from pocketspark.core.models.record import Prediction
from pocketspark.core.models.wiring import Wire
from pocketspark.core.questions.bill import bill_of_materials
from pocketspark.core.questions.shopping import Owned, ShoppingList, shopping_list
from pocketspark.core.record.as_built import BuiltFigure, as_built
from pocketspark.core.record.prediction import prediction_of
from pocketspark.core.wiring.cutlist import CutWire, cut_list
from pocketspark.core.wiring.drawing import Drawing, draw
from pocketspark.core.wiring.hookup import HookUp, hook_up
from pocketspark.formats import build_sheet, certificate, hookup_svg, spice
from pocketspark.server.asking import Asked, AskedBuild
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.questions import OurInventory
from pocketspark.store import Inventory

router = APIRouter(prefix="/api/questions/wiring", tags=["wiring"], responses=PROBLEM_RESPONSES)


class WiringReply(BaseModel):
    """The hook-up in force; `own` where the maker changed it."""

    own: bool
    wires: list[Wire]
    drawing: Drawing
    cut_list: list[CutWire]


@router.post("")
def wiring(question: Asked) -> WiringReply:
    chain, hookup = _hooked(question)
    return WiringReply(own=hookup.own, wires=list(hookup.wires), drawing=draw(hookup), cut_list=cut_list(chain, hookup))


def _hooked(question: AskedBuild) -> tuple[Chain, HookUp]:
    chain = Chain(question.project, question.build)
    return chain, hook_up(chain)


@router.post("/drawing.svg", response_class=Response)
def drawing(question: Asked) -> Response:
    _, hookup = _hooked(question)
    title = f"{question.project.gadget.name}: hook-up"
    return Response(hookup_svg.to_svg(draw(hookup), title), media_type="image/svg+xml")


@router.post("/netlist", response_class=Response)
def netlist(question: Asked, circuit: Annotated[Literal["running", "charging"], Query()] = "running") -> Response:
    """For ngspice, at the middle of the cell's curve, in the heaviest mode."""
    chain, _ = _hooked(question)
    running = chain.required_running()
    ocv_v = float(running.chosen.curve.at(0.5))
    if circuit == "charging":
        text = spice.charging_netlist(chain.required_charging(), ocv_v, chain.heaviest)
    else:
        text = spice.running_netlist(running, chain.heaviest, ocv_v)
    return Response(text, media_type="text/plain")


paper = APIRouter(prefix="/api/questions/sheet", tags=["sheet"], responses=PROBLEM_RESPONSES)


@paper.post("/pdf", response_class=Response)
def sheet(question: Asked) -> Response:
    """The build sheet, to print."""
    _hooked(question)
    return Response(build_sheet.to_pdf(question.project, question.build), media_type="application/pdf")


@paper.post("/certificate", response_class=Response)
def certificate_of(question: Asked) -> Response:
    """Of a finished build: what was promised and measured, and a label, to print."""
    return Response(certificate.to_pdf(question.project, question.build), media_type="application/pdf")


class PartLine(BaseModel):
    """One line of the bill of materials."""

    quantity: int
    part: str
    remark: str


class SheetReply(BaseModel):
    """What stands on the sheet's page beside the drawings and steps that have routes of their own."""

    parts: list[PartLine]
    as_built: tuple[BuiltFigure, ...]
    prediction: Prediction  # as it stands now, beside the predictions that the build has kept


@paper.post("")
def sheet_lines(question: Asked) -> SheetReply:
    rows = bill_of_materials(question.project, question.build)
    return SheetReply(
        parts=[PartLine(quantity=quantity, part=part, remark=remark) for quantity, part, remark in rows],
        as_built=as_built(question.project, question.build),
        prediction=prediction_of(Chain(question.project, question.build)),
    )


@paper.post("/parts.csv", response_class=Response)
def bill_as_csv(question: Asked) -> Response:
    return Response(build_sheet.bill_as_csv(question.project, question.build), media_type="text/csv")


@paper.post("/shopping")
def shopping(question: Asked, inventory: OurInventory) -> ShoppingList:
    """What is still to buy for this build: by what words, of what size, what to look for and what to leave."""
    return _shopping(question, inventory)


@paper.post("/shopping.csv", response_class=Response)
def shopping_as_csv(question: Asked, inventory: OurInventory) -> Response:
    return Response(build_sheet.shopping_as_csv(_shopping(question, inventory)), media_type="text/csv")


def _shopping(question: AskedBuild, inventory: Inventory) -> ShoppingList:
    _hooked(question)
    own = [Owned(part.body.name, part.body, part.stock) for part in inventory.parts()]
    return shopping_list(question.project, question.build, own)
