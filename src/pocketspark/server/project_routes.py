"""Routes of the projects: keep, change, undo, export and import projects."""

import json
from collections.abc import Mapping
from contextlib import suppress
from datetime import datetime
from tempfile import SpooledTemporaryFile
from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from fastapi.responses import JSONResponse, PlainTextResponse
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from pocketspark.core.cells.cell_history import with_changes_noted
from pocketspark.core.cells.own_cells import LearntOfCell, learnt_of_own_cells
from pocketspark.core.merging import BothChanged
from pocketspark.core.message import say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.lenient import ReadDocument
from pocketspark.core.models.model import RowNumber, Title
from pocketspark.core.models.project import FORMAT
from pocketspark.core.photographs.marks import PhotoMarks
from pocketspark.core.questions.beginning import Beginning, begin
from pocketspark.core.questions.joint_state import joint_state
from pocketspark.core.recipe import MOST_PICTURES, project_after, recipe_of
from pocketspark.core.steps.fixing import as_read_from_file, with_plans_fixed
from pocketspark.demo import EXAMPLE, demo_projects
from pocketspark.formats import project_json, project_zip, recipe_json
from pocketspark.server.asking import NoSuchBuild, OurProjects, RefusedField, read_document, refused_fields
from pocketspark.server.json_text import Document
from pocketspark.server.pairing import OurDevice, OurDevices
from pocketspark.server.photo_routes import OurPhotos
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.server.signing import signing_key
from pocketspark.server.undoing import redo_own, undo_own
from pocketspark.store import (
    Arrivals,
    Conflict,
    EarlierState,
    Inventory,
    LiveLog,
    LiveLogs,
    LogFiles,
    NewPart,
    NewPhoto,
    NothingThere,
    PartChanged,
    Projects,
    Stored,
    Unreadable,
)
from pocketspark.store.log_files import pack
from pocketspark.store.utc import now

router = APIRouter(prefix="/api/projects", tags=["projects"], responses=PROBLEM_RESPONSES)


class StoredProject(BaseModel):
    """A project as it is kept. Send `revision` back with every change."""

    id: int
    revision: RowNumber
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    project: Project


# So often is what was put together tried again, where somebody else saves at every try.
MERGES = 5


class PresentRevision(BaseModel):
    """The revision that is kept now; and texts that are others whenever its photographs, or own parts, have changed.

    `archived`: nothing is saved into it before it is restored.
    """

    revision: RowNumber
    archived: bool
    photos: str
    parts: str


class Save(BaseModel):
    """A new state, half-typed text and all, and the revision it was made from.

    `mine_counts`: of what another device has changed too since then this one stays; all else of theirs is kept.
    """

    revision: RowNumber
    document: Document
    mine_counts: bool = False


class SavedProject(StoredProject):
    """What was saved: the sound part. A refused field stays as it was stored before.

    `merged_from`: it was put together with what another device had saved. Who has gone on typing meanwhile, and has
    not got that on screen, saves the next state as made from this revision.
    """

    refused: list[RefusedField]
    merged_from: RowNumber | None = None


class AnotherName(BaseModel):
    """What the other gadget is called."""

    name: Title


class UndoStep(BaseModel):
    """The revision that the caller sees now."""

    revision: RowNumber


@router.post("", status_code=201)
def add_project(document: Document, projects: OurProjects) -> StoredProject:
    read = project_json.read({"format": FORMAT, **document})
    return _answer(projects.add(as_read_from_file(read, _moment_now())))


@router.post("/begin", status_code=201)
def begin_project(answers: Beginning, projects: OurProjects) -> StoredProject:
    """From a handful of answers and as many "I do not know", given as null, to a survey."""
    return _answer(projects.add(begin(answers)))


@router.post("/example", status_code=201)
def add_example(projects: OurProjects) -> StoredProject:
    """A worked example: a conversion of the demo, to look around in."""
    return _answer(projects.add(demo_projects()[EXAMPLE]))


