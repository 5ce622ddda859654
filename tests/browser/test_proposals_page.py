"""Proposals on the real page: from a surveyed gadget to a build that was taken, wishes, and a search that is left."""

import re

import httpx
import pytest
from picking import to_page
from playwright.sync_api import expect
from progress import comes_true, goes_on_to
from shifts import TOO_MUCH, WATCHED, shifted

from headless import context_of

LOOKS = "**/api/questions/proposals**"


def show_all(page):
    """Chart and list, which lie behind the recommendation until somebody wants them."""
    page.get_by_text("All that nothing beats: chart and list").click()


def test_from_the_survey_to_a_proposal_that_is_taken(conversion):
    page = conversion("Pocket anemometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    expect(page.get_by_role("heading", name="What could be built")).to_be_visible()
    status = page.locator("main").get_by_role("status")
    goes_on_to(status, r"nothing (so far )?beats these [1-9]")
    expect(page.get_by_role("region", name="Recommendation")).to_contain_text("Because: ")
    expect(page.get_by_role("region", name="Proposals")).to_have_count(0)
    show_all(page)
    table = page.get_by_role("region", name="Proposals")
    expect(table.get_by_role("row").nth(1)).to_contain_text("longest")
    expect(page.get_by_role("complementary", name="What ruled out the rest")).to_contain_text(
        "does not fit into the bay"
    )
    table.get_by_role("checkbox").nth(1).check()
    page.get_by_role("button", name="Take it as a build").click()
    expect(page).to_have_url(re.compile("/fit$"))
    expect(page.locator(".verdict")).to_contain_text(re.compile("Everything fits|Too close to call"))
    expect(page.get_by_role("group", name="Builds")).to_contain_text("2 of 2")


def test_several_are_taken_and_compared(conversion):
    page = conversion("Bat-call detector", "Survey")
    page.get_by_role("link", name="Proposals").click()
    status = page.locator("main").get_by_role("status")
    goes_on_to(status, "; nothing beats these")
    show_all(page)
    page.get_by_role("button", name="room to spare").click()
    expect(page.get_by_role("img", name="Hours of use against room")).to_be_visible()
    page.get_by_role("button", name="need no cutting").click()
    goes_on_to(status, "; nothing beats these 0")
    expect(page.get_by_text("Nothing that is on offer is sound")).to_be_visible()
    page.get_by_role("button", name="use any 5 V input").click()
    goes_on_to(status, "; nothing beats these [1-9]")
    rows = page.get_by_role("region", name="Proposals").get_by_role("row")
    expect(rows.nth(1)).to_contain_text("no hole")
    for number in (1, 2):
        page.get_by_role("checkbox", name=f"Take number {number}", exact=True).check()
    page.get_by_role("button", name="Take these 2 and compare").click()
    expect(page).to_have_url(re.compile("/compare"))
    expect(page.get_by_role("group", name="Builds to compare").locator("input:checked")).to_have_count(2)


def test_another_window_knows_which_one_was_taken(conversion):
    first, other = conversion("Moth-trap lamp"), conversion("Moth-trap lamp")
    for page in (first, other):
        page.get_by_role("link", name="Proposals").click()
        expect(page.get_by_role("button", name="Take this one")).to_be_enabled(timeout=90_000)
    show_all(other)
    first.get_by_role("button", name="Take this one").click()
    expect(other.get_by_role("region", name="Recommendation")).to_contain_text("Taken as", timeout=20_000)
    expect(other.get_by_role("region", name="Proposals")).to_contain_text("taken as")


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


def test_a_wish_that_is_being_typed_stays_while_the_search_goes_on(conversion):
    page = conversion("Pond thermometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    field = page.get_by_label("cost at most, in all")
    field.press_sequentially("de")
    goes_on_to(page.locator("main").get_by_role("status"), "nothing beats these 0")
    expect(page.get_by_role("button", name="need no cutting")).to_contain_text("still nothing")  # what wishes cost came
    expect(field).to_have_value("de")
    field.press_sequentially("ar")
    field.press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("number")
    expect(field).to_have_value("dear")


def test_a_search_that_is_stopped_claims_nothing_and_goes_on_when_asked(conversion):
    page = conversion("Pocket anemometer", "Survey")
    page.get_by_role("link", name="Proposals").click()
    page.get_by_role("button", name="Stop here").click()
    status = page.locator("main").get_by_role("status")
    expect(status).to_contain_text(re.compile("^Stopped before|and stopped there; nothing so far beats these"))
    expect(page.get_by_text("Nothing that is on offer is sound")).to_have_count(0)
    begins = re.compile(r"/api/questions/proposals$")  # the page asks other things meanwhile
    with page.expect_response(lambda answer: bool(begins.search(answer.url))) as begun:
        page.get_by_role("button", name="Search on").click()
    search = f"{page.url.partition('/conversion')[0]}/api/questions/proposals/{begun.value.json()['id']}"
    goes_on_to(status, "beats these [1-9]")
    page.reload()
    comes_true(page, lambda: page.request.get(search).json()["state"] == "cancelled")


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
    page.get_by_role("button", name="Stop here").click()  # or a look of this search is the one that is lost
    page.unroute_all()
    page.route("**/api/questions/proposals/*", lambda route: route.continue_(url=f"{app}/api/questions/proposals/9999"))
    page.get_by_role("button", name="Type-C only").click()
    expect(page.get_by_role("alert")).to_contain_text("not known any more")
    page.unroute_all()
    page.get_by_role("button", name="Search on").click()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.context.close()


def a_search(page):
    """Opens the proposals, and what the server says of them once some stand, as if it had ended there."""
    said = []
    page.on("response", lambda answer: said.append(answer) if re.search(r"/proposals/\d+$", answer.url) else None)
    to_page(page, "Proposals")
    goes_on_to(page.locator("main").get_by_role("status"), r"beats these ([6-9]|\d\d)")
    show_all(page)
    whole = next(answer.json() for answer in reversed(said) if answer.request.method == "GET")
    page.get_by_role("button", name="Stop here").click()
    costs = ["no hours more or less", "nothing is left", "22 h 40 less", "4 days more"]
    opens = [
        {"says": key, "sentence": cost, "settled": True, "more_h": 1.0, "builds": 1, "wishes": {key: True}}
        for key, cost in zip(whole["may_be_wished"], 5 * costs, strict=False)
    ]
    return whole | {"state": "finished", "settled_all": True, "opens": opens}


def answered_by(page, looks):
    """The page asks, and hears these one after the other; the last one for good."""
    heard = iter(looks)
    page.route(LOOKS, lambda route: route.fulfill(json=next(heard, looks[-1])))


@pytest.mark.parametrize(("width", "height"), [(1280, 800), (390, 844), (768, 1024)])
def test_nothing_jumps_while_a_search_improves(conversion, width, height):
    page = conversion("Pocket anemometer", width=width, height=height)
    whole = a_search(page)
    assert len(whole["opens"]) > 9
    begun = whole | {"state": "running", "settled_all": False, "opens": []}
    early = [
        begun | {"front": whole["front"][-2:][::-1][:rows], "fell": whole["fell"][: 2 * rows], "settled": rows}
        for rows in (0, 1, 2)
    ]
    settled = whole | {"state": "running", "front": 4 * whole["front"]}
    page.add_init_script(WATCHED)
    answered_by(
        page,
        [
            begun | {"front": [], "fell": [], "may_be_wished": [], "dots": []},
            *early,
            begun | {"front": whole["front"][:4]},
            *(settled | {"opens": whole["opens"][:count]} for count in (0, 1, len(whole["opens"]))),
            settled | {"state": "finished"},
        ],
    )
    page.reload()
    rows = page.get_by_role("region", name="Proposals").get_by_role("row")
    expect(page.get_by_role("button", name="Stop here")).to_be_visible()
    expect(page.get_by_role("button", name="Stop here")).to_have_count(0)
    expect(rows).to_have_count(1 + 4 * len(whole["front"]))
    assert shifted(page) < TOO_MUCH


def test_no_row_moves_under_the_pointer(conversion):
    page = conversion("Pocket anemometer")
    whole = a_search(page)
    first, second, third = whole["front"][:3]
    begun = whole | {"state": "running", "settled_all": False, "opens": []}
    fronts = [[second, third]]
    page.route(LOOKS, lambda route: route.fulfill(json=begun | {"front": fronts[-1]}))
    page.reload()
    rows = page.get_by_role("region", name="Proposals").get_by_role("row")
    expect(rows).to_have_count(3)
    before = rows.nth(1).inner_text()
    rows.nth(1).hover()
    fronts.append([first, second, third])
    expect(page.get_by_role("note")).to_contain_text("once the pointer is off the list")
    assert rows.nth(1).inner_text() == before
    page.mouse.move(5, 5)
    expect(rows).to_have_count(4)
    expect(page.get_by_role("note")).to_have_count(0)


def test_a_tick_stays_with_its_build_while_better_ones_are_found(conversion):
    page = conversion("Pocket anemometer")
    whole = a_search(page)
    first, second, third = whole["front"][:3]
    begun = whole | {"state": "running", "settled_all": False, "opens": []}
    fronts = [[second, third]]
    page.route(LOOKS, lambda route: route.fulfill(json=begun | {"front": fronts[-1]}))
    page.reload()
    page.get_by_role("checkbox", name="Take number 1", exact=True).check()
    page.mouse.move(5, 5)
    fronts.append([first, second])
    expect(page.get_by_role("checkbox", name="Take number 2", exact=True)).to_be_checked()
    expect(page.get_by_role("checkbox", name="Take number 1", exact=True)).not_to_be_checked()
    fronts.append([first])
    expect(page.get_by_text("One that was ticked is beaten by now.")).to_be_visible()
