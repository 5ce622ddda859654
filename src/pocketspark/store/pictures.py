"""How a picture is written into its row."""

from dataclasses import dataclass

from pocketspark.core.photographs.marks import PhotoMarks, Picture
from pocketspark.store.tables import PhotoRow
from pocketspark.store.utc import now


@dataclass(frozen=True)
class NewPhoto:
    """A photograph to keep. `known_as` is what the document that comes with it calls it by."""

    known_as: int
    picture: Picture
    caption: str
    marks: PhotoMarks


def photo_row(project_id: int, picture: Picture, caption: str, marks: PhotoMarks | None = None) -> PhotoRow:
    written = {} if marks is None else marks.model_dump(mode="json")
    row = PhotoRow(project_id=project_id, caption=caption, marks=written, made_at=now())
    fill(row, picture)
    return row


def fill(row: PhotoRow, picture: Picture) -> None:
    row.width, row.height, row.picture, row.thumbnail = picture.width, picture.height, picture.jpeg, picture.thumbnail
