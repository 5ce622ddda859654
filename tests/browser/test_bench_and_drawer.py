"""A build tested by supply and load, one pack for several gadgets, a cell found by its label, what to buy for all."""

import re

from picking import choose
from playwright.sync_api import expect

from pocketspark.core.cells.cell_code import code_of


def test_a_checkpoint_is_answered_on_the_simulated_bench(conversion, serious):
    page = conversion("Moth-trap lamp", "Build")
    page.get_by_role("button", name="Practise on a copy").click()
    expect(page.get_by_text("Practice copy.")).to_be_visible()
    steps = page.get_by_role("list", name="All steps")
    steps.get_by_role("button").filter(has_text="volts at the gadget's terminals").click()
    page.get_by_text("Let a supply and a load read it").click()
    page.get_by_role("button", name="Test it on the simulated bench").click()
    expect(page.get_by_role("button", name="Stop, off")).to_be_visible()
    expect(page.get_by_text("inside the window everywhere")).to_be_visible(timeout=60_000)
    assert serious(page) == []
    reading = page.get_by_role("textbox", name="volts at the gadget")
    expect(reading).to_have_value(re.compile(r"3\.\d+ V"))
    page.get_by_role("button", name="Check it against the limits").click()
    expect(steps.get_by_role("button").filter(has_text="volts at the gadget's terminals")).to_have_class(
        re.compile("done")
    )


def test_a_pack_says_whom_it_serves_and_what_never(conversion, serious):
    page = conversion("Moth-trap lamp", "Power")
    expect(page.get_by_role("region", name="One pack for several gadgets")).to_have_count(0)
    page.get_by_role("navigation", name="Stations").get_by_role("button", name="Cell").click()
    choose(page, "Where it sits", "Stand-alone pack")
    page.get_by_role("navigation", name="Stations").get_by_role("button", name="Power").click()
    pack = page.get_by_role("region", name="One pack for several gadgets")
    pack.get_by_role("button", name="+ another gadget").click()
    pack.get_by_label("Called").fill("radio")
    pack.get_by_label("Called").press("Tab")
    for label, text in (("Lowest volts", "2.2"), ("Highest volts", "3.6"), ("Draws", "30")):
        pack.get_by_label(label).fill(text)
        pack.get_by_label(label).press("Tab")
    expect(pack.get_by_text("Never: radio")).to_be_visible()
    expect(page.get_by_role("region", name="Findings")).to_contain_text("Never clip it to “radio”")
    assert serious(page) == []
    pack.get_by_label("Highest volts").fill("6")
    pack.get_by_label("Highest volts").press("Tab")
    expect(pack.get_by_text("For: radio")).to_be_visible()
    pack.get_by_label("A gadget of the shelf").select_option(label="Pond thermometer")
    expect(pack.get_by_role("group", name="Pond thermometer")).to_be_visible()
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_a_cell_is_found_by_its_label(open_page, app):
    page = open_page("/parts")
    page.get_by_label("Code on its label").fill("C1-0")
    page.get_by_role("button", name="Find it").click()
    expect(page.get_by_role("alert")).to_contain_text("look at the label again")
    page.get_by_label("Code on its label").fill(code_of(2))
    page.get_by_role("button", name="Find it").click()
    expect(page.locator("#part-2")).to_have_class(re.compile("bg-copperwash"))
    # As a phone's camera opens it.
    page.goto(f"{app}/c/{code_of(2)}")
    expect(page.locator("#part-2")).to_have_class(re.compile("bg-copperwash"))
    with page.expect_download() as sheet:
        page.get_by_role("link", name="Labels of tested cells, PDF").click()
    assert sheet.value.suggested_filename == "cell-labels.pdf"


def test_one_list_of_what_to_buy_for_all(open_page, serious):
    page = open_page("/parts")
    page.get_by_role("link", name="What to buy for all").click()
    expect(page.get_by_role("list", name="To buy").get_by_role("listitem").first).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("for Moth-trap lamp")
    assert serious(page) == []
    page.set_viewport_size({"width": 390, "height": 844})
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_the_best_cells_and_ways_stand_before_their_lists(conversion):
    page = conversion("Moth-trap lamp", "Cell")
    best = page.get_by_role("list", name="Best for this gadget").get_by_role("button")
    expect(best).to_have_count(3)
    name = best.first.inner_text().splitlines()[1]
    best.first.click()
    expect(best.first).to_have_attribute("aria-pressed", "true")
    expect(page.get_by_role("row").filter(has_text=name).first).to_be_visible()
    page.get_by_role("navigation", name="Stations").get_by_role("button", name="Power").click()
    ways = page.get_by_role("list", name="Ways that make sense").get_by_role("button")
    expect(ways.first).to_be_visible()
    ways.last.click()
    expect(ways.filter(has_text="").and_(page.locator("[aria-pressed=true]"))).to_have_count(1)
