"""Requests that follow one another: what one answer names is read, changed and removed by the next.

Source of the links: schemathesis, which finds in the description which answer holds what another request asks for.
`chances.EXAMPLES` / 12: how many sequences.
"""

import json
import random
import sqlite3
from collections import Counter
from contextlib import closing

import schemathesis
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
    use_after_free,
)

from builders import CELL
from chances import EXAMPLES, FULL
from pocketspark.demo import demo_projects
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings
from pocketspark.store.database import FILE_NAME

SEQUENCES = min(400, EXAMPLES // 12)
CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_schema_conformance,
    use_after_free,
]

DEMO = [project.model_dump(mode="json") for project in demo_projects()]
# What is done with a project that was just stored: that its `id` is their `project_id` no description tells by itself.
OF_A_PROJECT = {
    "get": ["", "/raw", "/export", "/export.zip", "/photos"],
    "put": [""],
    "delete": [""],
    "post": ["/undo", "/redo", "/restore", "/repair", "/photos"],
}


def link_projects(paths):
    links = {
        f"{method} {end}": {
            "operationRef": f"#/paths/~1api~1projects~1{{project_id}}{end.replace('/', '~1')}/{method}",
            "parameters": {"project_id": "$response.body#/id"},
        }
        for method, ends in OF_A_PROJECT.items()
        for end in ends
    }
    for path in ("/api/projects", "/api/projects/import"):
        paths[path]["post"]["responses"]["201"]["links"] = links


def with_something_sensible(case):
    """Half of the bodies are what a page would send; else few sequences get past their first request."""
    chance = random.Random(json.dumps(case.body, default=str))
    if not isinstance(case.body, dict) or chance.random() < 0.5:
        return
    if case.operation.path == "/api/inventory" or case.operation.path.startswith("/api/inventory/{"):
        case.body = {"kind": "cell", "body": CELL, "stock": 1, "revision": 1}
    elif case.operation.path == "/api/projects":
        case.body = chance.choice(DEMO)
    elif "document" in case.body:
        case.body |= {"document": chance.choice(DEMO), "build": "0"}
    if "revision" in case.body:
        case.body["revision"] = 1


def test_no_sequence_of_requests_breaks_the_server(tmp_path):
    app = create_app(Settings(data=tmp_path, demo=True))
    fresh = sqlite3.connect(":memory:")
    with closing(sqlite3.connect(tmp_path / FILE_NAME)) as live:
        live.backup(fresh)
    # A live run's stream goes on for as long as the run does; how many searches still go on is chance.
    schema = schemathesis.openapi.from_asgi("/openapi.json", app).exclude(method="GET", path_regex=r"live/\{run_id\}$")
    # Whether an instrument is still asked for is chance as well: no two runs of one sequence see the same.
    schema = schema.exclude(path_regex=r"/proposals|sweep|/cell-test")
    link_projects(schema.raw_schema["paths"])
    followed = Counter()

    class Linked(schema.as_state_machine()):
        def setup(self):
            super().setup()
            app.state.live_runs.stop_all()
            with closing(sqlite3.connect(tmp_path / FILE_NAME)) as live:
                fresh.backup(live)

        def before_call(self, case):
            with_something_sensible(case)

        def validate_response(self, response, case, **_):
            case.validate_response(response, checks=CHECKS)
            followed[case.operation.label, response.status_code] += 1

    Linked.run(
        settings=settings(
            max_examples=SEQUENCES,
            stateful_step_count=8,
            database=None,
            deadline=None,
            suppress_health_check=list(HealthCheck),
        )
    )
    for (request, status), times in sorted(followed.items()):
        print(f"{times:5}  {status}  {request}")
    # They are really linked: what is addressed was there, and not only in the first request.
    linked = [request for request, status in followed if "{" in request and status < 300]
    # How many kinds so few sequences come to is chance: three to twelve were seen.
    assert len(set(linked)) >= (7 if FULL else 2), linked
