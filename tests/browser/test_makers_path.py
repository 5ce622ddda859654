"""A maker's whole path on the real page: from an empty name to a judged plan, and what happens on the way."""

import re

import pytest
from playwright.sync_api import expect
from progress import saved


def findings(page):
    return page.get_by_role("region", name="Findings")


def station(page, name):
    page.get_by_role("navigation", name="Stations").get_by_role("button", name=name).click()


def test_from_a_name_to_a_resistor(open_page):
    page = open_page("/")
    page.get_by_label("New conversion").fill("Rain gauge")
    page.get_by_role("button", name="Start the survey").click()

    # Survey: three AAA, 12 mA
    page.get_by_role("button", name="AAA", exact=True).click()
    page.get_by_role("button", name="AAA", exact=True).click()
    expect(page.get_by_label("in series").first).to_have_value("3")
    page.get_by_role("button", name="Add the first mode").click()
    page.get_by_label("current", exact=True).fill("12")
    page.get_by_label("hours a day").fill("24")
    expect(page.get_by_text("288 mAh a day")).to_be_visible()

    # Cell: found by typing
    station(page, "Cell")
    page.get_by_label("Search the cells").fill("503450")
    page.get_by_role("button", name="Pouch 503450, 900 mAh").click()
    expect(page.get_by_label("Label says")).to_have_value("900")

    # Charge: as delivered is too much, the remedy mends it
    station(page, "Charge")
    page.get_by_role("button", name=re.compile("^1 A linear charger, Type-C, with protection")).click()
    expect(findings(page).get_by_text("into a cell rated for 900 mA")).to_be_visible()
    findings(page).get_by_role("button", name="Fit 3 kΩ", exact=True).click()
    expect(page.get_by_label("Fitted")).to_have_value("3")
    expect(page.get_by_text("full in about 2 h 35")).to_be_visible()
    expect(findings(page).get_by_text("may flow into a cell")).to_have_count(0)

    # Power: the run is drawn, and the path carries its numbers
    station(page, "Power")
    expect(page.get_by_role("img", name="Gadget voltage over charge left")).to_be_visible()
    expect(page.get_by_role("button", name=re.compile("Cell · 900 mAh 4.20 V lithium"))).to_be_visible()

    # Closed and come back: it is there
    saved(page)
    page.reload()
    station(page, "Charge")
    expect(page.get_by_label("Fitted")).to_have_value("3")
    page.get_by_role("link", name="Pocket Spark").click()
    expect(page.get_by_role("listitem").filter(has_text="Rain gauge")).to_contain_text("charges in 2 h 35")


def test_engineering_input_and_the_numbers_that_follow(conversion):
    page = conversion("Moth-trap lamp", "Charge")
    fitted = page.get_by_label("Fitted")
    fitted.fill("5k1")
    page.get_by_label("Measured on the board").fill("")
    expect(page.get_by_role("heading", name=re.compile("The charge: 235 mA"))).to_be_visible()
    fitted.blur()
    expect(fitted).to_have_value("5.1")
    fitted.press("ArrowUp")
    expect(fitted).to_have_value("5.2")
    fitted.press("ArrowUp")
    expect(fitted).to_have_value("5.3")
    fitted.fill("4k7")
    fitted.press("ArrowUp")
    expect(fitted).to_have_value("4.8")


