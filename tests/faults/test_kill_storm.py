"""Processes killed while they write, sixty or in a full run two hundred: what was acknowledged is there, what was not
is whole or absent.

Reference: durability as SQLite states it for WAL with synchronous = FULL (from memory); the ledger of what was
acknowledged is kept by the parent process, outside the database.
"""

import os
import sqlite3
import time
from contextlib import closing
from datetime import UTC, datetime
from itertools import count

from killed import heard_so_far, in_a_process, kill, said

from builders import CELL, plan
from chances import FULL, dice
from pocketspark.core.models import Cell
from pocketspark.core.photographs.marks import PhotoMarks, Picture
from pocketspark.server.backups import clear_left_overs
from pocketspark.store import Arrivals, EarlierState, Inventory, LiveLogs, NewPhoto, Photos, Projects, Sieve
from pocketspark.store.copies import Copies, copies_in
from pocketspark.store.database import FILE_NAME, open_database
from pocketspark.store.whole_copy import conversions_in

KILLS = 200 if FULL else 60
# What an import brings beside the document.
COMES_ALONG = Arrivals(
    photos=[NewPhoto(number, Picture(2, 2, b"jpeg", b"small"), f"photo {number}", PhotoMarks()) for number in (1, 2)],
    history=[EarlierState(datetime(2026, 1, day, tzinfo=UTC), plan()) for day in range(1, 8)],
)


def writing(folder, mark):
    """Every kind of write in turn, each acknowledged on the pipe once it has returned."""

    def work(pipe):
        engine = open_database(folder)
        projects, inventory, photos, logs = Projects(engine), Inventory(engine), Photos(engine), LiveLogs(engine)
        copies = Copies(engine, folder)
        stored = projects.get(1)
        part = inventory.parts()[0]
        run = logs.begin(f"run {mark}", None)
        for number in count():
            told = f"{mark}-{number}"
            stored = projects.save(1, stored.project.model_copy(update={"notes": told}), based_on=stored.revision)
            os.write(pipe, f"note={told} ".encode())
            part = inventory.change(part.id, part.body.model_copy(update={"name": told}), 1, based_on=part.revision)
            os.write(pipe, f"part={told} ".encode())
            logs.append(run, [(float(number), 3.7, 0.4, None)])
            os.write(pipe, f"rows={run}:{number + 1} ".encode())
            photo = photos.of(1)[0]
            photos.mark(1, photo.id, PhotoMarks(), told, based_on=photo.revision)
            os.write(pipe, f"caption={told} ".encode())
            if copies.make():
                os.write(pipe, f"copy={copies.all()[0].number} ".encode())
            new = projects.add(stored.project, COMES_ALONG)
            projects.archive(new.id)
            projects.erase(new.id)
            os.write(pipe, f"erased={new.id} ".encode())

    return work


def order(text):
    mark, number = text.split("-")
    return int(mark), int(number)


def test_nothing_that_was_acknowledged_is_lost(tmp_path):
    engine = open_database(tmp_path)
    Projects(engine).add(plan())
    Inventory(engine).add("cell", Cell.model_validate(CELL | {"name": "0-0"}), 1)
    Photos(engine).add(1, Picture(2, 2, b"jpeg", b"small"), "0-0")
    engine.dispose()
    chance = dice("kills")
    acknowledged = 0
    for mark in range(1, KILLS + 1):
        process, reading = in_a_process(writing(tmp_path, mark))
        # After so many writes, however slow the machine is; and then anywhere in the next one.
        heard = heard_so_far(reading, chance.randrange(8))
        time.sleep(chance.uniform(0, 0.02))
        kill(process)
        lines = [line.split("=") for line in (heard + said(reading)).split()]
        acknowledged += len(lines)
        last = dict(lines)
        engine = open_database(tmp_path)
        stored = Projects(engine).get(1)
        if "note" in last:
            assert order(stored.project.notes) >= order(last["note"])
        if "part" in last:
            assert order(Inventory(engine).parts()[0].body.name) >= order(last["part"])
        if "caption" in last:
            assert order(Photos(engine).of(1)[0].caption) >= order(last["caption"])
        if "rows" in last:
            run, rows = map(int, last["rows"].split(":"))
            assert len(LiveLogs(engine).get(run).rows) >= rows
        # What was under way is there as a whole or not at all.
        there = [line.id for away in (False, True) for line in Projects(engine).shelf.lines(Sieve(archived=away))]
        assert set(there) <= {1, int(last.get("erased", 1)) + 1, 2}
        for imported in set(there) - {1}:
            assert len(Photos(engine).of(imported)) == len(COMES_ALONG.photos)
            assert len(list(Projects(engine).history(imported))) == len(COMES_ALONG.history)
        made = copies_in(tmp_path / "copies")
        assert all(conversions_in(copy.file) for copy in made)
        if "copy" in last:
            assert made[-1].number >= int(last["copy"])
        clear_left_overs(tmp_path)
        engine.dispose()
        with closing(sqlite3.connect(tmp_path / FILE_NAME)) as connection:
            assert connection.execute("PRAGMA integrity_check").fetchone() == ("ok",)
            assert connection.execute("PRAGMA foreign_key_check").fetchall() == []
            connection.execute("DELETE FROM part_use WHERE project_id > 1")
            connection.execute("DELETE FROM photo WHERE project_id > 1")
            connection.execute("UPDATE project SET head = NULL WHERE id > 1")
            connection.execute("DELETE FROM revision WHERE project_id > 1")
            connection.execute("DELETE FROM project WHERE id > 1")
            connection.commit()
    print(f"{KILLS} kills, {acknowledged} acknowledged writes, none lost")
    assert acknowledged > KILLS
