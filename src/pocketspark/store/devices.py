"""Phones and other computers that were paired: each known by the hash of its key, and by a name."""

import secrets
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from hashlib import sha256
from threading import Lock

from sqlalchemy import Engine, delete, select
from sqlalchemy.orm import Session

from pocketspark.core.message import say
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.tables import DeviceRow
from pocketspark.store.utc import as_utc, now

PAIRED_FOR = timedelta(days=90)
# The number under which what is done at the server's own computer is kept.
THIS_COMPUTER = 0
MOST_DEVICES = 20


@dataclass(frozen=True)
class Device:
    """One paired device."""

    id: int
    name: str
    paired_at: datetime
    seen_at: datetime
    expires_at: datetime
    reads_only: bool


class Devices:
    """All paired devices in one database.

    Their keys are held in memory as well: every request of theirs comes by here, and none waits for the disk.
    """

    def __init__(self, engine: Engine) -> None:
        self._engine = engine
        self._lock = Lock()
        self._by_hash: dict[str, Device] = {}
        self._read_keys()

    def _read_keys(self) -> None:
        with Session(self._engine) as session:
            rows = {row.key_hash: _device(row) for row in session.scalars(select(DeviceRow))}
        with self._lock:
            # When they were seen is written down now and then only.
            seen = {device.id: device.seen_at for device in self._by_hash.values()}
            self._by_hash = {
                key: replace(device, seen_at=max(device.seen_at, seen.get(device.id, device.seen_at)))
                for key, device in rows.items()
            }

    def pair(self, name: str) -> str:
        """A new device's key, which is known nowhere else. The one that was longest unseen makes room."""
        self.write_seen()
        key, moment = secrets.token_urlsafe(32), now()
        with Session(self._engine) as session, session.begin():
            session.execute(delete(DeviceRow).where(DeviceRow.expires_at < moment))
            oldest = select(DeviceRow.id).order_by(DeviceRow.seen_at.desc()).offset(MOST_DEVICES - 1)
            session.execute(delete(DeviceRow).where(DeviceRow.id.in_(list(session.scalars(oldest)))))
            expires_at = moment + PAIRED_FOR
            session.add(
                DeviceRow(name=name, key_hash=_hash(key), paired_at=moment, seen_at=moment, expires_at=expires_at)
            )
        self._read_keys()
        return key

    def knows(self, key: str) -> Device | None:
        """The device of this key, where it is paired still."""
        moment, hashed = as_utc(now()), _hash(key)
        with self._lock:
            device = self._by_hash.get(hashed)
            if device is None or device.expires_at < moment:
                return None
            self._by_hash[hashed] = device = replace(device, seen_at=moment)
        return device

    def has(self, device_id: int) -> bool:
        """Whether this one is let in still; this computer always is."""
        return device_id == THIS_COMPUTER or any(device.id == device_id for device in self.all())

    def all(self) -> list[Device]:
        """Those that are paired still, the newest first."""
        moment = as_utc(now())
        with self._lock:
            paired = [device for device in self._by_hash.values() if device.expires_at >= moment]
        return sorted(paired, key=lambda device: -device.id)

    def write_seen(self) -> None:
        """Note in the database when each was last seen."""
        devices = self.all()
        with Session(self._engine) as session, session.begin():
            for device in devices:
                if row := session.get(DeviceRow, device.id):
                    row.seen_at = device.seen_at.replace(tzinfo=None)

    def change(self, device_id: int, name: str, *, reads_only: bool = False) -> None:
        """Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            row = self._row(session, device_id)
            row.name, row.reads_only = name, reads_only
        self._read_keys()

    def revoke(self, device_id: int) -> None:
        """From now on its key opens nothing. Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            session.delete(self._row(session, device_id))
        self._read_keys()

    def _row(self, session: Session, device_id: int) -> DeviceRow:
        if (row := session.get(DeviceRow, device_id)) is None:
            raise NothingThere(say("there is no paired device {device_id}", device_id=device_id))
        return row


def _device(row: DeviceRow) -> Device:
    paired_at, seen_at, expires_at = (as_utc(moment) for moment in (row.paired_at, row.seen_at, row.expires_at))
    return Device(row.id, row.name, paired_at, seen_at, expires_at, row.reads_only)


def _hash(key: str) -> str:
    return sha256(key.encode()).hexdigest()
