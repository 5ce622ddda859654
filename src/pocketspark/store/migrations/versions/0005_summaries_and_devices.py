"""Each conversion's line on the shelf, which own parts it holds, revisions of parts and photographs, paired devices."""

import json
from collections.abc import Iterator
from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.add_column("project", sa.Column("summary", sa.JSON))
    op.add_column("project", sa.Column("rules", sa.String))
    op.add_column("part", sa.Column("revision", sa.Integer, nullable=False, server_default="1"))
    op.add_column("photo", sa.Column("revision", sa.Integer, nullable=False, server_default="1"))
    op.execute("ALTER TABLE live_run ADD COLUMN project_id INTEGER REFERENCES project (id)")
    op.add_column("live_run", sa.Column("failure", sa.String, nullable=False, server_default=""))
    op.create_table(
        "part_use",
        sa.Column("project_id", sa.Integer, sa.ForeignKey("project.id"), primary_key=True),
        sa.Column("part_id", sa.Integer, primary_key=True),
    )
    op.create_index("ix_part_use_part_id", "part_use", ["part_id"])
    op.create_table(
        "device",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("name", sa.String, nullable=False),
        sa.Column("key_hash", sa.String, nullable=False, unique=True),
        sa.Column("paired_at", sa.DateTime, nullable=False),
        sa.Column("seen_at", sa.DateTime, nullable=False),
        sa.Column("expires_at", sa.DateTime, nullable=False),
    )
    connection = op.get_bind()
    heads = "SELECT project.id, revision.body FROM project JOIN revision ON revision.id = project.head"
    for project_id, body in list(connection.execute(sa.text(heads))):
        for part_id in sorted(set(_own_parts(body))):
            values = {"project": project_id, "part": part_id}
            connection.execute(sa.text("INSERT INTO part_use VALUES (:project, :part)"), values)


def _own_parts(body: str) -> Iterator[int]:
    """Numbers of the own parts in its builds. A body that cannot be read holds none."""
    try:
        builds = json.loads(body)["builds"]
        parts: list[Any] = [part for build in builds for part in (build["cell"], *build["boards"])]
        yield from (part["inventory_id"] for part in parts if part and part.get("inventory_id") is not None)
    except (ValueError, KeyError, TypeError, AttributeError):
        return
