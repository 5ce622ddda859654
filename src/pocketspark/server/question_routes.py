"""Questions about a document as it stands, saved or not: whole project in, answer out."""

from datetime import UTC, datetime
from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Request, Response
from fastapi.exceptions import RequestValidationError
from pydantic import BaseModel, BeforeValidator, Field, ValidationError

from pocketspark.core.cells.own_cells import KnownElsewhere, known_elsewhere
from pocketspark.core.cells.size_codes import SizeReading, read_size_code
from pocketspark.core.message import say
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.fed_gadget import FedGadget, fed_gadget_of
from pocketspark.core.models.inventory_item import Resistor
from pocketspark.core.models.load_line import LONGEST
from pocketspark.core.models.model import Model, RowNumber, Title
from pocketspark.core.models.project import FORMAT, Edit, apply_edits
from pocketspark.core.models.upgrade import upgraded
from pocketspark.core.photographs.marks import PicturePoint
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment
from pocketspark.core.questions.board_pads import BoardInBuild, PadInPhoto, boards_with_pads, pads_in_photo
from pocketspark.core.questions.candidates import Candidate, candidates
from pocketspark.core.questions.compare import Comparison, compare
from pocketspark.core.questions.inventory_resistors import InventoryChoice, inventory_choices
from pocketspark.core.questions.life_levers import LeverKey
from pocketspark.core.questions.load_as_lived import LoadUnderstood, read_load_line
from pocketspark.core.questions.load_law import LawsOfReadings, laws_of_readings
from pocketspark.core.questions.measure_next import NextReading, next_readings
from pocketspark.core.questions.regulator_options import RegulatorOption, regulator_options, suits
from pocketspark.core.questions.scenarios import Scenarios, scenarios
from pocketspark.core.questions.service_life import ServiceLife, january_near, service_life
from pocketspark.core.questions.shared_pack import SharedPack, shared_pack
from pocketspark.core.questions.start_up import StartUp, start_up
from pocketspark.core.questions.what_if import WhatIf, what_if
from pocketspark.server.asking import (
    Asked,
    DocumentInHand,
    OurLibrary,
    OurProjects,
    Question,
    RefusedField,
    build_number,
    read_document,
    read_question,
)
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.json_text import Document, sound
from pocketspark.server.keystrokes import KeystrokeRoute
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Inventory

