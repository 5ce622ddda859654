"""The plan that is fixed at the first cut is the server's: no save, forgery or undo moves it."""

import pytest

from builders import plan
from pocketspark.core.steps import procedure


@pytest.fixture
def cut(client):
    """A conversion whose case has just been opened, as the server keeps it."""
    stored = client.post("/api/projects", json=plan().model_dump(mode="json")).json()
    steps = procedure(plan(), 0).steps
    opening = next(number for number, step in enumerate(steps) if step.opens)
    document = stored["project"]
    document["builds"][0]["record"]["steps"] = [
        {"step": step.key, "done": True, "value": None if step.hold is None else step.hold.low, "origin": "typed"}
        for step in steps[: opening + 1]
    ]
    return save(client, stored, document)


def save(client, stored, document):
    body = {"revision": stored["revision"], "document": document}
    answer = client.put(f"/api/projects/{stored['id']}", json=body)
    assert answer.status_code == 200, answer.text
    return answer.json()


def fixed(stored):
    return stored["project"]["builds"][0]["record"]["fixed"]


def test_it_is_fixed_when_the_first_cut_is_saved(cut):
    assert fixed(cut)["prediction"]["charge_hours"] > 1
    assert {limit["step"] for limit in fixed(cut)["limits"]} >= {"first_charge", "full", "discharge"}


def test_a_page_that_knows_nothing_of_it_does_not_lose_it(client, cut):
    before = fixed(cut)
    document = cut["project"] | {"notes": "typed meanwhile"}
    document["builds"][0]["record"]["fixed"] = None
    assert before
    assert fixed(save(client, cut, document)) == before


def test_a_forged_one_changes_nothing(client, cut):
    before = fixed(cut)
    document = cut["project"] | {"notes": "forged"}
    document["builds"][0]["record"]["fixed"] = before | {"limits": []}
    assert fixed(save(client, cut, document)) == before


def test_undone_steps_give_no_new_limits(client, cut):
    before = fixed(cut)
    undone = client.post(f"/api/projects/{cut['id']}/undo", json={"revision": cut["revision"]}).json()
    assert not undone["project"]["builds"][0]["record"]["steps"]
    assert fixed(undone) == before


def test_a_file_says_that_it_was_done_elsewhere(client, cut):
    exported = client.get(f"/api/projects/{cut['id']}/export")
    brought = client.post("/api/projects/import", content=exported.content).json()
    record = brought["project"]["builds"][0]["record"]
    came = record["from_file_at"]
    assert came
    assert fixed(brought) == fixed(cut)
    document = brought["project"] | {"notes": "forged"}
    document["builds"][0]["record"]["from_file_at"] = None
    assert save(client, brought, document)["project"]["builds"][0]["record"]["from_file_at"] == came
