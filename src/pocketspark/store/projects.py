"""The shelf: keeps projects, their every saved state, and the way back and forth between them."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Project
from pocketspark.store.clock import as_utc, now
from pocketspark.store.pictures import NewPhoto, photo_row
from pocketspark.store.tables import ProjectRow, RevisionRow


class NothingThere(PocketSparkError, LookupError):
    """There is no such project."""

    status = 404


class Conflict(PocketSparkError, RuntimeError):
    """The project was changed elsewhere since the caller read it. Nothing was written; `kept` is what is there now."""

    status = 409

    def __init__(self, kept: "Stored") -> None:
        self.kept = kept
        super().__init__("this project was changed in another window meanwhile")


@dataclass(frozen=True)
class Stored:
    """A project as it is stored. `revision` names this state; a save must say which one it started from."""

    id: int
    revision: int
    saved_at: datetime
    can_undo: bool
    can_redo: bool
    project: Project


@dataclass(frozen=True)
class Summary:
    """One line of the list of projects."""

    id: int
    saved_at: datetime
    project: Project


class Projects:
    """All projects in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def summaries(self) -> list[Summary]:
        """Every project that is not put away, last touched first."""
        wanted = (
            select(ProjectRow, RevisionRow)
            .join(RevisionRow, ProjectRow.head == RevisionRow.id)
            .where(ProjectRow.archived_at.is_(None))
            .order_by(RevisionRow.made_at.desc(), ProjectRow.id.desc())
        )
        with Session(self._engine) as session:
            rows = session.execute(wanted).all()
            return [Summary(row.id, as_utc(head.made_at), Project.model_validate(head.body)) for row, head in rows]

    def add(self, project: Project, photos: Sequence[NewPhoto] = ()) -> Stored:
        """Put a new project among the projects, with its photographs, all in one transaction.

        Its references to photographs follow these; to any other they are dropped, since those are not on this shelf.
        """
        with Session(self._engine) as session, session.begin():
            row = ProjectRow(name=project.gadget.name, made_at=now())
            session.add(row)
            session.flush()
            rows = {photo.known_as: photo_row(row.id, photo.picture, photo.caption, photo.marks) for photo in photos}
            session.add_all(rows.values())
            session.flush()
            renumbered = {known_as: photo.id for known_as, photo in rows.items()}
            self._write(session, row, project.with_photo_ids(renumbered))
            return self._stored(session, row)

    def get(self, project_id: int) -> Stored:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            return self._stored(session, self._row(session, project_id))

    def save(self, project_id: int, project: Project, *, based_on: int) -> Stored:
        """Keep a new state in one transaction. Raises Conflict where `based_on` is no longer the head."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            head = self._head(session, row)
            if head.body != project.model_dump(mode="json"):
                self._write(session, row, project)
            return self._stored(session, row)

    def undo(self, project_id: int, *, based_on: int) -> Stored:
        """Go back one state; stays where it is at the first. Raises Conflict."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            row.head = self._head(session, row).parent or row.head
            return self._stored(session, row)

    def redo(self, project_id: int, *, based_on: int) -> Stored:
        """Go forward to the newest state made from this one; stays where it is at the last. Raises Conflict."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            row.head = self._newest_child(session, row) or row.head
            return self._stored(session, row)

    def archive(self, project_id: int) -> None:
        """Take it off the list of projects; its revisions stay, and `restore` returns it."""
        with Session(self._engine) as session, session.begin():
            self._row(session, project_id).archived_at = now()

    def restore(self, project_id: int) -> Stored:
        with Session(self._engine) as session, session.begin():
            row = self._row(session, project_id)
            row.archived_at = None
            return self._stored(session, row)

    def _row(self, session: Session, project_id: int) -> ProjectRow:
        if (row := session.get(ProjectRow, project_id)) is None:
            raise NothingThere(f"there is no project {project_id}")
        return row

    def _row_for_change(self, session: Session, project_id: int, based_on: int) -> ProjectRow:
        # Take SQLite's write lock before looking, so that two savers cannot both find the head unmoved.
        session.connection().exec_driver_sql("BEGIN IMMEDIATE")
        row = self._row(session, project_id)
        if row.head != based_on:
            raise Conflict(self._stored(session, row))
        return row

    def _head(self, session: Session, row: ProjectRow) -> RevisionRow:
        return session.get_one(RevisionRow, row.head)

    def _newest_child(self, session: Session, row: ProjectRow) -> int | None:
        children = select(RevisionRow.id).where(RevisionRow.project_id == row.id, RevisionRow.parent == row.head)
        return session.scalar(children.order_by(RevisionRow.id.desc()).limit(1))

    def _write(self, session: Session, row: ProjectRow, project: Project) -> None:
        body = project.model_dump(mode="json")
        revision = RevisionRow(project_id=row.id, parent=row.head, made_at=now(), body=body)
        session.add(revision)
        session.flush()
        row.head, row.name = revision.id, project.gadget.name

    def _stored(self, session: Session, row: ProjectRow) -> Stored:
        head = self._head(session, row)
        return Stored(
            id=row.id,
            revision=head.id,
            saved_at=as_utc(head.made_at),
            can_undo=head.parent is not None,
            can_redo=self._newest_child(session, row) is not None,
            project=Project.model_validate(head.body),
        )
