"""One file with everything: made from a running database, and put back into an empty folder once it is known sound."""

import os
import shutil
import sqlite3
from contextlib import closing
from datetime import date
from pathlib import Path

from sqlalchemy import Engine

from pocketspark.core.error import PocketSparkError
from pocketspark.store.database import COPIES, FILE_NAME, copy_whole

# Copies that are made by themselves, one a day.
COPIES_KEPT = 7


class BadBackup(PocketSparkError, ValueError):
    """The file is no backup, or not a whole one. Nothing was touched."""


class FolderInUse(PocketSparkError, RuntimeError):
    """There is data in the folder already. Nothing was touched."""

    status = 409


def back_up(engine: Engine, file: Path, *, history: bool = True) -> None:
    """Write all conversions, parts, photographs, meters and logs into `file`. Keys of paired devices stay out of it.

    Without `history`, each conversion goes as it is now.
    """
    copy_whole(engine, file)
    with closing(sqlite3.connect(file, isolation_level=None)) as copy:
        copy.execute("PRAGMA foreign_keys = OFF")
        copy.execute("DELETE FROM device")
        if not history:
            copy.execute("UPDATE revision SET parent = NULL")
            copy.execute("DELETE FROM revision WHERE id NOT IN (SELECT head FROM project WHERE head IS NOT NULL)")
        copy.execute("VACUUM")


def copy_of_the_day(engine: Engine, folder: Path, today: date) -> Path | None:
    """Make today's copy in `folder`/copies unless it is there, and let those beyond the newest seven go."""
    copies = folder / COPIES
    copies.mkdir(exist_ok=True, mode=0o700)
    copy = copies / f"pocket-spark-{today:%Y-%m-%d}.sqlite"
    made = not copy.exists()
    if made:
        copy_whole(engine, copy)
    for old in sorted(copies.glob("pocket-spark-*.sqlite"))[:-COPIES_KEPT]:
        old.unlink()
    return copy if made else None


def restore(file: Path, folder: Path) -> int:
    """Put a backup into a folder that holds no data; how many conversions it has. Raises BadBackup, FolderInUse.

    The file is checked before anything is touched, and is left where it is. An older one is brought up to date at the
    next start.
    """
    if (folder / FILE_NAME).exists():
        raise FolderInUse(f"{folder} holds data already: name an empty folder with --data, or move its {FILE_NAME}")
    conversions = _conversions_in(file)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    half = folder / f"{FILE_NAME}.half"
    shutil.copyfile(file, half)
    with half.open("rb+") as written:
        os.fsync(written.fileno())
    half.chmod(0o600)
    half.rename(folder / FILE_NAME)
    return conversions


def _conversions_in(file: Path) -> int:
    """Raises BadBackup."""
    try:
        # Read as it stands: nothing is written beside a file that may lie on somebody's stick.
        with closing(sqlite3.connect(f"{file.absolute().as_uri()}?mode=ro&immutable=1", uri=True)) as backup:
            (verdict,) = backup.execute("PRAGMA quick_check(1)").fetchone()
            strays = backup.execute("PRAGMA foreign_key_check").fetchall()
            (shape,) = backup.execute("SELECT version_num FROM alembic_version").fetchone()
            (conversions,) = backup.execute("SELECT count(*) FROM project WHERE head IS NOT NULL").fetchone()
    except (sqlite3.Error, TypeError, OSError):
        raise BadBackup(f"{file} is no backup of Pocket Spark, or it is damaged") from None
    if verdict != "ok" or strays or not shape:
        raise BadBackup(f"{file} is damaged: it is not put back")
    return int(conversions)
