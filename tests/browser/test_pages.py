"""Every page: accessible, whole at 1280 and at 390 px, in both themes, and nothing loaded from elsewhere."""

import re

import pytest
from picking import choose
from playwright.sync_api import expect
from shifts import TOO_MUCH, WATCHED, shifted
from targets import too_small

STATIONS = ["survey", "cell", "power", "charge", "fit"]


def test_the_frame_fits_one_screen(conversion):
    page = conversion("Moth-trap lamp")
    assert page.evaluate("document.documentElement.scrollHeight") <= 800


def test_the_maker_chooses_the_theme_and_it_stays(open_page):
    page = open_page("/")
    page.get_by_role("button", name="Dark colours").click()
    assert "dark" in page.locator("html").get_attribute("class")
    page.reload()
    expect(page.get_by_role("button", name="Light colours")).to_be_visible()


def test_nothing_is_fetched_from_elsewhere(open_page, app):
    asked = []
    page = open_page("/rules")
    page.on("request", lambda request: asked.append(request.url))
    page.goto(f"{app}/")
    page.get_by_role("link", name="Moth-trap lamp").click()
    page.get_by_role("list", name="Power path").wait_for()
    page.wait_for_load_state("networkidle")
    assert asked
    assert all(url.startswith((app, "data:", "blob:")) for url in asked)


def test_a_wrong_address_says_so(open_page):
    expect(open_page("/conversion/99999/survey").get_by_label("New conversion")).to_be_visible()
    page = open_page("/nowhere")
    expect(page.get_by_role("heading", name="Nothing is at this address")).to_be_visible()
    page.get_by_role("link", name="the shelf").click()
    expect(page.get_by_label("New conversion")).to_be_visible()


def test_decimal_commas_are_written_and_read_everywhere_once_they_are_set(conversion, app):
    page = conversion("Moth-trap lamp", "fit")
    fit = page.url
    page.goto(f"{app}/settings")
    page.get_by_text("1,5", exact=True).click()
    page.goto(fit)
    expect(page.get_by_text(re.compile(r"with [0-9]+,[0-9] mm to spare")).first).to_be_visible()
    width = page.get_by_label("Width inside").first
    expect(width).to_have_value("38,5")
    width.fill("39,25")
    width.blur()
    expect(width).to_have_value("39,25")
    width.press("ArrowUp")
    expect(width).to_have_value("40,25")
    number = re.search(r"conversion/([0-9]+)", fit)[1]
    for station in ("survey", "cell", "power", "charge", "wire", "build", "prove"):
        page.goto(fit.replace("/fit", f"/{station}"))
        page.get_by_role("heading", level=1).wait_for()
        page.wait_for_load_state("networkidle")
        said = page.get_by_role("list", name="Power path").inner_text() + page.get_by_role("main").inner_text()
        assert re.findall(r"[0-9][.][0-9]+ (?:mm|mA|V|kΩ|Ω|h|%)", re.sub(NAMED, "", said)) == [], station
    stored = page.request.get(f"{app}/api/projects/{number}").json()["project"]
    assert stored["gadget"]["bay"]["rooms"][0]["size_mm"][1] == 40.25


# Names of parts and classes, as they are printed on them.
NAMED = (
    r"[0-9][.][0-9]+ V (?:lithium|step|low|three|regulator)|cuts at 3.0 V|[0-9.]+ ohm dropping"
    r"|(?:Block|for) [^\n]*?V|[0-9.]+ x [0-9.]+ x [0-9.]+ mm|[0-9.]+ A(?: linear|:)"
)


def test_what_is_begun_takes_over_the_makers_own_tools_and_money(open_page):
    page = open_page("/settings")
    choose(page, "Lengths are taken with", "a ruler")
    choose(page, "Volts and amperes with", "from the bottom of the drawer")
    page.get_by_label("Prices are in").fill("CHF")
    page.get_by_text("110 %").click()
    page.goto(page.url.replace("settings", ""))
    page.get_by_label("New conversion").fill("Snail counter")
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("button", name="An ordinary gadget", exact=True).click()
    assert page.evaluate("document.documentElement.currentCSSZoom") == pytest.approx(1.1)
    page.get_by_role("button", name=re.compile("^Fit")).click()
    page.get_by_role("button", name="Enter my own lengths").click()
    expect(page.get_by_label("Calipers right to")).to_have_value("1")
    expect(page.get_by_text(re.compile(r"Saved \d\d:\d\d"))).to_be_visible()
    stored = page.request.get(re.sub(r"(.*)/conversion/(\d+)/.*", r"\1/api/projects/\2", page.url)).json()["project"]
    assert (stored["meter_share"], stored["costs"]["currency"]) == (0.05, "CHF")


