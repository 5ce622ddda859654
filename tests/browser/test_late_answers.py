"""Answers that come in another order than they were asked for: the newest counts, and none is lost.

What the open conversion itself does about them is tested without a browser, in frontend/tests/openConversion.test.ts.
"""

import io
import re
from contextlib import contextmanager

import httpx
import pytest
from PIL import Image
from playwright.sync_api import expect
from progress import comes_true


@contextmanager
def first_answer_last(page, address):
    """The server's answer to what was asked first reaches the page when the block is left, after all later ones.

    First is what the page asked first: of two questions under way at once either may be answered sooner.
    """
    asked, held = [], []

    def handle(route):
        asked.append(route)
        answer = route.fetch()
        if route is asked[0]:
            held.append((route, answer))
        else:
            route.fulfill(response=answer)

    page.route(address, handle)
    yield
    for _ in range(200):
        if not held:
            page.wait_for_timeout(50)
    [(route, answer)] = held
    route.fulfill(response=answer)
    page.wait_for_load_state("networkidle")
    page.unroute(address)


def test_both_units_of_a_log_are_settled_though_the_first_answer_comes_last(conversion, tmp_path):
    page = conversion("Bat-call detector", "Prove")
    rows = "\n".join(f"{t};{3600 + t / 36};{400}" for t in range(0, 7200, 60))
    file = tmp_path / "milli.csv"
    file.write_text(f"Zeit;Spannung;Strom\n{rows}\n")
    page.get_by_label("Log file").set_input_files(file)
    asked = page.get_by_role("region", name="To be settled first")
    shown = page.get_by_role("region", name="What it shows")
    expect(asked).to_contain_text("No small cell")
    with first_answer_last(page, "**/api/questions/log"):
        with page.expect_request("**/api/questions/log"):
            asked.get_by_role("button", name="It is in millivolts").click()
        asked.get_by_role("button", name="It is in milliamperes").click()
        expect(shown).to_be_visible()
    expect(shown).to_be_visible()
    expect(asked).to_have_count(0)


def test_the_builds_compared_are_those_that_are_ticked(conversion):
    page = conversion("Bat-call detector")
    with first_answer_last(page, "**/api/questions/compare"):
        with page.expect_request("**/api/questions/compare"):
            page.get_by_role("link", name="Compare").click()
        page.get_by_role("group", name="Builds to compare").get_by_text("Straight through").click()
    expect(page.get_by_text("Tick two or more.")).to_be_visible()
    expect(page.get_by_role("table")).to_have_count(0)


def test_no_reading_of_two_probes_at_once_is_lost(open_page):
    page = open_page("/trainer")
    probes = page.get_by_role("region", name="The bench").get_by_role("listitem").get_by_role("button")
    names = [probes.nth(at).inner_text() for at in (0, 1)]
    with first_answer_last(page, "**/api/trainer/*/*"):
        for name in names:
            with page.expect_request("**/api/trainer/*/*"):
                page.get_by_role("button", name=name).click()
        expect(page.get_by_role("table", name="Readings")).to_contain_text(names[1])
    for name in names:
        expect(page.get_by_role("table", name="Readings")).to_contain_text(name)


def test_a_photograph_that_is_long_under_way_belongs_to_the_step_where_it_was_taken(conversion, app):
    page = conversion("Moth-trap lamp", "Build")
    number = page.url.split("/")[4]
    open_step = page.locator(".station").get_by_role("heading", level=2).first
    expect(open_step).to_have_text(taken := "Photograph everything as it is")
    out = io.BytesIO()
    Image.new("RGB", (80, 60), "seagreen").save(out, "PNG")
    page.route("**/photos?*", lambda route: (page.wait_for_timeout(800), route.continue_()))
    with page.expect_response(lambda answer: answer.request.method == "PUT"):
        page.get_by_label("Photograph of this step").set_input_files(
            {"name": "step.png", "mimeType": "image/png", "buffer": out.getvalue()}
        )
        page.get_by_role("button", name="Next").click()
        expect(open_step).not_to_have_text(taken)
    [step] = httpx.get(f"{app}/api/projects/{number}").json()["project"]["builds"][0]["record"]["steps"]
    page.get_by_role("button", name="Back").click()
    expect(open_step).to_have_text(taken)
    assert len(step["photo_ids"]) == 1
    expect(page.locator(".station").get_by_role("img", name="step")).to_be_visible()


