"""Routes of the projects: keep, change, undo, export and import projects."""

from datetime import datetime

from fastapi import APIRouter, Request, Response
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from pocketspark.core.finding import Level
from pocketspark.core.models import Project
from pocketspark.core.models.project import FORMAT
from pocketspark.core.questions.assess import assess
from pocketspark.core.units.figures import days, hours
from pocketspark.formats import project_json, project_zip
from pocketspark.server.asking import Document, OurProjects, RefusedField, read_document, refused_fields
from pocketspark.server.photos import OurPhotos
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import NewPhoto, Projects, Stored

router = APIRouter(prefix="/api/projects", tags=["projects"], responses=PROBLEM_RESPONSES)


class ProjectLine(BaseModel):
    """One line of the list of projects, with what its first build comes to."""

    id: int
    name: str
    supply: str
    builds: int
    saved_at: datetime
    worst: Level
    headline: str
    charges: str
    runs: str


class StoredProject(BaseModel):
    """A project as it is kept. Send `revision` back with every change."""

    id: int
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    project: Project


class Save(BaseModel):
    """A new state, half-typed text and all, and the revision it was made from."""

    revision: int
    document: Document


class SavedProject(StoredProject):
    """What was saved: the sound part. A refused field stays as it was stored before."""

    refused: list[RefusedField]


class UndoStep(BaseModel):
    """The revision that the caller sees now."""

    revision: int


@router.get("")
def list_projects(projects: OurProjects) -> list[ProjectLine]:
    return [_line(summary.id, summary.saved_at, summary.project) for summary in projects.summaries()]


@router.post("", status_code=201)
def add_project(document: Document, projects: OurProjects) -> StoredProject:
    return _answer(projects.add(project_json.read({"format": FORMAT, **document})))


_ANY_FILE = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {}}, "application/zip": {"schema": {"type": "string"}}},
    }
}


@router.post("/import", status_code=201, openapi_extra=_ANY_FILE)
async def import_project(request: Request, projects: OurProjects) -> StoredProject:
    """Takes an exported file as the body: the JSON, or the zip with its photographs."""
    data = bytearray()
    async for chunk in request.stream():
        data += chunk
        zipped = data.startswith(project_zip.BEGINS_WITH)
        if len(data) > (project_zip.LARGEST_BYTES if zipped else project_json.LARGEST_BYTES):
            break
    return _answer(await run_in_threadpool(_take_in, bytes(data), projects))


def _take_in(data: bytes, projects: Projects) -> Stored:
    if not data.startswith(project_zip.BEGINS_WITH):
        return projects.add(project_json.loads(data))
    packed = project_zip.loads(data)
    photos = [NewPhoto(one.line.id, one.picture, one.line.caption, one.line.marks) for one in packed.photos]
    return projects.add(packed.project, photos)


@router.get("/{project_id}")
def get_project(project_id: int, projects: OurProjects) -> StoredProject:
    return _answer(projects.get(project_id))


@router.put("/{project_id}")
def save_project(project_id: int, save: Save, projects: OurProjects) -> SavedProject:
    read = read_document(save.document, projects.get(project_id).project)
    stored = projects.save(project_id, read.project, based_on=save.revision)
    return SavedProject(**_answer(stored).model_dump(), refused=refused_fields(read.refused))


@router.post("/{project_id}/undo")
def undo(project_id: int, step: UndoStep, projects: OurProjects) -> StoredProject:
    return _answer(projects.undo(project_id, based_on=step.revision))


@router.post("/{project_id}/redo")
def redo(project_id: int, step: UndoStep, projects: OurProjects) -> StoredProject:
    return _answer(projects.redo(project_id, based_on=step.revision))


@router.delete("/{project_id}", status_code=204)
def archive(project_id: int, projects: OurProjects) -> None:
    """Off the list, not destroyed: `restore` returns it."""
    projects.archive(project_id)


@router.post("/{project_id}/restore")
def restore(project_id: int, projects: OurProjects) -> StoredProject:
    return _answer(projects.restore(project_id))


@router.get("/{project_id}/export", response_class=JSONResponse)
def export(project_id: int, projects: OurProjects) -> Response:
    """The document alone."""
    project = projects.get(project_id).project
    return _file(project_json.dumps(project), "application/json", project, "spark.json")


@router.get("/{project_id}/export.zip", response_class=Response, responses={200: {"content": {"application/zip": {}}}})
def export_with_photos(project_id: int, projects: OurProjects, photos: OurPhotos) -> Response:
    """The document and its photographs."""
    project = projects.get(project_id).project
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


def _answer(kept: Stored) -> StoredProject:
    return StoredProject(
        id=kept.id,
        revision=kept.revision,
        saved_at=kept.saved_at,
        can_undo=kept.can_undo,
        can_redo=kept.can_redo,
        project=kept.project,
    )


def _line(project_id: int, saved_at: datetime, project: Project) -> ProjectLine:
    seen = assess(project)
    supply = project.gadget.supply
    gravest = next((finding.headline for finding in seen.findings if finding.level in ("stop", "caution")), "")
    return ProjectLine(
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
