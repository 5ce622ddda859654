"""An edit and its undo leave every answer, the shelf's line and the paper as they were."""

import pytest

from chances import in_turn
from every_question import MORE, QUESTIONS
from pocketspark.demo import demo_projects

# What is edited, and what must be seen of it: the answers hang on it, so that an undo has something to bring back.
EDITS = {
    "gadget.modes.{mode}.current_a": 0.047,
    "builds.{build}.r_prog_ohm": 4700.0,
    "builds.{build}.cell.measured_capacity_ah": 0.311,
}


def answers(client, document):
    found = {}
    for path in QUESTIONS:
        if path.startswith("/api/questions") and "/export/" not in path:
            found[path] = client.post(path, json={"document": document, "build": "0"} | MORE.get(path, {})).text
    return found


@pytest.mark.parametrize("project", in_turn([one for one in demo_projects() if one.builds[0].cell], 2))
def test_an_edit_undone_leaves_no_figure_behind(client, project):
    made = client.post("/api/projects", json=project.model_dump(mode="json")).json()
    address = f"/api/projects/{made['id']}"
    document, revision = made["project"], made["revision"]
    before, line = answers(client, document), client.get("/api/projects").json()[-1]["summary"]
    names = {"mode": project.gadget.modes[0].id, "build": project.builds[0].id}
    edits = [{"path": path.format(**names), "value": value} for path, value in EDITS.items()]
    edited = client.post("/api/questions/edited", json={"document": document, "edits": edits}).json()["document"]
    saved = client.put(address, json={"revision": revision, "document": edited}).raise_for_status().json()
    assert answers(client, saved["project"]) != before
    undone = client.post(f"{address}/undo", json={"revision": saved["revision"]}).raise_for_status().json()
    assert answers(client, undone["project"]) == before
    assert client.get("/api/projects").json()[-1]["summary"] == line
