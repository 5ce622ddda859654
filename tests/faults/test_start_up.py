"""Start-up that is cut off before any statement comes up with everything the next time; and files that cannot be used.

Reference: what SQLite promises of a transaction (atomic commit, sqlite.org/atomiccommit.html, from memory), held
against processes that end before a statement without a word.
"""

import json
import os
import shutil
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path

import pytest
from alembic import command
from killed import exit_code, in_a_process
from sqlalchemy import event
from sqlalchemy.engine import Engine

from builders import plan
from chances import in_turn
from pocketspark.store import Projects, database
from pocketspark.store.database import FILE_NAME, DamagedData, NewerData, NotWritable, UnusableData, open_database

SAMPLES = Path(__file__).parents[1] / "format1"
KILLED = 9
# Which release wrote a file, and the document format of its time.
OLDER = ("0001", "0002", "0003", "0004")


def database_of(folder, shape):
    """A file as the release of this shape left it, with two conversions in it."""
    folder.mkdir()
    file = folder / FILE_NAME
    config = database._config()
    with database._one_transaction(file) as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, shape)
    body = plan().model_dump_json() if shape == "0004" else (SAMPLES / "everything.spark.json").read_text()
    with closing(sqlite3.connect(file)) as connection:
        for number in (1, 2):
            named = {"id": number, "name": "x", "made_at": "2026-01-01 00:00:00.000000"}
            connection.execute("INSERT INTO project (id, name, made_at) VALUES (:id, :name, :made_at)", named)
            connection.execute(
                "INSERT INTO revision (id, project_id, made_at, body) VALUES (:id, :id, :made_at, :body)",
                named | {"body": json.dumps(json.loads(body))},
            )
            connection.execute("UPDATE project SET head = :id WHERE id = :id", named)
        connection.commit()


def open_until(folder, statement):
    """The exit code of an opening that ends before its so manyth statement; 0 where it has no more than that."""

    def opened(_pipe):
        count = 0

        @event.listens_for(Engine, "before_cursor_execute")
        def ends(*_):
            nonlocal count
            count += 1
            if count == statement:
                os._exit(KILLED)

        open_database(folder)

    process, reading = in_a_process(opened)
    os.close(reading)
    return exit_code(process)


@pytest.mark.parametrize("shape", in_turn([None, *OLDER], 1))
def test_a_start_that_is_cut_off_anywhere_is_made_up_for(tmp_path, shape):
    statement, code = 0, KILLED
    while code == KILLED:
        statement += 1
        folder = tmp_path / f"cut-{statement}"
        if shape:
            database_of(folder, shape)
        code = open_until(folder, statement)
        assert code in (0, KILLED)
        for _ in range(2):
            engine = open_database(folder)
            conversions = Projects(engine).shelf.lines()
            assert len(conversions) == (2 if shape else 0), (shape, statement)
            assert all(Projects(engine).get(line.id) for line in conversions)
            engine.dispose()
        copies = list(folder.glob("*.before-*.sqlite"))
        assert len(copies) == (1 if shape else 0), (shape, statement)
        for copy in copies:  # of the data as they were, never of half a migration
            with closing(sqlite3.connect(copy)) as old:
                assert old.execute("SELECT version_num FROM alembic_version").fetchone() == (shape,)
        shutil.rmtree(folder)
    print(f"{shape or 'from nothing'}: {statement - 1} statements, each a point at which the start was cut off")
    assert statement > 10


@pytest.fixture
def used(tmp_path):
    """A folder with one conversion in it, let go of in order."""
    engine = open_database(tmp_path / "data")
    Projects(engine).add(plan())
    database.close_database(engine)
    return tmp_path / "data"


def spoiled(file, place, content):
    with file.open("r+b") as opened:
        opened.seek(place)
        opened.write(content)


