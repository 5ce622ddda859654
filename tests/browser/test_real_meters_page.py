"""A meter is connected, tried and recorded from at Prove, and read at a press where a figure is wanted."""

import re

import httpx
import pytest
from picking import choose
from playwright.sync_api import expect

from pocketspark.instruments import Bench, Meter, charge_log
from pocketspark.instruments.stand_ins import BoardStandIn, ScpiStandIn, on_the_bench


@pytest.fixture
def bench(app, data_folder):
    """Stand-ins of a board and a bench meter at one charge, and no meter kept afterwards."""
    running = on_the_bench(charge_log(Bench(), Meter()), 600)
    with BoardStandIn(running, data_folder / "ports" / "simulated-board") as board, ScpiStandIn(running) as meter:
        yield board, meter
    for kept in httpx.get(f"{app}/api/instruments/meters").json()["connections"]:
        httpx.post(f"{app}/api/instruments/meters/removed", json={"name": kept["name"]})


def connect_the_board(meters):
    meters.get_by_role("button", name="Connect a meter").click()
    meters.get_by_label("Name", exact=True).fill("Little board")
    choose(meters, "Port", re.compile("simulated-board"))
    choose(meters, "Gives", "volts, amps and degrees")
    choose(meters, "Bare amps in", "mA")
    meters.get_by_role("button", name="Try it").click()
    expect(meters.get_by_role("status").first).to_contain_text("Simulated")
    expect(meters.get_by_label("What it wrote")).to_contain_text(",")
    meters.get_by_role("button", name="Keep it").click()
    expect(meters.get_by_role("checkbox", name=re.compile("Little board"))).to_be_checked()


@pytest.mark.usefixtures("bench")
def test_a_board_is_connected_and_a_charge_recorded(conversion, serious):
    page = conversion("Bat-call detector", "Prove")
    meters = page.get_by_role("region", name="Your meters")
    connect_the_board(meters)
    # A stand-in has nothing to prove on a real build.
    meters.get_by_role("button", name="Record").click()
    expect(meters.get_by_role("alert")).to_contain_text("practice copy")
    page.get_by_role("button", name="Practise on a copy").click()
    expect(page.get_by_role("button", name="Practise on a copy")).to_have_count(0)
    meters.get_by_role("button", name="Record").click()
    status = meters.get_by_role("status")
    expect(status).to_contain_text(re.compile(r"\d+ (min|h).*\d\.\d\d V.*mA"))
    expect(meters.get_by_role("img", name="As it is measured")).to_be_visible()
    assert serious(page) == []
    page.reload()
    expect(status).to_contain_text(re.compile(r"\d+ (min|h).*\d\.\d\d V"))
    page.wait_for_timeout(3000)  # as many rows as make a log
    meters.get_by_role("button", name="Stop").click()
    expect(page.get_by_role("region", name="What it shows")).to_be_visible()


def test_a_bench_meter_by_its_address_and_a_wrong_one(conversion, bench):
    page = conversion("Bat-call detector", "Prove")
    meters = page.get_by_role("region", name="Your meters")
    meters.get_by_role("button", name="Connect a meter").click()
    choose(meters, "Reached by", "SCPI")
    for address, sentence in (("8.8.8.8:5025", "not on your own network"), ("nonsense", "is written like")):
        meters.get_by_label("Address").fill(address)
        meters.get_by_role("button", name="Try it").click()
        expect(meters.get_by_role("alert")).to_contain_text(sentence)
    meters.get_by_label("Address").fill(bench[1].address)
    meters.get_by_role("button", name="Try it").click()
    expect(meters.get_by_role("status").first).to_contain_text("SIMULATED METER")
    meters.get_by_label("Name", exact=True).fill("Bench meter")
    meters.get_by_label("Last digit of volts").fill("plenty")
    meters.get_by_role("button", name="Keep it").click()
    expect(meters.get_by_role("alert")).to_contain_text("Last digit of volts: 'plenty' is not a number")
    meters.get_by_label("Last digit of volts").fill("100 uV")
    meters.get_by_role("button", name="Keep it").click()
    expect(meters.get_by_role("checkbox", name=re.compile("Bench meter"))).to_be_visible()


@pytest.mark.usefixtures("bench")
def test_a_reading_is_taken_at_a_press(conversion):
    page = conversion("Bat-call detector", "Prove")
    connect_the_board(page.get_by_role("region", name="Your meters"))
    watch = page.get_by_role("region", name="First charge")
    watch.get_by_role("button", name="It is plugged in: start the clock").click()
    watch.get_by_role("button", name="Read Little board").click()
    expect(watch.get_by_role("alert")).to_contain_text("practice copies alone")
    page.get_by_role("button", name="Practise on a copy").click()
    watch.get_by_role("button", name="It is plugged in: start the clock").click()
    watch.get_by_role("button", name="Read Little board").click()
    expect(watch.get_by_role("listitem")).to_contain_text(re.compile(r"\d\.\d\d V, \d{3} mA, \d\d"))
