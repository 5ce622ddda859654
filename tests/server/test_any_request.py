"""Requests made from the API's own description, and documents spoiled at random: never a crash, never a word of a
library, and every answer as the description says.

Source of the requests: schemathesis, which reads OpenAPI 3.1 by itself. `chances.EXAMPLES`: how many in all.
"""

import copy
import json
import os
import re
import resource
import threading
import time
from collections import Counter

import pytest
import schemathesis
from fastapi.testclient import TestClient
from hypothesis import HealthCheck, given, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from builders import plan
from chances import EXAMPLES, dice
from pocketspark.demo import demo_projects
from pocketspark.server.app import create_app
from pocketspark.server.settings import Settings

CHECKS = [not_a_server_error, status_code_conformance, content_type_conformance, response_schema_conformance]
WORST_S = 2.0
# Some hundred circuits, each brought to rest; ten years, month by month.
SLOWER_S = {"/api/questions/what-if": 6.0, "/api/questions/life": 3.0}
MOST_MB = 300
# A stream that goes on for as long as a run does.
ENDLESS = {("GET", "/api/instruments/live/{run_id}")}
DOCUMENTS = [project.model_dump(mode="json") for project in (plan(), *demo_projects())]
JUNK = [
    *(None, True, 0, -1, 0.5, 1e-12, 1e9, 1e308, 10**30, 2**63),
    *(
        "",
        " ",
        "x",
        "x" * 300,
        "0",
        "-3",
        "1k2",
        "400 mA",
        "9" * 99,
        "2/0",
        "a\nb",
        "=1+1",
        "\u202e",
        "LR6",
        "ldo",
        "lfp",
    ),
    *([], [[]], [None], ["x"], {}, {"x": 1}, {"kind": "none"}),
]

app = create_app(Settings(data=os.environ.get("PYTEST_TMP", "/tmp") + f"/pocket-spark-any-{os.getpid()}", demo=True))
schema = schemathesis.openapi.from_asgi("/openapi.json", app)
# Seconds of the processor, what the peak of memory rose by in MB, and who asked: of every request that was made.
COSTS = []
OPERATIONS = [result.ok() for result in schema.get_all_operations()]


def spoiled(chance):
    """A demo document with up to three of its places holding something else."""
    document = copy.deepcopy(chance.choice(DOCUMENTS))
    for _ in range(chance.randrange(4)):
        branch = document
        while branch:
            step = chance.choice(list(branch) if isinstance(branch, dict) else range(len(branch)))
            if isinstance(branch[step], dict | list) and branch[step] and chance.random() < 0.85:
                branch = branch[step]
                continue
            branch[step] = copy.deepcopy(chance.choice(JUNK))
            break
    return document


def with_a_document(case, chance):
    """The library knows that a document is an object; what stands in one it does not."""
    if not isinstance(case.body, dict):
        return
    if "document" in case.body and chance.random() < 0.85:
        case.body["document"] = spoiled(chance)
        case.body["build"] = "0"
    elif case.operation.path == "/api/projects" and chance.random() < 0.8:
        case.body = spoiled(chance)


def stop_searches():
    for jobs in (app.state.sweeps, app.state.proposals):
        jobs.cancel_all()
    for thread in threading.enumerate():
        if str(thread.name).startswith("search"):
            thread.join(20)


@pytest.mark.parametrize("operation", OPERATIONS, ids=lambda operation: f"{operation.method} {operation.path}")
def test_every_answer_is_as_the_description_says(operation):
    if (operation.method.upper(), operation.path) in ENDLESS:
        return
    thrown = dice(operation.path)

    @settings(
        max_examples=max(3, EXAMPLES // len(OPERATIONS)),
        database=None,
        suppress_health_check=list(HealthCheck),
    )
    @given(case=operation.as_strategy())
    def tried(case):
        with_a_document(case, thrown)
        begun, peak_kb = time.process_time(), resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
        answer = case.call()
        spent_s = time.process_time() - begun
        grown_mb = (resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - peak_kb) / 1000
        COSTS.append((spent_s, grown_mb, f"{answer.status_code} {operation.label}"))
        if "sweep" in operation.path or "proposals" in operation.path:
            stop_searches()  # they go on behind the answer
        else:
            assert spent_s < SLOWER_S.get(operation.path, WORST_S)
        assert grown_mb < MOST_MB
        case.validate_response(answer, checks=CHECKS)
        if answer.status_code >= 400:
            said = answer.json()
            require_plain([said["detail"], *(error["sentence"] for error in said["errors"])])

    tried()


def test_the_ten_worst_are_told():
    """Of the operations that this process tried; run with `-n 0 -rP` for all of them."""
    for place, unit in ((0, "s of processor"), (1, "MB more at the peak")):
        print(f"The ten worst of {len(COSTS)} answers, in {unit}:")
        for cost in sorted(COSTS, key=lambda cost: -cost[place])[:10]:
            print(f"  {cost[place]:8.2f}  {cost[2]}")


# What no maker should have to read: a library's way of saying it, or where in a request something stood.
NO_WORDS = re.compile(
    r"input should|pattern|validat|pydantic|traceback|\bstr\b|\bint\b|\bdict\b|\btuple\b|finite number|instance of"
    r"|union|NoneType|object has no|json_invalid|body\.|query\.|path\.|function-|\bfield required|unexpected keyword"
    r"|[a-z]+_[a-z]+ error|0x[0-9a-f]{6}",
    re.I,
)


def require_plain(sentences):
    for sentence in sentences:
        assert sentence.strip()
        assert not NO_WORDS.search(re.sub(r"'[^']*'", "", sentence)), sentence


def test_every_refusal_of_spoiled_documents_is_in_plain_words(tmp_path):
    """Nine thousand broken documents; the sentences that they meet, each printed once."""
    thrown = dice("spoiled")
    met = Counter()
    with TestClient(create_app(Settings(data=tmp_path))) as client:
        for _ in range(max(300, min(9000, EXAMPLES))):
            document = spoiled(thrown)
            answer = client.post("/api/projects/import", content=json.dumps(document))
            if answer.status_code == 201:
                continue
            assert answer.status_code == 422
            said = answer.json()
            sentences = [error["sentence"] for error in said["errors"]] or [said["detail"]]
            require_plain(sentences)
            met.update(re.sub(r"'[^']*'|-?\d[\d.e+,]*", "…", sentence) for sentence in sentences)
    print(f"{sum(met.values())} refusals in {len(met)} sentences")
    for sentence, times in met.most_common():
        print(f"{times:6}  {sentence}")
    assert len(met) > 20


@pytest.mark.parametrize(
    ("method", "path", "status"),
    [
        ("GET", "/api/projects/7", 404),
        ("GET", "/api/nothing", 404),
        ("PATCH", "/api/projects", 405),
        ("POST", "/api/questions/assess", 422),
        ("DELETE", "/api/inventory/7", 404),
        ("GET", "/api/questions/size-code?code=x", 422),
        ("GET", "/api/questions/size-code", 422),
        ("POST", "/api/instruments/log?seed=x", 422),
    ],
)
def test_refusals_of_the_frame_are_problems_too(client, method, path, status):
    answer = client.request(method, path)
    assert (answer.status_code, answer.headers["content-type"]) == (status, "application/problem+json")
    require_plain([answer.json()["detail"]])
