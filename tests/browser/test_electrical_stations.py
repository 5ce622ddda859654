"""Each electrical station's own job on the real page: by mouse, by keyboard, with bad input, and at 390 px."""

import io
import re

import cv2
import numpy as np
import pytest
from picking import choose
from PIL import Image
from playwright.sync_api import expect
from test_printed_labels import photograph_of

from bay_photographs import photograph
from headless import ROOT

TESTERS = ROOT / "tests" / "reference" / "data" / "testers"


def findings(page):
    return page.get_by_role("region", name="Findings")


def station(page, name):
    page.get_by_role("navigation", name="Stations").get_by_role("button", name=name).click()


def begin(open_page, name, purpose="An ordinary gadget", **options):
    page = open_page("/", **options)
    page.get_by_label("New conversion").fill(name)
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("button", name=purpose, exact=True).click()
    return page


# Survey ---------------------------------------------------------------------------------------------------------


def test_some_things_are_asked_about_once_and_refused(open_page):
    page = begin(open_page, "Warbler for a cot", "Toy for small children")
    expect(page.get_by_role("alert").first).to_contain_text("not converted")
    expect(findings(page)).to_contain_text("Do not convert this: toy for small children.")
    page.get_by_role("button", name="Ask again").click()
    page.get_by_role("button", name="An ordinary gadget", exact=True).click()
    expect(findings(page)).not_to_contain_text("Do not convert this: toy for small children.")
    expect(page.get_by_role("region", name="What kind of thing is it")).to_have_count(0)


def test_a_sealed_pack_with_a_live_jack(open_page):
    page = begin(open_page, "Rain logger")
    page.get_by_role("radio", name="Sealed pack").click()
    page.get_by_label("Printed on it").fill("4.8")
    expect(page.get_by_text("4.8 V pack, NiMH or NiCd; they feed")).to_be_visible()
    choose(page, "At the terminals", re.compile("^Jack"))
    expect(findings(page)).to_contain_text("it would charge the lithium cell past")
    findings(page).get_by_role("button", name="Cut it").click()
    expect(findings(page)).not_to_contain_text("it would charge the lithium cell past")
    page.get_by_label("Printed on it").fill("0.2")
    expect(page.get_by_role("alert").first).to_contain_text("1.2 V or more")


def test_pulses_and_their_sentence(conversion):
    page = conversion("Soil-moisture probe", "Survey")
    page.get_by_role("group").locator("summary").first.click()
    page.get_by_label("Pulses: on for").fill("2")
    expect(page.get_by_role("alert").first).to_contain_text("a duty cycle has two figures")
    page.get_by_label("of every").fill("60")
    expect(page.get_by_role("alert")).to_have_count(0)
    expect(page.get_by_text("0.567 mAh a day")).to_be_visible()


def test_a_length_is_read_off_a_photograph_into_a_field(open_page):
    page = begin(open_page, "Frog-call recorder")
    out = io.BytesIO()
    Image.new("RGB", (800, 600), "tan").save(out, "PNG")
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "bay.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    stage = page.get_by_role("application", name="Marks on bay")
    stage.wait_for()
    for image in page.locator("img").all():
        expect(image).to_have_js_property("complete", True)
        expect(image).not_to_have_js_property("naturalWidth", 0)
    stage.scroll_into_view_if_needed()

    def drag(x0, y0, x1, y1):
        # Hovering waits until the stage stands still and scrolls it into view, as a maker's eye would.
        box = stage.bounding_box()
        stage.hover(position={"x": x0 * box["width"], "y": y0 * box["height"]})
        page.mouse.down()
        stage.hover(position={"x": x1 * box["width"], "y": y1 * box["height"]})
        page.mouse.up()

    # The next line is drawn before the one before is answered for.
    page.route("**/photos/*", lambda route: (page.wait_for_timeout(700), route.continue_()))
    drag(0.1, 0.2, 0.6, 0.2)
    page.get_by_role("textbox", name="Known length").fill("50")
    page.get_by_role("button", name="Keep", exact=True).click()
    drag(0.1, 0.5, 0.9, 0.5)
    page.get_by_label("Name of the length").fill("case")
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(page.get_by_text("80 mm").first).to_be_visible()
    page.get_by_role("button", name="use as").click()
    page.get_by_role("button", name="outer length").click()
    expect(page.get_by_label("Outer length")).to_have_value(re.compile(r"80(\.\d+)?|79\.9\d?"))
    page.reload()
    expect(page.get_by_role("button", name=re.compile("bay 1 lengths"))).to_be_visible()


