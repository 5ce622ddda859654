"""A cell is one thing: what one conversion learns of it its parts know, and what is built in is on no bench."""

import time

from builders import plan

CELL = {"name": "from a speaker", "capacity_ah": 0.9, "size_mm": [5, 34, 50], "origin": "salvaged", "charge_max_a": 0.5}


def with_own_cell(client, **build):
    part = client.post("/api/inventory", json={"kind": "cell", "body": CELL, "stock": 1}).json()["id"]
    document = plan(cell=CELL | {"inventory_id": part}, **build).model_dump(mode="json")
    made = client.post("/api/projects", json=document).raise_for_status().json()
    return part, made


def saved(client, made, **cell):
    document = made["project"]
    document["builds"][0]["cell"] |= cell
    document["basis"]["builds.build1.cell.measured_capacity_ah"] = "measured"
    body = {"revision": made["revision"], "document": document}
    return client.put(f"/api/projects/{made['id']}", json=body).raise_for_status().json()


def part_of(client, part):
    return next(one for one in client.get("/api/inventory").json() if one["id"] == part)["cell"]


def test_what_a_conversion_measures_its_parts_know(client):
    part, made = with_own_cell(client)
    assert part_of(client, part)["measured_capacity_ah"] is None
    saved(client, made, measured_capacity_ah=0.385)
    known = part_of(client, part)
    assert known["measured_capacity_ah"] == 0.385
    assert "385 mAh" in known["intake"]["history"][-1]["text"]


def test_a_charge_that_is_watched_to_its_end_is_counted_once(client):
    part, made = with_own_cell(client)
    build = made["project"]["builds"][0]
    build["record"]["first_charge"] |= {"started_at": "2026-11-30T08:00:00Z", "ended_at": "2026-11-30T10:40:00Z"}
    made |= saved(client, made)
    assert part_of(client, part)["intake"]["cycles"] == 1
    assert "full charges 1" in part_of(client, part)["intake"]["history"][-1]["text"]
    saved(client, made, measured_capacity_ah=0.5)
    assert part_of(client, part)["intake"]["cycles"] == 1


def test_what_its_parts_learn_a_conversion_is_offered(client):
    """The other way round: a cell tester said 385 mAh and 0.21 ohm of the cell that stands in a plan already."""
    part, made = with_own_cell(client)
    question = {"document": made["project"], "build": "0"}
    assert client.post("/api/questions/own-cell", json=question).json() is None
    body = {"kind": "cell", "body": CELL | {"measured_capacity_ah": 0.385, "r_ohm": 0.21}, "stock": 1}
    client.put(f"/api/inventory/{part}", json=body).raise_for_status()
    offer = client.post("/api/questions/own-cell", json=question).json()
    assert "385 mAh" in offer["says"]
    assert "210 mΩ" in offer["says"]
    taken = client.post("/api/questions/edited", json={"document": made["project"], "edits": offer["edits"]}).json()
    cell = taken["document"]["builds"][0]["cell"]
    assert (cell["measured_capacity_ah"], cell["r_ohm"]) == (0.385, 0.21)
    assert taken["document"]["basis"]["builds.build1.cell.r_ohm"] == "measured"
    assert client.post("/api/questions/own-cell", json=taken | {"build": "0"}).json() is None
    # Which of two cells side by side was read nobody knows.
    taken["document"]["builds"][0]["cell_count"] = 2
    taken["document"]["builds"][0]["cell"]["r_ohm"] = 0.1
    assert client.post("/api/questions/own-cell", json=taken | {"build": "0"}).json() is None


def test_a_practice_copy_teaches_nothing(client):
    part, made = with_own_cell(client, practice=True)
    saved(client, made, measured_capacity_ah=0.385)
    assert part_of(client, part)["measured_capacity_ah"] is None


def jobs(client):
    return {one["job"] for one in client.get("/api/clock").json()["timeline"]["due"]}


def test_nobody_is_asked_to_test_a_cell_that_is_shut_in_a_lamp(client):
    part, made = with_own_cell(client)
    assert any("speaker" in job for job in jobs(client))
    document = made["project"]
    document["builds"][0]["record"] = {"steps": [{"step": "photograph", "done": True}]}
    body = {"revision": made["revision"], "document": document}
    client.put(f"/api/projects/{made['id']}", json=body).raise_for_status()
    assert not any("speaker" in job for job in jobs(client))
    other = client.post("/api/projects", json=plan(r_prog_ohm=None).model_dump(mode="json")).json()
    search = client.post(
        "/api/questions/proposals", json={"document": other["project"], "project_id": other["id"]}
    ).raise_for_status()
    address, until = f"/api/questions/proposals/{search.json()['id']}", time.monotonic() + 60
    while not (told := client.get(address).json()["left_out"]):
        assert time.monotonic() < until
        time.sleep(0.1)
    client.delete(address)
    assert any("used up" in line for line in told), part
