"""Opens the database file: pragmas, a copy before any migration, migrations to the newest shape.

What is wrong with a file is said in one sentence before anything in it is touched.
"""

import os
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from importlib import resources
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DBAPIError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.store.whole_copy import copy_whole

FILE_NAME = "pocket-spark.sqlite"
COPIES = "copies"
# Checked page by page at every start up to this size; a larger file would make the start wait.
CHECKED_BYTES = 200_000_000


class UnusableData(PocketSparkError, RuntimeError):
    """The data folder or its file cannot be used as it is; nothing in it was changed."""

    status = 409


class NewerData(UnusableData):
    """The file has a shape that this release does not know; it is left as it is."""


class DamagedData(UnusableData):
    """The file is no database, or a broken one, or one that was emptied."""


class NotWritable(UnusableData):
    """The folder or the file may not be written to, or there is no room for it."""


def open_database(folder: Path) -> Engine:
    """Open the database in this folder, made or brought up to date as needed. Raises UnusableData."""
    file = folder / FILE_NAME
    try:
        folder.mkdir(parents=True, exist_ok=True)
        _only_for_the_owner(folder)
        if not file.exists():
            _make(file)
        _require_sound(file)
        engine = create_engine(f"sqlite:///{file}", connect_args={"timeout": 10})
        event.listen(engine, "connect", _prepare)
        _migrate(engine, file)
    except (OSError, DBAPIError, sqlite3.Error) as error:
        raise why_not(error, folder) from error
    _only_for_the_owner(folder)
    return engine


def close_database(engine: Engine) -> None:
    """Everything into the one file, so that a plain copy of it holds all; then let it go."""
    with engine.connect() as connection:
        connection.exec_driver_sql("PRAGMA wal_checkpoint(TRUNCATE)")
    engine.dispose()


def why_not(error: Exception, folder: Path | str = "the data folder") -> PocketSparkError:
    """What a failure of file system or database means to the maker, and what to do."""
    original = error.orig if isinstance(error, DBAPIError) else error
    name = getattr(original, "sqlite_errorname", None) or _name_of(original)
    for beginning, kind, sentence in _FAILURES:
        if name.startswith(beginning):
            return kind(sentence.format(folder=folder, copies=COPIES))
    return UnusableData(f"The data in {folder} cannot be used: {original}.")


_FULL = "There is no room left on the disk of {folder}: nothing was saved just now. Free some, and go on."
_REFUSED = "{folder} may not be written to: nothing was saved just now. Give yourself the right to write there."
_BROKEN = (
    "The data file in {folder} is damaged. Move it elsewhere, and put the newest file of {folder}/{copies} in its "
    "place with ./spark restore FILE."
)
_FAILURES: tuple[tuple[str, type[UnusableData], str], ...] = (
    ("SQLITE_FULL", NotWritable, _FULL),
    ("SQLITE_READONLY", NotWritable, _REFUSED),
    ("SQLITE_CANTOPEN", NotWritable, _REFUSED),
    ("SQLITE_PERM", NotWritable, _REFUSED),
    ("SQLITE_AUTH", NotWritable, _REFUSED),
    ("SQLITE_CORRUPT", DamagedData, _BROKEN),
    ("SQLITE_NOTADB", DamagedData, _BROKEN),
    ("SQLITE_BUSY", UnusableData, "Another program has held the data in {folder} for ten seconds; end it, and go on."),
    ("SQLITE_LOCKED", UnusableData, "Another program has held the data in {folder} for too long; end it, and go on."),
    ("SQLITE_IOERR", UnusableData, "The disk of {folder} reports a fault: nothing was saved just now. Look after it."),
)


def _name_of(error: object) -> str:
    """A failure of the file system by the name that the database has for such a one."""
    if isinstance(error, OSError):
        return {28: "SQLITE_FULL", 122: "SQLITE_FULL", 5: "SQLITE_IOERR"}.get(error.errno or 0, "SQLITE_CANTOPEN")
    # SQLite's own name is there from Python 3.11 on, but not on an error that the driver raises by itself.
    return "SQLITE_NOTADB" if "not a database" in str(error) else "SQLITE_ERROR"