def test_pads_of_a_board_are_clicked_on_its_photograph(conversion):
    """What is drawn at Wire stands where it was clicked: here with plus and minus at the other edge than usual."""
    page = conversion("Bat-call detector", "Survey")
    out = io.BytesIO()
    Image.new("RGB", (800, 600), "seagreen").save(out, "PNG")
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "board.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    stage = page.get_by_role("application", name="Marks on board")
    stage.wait_for()
    page.get_by_role("radiogroup", name="What to mark").get_by_text("pads of a board").click()
    expect(page.get_by_text("press its front left corner")).to_be_visible()
    box = stage.bounding_box()
    for x, y in ((0.1, 0.9), (0.9, 0.9), (0.9, 0.1), (0.1, 0.1)):
        stage.click(position={"x": x * box["width"], "y": y * box["height"]})
    # The pads by keys alone, from the middle of the picture in steps of a fiftieth.
    for way, steps in (("Left", 15), ("Down", 17), ("Up", 34)):
        for _ in range(steps):
            stage.press(f"Arrow{way}")
        if way != "Left":
            stage.press("Enter")
    expect(page.get_by_text("Marked: IN+, IN-")).to_be_visible()
    # The next one is pressed before these are kept, and stays to be kept with the others.
    page.route("**/board-pads/in-photo", lambda route: (page.wait_for_timeout(700), route.continue_()))
    page.get_by_role("button", name="Keep the pads").click()
    for key in ("ArrowRight", "ArrowRight", "Enter"):
        stage.press(key)
    expect(page.get_by_text("is drawn with its pads where they are")).to_be_visible()
    expect(page.get_by_text(re.compile("Marked: "))).to_have_text(re.compile("Marked: (?!IN)"))
    page.get_by_role("button", name=re.compile("^Wire")).click()
    heights = [page.get_by_role("button", name=f"pad charger.{pad}").bounding_box()["y"] for pad in ("IN+", "IN-")]
    assert heights[0] > heights[1] + 20


