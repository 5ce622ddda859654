"""The real built app in Chromium: one server for all browser tests, a fresh profile for each."""

import re

import httpx
import pytest
from playwright.sync_api import expect

from headless import ROOT, chromium, context_of, running_app
from pocketspark.demo import demo_projects

# A busy machine may take its time; what never comes still fails.
expect.set_options(timeout=20_000)

AXE = ROOT / "frontend" / "node_modules" / "axe-core" / "axe.min.js"


@pytest.fixture(scope="session")
def data_folder(tmp_path_factory):
    return tmp_path_factory.mktemp("data")


@pytest.fixture(scope="session")
def app(data_folder):
    with running_app(data_folder) as address:
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
    # Not there (404), put away (410), refused (422), a conflict (409) or a full disk (507) is an answer; Chromium has a
    # line for it all the same.
    answered = re.compile(r"status of (404|409|410|422|507)")
    assert [text for text in complaints if not answered.search(text)] == []


@pytest.fixture
def conversion(app, open_page):
    """Opens demo conversions at a station. Each test has its own copy of a gadget, so none meets another's work;
    two windows of one test show the same copy."""
    demo = {project.gadget.name: project.model_dump(mode="json") for project in demo_projects()}
    copies = {}

    def copy_of(name):
        if name not in copies:
            copies[name] = httpx.post(f"{app}/api/projects", json=demo[name]).raise_for_status().json()["id"]
        return copies[name]

    def open_(name, station="survey", **options):
        page = open_page(f"/conversion/{copy_of(name)}/{station.lower()}", **options)
        page.get_by_role("list", name="Power path").wait_for()
        return page

    yield open_
    for project_id in copies.values():
        httpx.delete(f"{app}/api/projects/{project_id}").raise_for_status()


@pytest.fixture
def serious():
    """What axe-core finds serious or critical on a page, once nothing is dimmed that waits for its answer."""

    def look(page):
        expect(page.locator(".late")).to_have_count(0)
        page.evaluate(AXE.read_text())
        found = page.evaluate("axe.run(document, {resultTypes: ['violations']})")["violations"]
        grave = [rule for rule in found if rule["impact"] in ("serious", "critical")]
        return [(rule["id"], [node["target"] for node in rule["nodes"]][:4]) for rule in grave]

    return look
