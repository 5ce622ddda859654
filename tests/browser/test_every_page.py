"""Every page is loaded once and looked at in both themes, at the desk, on a phone and on the narrowest one.

Colours, names and roles by axe-core's rules (WCAG 2.2); nothing is pushed sideways at 320 px (1.4.10); the work is two
keys away (2.4.1).
"""

import pytest
from playwright.sync_api import expect

PAGES = [
    *("/", "/new", "/rules", "/glossary", "/measuring", "/parts", "/clock", "/safekeeping", "/settings", "/trainer"),
    *("/accuracy", "/drawer", "/shopping", "/nowhere"),
]
OF_A_CONVERSION = [
    *("verdict", "survey", "cell", "power", "charge", "fit", "wire", "build", "prove"),
    *("compare", "sheet", "shopping"),
]


def holds_everywhere(page, serious):
    page.get_by_role("heading").first.wait_for()
    page.wait_for_load_state("networkidle")
    for width, dark in ((1280, False), (1280, True), (390, True)):
        page.set_viewport_size({"width": width, "height": 800})
        is_no_wider(page, width)
        # The theme is a class of the document, as the button sets it.
        page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
        assert serious(page) == [], (width, "dark" if dark else "light")
    page.set_viewport_size({"width": 320, "height": 700})
    is_no_wider(page, 320)


def is_no_wider(page, width):
    page.wait_for_function("width => document.documentElement.scrollWidth <= width", arg=width)


@pytest.mark.parametrize("path", PAGES)
def test_a_page_holds_everywhere(open_page, serious, path):
    page = open_page(path)
    page.get_by_role("heading").first.wait_for()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="Skip to the work")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.get_by_role("main")).to_be_focused()
    holds_everywhere(page, serious)


@pytest.mark.parametrize("station", OF_A_CONVERSION)
def test_a_page_of_a_conversion_holds_everywhere(conversion, serious, station):
    page = conversion("Bat-call detector")
    page.goto(page.url.replace("/survey", f"/{station}"))
    holds_everywhere(page, serious)


def test_all_findings_open_on_a_phone(conversion, serious):
    page = conversion("Bat-call detector", width=390, height=844)
    page.get_by_role("button", name="Findings").click()
    expect(page.get_by_role("dialog")).to_contain_text("checked and fine")
    assert serious(page) == []