@router.post("/{project_id}/duplicate", status_code=201)
def duplicate(project_id: RowNumber, wanted: AnotherName, projects: OurProjects) -> StoredProject:
    """The same survey and plans for another gadget of the kind, with nothing done yet."""
    return _answer(projects.add(projects.get(project_id).project.for_another(wanted.name)))


_ANY_FILE = {
    "requestBody": {
        "required": True,
        "content": {"application/json": {"schema": {}}, "application/zip": {"schema": {"type": "string"}}},
    }
}


@router.post("/import", status_code=201, openapi_extra=_ANY_FILE)
async def import_project(request: Request, projects: OurProjects) -> StoredProject:
    """Takes an exported file as the body: the JSON, or the zip with its photographs."""
    with SpooledTemporaryFile(max_size=project_json.LARGEST_BYTES) as file:
        async for chunk in request.stream():
            file.write(chunk)
        return _answer(await run_in_threadpool(_take_in, file, projects))


def _take_in(file: SpooledTemporaryFile[bytes], projects: Projects) -> Stored:
    size = file.tell()
    file.seek(0)
    zipped = file.read(len(project_zip.BEGINS_WITH)) == project_zip.BEGINS_WITH
    file.seek(0)
    if not zipped and recipe_json.is_recipe(file.read(200)):
        file.seek(0)
        recipe = recipe_json.loads(file.read(recipe_json.LARGEST_BYTES + 1))
        pictures = [
            NewPhoto(number, recipe_json.unpacked_picture(one), one.caption, PhotoMarks())
            for number, one in enumerate(recipe.pictures, 1)
        ]
        return projects.add(project_after(recipe, _moment_now()), Arrivals(photos=pictures))
    file.seek(0)
    if not zipped:
        read = project_json.loads(file.read(project_json.LARGEST_BYTES + 1))
        return projects.add(as_read_from_file(read, _moment_now()))
    packed = project_zip.load(file, size)
    return projects.add(
        as_read_from_file(packed.project, _moment_now()),
        Arrivals(
            photos=[NewPhoto(one.line.id, one.picture, one.line.caption, one.line.marks) for one in packed.photos],
            parts=[NewPart(part.line.id, part.line.kind, part.body, part.line.stock) for part in packed.parts],
            history=[EarlierState(made_at, project) for made_at, project in packed.history],
            runs=[
                LiveLog(0, run.name, run.limits, True, run.failure, run.rows, run.simulated, run.remarks)
                for run in packed.runs
            ],
            logs=[pack(log.line.name, log.content) for log in packed.logs],
        ),
    )


@router.get("/{project_id}")
def get_project(project_id: RowNumber, projects: OurProjects) -> StoredProject:
    return _answer(projects.get(project_id))


@router.put("/{project_id}")
def save_project(
    project_id: RowNumber, save: Save, projects: OurProjects, inventory: OurInventory, device: OurDevice
) -> SavedProject:
    """Made from an earlier state than the present one, what both changed is put together, or refused with both kept."""
    present = projects.get(project_id).project
    read = read_document(save.document, present)
    # What was fixed at the first cut stays as it was kept, whoever saves.
    mine = with_plans_fixed(read.project, _moment_now(), present)
    merged_from = None
    try:
        stored = projects.save(project_id, mine, based_on=save.revision, device=device)
    except Conflict as conflict:
        stored = _saved_together(projects, conflict, save, mine, device)
        merged_from = projects.set_aside(project_id, mine)
    _teach_own_parts(inventory, learnt_of_own_cells(present, stored.project))
    refused = refused_fields(read.refused)
    return SavedProject(**_answer(stored).model_dump(), refused=refused, merged_from=merged_from)


def _teach_own_parts(inventory: Inventory, learnt: Mapping[int, LearntOfCell]) -> None:
    """What was measured in a conversion is known of the cell itself, with a line in its history."""
    for part_id, of_cell in learnt.items():
        with suppress(NothingThere, PartChanged):
            part = inventory.get(part_id)
            if isinstance(part.body, Cell):
                body = with_changes_noted(part.body, of_cell.put_into(part.body), _moment_now()[:10])
                inventory.change(part_id, body, part.stock, based_on=part.revision)


