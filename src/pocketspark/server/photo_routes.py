"""Routes of a project's photographs."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, Field
from starlette.concurrency import run_in_threadpool

from pocketspark.core.cells.printed_label import PrintedLabel, read_label
from pocketspark.core.message import say
from pocketspark.core.models.model import RowNumber, Title
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.photographs.bay_finder import bay_in
from pocketspark.core.photographs.card import card_in, rectangle_mm
from pocketspark.core.photographs.marks import BayCorners, Line, PhotoMarks, PicturePoint, ReadLength
from pocketspark.core.photographs.plane import BayPlane, NoPlane, read_lengths
from pocketspark.core.questions.bay_picture import (
    ProposedBay,
    SeenBay,
    TracedObstacle,
    TracedWall,
    proposed_bay,
    seen_bay,
    traced,
    traced_opening,
)
from pocketspark.formats.photograph import greys, read_picture, straightened, turned
from pocketspark.formats.printed_text import printed_text
from pocketspark.server.asking import OurProjects, Question, read_question
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import NothingThere, Photo, Photos

router = APIRouter(prefix="/api/projects/{project_id}/photos", tags=["photos"], responses=PROBLEM_RESPONSES)


# A picture that belongs to no conversion: of it nothing is kept.
labels = APIRouter(prefix="/api/labels", tags=["photos"], responses=PROBLEM_RESPONSES)


def photos_of(request: Request) -> Photos:
    photos: Photos = request.app.state.photos
    return photos


OurPhotos = Annotated[Photos, Depends(photos_of)]


class StoredPhoto(BaseModel):
    """A photograph without its pixels; `lengths` are read off where a known length is marked."""

    id: int
    revision: RowNumber
    caption: str
    width: int
    height: int
    made_at: datetime
    marks: PhotoMarks
    lengths: list[ReadLength]


class Marking(BaseModel):
    """What is to be marked and written on a photograph."""

    caption: Title
    marks: PhotoMarks
    revision: RowNumber | None = None  # of the photograph that was looked at


_ANY_PICTURE = {"requestBody": {"required": True, "content": {"image/*": {"schema": {"type": "string"}}}}}


@router.get("")
def list_photos(project_id: RowNumber, photos: OurPhotos) -> list[StoredPhoto]:
    return [_answer(photo) for photo in photos.of(project_id)]


@router.post("", status_code=201, openapi_extra=_ANY_PICTURE)
async def add_photo(
    project_id: RowNumber,
    request: Request,
    photos: OurPhotos,
    caption: Annotated[str, Query(max_length=120), ON_ONE_LINE] = "photograph",
) -> StoredPhoto:
    """Takes the picture itself as the body: JPEG, PNG or WebP."""
    data = await request.body()
    # A picture takes its time to read: nobody else waits for it meanwhile.
    return await run_in_threadpool(_take_in, project_id, data, caption.strip() or "photograph", photos)


def _take_in(project_id: RowNumber, data: bytes, caption: str, photos: Photos) -> StoredPhoto:
    return _answer(photos.add(project_id, read_picture(data), caption))


@labels.post("", openapi_extra=_ANY_PICTURE)
async def read_printed_label(request: Request) -> PrintedLabel:
    """What is printed on the cell in a picture, which is the body, and what size that may be. Nothing is kept."""
    data = await request.body()
    return await run_in_threadpool(lambda: read_label(printed_text(read_picture(data).jpeg)))


@router.get("/{photo_id}/picture", response_class=Response)
def picture(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> Response:
    return Response(photos.pixels(project_id, photo_id, small=False), media_type="image/jpeg")


@router.get("/{photo_id}/thumbnail", response_class=Response)
def thumbnail(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> Response:
    return Response(photos.pixels(project_id, photo_id, small=True), media_type="image/jpeg")


@router.put("/{photo_id}")
def mark_photo(project_id: RowNumber, photo_id: RowNumber, marking: Marking, photos: OurPhotos) -> StoredPhoto:
    if marking.marks.bay is not None:
        BayPlane(marking.marks.bay)  # refused here, before it is kept
    return _answer(photos.mark(project_id, photo_id, marking.marks, marking.caption, based_on=marking.revision))


@router.get("/{photo_id}/straight", response_class=Response)
def straight(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> Response:
    """Its bay as it is seen straight from above, where its four corners are marked."""
    made = straightened(
        photos.pixels(project_id, photo_id, small=False), BayPlane(_corners(project_id, photo_id, photos))
    )
    return Response(made, media_type="image/jpeg")


class SeenQuestion(Question):
    """A document whose build is to be seen lying in a photograph of its bay."""


@router.post("/{photo_id}/parts")
def parts_in_picture(
    project_id: RowNumber, photo_id: RowNumber, question: SeenQuestion, photos: OurPhotos, projects: OurProjects
) -> SeenBay:
    asked = read_question(question, projects)
    return seen_bay(asked.project, asked.build, _corners(project_id, photo_id, photos))


class TracedQuestion(Question):
    """A document, and the diagonal of something in its bay as it was drawn in the picture."""

    line: Line


@router.post("/{photo_id}/traced")
def trace(
    project_id: RowNumber, photo_id: RowNumber, question: TracedQuestion, photos: OurPhotos, projects: OurProjects
) -> TracedObstacle:
    """What it is in the bay's own millimetres, drawn to walls and edges that are near."""
    asked = read_question(question, projects)
    return traced(asked.project, _corners(project_id, photo_id, photos), question.line)


