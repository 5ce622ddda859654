"""The shelf: keeps projects, their every saved state, and the way back and forth between them."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session, defer

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Project
from pocketspark.core.refusal import refusals
from pocketspark.store.arrivals import Arrivals, NewIds, known_parts, put_away
from pocketspark.store.clock import as_utc, now
from pocketspark.store.project_rows import row_of
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
from pocketspark.store.thinning import RevisionMark, superfluous


class StillOnTheShelf(PocketSparkError, RuntimeError):
    """Only what was archived is erased for good."""

    status = 409


class Unreadable(PocketSparkError, ValueError):
    """What is stored of a project cannot be read. `body` is the text as it stands; nothing was changed."""

    def __init__(self, reason: str, body: str) -> None:
        self.body = body
        super().__init__(f"this conversion cannot be read as it is stored ({reason}); save it as it is, or repair it")


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
class ListedProject:
    """One line of the list of projects, without a look into the document.

    `summary` is what was judged when it was saved, None where that failed or was never done; `outdated`: by other
    rules than today's.
    """

    id: int
    name: str
    saved_at: datetime
    summary: dict[str, Any] | None
    outdated: bool


Judge = Callable[[Project], dict[str, Any]]


class Projects:
    """All projects in one database.

    `judge` makes a project's line on the shelf once a new state of it is committed; `rules` names the rules that it
    judges by. Nothing is judged while the database is held: `later` is told which line is out of date, and makes it
    with `judge_anew` when it likes. Without one it is made before the save returns. `settle` is called before lines are
    listed, and may wait a little for those that are being made.
    """

    def __init__(
        self,
        engine: Engine,
        judge: Judge = lambda _: {},
        rules: str = "",
        later: Callable[[int], object] | None = None,
        settle: Callable[[], object] = lambda: None,
    ) -> None:
        self._engine, self._judge, self._rules, self._settle = engine, judge, rules, settle
        self._later = self.judge_anew if later is None else later

    def lines(self, *, archived: bool = False) -> list[ListedProject]:
        """Every project on the shelf, or every archived one, last touched first. No document is read for it."""
        self._settle()
        away = ProjectRow.archived_at
        wanted = (
            select(ProjectRow, RevisionRow.made_at)
            .join(RevisionRow, ProjectRow.head == RevisionRow.id)
            .where(away.is_not(None) if archived else away.is_(None))
            .order_by(RevisionRow.made_at.desc(), ProjectRow.id.desc())
        )
        with Session(self._engine) as session:
            return [
                ListedProject(row.id, row.name, as_utc(made_at), row.summary, row.rules != self._rules)
                for row, made_at in session.execute(wanted)
            ]

    def outdated(self) -> list[int]:
        """Projects whose line on the shelf was made by other rules, or never."""
        wanted = select(ProjectRow.id).where(ProjectRow.rules.is_distinct_from(self._rules)).order_by(ProjectRow.id)
        with Session(self._engine) as session:
            return list(session.scalars(wanted))

    def judge_anew(self, project_id: int) -> None:
        """Make its line on the shelf by today's rules. One that cannot be read gets the reason as its line."""
        with Session(self._engine) as session:
            row = row_of(session, project_id)
            head = row.head
            try:
                summary = self._judge(_read(self._head(session, row).body))
            except Unreadable as error:
                summary = {"unreadable": str(error)}
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = row_of(session, project_id)
            if row.head == head:  # else a save came between, and has its own line made
                row.summary, row.rules = summary, self._rules

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
                    return _read(revision.body)
                except Unreadable:
                    revision = session.get(RevisionRow, revision.parent) if revision.parent else None
        return None

    def state(self, project_id: int, revision: int) -> Project | None:
        """One of its states; None where it is no longer kept, or cannot be read."""
        with Session(self._engine) as session:
            row = session.get(RevisionRow, revision)
            if row is None or row.project_id != project_id:
                return None
            try:
                return _read(row.body)
            except Unreadable:
                return None

    def set_aside(self, project_id: int, project: Project) -> int:
        """Keep a state that was never the present one, for a later save to begin from; its revision."""
        with Session(self._engine) as session, session.begin():
            row = RevisionRow(project_id=project_id, parent=None, made_at=now(), body=_text(project))
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

    def save(self, project_id: int, project: Project, *, based_on: int) -> Stored:
        """Keep a new state in one transaction. Raises Conflict where `based_on` is no longer the head, PutAway."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            is_new = self._head(session, row).body != _text(project)
            if is_new:
                self._write(session, row, project)
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
        """Go forward to the newest state made from this one; stays where it is at the last. Raises Conflict."""
        with Session(self._engine) as session, session.begin():
            row = self._row_for_change(session, project_id, based_on)
            self._move(session, row, self._newest_child(session, row))
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
            self._note_parts(session, row, _read_or_none(self._head(session, row).body))

    def erase(self, project_id: int) -> None:
        """Destroy an archived project, its history, photographs, logs and live runs. Raises StillOnTheShelf."""
        with Session(self._engine) as session, session.begin():
            row = row_of(session, project_id)
            if row.archived_at is None:
                raise StillOnTheShelf(f"{row.name} is on the shelf: archive it first, then erase it from the archive")
            row.head = None
            session.flush()
            runs = select(LiveRunRow.id).where(LiveRunRow.project_id == project_id)
            session.execute(delete(LiveRowsRow).where(LiveRowsRow.run_id.in_(runs)))
            logs = select(LogFileRow.id).where(LogFileRow.project_id == project_id)
            session.execute(delete(LogPieceRow).where(LogPieceRow.log_id.in_(logs)))
            for table in (LiveRunRow, LogFileRow, PartUseRow, PhotoRow, RevisionRow):
                session.execute(delete(table).where(table.project_id == project_id))
            # Its number stays taken: a page that is still open must never write into another conversion.
            row.name, row.summary, row.rules = "", None, self._rules

    def thin(self, today: datetime) -> int:
        """Drop the states that store/thinning.py counts as superfluous by now; how many they were."""
        with Session(self._engine) as session:
            ids = list(session.scalars(select(ProjectRow.id)))
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
            raise PutAway(f"{row.name} was put into the archive: restore it from there first; nothing was saved")
        if row.head != based_on:
            raise Conflict(self._stored(session, row))
        return row

    def _head(self, session: Session, row: ProjectRow) -> RevisionRow:
        return session.get_one(RevisionRow, row.head)

    def _newest_child(self, session: Session, row: ProjectRow) -> int | None:
        children = select(RevisionRow.id).where(RevisionRow.project_id == row.id, RevisionRow.parent == row.head)
        return session.scalar(children.order_by(RevisionRow.id.desc()).limit(1))

    def _write_state(self, session: Session, row: ProjectRow, project: Project, made_at: datetime) -> None:
        revision = RevisionRow(project_id=row.id, parent=row.head, made_at=made_at, body=_text(project))
        session.add(revision)
        session.flush()
        row.head = revision.id

    def _write(self, session: Session, row: ProjectRow, project: Project) -> None:
        self._write_state(session, row, project, now())
        self._describe(session, row, project)

    def _move(self, session: Session, row: ProjectRow, head: int | None) -> None:
        if head is not None:
            row.head = head
            self._describe(session, row, _read(session.get_one(RevisionRow, head).body))

    def _describe(self, session: Session, row: ProjectRow, project: Project) -> None:
        """What the list and the parts need to know of the present state without reading it.

        The line that was there stays until the new one is made, and is out of date.
        """
        row.name, row.rules = project.gadget.name, None
        self._note_parts(session, row, project)

    def _note_parts(self, session: Session, row: ProjectRow, project: Project | None) -> None:
        session.execute(delete(PartUseRow).where(PartUseRow.project_id == row.id))
        parts = () if project is None or row.archived_at is not None else sorted(set(_own_parts(project)))
        session.add_all(PartUseRow(project_id=row.id, part_id=part_id) for part_id in parts)

    def _stored(self, session: Session, row: ProjectRow) -> Stored:
        head = self._head(session, row)
        return Stored(
            id=row.id,
            revision=head.id,
            saved_at=as_utc(head.made_at),
            can_undo=head.parent is not None,
            can_redo=self._newest_child(session, row) is not None,
            project=_read(head.body),
        )


def _text(project: Project) -> str:
    return project.model_dump_json()


def _read(body: str) -> Project:
    """Raises Unreadable."""
    try:
        return Project.model_validate_json(body)
    except ValidationError as error:
        raise Unreadable(str(refusals(error)[0]), body) from None


def _read_or_none(body: str) -> Project | None:
    try:
        return _read(body)
    except Unreadable:
        return None


def _own_parts(project: Project) -> Iterable[int]:
    return (part.inventory_id for part in project.parts if part.inventory_id is not None)
