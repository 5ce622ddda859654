"""The fit over the API and on the command line: answers, files, a search with progress that can be cancelled."""

import io
import json
import time

import pytest
import trimesh
from typer.testing import CliRunner

from builders import board, plan
from pocketspark.cli import app
from pocketspark.formats import project_json

BAY = {"rooms": [{"size_mm": [75, 45, 20]}], "walls": [{"side": "left"}], "wall_mm": 2}
TIGHT = BAY | {"rooms": [{"size_mm": [75, 45, 9]}]}


def question(bay=BAY, **build):
    project = plan(gadget={"bay": bay}, **({"boards": [board(socket={"kind": "type_c"})]} | build))
    return {"document": project.model_dump(mode="json")}


def test_the_answer_with_its_remedies_bay_and_prints(client):
    reply = client.post("/api/questions/fit", json=question()).json()
    assert reply["answer"]["fits"] == "yes"
    assert reply["answer"]["remedies"] == []
    assert set(reply["prints"]) == {"lid", "cradle"}
    larger = client.post("/api/questions/fit/larger-cell", json=question()).json()
    assert {one["measure"] for one in larger} == {"thickness", "width", "length"}
    tight = client.post("/api/questions/fit", json=question(TIGHT)).json()["answer"]
    assert tight["fits"] == "no"
    assert any(given["what"] == "lid" for given in tight["remedies"])


def test_an_inferred_bay_is_offered_for_measuring(client):
    reply = client.post("/api/questions/fit", json=question(bay=None)).json()
    assert reply["answer"]["assumed_bay"]
    assert reply["bay"]["rooms"]


@pytest.mark.parametrize(("kind", "begins"), [("svg", b"<svg"), ("a4", b"%PDF"), ("letter", b"%PDF"), ("dxf", b"  0")])
def test_drill_templates(client, kind, begins):
    answer = client.post(f"/api/questions/export/drill-{kind}", json=question())
    assert answer.status_code == 200
    assert answer.content.startswith(begins)
    nothing = client.post(f"/api/questions/export/drill-{kind}", json=question(boards=[board()]))
    assert (nothing.status_code, "no opening is needed" in nothing.json()["detail"]) == (409, True)


def test_printed_parts_and_their_refusals(client):
    made = client.post("/api/questions/fit/printed/cradle?kind=stl", json=question())
    assert trimesh.load(io.BytesIO(made.content), file_type="stl").is_watertight
    assert str(client.post("/api/questions/fit/printed/lid?kind=svg", json=question()).text).startswith("<svg")
    refused = client.post("/api/questions/fit/printed/sleeve", json=question())
    assert (refused.status_code, "round cell" in refused.json()["detail"]) == (409, True)
    assert client.post("/api/questions/fit/printed/hat", json=question()).status_code == 404
    thick = question() | {"settings": {"wall_mm": 99}}
    assert client.post("/api/questions/fit/printed/cradle", json=thick).status_code == 422
    box = client.post("/api/questions/fit/printed/box", json=question(style="outside_pack"))
    assert trimesh.load(io.BytesIO(box.content), file_type="stl").is_watertight


def finished(client, job):
    for _ in range(200):
        seen = client.get(f"/api/questions/fit/sweep/{job['id']}").json()
        if seen["state"] != "running":
            return seen
        time.sleep(0.05)
    raise AssertionError("the search never ended")


def test_what_would_fit_runs_with_progress_to_its_end(client):
    job = client.post("/api/questions/fit/sweep", json=question()).json()
    seen = finished(client, job)
    assert seen["state"] == "finished"
    assert seen["done"] == seen["total"] > 200
    energies = [one["energy_wh"]["value"] for one in seen["fitting"]]
    assert energies == sorted(energies, reverse=True)
    assert energies


def test_a_search_is_cancelled(client):
    job = client.post("/api/questions/fit/sweep", json=question()).json()
    assert client.delete(f"/api/questions/fit/sweep/{job['id']}").status_code == 204
    seen = finished(client, job)
    assert seen["state"] in ("cancelled", "finished")
    assert client.get("/api/questions/fit/sweep/9999").status_code == 404
    nothing = question(cell=None, boards=[])
    assert client.post("/api/questions/fit/sweep", json=nothing).status_code == 409


def test_the_command_line_answers_as_data_and_in_words(tmp_path):
    file = tmp_path / "lamp.json"
    project = plan(gadget={"bay": TIGHT}, boards=[board(socket={"kind": "type_c"})])
    file.write_text(project_json.dumps(project))
    told = json.loads(CliRunner().invoke(app, ["fit", str(file), "--json"]).stdout)
    assert told["fits"] == "no"
    assert {"clearance_mm", "placements", "conflict", "remedies", "openings"} <= told.keys()
    assert {"what", "subject", "mm"} <= told["remedies"][0].keys()
    assert {"part", "min_mm", "max_mm"} <= told["placements"][0].keys()
    words = CliRunner().invoke(app, ["fit", str(file)])
    assert "together" in words.stdout
    file.write_text(json.dumps({"format": "pocket-spark/1", "gadget": {"name": "x", "bay": {"rooms": []}}}))
    refused = CliRunner().invoke(app, ["fit", str(file)])
    assert (refused.exit_code, "gadget.bay" in refused.stderr) == (2, True)
