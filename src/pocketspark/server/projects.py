"""Routes of the shelf: keep, change, undo, export and import projects."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from pocketspark.core.assess import assess
from pocketspark.core.finding import Level
from pocketspark.core.nouns import Project
from pocketspark.core.quantity import days, hours
from pocketspark.formats import project_json, project_zip
from pocketspark.server.photos import OurPhotos
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Kept, NewPhoto, Shelf

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


_ANY_FILE = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {}}, "application/zip": {"schema": {"type": "string"}}},
    }
}


@router.post("/import", status_code=201, openapi_extra=_ANY_FILE)
async def import_project(request: Request, shelf: OurShelf) -> KeptProject:
    """Takes an exported file as the body: the JSON, or the zip with its photographs."""
    data = bytearray()
    async for chunk in request.stream():
        data += chunk
        zipped = data.startswith(project_zip.BEGINS_WITH)
        if len(data) > (project_zip.LARGEST_BYTES if zipped else project_json.LARGEST_BYTES):
            break
    return _answer(await run_in_threadpool(_take_in, bytes(data), shelf))


def _take_in(data: bytes, shelf: Shelf) -> Kept:
    if not data.startswith(project_zip.BEGINS_WITH):
        return shelf.add(project_json.loads(data))
    packed = project_zip.loads(data)
    photos = [NewPhoto(one.line.id, one.picture, one.line.caption, one.line.marks) for one in packed.photos]
    return shelf.add(packed.project, photos)


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
    """The document alone."""
    project = shelf.get(project_id).project
    return _file(project_json.dumps(project), "application/json", project, "spark.json")


@router.get("/{project_id}/export.zip", response_class=Response, responses={200: {"content": {"application/zip": {}}}})
def export_with_photos(project_id: int, shelf: OurShelf, photos: OurPhotos) -> Response:
    """The document and its photographs."""
    project = shelf.get(project_id).project
    kept = [
        (
            project_zip.PhotoLine(id=one.id, caption=one.caption, marks=one.marks),
            photos.pixels(project_id, one.id, small=False),
        )
        for one in photos.of(project_id)
    ]
    return _file(project_zip.dumps(project, kept), "application/zip", project, "spark.zip")


def _file(content: str | bytes, media_type: str, project: Project, ending: str) -> Response:
    plain = "".join(c if c.isascii() and c.isalnum() else "-" for c in project.gadget.name.lower()).strip("-")
    headers = {"Content-Disposition": f'attachment; filename="{plain or "project"}.{ending}"'}
    return Response(content, media_type=media_type, headers=headers)


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
