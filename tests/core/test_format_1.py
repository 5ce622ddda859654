"""All that format 1 could hold is still read: files, own parts and a database as the first release wrote them."""

import json
import sqlite3
from pathlib import Path

import pytest

from pocketspark.core.models.upgrade import upgraded, upgraded_part
from pocketspark.formats import project_json
from pocketspark.store import Inventory, Projects
from pocketspark.store.database import FILE_NAME, UnusableData, open_database

SAMPLES = Path(__file__).parents[1] / "format1"
FILES = sorted(file for file in SAMPLES.glob("*.json") if str(file.name) != "drawer.json")
# What format 1 said, and where format 2 says it: by hand, from docs/formats.md of either.
PLACES = {
    "builds.0.cell.own_guard.cut_v": "builds.0.cell.own_protection.cut_v",
    "builds.0.cell.third_wire": "builds.0.cell.thermistor_lead",
    "builds.0.cell.drawer_id": "builds.0.cell.inventory_id",
    "builds.0.boards.0.guard.v_trip": "builds.0.boards.0.protection.v_trip",
    "builds.0.boards.0.charger.end_share": "builds.0.boards.0.charger.termination_share",
    "builds.0.boards.0.charger.trickle_v": "builds.0.boards.0.charger.precharge_v",
    "builds.0.boards.0.charger.trickle_share": "builds.0.boards.0.charger.precharge_share",
    "builds.0.boards.0.charger.theta_c_per_w": "builds.0.boards.0.charger.theta_ja_c_per_w",
    "builds.0.boards.0.charger.r_program_ohm": "builds.0.boards.0.charger.r_prog_ohm",
    "builds.0.shaper.v_set": "builds.0.regulator.v_set",
    "builds.0.shaper.cut_out_a": "builds.0.regulator.auto_off_a",
    "builds.0.r_program_ohm": "builds.0.r_prog_ohm",
    "builds.0.r_measured_ohm": "builds.0.record.r_measured_ohm",
    "builds.0.first_charge.full_v": "builds.0.record.first_charge.full_v",
    "builds.0.steps.0.value": "builds.0.record.steps.0.value",
    "builds.0.forecasts.0.before.run_hours": "builds.0.record.predictions.0.before.run_hours",
    "builds.0.attempts.0.off_mm": "builds.0.record.attempts.0.off_mm",
    "builds.0.wiring.third_wire": "builds.0.wiring.thermistor_lead",
    "gadget.inlet.fate": "gadget.existing_charging.treatment",
    "gadget.bay.obstacles.0.state": "gadget.bay.obstacles.0.state",
    "logbook.0.photo_id": "logbook.0.photo_id",
    "notes": "notes",
}
VALUES = {
    "builds.0.switch_place": "before_regulator",
    "gadget.off_path": "before_regulator",
    "gadget.existing_charging.kind": "jack",
    "builds.0.record.steps.0.step": "regulator",
    "builds.0.record.steps.1.step": "discharge",
    "builds.0.wiring.wires.1.start": "regulator.OUT+",
    "builds.0.wiring.wires.2.start": "protection2.P-",
}


def place(document, path):
    for step in path.split("."):
        document = document[int(step) if step.isdigit() else step]
    return document


@pytest.mark.parametrize("file", FILES, ids=lambda file: file.name)
def test_a_file_of_format_1_is_read_and_nothing_in_it_is_lost(file):
    old = json.loads(file.read_text())
    project = project_json.loads(file.read_bytes())
    assert project.format == "pocket-spark/2"
    assert len(project.basis) == len(old.get("basis", {}))
    assert project.gadget.name == old["gadget"]["name"]


def test_every_renamed_field_stands_at_its_new_place():
    old = json.loads((SAMPLES / "everything.spark.json").read_text())
    new = project_json.loads(json.dumps(old)).model_dump(mode="json")
    for before, after in PLACES.items():
        assert place(new, after) == place(old, before), after
    for path, value in VALUES.items():
        assert place(new, path) == value
    assert new["basis"]["builds.build1.boards.board1.charger.precharge_v"] == "label"
    assert new["basis"]["gadget.existing_charging.current_a"] == "measured"


def test_what_is_of_today_is_not_touched():
    today = project_json.loads((SAMPLES / "everything.spark.json").read_text()).model_dump(mode="json")
    assert upgraded(today) == today


@pytest.mark.parametrize(
    ("said", "sentence"),
    [
        ("pocket-spark/3", "later format"),
        ("pocket-spark/12", "later format"),
        ("other", "must say"),
        (None, "must say"),
    ],
)
def test_a_format_that_is_not_known_is_refused_with_a_sentence(said, sentence):
    with pytest.raises(project_json.UnreadableProject, match=sentence):
        project_json.loads(json.dumps({"format": said, "gadget": {"name": "x"}}))


def test_own_parts_of_format_1_are_read():
    kind, body = upgraded_part("guard", {"name": "g", "guard": {"v_trip": 0.15}, "outline_mm": [20, 6, 2]})
    assert (kind, body["protection"]) == ("protection", {"v_trip": 0.15})


def old_database(folder):
    folder.mkdir()
    with sqlite3.connect(folder / FILE_NAME) as connection:
        connection.executescript((SAMPLES / "database.sql").read_text())
    connection.close()


def test_a_database_of_format_1_is_brought_up_with_all_that_is_in_it(tmp_path):
    old_database(tmp_path / "data")
    engine = open_database(tmp_path / "data")
    projects, inventory = Projects(engine), Inventory(engine)
    assert {line.name for line in projects.shelf.lines()} == {"Everything at once", "Pond thermometer"}
    newest = projects.get(1)
    assert (newest.project.notes, newest.can_undo) == ("second state", True)
    assert projects.undo(1, based_on=newest.revision).project.notes == "a note"
    projects.restore(3)
    assert str(projects.get(3).project.gadget.name) == "Soil-moisture probe"
    assert len(inventory.parts()) == len(json.loads((SAMPLES / "drawer.json").read_text()))
    assert (tmp_path / "data" / "pocket-spark.before-0007.sqlite").is_file()


def test_a_body_that_cannot_be_read_is_left_as_it_is(tmp_path):
    old_database(tmp_path / "data")
    with sqlite3.connect(tmp_path / "data" / FILE_NAME) as connection:
        connection.execute("""UPDATE revision SET body = '{"format": "pocket-spark/9"}' WHERE id = 3""")
    connection.close()
    open_database(tmp_path / "data").dispose()
    with sqlite3.connect(tmp_path / "data" / FILE_NAME) as connection:
        assert (
            connection.execute("SELECT body FROM revision WHERE id = 3").fetchone()[0] == '{"format": "pocket-spark/9"}'
        )
    connection.close()


def test_a_migration_that_fails_half_way_leaves_the_old_data(tmp_path, monkeypatch):
    old_database(tmp_path / "data")

    def broken(*_):
        raise OSError("power cut")

    monkeypatch.setattr("pocketspark.core.models.upgrade._from_1", broken)
    monkeypatch.setattr("pocketspark.core.models.upgrade._UPGRADES", {"pocket-spark/1": broken})
    with pytest.raises(UnusableData, match="nothing was saved"):
        open_database(tmp_path / "data")
    monkeypatch.undo()
    assert len(Projects(open_database(tmp_path / "data")).shelf.lines()) == 2
