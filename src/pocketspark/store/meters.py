"""The maker's meters: which column of their logs holds what, remembered by the header line that they write."""

from collections.abc import Sequence

from sqlalchemy import Engine
from sqlalchemy.orm import Session

from pocketspark.store.tables import MeterRow
from pocketspark.store.utc import now

Places = tuple[int | None, ...]  # columns of time, volts, amps, degrees


class Meters:
    """All meters that were ever put right, in one database. `reads_only`: for somebody who changes nothing."""

    def __init__(self, engine: Engine, *, reads_only: bool = False) -> None:
        self._engine, self._reads_only = engine, reads_only

    def columns_of(self, header: Sequence[str]) -> Places | None:
        """None where this header was never put right, or there is none to know it by."""
        with Session(self._engine) as session:
            row = session.get(MeterRow, _key(header)) if header else None
            return None if row is None else tuple(row.places)

    def remember(self, header: Sequence[str], places: Places) -> None:
        """The same meter writes the same header again. Without a header nothing is kept."""
        if not header or self._reads_only:
            return
        with Session(self._engine) as session, session.begin():
            session.merge(MeterRow(header=_key(header), places=list(places), set_at=now()))


def _key(header: Sequence[str]) -> str:
    return "|".join(header)[:2000]
