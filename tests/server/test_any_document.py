"""Whatever stands wherever in a document, the server answers with an assessment or a sentence, never a crash."""

import copy
import re

import pytest
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from builders import plan
from pocketspark.demo import demo_projects
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

DOCUMENTS = [project.model_dump(mode="json") for project in (plan(), *demo_projects())]


def places(value, path=()):
    """Every path in a document."""
    yield path
    children = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, child in children:
        yield from places(child, (*path, key))


@pytest.fixture(scope="module")
def client(tmp_path_factory):
    with TestClient(create_app(Settings(data=tmp_path_factory.mktemp("data"))), raise_server_exceptions=True) as client:
        yield client


junk = st.one_of(
    st.none(),
    st.booleans(),
    st.integers(-(10**12), 10**12),
    st.floats(allow_nan=False, allow_infinity=False),
    st.sampled_from(["", "1k2", "-3", "400 mA", "2/3", "1e400", "LR6", "ldo", "none", "lfp", "0", "∞", "x" * 200]),
    st.lists(st.integers(0, 9), max_size=4),
    st.dictionaries(st.sampled_from(["kind", "name", "v_set"]), st.sampled_from(["ldo", "a", 3]), max_size=2),
)


@given(document=st.sampled_from(DOCUMENTS), data=st.data())
@settings(max_examples=250, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_one_value_replaced_by_anything(client, document, data):
    document = copy.deepcopy(document)
    path = data.draw(st.sampled_from([path for path in places(document) if path]))
    branch = document
    for step in path[:-1]:
        branch = branch[step]
    branch[path[-1]] = data.draw(junk)
    answer = client.post("/api/questions/assess", json={"document": document})
    # Without a name, or a format that is known, there is no document at all; anything else is read around the fault.
    named = document["gadget"].get("name") if isinstance(document["gadget"], dict) else None
    readable = document["format"] == "pocket-spark/2" and isinstance(named, str) and 0 < len(named.strip()) <= 120
    assert answer.status_code == (200 if readable else 422), answer.text[:300]
    if not readable:
        assert answer.json()["detail"]
        assert all(error["sentence"] for error in answer.json()["errors"])
    else:
        assert answer.json()["assessment"]["findings"]
        fields = [refused["field"] for refused in answer.json()["refused"]]
        assert [field for field in fields if not named_like(field)] == []


def named_like(field):
    """Is every step of the field's name a key or an id that the document's own models have? No validator, no class."""
    return all(re.fullmatch(r"[a-z][a-z0-9_]*|\d+", step) for step in field.split(".")) or field.startswith("basis.")


@given(document=st.sampled_from(DOCUMENTS), data=st.data())
@settings(max_examples=100, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_what_is_refused_counts_as_it_was_stored(client, document, data):
    stored = client.post("/api/projects", json=document).json()
    numbers = [
        path for path in places(document) if path[:1] != ("basis",) and isinstance(value_at(document, path), float)
    ]
    path = data.draw(st.sampled_from(numbers))
    draft = copy.deepcopy(stored["project"])
    value_at(draft, path[:-1])[path[-1]] = "about this much"
    saved = client.put(f"/api/projects/{stored['id']}", json={"revision": stored["revision"], "document": draft}).json()
    assert saved["project"] == stored["project"]
    (refused,) = saved["refused"]
    assert refused["sentence"].startswith("'about this much' is not")
    assert refused["field"].split(".")[-1] == str(path[-1])


def value_at(document, path):
    for step in path:
        document = document[step]
    return document
