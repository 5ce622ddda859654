"""The whole database in one file: written while others read and write, and read back before it gets its name."""

import os
import sqlite3
from contextlib import closing
from pathlib import Path

from sqlalchemy import Engine

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say


class BadBackup(PocketSparkError, ValueError):
    """The file is no backup, or not a whole one. Nothing was touched."""


def copy_whole(engine: Engine, copy: Path) -> None:
    """Everything as it stands in one file. Raises BadBackup where what was written cannot be read back."""
    half = copy.with_suffix(".half")
    half.unlink(missing_ok=True)
    with engine.connect() as connection:
        connection.exec_driver_sql("VACUUM INTO ?", (str(half),))
    half.chmod(0o600)
    give_its_name(half, copy)


def give_its_name(half: Path, file: Path) -> None:
    """Once it was read back, and is on the disk, not only on its way there. Raises BadBackup; then it is gone again."""
    try:
        conversions_in(half)
    except BadBackup:
        half.unlink()
        raise
    _sync(half)
    half.rename(file)
    _sync(file.parent)


def conversions_in(file: Path) -> int:
    """How many there are in a backup that is sound. Raises BadBackup."""
    try:
        # Read as it stands: nothing is written beside a file that may lie on somebody's stick.
        with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro&immutable=1", uri=True)) as backup:
            (verdict,) = backup.execute("PRAGMA quick_check(1)").fetchone()
            strays = backup.execute("PRAGMA foreign_key_check").fetchall()
            (shape,) = backup.execute("SELECT version_num FROM alembic_version").fetchone()
            (conversions,) = backup.execute("SELECT count(*) FROM project WHERE head IS NOT NULL").fetchone()
    except (sqlite3.Error, TypeError, OSError):
        raise BadBackup(say("{file} is no backup of Pocket Spark, or it is damaged", file=str(file))) from None
    if verdict != "ok" or strays or not shape:
        raise BadBackup(say("{file} is damaged: it is not put back", file=str(file)))
    return int(conversions)


def _sync(path: Path) -> None:
    handle = os.open(path, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)
