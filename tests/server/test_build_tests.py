"""A build tested by a supply and a load: what each test reads of a bench with this build, sound and with each fault.

What is expected is worked from the parts' own figures here: ohms, volts, shares. Common practice, no source.
"""

import time

import pytest
from fastapi.testclient import TestClient

from builders import plan
from pocketspark.core.bench_tests.of_a_build import KINDS
from pocketspark.core.chain import Chain
from pocketspark.instruments.build_stand_in import on_the_bench
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

TEST = "/api/instruments/build-test"
BUCK = {"kind": "buck_boost", "v_set": 3.3, "rated_a": 1.0}


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    with TestClient(create_app(Settings(data=tmp_path_factory.mktemp("data"), demo=False))) as client:
        yield client


def question(test, practice=True, **changes):
    at = {"supply": "simulated", "load": "simulated", "speed_up": 2000.0}
    return {"document": plan(practice=practice, **changes).model_dump(mode="json"), "test": test} | at


def told_by(client, test, fault=None, **changes):
    begun = client.post(TEST, json=question(test, **changes) | {"fault": fault})
    assert begun.status_code == 201, begun.text
    news = begun.json()
    until = time.monotonic() + 60
    while news["state"] == "running" and time.monotonic() < until:
        time.sleep(0.1)
        news = client.get(f"{TEST}/{news['id']}").json()
    assert news["says"] in ("", "Supply and load are off.")
    return news


def number(news):
    return float(news["reading"].split()[0])


def test_the_charge_current_is_that_of_the_resistor(client):
    chain = Chain(plan(), 0)
    planned_a = chain.required_charging().current.spread.nominal_a
    news = told_by(client, "charge_current")
    assert number(news) == pytest.approx(planned_a, rel=0.02)
    assert news["reading"].endswith(" A")
    assert number(told_by(client, "charge_current", "wrong_resistor")) == pytest.approx(0.6 * planned_a, rel=0.02)


def test_the_end_of_charge_is_at_its_float_voltage(client):
    news = told_by(client, "end_of_charge")
    assert 4.15 <= number(news) <= 4.21
    assert number(told_by(client, "end_of_charge", "over_charge")) > 4.22


def test_the_protection_opens_where_its_transistors_say(client):
    """0.15 V over two transistors of 25 mohm: 3 A."""
    news = told_by(client, "protection")
    v_trip = next(edit["value"] for edit in news["edits"] if edit["path"].endswith("v_trip"))
    assert v_trip / (2 * 0.025) == pytest.approx(3.0, rel=0.03)
    assert "within" in news["result"]
    assert news["reading"] == ""  # the checkpoint beside it asks for volts
    assert "opens at 1.49 A" in told_by(client, "protection", "opens_early")["result"]
    dead = told_by(client, "protection", "never_opens")
    assert "protects nothing" in dead["result"]
    assert dead["edits"] == []


def test_volts_at_the_gadget_from_full_to_empty_and_idle_to_peak(client):
    lit = {"name": "lit", "current_a": 0.2, "peak_a": 0.4}
    window = {"v_run_min": 3.0, "v_abs_max": 4.6}
    news = told_by(client, "output", gadget={"modes": [lit], "window": window})
    through_ohm = Chain(plan(gadget={"modes": [lit]}), 0).required_running().chosen.path_ohm
    assert number(news) == pytest.approx(3.7 - 0.2 * through_ohm, abs=0.01)
    assert "inside the window" in news["result"]
    weak = told_by(client, "output", "weak_joint", gadget={"modes": [lit], "window": window})
    assert number(weak) == pytest.approx(3.7 - 0.2 * (through_ohm + 1.5), abs=0.01)
    assert "Too low" in weak["result"]
    over = told_by(client, "output", "not_set", gadget={"modes": [lit], "window": window})
    assert "Too high" in over["result"]


def test_the_regulator_alone(client):
    assert number(told_by(client, "regulator", regulator=BUCK)) == pytest.approx(3.3, abs=0.01)
    assert number(told_by(client, "regulator", "not_set", regulator=BUCK)) == pytest.approx(3.3 * 1.25, abs=0.02)


def test_each_is_offered_at_its_checkpoint_and_only_where_there_is_something_to_test(client):
    document = plan(regulator=BUCK).model_dump(mode="json")
    for key, kind in KINDS.items():
        offered = client.post(f"{TEST}/of-step", json={"document": document, "step": kind.step}).json()
        assert key in [one["key"] for one in offered]
    bare = plan(regulator={"kind": "none"}).model_dump(mode="json")
    assert client.post(f"{TEST}/of-step", json={"document": bare, "step": "regulator"}).json() == []
    assert client.post(f"{TEST}/of-step", json={"document": bare, "step": "close"}).json() == []


def test_a_real_build_is_never_tested_on_the_simulated_bench(client):
    refused = client.post(TEST, json=question("output", practice=False))
    assert refused.status_code == 409
    assert "practice copies alone" in refused.json()["detail"]
    assert client.post(TEST, json=question("nothing")).status_code == 404


def test_what_is_stopped_or_left_alone_is_off(client):
    """At a bench of our own, so that what it was left at can be looked up."""
    chain = Chain(plan(), 0)
    with on_the_bench(chain, "end_of_charge", speed_up=1.0) as bench:
        asked = question("end_of_charge", practice=False) | {
            "supply": bench.supply,
            "load": bench.load,
            "speed_up": 1.0,
        }
        begun = client.post(TEST, json=asked).json()
        assert client.post(TEST, json=asked).status_code == 409  # there is one bench
        stand_in = bench.device.supply
        until = time.monotonic() + 10
        while not stand_in.on and time.monotonic() < until:
            time.sleep(0.02)
        assert stand_in.on
        assert client.delete(f"{TEST}/{begun['id']}").status_code == 204
        assert not stand_in.on
        news = client.get(f"{TEST}/{begun['id']}").json()
    assert (news["state"], news["reading"], news["says"]) == ("stopped", "", "Supply and load are off.")


@pytest.mark.parametrize("manner", ["runs_away", "lies", "mute"])
def test_a_supply_that_does_what_it_is_not_told_ends_it(client, manner):
    with on_the_bench(Chain(plan(), 0), "output") as bench:
        bench.device.supply.manner = manner
        asked = question("output", practice=False) | {"supply": bench.supply, "load": bench.load}
        news = client.post(TEST, json=asked).json()
        until = time.monotonic() + 30
        while news["state"] == "running" and time.monotonic() < until:
            time.sleep(0.1)
            news = client.get(f"{TEST}/{news['id']}").json()
        assert news["state"] == "failed"
        assert news["failure"]
        assert not bench.device.supply.on
        assert not bench.device.on
