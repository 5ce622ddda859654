"""Opens the database file: pragmas, a copy before any migration, migrations to the newest shape."""

from importlib import resources
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event

FILE_NAME = "pocket-spark.sqlite"


class NewerData(RuntimeError):
    """The file has a shape that this release does not know; it is left as it is."""


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
        # Not a plain copy of the file: the newest saves may still stand in the write-ahead log beside it.
        copy = file.with_suffix(f".before-{newest}.sqlite")
        copy.unlink(missing_ok=True)
        with engine.connect() as connection:
            connection.exec_driver_sql("VACUUM INTO ?", (str(copy),))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
