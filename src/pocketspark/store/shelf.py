"""The shelf: a line of each conversion, found and put in order by the database without a look into a document."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from sqlalchemy import ColumnElement, Engine, case, func, select
from sqlalchemy.orm import Session

from pocketspark.core.models import Project
from pocketspark.store.documents import Unreadable, digest_of, read_state
from pocketspark.store.project_rows import row_of
from pocketspark.store.tables import ProjectRow, RevisionRow
from pocketspark.store.utc import as_utc

Order = Literal["touched", "name", "stage"]


@dataclass(frozen=True)
class ListedProject:
    """One line of the shelf.

    `summary` is what was judged when it was saved, None where that failed or was never done; `outdated`: by other
    rules than today's.
    """

    id: int
    name: str
    saved_at: datetime
    summary: dict[str, Any] | None
    outdated: bool


@dataclass(frozen=True)
class JudgedLine:
    """What the shelf is told of a document: `summary` as it is shown, `words` by which it is found."""

    summary: dict[str, Any]
    words: str = ""


@dataclass(frozen=True)
class Sieve:
    """Which lines are wanted: all words in each, of this stage; `stages`: from the least far to the furthest."""

    words: str = ""
    stage: str = ""
    archived: bool = False
    order: Order = "touched"
    stages: Sequence[str] = ()


Judge = Callable[[Project], JudgedLine]


class Shelf:
    """The lines of all projects. `judge` makes one, by the rules that `rules` names.

    `settle` is called before lines are listed, and may wait a little for those that are being made.
    """

    def __init__(self, engine: Engine, judge: Judge, rules: str, settle: Callable[[], object] = lambda: None) -> None:
        self._engine, self._judge, self._rules, self._settle = engine, judge, rules, settle

    def lines(self, sieve: Sieve = Sieve(), *, skip: int = 0, most: int | None = None) -> list[ListedProject]:
        """A page of what the sieve lets through, last touched first unless it says otherwise."""
        self._settle()
        # By the index first: summaries are read of those alone that are shown.
        page = select(ProjectRow.id).where(*_conditions(sieve)).order_by(*_order(sieve)).offset(skip).limit(most)
        wanted = select(ProjectRow).where(ProjectRow.id.in_(page)).order_by(*_order(sieve))
        with Session(self._engine) as session:
            return [
                ListedProject(
                    row.id, row.name, as_utc(row.changed_at or row.made_at), row.summary, row.rules != self._rules
                )
                for row in session.scalars(wanted)
            ]

    def counts(self, *, archived: bool = False) -> dict[str, int]:
        """How many there are of each stage; "" where none is known."""
        which = _conditions(Sieve(archived=archived))
        wanted = select(ProjectRow.stage, func.count()).where(*which).group_by(ProjectRow.stage)
        with Session(self._engine) as session:
            return {row[0]: row[1] for row in session.execute(wanted)}

    def outdated(self) -> list[int]:
        """Projects whose line was made by other rules, or never."""
        wanted = select(ProjectRow.id).where(ProjectRow.rules.is_distinct_from(self._rules)).order_by(ProjectRow.id)
        with Session(self._engine) as session:
            return list(session.scalars(wanted))

    def damaged(self) -> list[int]:
        """Projects whose present text is not the one that was saved. One text at a time is held."""
        with Session(self._engine) as session:
            every = list(session.scalars(select(ProjectRow.id).where(ProjectRow.head.is_not(None))))
        return [project_id for project_id in every if self.is_damaged(project_id)]

    def is_damaged(self, project_id: int) -> bool:
        """Whether the disk has changed its present text since it was saved."""
        heads = select(RevisionRow.body, RevisionRow.digest).join(ProjectRow, ProjectRow.head == RevisionRow.id)
        with Session(self._engine) as session:
            found = session.execute(heads.where(ProjectRow.id == project_id)).one_or_none()
        return found is not None and found.digest is not None and digest_of(found.body) != found.digest

    def judge_anew(self, project_id: int) -> None:
        """Make its line by today's rules. One that cannot be read gets the reason as its line."""
        with Session(self._engine) as session:
            row = row_of(session, project_id)
            head = row.head
            try:
                line = self._judge(read_state(session.get_one(RevisionRow, head)))
            except Unreadable as error:
                line = JudgedLine({"unreadable": str(error), "damaged": error.damaged})
        with Session(self._engine) as session, session.begin():
            session.connection().exec_driver_sql("BEGIN IMMEDIATE")
            row = row_of(session, project_id)
            if row.head == head:  # else a save came between, and has its own line made
                row.summary, row.rules = line.summary, self._rules
                row.words, row.stage = f"{row.name} {line.words}".casefold(), line.summary.get("stage", "")


def _conditions(sieve: Sieve) -> list[ColumnElement[bool]]:
    away = ProjectRow.archived_at
    found: list[ColumnElement[bool]] = [
        ProjectRow.head.is_not(None),
        away.is_not(None) if sieve.archived else away.is_(None),
    ]
    if sieve.stage:
        found.append(ProjectRow.stage == sieve.stage)
    return found + [ProjectRow.words.contains(word, autoescape=True) for word in sieve.words.casefold().split()]


def _order(sieve: Sieve) -> tuple[ColumnElement[Any], ...]:
    newest = (ProjectRow.changed_at.desc(), ProjectRow.id.desc())
    if sieve.order == "name":
        return (func.lower(ProjectRow.name), *newest)
    if sieve.order == "stage":
        places = {stage: place for place, stage in enumerate(sieve.stages)}
        return (case(places, value=ProjectRow.stage, else_=-1).desc(), *newest)
    return newest
