"""Routes of the inventory: the maker's own cells, boards and resistors."""

from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import BaseModel, Field, ValidationError

from pocketspark.core.cells.cell_history import with_changes_noted
from pocketspark.core.cells.grading import Grade, grade
from pocketspark.core.cells.matching import Match, matches
from pocketspark.core.kinds.board_features import in_a_list
from pocketspark.core.message import Message, verbatim
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.inventory import INVENTORY_MODELS, InventoryKind, InventoryModel, Resistor
from pocketspark.core.models.model import RowNumber
from pocketspark.core.models.part_texts import body_from, in_short, texts_of
from pocketspark.core.refusal import Refusal, UnfitPart, refusals
from pocketspark.server.json_text import Document
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.questions import OurInventory
from pocketspark.store import InventoryPart

router = APIRouter(prefix="/api/inventory", tags=["inventory"], responses=PROBLEM_RESPONSES)


class OwnPart(BaseModel):
    """One part as it lies in the inventory. Exactly one of the bodies is there; `grade` is a cell's."""

    id: int
    revision: RowNumber
    kind: InventoryKind
    stock: int
    used_by: list[str]
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
def list_parts(inventory: OurInventory) -> list[OwnPart]:
    return [_own(part) for part in inventory.parts()]


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
