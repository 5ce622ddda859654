"""The front door on the real page: an empty shelf, six questions by picture, a shelf of many, guides and the clock."""

import re

import httpx
import pytest
from playwright.sync_api import expect
from progress import goes_on_to

from headless import context_of, running_app


def test_from_an_empty_shelf_to_proposals_by_pictures(chrome, tmp_path):
    with running_app(tmp_path, demo=False) as address:
        page = context_of(chrome).new_page()
        page.goto(address)
        first = page.get_by_role("region", name="First visit")
        expect(first).to_contain_text("you hold")
        first.get_by_role("button", name="Open a worked example").click()
        page.get_by_role("list", name="Power path").wait_for()
        page.goto(address)
        page.get_by_label("New conversion").fill("Rain gauge")
        page.get_by_role("button", name="Begin by pictures").click()
        expect(page.get_by_label("What do you call it?")).to_have_value("Rain gauge")
        show = page.get_by_role("button", name="Show me builds")
        expect(show).to_be_disabled()  # nothing counts as said before it is
        expect(page.get_by_text("Still to say")).to_contain_text("its batteries")
        page.get_by_role("button", name="An ordinary gadget").click()
        for _ in range(4):
            page.get_by_role("button", name="AA", exact=True).click()
        expect(page.get_by_role("status")).to_contain_text("4 x AA")
        page.get_by_role("button", name="decrease number").click()
        expect(page.get_by_role("status")).to_contain_text("3 x AA")
        page.get_by_role("button", name=re.compile("^Meter or sensor")).click()
        page.get_by_role("button", name=re.compile("^Nothing")).click()
        load = page.get_by_label("What it draws, and when")
        load.fill("12 V")
        expect(page.get_by_role("alert")).to_contain_text("Write its unit")  # said at the field, as it is typed
        load.fill("12 mA for 2 s every minute, 60 uA asleep")
        # 12 mA x 2 s / 60 s and 60 uA for the other 58 s, by hand
        expect(page.get_by_role("figure", name="The load as it is lived")).to_contain_text("458 μA on average")
        load.fill("12")  # a bare number is mA
        expect(page.get_by_text("1 h a day is taken")).to_be_visible()
        show.click()
        expect(page).to_have_url(re.compile("/proposals$"))
        status = page.locator("main").get_by_role("status")
        goes_on_to(status, r"nothing (so far )?beats these [1-9]")
        project = httpx.get(f"{address}/api/projects/2").json()["project"]
        assert project["gadget"]["supply"]["series"] == 3
        assert project["gadget"]["modes"][0]["current_a"] == 0.012
        page.context.close()


def test_not_knowing_is_an_answer_that_says_its_price(open_page):
    page = open_page("/new")
    page.get_by_role("button", name="I do not know").first.wait_for()
    for unknown in page.get_by_role("button", name="I do not know").all():
        unknown.click()
    expect(page.get_by_text("chips hung straight on the batteries")).to_be_visible()
    expect(page.get_by_text("until you have looked")).to_be_visible()
    expect(page.get_by_text("off by a factor of three")).to_be_visible()


def test_a_shelf_of_many(chrome, tmp_path):
    with running_app(tmp_path, demo=True) as address, httpx.Client(base_url=address, timeout=60) as client:
        document = client.get("/api/projects/1").json()["project"]
        for number in range(40):
            document["gadget"]["name"] = f"Lantern {number:02}"
            document["tags"] = ["club"] if number % 10 == 0 else []
            client.post("/api/projects", json=document)
        page = context_of(chrome).new_page()
        page.goto(address)
        rows = page.get_by_role("list", name="Conversions").get_by_role("listitem")
        expect(rows).to_have_count(46)
        page.get_by_label("Find a conversion").fill("lantern club")
        expect(rows).to_have_count(4)
        page.get_by_label("Find a conversion").fill("")
        page.get_by_role("button", name="by name").click()
        expect(rows.first).to_contain_text("Bat-call detector")
        page.get_by_role("button", name=re.compile(r"^Surveyed \d")).click()
        expect(rows).to_have_count(1)
        expect(rows.first.get_by_role("link", name="Look at the proposals")).to_have_attribute(
            "href", re.compile("/proposals$")
        )
        page.get_by_role("button", name=re.compile("^All")).click()
        page.get_by_role("button", name="Duplicate Lantern 07", exact=True).click()
        expect(page.get_by_role("link", name="Lantern 07, another")).to_be_visible()
        page.get_by_role("button", name="Archive Lantern 08", exact=True).click()
        expect(page.get_by_text("Lantern 08 is archived")).to_be_visible()
        page.get_by_role("button", name=re.compile("^Archived 1")).click()
        expect(rows).to_have_count(1)
        rows.first.get_by_role("button", name="Restore").click()
        expect(page.get_by_role("link", name="Lantern 08", exact=True)).to_be_visible()
        page.context.close()


