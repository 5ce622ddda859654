"""The tables. Columns for what is searched or joined, JSON for bodies, which the models validate."""

from datetime import datetime
from typing import Any

from sqlalchemy import JSON, ForeignKey, Index, Text, false
from sqlalchemy.orm import DeclarativeBase, Mapped, mapped_column


class Table(DeclarativeBase):
    """Base of all tables."""


class ProjectRow(Table):
    """One project. `head` is the revision that counts now; undo and redo move it.

    `summary` is its line on the shelf, as the rules of `rules` judged it when it was saved; both None: not judged yet.
    By `words`, `stage` and `changed_at` it is found and put in order there.
    """

    __tablename__ = "project"
    # Everything that a page of the shelf is found by, so that no line is read which is not shown.
    __table_args__ = (Index("project_on_shelf", "archived_at", "changed_at", "id", "stage", "head", "name", "words"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    head: Mapped[int | None] = mapped_column(ForeignKey("revision.id", use_alter=True))
    made_at: Mapped[datetime]
    archived_at: Mapped[datetime | None]
    summary: Mapped[dict[str, Any] | None] = mapped_column(JSON(none_as_null=True))
    rules: Mapped[str | None]
    words: Mapped[str] = mapped_column(default="", server_default="")
    stage: Mapped[str] = mapped_column(default="", server_default="")
    changed_at: Mapped[datetime | None]


class RevisionRow(Table):
    """One saved state. Revisions form a tree by `parent`: nothing saved is ever overwritten.

    `body` is the document as JSON text, read only where it is wanted: one that is damaged spoils no list. `digest`: of
    just that text. `device`: who saved it, 0 for this computer; `undoes`: the state whose changes it takes back.
    """

    __tablename__ = "revision"
    __table_args__ = (Index("revision_by_parent", "project_id", "parent"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"))
    parent: Mapped[int | None] = mapped_column(ForeignKey("revision.id"))
    made_at: Mapped[datetime]
    body: Mapped[str] = mapped_column(Text)
    digest: Mapped[str | None]
    device: Mapped[int] = mapped_column(default=0, server_default="0")
    undoes: Mapped[int | None]


class PartUseRow(Table):
    """That a conversion holds one of the maker's own parts in a build of its head revision."""

    __tablename__ = "part_use"

    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"), primary_key=True)
    part_id: Mapped[int] = mapped_column(primary_key=True, index=True)


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
    revision: Mapped[int] = mapped_column(default=1)


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
    revision: Mapped[int] = mapped_column(default=1)


class MeterRow(Table):
    """How the columns of one meter's logs are to be taken, by the header line it writes. `places` as the maker set."""

    __tablename__ = "meter"

    header: Mapped[str] = mapped_column(primary_key=True)
    places: Mapped[list[int | None]] = mapped_column(JSON)
    set_at: Mapped[datetime]


class LiveRunRow(Table):
    """A run that an instrument wrote or is writing.

    `limits`: what it was watched against; `ended`: of itself; `failure`: why it broke off, where it did.
    """

    __tablename__ = "live_run"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    limits: Mapped[dict[str, Any] | None] = mapped_column(JSON)
    begun_at: Mapped[datetime]
    ended: Mapped[bool]
    project_id: Mapped[int | None] = mapped_column(ForeignKey("project.id"))
    failure: Mapped[str] = mapped_column(default="")
    simulated: Mapped[bool] = mapped_column(default=True)
    remarks: Mapped[list[str]] = mapped_column(JSON, default=list)
    connections: Mapped[list[dict[str, Any]]] = mapped_column(JSON, default=list)  # of real meters, to take it up again


class ConnectionRow(Table):
    """A real meter that the maker has connected, by its name. `body` is a Connection."""

    __tablename__ = "connection"

    name: Mapped[str] = mapped_column(primary_key=True)
    body: Mapped[dict[str, Any]] = mapped_column(JSON)
    set_at: Mapped[datetime]


class LiveRowsRow(Table):
    """Some of a run's rows, as they came: [[s, V, A, degrees or null], ...]."""

    __tablename__ = "live_rows"
    __table_args__ = (Index("live_rows_by_run", "run_id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    run_id: Mapped[int] = mapped_column(ForeignKey("live_run.id"))
    rows: Mapped[list[list[float | None]]] = mapped_column(JSON)


class LogFileRow(Table):
    """A meter's log as it came. `digest`: of its content, by which it is known again."""

    __tablename__ = "log_file"
    __table_args__ = (Index("log_file_by_project", "project_id"),)

    id: Mapped[int] = mapped_column(primary_key=True)
    project_id: Mapped[int] = mapped_column(ForeignKey("project.id"))
    name: Mapped[str]
    size: Mapped[int]
    digest: Mapped[str]
    made_at: Mapped[datetime]


class LogPieceRow(Table):
    """A piece of a log's content, compressed."""

    __tablename__ = "log_piece"

    log_id: Mapped[int] = mapped_column(ForeignKey("log_file.id"), primary_key=True)
    number: Mapped[int] = mapped_column(primary_key=True)
    data: Mapped[bytes]


class DeviceRow(Table):
    """A phone or another computer that was paired. Of its key only the hash is known here.

    `reads_only`: it changes nothing.
    """

    __tablename__ = "device"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    key_hash: Mapped[str] = mapped_column(unique=True)
    paired_at: Mapped[datetime]
    seen_at: Mapped[datetime]
    expires_at: Mapped[datetime]
    reads_only: Mapped[bool] = mapped_column(default=False, server_default=false())
