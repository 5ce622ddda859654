"""One file with everything: made from a running database, and put back into an empty folder once it is known sound."""

import shutil
import sqlite3
from contextlib import closing
from pathlib import Path

from sqlalchemy import Engine

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.store.database import FILE_NAME
from pocketspark.store.whole_copy import conversions_in, copy_whole, give_its_name


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


def restore(file: Path, folder: Path) -> int:
    """Put a backup into a folder that holds no data; how many conversions it has. Raises BadBackup, FolderInUse.

    The file is checked before anything is touched, and is left where it is. An older one is brought up to date at the
    next start.
    """
    if (folder / FILE_NAME).exists():
        raise FolderInUse(
            say(
                "{folder} holds data already: name an empty folder with --data, or move its {file_name}",
                folder=str(folder),
                file_name=FILE_NAME,
            )
        )
    conversions = conversions_in(file)
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    half = folder / f"{FILE_NAME}.half"
    shutil.copyfile(file, half)
    half.chmod(0o600)
    give_its_name(half, folder / FILE_NAME)
    return conversions
