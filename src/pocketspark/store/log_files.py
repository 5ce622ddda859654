"""Logs of meters as the maker uploaded them: kept once, in pieces, and read again by their number."""

import hashlib
import zlib
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import Engine, delete, func, select
from sqlalchemy.orm import Session

from pocketspark.core.message import say
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.photos import TooMany
from pocketspark.store.project_rows import row_of
from pocketspark.store.tables import LogFileRow, LogPieceRow
from pocketspark.store.utc import as_utc, now

PIECE_BYTES = 1_000_000
# A conversion has a handful of runs worth keeping.
MOST_LOGS = 40


@dataclass(frozen=True)
class LogFile:
    """One log without its text. `size`: bytes of it as it came."""

    id: int
    name: str
    size: int
    made_at: datetime


@dataclass(frozen=True)
class NewLog:
    """A log that comes with a conversion from a file, in pieces that are compressed already."""

    name: str
    size: int
    digest: str
    pieces: tuple[bytes, ...]


class LogFiles:
    """All logs in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def add(self, project_id: int, name: str, content: Iterable[bytes]) -> LogFile:
        """The same content is not kept twice. Raises NothingThere, TooMany."""
        log = pack(name, content)
        with Session(self._engine) as session, session.begin():
            row_of(session, project_id)
            of_project = LogFileRow.project_id == project_id
            alike = session.scalar(select(LogFileRow).where(of_project, LogFileRow.digest == log.digest))
            if alike is not None:
                return _log_file(alike)
            if (session.scalar(select(func.count()).where(of_project)) or 0) >= MOST_LOGS:
                raise TooMany(
                    say("{most_logs} logs are kept of one conversion: strike one out first", most_logs=MOST_LOGS)
                )
            return _log_file(put_log(session, project_id, log))

    def of(self, project_id: int) -> list[LogFile]:
        """Newest first."""
        wanted = select(LogFileRow).where(LogFileRow.project_id == project_id).order_by(LogFileRow.id.desc())
        with Session(self._engine) as session:
            return [_log_file(row) for row in session.scalars(wanted)]

    def get(self, project_id: int, log_id: int) -> LogFile:
        """Raises NothingThere."""
        with Session(self._engine) as session:
            return _log_file(_row(session, log_id, project_id))

    def content(self, log_id: int) -> Iterator[bytes]:
        """Its bytes as they came, piece by piece. Raises NothingThere."""
        wanted = select(LogPieceRow.data).where(LogPieceRow.log_id == log_id).order_by(LogPieceRow.number)
        with Session(self._engine) as session:
            _row(session, log_id)
            for data in session.scalars(wanted.execution_options(yield_per=4)):
                yield zlib.decompress(data)

    def remove(self, project_id: int, log_id: int) -> None:
        """Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            row = _row(session, log_id, project_id)
            session.execute(delete(LogPieceRow).where(LogPieceRow.log_id == log_id))
            session.delete(row)


def pack(name: str, content: Iterable[bytes]) -> NewLog:
    """Compressed, piece by piece."""
    size, digest, pieces = 0, hashlib.sha256(), []
    for data in _even_pieces(content):
        size += len(data)
        digest.update(data)
        pieces.append(zlib.compress(data, 1))
    return NewLog(name, size, digest.hexdigest(), tuple(pieces))


def _even_pieces(content: Iterable[bytes]) -> Iterator[bytes]:
    waiting = bytearray()
    for data in content:
        waiting += data
        while len(waiting) >= PIECE_BYTES:
            yield bytes(waiting[:PIECE_BYTES])
            del waiting[:PIECE_BYTES]
    if waiting:
        yield bytes(waiting)


def put_log(session: Session, project_id: int, log: NewLog) -> LogFileRow:
    row = LogFileRow(project_id=project_id, name=log.name, size=log.size, digest=log.digest, made_at=now())
    session.add(row)
    session.flush()
    for number, data in enumerate(log.pieces):
        session.add(LogPieceRow(log_id=row.id, number=number, data=data))
    return row


def _row(session: Session, log_id: int, project_id: int | None = None) -> LogFileRow:
    row = session.get(LogFileRow, log_id)
    if row is None or project_id not in (None, row.project_id):
        raise NothingThere(say("there is no log {log_id}: read the file once more", log_id=log_id))
    return row


def _log_file(row: LogFileRow) -> LogFile:
    return LogFile(row.id, row.name, row.size, as_utc(row.made_at))
