"""The real built app in Chromium: one server for all browser tests, a fresh profile for each."""

import re

import pytest

from headless import ROOT, chromium, context_of, running_app

AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture(scope="session")
def app(tmp_path_factory):
    with running_app(tmp_path_factory.mktemp("data")) as address:
        yield address


@pytest.fixture(scope="session")
def chrome():
    with chromium() as browser:
        yield browser


@pytest.fixture
def open_page(app, chrome):
    """Opens pages, each in its own window; none may write an error to the console."""
    contexts, complaints = [], []

    def open_(path="/", **options):
        contexts.append(context_of(chrome, **options))
        page = contexts[-1].new_page()
        page.on("console", lambda line: complaints.append(line.text) if line.type == "error" else None)
        page.on("pageerror", lambda error: complaints.append(str(error)))
        page.goto(app + path)
        return page

    yield open_
    for context in contexts:
        context.close()
    # Not there (404), refused (422) or a conflict (409) is an answer; Chromium writes a line for it all the same.
    answered = re.compile(r"status of (404|409|422)")
    assert [text for text in complaints if not answered.search(text)] == []


@pytest.fixture
def conversion(open_page):
    """Opens one of the demo conversions at a station."""

    def open_(name, station="survey", **options):
        page = open_page("/", **options)
        page.get_by_role("link", name=name).first.click()
        page.get_by_role("navigation", name="Stations").get_by_role("button", name=station, exact=False).click()
        page.get_by_role("list", name="Power path").wait_for()
        return page

    return open_


@pytest.fixture
def serious():
    """What axe-core finds serious or critical on a page as it stands."""

    def look(page):
        page.evaluate(AXE.read_text())
        found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")["violations"]
        grave = [rule for rule in found if rule["impact"] in ("serious", "critical")]
        return [(rule["id"], [node["target"] for node in rule["nodes"]][:4]) for rule in grave]

    return look
