"""The whole job with no mouse: every control is reached by Tab, or by the arrows of its group, and worked by keys."""

import re

from playwright.sync_api import expect
from test_whole_job import no_projects  # noqa: F401

MOST_TABS = 250
HAS_FOCUS = "element => element === document.activeElement || element.contains(document.activeElement)"


def reach(page, wanted):
    """Tab until it has the focus; the page is gone round once at most."""
    expect(wanted).to_be_visible()
    for _ in range(MOST_TABS):
        if wanted.evaluate(HAS_FOCUS):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"the keyboard does not reach {wanted}")


def press(page, wanted):
    reach(page, wanted)
    page.keyboard.press("Enter")


def type_into(page, wanted, text):
    reach(page, wanted)
    page.keyboard.press("Control+a")
    page.keyboard.type(text)
    expect(wanted).to_have_value(re.compile(re.escape(text)))


def station(page, name):
    press(page, page.get_by_role("navigation", name="Stations").get_by_role("button", name=name))


def test_from_an_empty_shelf_to_a_certificate_by_keys_alone(no_projects):  # noqa: F811
    page = no_projects
    type_into(page, page.get_by_label("New conversion"), "Marsh lamp")
    press(page, page.get_by_role("button", name="Start the survey"))
    press(page, page.get_by_role("button", name="An ordinary gadget", exact=True))
    for _ in range(2):
        press(page, page.get_by_role("button", name="AAA", exact=True))
    expect(page.get_by_label("in series").first).to_have_value("3")
    press(page, page.get_by_role("button", name="Add the first mode"))
    for label, text in (("current", "60"), ("hours a day", "2")):
        type_into(page, page.get_by_label(label, exact=True), text)
    for label, text in (("Lowest volts it works at", "3.1"), ("Highest volts it stands", "4.8")):
        type_into(page, page.get_by_label(label), text)
    station(page, "Cell")
    type_into(page, page.get_by_label("Search the cells"), "503450")
    press(page, page.get_by_role("button", name="Pouch 503450, 900 mAh"))
    station(page, "Charge")
    press(page, page.get_by_role("button", name=re.compile("^1 A linear charger, Type-C, with protection")))
    press(page, page.get_by_role("region", name="Findings").get_by_role("button", name="Fit 3 kΩ", exact=True))
    expect(page.get_by_text("full in about 2 h 35")).to_be_visible()
    station(page, "Fit")
    press(page, page.get_by_role("button", name="Enter my own lengths", exact=True))
    for label, mm in (("Length inside", "62"), ("Width inside", "39"), ("Height under the lid", "18")):
        type_into(page, page.get_by_label(label), mm)
    expect(page.locator(".verdict")).to_contain_text("Everything fits")
    station(page, "Build")
    press(page, page.get_by_role("button", name="Practise on a copy"))
    expect(page.get_by_role("note")).to_contain_text("Practice copy")
    build_it(page)
    with page.expect_download() as download:
        press(page, page.get_by_role("button", name="Certificate and labels, PDF, A4"))
    assert download.value.suggested_filename.endswith("-certificate.pdf")


def build_it(page):
    heading = page.locator("article h2")
    expect(heading).to_be_visible()
    total = page.get_by_role("list", name="All steps").get_by_role("button").count()
    for done in range(total):
        expect(page.get_by_text(re.compile(f"^{done} of {total} done"))).to_be_visible()
        title = heading.inner_text()
        hold = page.get_by_role("button", name="Check it against the limits")
        if hold.is_visible():
            press(page, page.get_by_role("button", name="Read it with the simulated meter"))
            expect(page.locator(".hold input").first).to_have_value(re.compile(r"\d"))
            press(page, hold)
        else:
            press(page, page.get_by_role("button", name="Done", exact=True))
        if done < total - 1:
            expect(heading).not_to_have_text(title)
    expect(page.get_by_text(f"{total} of {total} done")).to_be_visible()