@router.post("/{photo_id}/traced-wall")
def trace_wall(
    project_id: RowNumber, photo_id: RowNumber, question: TracedQuestion, photos: OurPhotos, projects: OurProjects
) -> TracedWall:
    """Which wall was drawn along, and from where to where it may be opened."""
    asked = read_question(question, projects)
    return traced_opening(asked.project, _corners(project_id, photo_id, photos), question.line)


def _corners(project_id: int, photo_id: int, photos: Photos) -> BayCorners:
    marks = _photo(project_id, photo_id, photos).marks
    if marks.bay is None:
        raise NoPlane(say("mark the bay's four corners on this photograph first"))
    return marks.bay


def _photo(project_id: int, photo_id: int, photos: Photos) -> Photo:
    """Raises NothingThere."""
    found = next((photo for photo in photos.of(project_id) if photo.id == photo_id), None)
    if found is None:
        raise NothingThere(say("there is no photograph {photo_id} in this project", photo_id=photo_id))
    return found


@router.post("/{photo_id}/card")
def find_card(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> StoredPhoto:
    """A bank card that lies in the picture, found and kept as what its plane is measured by."""
    photo = _photo(project_id, photo_id, photos)
    card = card_in(greys(photos.pixels(project_id, photo_id, small=False)))
    if card is None:
        raise NoPlane(
            say("No card was found. Lay one flat beside it, whole in the picture and on another shade, and look again.")
        )
    marks = photo.marks.model_copy(update={"card": card})
    return _answer(photos.mark(project_id, photo_id, marks, photo.caption, based_on=photo.revision))


@router.post("/{photo_id}/bay")
def find_bay(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> ProposedBay:
    """The bay in a picture with a card, and the batteries in it: a proposal, of which nothing is kept."""
    photo = _photo(project_id, photo_id, photos)
    if photo.marks.card is None:
        raise NoPlane(say("let the card be found on this photograph first"))
    found = bay_in(greys(photos.pixels(project_id, photo_id, small=False)), photo.marks.card)
    if found is None:
        raise NoPlane(
            say("No bay was found. Take it straight from above with the card beside it, or press its corners.")
        )
    return proposed_bay(found)


class SeenRectangle(BaseModel):
    """Four corners in a picture, in turn from the front left."""

    corners: Annotated[tuple[PicturePoint, ...], Field(min_length=4, max_length=4)]
    # How much larger things look there than by the card, where batteries have told that.
    scale: Annotated[float, Field(gt=0.5, lt=2)] = 1.0


class RectangleSize(BaseModel):
    """What a rectangle measures in the plane of the card, mm."""

    length_mm: float
    width_mm: float


@router.post("/{photo_id}/rectangle")
def measure_rectangle(
    project_id: RowNumber, photo_id: RowNumber, seen: SeenRectangle, photos: OurPhotos
) -> RectangleSize:
    """Length and width of what has these corners, told by the card that was found."""
    card = _photo(project_id, photo_id, photos).marks.card
    if card is None:
        raise NoPlane(say("let the card be found on this photograph first"))
    length_mm, width_mm = rectangle_mm(card, seen.corners)
    return RectangleSize(length_mm=round(length_mm / seen.scale, 1), width_mm=round(width_mm / seen.scale, 1))


@router.post("/{photo_id}/turn")
def turn_photo(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> StoredPhoto:
    """A quarter turn clockwise."""
    now = photos.pixels(project_id, photo_id, small=False)
    return _answer(photos.turn(project_id, photo_id, turned(now)))


@router.delete("/{photo_id}", status_code=204)
def remove_photo(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> None:
    photos.remove(project_id, photo_id)


def _answer(photo: Photo) -> StoredPhoto:
    known = photo.marks.scale or photo.marks.bay or photo.marks.card
    lengths = read_lengths(photo.marks, photo.width, photo.height) if known else []
    return StoredPhoto(
        id=photo.id,
        revision=photo.revision,
        caption=photo.caption,
        width=photo.width,
        height=photo.height,
        made_at=photo.made_at,
        marks=photo.marks,
        lengths=lengths,
    )