def _saved_together(projects: Projects, conflict: Conflict, save: Save, mine: Project, device: int) -> Stored:
    """Raises Conflict where both changed the same, or what they began from is no longer kept.

    Tried again where somebody saves while it is put together.
    """
    base = projects.state(conflict.kept.id, save.revision)
    if base is None and save.mine_counts:
        return projects.save(conflict.kept.id, mine, based_on=conflict.kept.revision, device=device)
    if base is None:
        raise conflict
    for _ in range(MERGES):
        theirs = conflict.kept
        try:
            together = joint_state(base, mine, theirs.project, mine_counts=save.mine_counts)
        except BothChanged as both:
            raise Conflict(theirs, str(both)) from None
        try:
            return projects.save(theirs.id, together, based_on=theirs.revision, device=device)
        except Conflict as another:  # a third one saved meanwhile
            conflict = another
    raise conflict


@router.get("/{project_id}/revision")
def present_revision(
    project_id: RowNumber, projects: OurProjects, photos: OurPhotos, inventory: OurInventory
) -> PresentRevision:
    """What a page that is open asks now and then: has another device changed it?"""
    revision = projects.revision(project_id)
    return PresentRevision(
        revision=revision,
        archived=projects.is_archived(project_id),
        photos=photos.stamp(project_id),
        parts=inventory.stamp(),
    )


def _moment_now() -> str:
    return f"{now().isoformat(timespec='seconds')[:19]}Z"


@router.post("/{project_id}/undo")
def undo(
    project_id: RowNumber, step: UndoStep, projects: OurProjects, devices: OurDevices, device: OurDevice
) -> StoredProject:
    """The newest change of this device. A plan that was fixed at the first cut stays fixed: undone steps give no new
    limits.
    """
    before = projects.get(project_id).project
    stored = undo_own(projects, devices, project_id, based_on=step.revision, device=device)
    kept = with_plans_fixed(stored.project, _moment_now(), before)
    if kept != stored.project:
        stored = projects.save(project_id, kept, based_on=stored.revision, device=device)
    return _answer(stored)


@router.post("/{project_id}/redo")
def redo(
    project_id: RowNumber, step: UndoStep, projects: OurProjects, devices: OurDevices, device: OurDevice
) -> StoredProject:
    """What this device has undone."""
    return _answer(redo_own(projects, devices, project_id, based_on=step.revision, device=device))


@router.delete("/{project_id}", status_code=204)
def archive(project_id: RowNumber, projects: OurProjects, for_good: bool = False) -> None:
    """Off the list, not destroyed: `restore` returns it. `for_good`: destroyed, where it was archived before."""
    if for_good:
        projects.erase(project_id)
    else:
        projects.archive(project_id)


@router.post("/{project_id}/restore", status_code=204)
def restore(project_id: RowNumber, projects: OurProjects) -> None:
    projects.restore(project_id)


@router.get("/{project_id}/raw", response_class=PlainTextResponse)
def as_stored(project_id: RowNumber, projects: OurProjects) -> Response:
    """The text exactly as it is stored, also where it cannot be read."""
    headers = {"Content-Disposition": f'attachment; filename="conversion-{project_id}-as-stored.json"'}
    return PlainTextResponse(projects.raw(project_id).encode(errors="replace"), headers=headers)


@router.post("/{project_id}/repair")
def repair(project_id: RowNumber, projects: OurProjects) -> SavedProject:
    """Keeps what can be read of a stored text that cannot be read whole: all but its refused fields.

    Where nothing of it can, or the disk has changed it, the newest earlier state that is sound. The text that was there
    stays in the history.
    """
    read = _readable_part(projects, project_id)
    stored = projects.repair(project_id, read.project)
    return SavedProject(**_answer(stored).model_dump(), refused=refused_fields(read.refused))


