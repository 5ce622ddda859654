"""No figure that the models accept makes a rule divide by zero: every field at its least, its most, nothing and next to
nothing, in every demo conversion and in a plan that has all parts."""

import copy
from typing import get_args

import pytest
from fastapi.testclient import TestClient
from pydantic import BaseModel, ValidationError

from builders import plan
from chances import EXAMPLES, FULL, dice, in_turn
from every_question import MORE, QUESTIONS
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.demo import demo_projects
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

# A plan and the demo conversions, one in turn.
PROJECTS = {project.gadget.name: project for project in in_turn([plan(), *demo_projects()], 1)}


def bounds_of(field):
    """Every bound that stands anywhere in a field's type."""
    marks = list(field.metadata)
    waiting = [field.annotation]
    while waiting:
        kind = waiting.pop()
        marks += getattr(kind, "__metadata__", ())
        waiting += get_args(kind)
    names = ("ge", "gt", "le", "lt", "low", "high")
    return {
        float(value) for mark in marks for name in names if isinstance(value := getattr(mark, name, None), int | float)
    }


def figures(value, path=(), field=None):
    """Every place that holds a figure or could, with the values to try there."""
    if isinstance(value, BaseModel):
        for name, inner in type(value).model_fields.items():
            yield from figures(getattr(value, name), (*path, name), inner)
    elif isinstance(value, tuple):
        for number, row in enumerate(value):
            yield from figures(row, (*path, number), field)
    elif field is not None and not isinstance(value, str | bool | dict):
        bounds = bounds_of(field)
        if bounds or value is not None:
            yield path, sorted({0.0, 1e-9, *bounds})


def variants(project):
    document = project.model_dump(mode="json")
    for path, values in figures(project):
        for value in values:
            changed = copy.deepcopy(document)
            branch = changed
            for step in path[:-1]:
                branch = branch[step]
            branch[path[-1]] = value
            try:
                yield f"{'.'.join(map(str, path))} = {value:g}", Project.model_validate(changed)
            except ValidationError:
                continue


@pytest.mark.parametrize("project", PROJECTS.values(), ids=PROJECTS)
def test_every_field_at_its_bounds_is_judged(project):
    tried = list(variants(project))
    assert len(tried) > 30
    # A few hundred of them in turn, and all in a full run.
    for what, changed in tried if FULL else dice("at its bounds").sample(tried, min(len(tried), EXAMPLES // 3)):
        for build in range(len(changed.builds)):
            try:
                assess(changed, build)
            except Exception as error:
                raise AssertionError(what) from error


def test_every_route_bears_every_bound(tmp_path):
    thrown = dice("bounds")
    tried = [(what, changed) for project in PROJECTS.values() for what, changed in variants(project)]
    with TestClient(create_app(Settings(data=tmp_path)), raise_server_exceptions=False) as client:
        for what, changed in thrown.sample(tried, min(len(tried), max(60, EXAMPLES // 8))):
            document = changed.model_dump(mode="json")
            path = thrown.choice(QUESTIONS)
            answer = client.post(path, json={"document": document, "build": "0"} | MORE.get(path, {}))
            assert answer.status_code < 500, (path, what)
        kept = client.post("/api/projects", json=document)
        assert kept.status_code == 201
        assert client.get("/api/projects").status_code == 200


@pytest.mark.parametrize(
    ("path", "value"),
    [
        ("gadget.window", {"v_run_min": 0, "v_abs_max": 5}),
        ("builds.0.boards.0.charger", {"precharge_v": 0}),
        ("builds.0.boards.0.charger", {"r_tolerance": 1}),
    ],
)
def test_one_figure_does_not_empty_the_list(client, path, value):
    project = plan()
    document = project.model_dump(mode="json")
    client.post("/api/projects", json=document)
    branch, steps = document, path.split(".")
    for step in steps[:-1]:
        branch = branch[int(step) if step.isdigit() else step]
    branch[steps[-1]] = (branch[steps[-1]] or {}) | value
    kept = client.post("/api/projects/import", json=document)
    lines = client.get("/api/projects").json()
    assert len(lines) == (2 if kept.status_code == 201 else 1)
    assert all(line["summary"] for line in lines)
