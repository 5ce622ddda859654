"""Opens the database file: pragmas, a copy before any migration, migrations to the newest shape."""

from collections.abc import Iterator
from contextlib import contextmanager
from importlib import resources
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Connection, Engine, create_engine, event

from pocketspark.core.error import PocketSparkError

FILE_NAME = "pocket-spark.sqlite"


class NewerData(PocketSparkError, RuntimeError):
    """The file has a shape that this release does not know; it is left as it is."""

    status = 409


def open_database(folder: Path) -> Engine:
    """Open the database in this folder, made or brought up to date as needed."""
    folder.mkdir(parents=True, exist_ok=True)
    file = folder / FILE_NAME
    engine = create_engine(f"sqlite:///{file}", connect_args={"timeout": 10})
    event.listen(engine, "connect", _prepare)
    _migrate(engine, file)
    return engine


def _prepare(connection: Any, _record: object) -> None:
    # WAL lets one window read while another saves.
    connection.execute("PRAGMA journal_mode = WAL")
    connection.execute("PRAGMA foreign_keys = ON")


def _migrate(engine: Engine, file: Path) -> None:
    config = Config()
    config.set_main_option("script_location", str(resources.files("pocketspark.store") / "migrations"))
    shapes = ScriptDirectory.from_config(config)
    newest = shapes.get_current_head()
    with engine.connect() as connection:
        present = MigrationContext.configure(connection).get_current_revision()
    if present == newest:
        return
    if present not in {None, *(shape.revision for shape in shapes.walk_revisions())}:
        raise NewerData(f"{file} was written by a newer Pocket Spark (its shape is {present}); use that one")
    if present is not None:
        _copy_before(engine, file.with_suffix(f".before-{newest}.sqlite"))
    with _one_transaction(file) as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")


def _copy_before(engine: Engine, copy: Path) -> None:
    """A copy of the data as it was. Not a plain copy of the file: the newest saves may still be in the log beside it.

    Written under another name first, so that a copy that is there is a whole one; and one that is there stays.
    """
    if copy.exists():
        return
    half = copy.with_suffix(".half")
    half.unlink(missing_ok=True)
    with engine.connect() as connection:
        connection.exec_driver_sql("VACUUM INTO ?", (str(half),))
    half.rename(copy)


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
