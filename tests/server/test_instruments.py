"""The instruments over the API: live streams that survive a broken line, alarms, spot readings, the trainer."""

import itertools
import json
import time

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.core.steps import Hold, inside
from pocketspark.core.units.quantity import read
from pocketspark.instruments.trainer import CONCLUSIONS
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.store import LiveLogs, NothingThere
from pocketspark.store.database import open_database


def question(practice=True, **build):
    document = plan(**build).model_dump(mode="json")
    document["builds"][0]["practice"] = practice
    return {"document": document}


def hold_of(sent):
    """The checkpoint of a step as it came over the wire, without what is computed from it."""
    return Hold.model_validate({name: sent[name] for name in Hold.model_fields})


def started(client, query="", **build):
    answer = client.post(f"/api/instruments/live?speed_up=20000{query}", json=question(**build))
    assert answer.status_code == 201, answer.text
    return answer.json()["id"]


def followed(client, run_id, after=0):
    """Every piece of news until the run is finished."""
    headers = {"Last-Event-ID": str(after)}
    with client.stream("GET", f"/api/instruments/live/{run_id}", headers=headers) as stream:
        assert stream.headers["content-type"].startswith("text/event-stream")
        return [json.loads(line.removeprefix("data: ")) for line in stream.iter_lines() if line.startswith("data: ")]


def test_a_run_is_streamed_to_its_end_and_kept_as_csv(client):
    run_id = started(client)
    news = followed(client, run_id)
    rows = [row for one in news for row in one["samples"]]
    assert news[-1]["state"] == "finished"
    assert [row[0] for row in rows] == sorted(row[0] for row in rows)
    assert not news[-1]["alarms"]
    # A page that comes back late hears what it has missed, and no more.
    assert sum(len(one["samples"]) for one in followed(client, run_id, after=len(rows) - 7)) == 7
    csv = client.get(f"/api/instruments/live/{run_id}/log.csv").text
    assert len(csv.splitlines()) == len(rows) + 2  # its titles, and that it is simulated
    assert client.post("/api/questions/log", json=question() | {"text": csv}).json()["analysis"]["kind"] == "charge"


@pytest.mark.parametrize(
    ("fault", "code"),
    [("warm_cell", "watch.too_warm"), ("over_charge", "watch.over_voltage"), ("swapped_leads", "watch.swapped")],
)
def test_a_limit_passed_on_the_way_is_an_alarm(client, fault, code):
    news = followed(client, started(client, f"&fault={fault}"))
    assert code in [alarm["code"] for alarm in news[-1]["alarms"]]


def test_a_run_is_stopped_and_an_unknown_one_is_told(client):
    run_id = client.post("/api/instruments/live?speed_up=1", json=question()).json()["id"]
    assert client.delete(f"/api/instruments/live/{run_id}").status_code == 204
    assert followed(client, run_id)[-1]["state"] == "finished"
    assert client.get("/api/instruments/live/999").status_code == 404
    assert client.post("/api/instruments/live", json=question(boards=[])).status_code == 409


def test_a_server_that_is_started_anew_has_what_was_written(tmp_path):
    settings = Settings(data=tmp_path)
    with TestClient(create_app(settings)) as before:
        begun = before.post("/api/instruments/live?speed_up=3600&fault=over_charge", json=question()).json()["id"]
        ended = started(before)
        assert followed(before, ended)[-1]["state"] == "finished"
        deadline = time.monotonic() + 20
        while not LiveLogs(open_database(tmp_path)).get(begun).rows:
            assert time.monotonic() < deadline
            time.sleep(0.05)
        # The first one goes on in its thread: the second server knows no more of it than what is kept.
        with TestClient(create_app(settings)) as after:
            (cut,) = followed(after, begun)
            assert (cut["state"], cut["cut_short"]) == ("finished", True)
            assert len(cut["samples"]) > 3
            assert str(after.get(f"/api/instruments/live/{begun}/log.csv").text).startswith("# simulated")
            (whole,) = followed(after, ended)
            assert (whole["state"], whole["cut_short"]) == ("finished", False)
        before.delete(f"/api/instruments/live/{begun}")


def test_ten_runs_are_kept(tmp_path):
    logs = LiveLogs(open_database(tmp_path))
    runs = [logs.begin(f"run {number}", None) for number in range(12)]
    logs.append(runs[-1], [(0.0, 3.7, 0.4, None), (1.0, 3.71, 0.4, 25.0)])
    logs.append(runs[-1], [(2.0, 3.72, 0.4, 25.0)])
    logs.append(runs[0], [(0.0, 3.7, 0.4, None)])  # it has made room: nothing happens
    assert [row[0] for row in logs.get(runs[-1]).rows] == [0.0, 1.0, 2.0]
    assert logs.get(runs[2]).rows == []
    for gone in runs[:2]:
        with pytest.raises(NothingThere, match="start it again"):
            logs.get(gone)
    logs.begin("one more", None, going_on=runs[2:4])
    assert logs.get(runs[2]).rows == []  # it goes on, so another one made room


def test_an_instrument_refuses_a_fault_it_cannot_show(client):
    refused = client.post("/api/instruments/log?instrument=cell_tester&fault=thin_cable", json=question())
    assert refused.status_code == 422
    assert "does not show on this instrument" in refused.json()["detail"]