# What is typed into stays clear; what is drawn and told around it does not.
IS_DIM = "() => [...document.querySelectorAll('.late, .late *')].some((one) => getComputedStyle(one).opacity < 0.5)"


@pytest.mark.parametrize(
    ("station", "question"),
    [
        ("Power", "regulators"),
        ("Power", "scenarios"),
        ("Power", "measure-next"),
        ("Charge", "scenarios"),
        ("Cell", "candidates"),
        ("Fit", "fit"),
        ("Wire", "wiring"),
        ("Build", "procedure"),
    ],
)
def test_what_is_out_of_date_is_dim_until_its_answer_is_there(conversion, app, station, question):
    """An edit is undone, and the answer to the state before it is kept back."""
    page = conversion("Moth-trap lamp")
    address = f"{app}/api/projects/{re.search(r'/conversion/([0-9]+)', page.url)[1]}"
    stored = httpx.get(address).json()
    cell = stored["project"]["builds"][0]["cell"]
    cell |= {"capacity_ah": 0.5, "size_mm": [5.5, 30, 40]}
    httpx.put(address, json={"revision": stored["revision"], "document": stored["project"]}).raise_for_status()
    page = conversion("Moth-trap lamp", station)
    # What was never answered has nothing on screen that could be out of date.
    with page.expect_response(f"**/api/questions/{question}"):
        page.reload()
    page.wait_for_load_state("networkidle")
    expect(page.locator(".late")).to_have_count(0)
    held = []
    page.route(f"**/api/questions/{question}", lambda route: held.append(route))  # noqa: PLW0108 (Playwright wants a function)
    page.get_by_role("button", name="Undo").click()
    page.wait_for_function(IS_DIM)
    page.wait_for_timeout(1500)  # all other answers are there
    assert page.evaluate(IS_DIM)
    for route in held:
        route.continue_()
    page.unroute(f"**/api/questions/{question}")
    expect(page.locator(".late")).to_have_count(0)


def test_what_was_read_of_a_cell_elsewhere_is_offered_where_it_is_chosen(conversion, app):
    body = {"name": "From a torch", "capacity_ah": 0.9, "size_mm": [5, 34, 50], "origin": "salvaged"}
    part = httpx.post(f"{app}/api/inventory", json={"kind": "cell", "body": body}).raise_for_status().json()["id"]
    page = conversion("Moth-trap lamp", "Cell")
    page.get_by_label("Search the cells").fill("From a torch")
    page.get_by_role("button", name="From a torch", exact=False).first.click()
    expect(page.get_by_role("textbox", name="Measured", exact=True)).to_have_value("")
    tested = {"kind": "cell", "body": body | {"measured_capacity_ah": 0.612}}
    httpx.put(f"{app}/api/inventory/{part}", json=tested).raise_for_status()
    expect(page.get_by_text("612 mAh")).to_be_visible(timeout=20_000)
    page.get_by_role("button", name="Take it over").click()
    expect(page.get_by_role("textbox", name="Measured", exact=True)).to_have_value("612")
    expect(page.get_by_role("button", name="Take it over")).to_have_count(0)


def test_what_another_window_archived_says_so_and_keeps_what_was_typed(conversion, app):
    page = conversion("Bat-call detector")
    address = f"{app}/api/projects/{re.search(r'/conversion/([0-9]+)', page.url)[1]}"
    httpx.delete(address).raise_for_status()
    expect(page.get_by_role("alert").first).to_contain_text("put into the archive", timeout=20_000)
    page.get_by_label("Name of the gadget").fill("Bat-call recorder")
    page.get_by_label("Name of the gadget").press("Enter")
    expect(page.get_by_role("alert").first).to_contain_text("Not saved yet", timeout=20_000)
    httpx.post(f"{address}/restore").raise_for_status()
    comes_true(page, lambda: httpx.get(address).json()["project"]["gadget"]["name"] == "Bat-call recorder")
    expect(page.get_by_role("alert")).to_have_count(0)
