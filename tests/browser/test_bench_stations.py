"""Wire, Build and Prove on the real page: a miswiring caught, a hold that holds, a log read and learnt from."""

import re

import pytest
from playwright.sync_api import expect


def ledger(page):
    return page.get_by_role("region", name="Findings")


def saved(page):
    expect(page.get_by_text(re.compile(r"Saved \d\d:\d\d"))).to_be_visible()


def test_a_miswiring_is_caught_and_undone(conversion):
    page = conversion("Moth-trap lamp", "Wire")
    page.get_by_role("button", name="pad cell.-").press("Enter")
    page.get_by_role("button", name="pad gadget.-").press("Enter")
    expect(ledger(page)).to_contain_text("the guard is bypassed")
    page.get_by_role("button", name="Wire it as the tool does").first.click()
    expect(ledger(page)).not_to_contain_text("the guard is bypassed")
    with page.expect_download() as download:
        page.get_by_role("button", name="Running, netlist").click()
    assert download.value.suggested_filename == "moth-trap-lamp-running.cir"
    with page.expect_download() as download:
        page.get_by_role("button", name="Sheet").click()
    assert download.value.suggested_filename == "moth-trap-lamp-sheet.pdf"
    assert download.value.path().read_bytes().startswith(b"%PDF")


def test_a_hold_holds_and_progress_survives_a_reload(conversion):
    page = conversion("Bat-call detector", "Build")
    page.get_by_role("button", name="Done", exact=True).click()
    expect(page.get_by_role("heading", name=re.compile("Prove that it works"))).to_be_visible()
    page.get_by_role("button", name=re.compile("Set the program resistor")).click()
    reads = page.get_by_label(re.compile("resistance at the program pin"))
    reads.fill("1200")
    page.get_by_role("button", name="Hold it against the limits").click()
    expect(page.get_by_text(re.compile("Outside its limits. Most likely: a cell or USB"))).to_be_visible()
    expect(page.get_by_text("This one has no way round")).to_be_visible()
    reads.fill("3000")
    page.get_by_role("button", name="Hold it against the limits").click()
    expect(page.get_by_role("heading", name="Prove the charger board alone on USB")).to_be_visible()
    page.get_by_label("What happened").fill("second board fitted, the first was dead")
    page.get_by_role("button", name="Write it down").click()
    saved(page)
    page.reload()
    expect(page.get_by_text(re.compile(r"^2 of \d+ done"))).to_be_visible()
    expect(page.get_by_text("second board fitted, the first was dead")).to_be_visible()


def test_a_log_is_read_and_its_capacity_adopted(conversion):
    page = conversion("Bat-call detector", "Prove")
    page.get_by_role("button", name="Run it").click()
    expect(page.get_by_role("img", name="Measured over foretold")).to_be_visible()
    expect(page.get_by_text("Nothing out of the ordinary.")).to_be_visible()
    page.get_by_role("listitem").filter(has_text="capacity").get_by_role("button", name="Take it as measured").click()
    expect(page.get_by_text(re.compile("capacity .* adopted from simulated-charge.csv"))).to_be_visible()
    saved(page)


def test_a_file_that_is_no_log_gets_a_sentence(conversion):
    page = conversion("Moth-trap lamp", "Prove")
    page.get_by_label("Log file").set_input_files({"name": "x.csv", "mimeType": "text/csv", "buffer": b"hello"})
    expect(page.get_by_role("alert").first).to_contain_text("no line of figures")


@pytest.mark.parametrize("options", [{}, {"dark": True}, {"width": 390, "height": 844}], ids=["light", "dark", "phone"])
@pytest.mark.parametrize("station", ["Wire", "Build", "Prove"])
def test_the_bench_stations_are_accessible_and_hold(conversion, serious, station, options):
    page = conversion("Moth-trap lamp", station, **options)
    page.wait_for_load_state("networkidle")
    assert serious(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= options.get("width", 1280)
