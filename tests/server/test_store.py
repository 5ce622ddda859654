"""The database file: made from nothing, brought up to date with a copy kept, safe with two savers."""

import sqlite3
from concurrent.futures import ThreadPoolExecutor
from importlib import resources

import pytest
from alembic.autogenerate import compare_metadata
from alembic.migration import MigrationContext
from alembic.script import ScriptDirectory

from builders import plan
from pocketspark.store import Conflict, NothingThere, Projects, database
from pocketspark.store.database import FILE_NAME, NewerData, open_database
from pocketspark.store.tables import Table

MIGRATIONS = resources.files("pocketspark.store") / "migrations"


def type_differs(_context, _inspected, column, _inspected_type, _type):
    """A document is JSON in the file, and text to us: it may be damaged. None: as it is judged usually."""
    return False if str(column) == "revision.body" else None


def test_an_empty_folder_becomes_a_database_of_the_newest_shape(tmp_path):
    engine = open_database(tmp_path / "new")
    with engine.connect() as connection:
        context = MigrationContext.configure(connection, opts={"compare_type": type_differs})
        assert compare_metadata(context, Table.metadata) == []
        assert connection.exec_driver_sql("PRAGMA journal_mode").scalar() == "wal"
        assert connection.exec_driver_sql("PRAGMA foreign_keys").scalar() == 1


def test_what_was_kept_is_there_after_a_restart(tmp_path):
    kept = Projects(open_database(tmp_path)).add(plan())
    assert Projects(open_database(tmp_path)).get(kept.id) == kept


def test_data_of_a_newer_release_is_refused_and_left_alone(tmp_path):
    Projects(open_database(tmp_path)).add(plan())
    with sqlite3.connect(tmp_path / FILE_NAME) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '9999'")
    with pytest.raises(NewerData, match="newer Pocket Spark"):
        open_database(tmp_path)
    assert not list(tmp_path.glob("*.before-*"))


def test_data_of_an_older_release_is_copied_before_it_is_migrated(tmp_path, monkeypatch):
    Projects(open_database(tmp_path)).add(plan())
    # A next release, seen from this one: its head is a shape that this file has not got yet.
    known = list(ScriptDirectory.walk_revisions(ScriptDirectory(str(MIGRATIONS))))
    monkeypatch.setattr(ScriptDirectory, "get_current_head", lambda _: "9999")
    monkeypatch.setattr(ScriptDirectory, "walk_revisions", lambda _: known)
    monkeypatch.setattr(database.command, "upgrade", lambda *_: None)
    open_database(tmp_path)
    (copy,) = tmp_path.glob("*.before-9999.sqlite")
    with sqlite3.connect(copy) as connection:
        assert connection.execute("SELECT count(*) FROM project").fetchone() == (1,)


def test_of_two_savers_at_once_one_wins_and_the_other_is_told(tmp_path):
    shelf = Projects(open_database(tmp_path))
    kept = shelf.add(plan())

    def save(note):
        try:
            return shelf.save(kept.id, plan().model_copy(update={"notes": note}), based_on=kept.revision)
        except Conflict as conflict:
            return conflict

    with ThreadPoolExecutor(4) as pool:
        outcomes = list(pool.map(save, "abcd"))
    assert sum(isinstance(outcome, Conflict) for outcome in outcomes) == 3
    (winner,) = [outcome for outcome in outcomes if not isinstance(outcome, Conflict)]
    assert shelf.get(kept.id) == winner


def test_there_is_nothing_under_an_unknown_number(tmp_path):
    shelf = Projects(open_database(tmp_path))
    with pytest.raises(NothingThere, match="no project 5"):
        shelf.get(5)
