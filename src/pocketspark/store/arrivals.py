"""What comes with a conversion from a file, and how it is put beside what is here already: ids follow."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from pocketspark.core.models import Project
from pocketspark.core.models.inventory_item import InventoryKind, InventoryModel
from pocketspark.store.live_logs import LiveLog
from pocketspark.store.log_files import NewLog, put_log
from pocketspark.store.pictures import NewPhoto, photo_row
from pocketspark.store.tables import LiveRowsRow, LiveRunRow, PartRow
from pocketspark.store.utc import now


@dataclass(frozen=True)
class EarlierState:
    """A state that the conversion once had."""

    made_at: datetime
    project: Project


@dataclass(frozen=True)
class NewPart:
    """One of the maker's own parts. `known_as` is what the document that comes with it calls it by."""

    known_as: int
    kind: InventoryKind
    body: InventoryModel
    stock: int


@dataclass(frozen=True)
class Arrivals:
    """Everything that a file may bring beside the document."""

    photos: Sequence[NewPhoto] = ()
    parts: Sequence[NewPart] = ()
    history: Sequence[EarlierState] = ()
    runs: Sequence[LiveLog] = ()
    logs: Sequence[NewLog] = ()


@dataclass(frozen=True)
class NewIds:
    """What photographs and parts are called by here, by what the file calls them."""

    photos: dict[int, int]
    parts: dict[int, int]

    def renumbered(self, project: Project) -> Project:
        """Its references follow; one to what did not come along is dropped, since that is not here."""
        return project.with_photo_ids(self.photos).with_inventory_ids(self.parts)


def put_away(session: Session, project_id: int, arrivals: Arrivals) -> NewIds:
    """Write photographs, parts and runs into the database. A part that is here already is not added twice."""
    rows = {
        photo.known_as: photo_row(project_id, photo.picture, photo.caption, photo.marks) for photo in arrivals.photos
    }
    session.add_all(rows.values())
    parts = {part.known_as: _part_row(session, part) for part in arrivals.parts}
    for run in arrivals.runs:
        _put_run(session, project_id, run)
    for log in arrivals.logs:
        put_log(session, project_id, log)
    session.flush()
    return NewIds({known: row.id for known, row in rows.items()}, {known: row.id for known, row in parts.items()})


def known_parts(session: Session, project: Project) -> dict[int, int]:
    """For a document that came without its parts: those that are here under the same number and name."""
    held = {part.inventory_id: part.name for part in project.parts if part.inventory_id is not None}
    rows = session.scalars(select(PartRow).where(PartRow.id.in_(held)))
    return {row.id: row.id for row in rows if row.name == held[row.id]}


def _part_row(session: Session, part: NewPart) -> PartRow:
    body: dict[str, Any] = part.body.model_dump(mode="json")
    alike = select(PartRow).where(PartRow.kind == part.kind, PartRow.name == part.body.name)
    here = next((row for row in session.scalars(alike) if row.body == body), None)
    if here is None:
        here = PartRow(kind=part.kind, name=part.body.name, body=body, stock=part.stock, made_at=now())
        session.add(here)
        session.flush()
    return here


def _put_run(session: Session, project_id: int, run: LiveLog) -> None:
    row = LiveRunRow(
        name=run.name, limits=run.limits, begun_at=now(), ended=True, project_id=project_id, failure=run.failure
    )
    row.simulated, row.remarks, row.connections = run.simulated, list(run.remarks), []
    session.add(row)
    session.flush()
    session.add(LiveRowsRow(run_id=row.id, rows=[list(entry) for entry in run.rows]))
