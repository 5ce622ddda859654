"""Another language on the real pages: by the browser's wish, picked in Settings, with nothing left over or cut off."""

import re

import pytest
from playwright.sync_api import expect

from headless import context_of

# Words that no German sentence has. What the demo conversions are called, and how a load can be typed, stays English.
ENGLISH = re.compile(
    r"\b(the|of|and|are|not|with|from|its|what|which|how|yet|this|that|be|caution|note|days|said|your|has|have|more)\b"
)
PAGES = {
    "": "Neuer Umbau",
    "new": "Neuer Umbau",
    "clock": "Werkbankuhr",
    "parts": "Deine Teile",
    "settings": "Einstellungen",
    "drawer": "Wer bekommt welche Zelle",
}
STATIONS = ["survey", "cell", "power", "charge", "fit", "wire", "build", "prove"]
TEXTS = """() => {
  const texts = [], walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  while (walk.nextNode()) texts.push(walk.currentNode.textContent.trim())
  for (const name of ['aria-label', 'title', 'placeholder', 'alt'])
    for (const at of document.querySelectorAll(`[${name}]`)) texts.push(at.getAttribute(name))
  return texts.filter(Boolean)
}"""
CUT = """() => [...document.querySelectorAll('button, label, th, dt, h1, h2, a')]
  .filter((at) => at.checkVisibility() && at.clientWidth > 2 && at.scrollWidth > at.clientWidth + 1)
  .filter((at) => getComputedStyle(at).overflowX === 'hidden')
  .map((at) => at.textContent.trim())"""


@pytest.fixture
def german(chrome, app):
    context = context_of(chrome, locale="de-DE")
    page = context.new_page()
    page.goto(app)
    yield page, app
    context.close()


def strings_in(value):
    if isinstance(value, dict | list):
        for inner in value.values() if isinstance(value, dict) else value:
            yield from strings_in(inner)
    elif isinstance(value, str) and " " in value:
        yield value


def typed_by_somebody(page, address):
    """Names, notes and loads of the demo, which are the same in every language; the longest first."""
    shelf = page.request.get(f"{address}/api/projects").json()
    documents = [page.request.get(f"{address}/api/projects/{line['id']}").json() for line in shelf]
    texts = {*strings_in(documents), *strings_in(page.request.get(f"{address}/api/inventory").json())}
    return sorted(texts, key=len, reverse=True)


def left_in_english(page, typed):
    for text in page.evaluate(TEXTS):
        rest = text
        for name in typed:
            rest = rest.replace(name, "")
        # How a load can be typed as well stands in quotes.
        if ENGLISH.search(re.sub(r"“[^”]*”|„[^“]*“", "", rest)):
            yield text


@pytest.mark.parametrize("path", [*PAGES, *STATIONS])
def test_a_page_is_german_for_whoever_reads_german(german, path):
    page, address = german
    typed = typed_by_somebody(page, address)
    moth = next(
        line["id"] for line in page.request.get(f"{address}/api/projects").json() if line["name"] == "Moth-trap lamp"
    )
    page.goto(f"{address}/{path}" if path in PAGES else f"{address}/conversion/{moth}/{path}")
    page.wait_for_load_state("networkidle")
    expect(page.locator("html")).to_have_attribute("lang", "de")
    if path in PAGES:
        expect(page.locator("body")).to_contain_text(PAGES[path])
    assert list(left_in_english(page, typed)) == []
    page.set_viewport_size({"width": 390, "height": 844})
    page.wait_for_function("() => document.documentElement.scrollWidth <= innerWidth")
    assert page.evaluate(CUT) == []


def test_a_language_is_picked_in_settings_and_kept(german):
    page, address = german
    page.goto(f"{address}/settings")
    expect(page.get_by_role("radio", name="1,5")).to_be_checked()
    page.get_by_text("English", exact=True).click()
    expect(page.get_by_role("heading", name="Settings of this device")).to_be_visible()
    expect(page.locator("html")).to_have_attribute("lang", "en")
    page.goto(address)
    expect(page.get_by_label("New conversion")).to_be_visible()
    page.goto(f"{address}/settings")
    page.get_by_text("Deutsch", exact=True).click()
    expect(page.get_by_role("heading", name="Einstellungen dieses Geräts")).to_be_visible()


def test_a_load_is_typed_in_german(german):
    page, address = german
    page.goto(f"{address}/new")
    load = page.get_by_label("Was es zieht, und wann")
    load.fill("12 mA für 2 s jede Minute, 60 uA im Schlaf")
    # 12 mA x 2 s / 60 s and 60 uA for the other 58 s, by hand
    expect(page.get_by_text("458 μA im Mittel")).to_be_visible()