BUILDS = {
    "plain": {},
    "with a regulator": {"regulator": {"kind": "ldo", "v_set": 3.3}},
    "two cells": {"cell_count": 2, "r_prog_ohm": 1500},
    "old jack": {"input": {"kind": "old_jack", "centre": "negative"}},
    "dock": {"input": {"kind": "dock"}},
    "pad": {"input": {"kind": "wireless"}},
    "a fuse": {"wiring": {"extra": [{"key": "fuse", "kind": "fuse", "name": "old fuse"}]}},
    "old path cut": {"gadget": {"existing_charging": {"kind": "contacts", "treatment": "cut"}}},
}


@pytest.mark.parametrize("build", BUILDS)
def test_every_hold_of_a_sound_build_is_passed_by_the_simulated_multimeter(client, build):
    asked = question(**({"r_prog_ohm": 3000} | BUILDS[build]))
    steps = client.post("/api/questions/procedure", json=asked).json()["steps"]
    held = [step for step in steps if step["hold"]]
    assert len(held) > 7
    for step, seed in itertools.product(held, range(4)):
        value = client.post(f"/api/instruments/multimeter/{step['key']}?seed={seed}", json=asked).json()["value"]
        assert inside(hold_of(step["hold"]), value), (step["key"], value)
    assert client.post("/api/instruments/multimeter/photograph", json=asked).status_code == 404


@pytest.mark.parametrize(
    ("step", "fault"),
    [("resistor", "wrong_resistor"), ("cell_volts", "swapped_leads"), ("rest", "self_discharge"),
     ("short_check", "load_left_on"), ("full", "over_charge")],
)  # fmt: skip
def test_a_fault_is_held_up_by_its_hold(client, step, fault):
    asked = question(r_prog_ohm=3000)
    hold = next(
        one["hold"] for one in client.post("/api/questions/procedure", json=asked).json()["steps"] if one["key"] == step
    )
    value = client.post(f"/api/instruments/multimeter/{step}?fault={fault}", json=asked).json()["value"]
    assert not inside(hold_of(hold), value)


def test_the_first_charge_is_watched_by_hand_too(client):
    asked = question()
    plan_ = client.post("/api/questions/first-charge", json=asked).json()
    assert [prompt["minutes"] for prompt in plan_["prompts"]] == sorted(p["minutes"] for p in plan_["prompts"])
    watch = {"readings": [{"minutes": 4, "current_a": "390 mA"}, {"minutes": 20, "celsius": 47, "volts": "4.1 V"}]}
    asked["document"]["builds"][0]["record"]["first_charge"] = watch | {"full_v": 4.19, "rested_v": 4.10}
    seen = client.post("/api/questions/first-charge", json=asked).json()
    assert [(alarm["code"], alarm["minutes"]) for alarm in seen["alarms"]] == [("watch.too_warm", 20)]
    assert seen["rest_drop_v"]["value"] == pytest.approx(0.09)
    assert "over the limit of 50 mV" in seen["rest_says"]
    assert client.post("/api/questions/first-charge", json=question(boards=[])).status_code == 409


# Trainer ---------------------------------------------------------------------------------------------------------

# What a bench hand would measure first at each complaint, and conclude (common practice, no source).
DIAGNOSES = {
    "lamp": (["late_a"], "load_left_on"),
    "warm": (["r_prog_ohm"], "wrong_resistor"),
    "short": (["capacity_ah"], "worn_cell"),
    "lying": (["off_a", "day_drop_v"], "self_discharge"),
    "resets": (["peak_a", "trip_a"], "protection_trips"),
    "new": (["lead_v"], "swapped_leads"),
}


def graded(client, bench, measured, conclusion):
    return client.post(f"/api/trainer/{bench}/grade", json={"measured": measured, "conclusion": conclusion}).json()


def test_six_benches_each_with_one_thing_wrong(client):
    offered = client.get("/api/trainer").json()
    assert [bench["key"] for bench in offered["benches"]] == list(DIAGNOSES)
    assert len({truth for _, truth in DIAGNOSES.values()}) == 6
    for bench, (measured, truth) in DIAGNOSES.items():
        assert graded(client, bench, measured, truth)["points"] == 10
        wrong = next(conclusion for conclusion in CONCLUSIONS if conclusion != truth)
        assert graded(client, bench, measured, wrong)["points"] == 5
        guessed = graded(client, bench, [], truth)
        assert (guessed["points"], guessed["proven"]) == (5, False)
        assert guessed["explanation"]


def test_measuring_everything_costs_and_powering_swapped_leads_costs_more(client):
    everything = [probe["probe"] for probe in client.get("/api/trainer").json()["probes"]]
    assert graded(client, "warm", everything, "wrong_resistor")["points"] == 8
    burnt = graded(client, "new", ["charge_a", "lead_v"], "swapped_leads")
    assert burnt["points"] == 5
    assert "the board is dead" in " ".join(burnt["said"])


@pytest.mark.parametrize("seed", [1, 7, 42])
def test_the_readings_of_a_bench_fit_together(client, seed):
    def reads(bench, probe):
        return client.get(f"/api/trainer/{bench}/{probe}?seed={seed}").json()["text"]

    assert reads("new", "lead_v").startswith("-")
    assert reads("lamp", "lead_v").startswith("3.")
    assert reads("warm", "charge_a").endswith("A")
    assert 0.85 < read(reads("warm", "charge_a"), "A") < 1.1
    assert reads("lamp", "late_a") != "0 A"
    assert reads("short", "late_a") == "0 A"
    assert reads("warm", "r_prog_ohm") == reads("warm", "r_prog_ohm")  # the same bench reads the same


def test_a_bench_that_is_none(client):
    assert client.get("/api/trainer/attic/lead_v").status_code == 404
    assert client.get("/api/trainer/lamp/smell").status_code == 404
