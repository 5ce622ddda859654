"""Proposals over the API and on the command line: started, looked at, stopped; and what is asked for is a sentence."""

import json
import time

import pytest
from typer.testing import CliRunner

from builders import plan
from pocketspark.cli import app

# So narrow that a search is over within seconds.
NARROW = {"bay": {"rooms": [{"size_mm": [40, 22, 9]}], "wall_mm": 0.5}}


def asked(wishes=None, **build):
    return {"document": plan(**build).model_dump(mode="json"), "wishes": wishes or {}}


def finished(client, begun):
    until = time.monotonic() + 300
    while time.monotonic() < until:
        seen = client.get(f"/api/questions/proposals/{begun['id']}").json()
        if seen["state"] != "running":
            return seen
        time.sleep(0.05)
    raise AssertionError("it does not come to an end")


def test_a_search_is_started_looked_at_and_comes_to_an_end(client, monkeypatch):
    # What each wish costs is looked into only so far.
    monkeypatch.setattr("pocketspark.core.proposals.search._ASKED_AT_MOST", 20)
    begun = client.post(
        "/api/questions/proposals", json=asked({"type_c_only": True, "no_regulator": True}, gadget=NARROW)
    )
    assert begun.status_code == 202
    seen = finished(client, begun.json())
    assert seen["state"] == "finished"
    assert seen["settled"] == seen["builds"] > 10_000
    assert sum(line["count"] for line in seen["fell"]) + seen["front_count"] >= seen["builds"]
    for one in seen["front"]:
        assert all(b["socket"] is None or b["socket"]["kind"] == "type_c" for b in one["plan"]["boards"])
        assert one["plan"]["r_prog_ohm"]


def test_a_search_may_be_stopped(client):
    begun = client.post("/api/questions/proposals", json=asked()).json()
    assert client.delete(f"/api/questions/proposals/{begun['id']}").status_code == 204
    assert finished(client, begun)["state"] in ("cancelled", "finished")
    assert client.get("/api/questions/proposals/999").status_code == 404


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"gadget": {"modes": []}}, "one current"),
        ({"wishes": {"price_at_most": "dear"}}, "number"),
        ({"wishes": {"lid_mm": 9999}}, "Enter 50 or less"),
        ({"wishes": {"lid_mm": -3}}, "Enter 0 or more"),
    ],
)
def test_what_cannot_be_searched_is_a_sentence(client, change, says):
    answer = client.post("/api/questions/proposals", json=asked(change.pop("wishes", None), **change))
    assert answer.status_code in (409, 422)
    told = answer.json()
    assert says in " ".join([told["detail"], *(error["sentence"] for error in told["errors"])])


def test_the_command_line_plans_too(tmp_path):
    file = tmp_path / "lamp.json"
    file.write_text(json.dumps(plan(gadget=NARROW).model_dump(mode="json")))
    told = CliRunner().invoke(app, ["plan", str(file), "--wish", "type-c-only", "--wish", "no_regulator", "--json"])
    assert told.exit_code == 0, told.output
    answer = json.loads(told.stdout)
    assert answer["finished"]
    words = CliRunner().invoke(app, ["plan", str(file), "--wish", "type_c_only", "--wish", "no_regulator"]).stdout
    assert "it does not fit into the bay" in words
    otherwise = CliRunner().invoke(app, ["plan", str(file), "--wish", "any_style", "--wish", "price_at_most=9"])
    assert "outside pack" in otherwise.stdout
    for wrong, says in (("gold", "gold: This key is unknown"), ("price_at_most=dear", "Enter a number")):
        refused = CliRunner().invoke(app, ["plan", str(file), "--wish", wrong])
        assert refused.exit_code == 2
        assert says in refused.output
    nothing = tmp_path / "nothing.json"
    nothing.write_text(json.dumps(plan(gadget={"modes": []}).model_dump(mode="json")))
    assert CliRunner().invoke(app, ["plan", str(nothing)]).exit_code == 2


def test_no_more_searches_go_on_at_once_than_are_allowed(client):
    answers = [client.post("/api/questions/proposals", json=asked()) for _ in range(6)]
    assert [answer.status_code for answer in answers] == [202] * 4 + [409] * 2
    assert "stop one first" in answers[-1].json()["detail"]
    for answer in answers[:4]:
        client.delete(f"/api/questions/proposals/{answer.json()['id']}")
