"""Documents and own parts in format 2; conversions are archived and restored."""

import json
from typing import Any

import sqlalchemy as sa
from alembic import op

from pocketspark.core.models.upgrade import UnknownFormat, upgraded, upgraded_part

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.execute("ALTER TABLE project RENAME COLUMN put_away_at TO archived_at")
    connection = op.get_bind()
    for number, body in _rows(connection, "SELECT id, body FROM revision"):
        _write(connection, "UPDATE revision SET body = :body WHERE id = :id", number, {"body": _document(body)})
    for number, kind, body in _rows(connection, "SELECT id, kind, body FROM part"):
        new_kind, new_body = upgraded_part(kind, json.loads(body))
        values = {"kind": new_kind, "body": json.dumps(new_body)}
        _write(connection, "UPDATE part SET kind = :kind, body = :body WHERE id = :id", number, values)


def _rows(connection: sa.Connection, query: str) -> list[Any]:
    return list(connection.execute(sa.text(query)))


def _write(connection: sa.Connection, statement: str, number: int, values: dict[str, str]) -> None:
    connection.execute(sa.text(statement), {"id": number, **values})


def _document(body: str) -> str:
    """The stored text in format 2. What cannot be read is left as it is, to be exported or repaired later."""
    try:
        document = json.loads(body)
        return json.dumps(upgraded(document)) if isinstance(document, dict) else body
    except (ValueError, UnknownFormat):
        return body
