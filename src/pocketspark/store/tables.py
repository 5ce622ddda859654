"""The tables. Columns for what is searched or joined, JSON for bodies, which the models validate."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, ForeignKey, Index
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Table(DeclarativeBase):
    """Base of all tables."""


class ProjectRow(Table):
    """One project. `head` is the revision that counts now; undo and redo move it."""

    __tablename__ = "project"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    head: Mapped[int | None] = mapped_column(ForeignKey("revision.id", use_alter=True))
    made_at: Mapped[datetime]
    put_away_at: Mapped[datetime | None]


class RevisionRow(Table):
    """One saved state. Revisions form a tree by `parent`: nothing saved is ever overwritten."""

    __tablename__ = "revision"
    __table_args__ = (Index("revision_by_parent", "project_id", "parent"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"))
    parent: Mapped[int | None] = mapped_column(ForeignKey("revision.id"))
    made_at: Mapped[datetime]
    body: Mapped[dict[str, Any]] = mapped_column(JSON)
