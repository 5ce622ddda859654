"""A conversion whose stored text cannot be read: the rest of the shelf bears it, and it can be got out or mended."""

import json
import sqlite3
from contextlib import closing

import pytest

from builders import plan
from pocketspark.store.database import FILE_NAME

WHOLE = plan().model_dump(mode="json")
BODIES = {
    "a key of a newer release": json.dumps(WHOLE | {"hologram": True}),
    "a later format": json.dumps(WHOLE | {"format": "pocket-spark/9"}),
    "a figure out of bounds": json.dumps(WHOLE | {"notes": 12}),
    "half a text": json.dumps(WHOLE)[:200],
    "no object": "[1, 2]",
    "nothing": "",
}


@pytest.fixture
def spoiled(client):
    """Two conversions with two states each; the second one's present state is to be spoiled."""
    for _ in range(2):
        kept = client.post("/api/projects", json=WHOLE).json()
        document = kept["project"] | {"notes": "x"}
        client.put(f"/api/projects/{kept['id']}", json={"revision": kept["revision"], "document": document})
    # Lines that are still being made would be written over what is spoiled behind the server's back.
    client.get("/api/projects")

    def spoil(body, everywhere=False):
        with closing(sqlite3.connect(client.app.state.data / FILE_NAME)) as connection:
            which = "project_id = 2" if everywhere else "id = (SELECT head FROM project WHERE id = 2)"
            connection.execute(f"UPDATE revision SET body = ?, digest = NULL WHERE {which}", (body,))
            connection.execute("UPDATE project SET rules = 'old', summary = NULL")
            connection.commit()
        client.app.state.housekeeping.run_once()

    return spoil


@pytest.mark.parametrize("body", BODIES.values(), ids=BODIES)
def test_the_list_bears_it_and_it_goes_out_as_it_is(client, spoiled, body):
    spoiled(body)
    lines = {line["id"]: line for line in client.get("/api/projects").json()}
    assert lines[1]["summary"]["worst"] == "note"
    assert "cannot be read" in lines[2]["unreadable"]
    answer = client.get("/api/projects/2")
    assert (answer.status_code, answer.json()["detail"]) == (422, lines[2]["unreadable"])
    assert client.get("/api/projects/2/raw").text == body
    assert client.delete("/api/projects/2").status_code == 204
    assert client.post("/api/projects/2/restore").status_code == 204
    assert client.get("/api/inventory").status_code == 200


@pytest.mark.parametrize("body", BODIES.values(), ids=BODIES)
def test_it_is_repaired_from_what_can_be_read(client, spoiled, body):
    spoiled(body)
    repaired = client.post("/api/projects/2/repair")
    assert repaired.status_code == 200, repaired.text
    assert repaired.json()["project"]["gadget"] == WHOLE["gadget"]
    assert client.get("/api/projects").json()[0]["summary"]["worst"] == "note"


def test_a_refused_place_is_named_by_the_repair(client, spoiled):
    spoiled(BODIES["a figure out of bounds"])
    assert [refused["field"] for refused in client.post("/api/projects/2/repair").json()["refused"]] == ["notes"]


def test_where_nothing_can_be_read_at_all_that_is_said(client, spoiled):
    spoiled("", everywhere=True)
    answer = client.post("/api/projects/2/repair")
    assert (answer.status_code, "no earlier state" in answer.json()["detail"]) == (422, True)