def test_a_bay_is_marked_on_a_slanted_photograph_and_what_lies_in_it_is_seen(conversion):
    """A trapezoid as a bay is seen from its front; the parts are drawn in it, and a rib is traced at its left wall."""
    page = conversion("Moth-trap lamp", "Survey")
    out = io.BytesIO()
    Image.new("RGB", (800, 600), "tan").save(out, "PNG")
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "inside.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    stage = page.get_by_role("application", name="Marks on inside")
    stage.wait_for()
    tool = page.get_by_role("radiogroup", name="What to mark")

    def press(x, y):
        box = stage.bounding_box()
        stage.hover(position={"x": x * box["width"], "y": y * box["height"]})
        page.mouse.down()
        page.mouse.up()

    tool.get_by_text("bay", exact=True).click()
    for x, y in ((0.2, 0.8), (0.8, 0.2), (0.8, 0.8), (0.3, 0.2)):
        press(x, y)
    keep = page.get_by_role("button", name="Keep", exact=True)
    keep.click()
    expect(page.get_by_role("alert").first).to_contain_text("one after the other round it")
    # By keys alone, from the middle: two hundredths of the picture a step.
    stage.focus()
    for keys in (("Left", 15, "Down", 15), ("Right", 30), ("Up", 30, "Left", 5), ("Left", 20)):
        for way, times in zip(keys[::2], keys[1::2], strict=True):
            for _ in range(times):
                stage.press(f"Arrow{way}")
        stage.press("Enter")
    keep.click()
    expect(stage.locator("polygon.part")).to_have_count(2)
    tool.get_by_text("in the way", exact=True).click()
    box = stage.bounding_box()
    stage.hover(position={"x": 0.205 * box["width"], "y": 0.79 * box["height"]})
    page.mouse.down()
    stage.hover(position={"x": 0.4 * box["width"], "y": 0.6 * box["height"]})
    page.mouse.up()
    page.get_by_label("What it is").fill("spring rib")
    keep.click()
    # The socket's hole is seen in its wall; along the front, a third in from its left, it may be opened as well.
    expect(stage.locator("polyline.opening.socket")).to_have_count(1)
    tool.get_by_text("may be opened", exact=True).click()
    stage.hover(position={"x": 0.4 * box["width"], "y": 0.8 * box["height"]})
    page.mouse.down()
    stage.hover(position={"x": 0.6 * box["width"], "y": 0.8 * box["height"]})
    page.mouse.up()
    keep.click()
    told = page.get_by_text(re.compile("The front wall may be opened from"))
    expect(told).to_be_visible()
    # A third and two thirds of the 62 mm that were typed in, to a pixel.
    figures = [float(figure) for figure in re.findall(r"([0-9.]+) mm", told.inner_text())]
    assert figures == pytest.approx([62 / 3, 62 * 2 / 3], abs=0.4)
    page.get_by_text("straight from above").click()
    expect(page.get_by_role("img", name="inside, straight from above")).to_have_js_property("complete", True)
    station(page, "Fit")
    expect(page.get_by_text("spring rib").first).to_be_visible()


def test_a_bay_and_its_batteries_are_proposed_from_a_photograph(conversion):
    """What the maker says yes to is taken; the depth is asked."""
    page = conversion("Moth-trap lamp", "Survey")
    drawn = photograph(np.random.default_rng([3, 3]), 10, ("LR6",))
    picture = cv2.imencode(".png", drawn.picture)[1].tobytes()
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "open.png", "mimeType": "image/png", "buffer": picture}
    )
    page.get_by_role("button", name="Find the card").click()
    page.get_by_role("button", name="Look for the bay and its batteries").click()
    expect(page.get_by_text("2 batteries are seen in it: AA (LR6).")).to_be_visible(timeout=20_000)
    stage = page.get_by_role("application", name="Marks on open")
    expect(stage.locator("polygon.battery")).to_have_count(2)
    page.get_by_role("button", name="These are its batteries").click()
    expect(page.get_by_text("Set as the batteries of the gadget.")).to_be_visible()
    # A corner that is dragged takes its length along.
    before = page.get_by_label("Bay length").input_value()
    corner = stage.locator("path.handle").first.bounding_box()
    page.mouse.move(corner["x"], corner["y"])
    page.mouse.down()
    page.mouse.move(corner["x"] - 40, corner["y"] + 40, steps=4)
    page.mouse.up()
    expect(page.get_by_label("Bay length")).not_to_have_value(before)
    page.get_by_role("button", name="Look for the bay and its batteries").click()
    expect(page.get_by_label("Bay length")).to_have_value(before, timeout=20_000)
    page.get_by_role("button", name="Keep", exact=True).click()
    page.get_by_label("Bay depth").fill("16.5 mm")
    page.get_by_role("button", name="Take as the bay").click()
    expect(page.get_by_text("Taken as the bay of the gadget.")).to_be_visible()
    expect(page.get_by_text(re.compile(r"Saved \d\d:\d\d"))).to_be_visible()
    gadget = page.request.get(page.url.replace("/conversion/", "/api/projects/").rpartition("/")[0]).json()["project"][
        "gadget"
    ]
    assert (gadget["supply"]["battery"], gadget["supply"]["series"]) == ("LR6", 2)
    long, wide, high = gadget["bay"]["rooms"][0]["size_mm"]
    assert high == 16.5
    # As drawn, within what is told of lengths by a picture.
    assert sorted((long, wide)) == pytest.approx(sorted(drawn.bay_mm), rel=0.1)