PAGES = ["/", "/new", "/rules", "/glossary", "/measuring", "/parts", "/clock", "/safekeeping", "/settings", "/trainer"]
OF_A_CONVERSION = [*STATIONS, "wire", "build", "prove", "proposals", "compare", "sheet", "shopping"]


@pytest.mark.parametrize(("width", "height", "least_px"), [(1280, 800, 24), (390, 844, 44)])
def test_no_page_pushes_anything_aside_or_has_too_small_a_target(conversion, app, width, height, least_px):
    page = conversion("Moth-trap lamp", width=width, height=height)
    lamp = re.search(r"/conversion/(\d+)", page.url)[1]
    page.add_init_script(WATCHED)
    moved, small = {}, {}
    for path in [*PAGES, *(f"/conversion/{lamp}/{name}" for name in OF_A_CONVERSION)]:
        page.goto(app + path)
        page.get_by_role("heading").first.wait_for()
        page.wait_for_timeout(900)  # the slowest question is asked 400 ms after the page stands
        moved[path] = shifted(page)
        small[path] = too_small(page, least_px)
    assert {path: by for path, by in moved.items() if by >= TOO_MUCH} == {}
    assert {path: those for path, those in small.items() if those} == {}


def test_a_first_charge_that_cannot_be_watched_says_so_and_pushes_nothing_aside(conversion):
    page = conversion("Soil-moisture probe", width=390, height=844)  # nothing in it charges a cell yet
    page.add_init_script(WATCHED)
    held = []

    def hold(question):
        held.append(question)

    page.route("**/api/questions/first-charge", hold)
    page.goto(page.url.replace("/survey", "/prove"))
    expect(page.get_by_role("region", name="Logbook")).to_be_visible()
    for question in held:
        question.continue_()
    expect(page.get_by_text("A first charge can be watched here once")).to_be_visible()
    assert shifted(page) < TOO_MUCH


def test_inches_and_fahrenheit_are_written_everywhere_once_they_are_set(conversion, app):
    page = conversion("Moth-trap lamp", "fit")
    expect(page.get_by_text(re.compile(r"with [0-9.]+ mm to spare")).first).to_be_visible()
    fit = page.url
    page.goto(app)
    page.get_by_role("link", name="Settings").click()
    page.get_by_text("inches", exact=True).click()
    page.get_by_text("Fahrenheit", exact=True).click()
    page.get_by_text("Letter", exact=True).click()
    page.goto(fit)
    expect(page.get_by_text(re.compile(r"with 0[.][0-9]{3} in to spare")).first).to_be_visible()
    # A bare number is in the unit beside it: half an inch more on the 62 mm that were measured.
    length = page.get_by_label("Length inside").first
    expect(length).to_have_value("2.441")
    length.fill("2 15/16")
    length.blur()
    expect(length).to_have_value("2.938")
    page.goto(fit.replace("/fit", "/survey"))
    room = page.get_by_label("Charged in a room of")
    expect(room).to_have_value("77")
    room.fill("95")
    room.blur()
    expect(room).to_have_value("95")
    page.goto(fit.replace("/fit", "/sheet"))
    expect(page.get_by_role("region", name="Where it lies, in")).to_be_visible()
    expect(page.get_by_role("button", name="PDF, Letter")).to_be_visible()
    expect(page.get_by_role("button", name="PDF, A4")).to_have_count(0)
    # The file is what it was: millimetres and Celsius.
    project = page.request.get(f"{app}/api/projects/{re.search(r'conversion/([0-9]+)', fit)[1]}").json()["project"]
    assert project["gadget"]["bay"]["rooms"][0]["size_mm"][0] == pytest.approx(2.9375 * 25.4)
    assert project["gadget"]["shell"]["room_c"] == pytest.approx(35)


@pytest.mark.parametrize("station", ["Survey", "Cell", "Charge", "Fit"])
def test_words_in_every_field_of_a_station_are_refused_there_and_nothing_else_breaks(conversion, station):
    """Typed all at once, so that whatever is drawn from a field meets text that is no number."""
    page = conversion("Bat-call detector", station)
    within = page.locator(".station")
    within.get_by_role("heading", level=1).first.wait_for()
    within.evaluate("all => all.querySelectorAll('details').forEach((one) => (one.open = true))")
    fields = within.locator(".quantity input:visible")
    expect(fields.first).to_be_visible()
    places = fields.evaluate_all("all => all.map((one) => one.dataset.path)")
    for place in places:
        page.locator(f".station input[data-path='{place}']").first.fill("about ten")
    page.keyboard.press("Tab")
    for place in places:
        field = page.locator(f".station input[data-path='{place}']").first
        expect(field).to_have_value("about ten")
        expect(field).to_have_attribute("aria-invalid", "true")
    page.reload()
    expect(page.locator(f".station input[data-path='{places[0]}']").first).to_have_value("about ten")