def test_a_field_leads_to_how_it_is_measured(conversion):
    page = conversion("Moth-trap lamp", "Survey")
    field = page.get_by_label("Lowest volts it works at").first
    field.focus()
    guide = page.get_by_role("link", name="How to measure it").locator("visible=true").first
    with page.context.expect_page() as opened:
        guide.click()
    article = opened.value.get_by_role("article", name="Lowest volts it works at, with worn batteries")
    expect(article).to_be_in_viewport()
    expect(article.get_by_role("img")).to_be_visible()


def test_the_bench_clock(chrome, tmp_path):
    with running_app(tmp_path, demo=True) as address:
        page = context_of(chrome).new_page()
        page.goto(f"{address}/clock")
        expect(page.get_by_text("Charge it gently").first).to_be_visible()  # a salvaged cell of the drawer is on test
        page.get_by_label("with what is ready to build").check()
        expect(page.get_by_role("link", name=re.compile("Moth-trap lamp")).first).to_be_visible()
        with page.expect_download() as download:
            page.get_by_role("link", name="Calendar file").click()
        assert download.value.path().read_text().startswith("BEGIN:VCALENDAR")
        page.get_by_label("to", exact=True).fill("08:00")
        expect(page.get_by_role("alert")).to_contain_text("ends before it begins")
        page.context.close()


def test_wires_are_ticked_off_on_the_picture(conversion):
    page = conversion("Moth-trap lamp", "Build")
    page.get_by_role("list", name="All steps").get_by_role("button", name=re.compile("Wire all but the cell")).click()
    wires = page.get_by_role("region", name="Wires to solder")
    expect(wires.get_by_role("status")).to_contain_text("0 of 2 are on; next: A")
    wires.get_by_role("checkbox").first.check()
    expect(wires.get_by_role("status")).to_contain_text("1 of 2 are on; next: B")
    expect(wires.get_by_text("A ✓")).to_be_visible()
    expect(page.get_by_text("Saved")).to_be_visible()
    page.reload()
    page.get_by_role("list", name="All steps").get_by_role("button", name=re.compile("Cell last")).click()
    expect(page.get_by_role("region", name="Wires to solder").get_by_role("status")).to_contain_text("next: C")


def test_what_is_still_to_buy(conversion):
    page = conversion("Bat-call detector", "Cell")
    page.get_by_role("link", name="To buy").click()
    wanted = page.get_by_role("list", name="To buy")
    expect(wanted.get_by_role("listitem").first).to_contain_text("803040")
    expect(wanted).to_contain_text("claimed: this size cannot hold it")
    with page.expect_download() as download:
        page.get_by_role("button", name="Save as CSV").click()
    assert "803040" in download.value.path().read_text()


@pytest.mark.parametrize("name", ["Moth-trap lamp", "Bat-call detector", "Pocket anemometer"])
def test_no_station_is_pushed_sideways_on_the_narrowest_phone(conversion, name):
    """WCAG 2.2, 1.4.10: 320 px; 640, a desk at 200 %; and with letters of 120 % where there are 390."""
    page = conversion(name, width=320)
    stations = [
        link.inner_text().split()[0]
        for link in page.get_by_role("navigation", name="Stations").get_by_role("button").all()
    ]
    for width, text in ((320, 100), (640, 100), (390, 120)):
        page.set_viewport_size({"width": width, "height": 800})
        page.evaluate("size => document.documentElement.style.setProperty('zoom', `${size}%`)", text)
        for station in stations:
            page.get_by_role("navigation", name="Stations").get_by_role("button", name=station).click()
            page.get_by_role("heading", level=1).wait_for()
            page.wait_for_load_state("networkidle")
            assert page.evaluate("document.documentElement.scrollWidth") <= width, (station, text)


def test_what_was_taken_unasked_is_told_so_until_it_is_said(open_page, app):
    page = open_page("/")
    page.get_by_label("New conversion").fill("Hedgehog scale")
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("button", name="An ordinary gadget", exact=True).click()
    taken = page.get_by_text("Nobody has said yet which ones: 2 of those")
    expect(taken).to_be_visible()
    number = re.search(r"conversion/([0-9]+)", page.url)[1]

    def stored():
        expect(page.get_by_text(re.compile(r"Saved [0-9]"))).to_be_visible()
        return page.request.get(f"{app}/api/projects/{number}").json()["project"]

    assert stored()["basis"]["gadget.supply.battery"] == "default"
    page.get_by_role("group", name="Old batteries").get_by_role("button", pressed=True).click()
    expect(taken).to_have_count(0)
    said = stored()
    assert said["gadget"]["supply"]["series"] == 2
    assert (said["basis"]["gadget.supply.battery"], said["basis"]["gadget.supply.series"]) == ("label", "label")


