"""Photographs of a project, and what is marked on them."""

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session, defer

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.photographs.marks import Line, PhotoMarks, Picture, PicturePoint
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.pictures import fill, photo_row
from pocketspark.store.project_rows import row_of
from pocketspark.store.tables import PhotoRow
from pocketspark.store.utc import as_utc

MOST_PHOTOS = 60


class TooMany(PocketSparkError, RuntimeError):
    """There is no room for one more."""

    status = 409


class PhotoChanged(PocketSparkError, RuntimeError):
    """The photograph was marked elsewhere since the caller read it. Nothing was written."""

    status = 409

    def __init__(self) -> None:
        super().__init__("this photograph was marked in another window meanwhile; look at it again")


@dataclass(frozen=True)
class Photo:
    """One photograph without its pixels. A change of its marks names its `revision`."""

    id: int
    revision: int
    project_id: int
    caption: str
    width: int
    height: int
    marks: PhotoMarks
    made_at: datetime


class Photos:
    """All photographs in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def of(self, project_id: int) -> list[Photo]:
        """Raises NothingThere."""
        wanted = select(PhotoRow).where(PhotoRow.project_id == project_id).order_by(PhotoRow.id)
        with Session(self._engine) as session:
            row_of(session, project_id)
            rows = session.scalars(wanted.options(defer(PhotoRow.picture), defer(PhotoRow.thumbnail)))
            return [_photo(row) for row in rows]

    def add(self, project_id: int, picture: Picture, caption: str) -> Photo:
        """Raises NothingThere, TooMany."""
        with Session(self._engine) as session, session.begin():
            row_of(session, project_id)
            held = session.scalars(select(PhotoRow.id).where(PhotoRow.project_id == project_id)).all()
            if len(held) >= MOST_PHOTOS:
                raise TooMany(
                    say(
                        "{most_photos} photographs are enough for one conversion; take some away first",
                        most_photos=MOST_PHOTOS,
                    )
                )
            row = photo_row(project_id, picture, caption)
            session.add(row)
            session.flush()
            return _photo(row)

    def stamp(self, project_id: int) -> str:
        """Another one whenever a photograph is added, changed or taken away; without a look into them."""
        columns = func.count(PhotoRow.id), func.max(PhotoRow.id), func.sum(PhotoRow.revision)
        with Session(self._engine) as session:
            return "-".join(map(str, session.execute(select(*columns).where(PhotoRow.project_id == project_id)).one()))

    def pixels(self, project_id: int, photo_id: int, *, small: bool) -> bytes:
        """The JPEG, or its thumbnail. Raises NothingThere."""
        with Session(self._engine) as session:
            row = self._row(session, project_id, photo_id)
            return row.thumbnail if small else row.picture

    def mark(
        self, project_id: int, photo_id: int, marks: PhotoMarks, caption: str, *, based_on: int | None = None
    ) -> Photo:
        """Raises NothingThere, PhotoChanged."""
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = self._row(session, project_id, photo_id)
            if based_on is not None and row.revision != based_on:
                raise PhotoChanged
            row.marks, row.caption, row.revision = marks.model_dump(mode="json"), caption, row.revision + 1
            return _photo(row)

    def turn(self, project_id: int, photo_id: int, turned: Picture) -> Photo:
        """Keep the picture turned a quarter clockwise, and turn its marks along."""
        with Session(self._engine) as session, session.begin():
            row = self._row(session, project_id, photo_id)
            fill(row, turned)
            row.revision += 1
            row.marks = _turned_marks(PhotoMarks.model_validate(row.marks)).model_dump(mode="json")
            return _photo(row)

    def remove(self, project_id: int, photo_id: int) -> None:
        with Session(self._engine) as session, session.begin():
            session.delete(self._row(session, project_id, photo_id))

    def _row(self, session: Session, project_id: int, photo_id: int) -> PhotoRow:
        row = session.get(PhotoRow, photo_id)
        if row is None or row.project_id != project_id:
            raise NothingThere(say("there is no photograph {photo_id} in this project", photo_id=photo_id))
        return row


def _photo(row: PhotoRow) -> Photo:
    marks = PhotoMarks.model_validate(row.marks)
    return Photo(row.id, row.revision, row.project_id, row.caption, row.width, row.height, marks, as_utc(row.made_at))


def _turned_marks(marks: PhotoMarks) -> PhotoMarks:
    def place(p: PicturePoint) -> PicturePoint:
        return PicturePoint(x=1 - p.y, y=p.x)

    def line(one: Line) -> Line:
        return Line(start=place(one.start), end=place(one.end))

    scale, bay, card = marks.scale, marks.bay, marks.card
    return PhotoMarks(
        scale=None if scale is None else scale.model_copy(update={"line": line(scale.line)}),
        bay=None if bay is None else bay.model_copy(update={"corners": tuple(place(p) for p in bay.corners)}),
        card=None if card is None else card.model_copy(update={"corners": tuple(place(p) for p in card.corners)}),
        lengths=tuple(length.model_copy(update={"line": line(length.line)}) for length in marks.lengths),
        remarks=tuple(remark.model_copy(update={"at": place(remark.at)}) for remark in marks.remarks),
    )
