"""Every route, its refusals, and what two windows on one project see."""

import json

import pytest

from builders import CELL, plan


@pytest.fixture
def kept(client):
    return client.post("/api/projects", json=document()).json()


def document(**changes):
    return plan(**changes).model_dump(mode="json")


def save(client, kept, project):
    return client.put(f"/api/projects/{kept['id']}", json={"revision": kept["revision"], "document": project})


def step(client, kept, direction):
    return client.post(f"/api/projects/{kept['id']}/{direction}", json={"revision": kept["revision"]})


def test_an_empty_shelf_then_one_line_on_it(client):
    assert client.get("/api/projects").json() == []
    client.post("/api/projects", json=document())
    (line,) = client.get("/api/projects").json()
    summary = line["summary"]
    assert (line["name"], summary["supply"], summary["worst"]) == ("Moth-trap lamp", "3 x AAA, alkaline", "note")
    assert summary["charges"].startswith("charges in 2 h")
    assert not line["outdated"]


def test_a_change_is_kept_and_undone_and_redone(client, kept):
    project = kept["project"] | {"notes": "goes dark at 3.1 V"}
    saved = save(client, kept, project).json()
    assert (saved["can_undo"], saved["can_redo"]) == (True, False)
    undone = step(client, saved, "undo").json()
    assert (undone["project"]["notes"], undone["can_redo"]) == ("", True)
    redone = step(client, undone, "redo").json()
    assert redone["project"]["notes"] == "goes dark at 3.1 V"
    assert client.get(f"/api/projects/{kept['id']}").json() == redone


def test_at_either_end_a_step_stays_where_it_is(client, kept):
    assert step(client, kept, "undo").json() == kept
    assert step(client, kept, "redo").json() == kept


def test_a_change_after_an_undo_starts_a_branch_and_redo_follows_the_newest(client, kept):
    first = save(client, kept, kept["project"] | {"notes": "a"}).json()
    back = step(client, first, "undo").json()
    second = save(client, back, kept["project"] | {"notes": "b"}).json()
    assert not second["can_redo"]
    assert step(client, step(client, second, "undo").json(), "redo").json()["project"]["notes"] == "b"


def test_saving_the_same_again_makes_no_revision(client, kept):
    assert save(client, kept, kept["project"]).json() == kept | {"refused": [], "merged_from": None}


def test_the_second_window_is_told_and_nothing_is_lost(client, kept):
    theirs = save(client, kept, kept["project"] | {"notes": "theirs"}).json()
    del theirs["refused"], theirs["merged_from"]
    mine = save(client, kept, kept["project"] | {"notes": "mine"})
    assert mine.status_code == 409
    assert mine.headers["content-type"] == "application/problem+json"
    assert "another window" in mine.json()["detail"]
    assert client.get(f"/api/projects/{kept['id']}").json() == theirs
    assert step(client, kept, "undo").status_code == 409


def test_typed_quantities_are_read_by_the_models(client, kept):
    project = kept["project"]
    project["builds"][0]["r_prog_ohm"] = "2k7"
    assert save(client, kept, project).json()["project"]["builds"][0]["r_prog_ohm"] == 2700


def test_a_refused_field_is_named_and_the_rest_is_saved(client, kept):
    project = kept["project"] | {"notes": "typed beside it"}
    project["gadget"]["modes"][0]["current_a"] = "plenty"
    saved = save(client, kept, project).json()
    assert saved["refused"] == [
        {"field": "gadget.modes.mode1.current_a", "sentence": "'plenty' is not a number; write it like 400 mA or 0.4"}
    ]
    stored = client.get(f"/api/projects/{kept['id']}").json()["project"]
    assert (stored["notes"], stored["gadget"]["modes"][0]["current_a"]) == ("typed beside it", pytest.approx(0.06))


def test_edits_are_made_in_a_document_with_half_typed_text(client, kept):
    draft = kept["project"]
    draft["gadget"]["modes"][0]["current_a"] = "pl"
    edits = [
        {"path": "builds.build1.cell", "value": {"capacity_ah": 0.5}},
        {"path": "gadget.modes.+", "value": {"name": "second", "current_a": "5 mA"}},
        {"path": "gadget.bay.walls.wall1", "value": None},
    ]
    edited = client.post("/api/questions/edited", json={"document": draft, "edits": edits}).json()["document"]
    assert edited["gadget"]["modes"][0]["current_a"] == "pl"
    assert edited["gadget"]["modes"][1] == {"id": "mode2", "name": "second", "current_a": "5 mA"}
    assert [wall["id"] for wall in edited["gadget"]["bay"]["walls"]] == ["wall2"]
    assert edited["builds"][0]["cell"] == {"capacity_ah": 0.5}
    nowhere = {"document": draft, "edits": [{"path": "gadget.modes.mode9", "value": None}]}
    assert "no place called 'gadget.modes.mode9'" in client.post("/api/questions/edited", json=nowhere).json()["detail"]


