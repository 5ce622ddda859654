"""What instruments write while they are read, kept as it comes: a server that is started anew has lost nothing."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from typing import Any

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from pocketspark.store.clock import now
from pocketspark.store.error import NothingThere
from pocketspark.store.tables import LiveRowsRow, LiveRunRow

Rows = Sequence[tuple[float, float, float, float | None]]
# Runs that are kept, newest first: a log worth keeping is saved as CSV.
KEPT = 10


@dataclass(frozen=True)
class LiveLog:
    """A run as far as it was written. `ended` False: it was still going on when it was last heard of.

    `failure`: why it broke off; empty where it did not.
    """

    id: int
    name: str
    limits: dict[str, Any] | None
    ended: bool
    failure: str
    rows: Rows


class LiveLogs:
    """All runs in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def begin(
        self,
        name: str,
        limits: dict[str, Any] | None,
        project_id: int | None = None,
        going_on: Collection[int] = (),
    ) -> int:
        """The number of a new run; the oldest ones make room, but for those that are `going_on`."""
        with Session(self._engine) as session, session.begin():
            row = LiveRunRow(name=name, limits=limits, begun_at=now(), ended=False, project_id=project_id)
            session.add(row)
            session.flush()
            over = select(LiveRunRow.id).where(LiveRunRow.id.not_in(going_on)).order_by(LiveRunRow.id.desc())
            old = list(session.scalars(over.offset(KEPT)))
            session.execute(delete(LiveRowsRow).where(LiveRowsRow.run_id.in_(old)))
            session.execute(delete(LiveRunRow).where(LiveRunRow.id.in_(old)))
            return row.id

    def append(self, run_id: int, rows: Rows) -> None:
        """Durable once it returns. Nothing happens where the run has made room meanwhile."""
        with Session(self._engine) as session, session.begin():
            if rows and session.get(LiveRunRow, run_id) is not None:
                session.add(LiveRowsRow(run_id=run_id, rows=[list(row) for row in rows]))

    def end(self, run_id: int, failure: str = "") -> None:
        with Session(self._engine) as session, session.begin():
            if (row := session.get(LiveRunRow, run_id)) is not None:
                row.ended, row.failure = True, failure

    def of(self, project_id: int) -> list[LiveLog]:
        """The runs of one conversion, the first first."""
        with Session(self._engine) as session:
            ids = list(session.scalars(select(LiveRunRow.id).where(LiveRunRow.project_id == project_id)))
        return [self.get(run_id) for run_id in ids]

    def get(self, run_id: int) -> LiveLog:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            if (row := session.get(LiveRunRow, run_id)) is None:
                raise NothingThere("this run is not known any more; start it again")
            parts = session.scalars(
                select(LiveRowsRow.rows).where(LiveRowsRow.run_id == run_id).order_by(LiveRowsRow.id)
            )
            rows = [(one[0], one[1], one[2], one[3]) for part in parts for one in part]
            return LiveLog(row.id, row.name, row.limits, row.ended, row.failure, rows)  # type: ignore[arg-type]
