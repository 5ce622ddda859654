"""Opens the database file: pragmas, a copy before any migration, migrations to the newest shape."""

import shutil
from importlib import resources
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory
from sqlalchemy import Engine, create_engine, event

FILE_NAME = "pocket-spark.sqlite"


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
    newest = ScriptDirectory.from_config(config).get_current_head()
    with engine.connect() as connection:
        present = MigrationContext.configure(connection).get_current_revision()
    if present == newest:
        return
    if present is not None:
        engine.dispose()
        shutil.copy2(file, file.with_suffix(f".before-{newest}.sqlite"))
    with engine.begin() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