def _readable_part(projects: Projects, project_id: RowNumber) -> ReadDocument:
    """Raises Unreadable where there is nothing at all to go by."""
    before = projects.readable_before(project_id)
    if before is not None and projects.shelf.is_damaged(project_id):
        return ReadDocument(before, ())  # a figure that the disk has changed looks like any other
    try:
        document = json.loads(projects.raw(project_id))
        return read_document({**document, "format": FORMAT}, before)
    except (ValueError, TypeError, RecursionError):
        if before is None:
            raise Unreadable(say("nothing of it, and no earlier state"), projects.raw(project_id)) from None
        return ReadDocument(before, ())


@router.get("/{project_id}/export", response_class=JSONResponse)
def export(project_id: RowNumber, projects: OurProjects) -> Response:
    """The document alone."""
    project = projects.get(project_id).project
    return _file(project_json.dumps(project), "application/json", project, "spark.json")


@router.get("/{project_id}/recipe.json", response_class=JSONResponse)
def export_recipe(
    project_id: RowNumber,
    request: Request,
    projects: OurProjects,
    photos: OurPhotos,
    build: Annotated[int, Query(ge=0, le=100)] = 0,
    author: Annotated[str, Query(max_length=80)] = "",
    signed: bool = False,
    pictures: Annotated[list[RowNumber], Query(max_length=MOST_PICTURES)] = [],  # noqa: B006 (never changed)
) -> Response:
    """A finished build for others to follow, with the photographs that are named. 409 before it is finished."""
    project = projects.get(project_id).project
    if build >= len(project.builds):
        raise NoSuchBuild(say("this project has no build {build}", build=build))
    key = signing_key(request.app.state.data) if signed else None
    captions = {photo.id: photo.caption for photo in photos.of(project_id)}
    packed = tuple(
        recipe_json.packed_picture(
            photos.pixels(project_id, photo_id, small=False), captions.get(photo_id, "photograph")
        )
        for photo_id in pictures
    )
    recipe = recipe_of(project, build, author, _moment_now(), packed)
    return _file(recipe_json.dumps(recipe, key), "application/json", project, "recipe.json")


@router.get("/{project_id}/export.zip", response_class=Response, responses={200: {"content": {"application/zip": {}}}})
def export_with_photos(
    project_id: RowNumber,
    request: Request,
    projects: OurProjects,
    photos: OurPhotos,
    history: bool = False,
    parts: bool = False,
    runs: bool = False,
    logs: bool = False,
) -> Response:
    """The document and its photographs byte for byte; on wish its earlier states, own parts, live runs and logs."""
    project = projects.get(project_id).project
    packed = [
        (
            project_zip.PhotoLine(id=one.id, caption=one.caption, marks=one.marks),
            photos.pixels(project_id, one.id, small=False),
        )
        for one in photos.of(project_id)
    ]
    extras = project_zip.Extras(
        history=projects.history(project_id) if history else (),
        parts=_own_parts(project, request.app.state.inventory) if parts else (),
        runs=_runs(request.app.state.logs, project_id) if runs else (),
        logs=_logs(request.app.state.log_files, project_id) if logs else (),
    )
    return _file(project_zip.dumps(project, packed, extras), "application/zip", project, "spark.zip")


def _own_parts(project: Project, inventory: Inventory) -> list[project_zip.OwnPartLine]:
    held = {part.inventory_id for part in project.parts}
    return [
        project_zip.OwnPartLine(id=part.id, kind=part.kind, stock=part.stock, body=part.body.model_dump(mode="json"))
        for part in inventory.parts()
        if part.id in held
    ]


def _runs(logs: LiveLogs, project_id: RowNumber) -> list[project_zip.RunLine]:
    return [
        project_zip.RunLine(
            name=log.name,
            limits=log.limits,
            failure=log.failure,
            simulated=log.simulated,
            remarks=log.remarks,
            rows=tuple(log.rows),
        )
        for log in logs.of(project_id)
    ]


def _logs(log_files: LogFiles, project_id: RowNumber) -> list[project_zip.PackedLog]:
    return [
        project_zip.PackedLog(project_zip.LogLine(id=log.id, name=log.name), log_files.content(log.id))
        for log in log_files.of(project_id)[::-1]
    ]


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
