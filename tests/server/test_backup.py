"""A backup holds everything and is put back whole; what a normal stop leaves is one file; old states are thinned."""

import shutil
import sqlite3
import threading
import time
from contextlib import closing
from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from fastapi.testclient import TestClient
from hypothesis import given
from hypothesis import strategies as st
from test_zip_files import jpeg

from backup_of import backup_of
from builders import CELL, plan
from pocketspark.server.app import create_app
from pocketspark.server.housekeeping import Housekeeping
from pocketspark.server.settings import Settings
from pocketspark.store import JudgedLine, Projects
from pocketspark.store.backup import FolderInUse, back_up, restore
from pocketspark.store.copies import Copies
from pocketspark.store.database import FILE_NAME, open_database
from pocketspark.store.devices import Devices
from pocketspark.store.thinning import NEWEST_KEPT, RevisionMark, superfluous
from pocketspark.store.whole_copy import BadBackup


def filled(client):
    """A conversion with a history, a photograph and an own part; another one archived."""
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    at = f"/api/projects/{kept['id']}"
    client.put(at, json={"revision": kept["revision"], "document": kept["project"] | {"notes": "second"}})
    client.post(f"{at}/photos?caption=as+found", content=jpeg("red"))
    client.post("/api/inventory", json={"kind": "cell", "body": CELL})
    other = client.post("/api/projects", json=plan().model_dump(mode="json")).json()["id"]
    client.delete(f"/api/projects/{other}")
    client.get("/api/projects")  # by then their lines are made
    return at


def told(client):
    """Everything that can be asked of what is stored."""
    lines = client.get("/api/projects").json() + client.get("/api/projects?archived=true").json()
    photos = [
        (photo, client.get(f"/api/projects/{line['id']}/photos/{photo['id']}/picture").content)
        for line in lines
        for photo in client.get(f"/api/projects/{line['id']}/photos").json()
    ]
    return (
        lines,
        photos,
        client.get("/api/inventory").json(),
        [client.get(f"/api/projects/{n['id']}").json() for n in lines],
    )


def test_a_backup_from_the_running_server_is_put_back_into_another_folder(client, tmp_path):
    at = filled(client)
    file = tmp_path / "all.sqlite"
    answer = backup_of(client)
    assert "pocket-spark-" in answer.headers["content-disposition"]
    file.write_bytes(answer.content)
    assert restore(file, tmp_path / "elsewhere") == 2
    with TestClient(create_app(Settings(data=tmp_path / "elsewhere"))) as other:
        assert told(other) == told(client)
        stored = other.get(at).json()
        undone = other.post(f"{at}/undo", json={"revision": stored["revision"]}).json()
        assert (stored["project"]["notes"], undone["project"]["notes"]) == ("second", "")


def test_without_history_each_conversion_goes_as_it_is(client, tmp_path):
    at = filled(client)
    (tmp_path / "all.sqlite").write_bytes(backup_of(client, history=False).content)
    restore(tmp_path / "all.sqlite", tmp_path / "elsewhere")
    with TestClient(create_app(Settings(data=tmp_path / "elsewhere"))) as other:
        stored = other.get(at).json()
        assert (stored["project"]["notes"], stored["can_undo"]) == ("second", False)


def test_keys_of_devices_stay_out_of_a_backup(client, tmp_path):
    client.app.state.devices.pair("bench phone")
    back_up(client.app.state.engine, tmp_path / "all.sqlite")
    with closing(sqlite3.connect(tmp_path / "all.sqlite")) as backup:
        assert backup.execute("SELECT count(*) FROM device").fetchone() == (0,)
    assert len(client.app.state.devices.all()) == 1


def test_nothing_is_left_behind_by_a_backup(client):
    before = set(client.app.state.data.iterdir())
    backup_of(client)
    assert set(client.app.state.data.iterdir()) <= before | {client.app.state.data / "copies"}


def test_a_backup_is_fetched_once_and_one_that_nobody_fetched_makes_room(client):
    job = client.post("/api/backup").json()["id"]
    assert client.get("/api/backup/99/file").status_code == 404
    while client.get(f"/api/backup/{job}").json()["state"] == "running":
        time.sleep(0.02)
    other = backup_of(client)
    assert other.status_code == 200
    assert client.get(f"/api/backup/{job}/file").status_code == 404
    assert client.delete(f"/api/backup/{job}").status_code == 204


def test_a_backup_that_fails_says_so_and_leaves_nothing(client, monkeypatch):
    monkeypatch.setattr("pocketspark.server.backups.back_up", lambda *_, **__: 1 / 0)
    monkeypatch.setattr(threading, "excepthook", lambda _: None)
    job = client.post("/api/backup").json()["id"]
    while (seen := client.get(f"/api/backup/{job}").json())["state"] == "running":
        time.sleep(0.02)
    assert (seen["state"], "the log" in seen["failure"]) == ("failed", True)
    assert not list(client.app.state.data.glob("backup-*"))


def test_a_restore_is_refused_before_anything_is_touched(client, tmp_path):
    filled(client)
    good = tmp_path / "good.sqlite"
    back_up(client.app.state.engine, good)
    for name, content in (("no database", b"x" * 9000), ("half", good.read_bytes()[:20_000]), ("empty", b"")):
        bad = tmp_path / name
        bad.write_bytes(content)
        with pytest.raises(BadBackup, match="damaged"):
            restore(bad, tmp_path / "elsewhere")
    with pytest.raises(BadBackup):
        restore(tmp_path / "not there", tmp_path / "elsewhere")
    assert not (tmp_path / "elsewhere").exists()
    with pytest.raises(FolderInUse, match="holds data already"):
        restore(good, client.app.state.data)


