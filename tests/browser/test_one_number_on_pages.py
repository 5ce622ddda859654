"""One quantity is one text on every page, and the one that the core's assessment has. Found by the words around it."""

import re

import httpx
import pytest
from playwright.sync_api import expect

from chances import in_turn
from figures_in_words import AMPS, TIME, VOLTS, at
from pocketspark.demo import demo_projects

PAGES = {
    "charging.current_a": [rf"Charger · {AMPS}", rf"The charge: {AMPS}, full in", rf"Ω,? {AMPS}, (?:between|full in)"],
    "charge.current_least_a": [rf"Ω {AMPS[1:-1]}, between {AMPS} and"],
    "charge.current_most_a": [rf"Ω {AMPS[1:-1]}, between {AMPS[1:-1]} and {AMPS}"],
    "charging.hours": [rf"full in about {TIME}"],
    "charging.hours_least": [rf"Between {TIME} and .{{3,10}} on the bench"],
    "charging.hours_most": [rf"and {TIME} on the bench"],
    "charging.hours_to_80": [rf"80 % after {TIME}"],
    "run.served_days": [rf"It lasts {TIME} on a charge", rf"{TIME} as used,"],
    "run.standby_days": [rf"{TIME} switched off"],
    "gadget_v.max": [rf"{VOLTS} at most, \S+ V at the end", rf"{VOLTS} to \S+ V at the gadget"],
    "gadget_v.min": [rf"at most, {VOLTS} at the end", rf"to {VOLTS} at the gadget"],
    "run.protection.trip_least_a": [rf"Trips between {AMPS}"],
    "run.protection.peak_a": [rf"the peak is {AMPS}"],
    "charge.junction_c_most": [r"it gets to (\S+ °C) at most"],
}
STATIONS = ["verdict", "power", "charge", "sheet?build=0"]
PLANNED = [one.gadget.name for one in demo_projects() if one.builds[0].cell and one.builds[0].boards]


@pytest.mark.parametrize("gadget", in_turn(PLANNED, 2))
def test_every_page_says_what_the_core_says(conversion, app, gadget):
    page, found = conversion(gadget), set()
    address = re.search(r"/conversion/(\d+)", page.url)[1]
    document = httpx.get(f"{app}/api/projects/{address}").json()["project"]
    body = {"document": document, "build": "0"}
    seen = httpx.post(f"{app}/api/questions/assess", json=body).json()["assessment"]
    for station in STATIONS:
        page.goto(f"{app}/conversion/{address}/{station}")
        expect(page.get_by_role("heading").first).to_be_visible()
        page.wait_for_load_state("networkidle")
        text = " ".join(page.locator("body").inner_text().split())
        for meaning, places in PAGES.items():
            for words in places:
                for said in re.findall(words, text):
                    found.add(meaning)
                    assert said == at(seen, meaning), (gadget, station, meaning, words)
    assert len(found) > 8