def test_tags_are_kept_and_found(conversion):
    page = conversion("Soil-moisture probe", "Survey")
    page.get_by_label("Another tag").fill("lent out")
    page.get_by_label("Another tag").press("Enter")
    expect(page.get_by_role("region", name="Tags")).to_contain_text("lent out")
    expect(page.get_by_text("Saved")).to_be_visible()
    expect(page.get_by_role("link", name="look at what could be built")).to_be_visible()
    page.goto(page.url.split("/conversion")[0])
    page.get_by_label("Find a conversion").fill("lent")
    rows = page.get_by_role("list", name="Conversions").get_by_role("listitem")
    expect(rows).to_have_count(1)
    rows.first.get_by_role("button", name="lent out").click()
    expect(rows).to_have_count(1)


def test_a_cause_is_told_once_with_what_to_do(conversion):
    page = conversion("Pond thermometer", "Charge")
    findings = page.get_by_role("region", name="Findings")
    current = findings.locator("[data-code='charge.over_cell']")
    expect(findings.get_by_role("status")).to_have_text("2 stops · 2 cautions · 8 notes")
    expect(current.get_by_role("list", name="Of the same cause").get_by_role("listitem")).to_have_count(3)
    expect(current.get_by_role("button", name="Fit 56 kΩ")).to_be_visible()
    bay = findings.locator("[data-code='fit.does_not_fit']")
    bay.get_by_role("button").first.click()
    expect(bay).to_contain_text("Do: Make the change that is named")
    expect(bay.get_by_role("img", name="How it is joined up")).to_be_visible()
    expect(bay.get_by_role("link", name="The bay")).to_have_attribute("href", "/measuring#bay")
    # The work in hand: its findings stand before those of other stations, its cautions alone stand below.
    expect(findings).to_contain_text("Stay with the first charge")
    expect(findings).not_to_contain_text("Alkaline cells hold")
    codes = findings.locator("li[data-code]").evaluate_all("all => all.map(one => one.dataset.code)")
    page.get_by_role("navigation", name="Stations").get_by_role("button", name="Survey").click()
    expect(findings).to_contain_text("Alkaline cells hold")
    on_survey = findings.locator("li[data-code]").evaluate_all("all => all.map(one => one.dataset.code)")
    assert sorted(codes) == sorted(on_survey)
    assert on_survey.index("survey.window_inferred") < codes.index("survey.window_inferred")


def test_a_tour_that_can_be_left_and_is_found_again(chrome, tmp_path):
    with running_app(tmp_path, demo=False) as address:
        page = context_of(chrome).new_page()
        # A slow machine: a station's script comes half a second after it is asked for.
        page.route("**/SurveyStation*.js", lambda route: (page.wait_for_timeout(500), route.continue_()))
        page.goto(address)
        page.get_by_role("button", name="Open a worked example").click()
        card = page.get_by_role("region", name="Tour")
        expect(card).to_contain_text("1 of 7")
        expect(card).to_be_focused()
        expect(page.locator(".chain.toured")).to_be_visible()
        card.get_by_role("button", name="Go on").click()
        expect(page.locator(".strip.toured")).to_be_visible()
        card.get_by_role("button", name="Go on").click()
        expect(page.get_by_role("heading", name="What it takes, what it draws")).to_be_visible()
        expect(page.locator(".basis.toured")).to_be_visible()
        page.keyboard.press("Escape")
        expect(card).to_have_count(0)
        expect(page.locator(".toured")).to_have_count(0)
        page.reload()
        page.get_by_role("button", name="Shortcuts and help").click()
        page.get_by_role("button", name="Go on with the tour").click()
        expect(card).to_contain_text("3 of 7")
        for _ in range(4):
            card.get_by_role("button", name="Go on").click()
        expect(page.locator("a.toured")).to_have_text("Proposals")
        card.get_by_role("button", name="That is all").click()
        expect(card).to_have_count(0)
        page.get_by_role("button", name="Shortcuts and help").click()
        expect(page.get_by_role("button", name="A short tour")).to_be_visible()


def test_on_a_phone_the_tour_points_at_what_is_seen_beside_its_card(chrome, tmp_path):
    with running_app(tmp_path, demo=False) as address:
        page = context_of(chrome, width=390, height=844).new_page()
        page.goto(address)
        page.get_by_role("button", name="Open a worked example").dblclick()
        card = page.get_by_role("region", name="Tour")
        for at in range(1, 8):
            expect(card).to_contain_text(f"{at} of 7")
            # The whole of it, or from its first pixel as much as is free above the card; the stations are below it.
            page.wait_for_function("""() => {
                const [framed, card] = ['.toured', '.tour'].map(
                    (at) => document.querySelector(at)?.getBoundingClientRect())
                return framed && framed.top > -1
                    && (framed.bottom <= card.top || framed.top < 1 || framed.top >= card.bottom)
            }""")
            card.get_by_role("button").first.click()
        # Pressed twice, made once.
        assert len(httpx.get(f"{address}/api/projects").json()) == 1
