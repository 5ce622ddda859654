"""Every figure on a page was said by the core in an answer that this page was given; after an edit and undo as well.

Texts are compared with texts, so that a page which computes, rounds or writes for itself is found. Lengths are written
in the units of the reader, by rules with a test of their own (reference/test_numbers_of_the_page.py); what stands in a
drawing is the scale of its axes.
"""

import re
from contextlib import suppress

import pytest
from playwright.sync_api import Error, expect

from chances import in_turn
from pocketspark.demo import demo_projects

UNITS = r"mAh|Ah|[mμn]?A|m?V|m?W|[km]?Ω|°C|days|months|years|min|h|s|%|m?Wh|[μn]F|k?Hz|dB"
FIGURE = re.compile(rf"(?<![\w.,])\d[\d.,]* (?:{UNITS})(?!\w)")
STATIONS = ["verdict", "survey", "charge", "cell", "fit", "power", "wire", "build", "sheet", "compare", "shopping"]
GADGETS = [one.gadget.name for one in demo_projects() if one.builds[0].cell and one.builds[0].boards]


def plain(text):
    return " ".join(text.replace("µ", "μ").split())


def texts_of(answers):
    """What these answers said; of those that the page did not wait for nothing is known."""
    for answer in answers:
        if "/api/" in answer.url and "json" in answer.headers.get("content-type", ""):
            with suppress(Error):
                yield plain(answer.text())


def text_at_rest(page):
    """What the page says once nothing is dimmed and no further answer changes it: some come late on a busy machine."""
    expect(page.locator(".late")).to_have_count(0)
    before, now = "", page.locator("main").inner_text()
    while before != now:
        page.wait_for_timeout(700)
        before, now = now, page.locator("main").inner_text()
    return now


def kept(page):
    """The project's next state, once the server has it."""
    return page.expect_response(
        lambda answer: answer.request.method != "GET" and re.search(r"/api/projects/\d+", answer.url) is not None
    )


def figures_of(page, address):
    """By station: (figure, was it sent?)."""
    for station in STATIONS:
        answers = []

        def heard(answer, answers=answers):
            answers.append(answer)

        page.on("response", heard)
        page.goto(f"{address}/{station}")
        expect(page.get_by_role("heading").first).to_be_visible()
        page.wait_for_load_state("networkidle")
        page.add_style_tag(content="svg { display: none !important }")
        text = text_at_rest(page)
        sent = " ".join(texts_of(answers))
        page.remove_listener("response", heard)
        for figure in FIGURE.findall(plain(text)):
            yield station, figure, figure in sent


@pytest.mark.parametrize("gadget", in_turn(GADGETS, 1))
def test_no_page_has_a_figure_of_its_own(conversion, gadget):
    page = conversion(gadget)
    address = re.match(r".*/conversion/\d+", page.url)[0]
    before = list(figures_of(page, address))
    assert len(before) > 200
    assert [one for one in before if not one[2]] == []

    page.goto(f"{address}/charge")
    field = page.get_by_label("Fitted")
    with kept(page):
        field.fill("4.7k")
        field.press("Tab")
    edited = list(figures_of(page, address))
    assert [one for one in edited if not one[2]] == []
    assert edited != before

    page.goto(f"{address}/charge")
    with kept(page):
        page.get_by_role("button", name="Undo").click()
    assert list(figures_of(page, address)) == before
