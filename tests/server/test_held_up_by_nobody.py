"""Nothing is judged while the database is held, a merge meets a third save, what was put away stays as it is."""

import threading

import pytest

from builders import plan
from pocketspark.core.questions.joint_state import joint_state
from pocketspark.core.questions.summary import summary_of


def made(client, name="Rain gauge"):
    document = plan(gadget={"name": name}).model_dump(mode="json")
    return client.post("/api/projects", json=document).raise_for_status().json()


def put(client, project, name=None, **fields):
    document = project["project"] | fields
    document["gadget"] = document["gadget"] | ({"name": name} if name else {})
    return client.put(f"/api/projects/{project['id']}", json={"revision": project["revision"], "document": document})


@pytest.fixture
def gate(monkeypatch):
    """While it is closed, no judgement comes to an end."""
    gate = threading.Event()

    def slow(project):
        assert gate.wait(60)
        return summary_of(project)

    monkeypatch.setattr("pocketspark.server.summaries.summary_of", slow)
    yield gate
    gate.set()


def test_no_save_waits_for_a_judgement(client, gate):
    three = [made(client, name) for name in ("Rain gauge", "Cot light", "Metronome")]
    client.app.state.shelf_lines.patience_s = 0
    for project in three:
        saved = put(client, project, notes="on the bench").raise_for_status().json()
        undone = client.post(f"/api/projects/{project['id']}/undo", json={"revision": saved["revision"]})
        assert undone.json()["project"]["notes"] == ""
    lines = client.get("/api/projects").json()
    assert [line["outdated"] for line in lines] == [True] * 3
    assert not gate.is_set()
    gate.set()
    client.app.state.shelf_lines.patience_s = 60
    lines = client.get("/api/projects").json()
    assert [(line["outdated"], line["summary"]["supply"]) for line in lines] == [(False, "3 x AAA, alkaline")] * 3


def test_a_line_is_that_of_the_newest_state(client, gate):
    project = made(client)
    for number in range(4):
        project = put(client, project, name=f"Rain gauge {number}").raise_for_status().json()
    gate.set()
    [line] = client.get("/api/projects").json()
    assert (line["name"], line["outdated"]) == ("Rain gauge 3", False)


def test_a_merge_that_meets_a_third_save_is_tried_again(client, monkeypatch):
    project = made(client)
    third = []

    def meanwhile(base, mine, theirs, **wishes):
        if not third:
            third.append(put(client, second, tags=["third"]).raise_for_status())
        return joint_state(base, mine, theirs, **wishes)

    second = put(client, project, notes="a second one's").raise_for_status().json()
    monkeypatch.setattr("pocketspark.server.project_routes.joint_state", meanwhile)
    mine = put(client, project, name="Mine").raise_for_status().json()
    together = mine["project"]
    assert (together["gadget"]["name"], together["notes"], together["tags"]) == ("Mine", "a second one's", ["third"])


def test_what_is_archived_is_not_written_into_and_says_so(client):
    project = made(client)
    address = f"/api/projects/{project['id']}"
    client.delete(address).raise_for_status()
    refused = put(client, project, notes="too late")
    assert refused.status_code == 410
    assert "archive" in refused.json()["detail"]
    assert client.get(f"{address}/revision").json()["archived"] is True
    client.post(f"{address}/restore").raise_for_status()
    assert client.get(f"{address}/revision").json()["archived"] is False
    assert put(client, project, notes="in time").status_code == 200


def test_what_is_erased_says_so_and_its_number_is_given_to_no_other(client):
    project = made(client)
    address = f"/api/projects/{project['id']}"
    client.delete(address).raise_for_status()
    client.delete(f"{address}?for_good=true").raise_for_status()
    assert made(client)["id"] != project["id"]
    refused = put(client, project, notes="too late")
    assert (refused.status_code, refused.json()["detail"]) == (404, "this conversion was erased")
    assert client.get(f"{address}/revision").json()["detail"] == "this conversion was erased"
    assert len(client.get("/api/projects").json() + client.get("/api/projects?archived=true").json()) == 1
