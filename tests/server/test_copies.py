"""Copies that are made by themselves: by number and not by the clock, read back, elsewhere too, and none half made."""

import os
import shutil
import sqlite3
import subprocess
import sys

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.store import Projects, whole_copy
from pocketspark.store.backup import restore
from pocketspark.store.copies import AGAIN_AFTER_S, EVERY, NEWEST_KEPT, OLDER_KEPT, Copies, copies_in
from pocketspark.store.database import close_database, open_database
from pocketspark.store.whole_copy import BadBackup


@pytest.fixture
def data(tmp_path):
    engine = open_database(tmp_path / "data")
    yield tmp_path / "data", engine, Projects(engine)
    close_database(engine)


def test_as_many_as_are_kept_and_each_can_be_put_back(data, tmp_path):
    folder, engine, projects = data
    copies = Copies(engine, folder)
    for _ in range(60):
        projects.add(plan())
        assert copies.make()
    numbers = [copy.number for copy in copies.all()]
    # Worked by hand: the newest six, and every sixth before them, four times.
    assert numbers == [60, 59, 58, 57, 56, 55, 54, 48, 42, 36]
    assert len(numbers) == NEWEST_KEPT + OLDER_KEPT
    assert all(number % EVERY == 0 for number in numbers[NEWEST_KEPT:])
    assert restore(copies.all()[-1].file, tmp_path / "elsewhere") == 36


def test_none_is_made_where_nothing_has_changed(data):
    folder, engine, projects = data
    projects.add(plan())
    copies = Copies(engine, folder)
    first = copies.make()
    assert first is not None
    assert copies.make() is None
    assert [copy.file for copy in copies.all()] == [first]


def test_several_a_day_while_something_changes(data):
    folder, engine, projects = data
    moment = 0.0
    copies = Copies(engine, folder, monotonic=lambda: moment)
    assert copies.make_if_due()
    projects.add(plan())
    assert copies.make_if_due() is None
    moment += AGAIN_AFTER_S
    assert copies.make_if_due()


@pytest.mark.parametrize("years", [-30, 30])
def test_a_wrong_clock_deletes_nothing(data, years):
    """Dates of the files are where a clock shows; and copies by the day, which an earlier release made."""
    folder, engine, projects = data
    copies = Copies(engine, folder)
    (folder / "copies").mkdir()
    shutil.copy(folder / "pocket-spark.sqlite", folder / "copies" / "pocket-spark-2026-11-29.sqlite")
    for number in range(1, NEWEST_KEPT + 1):
        projects.add(plan())
        made = copies.make()
        os.utime(made, (made.stat().st_mtime + years * 3e7, made.stat().st_mtime + years * 3e7))
        assert [copy.number for copy in copies.all()] == [*range(number, 0, -1), 0]


def test_a_copy_that_cannot_be_read_back_gets_no_name(data, monkeypatch):
    folder, engine, _ = data
    copies = Copies(engine, folder)
    copies.make()
    before = {file: file.read_bytes() for file in (folder / "copies").iterdir()}
    monkeypatch.setattr(whole_copy, "_sync", lambda _: None)
    real = whole_copy.conversions_in

    def on_a_bad_disk(file):
        content = bytearray(file.read_bytes())
        content[4096:8192] = b"\xff" * 4096
        file.write_bytes(content)
        return real(file)

    monkeypatch.setattr(whole_copy, "conversions_in", on_a_bad_disk)
    with pytest.raises(BadBackup):
        copies.make()
    assert {file: file.read_bytes() for file in (folder / "copies").iterdir()} == before


def test_each_goes_into_a_second_folder_too_and_one_that_is_away_is_told(data, tmp_path):
    folder, engine, projects = data
    stick = tmp_path / "stick"
    copies = Copies(engine, folder, stick)
    assert copies.make()
    assert "cannot be found" in copies.problem
    stick.mkdir()
    assert (copies.make(), copies.problem) == (None, "")  # nothing is new, but the stick is
    projects.add(plan())
    copies.make()
    assert [copy.number for copy in copies_in(stick)] == [1, 2]
    assert restore(copies_in(stick)[-1].file, tmp_path / "elsewhere") == 1
    # A stick that holds copies of other data loses none of them.
    other = open_database(tmp_path / "other")
    Copies(other, tmp_path / "other", stick).make()
    close_database(other)
    assert [copy.number for copy in copies_in(stick)] == [1, 2, 3]


def test_what_a_killed_backup_left_goes_at_the_next_start(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path / "data"))) as client:
        client.get("/api/projects")
    ended = subprocess.Popen([sys.executable, "-c", ""])
    ended.wait()
    left = [tmp_path / "data" / f"backup-{ended.pid}-abc", tmp_path / "data" / "copies" / "pocket-spark-000009.half"]
    going_on = tmp_path / "data" / f"backup-{os.getpid()}-abc"
    for folder in (left[0], going_on):
        folder.mkdir()
        (folder / "pocket-spark.half").write_bytes(b"half")
    left[1].parent.mkdir(exist_ok=True)  # the first copy may not be made yet
    left[1].write_bytes(b"half")
    with TestClient(create_app(Settings(data=tmp_path / "data"))):
        assert not any(path.exists() for path in left)
        assert going_on.exists()


def test_the_page_is_told_what_is_there(tmp_path):
    (tmp_path / "stick").mkdir()
    with TestClient(create_app(Settings(data=tmp_path / "data", copies=tmp_path / "stick"))) as client:
        client.app.state.housekeeping.stop()
        client.app.state.copies.make()
        told = client.get("/api/copies").json()
    assert (told["folder"], told["second"]) == (str(tmp_path / "data" / "copies"), str(tmp_path / "stick"))
    assert [copy["name"] for copy in told["copies"]] == [copy.file.name for copy in copies_in(tmp_path / "stick")][::-1]


def test_a_document_that_the_disk_has_changed_is_told_and_has_its_last_sound_state_at_hand(tmp_path):
    data = tmp_path / "data"
    with TestClient(create_app(Settings(data=data))) as client:
        kept = client.post("/api/projects", json=plan().model_dump(mode="json") | {"notes": "first"}).json()
        at = f"/api/projects/{kept['id']}"
        document = kept["project"] | {"notes": "keeps still"}
        client.put(at, json={"revision": kept["revision"], "document": document})
        other = client.post("/api/projects", json=plan().model_dump(mode="json")).json()["id"]
    # One letter, as a failing disk flips it: the text is a sound document still.
    with sqlite3.connect(data / "pocket-spark.sqlite") as connection:
        connection.execute("UPDATE revision SET body = replace(body, 'keeps still', 'keeps stilt')")
    connection.close()
    with TestClient(create_app(Settings(data=data))) as client:
        client.app.state.housekeeping.stop()
        client.app.state.housekeeping._stop.clear()
        client.app.state.housekeeping.run_once()
        lines = {line["id"]: line for line in client.get("/api/projects").json()}
        assert [lines[at]["damaged"] for at in (kept["id"], other)] == [True, False]
        assert "the disk has changed it" in lines[kept["id"]]["unreadable"]
        assert "keeps stilt" in client.get(f"{at}/raw").text
        assert client.get(at).status_code == 422
        back = client.post(f"{at}/repair").json()
        assert back["project"]["notes"] == "first"
        assert client.get(at).json()["project"]["notes"] == "first"