router = APIRouter(prefix="/api/questions", tags=["questions"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)
keystrokes = APIRouter(
    prefix="/api/questions", tags=["questions"], responses=PROBLEM_RESPONSES, route_class=KeystrokeRoute
)


def inventory_of(request: Request) -> Inventory:
    inventory: Inventory = request.app.state.inventory
    return inventory


OurInventory = Annotated[Inventory, Depends(inventory_of)]


class AssessReply(BaseModel):
    """What is said of the sound part of the document, and which of its fields were refused."""

    assessment: Assessment
    refused: list[RefusedField]


@keystrokes.post("/assess", response_model=AssessReply)
def assess_document(question: Asked) -> Response:
    """Asked at every keystroke: written as text at once, and not first as the objects that the text is made of."""
    reply = AssessReply(assessment=assess(question.project, question.build), refused=question.refused_fields)
    return Response(reply.model_dump_json(), media_type="application/json")


class EditQuestion(BaseModel):
    """A document as it is being typed, and what is to be set in it."""

    document: Document
    edits: Annotated[list[Edit], Field(max_length=200), BeforeValidator(sound)]


class EditedDocument(BaseModel):
    """The document with the edits made. Whatever else stood in it, half-typed text too, is untouched."""

    document: Document


@router.post("/edited")
def edited(question: EditQuestion) -> EditedDocument:
    """Make these edits, with what they mean for where values came from. Nothing is judged, nothing is stored."""
    document = upgraded({"format": FORMAT, **question.document})
    apply_edits(document, question.edits)
    try:
        return EditedDocument(document=document)
    except ValidationError as error:  # what the edits made of it is refused like what is sent
        raise RequestValidationError(error.errors()) from None


class CopyQuestion(BaseModel):
    """A document, and which plan of it is to be made once more."""

    document: Document
    build: str
    name: Title
    practice: bool = False  # nothing is to be soldered of the copy


@router.post("/build-copied")
def build_copied(question: CopyQuestion) -> EditedDocument:
    """The document with the plan of this build once more, at the end. Its record stays with the one that was made."""
    read = read_document(question.document)
    build_number(read.project, question.build)
    return EditedDocument(
        document=read.project.with_build_copied(question.build, question.name, practice=question.practice).model_dump(
            mode="json"
        )
    )


class CellCandidate(Model):
    """A cell of the library or of the inventory, and what it would come to."""

    part: str
    outcome: Candidate


@router.post("/candidates")
def cell_candidates(question: Asked, library: OurLibrary, inventory: OurInventory) -> list[CellCandidate]:
    """`part` is the library's own id, or "inventory-7" for the maker's."""
    cells = {part.id: part.cell for part in library.of("cell") if part.cell}
    cells |= {f"inventory-{part.id}": part.body for part in inventory.parts("cell") if isinstance(part.body, Cell)}
    outcomes = candidates(question.project, question.build, cells.values())
    return [CellCandidate(part=part, outcome=outcome) for part, outcome in zip(cells, outcomes, strict=True)]


@router.post("/own-cell")
def own_cell(question: Asked, inventory: OurInventory) -> KnownElsewhere | None:
    """What was read of the cell of this build since it was taken from the maker's parts, on the bench or elsewhere."""
    cell = question.project.builds[question.build].cell
    parts = {part.id: part.body for part in inventory.parts("cell")} if cell and cell.inventory_id else {}
    body = parts.get(cell.inventory_id) if cell and cell.inventory_id else None
    return known_elsewhere(question.project, question.build, body) if isinstance(body, Cell) else None


@router.post("/regulators")
def compare_regulators(question: Asked, library: OurLibrary, inventory: OurInventory) -> list[RegulatorOption]:
    """Straight through and every regulator of library and inventory in this build, best first."""
    if question.project.builds[question.build].cell is None:
        raise HTTPException(409, say("choose a cell first: its voltage is what a regulator shapes"))
    boards = [board for board in library.boards if suits(board, question.project.gadget)]
    own = [part.body for part in inventory.parts() if isinstance(part.body, Board) and part.body.regulator]
    return regulator_options(question.project, question.build, [*boards, *own])


@router.post("/measure-next")
def measure_next(question: Asked) -> list[NextReading]:
    """Which numbers nobody has measured would change something, the most telling first."""
    return next_readings(question.project, question.build)


@router.post("/scenarios")
def other_circumstances(question: Asked) -> Scenarios:
    """Every way to use it while it charges; the same build with an old or a cold cell."""
    return scenarios(question.project, question.build)


@router.post("/resistors")
def resistors_of_the_inventory(question: Asked, inventory: OurInventory) -> list[InventoryChoice]:
    """The best single, pair in series and pair in parallel from the maker's own resistors."""
    own = [part.body for part in inventory.parts("resistor") if isinstance(part.body, Resistor) and part.stock > 0]
    return inventory_choices(question.project, question.build, own)


class LoadQuestion(Question):
    """A line that says what the gadget draws and when, and the document into which it is read."""

    line: Annotated[str, Field(max_length=LONGEST)]


@router.post("/load")
def read_a_load(question: LoadQuestion, projects: OurProjects) -> LoadUnderstood:
    """What the line is understood as, and the edits that put it into the document."""
    return read_load_line(read_question(question, projects).project, question.line)


class LawQuestion(Question):
    """A document, and the mode by its id whose readings at several volts are looked at."""

    mode: Annotated[str, Field(max_length=60)] = ""


@router.post("/load-law")
def law_of_readings(question: LawQuestion, projects: OurProjects) -> LawsOfReadings | None:
    """By which law the gadget draws in this mode, what would tell it from others, and what is to be read next."""
    return laws_of_readings(read_question(question, projects).project, question.mode)


class LifeQuestion(Question):
    """A document, and which levers are pulled. `tries_levers`: what each would change is worked out as well."""

    tries_levers: bool = True
    pulled: Annotated[list[LeverKey], Field(max_length=12)] = Field(default_factory=list)


@router.post("/life")
def life_of_build(question: LifeQuestion, library: OurLibrary, projects: OurProjects) -> ServiceLife:
    """How long a charge serves over the years, what becomes of it unused, and what would make it longer."""
    asked = read_question(question, projects)
    today = datetime.now(UTC)
    first_year = january_near(today.year, today.month)
    return service_life(
        asked.project, asked.build, first_year, library.cells, question.pulled, tries_levers=question.tries_levers
    )


class WhatIfQuestion(Question):
    """A document, and the fault that is looked at. `tries_remedies`: what would help is worked out as well."""

    picked: Annotated[str, Field(max_length=120)] = ""
    tries_remedies: bool = False


@router.post("/what-if")
def what_if_it_fails(question: WhatIfQuestion, projects: OurProjects) -> WhatIf:
    """Every single fault of the build as it is wired: what it reaches, what stops it, and how it shows."""
    asked = read_question(question, projects)
    return what_if(asked.project, asked.build, question.picked, tries_remedies=question.tries_remedies)


class StartUpQuestion(Question):
    """A document, and the mode by its id; the heaviest where none is named."""

    mode: Annotated[str, Field(max_length=60)] = ""


@router.post("/start-up")
def start_of_gadget(question: StartUpQuestion, projects: OurProjects) -> StartUp | None:
    """The first tenth of a second after it is switched on: does it start, late, in hiccups, or stay off?"""
    asked = read_question(question, projects)
    return start_up(asked.project, asked.build, question.mode)


@router.post("/shared-pack")
def pack_for_several(question: Question, projects: OurProjects) -> SharedPack:
    """What this build gives, which of its gadgets it serves, and what is to be written on it."""
    asked = read_question(question, projects)
    return shared_pack(asked.project, asked.build)


@router.get("/fed-gadget/{project_id}")
def gadget_of_another(project_id: RowNumber, projects: OurProjects) -> FedGadget:
    """The gadget of another conversion as one more on a pack."""
    return fed_gadget_of(projects.get(project_id).project.gadget)


class ComparisonQuestion(DocumentInHand):
    """A document, and which of its builds to set side by side."""

    builds: Annotated[list[Annotated[str, BeforeValidator(str)]], Field(min_length=2, max_length=6)]


@router.post("/compare")
def compare_builds(question: ComparisonQuestion, projects: OurProjects) -> Comparison:
    asked = [
        read_question(Question(document=question.document, project_id=question.project_id, build=build), projects)
        for build in question.builds
    ]
    return compare(asked[0].project, [one.build for one in asked])


@router.get("/size-code")
def size_code(code: str) -> list[SizeReading]:
    """Every plausible reading of the size printed on a cell."""
    return read_size_code(code)


# Pads of a board --------------------------------------------------------------------------------------------------


@router.post("/board-pads")
def boards_of_build(question: Asked) -> list[BoardInBuild]:
    """Which boards of a build have pads, and of which it is known where they are."""
    return boards_with_pads(question.project, question.build)


class PadsQuestion(Question):
    """A document, and the corners and pads of a board of one of its builds as they were clicked in a picture."""

    board: str
    corners: list[PicturePoint] = Field(min_length=4, max_length=4)
    pads: list[PadInPhoto] = Field(min_length=1, max_length=40)


@router.post("/board-pads/in-photo")
def clicked_pads(question: PadsQuestion, projects: OurProjects) -> list[Edit]:
    """What in the document puts these pads where they were clicked."""
    asked = read_question(question, projects)
    return pads_in_photo(asked.project, asked.build, question.board, question.corners, question.pads)
