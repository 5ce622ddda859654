"""A sweep by the routes of the API, at a stand-in: begun, looked at, stopped, left alone; where its readings may go."""

import time

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.core.models import Project
from pocketspark.core.questions.load_law import laws_of_readings
from pocketspark.instruments.supply_stand_in import SimulatedSupply, SupplyStandIn
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

SWEEP = "/api/instruments/supply-sweep"


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


@pytest.fixture
def leds():
    with SupplyStandIn(SimulatedSupply(lambda volts: max(volts - 2.9, 0.0) / 22)) as stand_in:
        yield stand_in


def question(stand_in, *, practice=False, **changes):
    document = plan(practice=practice, **changes).model_dump(mode="json")
    return {"document": document, "address": getattr(stand_in, "address", stand_in)}


def looked_at(client, news):
    while news["state"] == "running":
        time.sleep(0.2)
        news = client.get(f"{SWEEP}/{news['id']}").json()
    return news


def test_a_sweep_in_a_practice_copy_ends_in_the_law_of_the_gadget(client, leds):
    asked = question(leds, practice=True)
    begun = client.post(SWEEP, json=asked)
    assert begun.status_code == 201
    assert client.post(SWEEP, json=asked).status_code == 409  # there is one bench
    news = looked_at(client, begun.json())
    assert (news["state"], news["simulated"], len(news["readings"])) == ("finished", True, news["steps"])
    assert not leds.supply.on
    assert "The supply is off." in news["says"]
    edited = client.post("/api/questions/edited", json={"document": asked["document"], "edits": news["edits"]}).json()
    project = Project.model_validate(edited["document"])
    assert "LEDs and their resistor" in str(laws_of_readings(project, "").headline)


def test_a_stand_ins_readings_stay_out_of_what_is_built(client, leds):
    news = looked_at(client, client.post(SWEEP, json=question(leds)).json())
    assert news["state"] == "finished"
    assert news["edits"] == []
    assert "practice copies alone" in news["says"]


def test_where_nobody_looks_it_is_stopped_and_off(client, leds):
    begun = client.post(SWEEP, json=question(leds)).json()
    until = time.monotonic() + 15
    while not leds.supply.on and time.monotonic() < until:
        time.sleep(0.02)
    while leds.supply.on and time.monotonic() < until:
        time.sleep(0.1)
    assert not leds.supply.on
    news = looked_at(client, client.get(f"{SWEEP}/{begun['id']}").json())
    assert news["state"] == "stopped"
    assert len(news["readings"]) < news["steps"]


def test_stop_answers_when_it_is_off(client, leds):
    begun = client.post(SWEEP, json=question(leds)).json()
    while not leds.supply.on:
        time.sleep(0.02)
    assert client.delete(f"{SWEEP}/{begun['id']}").status_code == 204
    assert not leds.supply.on
    assert client.get(f"{SWEEP}/{begun['id']}").json()["state"] == "stopped"
    assert client.get(f"{SWEEP}/99").status_code == 404


def test_what_cannot_be_begun_says_why(client, leds):
    nobody = looked_at(client, client.post(SWEEP, json=question("127.0.0.1:9")).json())
    assert nobody["state"] == "failed"
    assert "answers as a supply" in nobody["failure"]
    assert client.post(SWEEP, json=question(leds, gadget={"modes": []})).status_code == 409
    assert client.post(SWEEP, json=question("x" * 300)).status_code == 422


def test_one_that_cannot_say_that_it_is_off_is_told_to_be_switched_off_by_hand(client):
    with SupplyStandIn(SimulatedSupply(lambda volts: volts / 40, "deaf")) as stand_in:
        news = looked_at(client, client.post(SWEEP, json=question(stand_in)).json())
    assert news["state"] == "failed"
    assert "switch it off by hand" in news["says"]


def test_it_begins_at_fresh_batteries_and_never_over_what_the_gadget_survives(client, leds):
    fragile = {"window": {"v_run_min": 2.0, "v_abs_max": 3.6}, "modes": [{"name": "on", "current_a": 0.02}]}
    news = looked_at(client, client.post(SWEEP, json=question(leds, gadget=fragile)).json())
    assert max(one["volts"]["value"] for one in news["readings"]) == pytest.approx(3.6)
    assert "SOUR:VOLT:PROT 3.9" in leds.supply.heard
    assert "SOUR:CURR 0.1" in leds.supply.heard  # five times what it is known to draw
