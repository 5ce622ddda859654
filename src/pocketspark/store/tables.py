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
    archived_at: Mapped[datetime | None]


class RevisionRow(Table):
    """One saved state. Revisions form a tree by `parent`: nothing saved is ever overwritten."""

    __tablename__ = "revision"
    __table_args__ = (Index("revision_by_parent", "project_id", "parent"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"))
    parent: Mapped[int | None] = mapped_column(ForeignKey("revision.id"))
    made_at: Mapped[datetime]
    body: Mapped[dict[str, Any]] = mapped_column(JSON)


class PartRow(Table):
    """One part of the maker's own inventory. `body` is a Cell, a Board or a resistor."""

    __tablename__ = "part"
    __table_args__ = (Index("part_by_kind", "kind", "name"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    kind: Mapped[str]
    name: Mapped[str]
    body: Mapped[dict[str, Any]] = mapped_column(JSON)
    stock: Mapped[int]
    made_at: Mapped[datetime]


class PhotoRow(Table):
    """One photograph, re-encoded without what the camera wrote into it. `marks` is a PhotoMarks."""

    __tablename__ = "photo"
    __table_args__ = (Index("photo_by_project", "project_id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"))
    caption: Mapped[str]
    width: Mapped[int]
    height: Mapped[int]
    picture: Mapped[bytes]
    thumbnail: Mapped[bytes]
    marks: Mapped[dict[str, Any]] = mapped_column(JSON)
    made_at: Mapped[datetime]


class MeterRow(Table):
    """How the columns of one meter's logs are to be taken, by the header line it writes. `places` as the maker set."""

    __tablename__ = "meter"

    header: Mapped[str] = mapped_column(primary_key=True)
    places: Mapped[list[int | None]] = mapped_column(JSON)
    set_at: Mapped[datetime]


class LiveRunRow(Table):
    """A run that an instrument wrote or is writing. `limits`: what it was watched against; `ended`: of itself."""

    __tablename__ = "live_run"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    limits: Mapped[dict[str, Any] | None] = mapped_column(JSON)
    begun_at: Mapped[datetime]
    ended: Mapped[bool]


class LiveRowsRow(Table):
    """Some of a run's rows, as they came: [[s, V, A, degrees or null], ...]."""

    __tablename__ = "live_rows"
    __table_args__ = (Index("live_rows_by_run", "run_id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    run_id: Mapped[int] = mapped_column(ForeignKey("live_run.id"))
    rows: Mapped[list[list[float | None]]] = mapped_column(JSON)
