"""Routes of a project's photographs."""

from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool

from pocketspark.core.models.model import RowNumber, Title
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.photo import PhotoMarks, ReadLength, read_lengths
from pocketspark.formats.photograph import read_picture, turned
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Photo, Photos

router = APIRouter(prefix="/api/projects/{project_id}/photos", tags=["photos"], responses=PROBLEM_RESPONSES)


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


@router.get("/{photo_id}/picture", response_class=Response)
def picture(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> Response:
    return Response(photos.pixels(project_id, photo_id, small=False), media_type="image/jpeg")


@router.get("/{photo_id}/thumbnail", response_class=Response)
def thumbnail(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> Response:
    return Response(photos.pixels(project_id, photo_id, small=True), media_type="image/jpeg")


@router.put("/{photo_id}")
def mark_photo(project_id: RowNumber, photo_id: RowNumber, marking: Marking, photos: OurPhotos) -> StoredPhoto:
    return _answer(photos.mark(project_id, photo_id, marking.marks, marking.caption, based_on=marking.revision))


@router.post("/{photo_id}/turn")
def turn_photo(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> StoredPhoto:
    """A quarter turn clockwise."""
    now = photos.pixels(project_id, photo_id, small=False)
    return _answer(photos.turn(project_id, photo_id, turned(now)))


@router.delete("/{photo_id}", status_code=204)
def remove_photo(project_id: RowNumber, photo_id: RowNumber, photos: OurPhotos) -> None:
    photos.remove(project_id, photo_id)


def _answer(photo: Photo) -> StoredPhoto:
    lengths = read_lengths(photo.marks, photo.width, photo.height) if photo.marks.scale else []
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
