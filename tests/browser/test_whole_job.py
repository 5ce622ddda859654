"""The whole job on the real page: from an empty shelf to a proven, printed conversion, reloaded in its long parts."""

import re

import pypdfium2
import pytest
from picking import choose
from playwright.sync_api import expect
from progress import saved

from headless import context_of, running_app


@pytest.fixture
def no_projects(tmp_path, chrome):
    """A page on a server with no data at all; nothing may be written to the console."""
    with running_app(tmp_path / "data", demo=False) as address:
        context = context_of(chrome)
        page, complaints = context.new_page(), []
        page.on("console", lambda line: complaints.append(line.text) if line.type == "error" else None)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.goto(address)
        yield page
        assert complaints == []
        context.close()


def station(page, name):
    page.get_by_role("navigation", name="Stations").get_by_role("button", name=name).click()


def stops(page):
    return page.get_by_role("region", name="Findings").get_by_role("img", name="stop")


def survey(page):
    page.get_by_label("New conversion").fill("Marsh lamp")
    page.get_by_role("button", name="Start the survey").click()
    page.get_by_role("button", name="An ordinary gadget", exact=True).click()
    for _ in range(2):
        page.get_by_role("button", name="AAA", exact=True).click()
    expect(page.get_by_label("in series").first).to_have_value("3")
    page.get_by_role("button", name="Add the first mode").click()
    page.get_by_label("current", exact=True).fill("60")
    page.get_by_label("hours a day").fill("2")
    page.get_by_label("Lowest volts it works at").fill("3.1")
    page.get_by_label("Highest volts it stands").fill("4.8")


def choose_the_parts(page):
    station(page, "Cell")
    page.get_by_label("Search the cells").fill("503450")
    page.get_by_role("button", name="Pouch 503450, 900 mAh").click()
    station(page, "Charge")
    page.get_by_role("button", name=re.compile("^1 A linear charger, Type-C, with protection")).click()
    page.get_by_role("region", name="Findings").get_by_role("button", name="Fit 3 kΩ", exact=True).click()
    expect(page.get_by_text("full in about 2 h 35")).to_be_visible()


def fit_it(page):
    station(page, "Fit")
    page.get_by_role("button", name="Enter my own lengths", exact=True).click()
    for label, mm in (("Length inside", "62"), ("Width inside", "39"), ("Height under the lid", "18")):
        page.get_by_label(label).fill(mm)
    expect(page.locator(".verdict")).to_contain_text("Everything fits")
    expect(page.get_by_role("row", name=re.compile("socket"))).to_be_visible()


def build_it(page):
    """Every step done, every hold passed by the simulated meter; reloaded half-way."""
    station(page, "Build")
    page.get_by_role("button", name="Practise on a copy").click()
    expect(page.get_by_role("note")).to_contain_text("Practice copy")
    heading = page.locator("article h2")
    expect(heading).to_be_visible()
    total = page.get_by_role("list", name="All steps").get_by_role("button").count()
    for done in range(total):
        expect(page.get_by_text(re.compile(f"^{done} of {total} done"))).to_be_visible()
        if done == total // 2:
            saved(page)
            page.reload()
            expect(page.get_by_text(re.compile(f"^{done} of {total} done"))).to_be_visible()
        title = heading.inner_text()
        hold = page.get_by_role("button", name="Check it against the limits")
        if hold.is_visible():
            page.get_by_role("button", name="Read it with the simulated meter").click()
            expect(page.locator(".hold input").first).to_have_value(re.compile(r"\d"))
            hold.click()
        else:
            page.get_by_role("button", name="Done", exact=True).click()
        if done < total - 1:
            expect(heading).not_to_have_text(title)
    expect(page.get_by_text(f"{total} of {total} done")).to_be_visible()
    expect(page.get_by_role("region", name="Finished")).to_contain_text("Practised to the end")
    with page.expect_download() as download:
        page.get_by_role("button", name="Certificate and labels, PDF, A4").click()
    assert download.value.suggested_filename.endswith("-certificate.pdf")


def prove_it(page):
    """A charge written live, found again after a reload, read, and its capacity taken as measured."""
    station(page, "Prove")
    choose(page, "Pace", "two hours in a second")
    page.get_by_role("button", name="Run it live").click()
    bench = page.get_by_role("region", name="Simulated bench")
    expect(bench.get_by_role("status")).to_contain_text("V")
    page.reload()
    expect(bench.get_by_text("the run has ended")).to_be_visible()
    bench.get_by_role("button", name="Read this log").click()
    expect(page.get_by_text("Nothing out of the ordinary.")).to_be_visible()
    capacity = page.get_by_role("listitem").filter(has_text="capacity").filter(has_text="Take it as measured")
    capacity.get_by_role("button", name="Take it as measured").click()
    expect(page.get_by_role("region", name="As built")).to_contain_text("cell's charge")
    expect(page.get_by_role("region", name="Logbook")).to_contain_text("from simulated-cell-meters.csv")
    saved(page)


def print_it(page, folder):
    page.get_by_role("link", name="Sheet").click()
    for part in ("Parts", "Charge-current resistor", "Hook-up", "Where it lies", "Steps", "As built", "Cautions"):
        expect(page.get_by_role("region", name=part)).to_be_visible()
    # Every wire was ticked off where it was soldered; pictures came as pictures.
    assert page.get_by_role("region", name="Hook-up").get_by_role("img", name="done", exact=True).count() == 4
    assert page.locator("img.picture").evaluate_all("all => all.map(one => one.naturalWidth > 100)") == [True] * 3
    with page.expect_download() as download:
        page.get_by_role("button", name="PDF, A4").click()
    file = folder / "sheet.pdf"
    download.value.save_as(file)
    sheet = pypdfium2.PdfDocument(file)
    return [sheet[number] for number in range(len(sheet))]


def test_from_an_no_projects_to_a_proven_and_printed_conversion(no_projects, tmp_path):
    page = no_projects
    survey(page)
    choose_the_parts(page)
    fit_it(page)
    station(page, "Wire")
    expect(page.get_by_text(re.compile("4 wires to solder"))).to_be_visible()
    expect(stops(page)).to_have_count(0)
    build_it(page)
    prove_it(page)
    pages = print_it(page, tmp_path)
    text = " ".join(sheet.get_textpage().get_text_bounded() for sheet in pages)
    for told in ("Marsh lamp", "Pouch 503450", "Charge-current resistor", "As built, beside as planned", "UN 38.3"):
        assert told in text
    # The drawings are there as drawings: the first page has the red of the hook-up's plus on it, not text alone.
    reds = [red for red, green, blue in pages[0].render(scale=1).to_pil().convert("RGB").getdata() if red > green + 90]
    assert len(reds) > 100
