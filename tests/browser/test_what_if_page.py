"""What if one thing goes wrong: picked on the hook-up and in the list, drawn as it flows, and what would help."""

import re

import httpx
from playwright.sync_api import expect

from pocketspark.demo import demo_projects


def what_if(page):
    """From the wires to the page of single faults."""
    page.get_by_role("link", name="What if one thing goes wrong").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("One single fault is dangerous")


def test_the_gravest_stands_first_and_is_drawn_with_what_flows(conversion, serious):
    page = conversion("Pocket anemometer", "wire")
    what_if(page)
    listed = page.get_by_role("complementary", name="Single faults")
    expect(listed.get_by_role("heading", level=2).first).to_contain_text("Dangerous")
    listed.get_by_role("button", name="Cell + and cell - meet").click()
    told = page.get_by_role("article", name="This fault")
    expect(told).to_contain_text("The cell gives 16.2 A, and may give 640 mA.")
    expect(told).to_contain_text("Nothing opens.")
    expect(page.get_by_role("group", name="Hook-up")).to_contain_text("16.2 A")
    assert serious(page) == []
    page.get_by_role("group", name="When").get_by_role("button", name="charging", exact=True).click()
    expect(page.get_by_role("group", name="Hook-up")).not_to_contain_text("16.2 A")
    page.get_by_role("button", name="As it should be").click()
    expect(page.get_by_text("Nothing has failed")).to_be_visible()


def test_two_pads_are_picked_on_the_drawing_by_keys(conversion):
    page = conversion("Pocket anemometer", "wire")
    what_if(page)
    for pad in ("pad gadget.+", "pad gadget.-"):
        page.get_by_role("button", name=re.compile(f"^{re.escape(pad)}")).focus()
        page.keyboard.press("Enter")
    expect(page.get_by_role("article", name="This fault").get_by_role("heading")).to_contain_text(
        "Gadget + and gadget - meet"
    )
    listed = page.get_by_role("complementary", name="Single faults")
    expect(listed.get_by_role("listitem")).to_have_count(1)
    listed.get_by_role("button", name="All of them").click()
    expect(listed.get_by_role("listitem")).not_to_have_count(1)


def test_what_would_help_is_taken_and_the_danger_is_gone(conversion):
    page = conversion("Pocket anemometer", "wire")
    what_if(page)
    helps = page.get_by_role("list", name="What would help")
    helps.get_by_role("button", name="Put a polyfuse of 350 mA into the cell's lead").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("No single fault is dangerous")
    page.get_by_role("button", name="← Pocket anemometer").click()
    expect(page.get_by_role("heading", name="What goes to what")).to_be_visible()


def test_on_a_phone_in_the_dark_it_holds(conversion, serious):
    page = conversion("Moth-trap lamp", "wire", width=390, height=844, dark=True)
    page.get_by_role("link", name="What if one thing goes wrong").click()
    listed = page.get_by_role("complementary", name="Single faults")
    listed.get_by_role("button", name="The leads of the cell are swapped").click()
    expect(page.get_by_role("article", name="This fault")).to_contain_text("is destroyed")
    assert page.evaluate("document.documentElement.scrollWidth") <= 390
    assert serious(page) == []


def test_the_first_moment_hiccups_where_a_large_capacitor_trips_the_protection(app, open_page, serious):
    lamp = next(one for one in demo_projects() if one.gadget.name == "Moth-trap lamp").model_dump(mode="json")
    lamp["gadget"] |= {"front_end": "logic", "capacitance_f": 4.7e-3}
    made = httpx.post(f"{app}/api/projects", json=lamp).raise_for_status().json()["id"]
    page = open_page(f"/conversion/{made}/power")
    section = page.get_by_role("region", name="Switched on")
    expect(section).to_contain_text("It hiccups")
    expect(section.get_by_role("img", name="The first tenth of a second").locator("polyline")).to_have_count(6)
    assert serious(page) == []
    httpx.delete(f"{app}/api/projects/{made}").raise_for_status()


def test_where_it_lives_is_picked_in_pictures_and_judged(conversion, serious):
    page = conversion("Bat-call detector", "survey")
    places = page.get_by_role("group", name="Where it lives, in pictures")
    expect(places.get_by_role("button")).to_have_count(9)
    places.get_by_role("button", name="In a car").click()
    expect(page.get_by_text("On its worst day it gets 75 °C")).to_be_visible()
    places.get_by_role("button", name="Garden").click()
    expect(page.get_by_text("the hole for its socket lets water in")).to_be_visible()
    page.get_by_role("button", name="It gets a cap with a seal, facing down").click()
    expect(page.get_by_text("the hole for its socket lets water in")).to_have_count(0)
    expect(places.get_by_role("button", name="Garden")).to_have_attribute("aria-pressed", "true")
    assert serious(page) == []