def _prepare(connection: Any, _record: object) -> None:
    # WAL lets one window read while another saves.
    connection.execute("PRAGMA journal_mode = WAL")
    # What was answered as saved is on the disk: a power cut takes none of it.
    connection.execute("PRAGMA synchronous = FULL")
    connection.execute("PRAGMA foreign_keys = ON")


def _only_for_the_owner(folder: Path) -> None:
    """Photographs and notes are nobody else's business."""
    folder.chmod(0o700)
    for file in folder.glob(f"{FILE_NAME}*"):
        # Another of our processes may close meanwhile, and take its shared memory with it.
        with suppress(FileNotFoundError):
            file.chmod(0o600)


def _make(file: Path) -> None:
    """A new database under another name first: one that is there is a whole one, so an empty file was emptied."""
    if copies := sorted((file.parent / COPIES).glob("*.sqlite")):
        raise DamagedData(
            say(
                "{file} is gone, but there are copies of it. ./spark restore {newest} returns the newest; "
                "to start with nothing, move {copies} elsewhere.",
                file=str(file),
                newest=str(copies[-1]),
                copies=str(file.parent / COPIES),
            )
        )
    half = file.with_suffix(".new")
    for left_over in half.parent.glob(f"{half.name}*"):
        left_over.unlink()
    with _one_transaction(half) as connection:
        _upgrade(connection)
    half.rename(file)


def _require_sound(file: Path) -> None:
    """Raises DamagedData, NotWritable."""
    if not os.access(file, os.W_OK) or not os.access(file.parent, os.W_OK):
        raise NotWritable(_REFUSED.format(folder=file.parent))
    connection = sqlite3.connect(file, timeout=10)
    try:
        tables = {name for (name,) in connection.execute("SELECT name FROM sqlite_master WHERE type = 'table'")}
        if not {"alembic_version", "project"} <= tables:
            raise DamagedData(
                say(
                    "{file} is empty, which Pocket Spark never leaves it: something else emptied it. Move it elsewhere "
                    "and put the newest file of {copies} in its place with ./spark restore FILE, or start anew.",
                    file=str(file),
                    copies=str(file.parent / COPIES),
                )
            )
        if file.stat().st_size <= CHECKED_BYTES:
            (verdict,) = connection.execute("PRAGMA quick_check(1)").fetchone()
            if verdict != "ok":
                raise DamagedData(_BROKEN.format(folder=file.parent, copies=COPIES))
    finally:
        connection.close()


def _migrate(engine: Engine, file: Path) -> None:
    newest = _shapes().get_current_head()
    with engine.connect() as connection:
        present = MigrationContext.configure(connection).get_current_revision()
    if present == newest:
        return
    if present not in {None, *(shape.revision for shape in _shapes().walk_revisions())}:
        raise NewerData(
            say(
                "{file} was written by a newer Pocket Spark (its shape is {present}); use that one",
                file=str(file),
                present=str(present),
            )
        )
    _copy_before(engine, file.with_suffix(f".before-{newest}.sqlite"))
    with _one_transaction(file) as connection:
        _upgrade(connection)


def _config() -> Config:
    config = Config()
    config.set_main_option("script_location", str(resources.files("pocketspark.store") / "migrations"))
    return config


def _shapes() -> ScriptDirectory:
    return ScriptDirectory.from_config(_config())


def _upgrade(connection: Connection) -> None:
    config = _config()
    config.attributes["connection"] = connection
    command.upgrade(config, "head")


def _copy_before(engine: Engine, copy: Path) -> None:
    """A copy of the data as it was. Not a plain copy of the file: the newest saves may still be in the log beside it.

    Written under another name first, so that a copy that is there is a whole one; and one that is there stays.
    """
    if not copy.exists():
        copy_whole(engine, copy)


@contextmanager
def _one_transaction(file: Path) -> Iterator[Connection]:
    """A connection whose every statement, those that change tables too, is undone together where one of them fails.

    SQLite can; the driver has to be kept from committing on its own.
    """
    engine = create_engine(f"sqlite:///{file}", connect_args={"timeout": 10, "isolation_level": None})
    event.listen(engine, "begin", lambda connection: connection.exec_driver_sql("BEGIN IMMEDIATE"))
    try:
        with engine.begin() as connection:
            yield connection
    finally:
        engine.dispose()