def test_bad_input_is_explained_and_nothing_else_is_lost(conversion):
    page = conversion("Pocket anemometer", "Survey")
    current = page.get_by_label("current", exact=True).first
    current.fill("plenty")
    expect(page.get_by_role("alert")).to_contain_text("'plenty' is not a number; write it like 400 mA or 0.4")
    page.get_by_label("Lowest volts it works at").fill("2.3")
    page.get_by_label("Lowest volts it works at").blur()
    expect(current).to_have_value("plenty")
    expect(page.get_by_text("one field not saved")).to_be_visible()
    # What this device keeps is slower to be read than the server answers.
    page.add_init_script("""
        const read = IDBObjectStore.prototype.get
        IDBObjectStore.prototype.get = function (...what) {
          const late = {}
          const real = read.apply(this, what)
          real.onsuccess = () => setTimeout(() => (late.result = real.result, late.onsuccess()), 1500)
          return late
        }""")
    page.reload()
    expect(page.get_by_label("Lowest volts it works at")).to_have_value("2.3")
    expect(page.get_by_label("current", exact=True).first).to_have_value("plenty")
    expect(page.get_by_text("one field not saved")).to_be_visible()
    page.get_by_role("navigation", name="Stations").get_by_role("button", name="Charge").click()
    page.get_by_role("button", name="one field not saved").click()  # leads back to it
    expect(page.get_by_label("current", exact=True).first).to_be_focused()
    elsewhere = conversion("Pocket anemometer", "Survey")
    expect(elsewhere.get_by_label("current", exact=True).first).to_have_value("8.5")


@pytest.mark.parametrize("odd", ["-3", "9999 A", "1/0", "NaN"])
def test_odd_numbers_get_a_sentence(conversion, odd):
    page = conversion("Pocket anemometer", "Survey")
    page.get_by_label("current", exact=True).first.fill(odd)
    expect(page.get_by_role("alert")).to_be_visible()


def test_undo_and_redo_reach_past_a_reload(conversion):
    page = conversion("Bat-call detector", "Charge")
    picture = page.get_by_role("slider", name="Charge-current resistor")
    picture.press("ArrowRight")
    expect(page.get_by_label("Fitted")).to_have_value("3.3")
    saved(page)
    page.reload()
    expect(page.get_by_label("Fitted")).to_have_value("3.3")
    page.keyboard.press("Control+z")
    expect(page.get_by_label("Fitted")).to_have_value("3")
    page.keyboard.press("Control+Shift+z")
    expect(page.get_by_label("Fitted")).to_have_value("3.3")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_label("Fitted")).to_have_value("3")


def test_two_devices_see_each_others_changes_and_lose_none(conversion):
    mine, theirs = conversion("Soil-moisture probe"), conversion("Soil-moisture probe")
    theirs.get_by_label("Lowest volts it works at").fill("4.0")
    saved(theirs)
    expect(mine.get_by_label("Lowest volts it works at")).to_have_value("4")
    # Both at once, each its own figure: both are kept, and both see both.
    theirs.get_by_label("Name of the gadget").fill("Probe by the phone")
    mine.get_by_label("Highest volts it stands").fill("7")
    saved(mine)
    theirs.wait_for_timeout(2500)
    expect(theirs.get_by_label("Name of the gadget")).to_have_value("Probe by the phone")
    theirs.keyboard.press("Enter")
    for page in (mine, theirs):
        expect(page.get_by_label("Name of the gadget")).to_have_value("Probe by the phone")
        expect(page.get_by_label("Highest volts it stands")).to_have_value("7")
        expect(page.get_by_role("alert")).to_have_count(0)


def test_a_field_stays_as_typed_until_it_is_a_number(conversion):
    """While something else is typed, the save that comes back does not yet hold it: no "4.1 V" beside the field's V."""
    page = conversion("Soil-moisture probe")

    def late(route):
        if route.request.method == "PUT":
            page.wait_for_timeout(300)
        route.continue_()

    page.route("**/api/projects/*", late)
    lowest, highest = page.get_by_label("Lowest volts it works at"), page.get_by_label("Highest volts it stands")
    watching = "input => { window.seen = new Set(); setInterval(() => window.seen.add(input.value), 4) }"
    lowest.evaluate(watching)
    lowest.fill("4.10")
    highest.fill("7")
    for digit in (".", "1", "2"):
        page.wait_for_timeout(150)
        highest.press("End")
        highest.press(digit)
    page.get_by_label("Name of the gadget").click()
    saved(page)
    expect(lowest).to_have_value("4.1")
    assert [text for text in page.evaluate("[...window.seen]") if "V" in text] == []


