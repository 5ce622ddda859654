"""A sweep by the routes of the API, at a stand-in: begun, looked at, stopped, left alone; where its readings may go."""

import time

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.core.models import Project
from pocketspark.core.questions.load_law import laws_of_readings
from pocketspark.instruments.supply_stand_in import SimulatedGadget, SimulatedSupply, SupplyStandIn
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

LIT = {"name": "lit", "current_a": 0.06}
SWEEP = "/api/instruments/supply-sweep"


@pytest.fixture
def client(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path, demo=False))) as client:
        yield client


@pytest.fixture
def leds():
    with SupplyStandIn(SimulatedSupply(lambda volts: max(volts - 2.9, 0.0) / 22)) as stand_in:
        yield stand_in


def question(stand_in, *, practice=False, of="mode", **changes):
    document = plan(practice=practice, **changes).model_dump(mode="json")
    return {"document": document, "address": getattr(stand_in, "address", stand_in), "step_s": 0, "of": of}


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
    assert (news["state"], news["simulated"], news["share"]) == ("finished", True, 1.0)
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
    assert news["share"] < 1


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
    assert "from 3.60 V down" in news["results"][0]
    assert "SOUR:VOLT:PROT 3.9" in leds.supply.heard
    assert "SOUR:CURR 0.1" in leds.supply.heard  # five times what it is known to draw


def gadget_of_its_own(law, stops_v, starts_v, fault=None):
    return SupplyStandIn(SimulatedSupply(SimulatedGadget(law, stops_v, starts_v, fault)))


def told(client, stand_in, **how):
    with stand_in:
        news = looked_at(client, client.post(SWEEP, json=question(stand_in, practice=True, **how)).json())
    assert news["state"] == "finished", news["failure"]
    # Of the rows of readings the first.
    return news, {edit["path"]: edit["value"] for edit in reversed(news["edits"])}


@pytest.mark.parametrize(("stops_v", "starts_v"), [(2.4, 3.1), (2.75, 2.75), (3.3, 3.9)])
def test_where_it_stops_and_where_it_starts_again_are_found(client, stops_v, starts_v):
    """Electronics that give up and wake at volts of their own; the supply knows neither."""
    _, edits = told(client, gadget_of_its_own(lambda volts: 0.09 / volts, stops_v, starts_v))
    assert stops_v <= edits["gadget.window.v_run_min"] <= stops_v + 0.06
    if starts_v == stops_v:
        assert "gadget.window.v_start_min" not in edits
    else:
        assert starts_v <= edits["gadget.window.v_start_min"] <= starts_v + 0.06


def test_what_surges_when_it_starts_has_a_peak_and_a_steady_load_none(client):
    # Watched from its first moment on.
    _, edits = told(client, gadget_of_its_own(lambda volts: volts / 90, 1.0, 1.2, "surges"), gadget={"modes": [LIT]})
    peak_a = next(value for path, value in edits.items() if path.startswith("gadget") and "peak_a" in path)
    top_v = next(value["volts"] for path, value in edits.items() if path.endswith(".readings.+"))
    assert peak_a == pytest.approx(4 * top_v / 90, rel=0.02)
    _, edits = told(client, gadget_of_its_own(lambda volts: volts / 90, 1.0, 1.2), gadget={"modes": [LIT]})
    assert not any(path.endswith(".peak_a") for path in edits)


def test_its_sleep_is_read_at_the_volts_of_its_old_batteries(client):
    news, edits = told(client, gadget_of_its_own(lambda _volts: 0.0042, 1.0, 1.0), of="sleep")
    assert edits["gadget.off_current_a"] == pytest.approx(0.0042)
    news, edits = told(client, gadget_of_its_own(lambda _volts: 60e-6, 1.0, 1.0), of="sleep")
    assert "with a multimeter" in news["results"][0]


def test_whoever_watches_says_when_it_has_stopped_and_started(client):
    """A lamp that is too dim to be of use draws on: nothing but an eye tells."""
    with SupplyStandIn(SimulatedSupply(lambda volts: volts / 60)) as stand_in:
        asked = question(stand_in, practice=True) | {"step_s": 0.5}
        news = client.post(SWEEP, json=asked).json()
        seen = f"{SWEEP}/{news['id']}/seen"
        dims_v, lit_v, down = 2.9, 3.05, True
        while news["state"] == "running":
            time.sleep(0.05)
            if stand_in.supply.on and down and stand_in.supply.volts < dims_v:
                client.post(seen, json={"seen": "stopped"})
                down = False
            elif not down and stand_in.supply.volts > lit_v:
                client.post(seen, json={"seen": "started"})
            elif not down and len(stand_in.supply.heard) > 10 and stand_in.supply.volts < dims_v - 0.02:
                client.post(seen, json={"seen": "stopped"})
            news = client.get(f"{SWEEP}/{news['id']}").json()
    edits = {edit["path"]: edit["value"] for edit in news["edits"]}
    assert dims_v - 0.05 <= edits["gadget.window.v_run_min"] <= lit_v + 0.1


@pytest.mark.parametrize("fault", ["shorted", "loose", "stops_early", "starts_hard"])
def test_what_is_wrong_with_a_gadget_harms_nothing(client, fault):
    with gadget_of_its_own(lambda volts: 0.09 / volts, 2.2, 2.4, fault) as stand_in:
        news = looked_at(client, client.post(SWEEP, json=question(stand_in, practice=True)).json())
        assert news["state"] in ("finished", "failed")
        assert not stand_in.supply.on
