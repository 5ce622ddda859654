"""Routes of the inventory: the maker's own cells, boards and resistors."""

from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import APIRouter, HTTPException, Request, Response
from pydantic import BaseModel, Field, ValidationError

from pocketspark.core.cells.cell_code import code_of, number_of
from pocketspark.core.cells.cell_history import with_changes_noted
from pocketspark.core.cells.grading import Grade, grade
from pocketspark.core.cells.matching import Match, matches
from pocketspark.core.kinds.board_features import in_a_list
from pocketspark.core.message import NOTHING, Message, row_of, say, verbatim
from pocketspark.core.models import Board, Cell, Project
from pocketspark.core.models.inventory_item import INVENTORY_MODELS, InventoryKind, InventoryModel, Resistor
from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.part_texts import body_from, in_short, texts_of
from pocketspark.core.proposals.own_parts import where_they_are
from pocketspark.core.questions.batch_of_boards import BatchOfBoards, batch_of_boards, with_batch
from pocketspark.core.refusal import Refusal, UnfitPart, refusals
from pocketspark.core.units.figures import amp_hours, ohms, volts
from pocketspark.formats.cell_labels import CellLabel, to_pdf
from pocketspark.formats.paper import PaperSize
from pocketspark.server.asking import OurProjects
from pocketspark.server.cell_tests import tests_of
from pocketspark.server.json_text import Document
from pocketspark.server.live import live_runs_of
from pocketspark.server.own_stock import own_stock, projects_by_part
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.store import InventoryPart

router = APIRouter(prefix="/api/inventory", tags=["inventory"], responses=PROBLEM_RESPONSES)


class OwnPart(BaseModel):
    """One part as it lies in the inventory. Exactly one of the bodies is there; `grade` is a cell's."""

    id: int
    revision: RowNumber
    kind: InventoryKind
    stock: int
    used_by: list[str]
    where: Message = NOTHING  # built in, on test, promised, free; empty where all are free
    code: str = ""  # on the label of a cell
    batch: BatchOfBoards | None = None  # what boards of this part gave that were measured
    says: Message  # one line that tells it from its neighbours
    texts: dict[str, str]  # its fields, as they stand in the editor
    cell: Cell | None = None
    board: Board | None = None
    resistor: Resistor | None = None
    grade: Grade | None = None


class PartToKeep(BaseModel):
    """A part to add or change: as a `body` (a cell, a board or a resistor, as the kind says), or as `texts` typed.

    Texts are by the field's path; a field that is not among them stays as it is.
    """

    kind: InventoryKind
    stock: Annotated[int, Field(ge=0, le=10_000)] = 1
    body: Document | None = None
    texts: dict[str, Annotated[str, Field(max_length=2000)]] | None = None
    revision: RowNumber | None = None  # of the part that was looked at, when it is changed


class CellMatch(BaseModel):
    """Two cells of the inventory side by side."""

    first: int
    second: int
    names: list[str]
    match: Match


@router.get("")
def list_parts(request: Request, inventory: OurInventory, projects: OurProjects) -> list[OwnPart]:
    on_test = tests_of(request).on_test(live_runs_of(request))
    holding = projects_by_part(projects)
    return [
        _own(part).model_copy(update={"where": where_they_are(at_hand), "batch": _batch(part, holding)})
        for part, at_hand in own_stock(inventory, projects, on_test=on_test)
    ]


def _batch(part: InventoryPart, holding: Callable[[InventoryPart], list[Project]]) -> BatchOfBoards | None:
    if not isinstance(part.body, Board) or part.body.charger is None:
        return None
    builds = (build for project in holding(part) for build in project.builds)
    return batch_of_boards(part.body, part.id, builds)


@router.post("/{part_id}/batch")
def learn_from_batch(part_id: RowNumber, inventory: OurInventory, projects: OurProjects) -> OwnPart:
    """What its measured boards gave becomes the part's own: the next of them is planned with it. 409 where none was."""
    part = inventory.get(part_id)
    batch = _batch(part, projects_by_part(projects))
    if batch is None or not isinstance(part.body, Board):
        raise HTTPException(409, say("no board of this part has been measured in a build yet"))
    return _own(inventory.change(part_id, with_batch(part.body, batch), part.stock, based_on=part.revision))


@router.get("/by-code/{code}")
def part_by_code(code: Annotated[str, Field(max_length=40)], inventory: OurInventory) -> OwnPart:
    """The cell whose label this is, as it was typed or read by a camera."""
    return _own(inventory.get(number_of(code)))