def test_a_build_is_copied_without_its_record(client, kept):
    draft = kept["project"]
    draft["builds"][0]["record"]["r_measured_ohm"] = 2990
    asked = {"document": draft, "build": "build1", "name": "Second"}
    copied = client.post("/api/questions/build-copied", json=asked).json()["document"]["builds"]
    assert [(build["id"], build["record"]["r_measured_ohm"]) for build in copied] == [
        ("build1", 2990),
        ("build2", None),
    ]


def test_put_away_is_not_destroyed(client, kept):
    assert client.delete(f"/api/projects/{kept['id']}").status_code == 204
    assert client.get("/api/projects").json() == []
    assert [line["id"] for line in client.get("/api/projects?archived=true").json()] == [kept["id"]]
    assert client.post(f"/api/projects/{kept['id']}/restore").status_code == 204
    assert client.get(f"/api/projects/{kept['id']}").json() == kept
    assert len(client.get("/api/projects").json()) == 1


def test_an_export_can_be_imported(client, kept):
    exported = client.get(f"/api/projects/{kept['id']}/export")
    assert exported.headers["content-disposition"] == 'attachment; filename="moth-trap-lamp.spark.json"'
    imported = client.post("/api/projects/import", content=exported.content)
    assert imported.status_code == 201
    assert imported.json()["project"] == kept["project"]
    assert imported.json()["id"] != kept["id"]


@pytest.mark.parametrize("content", [b"", b"{}", b"\xff\xfe", b'{"format": "pocket-spark/1"}', b" " * 2_000_000])
def test_what_cannot_be_imported_leaves_the_shelf_alone(client, content):
    refused = client.post("/api/projects/import", content=content)
    assert refused.status_code == 422
    assert refused.json()["detail"]
    assert client.get("/api/projects").json() == []


@pytest.mark.parametrize("path", ["", "/export"])
def test_what_is_not_there_is_a_problem(client, path):
    answer = client.get(f"/api/projects/99{path}")
    assert (answer.status_code, answer.json()["detail"]) == (404, "there is no project 99")


def test_what_if_needs_no_saved_project(client):
    seen = client.post("/api/questions/assess", json={"document": document(r_prog_ohm="1k2")}).json()
    assert (seen["assessment"]["worst"], seen["refused"]) == ("stop", [])
    assert client.post("/api/questions/assess", json={"document": document(), "build": 7}).status_code == 404
    assert (
        client.post("/api/questions/assess", json={"document": {"gadget": {}}}).json()["errors"][0]["field"]
        == "gadget.name"
    )


def test_candidates_cover_the_library(client):
    found = client.post("/api/questions/candidates", json={"document": document()}).json()
    cells = [part["id"] for part in client.get("/api/parts").json() if part["kind"] == "cell"]
    assert [candidate["part"] for candidate in found] == cells


def test_tables_and_schema(client):
    trade = client.get("/api/reference").json()
    assert {"LR6", "CR2032"} <= {battery["iec"] for battery in trade["batteries"]}
    assert all(rule["watches"] and rule["source"] for rule in trade["rules"])
    assert client.get("/api/schema").json()["title"] == "Pocket Spark project"


def test_pages_are_served_and_nothing_beside_them(client):
    assert "Pocket Spark" in str(client.get("/conversion/1/survey").text)
    assert "default-src 'self'" in client.get("/").headers["content-security-policy"]
    assert "not yours" not in str(client.get("/..%2fsecret.txt").text)
    assert client.get("/api/nothing").status_code == 404


def test_a_page_from_elsewhere_cannot_borrow_this_server(client):
    assert client.get("/api/projects", headers={"host": "evil.example"}).status_code == 400


def test_infinite_and_odd_numbers_are_refused_not_passed_on(client):
    for odd in ("1e999", "-1", '"NaN"', "true", "[1]"):
        text = json.dumps({"document": document(cell=CELL)}).replace('"capacity_ah": 0.9', f'"capacity_ah": {odd}')
        assert client.post("/api/questions/assess", content=text).status_code == 422


def test_regulators_and_readings_are_told_for_a_build(client):
    tried = client.post("/api/questions/regulators", json={"document": document()}).json()
    assert tried[0]["name"] == "none: straight from the cell"
    assert client.post("/api/questions/regulators", json={"document": document(cell=None)}).status_code == 409
    asked = client.post("/api/questions/measure-next", json={"document": document()}).json()
    assert all(reading["how"] for reading in asked)
    assert client.post("/api/questions/measure-next", json={"document": document(), "build": 3}).status_code == 404
