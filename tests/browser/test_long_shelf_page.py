"""A shelf of thousands on the page: a screen of it at once, more on the way down, found by typing; and what was typed
while the server was down, or in a tab that was closed, is there again and sent."""

import re

import httpx
import pytest
from playwright.sync_api import expect
from sqlalchemy import insert
from sqlalchemy.orm import Session

from builders import plan
from headless import context_of, running_app
from pocketspark.server.summaries import judged, rules_version
from pocketspark.store.database import close_database, open_database
from pocketspark.store.projects import Projects
from pocketspark.store.tables import ProjectRow, RevisionRow

MANY = 3000


@pytest.fixture(scope="module")
def long_shelf(tmp_path_factory):
    """Made before the server starts: one real conversion and its line, again and again under other names."""
    folder = tmp_path_factory.mktemp("long")
    engine = open_database(folder)
    kept = Projects(engine, judged, rules_version()).add(plan())
    with Session(engine) as session, session.begin():
        first, head = session.get_one(ProjectRow, kept.id), session.get_one(RevisionRow, kept.revision)
        numbers = range(kept.id + 1, MANY + 1)
        names = {number: f"{'Clock' if number % 100 == 0 else 'Gauge'} {number}" for number in numbers}
        rows = [
            {"id": number, "name": name, "words": name.casefold(), "made_at": first.made_at, "stage": "planned"}
            | {"changed_at": first.changed_at, "head": None, "summary": first.summary, "rules": first.rules}
            for number, name in names.items()
        ]
        states = [
            {"id": number, "project_id": number, "made_at": head.made_at, "body": head.body, "digest": head.digest}
            for number in numbers
        ]
        session.execute(insert(ProjectRow), rows)
        session.execute(insert(RevisionRow), states)
        session.connection().exec_driver_sql("UPDATE project SET head = id WHERE head IS NULL")
    close_database(engine)
    with running_app(folder, demo=False) as address:
        yield address


def test_a_screen_at_once_more_on_the_way_down_and_found_by_typing(long_shelf, chrome):
    context = context_of(chrome)
    page = context.new_page()
    asked = []
    page.on("response", lambda answer: asked.append(answer) if re.search(r"/api/projects\?", answer.url) else None)
    page.goto(long_shelf)
    shelf = page.get_by_role("list", name="Conversions")
    expect(shelf.get_by_role("listitem").first).to_be_visible()
    expect(page.get_by_role("button", name=f"All {MANY}")).to_be_visible()
    assert shelf.get_by_role("listitem").count() <= 100
    for _ in range(4):
        there = shelf.get_by_role("listitem").count()
        shelf.get_by_role("listitem").last.scroll_into_view_if_needed()
        expect(shelf.get_by_role("listitem").nth(there)).to_be_attached()
    names = shelf.get_by_role("link", name=re.compile("Gauge|Clock|lamp")).all_inner_texts()
    assert len(names) == len(set(names))
    page.get_by_role("searchbox").fill("clock 2")
    expect(shelf.get_by_role("listitem")).to_have_count(12)  # 200, 1200, and 2000 to 2900 by hundreds
    page.get_by_role("searchbox").fill("clock 2900")
    expect(shelf.get_by_role("listitem")).to_have_count(1)
    page.get_by_role("searchbox").fill("no such thing")
    expect(page.get_by_text("None of them is like that")).to_be_visible()
    assert max(len(answer.body()) for answer in asked) < 400_000
    context.close()


def test_another_one_is_found_from_within_a_conversion(long_shelf, chrome):
    context = context_of(chrome)
    page = context.new_page()
    page.goto(f"{long_shelf}/conversion/1/power")
    page.get_by_role("list", name="Power path").wait_for()
    page.keyboard.press("/")
    page.get_by_role("textbox", name="Find a station").fill("clock 2900")
    page.get_by_role("button", name="Clock 2900").click()
    expect(page).to_have_title(re.compile("Moth-trap lamp"))  # the copy's document has its own name
    assert page.url.startswith(f"{long_shelf}/conversion/2900")
    context.close()


# The server is down -----------------------------------------------------------------------------------------------


def put_down(context):
    """No answer at all, as when the server has ended."""
    context.route("**/api/**", lambda route: route.abort())


def test_what_was_typed_while_the_server_was_down_survives_a_closed_tab(app, chrome):
    made = httpx.post(f"{app}/api/projects", json=plan().model_dump(mode="json")).json()
    at = f"{app}/api/projects/{made['id']}"
    context = context_of(chrome)
    page = context.new_page()
    page.goto(f"{app}/conversion/{made['id']}/charge")
    field = page.locator('[data-path="builds.0.r_prog_ohm"]').first
    field.wait_for()
    put_down(context)
    field.fill("5k1")
    expect(page.get_by_role("alert").first).to_contain_text("does not answer")
    page.close()
    # Meanwhile another device goes on.
    other = httpx.get(at).json()
    body = {"revision": other["revision"], "document": other["project"] | {"notes": "of the phone"}}
    httpx.put(at, json=body).raise_for_status()
    context.unroute("**/api/**")
    page = context.new_page()
    page.goto(f"{app}/conversion/{made['id']}/charge")
    expect(page.locator('[data-path="builds.0.r_prog_ohm"]').first).to_have_value("5.1")
    for _ in range(100):
        now = httpx.get(at).json()["project"]
        if now["builds"][0]["r_prog_ohm"] == 5100:
            break
        page.wait_for_timeout(100)
    assert (now["builds"][0]["r_prog_ohm"], now["notes"]) == (5100, "of the phone")
    context.close()
    httpx.delete(at)


def test_what_a_closed_tab_left_is_sent_from_the_shelf(app, chrome):
    made = httpx.post(f"{app}/api/projects", json=plan().model_dump(mode="json")).json()
    at = f"{app}/api/projects/{made['id']}"
    context = context_of(chrome)
    page = context.new_page()
    page.goto(f"{app}/conversion/{made['id']}/charge")
    field = page.locator('[data-path="builds.0.r_prog_ohm"]').first
    field.wait_for()
    put_down(context)
    field.fill("2k7")
    expect(page.get_by_role("alert").first).to_contain_text("does not answer")
    page.close()
    context.unroute("**/api/**")
    page = context.new_page()
    with page.expect_response(lambda answer: answer.request.method == "PUT") as sent:
        page.goto(app)
    assert sent.value.ok
    assert httpx.get(at).json()["project"]["builds"][0]["r_prog_ohm"] == 2700
    page.goto(f"{app}/conversion/{made['id']}/charge")  # and nothing of it is taken up again
    expect(page.locator('[data-path="builds.0.r_prog_ohm"]').first).to_have_value("2.7")
    context.close()
    httpx.delete(at)
