"""Routes of the shelf: keep, change, undo, export and import projects."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel

from pocketspark.core.assess import assess
from pocketspark.core.finding import Level
from pocketspark.core.nouns import Project
from pocketspark.core.quantity import days, hours
from pocketspark.formats import project_json
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Kept, Shelf

router = APIRouter(prefix="/api/projects", tags=["projects"], responses=PROBLEM_RESPONSES)


def shelf_of(request: Request) -> Shelf:
    shelf: Shelf = request.app.state.shelf
    return shelf


OurShelf = Annotated[Shelf, Depends(shelf_of)]


class ShelfLine(BaseModel):
    """One project on the shelf, with what its first build comes to."""

    id: int
    name: str
    supply: str
    builds: int
    saved_at: datetime
    worst: Level
    headline: str
    charges: str
    runs: str


class KeptProject(BaseModel):
    """A project as it is kept. Send `revision` back with every change."""

    id: int
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    project: Project


class Save(BaseModel):
    """A new state, and the revision it was made from."""

    revision: int
    project: Project


class Step(BaseModel):
    """The revision that the caller sees now."""

    revision: int


@router.get("")
def list_projects(shelf: OurShelf) -> list[ShelfLine]:
    return [_line(summary.id, summary.saved_at, summary.project) for summary in shelf.summaries()]


@router.post("", status_code=201)
def add_project(project: Project, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.add(project))


_ANY_JSON = {"requestBody": {"required": True, "content": {"application/json": {"schema": {}}}}}


@router.post("/import", status_code=201, openapi_extra=_ANY_JSON)
async def import_project(request: Request, shelf: OurShelf) -> KeptProject:
    """Takes the text of an exported file as the body."""
    text = b""
    async for chunk in request.stream():
        text += chunk
        if len(text) > project_json.LARGEST_BYTES:
            break
    return _answer(shelf.add(project_json.loads(text)))


@router.get("/{project_id}")
def get_project(project_id: int, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.get(project_id))


@router.put("/{project_id}")
def save_project(project_id: int, save: Save, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.save(project_id, save.project, based_on=save.revision))


@router.post("/{project_id}/undo")
def undo(project_id: int, step: Step, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.undo(project_id, based_on=step.revision))


@router.post("/{project_id}/redo")
def redo(project_id: int, step: Step, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.redo(project_id, based_on=step.revision))


@router.delete("/{project_id}", status_code=204)
def put_away(project_id: int, shelf: OurShelf) -> None:
    """Off the shelf, not destroyed: `bring-back` returns it."""
    shelf.put_away(project_id)


@router.post("/{project_id}/bring-back")
def bring_back(project_id: int, shelf: OurShelf) -> KeptProject:
    return _answer(shelf.bring_back(project_id))


@router.get("/{project_id}/export", response_class=JSONResponse)
def export(project_id: int, shelf: OurShelf) -> Response:
    project = shelf.get(project_id).project
    plain = "".join(c if c.isascii() and c.isalnum() else "-" for c in project.gadget.name.lower()).strip("-")
    headers = {"Content-Disposition": f'attachment; filename="{plain or "project"}.spark.json"'}
    return Response(project_json.dumps(project), media_type="application/json", headers=headers)


def _answer(kept: Kept) -> KeptProject:
    return KeptProject(
        id=kept.id,
        revision=kept.revision,
        saved_at=kept.saved_at,
        can_undo=kept.can_undo,
        can_redo=kept.can_redo,
        project=kept.project,
    )


def _line(project_id: int, saved_at: datetime, project: Project) -> ShelfLine:
    seen = assess(project)
    supply = project.gadget.supply
    gravest = next((finding.headline for finding in seen.findings if finding.level in ("stop", "caution")), "")
    return ShelfLine(
        id=project_id,
        name=project.gadget.name,
        supply=f"{supply.label}",
        builds=len(project.builds),
        saved_at=saved_at,
        worst=seen.worst,
        headline=gravest,
        charges=f"charges in {hours(seen.charge.hours)}" if seen.charge and seen.charge.hours else "",
        runs=f"runs {days(seen.run.days)}" if seen.run and seen.run.days else "",
    )
