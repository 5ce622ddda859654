"""The power goes at any moment: what was answered as saved is there, and the file is sound.

Reference: what SQLite promises of a commit in WAL with synchronous = FULL (sqlite.org/pragma.html, from memory), held
against a disk that loses whatever was not synced. With `synchronous = OFF` the same test loses saves.
"""

import shutil
import sqlite3
from contextlib import closing

import pytest
from power_cut import Disk
from sqlalchemy import event

from builders import plan
from chances import FULL, dice
from pocketspark.store import Projects
from pocketspark.store.database import FILE_NAME, close_database, open_database

CUTS = 400 if FULL else 60
SAVES = 12


def recorded(folder, pragma=None):
    """So many saves on a disk that is watched; the disk, and after how many of its events each was answered."""
    engine = open_database(folder)
    stored = Projects(engine).add(plan())
    close_database(engine)
    for leftover in folder.glob(f"{FILE_NAME}-*"):
        leftover.unlink()
    disk = Disk(folder)
    disk.record()
    try:
        engine = open_database(folder)
        if pragma:
            event.listen(engine, "connect", lambda connection, _: connection.execute(pragma))
            engine.dispose()
        projects, answered = Projects(engine), []
        for number in range(SAVES):
            changed = stored.project.model_copy(update={"notes": f"{number} " + "n" * 2000})
            stored = projects.save(stored.id, changed, based_on=stored.revision)
            answered.append(len(disk.events))
            if number == SAVES // 2:  # as a checkpoint comes by itself now and then: the file itself is written
                with engine.connect() as connection:
                    connection.exec_driver_sql("PRAGMA wal_checkpoint(FULL)")
        engine.dispose()
    finally:
        disk.stop()
    return disk, answered


def what_is_left(disk, moment, chance, folder):
    """The number of the newest save that is there after a cut, -1 for none, None for a file that is broken."""
    disk.after_a_cut(moment, chance, folder)
    try:
        engine = open_database(folder)
        project = Projects(engine).get(1).project
        engine.dispose()
        with closing(sqlite3.connect(folder / FILE_NAME)) as connection:
            assert connection.execute("PRAGMA integrity_check").fetchone() == ("ok",)
    except Exception:
        return None
    finally:
        shutil.rmtree(folder)
    return int(project.notes.split()[0]) if project.notes else -1


def test_what_was_answered_is_there_after_the_power_went(tmp_path):
    (tmp_path / "data").mkdir()
    disk, answered = recorded(tmp_path / "data")
    assert {one.what for one in disk.events} >= {"write", "sync"}
    assert {one.file for one in disk.events} >= {FILE_NAME, f"{FILE_NAME}-wal"}
    chance = dice("power")
    for number in range(CUTS):
        moment = chance.randrange(len(disk.events) + 1)
        left = what_is_left(disk, moment, chance, tmp_path / f"after {number}")
        acknowledged = sum(moment >= mark for mark in answered) - 1
        assert left is not None, moment
        assert acknowledged <= left <= acknowledged + 1, moment


def test_a_database_that_does_not_wait_for_the_disk_would_be_found(tmp_path):
    (tmp_path / "data").mkdir()
    disk, answered = recorded(tmp_path / "data", "PRAGMA synchronous = OFF")
    chance, lost = dice("no power"), 0
    for number in range(30):
        moment = chance.randrange(answered[0], len(disk.events) + 1)
        left = what_is_left(disk, moment, chance, tmp_path / f"after {number}")
        lost += left is None or left < sum(moment >= mark for mark in answered) - 1
    assert lost > 10


@pytest.mark.parametrize("moment", [0, 1])
def test_before_anything_was_written_it_is_as_it_was(tmp_path, moment):
    (tmp_path / "data").mkdir()
    disk, _ = recorded(tmp_path / "data")
    assert what_is_left(disk, moment, dice(moment), tmp_path / "after") == -1