def test_two_windows_that_change_the_same_are_told_and_neither_is_lost(conversion):
    mine, theirs = conversion("Soil-moisture probe"), conversion("Soil-moisture probe")
    # No news comes to this one before it has typed its own.
    mine.route("**/revision", lambda route: route.fulfill(status=404, json={}))
    theirs.get_by_label("Lowest volts it works at").fill("4.0")
    saved(theirs)
    mine.get_by_label("Lowest volts it works at").fill("3.5")
    both = "changed in another window meanwhile: both changed window lowest volts"
    expect(mine.get_by_role("alert")).to_contain_text(both)
    mine.get_by_role("button", name="Keep mine").click()
    saved(mine)
    expect(mine.get_by_role("alert")).to_have_count(0)
    expect(mine.get_by_label("Lowest volts it works at")).to_have_value("3.5")
    mine.keyboard.press("Control+z")
    expect(mine.get_by_label("Lowest volts it works at")).to_have_value("4")
    mine.get_by_role("button", name="Undo").click()
    expect(mine.get_by_label("Lowest volts it works at")).to_have_value("")


def test_everything_by_keyboard(conversion):
    page = conversion("Moth-trap lamp")
    page.locator("body").press("4")
    expect(page.get_by_role("heading", name="Which resistor, how long")).to_be_visible()
    page.keyboard.press("w")
    expect(findings(page).get_by_text("the old set holds 1100 mAh")).to_be_visible()
    page.keyboard.press("l")
    expect(findings(page)).to_be_focused()
    page.keyboard.press("/")
    page.get_by_label(re.compile("^Find a station")).fill("cell 21700")
    page.keyboard.press("Enter")
    expect(page.get_by_label("Search the cells")).to_have_value(re.compile("21700"))
    page.locator("h1").click()
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys, marks and numbers")).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("dialog", name="Keys, marks and numbers")).to_be_hidden()


def test_builds_are_added_named_and_removed(conversion):
    page = conversion("Pond thermometer")
    page.get_by_role("button", name="+ build").click()
    page.get_by_role("button", name="Build 2").click()
    page.get_by_text("Rename this build").click()
    page.get_by_role("textbox", name=re.compile("")).last.fill("With a regulator")
    page.get_by_role("button", name="Keep").click()
    page.get_by_role("button", name="With a regulator").click()
    page.get_by_text("Remove this build").click()
    expect(page.get_by_role("button", name="With a regulator")).to_have_count(0)
    expect(page.get_by_role("button", name="Tiny pouch")).to_be_visible()


def test_a_regulator_is_chosen_by_clicking(conversion):
    page = conversion("Pond thermometer", "Power")
    expect(findings(page).get_by_text("With a full cell the gadget gets")).to_be_visible()
    page.get_by_role("button", name=re.compile("2.8 V low-drop")).first.click()
    expect(findings(page).get_by_text("With a full cell the gadget gets")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("Regulator · 2.8 V"))).to_be_visible()


def test_a_file_goes_out_and_comes_back(conversion, open_page, tmp_path):
    page = conversion("Bat-call detector")
    with page.expect_download() as download:
        page.get_by_role("link", name="Export").click()
    file = tmp_path / "bat.spark.json"
    download.value.save_as(file)
    shelf = open_page("/")
    shelf.get_by_label("Project file").set_input_files(file)
    expect(shelf.get_by_label("Name of the gadget")).to_have_value("Bat-call detector")
    file.write_text('{"format": "pocket-spark/2", "gadget": {}}')
    shelf = open_page("/")
    shelf.get_by_label("Project file").set_input_files(file)
    expect(shelf.get_by_role("alert")).to_contain_text("Nothing was imported. gadget.name: This is required")


def test_archived_and_restored(open_page):
    page = open_page("/")
    page.get_by_label("New conversion").fill("Old thing")
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("link", name="Pocket Spark").click()
    page.get_by_role("button", name="Archive Old thing").click()
    expect(page.get_by_role("listitem").filter(has_text="Old thing")).to_have_count(0)
    page.get_by_role("button", name="Restore it").click()
    expect(page.get_by_role("listitem").filter(has_text="Old thing")).to_have_count(1)
