"""Phones and other computers that were paired: each known by the hash of its key, and by a name."""

import secrets
from dataclasses import dataclass
from datetime import datetime, timedelta
from hashlib import sha256

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from pocketspark.store.clock import as_utc, now
from pocketspark.store.error import NothingThere
from pocketspark.store.tables import DeviceRow

PAIRED_FOR = timedelta(days=90)
MOST_DEVICES = 20
# When a device was last seen is written down no more often than this.
SEEN_EVERY = timedelta(minutes=5)


@dataclass(frozen=True)
class Device:
    """One paired device."""

    id: int
    name: str
    paired_at: datetime
    seen_at: datetime
    expires_at: datetime


class Devices:
    """All paired devices in one database."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def pair(self, name: str) -> str:
        """A new device's key, which is known nowhere else. The one that was longest unseen makes room."""
        key, moment = secrets.token_urlsafe(32), now()
        with Session(self._engine) as session, session.begin():
            session.execute(delete(DeviceRow).where(DeviceRow.expires_at < moment))
            oldest = select(DeviceRow.id).order_by(DeviceRow.seen_at.desc()).offset(MOST_DEVICES - 1)
            session.execute(delete(DeviceRow).where(DeviceRow.id.in_(list(session.scalars(oldest)))))
            expires_at = moment + PAIRED_FOR
            session.add(
                DeviceRow(name=name, key_hash=_hash(key), paired_at=moment, seen_at=moment, expires_at=expires_at)
            )
        return key

    def knows(self, key: str) -> bool:
        """Whether this is the key of a device that is paired still."""
        moment = now()
        with Session(self._engine) as session:
            row = session.scalar(select(DeviceRow).where(DeviceRow.key_hash == _hash(key)))
            if row is None or row.expires_at < moment:
                return False
            if moment - row.seen_at > SEEN_EVERY:
                row.seen_at = moment
                session.commit()
            return True

    def all(self) -> list[Device]:
        """Those that are paired still, the newest first."""
        wanted = select(DeviceRow).where(DeviceRow.expires_at >= now()).order_by(DeviceRow.id.desc())
        with Session(self._engine) as session:
            return [
                Device(row.id, row.name, as_utc(row.paired_at), as_utc(row.seen_at), as_utc(row.expires_at))
                for row in session.scalars(wanted)
            ]

    def rename(self, device_id: int, name: str) -> None:
        """Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            self._row(session, device_id).name = name

    def revoke(self, device_id: int) -> None:
        """From now on its key opens nothing. Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            session.delete(self._row(session, device_id))

    def _row(self, session: Session, device_id: int) -> DeviceRow:
        if (row := session.get(DeviceRow, device_id)) is None:
            raise NothingThere(f"there is no paired device {device_id}")
        return row


def _hash(key: str) -> str:
    return sha256(key.encode()).hexdigest()