@router.get("/labels", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def labels_of_cells(request: Request, inventory: OurInventory, paper: PaperSize = "a4") -> Response:
    """A label for each tested cell, with the address at which other devices find us, else this one's."""
    at = request.app.state.pairing.address or str(request.base_url).rstrip("/")
    labels = [
        CellLabel(code_of(part.id), f"{at}/c/{code_of(part.id)}", tuple(_on_label(part.body)))
        for part in inventory.parts("cell")
        if isinstance(part.body, Cell) and part.body.measured_capacity_ah is not None
    ]
    if not labels:
        raise HTTPException(409, say("no cell is tested yet: a label says what one really holds"))
    headers = {"Content-Disposition": 'attachment; filename="cell-labels.pdf"'}
    return Response(to_pdf(labels, paper), media_type="application/pdf", headers=headers)


def _on_label(cell: Cell) -> Iterator[str]:
    yield str(amp_hours(cell.planning_capacity_ah))
    full = say("full at {volts}", volts=volts(cell.facts.full_v))
    yield str(row_of([ohms(cell.r_ohm), full])) if cell.r_ohm else str(full)
    yield cell.name
    days = [event.day for event in cell.intake.history] if cell.intake else []
    read = say("read on {day}", day=verbatim(max(days))) if days else NOTHING
    yield str(row_of([one for one in (verbatim(grade(cell).word), read) if one]))


@router.post("", status_code=201)
def add_part(part: PartToKeep, inventory: OurInventory) -> OwnPart:
    return _own(inventory.add(part.kind, _body(part, {}), part.stock))


@router.put("/{part_id}")
def change_part(part_id: RowNumber, part: PartToKeep, inventory: OurInventory) -> OwnPart:
    """A cell's changed readings are noted in its history."""
    old = inventory.get(part_id)
    body = _body(part, old.body.model_dump(mode="json"))
    if old.kind != part.kind:
        raise UnfitPart([Refusal("kind", "a part keeps its kind; add a new one instead")])
    if isinstance(old.body, Cell) and isinstance(body, Cell):
        body = with_changes_noted(old.body, body, f"{datetime.now(UTC):%Y-%m-%d}")
    return _own(inventory.change(part_id, body, part.stock, based_on=part.revision))


@router.delete("/{part_id}", status_code=204)
def remove_part(part_id: RowNumber, inventory: OurInventory) -> None:
    """Refused while a build among the projects holds it."""
    inventory.remove(part_id)


@router.get("/matches")
def cell_matches(inventory: OurInventory) -> list[CellMatch]:
    """Which cells of the inventory go together in parallel, the good pairs first."""
    parts = [(part, part.body) for part in inventory.parts("cell") if isinstance(part.body, Cell)]
    found = matches([cell for _, cell in parts])
    return [_named(match, parts) for match in found]


@router.post("/grade")
def grade_cell(cell: Cell) -> Grade:
    """What the readings so far say of a cell, before it is kept."""
    return grade(cell)


def _named(match: Match, parts: list[tuple[InventoryPart, Cell]]) -> CellMatch:
    (first, one), (second, other) = parts[match.first], parts[match.second]
    return CellMatch(first=first.id, second=second.id, names=[one.name, other.name], match=match)


def _own(part: InventoryPart) -> OwnPart:
    body = part.body
    return OwnPart(
        id=part.id,
        revision=part.revision,
        kind=part.kind,
        stock=part.stock,
        used_by=list(part.used_by),
        code=code_of(part.id) if isinstance(body, Cell) else "",
        says=in_a_list(body) if isinstance(body, Board) else verbatim(in_short(body)),
        texts=texts_of(part.kind, body),
        cell=body if isinstance(body, Cell) else None,
        board=body if isinstance(body, Board) else None,
        resistor=body if isinstance(body, Resistor) else None,
        grade=grade(body) if isinstance(body, Cell) else None,
    )


def _body(part: PartToKeep, old: dict[str, Any]) -> InventoryModel:
    """The body as its kind wants it. Raises UnfitPart."""
    typed = part.body if part.texts is None else body_from(part.kind, old, part.texts)
    try:
        body: InventoryModel = INVENTORY_MODELS[part.kind].model_validate(typed or {})
    except ValidationError as error:
        raise UnfitPart(refusals(error)) from None
    if isinstance(body, Board) and getattr(body, part.kind) is None:
        raise UnfitPart([Refusal(part.kind, f"a {part.kind} board has a {part.kind} on it")])
    return body
