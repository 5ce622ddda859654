"""Proposals on the real page: from a surveyed gadget to a build that was taken, wishes, and a search that is left."""

import re

import httpx
from playwright.sync_api import expect
from progress import goes_on_to

from headless import context_of


def test_from_the_survey_to_a_proposal_that_is_taken(conversion):
    page = conversion("Pocket anemometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    expect(page.get_by_role("heading", name="What could be built")).to_be_visible()
    status = page.locator("main").get_by_role("status")
    goes_on_to(status, r"nothing (so far )?beats these [1-9]")
    table = page.get_by_role("region", name="Proposals")
    expect(table.get_by_role("row").nth(1)).to_contain_text("longest")
    expect(page.get_by_role("complementary", name="What ruled out the rest")).to_contain_text("does not go in")
    table.get_by_role("checkbox").nth(1).check()
    page.get_by_role("button", name="Take it as a build").click()
    expect(page).to_have_url(re.compile("/fit$"))
    expect(page.locator(".verdict")).to_contain_text(re.compile("It all goes in|Too close to call"))
    expect(page.get_by_role("group", name="Builds").get_by_role("button")).to_have_count(3)


def test_several_are_taken_and_compared(conversion):
    page = conversion("Bat-call detector", "Survey")
    page.get_by_role("link", name="Proposals").click()
    status = page.locator("main").get_by_role("status")
    goes_on_to(status, "; nothing beats these")
    page.get_by_role("button", name="room to spare").click()
    expect(page.get_by_role("img", name="Hours of use against room")).to_be_visible()
    page.get_by_role("button", name="need no cutting").click()
    goes_on_to(status, "; nothing beats these 0")
    expect(page.get_by_text("Nothing that is on offer is sound")).to_be_visible()
    page.get_by_role("button", name="take its 5 V in any way").click()
    goes_on_to(status, "; nothing beats these [1-9]")
    rows = page.get_by_role("region", name="Proposals").get_by_role("row")
    expect(rows.nth(1)).to_contain_text("no hole")
    for number in (1, 2):
        page.get_by_role("checkbox", name=f"Take number {number}", exact=True).check()
    page.get_by_role("button", name="Take these 2 and compare").click()
    expect(page).to_have_url(re.compile("/compare"))
    expect(page.get_by_role("group", name="Builds to compare").locator("input:checked")).to_have_count(2)


def test_a_wish_starts_the_search_anew_and_a_wrong_one_is_a_sentence(conversion):
    page = conversion("Pond thermometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    expect(page.get_by_role("heading", name="What could be built")).to_be_visible()
    status = page.locator("main").get_by_role("status")
    goes_on_to(status, "nothing beats these 0")
    expect(page.get_by_text("Nothing that is on offer is sound")).to_be_visible()
    page.get_by_role("button", name="Type-C only").click()
    expect(page.get_by_role("button", name="Type-C only")).to_have_attribute("aria-pressed", "true")
    goes_on_to(status, "nothing beats these 0")
    page.get_by_label("cost at most, in all").fill("dear")
    page.get_by_label("cost at most, in all").press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("number")


def test_a_search_that_is_stopped_claims_nothing_and_goes_on_when_asked(conversion):
    page = conversion("Pocket anemometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    page.get_by_role("button", name="Stop here").click()
    status = page.locator("main").get_by_role("status")
    expect(status).to_contain_text(re.compile("^Stopped before|and stopped there; nothing so far beats these"))
    expect(page.get_by_text("Nothing that is on offer is sound")).to_have_count(0)
    page.get_by_role("button", name="Search on").click()
    goes_on_to(status, "; nothing beats these [1-9]")


def test_a_look_without_an_answer_is_repeated_and_a_search_that_is_gone_says_so(app, chrome):
    lines = httpx.get(f"{app}/api/projects").json()
    number = next(line["id"] for line in lines if line["name"] == "Pond thermometer")
    page = context_of(chrome).new_page()
    lost = []

    def lose(route):
        if len(lost) == 3:
            return route.continue_()
        lost.append(route)
        return route.abort()

    page.route("**/api/questions/proposals/*", lose)
    page.goto(f"{app}/conversion/{number}/proposals")
    goes_on_to(page.locator("main").get_by_role("status"), "; nothing beats these 0")
    assert len(lost) == 3
    page.unroute_all()
    page.route("**/api/questions/proposals/*", lambda route: route.continue_(url=f"{app}/api/questions/proposals/9999"))
    page.get_by_role("button", name="Type-C only").click()
    expect(page.get_by_role("alert")).to_contain_text("not known any more")
    page.unroute_all()
    page.get_by_role("button", name="Search on").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.context.close()
