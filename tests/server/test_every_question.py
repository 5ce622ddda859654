"""Every question of the API, about every demo build, and about builds that lack a part or are spoiled: an answer or a
sentence, never a crash."""

import copy

import pytest
from fastapi.testclient import TestClient

from builders import plan
from chances import in_turn
from every_question import MORE, QUESTIONS
from pocketspark.demo import demo_projects
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    with TestClient(create_app(Settings(data=tmp_path_factory.mktemp("data")))) as client:
        yield client


def documents():
    """(name, document, build): demos, and what is left of a plan without each of its parts."""
    for project in demo_projects():
        for build in range(len(project.builds)):
            yield f"{project.gadget.name} {build}", project.model_dump(mode="json"), build
    whole = plan().model_dump(mode="json")
    for lacking in ("cell", "boards", "r_prog_ohm"):
        document = copy.deepcopy(whole)
        document["builds"][0][lacking] = [] if lacking == "boards" else None
        yield f"without {lacking}", document, 0
    for lacking in ("modes", "window", "bay"):
        document = copy.deepcopy(whole)
        document["gadget"][lacking] = [] if lacking == "modes" else None
        yield f"gadget without {lacking}", document, 0
    for style in ("rebuilt_shell", "stand_in", "dummy_cell", "outside_pack", "cell_swap", "stand_alone"):
        yield style, plan(style=style).model_dump(mode="json"), 0
    outside = {"external_charger": {"current_a": 0.5}, "boards": []}
    kept = {"gadget": {"supply": {"kind": "lithium", "own_charger": {"current_a": 0.3}}}, "boards": []}
    for who, changes in (("external", outside), ("gadget", kept), ("gadget", {}), ("external", {})):
        yield f"charged by {who}", plan(who_charges=who, **changes).model_dump(mode="json"), 0
    for way in ("on_cell", "two_diodes", "load_sharing", "change_over"):
        yield way, plan(use_while_charging=way).model_dump(mode="json"), 0
    for kind in ("old_jack", "dock", "wireless"):
        yield kind, plan(input={"kind": kind}).model_dump(mode="json"), 0


def test_there_are_as_many_questions_as_one_thinks():
    assert len(QUESTIONS) > 20
    assert "/api/questions/assess" in QUESTIONS


@pytest.mark.parametrize(
    ("name", "document", "build"), in_turn(list(documents()), 8), ids=lambda value: value if type(value) is str else ""
)
def test_every_question_has_an_answer_or_a_sentence(client, name, document, build):
    whole = document["builds"][build]["cell"] and document["builds"][build]["boards"]
    practice = copy.deepcopy(document)
    practice["builds"][build]["practice"] = True
    for path in QUESTIONS:
        asked = practice if path.startswith("/api/instruments") else document
        answer = client.post(path, json={"document": asked, "build": str(build)} | MORE.get(path, {}))
        if answer.status_code == 200:
            continue
        # A checkpoint that is not there is not found; what still waits for a part, or has no use here, is a conflict.
        detail = answer.json()["detail"]
        assert answer.status_code == (404 if "no checkpoint" in detail else 409), (name, path, detail)
        assert len(detail) > 10, path
        of_the_fit = path.startswith(("/api/questions/fit/", "/api/questions/export/drill"))
        unsaid = "say first what the charger that is there gives" in detail
        # Where another charger charges there is no resistor to set.
        another = name == "cell_swap" or name.startswith("charged by")
        unsaid = unsaid or (another and "no checkpoint called 'resistor'" in detail)
        assert (
            not whole
            or of_the_fit
            or unsaid
            or path.endswith(("nonsense", "certificate", "certificate-letter", "old-jack", "log-explained"))
        ), (
            name,
            path,
            detail,
        )


@pytest.mark.parametrize("path", QUESTIONS)
def test_a_build_that_is_not_there_is_told(client, path):
    body = {"document": plan().model_dump(mode="json")} | MORE.get(path, {}) | {"build": "7"}
    answer = client.post(path, json=body)
    assert answer.status_code == 404, (path, answer.text[:200])
    assert "no build 7" in answer.json()["detail"]