def test_a_plain_copy_of_the_file_after_a_stop_holds_everything(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path / "data"))) as client:
        filled(client)
        before = told(client)
    (tmp_path / "copy").mkdir()
    shutil.copy(tmp_path / "data" / FILE_NAME, tmp_path / "copy" / FILE_NAME)
    with TestClient(create_app(Settings(data=tmp_path / "copy"))) as client:
        assert told(client) == before


def housekeeping(folder, projects, engine):
    return Housekeeping(Copies(engine, folder), projects, Devices(engine))


def test_housekeeping_goes_on_after_one_failure(tmp_path, monkeypatch):
    engine = open_database(tmp_path)
    projects = Projects(engine)
    monkeypatch.setattr(projects.shelf, "outdated", lambda: 1 / 0)
    housekeeping(tmp_path, projects, engine).run_once()
    assert len(list((tmp_path / "copies").iterdir())) == 1


def test_lines_judged_by_other_rules_are_judged_anew(tmp_path):
    engine = open_database(tmp_path)
    Projects(engine, lambda _: JudgedLine({"worst": "note"}), "old rules").add(plan())
    projects = Projects(engine, lambda _: JudgedLine({"worst": "stop"}), "new rules")
    assert [(line.summary, line.outdated) for line in projects.shelf.lines()] == [({"worst": "note"}, True)]
    housekeeping(tmp_path, projects, engine).run_once()
    assert [(line.summary, line.outdated) for line in projects.shelf.lines()] == [({"worst": "stop"}, False)]


# Thinning --------------------------------------------------------------------------------------------------------

TODAY = datetime(2026, 11, 26, 12)


def chain_of(ages_h):
    """States in a row, each so many hours old, oldest first."""
    ages = sorted(ages_h, reverse=True)
    return [RevisionMark(n + 1, n or None, TODAY - timedelta(hours=age)) for n, age in enumerate(ages)]


def test_every_state_of_today_then_one_an_hour_then_one_a_day():
    # A state every ten minutes for twelve days; the newest three hundred are those of the last fifty hours.
    revisions = chain_of([minutes / 60 for minutes in range(5, 12 * 24 * 60, 10)])
    gone = superfluous(revisions, revisions[-1].id, TODAY)
    left = [one for one in revisions if one.id not in gone]
    ages = [(TODAY - one.made_at) / timedelta(hours=1) for one in left]
    assert sum(age <= 50 for age in ages) == 300
    assert sum(50 < age <= 8 * 24 for age in ages) == pytest.approx(8 * 24 - 50, abs=1)
    assert 4 <= sum(age > 8 * 24 for age in ages) <= 6


@pytest.mark.parametrize("clock", [timedelta(days=400), timedelta(days=-400), timedelta(0)])
def test_a_wrong_clock_takes_nothing_of_a_mornings_work(clock):
    revisions = chain_of([minutes / 60 for minutes in range(1, 251)])
    assert superfluous(revisions, revisions[-1].id, TODAY + clock) == set()


@given(ages=st.lists(st.floats(0, 2000), min_size=1, max_size=60), data=st.data())
def test_first_present_and_redo_stay_whatever_goes(ages, data):
    older = chain_of([age + 2100 for age in ages])
    newest = chain_of([n / 10 for n in range(NEWEST_KEPT)])
    revisions = [*older, *(replace(one, id=one.id + len(older), parent=one.id + len(older) - 1) for one in newest)]
    head = data.draw(st.sampled_from(revisions))
    gone = superfluous(revisions, head.id, TODAY)
    assert not gone & {revisions[0].id, head.id}
    kept_days = {f"{one.made_at:%Y-%m-%d}" for one in revisions if one.id not in gone}
    assert kept_days == {f"{one.made_at:%Y-%m-%d}" for one in revisions}  # no day is lost


def test_undo_walks_over_what_is_left(tmp_path):
    engine = open_database(tmp_path)
    projects = Projects(engine)
    stored = projects.add(plan())
    for number in range(NEWEST_KEPT + 30):
        project = stored.project.model_copy(update={"notes": str(number)})
        stored = projects.save(stored.id, project, based_on=stored.revision)
    side = projects.undo(stored.id, based_on=stored.revision)
    assert projects.thin(datetime.now(UTC).replace(tzinfo=None)) == 0
    later = datetime.now(UTC).replace(tzinfo=None) + timedelta(days=30)
    assert projects.thin(later) >= 25
    stored = projects.get(stored.id)
    assert (stored.project, stored.can_redo) == (side.project, True)
    for _ in range(NEWEST_KEPT + 5):
        stored = projects.undo(stored.id, based_on=stored.revision)
    assert stored.project.notes == ""


def test_what_is_erased_is_gone_and_only_from_the_archive(client, tmp_path):
    at = filled(client)
    refused = client.delete(f"{at}?for_good=true")
    assert (refused.status_code, "archive it first" in refused.json()["detail"]) == (409, True)
    client.delete(at)
    assert client.delete(f"{at}?for_good=true").status_code == 204
    assert client.get(at).status_code == 404
    assert [line["name"] for line in client.get("/api/projects?archived=true").json()] == ["Moth-trap lamp"]
    back_up(client.app.state.engine, tmp_path / "all.sqlite")
    assert b"as found" not in (tmp_path / "all.sqlite").read_bytes()
