"""A disk that fills up, one that may not be written to, and two servers on one folder: each said, nothing half-done."""

import json

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import event
from test_zip_files import jpeg

from builders import CELL, plan
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.server.summaries import judged


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path / "data"))) as client:
        yield client


def restrict(client, pragma):
    """As a full or locked disk is met: by every connection from now on. SQLite answers as it does to the real thing."""
    engine = client.app.state.engine

    def restricted(connection, _record):
        connection.execute(pragma)

    engine.dispose()
    event.listen(engine, "connect", restricted)
    return lambda: (event.remove(engine, "connect", restricted), engine.dispose())


def writes(client, kept, photo, part):
    """Every kind of write, as (name, request)."""
    at = f"/api/projects/{kept['id']}"
    document = kept["project"] | {"notes": "n" * 9000}
    large = plan().model_dump(mode="json") | {"notes": "n" * 9000}
    return {
        "save": lambda: client.put(at, json={"revision": kept["revision"], "document": document}),
        "add": lambda: client.post("/api/projects", json=large),
        "import": lambda: client.post("/api/projects/import", content=json.dumps(large)),
        "photograph": lambda: client.post(f"{at}/photos", content=jpeg("red", (400, 300))),
        "mark": lambda: client.put(f"{at}/photos/{photo}", json={"caption": "c" * 100, "marks": {}}),
        "part": lambda: client.post("/api/inventory", json={"kind": "cell", "body": CELL | {"name": "x" * 100}}),
        "stock": lambda: client.put(f"/api/inventory/{part}", json={"kind": "cell", "body": CELL, "stock": 7}),
        "archive": lambda: client.delete(at),
    }


SMALL = ("mark", "part", "stock", "archive")


def everything(client):
    lists = [client.get("/api/projects").json(), client.get("/api/projects?archived=true").json()]
    return lists, client.get("/api/inventory").json()


@pytest.mark.parametrize(
    ("pragma", "sentence"), [("PRAGMA max_page_count = 1", "no room left"), ("PRAGMA query_only = 1", "written to")]
)
def test_every_write_says_so_and_nothing_is_half_done(client, pragma, sentence):
    kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    photo = client.post(f"/api/projects/{kept['id']}/photos", content=jpeg("blue")).json()["id"]
    part = client.post("/api/inventory", json={"kind": "cell", "body": CELL}).json()["id"]
    client.app.state.housekeeping.stop()
    before = everything(client)
    release = restrict(client, pragma)
    refused = []
    for name, request in writes(client, kept, photo, part).items():
        answer = request()
        # A full disk may have room within its last page for the smallest of them.
        if pragma.startswith("PRAGMA max") and answer.status_code < 300 and name in SMALL:
            continue
        refused.append(name)
        assert answer.status_code == 507, (name, answer.text)
        assert answer.headers["content-type"] == "application/problem+json"
        assert sentence in answer.json()["detail"], name
        assert str(client.app.state.data) in answer.json()["detail"]
    assert {"save", "add", "import", "photograph"} <= set(refused)
    if len(refused) == 8:
        assert everything(client) == before
    release()
    client.post(f"/api/projects/{kept['id']}/restore")
    # Saving goes on by itself from where it stood.
    assert writes(client, kept, photo, part)["save"]().status_code == 200


def test_two_servers_on_one_folder_see_one_truth(tmp_path):
    settings = Settings(data=tmp_path / "data")
    with TestClient(create_app(settings)) as one, TestClient(create_app(settings)) as other:
        kept = one.post("/api/projects", json=plan().model_dump(mode="json")).json()
        at = f"/api/projects/{kept['id']}"
        assert other.get(at).json() == kept
        for number in range(20):
            first, second = (one, other) if number % 2 else (other, one)
            saved = first.put(
                at, json={"revision": kept["revision"], "document": kept["project"] | {"notes": str(number)}}
            )
            assert saved.status_code == 200
            late = second.put(at, json={"revision": kept["revision"], "document": kept["project"] | {"notes": "late"}})
            assert late.status_code == 409
            kept = saved.json()
        assert one.get(at).json()["project"]["notes"] == "19"


def test_a_conversion_that_our_rules_fail_on_is_saved_and_shown_with_the_reason(client, monkeypatch):
    monkeypatch.setattr("pocketspark.server.summaries.summary_of", lambda _: 1 / 0)
    assert "fault of ours" in judged(plan()).summary["unreadable"]
    kept = client.post("/api/projects", json=plan().model_dump(mode="json"))
    assert kept.status_code == 201
    (line,) = client.get("/api/projects").json()
    assert (line["summary"], "could not be judged" in line["unreadable"]) == (None, True)
