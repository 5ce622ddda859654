"""The years of a build: what moves its curve, what is tried and taken, and when it has to be charged again."""

import re

import httpx
from picking import choose
from playwright.sync_api import expect

YEARS = re.compile(r"\d+ (years|months)")


def its_years(page):
    """From the verdict to the page of its years."""
    page.get_by_role("link", name="Its years").click()
    expect(page.get_by_role("heading", level=1)).to_have_text(YEARS)
    expect(page.get_by_role("img", name="Days on a charge over the years").locator("canvas")).to_be_visible()


def stored(page, app):
    project_id = re.search(r"/conversion/(\d+)", page.url)[1]
    return httpx.get(f"{app}/api/projects/{project_id}").raise_for_status().json()["project"]


def test_the_verdict_leads_to_the_years_and_what_is_tried_there_can_be_taken(conversion, app, serious):
    page = conversion("Moth-trap lamp", "verdict")
    its_years(page)
    assert serious(page) == []
    levers = page.get_by_role("list", name="What would change it").get_by_role("listitem")
    larger = levers.filter(has_text="A cell of")
    expect(larger).to_contain_text("it goes in")
    before = page.get_by_text("New, a charge lasts").inner_text()
    larger.get_by_text("A cell of").click()
    expect(page.get_by_text("New, a charge lasts")).not_to_have_text(before)
    held = stored(page, app)["builds"][0]["cell"]["capacity_ah"]
    page.get_by_role("button", name="Put this into the plan").click()
    expect(page.get_by_text("Until then only this page counts it.")).to_have_count(0)
    page.wait_for_function(
        "async ([url, held]) => (await (await fetch(url)).json()).project.builds[0].cell.capacity_ah > 1.2 * held",
        arg=[f"/api/projects/{re.search(r'/conversion/([0-9]+)', page.url)[1]}", held],
    )


def test_where_it_lives_and_the_months_of_use_move_it(conversion):
    page = conversion("Pocket anemometer", "verdict")
    its_years(page)
    expect(page.get_by_text("Say where it lives")).to_be_visible()
    choose(page, "Climate", "Outdoors, cold")
    expect(page.get_by_text("on a charge in January, at -16 °C")).to_be_visible()
    for month in ("December", "January", "February"):
        page.get_by_role("button", name=month).click()
    expect(page.get_by_text("on a charge in March, at -8 °C")).to_be_visible()
    expect(page.get_by_role("button", name="January")).to_have_attribute("aria-pressed", "false")


def test_a_test_of_the_cell_is_drawn_and_odd_ages_are_refused_at_the_field(conversion):
    page = conversion("Pocket anemometer", "verdict")
    its_years(page)
    page.get_by_role("button", name="+ a test of it").click()
    test = page.get_by_role("group", name="Test 1")
    test.get_by_label("It held").fill("300")
    test.get_by_label("It held").press("Enter")
    expect(page.get_by_text("of its own tests it ages")).to_be_visible()
    page.get_by_label("Old when put to use").fill("1999")
    page.get_by_label("Old when put to use").press("Enter")
    expect(page.get_by_role("alert").filter(has_text="not the year")).to_be_visible()
    expect(page.get_by_label("Old when put to use")).to_have_value("1999")


def test_the_page_holds_on_a_phone_in_both_themes(conversion, serious):
    page = conversion("Water-turbidity wand", "verdict")
    its_years(page)
    page.set_viewport_size({"width": 390, "height": 844})
    for dark in (False, True):
        page.evaluate("dark => document.documentElement.classList.toggle('dark', dark)", dark)
        assert serious(page) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= 390


def test_what_is_done_says_on_the_shelf_when_to_charge_it(conversion, app, open_page):
    page = conversion("Moth-trap lamp", "verdict")
    document = stored(page, app)
    document["gadget"]["name"] = "Lamp on the windowsill"
    document["builds"][0]["record"] = {"first_charge": {"ended_at": "2024-01-10T12:00Z"}}
    made = httpx.post(f"{app}/api/projects", json=document).raise_for_status().json()["id"]
    try:
        shelf = open_page("/")
        line = shelf.get_by_role("listitem").filter(has_text="Lamp on the windowsill")
        expect(line).to_contain_text("not charged for")
        years = open_page(f"/conversion/{made}/years")
        expect(years.get_by_role("heading", name="Unused since 10 January")).to_be_visible()
        years.get_by_role("button", name="It was charged full today").click()
        expect(years.get_by_role("heading", name="Unused since 10 January")).to_have_count(0)
    finally:
        httpx.delete(f"{app}/api/projects/{made}")