def test_a_label_is_read_off_a_photograph_and_taken_when_the_maker_says_so(conversion):
    page = conversion("Moth-trap lamp", "Cell")
    picture = photograph_of(("402535", "3.7V 320mAh"), 0)
    field = page.get_by_label("Printed on it")
    page.get_by_label("Photograph of the cell's label").set_input_files(
        {"name": "label.jpg", "mimeType": "image/jpeg", "buffer": picture}
    )
    expect(page.get_by_role("img", name="The label as photographed")).to_have_js_property("complete", True)
    answer = page.get_by_role("button", name="Read it as 402535 3.7V 320mAh")
    expect(answer).to_be_visible(timeout=30_000)
    expect(field).to_have_value("")
    answer.click()
    expect(field).to_have_value("402535 3.7V 320mAh")
    expect(page.get_by_role("button", name="4 x 25 x 35 mm")).to_contain_text("320 mAh printed")
    page.get_by_label("Photograph of the cell's label").set_input_files(
        {"name": "no.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    )
    expect(page.get_by_role("alert").first).to_contain_text("no JPEG, PNG or WebP picture")


# Cell and your parts -----------------------------------------------------------------------------------------------


def test_a_printed_code_becomes_the_cell(conversion):
    page = conversion("Soil-moisture probe", "Cell")
    page.get_by_label("Printed on it").fill("what")
    page.get_by_role("button", name="Read", exact=True).click()
    expect(page.get_by_role("alert").first).to_contain_text("is no size code")
    page.get_by_label("Printed on it").fill("603450")
    page.get_by_role("button", name="Read", exact=True).click()
    page.get_by_role("button", name=re.compile("6 x 34 x 50 mm")).click()
    expect(page.get_by_text("Cell 603450: 6 x 34 x 50 mm.")).to_be_visible()


def test_the_cell_table_by_keyboard(conversion):
    page = conversion("Moth-trap lamp", "Cell")
    page.get_by_label("Search the cells").fill("round 14500")
    page.get_by_label("Search the cells").press("ArrowDown")
    page.keyboard.press("ArrowDown")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Round 14500, 600 mAh, LFP")).to_have_attribute("aria-pressed", "true")
    page.get_by_label("Search the cells").fill("")
    page.get_by_text("only what goes in").click()
    expect(page.get_by_role("button", name="Round 21700", exact=False)).to_have_count(0)
    page.get_by_role("button", name="hours of use", exact=True).click()
    expect(page.get_by_role("columnheader", name="hours of use")).to_have_attribute("aria-sort", "descending")


def test_a_used_cell_goes_through_its_readings_in_your_parts(open_page):
    page = open_page("/parts")
    page.get_by_role("button", name="Add one").click()
    page.get_by_label("name").fill("From a flood gauge")
    choose(page, "origin", "salvaged")
    page.get_by_label("label says").fill("lots")
    page.get_by_role("button", name="Add it to your parts").click()
    expect(page.get_by_role("alert").first).to_contain_text("'lots' is not a number")
    page.get_by_label("label says").fill("800")
    page.get_by_label("at rest").fill("1.4")
    page.get_by_role("button", name="Add it to your parts").click()
    row = page.locator(".parts li").filter(has_text="From a flood gauge")
    expect(row).to_contain_text("recycle")
    row.get_by_text("History").click()
    row.get_by_label("What happened to From a flood gauge").fill("taped, in sand, waits for the recycling point")
    row.get_by_label("What happened to From a flood gauge").press("Enter")
    expect(row.get_by_role("listitem")).to_contain_text(["taped, in sand"])
    row.get_by_role("button", name="Take out From a flood gauge").click()
    expect(row).to_have_count(0)
    expect(page.get_by_text("flows when they are joined").first).to_be_visible()


def test_a_resistor_from_your_parts_is_offered_and_fitted(conversion):
    page = conversion("Moth-trap lamp", "Charge")
    page.get_by_role("button", name=re.compile(r"from your parts: 1 kΩ \+ 2.2 kΩ")).click()
    expect(page.get_by_label("Fitted")).to_have_value("3.2")


# Power and charge -----------------------------------------------------------------------------------------------


def test_a_regulator_is_chosen_and_undone(conversion):
    page = conversion("Pocket anemometer", "Power")
    table = page.get_by_role("table").filter(has_text="full to empty")
    expect(table).to_be_visible()
    table.get_by_role("button", name=re.compile("2.8 V low-drop")).click()
    expect(page.get_by_role("button", name=re.compile("Regulator · 2.8 V"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"Saved \d\d:\d\d"))).to_be_visible()
    page.keyboard.press("Control+z")
    expect(page.get_by_role("button", name=re.compile("Regulator · 3.0 V"))).to_be_visible()


def test_old_and_cold_are_options_of_the_whole_judgement(conversion):
    page = conversion("Moth-trap lamp", "Power")
    page.get_by_text("judge all of it after 300 cycles").click()
    expect(findings(page)).to_contain_text("Judged after 300 cycles")
    expect(page.get_by_role("button", name=re.compile("Cell · 720 mAh"))).to_be_visible()


@pytest.mark.parametrize("way", ["Load on the cell", "Two diodes"])
def test_ways_to_use_it_while_it_charges(conversion, way):
    page = conversion("Bat-call detector", "Charge")
    row = page.get_by_role("row", name=re.compile(way))
    row.get_by_role("button", name=way).click()
    expect(row.get_by_role("button", name=way)).to_have_attribute("aria-pressed", "true")


def test_an_old_jack_wants_its_polarity(conversion):
    page = conversion("Moth-trap lamp", "Charge")
    choose(page, "Comes in by", "The gadget's old jack")
    expect(findings(page)).to_contain_text("The polarity of the jack has not been measured")
    page.get_by_label("Adapter, unloaded").fill("9.2")
    expect(findings(page)).to_contain_text("it gives 9.20 V unloaded")


# Across ---------------------------------------------------------------------------------------------------------


def test_builds_side_by_side(conversion):
    page = conversion("Moth-trap lamp")
    page.get_by_role("link", name="Compare").click()
    expect(page.get_by_role("cell", name="47 h")).to_be_visible()
    expect(page.get_by_role("img", name="Gadget voltage over hours, build by build")).to_be_visible()
    page.get_by_role("button", name="Go on with this one").nth(1).click()
    expect(page.get_by_role("button", name=re.compile("Small and flat"))).to_have_attribute("aria-current", "true")


def test_a_conversion_travels_with_its_photographs(open_page, tmp_path):
    page = begin(open_page, "Weir camera to lend")
    out = io.BytesIO()
    Image.new("RGB", (80, 60), "teal").save(out, "PNG")
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "inside.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    with page.expect_download() as download:
        page.get_by_role("link", name="Export the conversion with its photographs").click()
    assert download.value.suggested_filename == "weir-camera-to-lend.spark.zip"
    file = tmp_path / "lent.zip"
    download.value.save_as(file)
    before = page.url
    page.goto(page.url.split("/conversion")[0])
    page.get_by_label("Project file").set_input_files(file)
    page.get_by_role("list", name="Power path").wait_for()
    assert page.url != before
    expect(page.get_by_role("button", name=re.compile("^inside"))).to_be_visible()


def test_another_charger_is_told_as_fully_as_a_board(conversion):
    page = conversion("Bat-call detector", "Charge")
    expect(page.get_by_role("heading", name="Which resistor, how long")).to_be_visible()
    choose(page, "Charged by", re.compile("^An external charger"))
    expect(page.get_by_role("heading", name="How long, how warm")).to_be_visible()
    expect(findings(page)).to_contain_text("The current of the external charger is unknown")
    gives = page.get_by_role("textbox", name=re.compile("^Charges with"))
    gives.fill("half an amp")
    expect(page.get_by_role("alert").first).to_be_visible()
    gives.fill("500 mA")
    expect(page.get_by_role("heading", name=re.compile("500 mA.*full in about"))).to_be_visible()
    expect(page.get_by_role("list", name="Power path")).to_contain_text("the external charger")
    findings(page).get_by_role("button", name="Let the board charge").click()
    expect(page.get_by_role("heading", name="Which resistor, how long")).to_be_visible()


def test_an_unlike_cell_is_put_beside_the_first_and_taken_out(conversion):
    page = conversion("Moth-trap lamp", "Cell")
    page.get_by_role("button", name="+ an unlike cell beside it").click()
    other = page.get_by_role("group", name="Another cell")
    other.get_by_role("textbox", name=re.compile("^Resistance")).fill("40")
    expect(findings(page)).to_contain_text("Another cell carries")
    expect(page.get_by_role("list", name="Power path")).to_contain_text("1800 mAh")
    other.get_by_role("button", name="take it out").click()
    expect(findings(page)).not_to_contain_text("Another cell carries")


def test_a_second_battery_is_noted_and_left_alone(conversion):
    page = conversion("Moth-trap lamp", "Survey")
    page.get_by_text("a second one keeps a clock or a memory").click()
    expect(findings(page)).to_contain_text("Its CR2032 keeps its memory or clock. It stays as it is")
    name = page.get_by_role("textbox", name="Second battery")
    name.fill("flux cell")
    name.press("Tab")
    expect(page.get_by_role("alert").first).to_contain_text("there is no battery called 'flux cell'")
    expect(name).to_have_value("flux cell")


def test_an_old_adapter_behind_a_diode_is_asked_for_its_volts(conversion):
    page = conversion("Moth-trap lamp", "Survey")
    choose(page, "At the terminals", re.compile("^Jack"))
    page.get_by_role("button", name=re.compile("^The old charging jack has no voltage limit")).click()
    expect(page.get_by_text("flows into the full cell")).to_be_visible()
    choose(page, "What becomes of it", re.compile("^Blocked by a diode"))
    expect(page.get_by_text("Measure it at the jack")).to_be_visible()
    page.get_by_label("Its adapter, nothing on it").fill("9")
    findings = page.get_by_role("region", name="Findings")
    expect(findings.get_by_text(re.compile(r"the gadget gets 9\.0.\sV")).first).to_be_visible()


def test_how_bright_a_lamp_stays_is_seen_beside_its_volts(conversion):
    page = conversion("Moth-trap lamp", "Power")
    light = page.get_by_role("list", name="Light, from full to empty")
    expect(light.get_by_role("listitem").first).to_contain_text(re.compile(r"\d+ % of what it was made for at first"))
    expect(light.get_by_role("listitem").first).to_contain_text("half way")
    # A meter glows by nothing.
    other = conversion("Pond thermometer", "Power")
    expect(other.get_by_role("heading", name="What the gadget sees")).to_be_visible()
    expect(other.get_by_role("list", name="Light, from full to empty")).to_have_count(0)


def test_the_verdict_comes_first_and_a_line_of_the_load_turns_it(conversion, serious):
    page = conversion("Pocket anemometer", "Verdict")
    main = page.get_by_role("main")
    expect(main.get_by_role("heading", level=1)).to_have_text("Better with bought rechargeables")
    expect(main.get_by_role("list", name="Reasons").get_by_role("listitem")).to_have_count(3)
    line = page.get_by_label("What it draws, and when")
    expect(line).to_have_value(re.compile("measuring: 8.5 mA"))
    line.fill("5 bananas")
    expect(page.get_by_role("alert")).to_contain_text("Write its unit")
    page.reload()  # nothing typed is lost
    expect(line).to_have_value("5 bananas")
    # A hand that is quicker than the server: the line is still being read when it is taken.
    page.route("**/api/questions/load", lambda route: (page.wait_for_timeout(400), route.continue_()))
    line.fill("1 mA, 1 min a day")
    line.press("Enter")
    expect(main.get_by_role("heading", level=1)).to_contain_text("Leave it: a set lasts")
    page.get_by_label("Log of the gadget in use").set_input_files(
        {
            "name": "use.csv",
            "mimeType": "text/csv",
            "buffer": ("s,V,A\n" + "".join(f"{n},3,{0.018 if n % 60 < 2 else 6e-5}\n" for n in range(1, 900))).encode(),
        }
    )
    expect(page.get_by_role("figure", name="The load as it is lived")).to_contain_text("on average")
    expect(main).to_contain_text("give or take")
    assert serious(page) == []
    main.get_by_role("heading", level=1).click()  # out of the field
    page.keyboard.press("2")
    expect(page.get_by_role("navigation", name="Stations").get_by_role("button", name="Cell")).to_have_attribute(
        "aria-current", "page"
    )


def test_a_file_of_several_runs_is_shown_in_its_pieces(conversion):
    page = conversion("Moth-trap lamp", "Prove")
    page.get_by_label("Log file").set_input_files(TESTERS / "capacity-check.csv")
    pieces = page.get_by_role("region", name="Pieces of this log").get_by_role("button")
    expect(pieces).to_have_count(8)
    expect(page.get_by_role("img", name="Measured over predicted")).to_be_visible()
    pieces.nth(1).click()
    expect(page.get_by_role("region", name="What it shows")).to_contain_text("running")
    expect(page.locator("main").get_by_role("status").first).to_contain_text("ran 1 h")
    pieces.nth(2).click()
    expect(page.get_by_role("region", name="What it shows")).to_contain_text("constant current")


def test_a_card_beside_the_bay_measures_it(conversion):
    """A card of 85.60 x 53.98 mm (ISO/IEC 7810, ID-1), four pixels a millimetre, and a bay of 62 by 38 beside it."""
    page = conversion("Moth-trap lamp", "Survey")
    out = io.BytesIO()
    picture = Image.new("RGB", (900, 700), (60, 50, 40))
    picture.paste((230, 230, 225), (480, 60, 480 + 342, 60 + 216))
    picture.paste((120, 110, 100), (90, 420, 90 + 248, 420 + 152))
    picture.save(out, "PNG")
    page.get_by_label("Photographs to attach").set_input_files(
        {"name": "opened.png", "mimeType": "image/png", "buffer": out.getvalue()}
    )
    stage = page.get_by_role("application", name="Marks on opened")
    stage.wait_for()
    tool = page.get_by_role("radiogroup", name="What to mark")
    expect(tool.get_by_role("radio", name="read off")).to_be_disabled()
    page.get_by_role("button", name="Find the card").click()
    expect(stage.locator("polygon.card")).to_have_count(1)
    expect(tool.get_by_role("radio", name="read off")).to_be_enabled()
    tool.get_by_text("bay", exact=True).click()
    box = stage.bounding_box()
    for x, y in ((90, 572), (338, 572), (338, 420), (90, 420)):
        stage.hover(position={"x": x / 900 * box["width"], "y": y / 700 * box["height"]})
        page.mouse.down()
        page.mouse.up()
    # Read off the card, and there to be typed over.
    expect(page.get_by_label("Bay length")).to_have_value(re.compile(r"^6[12](\.\d)? mm$"))
    expect(page.get_by_label("Bay width")).to_have_value(re.compile(r"^3[78](\.\d)? mm$"))
    page.get_by_role("button", name="Keep", exact=True).click()
    expect(stage.locator("polygon.part")).to_have_count(2)
