"""The drawer by its routes: own cells against the conversions that wait, and a line that is taken."""

import pytest
from fastapi.testclient import TestClient

from builders import CELL, PROTECTION, board, plan
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

TESTED = {"origin": "new", "own_protection": PROTECTION}


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


def add(client, name, current_a, **changes):
    gadget = {"name": name, "modes": [{"name": "on", "current_a": current_a, "hours_per_day": 2}]}
    document = plan(gadget=gadget, boards=[board(socket={"kind": "type_c"})], **changes).model_dump(mode="json")
    return client.post("/api/projects", json=document).json()["id"]


def keep(client, name, capacity_ah, size_mm, stock=1):
    body = CELL | TESTED | {"name": name, "capacity_ah": capacity_ah, "size_mm": size_mm}
    return client.post("/api/inventory", json={"kind": "cell", "stock": stock, "body": body}).json()["id"]


def asked(client, **wanted):
    answer = client.post("/api/drawer/assignment", json=wanted)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_two_gadgets_two_cells_and_a_line_that_is_taken(client):
    hungry, frugal = add(client, "hungry", 0.06), add(client, "frugal", 0.004)
    large, small = keep(client, "large", 0.9, [5, 34, 50]), keep(client, "small", 0.3, [4, 20, 35])
    found = asked(client)
    lines = {line["project_id"]: line for line in found["lines"]}
    assert {one: line["cells"] for one, line in lines.items()} == {hungry: [large], frugal: [small]}
    assert found["headline"] == "2 of 2 gadgets get a cell"
    line = lines[hungry]
    taken = client.post("/api/drawer/taken", json={"project_id": hungry, "edits": line["edits"]})
    assert taken.status_code == 204
    stored = client.get(f"/api/projects/{hungry}").json()
    assert stored["project"]["builds"][0]["cell"]["inventory_id"] == large
    assert client.post(f"/api/projects/{hungry}/undo", json={"revision": stored["revision"]}).status_code == 200
    undone = client.get(f"/api/projects/{hungry}").json()["project"]["builds"][0]["cell"]
    assert undone.get("inventory_id") is None


def test_pinned_ruled_out_and_one_that_was_begun(client):
    hungry, frugal = add(client, "hungry", 0.06), add(client, "frugal", 0.004)
    large = keep(client, "large", 0.9, [5, 34, 50])
    assert [line["project_id"] for line in asked(client)["lines"]] == [hungry]
    pinned = asked(client, pinned=[[frugal, large]])
    assert [(line["project_id"], line["pinned"]) for line in pinned["lines"]] == [(frugal, True)]
    assert asked(client, forbidden=[[hungry, large], [frugal, large]])["lines"] == []
    begun = {"record": {"steps": [{"step": "photograph", "done": True}]}}
    begun_id = add(client, "begun", 0.01, **begun)
    assert begun_id not in [line["project_id"] for line in asked(client)["lines"]]
    assert (
        client.post(
            "/api/drawer/taken", json={"project_id": begun_id, "edits": pinned["lines"][0]["edits"]}
        ).status_code
        == 409
    )


def test_odd_questions_are_refused_and_nothing_is_changed(client):
    one = add(client, "one", 0.06)
    before = client.get(f"/api/projects/{one}").json()
    for body in (
        {"project_id": one, "edits": []},
        {"project_id": one, "edits": [{"path": "builds.0.cell", "value": "no cell"}]},
        {"project_id": one, "edits": [{"path": "nowhere.at.all", "value": 1}]},
        {"project_id": 99, "edits": [{"path": "notes", "value": "x"}]},
    ):
        assert client.post("/api/drawer/taken", json=body).status_code in (404, 409, 422), body
    assert client.get(f"/api/projects/{one}").json() == before
    assert client.post("/api/drawer/assignment", json={"aim": "all of them"}).status_code == 422
    assert asked(client)["lines"] == []


def test_a_cell_that_is_still_to_be_watched_is_offered_to_nobody(client):
    """2.2 V at rest: a salvaged cell that deep is charged under watch first (common practice)."""
    add(client, "one", 0.06)
    deep = {"origin": "salvaged", "intake": {"rest_v": 2.2}}
    body = CELL | TESTED | {"name": "deep", "capacity_ah": 0.9, "size_mm": [5, 34, 50]} | deep
    client.post("/api/inventory", json={"kind": "cell", "stock": 1, "body": body})
    found = asked(client)
    assert (found["lines"], found["drawer"]) == ([], [])
