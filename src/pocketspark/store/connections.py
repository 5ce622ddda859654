"""The real meters that the maker has connected, each by its name."""

from typing import Any

from pydantic import JsonValue
from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from pocketspark.core.message import say
from pocketspark.store.nothing_there import NothingThere
from pocketspark.store.tables import ConnectionRow
from pocketspark.store.utc import now


class Connections:
    """All of them in one database, as plain values."""

    def __init__(self, engine: Engine) -> None:
        self._engine = engine

    def all(self) -> list[dict[str, Any]]:
        """By name."""
        with Session(self._engine) as session:
            return list(session.scalars(select(ConnectionRow.body).order_by(ConnectionRow.name)))

    def keep(self, name: str, body: dict[str, JsonValue]) -> None:
        """New, or in the place of the one of this name."""
        with Session(self._engine) as session, session.begin():
            session.merge(ConnectionRow(name=name, body=body, set_at=now()))

    def remove(self, name: str) -> None:
        """Raises NothingThere."""
        with Session(self._engine) as session, session.begin():
            if (row := session.get(ConnectionRow, name)) is None:
                raise NothingThere(say("no meter called '{name}' is kept", name=str(name)))
            session.delete(row)
