"""Twenty thousand conversions: listed in pages, found and put in order by the database, no document read for it."""

import random

import pytest
from fastapi.testclient import TestClient
from sqlalchemy import event, insert
from sqlalchemy.orm import Session

from builders import plan
from pocketspark.core.questions.summary import STAGES
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.store.tables import ProjectRow, RevisionRow

MANY = 20_000
THINGS = ("Lamp", "rain gauge", "Bat detector", "sound Box", "Éclairage", "toy 100%", "door_bell", "clock")


@pytest.fixture(scope="module")
def shelf(tmp_path_factory):
    """One real conversion, and its line again and again under other names, of other stages; every tenth archived."""
    folder = tmp_path_factory.mktemp("long")
    with TestClient(create_app(Settings(data=folder))) as client:
        state = client.app.state
        state.shelf_lines.patience_s = 60
        client.post("/api/projects", json=plan().model_dump(mode="json"))
        [line] = client.get("/api/projects").json()
        with Session(state.engine) as session, session.begin():
            first, head = session.get_one(ProjectRow, line["id"]), session.get_one(RevisionRow, 1)
            common = {"made_at": first.made_at, "summary": first.summary, "rules": first.rules}
            chance, stages = random.Random(31), [*STAGES]
            rows = []
            for number in range(2, MANY + 1):
                name = f"{chance.choice(THINGS)} {number}"
                moment = first.made_at.replace(year=2001 + number % 25, minute=number % 60)
                rows.append(
                    common
                    | {"id": number, "name": name, "words": f"{name} mignon".casefold(), "head": number}
                    | {"stage": chance.choice(stages), "changed_at": moment}
                    | {"archived_at": moment if number % 10 == 0 else None}
                )
            body = {"made_at": head.made_at, "body": "{}", "digest": None}
            states = [body | {"id": row["id"], "project_id": row["id"]} for row in rows]
            session.execute(insert(ProjectRow), [row | {"head": None} for row in rows])
            session.execute(insert(RevisionRow), states)
            session.connection().exec_driver_sql("UPDATE project SET head = id")
        yield client, rows


def every_page(client, **wanted):
    """All lines that are there, page by page."""
    found = []
    while page := client.get("/api/projects", params=wanted | {"skip": len(found), "most": 200}).json():
        assert len(page) <= 200
        found += page
    return found


@pytest.mark.parametrize(
    "words", ["lamp", "BOX 77", "éclair", "100%", "door_bell", "r_b", "%", "MIGNON clock 9", "no such"]
)
def test_words_are_found_as_a_look_at_every_line_finds_them(shelf, words):
    client, rows = shelf
    by_hand = {
        row["id"]
        for row in rows
        if row["archived_at"] is None and all(word in row["words"] for word in words.casefold().split())
    }
    found = [line["id"] for line in every_page(client, words=words)]
    assert len(found) == len(set(found))
    assert set(found) - {1} == by_hand


def test_pages_follow_one_another_in_every_order(shelf):
    client, rows = shelf
    there = [row for row in rows if row["archived_at"] is None]
    touched = [row["id"] for row in sorted(there, key=lambda row: (row["changed_at"], row["id"]), reverse=True)]
    assert [line["id"] for line in every_page(client)][1:] == touched
    places = {stage: place for place, stage in enumerate(STAGES)}
    furthest = sorted(there, key=lambda row: (places[row["stage"]], row["changed_at"], row["id"]), reverse=True)
    assert [line["id"] for line in every_page(client, order="stage") if line["id"] > 1] == [r["id"] for r in furthest]
    names = [line["name"].casefold() for line in every_page(client, order="name") if line["name"].isascii()]
    assert names == sorted(names)


def test_counts_are_of_all_of_them(shelf):
    client, rows = shelf
    told = client.get("/api/projects/counts").json()
    away = [row for row in rows if row["archived_at"]]
    assert (told["shelf"], told["archived"]) == (MANY - len(away), len(away))
    for stage in STAGES:
        listed = every_page(client, stage=stage)
        assert told["stages"][stage] == len(listed)


def test_no_document_is_read_for_a_page(shelf, monkeypatch):
    client, _ = shelf
    monkeypatch.setattr("pocketspark.store.documents.read_state", lambda _: 1 / 0)
    statements = []
    engine = client.app.state.engine
    event.listen(engine, "before_cursor_execute", lambda _c, _k, sql, *_: statements.append(sql))
    for wanted in ({}, {"words": "lamp"}, {"stage": "fits"}, {"archived": True}):
        assert len(client.get("/api/projects", params=wanted).json()) == 200
    assert statements
    assert not any("revision" in sql for sql in statements)


@pytest.mark.parametrize(
    "wanted", [{"most": 201}, {"most": 0}, {"skip": -1}, {"order": "price"}, {"words": "x" * 201}, {"skip": 10**9}]
)
def test_what_no_page_is_is_refused(shelf, wanted):
    assert shelf[0].get("/api/projects", params=wanted).status_code == 422


def test_a_line_is_found_by_its_new_name_at_once_and_by_the_rest_once_it_is_judged(tmp_path):
    with TestClient(create_app(Settings(data=tmp_path))) as client:
        client.app.state.shelf_lines.patience_s = 60
        kept = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
        document = kept["project"] | {"tags": ["Garden"]}
        document["gadget"]["name"] = "Straße 7 (50%)"
        client.put(f"/api/projects/{kept['id']}", json={"revision": kept["revision"], "document": document})
        for words in ("strasse", "50%)", "garden", "AAA alkaline"):
            assert client.get("/api/projects", params={"words": words}).json(), words
        assert not client.get("/api/projects", params={"words": "moth"}).json()
