"""The shelf: keeps projects, their every saved state, and the way back and forth between them."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session, defer

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Project
from pocketspark.store.arrivals import Arrivals, NewIds, known_parts, put_away
from pocketspark.store.documents import Unreadable, digest_of, own_parts, read_or_none, read_state, text_of
from pocketspark.store.project_rows import row_of
from pocketspark.store.shelf import Judge, JudgedLine, Shelf
from pocketspark.store.tables import (
    LiveRowsRow,
    LiveRunRow,
    LogFileRow,
    LogPieceRow,
    PartUseRow,
    PhotoRow,
    ProjectRow,
    RevisionRow,
)
from pocketspark.store.thinning import NEWEST_KEPT, RevisionMark, superfluous
from pocketspark.store.utc import as_utc, now


class StillOnTheShelf(PocketSparkError, RuntimeError):
    """Only what was archived is erased for good."""

    status = 409


class Conflict(PocketSparkError, RuntimeError):
    """The project was changed elsewhere since the caller read it. Nothing was written; `kept` is what is there now."""

    status = 409

    def __init__(self, kept: "Stored", over: str = "") -> None:
        self.kept = kept
        super().__init__(f"this project was changed in another window meanwhile{over and f': {over}'}")


class PutAway(PocketSparkError, RuntimeError):
    """The project is in the archive, where nothing is changed."""

    status = 410


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
class StateMark:
    """One saved state without its document: what it was made from, whose it is, and whose changes it takes back."""

    id: int
    parent: int | None
    device: int
    undoes: int | None


class Projects:
    """All projects in one database, and their shelf.

    Nothing is judged while the database is held: `later` is told which line of the shelf is out of date, and has it
    made when it likes. Without one it is made before the save returns.
    """

    def __init__(
        self,
        engine: Engine,
        judge: Judge = lambda _: JudgedLine({}),
        rules: str = "",
        later: Callable[[int], object] | None = None,
        settle: Callable[[], object] = lambda: None,
    ) -> None:
        self._engine, self._rules = engine, rules
        self.shelf = Shelf(engine, judge, rules, settle)
        self._later = self.shelf.judge_anew if later is None else later

    def add(self, project: Project, arrivals: Arrivals = Arrivals()) -> Stored:
        """Put a new project among the projects, with all that comes along, in one transaction.

        Its references to photographs and own parts follow these.
        """
        with Session(self._engine) as session, session.begin():
            row = ProjectRow(name=project.gadget.name, made_at=now())
            session.add(row)
            session.flush()
            ids = put_away(session, row.id, arrivals)
            if not arrivals.parts:
                ids = NewIds(ids.photos, known_parts(session, project))
            for state in arrivals.history:
                self._write_state(session, row, ids.renumbered(state.project), state.made_at.replace(tzinfo=None))
            self._write(session, row, ids.renumbered(project))
            stored = self._stored(session, row)
        self._later(stored.id)
        return stored

    def get(self, project_id: int) -> Stored:
        """Raises NothingThere, and Unreadable where the stored text is no document."""
        with Session(self._engine) as session:
            return self._stored(session, row_of(session, project_id))

    def raw(self, project_id: int) -> str:
        """The text of its newest state exactly as it is stored, readable or not. Raises NothingThere."""
        with Session(self._engine) as session:
            return self._head(session, row_of(session, project_id)).body

    def readable_before(self, project_id: int) -> Project | None:
        """The newest earlier state that can be read. Raises NothingThere."""
        with Session(self._engine) as session:
            revision: RevisionRow | None = self._head(session, row_of(session, project_id))
            while revision is not None:
                try:
                    return read_state(revision)
                except Unreadable:
                    revision = session.get(RevisionRow, revision.parent) if revision.parent else None
        return None

    def state(self, project_id: int, revision: int) -> Project | None:
        """One of its states; None where it is no longer kept, or cannot be read."""
        with Session(self._engine) as session:
            row = session.get(RevisionRow, revision)
            if row is None or row.project_id != project_id:
                return None
            return read_or_none(row)

    def line(self, project_id: int) -> list[StateMark]:
        """The present state and those that led to it, the newest first, without a look into them."""
        wanted = select(RevisionRow.id, RevisionRow.parent, RevisionRow.device, RevisionRow.undoes)
        with Session(self._engine) as session:
            head = row_of(session, project_id).head
            every = session.execute(wanted.where(RevisionRow.project_id == project_id))
            by_id = {row.id: StateMark(*row) for row in every}
        marks, here = [], head
        while here is not None and here in by_id:
            marks.append(by_id[here])
            here = by_id[here].parent
        return marks

    def next_on_redo(self, project_id: int) -> StateMark | None:
        """What redo would come to: the newest state made from the present one, None at the last.

        From one that took changes back it is that one itself: it is what would be undone.
        """
        with Session(self._engine) as session:
            row = row_of(session, project_id)
            head = self._head(session, row)
            number = head.id if head.undoes is not None else self._newest_child(session, row)
            if number is None:
                return None
            found = session.get_one(RevisionRow, number)
            return StateMark(found.id, found.parent, found.device, found.undoes)

    def set_aside(self, project_id: int, project: Project) -> int:
        """Keep a state that was never the present one, for a later save to begin from; its revision."""
        with Session(self._engine) as session, session.begin():
            row = _state_row(project_id, None, project, now())
            session.add(row)
            session.flush()
            return row.id

    def __contains__(self, project_id: object) -> bool:
        """Is there a project of this number? It need not be readable."""
        with Session(self._engine) as session:
            row = session.get(ProjectRow, project_id) if isinstance(project_id, int) else None
            return row is not None and row.head is not None

    def revision(self, project_id: int) -> int:
        """Which state is the present one, without a look into it. Raises NothingThere."""
        with Session(self._engine) as session:
            return self._head(session, row_of(session, project_id)).id

    def is_archived(self, project_id: int) -> bool:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            return row_of(session, project_id).archived_at is not None

    def history(self, project_id: int) -> Iterator[tuple[datetime, str]]:
        """The states that led to the present one, the newest first, without it: when, and the document as text.

        Raises NothingThere.
        """
        with Session(self._engine) as session:
            parent = self._head(session, row_of(session, project_id)).parent
            while parent is not None:
                row = session.get_one(RevisionRow, parent)
                yield as_utc(row.made_at), row.body
                session.expunge(row)
                parent = row.parent

    def save(
        self, project_id: int, project: Project, *, based_on: int, device: int = 0, undoes: int | None = None
    ) -> Stored:
        """Keep a new state in one transaction. Raises Conflict where `based_on` is no longer the head, PutAway.

        `device`: whose it is; `undoes`: the state of theirs whose changes it takes back.
        """
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            is_new = self._head(session, row).body != text_of(project)
            if is_new:
                self._write(session, row, project, device, undoes)
            stored = self._stored(session, row)
        if is_new:
            self._later(project_id)
        return stored

    def repair(self, project_id: int, project: Project) -> Stored:
        """Keep `project` as the new state of one whose stored text cannot be read; that text stays in its history."""
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = row_of(session, project_id)
            self._write(session, row, project)
            stored = self._stored(session, row)
        self._later(project_id)
        return stored

    def undo(self, project_id: int, *, based_on: int) -> Stored:
        """Go back one state; stays where it is at the first. Raises Conflict."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            self._move(session, row, self._head(session, row).parent)
            stored = self._stored(session, row)
        self._later(project_id)
        return stored

    def redo(self, project_id: int, *, based_on: int) -> Stored:
        """Go forward to the newest state made from this one; stays where it is at the last. Raises Conflict.

        From one that took changes back, to the one before it, which has them.
        """
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            head = self._head(session, row)
            self._move(session, row, self._newest_child(session, row) if head.undoes is None else head.parent)
            stored = self._stored(session, row)
        self._later(project_id)
        return stored

    def archive(self, project_id: int) -> None:
        """Take it off the list of projects; its revisions stay, and `restore` returns it."""
        with Session(self._engine) as session, session.begin():
            row_of(session, project_id).archived_at = now()
            session.execute(delete(PartUseRow).where(PartUseRow.project_id == project_id))

    def restore(self, project_id: int) -> None:
        with Session(self._engine) as session, session.begin():
            row = row_of(session, project_id)
            row.archived_at = None
            self._note_parts(session, row, read_or_none(self._head(session, row)))

    def erase(self, project_id: int) -> None:
        """Destroy an archived project, its history, photographs, logs and live runs. Raises StillOnTheShelf."""
        with Session(self._engine) as session, session.begin():
            row = row_of(session, project_id)
            if row.archived_at is None:
                raise StillOnTheShelf(
                    say("{name} is on the shelf: archive it first, then erase it from the archive", name=row.name)
                )
            row.head = None
            session.flush()
            runs = select(LiveRunRow.id).where(LiveRunRow.project_id == project_id)
            session.execute(delete(LiveRowsRow).where(LiveRowsRow.run_id.in_(runs)))
            logs = select(LogFileRow.id).where(LogFileRow.project_id == project_id)
            session.execute(delete(LogPieceRow).where(LogPieceRow.log_id.in_(logs)))
            for table in (LiveRunRow, LogFileRow, PartUseRow, PhotoRow, RevisionRow):
                session.execute(delete(table).where(table.project_id == project_id))
            # Its number stays taken: a page that is still open must never write into another conversion.
            row.name, row.words, row.stage, row.summary, row.rules = "", "", "", None, self._rules

    def thin(self, today: datetime) -> int:
        """Drop the states that store/thinning.py counts as superfluous by now; how many they were."""
        many = select(RevisionRow.project_id).group_by(RevisionRow.project_id).having(func.count() > NEWEST_KEPT)
        with Session(self._engine) as session:
            ids = list(session.scalars(many))
        return sum(self._thin_one(project_id, today) for project_id in ids)

    def _thin_one(self, project_id: int, today: datetime) -> int:
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = session.get(ProjectRow, project_id)
            if row is None or row.head is None:
                return 0
            wanted = select(RevisionRow).where(RevisionRow.project_id == project_id).options(defer(RevisionRow.body))
            rows = {revision.id: revision for revision in session.scalars(wanted)}
            marks = [RevisionMark(one.id, one.parent, one.made_at) for one in rows.values()]
            dropped = superfluous(marks, row.head, today)
            for revision in rows.values():
                if revision.id not in dropped:
                    while revision.parent in dropped:
                        revision.parent = rows[revision.parent].parent
            session.flush()
            session.execute(delete(RevisionRow).where(RevisionRow.id.in_(dropped)))
            return len(dropped)

    def _row_for_change(self, session: Session, project_id: int, based_on: int) -> ProjectRow:
        # Take SQLite's write lock before looking, so that two savers cannot both find the head unmoved.
        session.connection().exec_driver_sql("BEGIN IMMEDIATE")
        row = row_of(session, project_id)
        if row.archived_at is not None:
            raise PutAway(
                say("{name} was put into the archive: restore it from there first; nothing was saved", name=row.name)
            )
        if row.head != based_on:
            raise Conflict(self._stored(session, row))
        return row

    def _head(self, session: Session, row: ProjectRow) -> RevisionRow:
        return session.get_one(RevisionRow, row.head)

    def _newest_child(self, session: Session, row: ProjectRow) -> int | None:
        children = select(RevisionRow.id).where(
            RevisionRow.project_id == row.id, RevisionRow.parent == row.head, RevisionRow.undoes.is_(None)
        )
        return session.scalar(children.order_by(RevisionRow.id.desc()).limit(1))

    def _write_state(
        self,
        session: Session,
        row: ProjectRow,
        project: Project,
        made_at: datetime,
        device: int = 0,
        undoes: int | None = None,
    ) -> None:
        revision = _state_row(row.id, row.head, project, made_at)
        revision.device, revision.undoes = device, undoes
        session.add(revision)
        session.flush()
        row.head = revision.id

    def _write(
        self, session: Session, row: ProjectRow, project: Project, device: int = 0, undoes: int | None = None
    ) -> None:
        self._write_state(session, row, project, now(), device, undoes)
        self._describe(session, row, project)

    def _move(self, session: Session, row: ProjectRow, head: int | None) -> None:
        if head is not None:
            row.head = head
            self._describe(session, row, read_state(session.get_one(RevisionRow, head)))

    def _describe(self, session: Session, row: ProjectRow, project: Project) -> None:
        """What the list and the parts need to know of the present state without reading it.

        The line that was there stays until the new one is made, and is out of date.
        """
        row.name, row.rules = project.gadget.name, None
        row.changed_at = self._head(session, row).made_at
        # Found by its name from now on; by the rest once its line is made.
        row.words = f"{row.words} {row.name}".casefold() if row.name.casefold() not in row.words else row.words
        self._note_parts(session, row, project)

    def _note_parts(self, session: Session, row: ProjectRow, project: Project | None) -> None:
        session.execute(delete(PartUseRow).where(PartUseRow.project_id == row.id))
        parts = () if project is None or row.archived_at is not None else sorted(set(own_parts(project)))
        session.add_all(PartUseRow(project_id=row.id, part_id=part_id) for part_id in parts)

    def _stored(self, session: Session, row: ProjectRow) -> Stored:
        head = self._head(session, row)
        return Stored(
            id=row.id,
            revision=head.id,
            saved_at=as_utc(head.made_at),
            can_undo=head.parent is not None,
            can_redo=head.undoes is not None or self._newest_child(session, row) is not None,
            project=read_state(head),
        )


def _state_row(project_id: int, parent: int | None, project: Project, made_at: datetime) -> RevisionRow:
    body = text_of(project)
    return RevisionRow(project_id=project_id, parent=parent, made_at=made_at, body=body, digest=digest_of(body))
