"""What instruments write while they are read, kept as it comes: a server that is started anew has lost nothing."""

from collections.abc import Collection, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from pocketspark.core.message import say
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.tables import LiveRowsRow, LiveRunRow
from pocketspark.store.utc import now

Rows = Sequence[tuple[float, float, float, float | None]]
# Runs that are kept, newest first: practice makes room for practice, what was measured for nothing else.
KEPT, MEASURED_KEPT = 10, 200


@dataclass(frozen=True)
class LiveLog:
    """A run as far as it was written. `ended` False: it was still going on when it was last heard of.

    `failure`: why it broke off; empty where it did not. `remarks`: what happened on the way. `connections`: of the real
    meters that wrote it.
    """

    id: int
    name: str
    limits: dict[str, Any] | None
    ended: bool
    failure: str
    rows: Rows
    simulated: bool = True
    remarks: tuple[str, ...] = ()
    connections: tuple[dict[str, Any], ...] = ()
    begun_at: datetime | None = None


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
        *,
        simulated: bool = True,
        connections: Sequence[dict[str, Any]] = (),
    ) -> int:
        """The number of a new run; the oldest ones of its kind make room, but for those that are `going_on`."""
        with Session(self._engine) as session, session.begin():
            row = LiveRunRow(name=name, limits=limits, begun_at=now(), ended=False, project_id=project_id)
            row.simulated, row.connections, row.remarks = simulated, list(connections), []
            session.add(row)
            session.flush()
            over = (
                select(LiveRunRow.id)
                .where(LiveRunRow.id.not_in(going_on), LiveRunRow.simulated == simulated)
                .order_by(LiveRunRow.id.desc())
            )
            old = list(session.scalars(over.offset(KEPT if simulated else MEASURED_KEPT)))
            session.execute(delete(LiveRowsRow).where(LiveRowsRow.run_id.in_(old)))
            session.execute(delete(LiveRunRow).where(LiveRunRow.id.in_(old)))
            return row.id

    def append(self, run_id: int, rows: Rows, remarks: Sequence[str] = ()) -> None:
        """Durable once it returns. `remarks`: all so far. Nothing happens where the run has made room meanwhile."""
        with Session(self._engine) as session, session.begin():
            if (run := session.get(LiveRunRow, run_id)) is None:
                return
            if rows:
                session.add(LiveRowsRow(run_id=run_id, rows=[list(row) for row in rows]))
            if len(remarks) > len(run.remarks):
                run.remarks = list(remarks)

    def left_open(self) -> list["LiveLog"]:
        """Runs of real meters that were going on when the server was ended."""
        with Session(self._engine) as session:
            open_runs = select(LiveRunRow).where(LiveRunRow.ended.is_(False)).order_by(LiveRunRow.id)
            ids = [row.id for row in session.scalars(open_runs) if row.connections]
        return [self.get(run_id) for run_id in ids]

    def end(self, run_id: int, failure: str = "", remarks: Sequence[str] = ()) -> None:
        with Session(self._engine) as session, session.begin():
            if (row := session.get(LiveRunRow, run_id)) is not None:
                row.ended, row.failure, row.remarks = True, failure, list(remarks)

    def of(self, project_id: int) -> list[LiveLog]:
        """The runs of one conversion, the first first."""
        with Session(self._engine) as session:
            ids = list(session.scalars(select(LiveRunRow.id).where(LiveRunRow.project_id == project_id)))
        return [self.get(run_id) for run_id in ids]

    def get(self, run_id: int) -> LiveLog:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            if (row := session.get(LiveRunRow, run_id)) is None:
                raise NothingThere(say("this run is not known any more; start it again"))
            parts = session.scalars(
                select(LiveRowsRow.rows).where(LiveRowsRow.run_id == run_id).order_by(LiveRowsRow.id)
            )
            rows = [(one[0], one[1], one[2], one[3]) for part in parts for one in part]
            return LiveLog(
                id=row.id,
                name=row.name,
                limits=row.limits,
                ended=row.ended,
                failure=row.failure,
                rows=rows,  # type: ignore[arg-type]
                simulated=row.simulated,
                remarks=tuple(row.remarks),
                connections=tuple(row.connections),
                begun_at=row.begun_at,
            )