def test_a_damaged_file_is_named_and_left_as_it_is(used):
    file = used / FILE_NAME
    for place, content in ((0, b"not a database at all"), (4096, b"\xff" * 4096)):
        shutil.copy(file, used / "kept")
        spoiled(file, place, content)
        before = file.read_bytes()
        with pytest.raises(DamagedData, match="restore FILE"):
            open_database(used)
        assert file.read_bytes() == before
        shutil.copy(used / "kept", file)


@pytest.mark.parametrize("how", ["no bytes", "no tables"])
def test_an_emptied_file_is_not_taken_for_a_fresh_start(used, how):
    file = used / FILE_NAME
    file.unlink()
    file.touch()
    if how == "no tables":
        with closing(sqlite3.connect(file)) as connection:
            connection.execute("PRAGMA journal_mode = WAL")
            connection.execute("VACUUM")
    with pytest.raises(DamagedData, match="emptied it"):
        open_database(used)


def test_a_file_that_is_gone_while_its_copies_are_there_is_asked_about(used):
    (used / "copies").mkdir()
    shutil.move(used / FILE_NAME, used / "copies" / "pocket-spark-2026-11-26.sqlite")
    with pytest.raises(DamagedData, match=r"restore .*2026-11-26"):
        open_database(used)


def test_data_of_a_newer_release_is_left_alone(used):
    with closing(sqlite3.connect(used / FILE_NAME)) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
        connection.commit()
    with pytest.raises(NewerData, match="newer Pocket Spark"):
        open_database(used)


def test_a_full_disk_at_the_first_start_is_named_and_the_next_start_is_whole(tmp_path, monkeypatch):
    create = database.create_engine

    def small(*args, **more):
        engine = create(*args, **more)
        event.listen(engine, "connect", lambda connection, _: connection.execute("PRAGMA max_page_count = 6"))
        return engine

    monkeypatch.setattr(database, "create_engine", small)
    with pytest.raises(NotWritable, match="no room left on the disk"):
        open_database(tmp_path / "data")
    monkeypatch.undo()
    assert Projects(open_database(tmp_path / "data")).shelf.lines() == []


def test_a_folder_that_cannot_be_made_is_named(tmp_path):
    (tmp_path / "a-file").touch()
    with pytest.raises(UnusableData, match="a-file"):
        open_database(tmp_path / "a-file" / "data")


def test_a_file_that_may_not_be_written_to_is_named(used, monkeypatch):
    monkeypatch.setattr(database.os, "access", lambda *_: False)  # whoever runs the tests may be allowed everything
    with pytest.raises(NotWritable, match="may not be written to"):
        open_database(used)


def test_a_file_that_another_process_takes_along_meanwhile_is_no_fault(used, monkeypatch):
    """The shared memory of the database goes with the last process that has it open, between the look and the touch."""
    glob = Path.glob

    def with_one_that_goes(folder, pattern):
        return [*glob(folder, pattern), folder / f"{pattern.rstrip('*')}-shm-of-another"]

    monkeypatch.setattr(Path, "glob", with_one_that_goes)
    open_database(used).dispose()


def test_folder_and_files_are_the_owners_alone(used):
    engine = open_database(used)
    Projects(engine).add(plan())
    assert used.stat().st_mode & 0o077 == 0
    assert all(file.stat().st_mode & 0o077 == 0 for file in used.glob(f"{FILE_NAME}*"))


def test_where_the_search_can_be_kept_nowhere_it_runs_all_the_same():
    """As in a read-only checkout of somebody without a home: none of numba's places to keep it is there."""
    code = """
import numba.core.caching as caching
caching.CacheImpl._locator_classes = []
from pocketspark.core.fit.kernel import _compiled_and_kept
assert _compiled_and_kept(lambda number: number + 1)(2) == 3
"""
    environment = {"PYTHONPATH": str(Path(__file__).parents[2] / "src"), "PATH": os.environ["PATH"]}
    subprocess.run([sys.executable, "-c", code], env=environment, check=True)
