"""The process of keystrokes: the same answers as at home, in the reader's units; whatever happens to it, an answer."""

import asyncio
import json
import os
import signal
import subprocess
import sys
import time
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import httpx
import pytest
from fastapi.testclient import TestClient

from headless import ROOT
from pocketspark.core.units.reading import METRIC, reading_named
from pocketspark.demo import demo_projects
from pocketspark.server import keystrokes
from pocketspark.server.app import create_app
from pocketspark.server.keystrokes import Keystrokes, answered
from pocketspark.server.settings import Settings

DEMOS = {project.gadget.name: project.model_dump(mode="json") for project in demo_projects()}


@pytest.fixture
def served(tmp_path):
    """The real server, as `serve` starts it: its address, and its own and its child's numbers."""
    command = [sys.executable, "-m", "pocketspark.cli", "serve", "--port", "0", "--data", str(tmp_path)]
    environment = {**os.environ, "PYTHONPATH": str(ROOT / "src"), "PYTHONUNBUFFERED": "1"}
    server = subprocess.Popen(command, stdout=subprocess.PIPE, text=True, env=environment)
    address = server.stdout.readline().split()[4]
    children = Path(f"/proc/{server.pid}/task/{server.pid}/children").read_text()
    yield address, server, [int(child) for child in children.split()]
    server.kill()
    server.wait()


def is_there(process):
    try:
        os.kill(process, 0)
    except ProcessLookupError:
        return False
    lines = Path(f"/proc/{process}/status").read_text().splitlines()
    return not any(line.startswith("State") and "Z" in line for line in lines)


def gone_within(process, seconds=20):
    for _ in range(seconds * 20):
        if not is_there(process):
            return True
        time.sleep(0.05)
    return False


@pytest.mark.parametrize("units", ["", "in.F.comma"])
@pytest.mark.parametrize("name", DEMOS)
def test_its_answer_is_that_of_home(tmp_path, name, units):
    question = {"document": DEMOS[name], "build": "0"}
    with TestClient(create_app(Settings(data=tmp_path)), cookies={"units": units} if units else None) as client:
        at_home = client.post("/api/questions/assess", json=question).json()
    there = answered(json.dumps(question).encode(), reading_named(units) if units else METRIC)
    assert json.loads(there) == at_home


@pytest.mark.parametrize(
    "body",
    [
        b"",
        b"{",
        b"[]",
        b"\xff\xfe",
        b'{"document": 7}',
        json.dumps({"document": DEMOS["Moth-trap lamp"], "build": "99"}).encode(),
        json.dumps({"document": {"gadget": {"name": "x", "v_run_min": "3,,1"}}, "build": "0"}).encode(),
        b'{"document": ' + b"[" * 100_000,
    ],
)
def test_whatever_is_to_be_refused_is_refused_at_home(body):
    assert answered(body, METRIC) is None


def test_a_refused_field_and_a_missing_build_are_told_as_ever(served):
    address, _, _ = served
    document = DEMOS["Moth-trap lamp"] | {"notes": 12}
    answer = httpx.post(f"{address}/api/questions/assess", json={"document": document, "build": "0"}, timeout=60)
    assert [field["field"] for field in answer.json()["refused"]] == ["notes"]
    missing = {"document": DEMOS["Moth-trap lamp"], "build": "99"}
    assert httpx.post(f"{address}/api/questions/assess", json=missing, timeout=60).status_code == 404
    assert httpx.post(f"{address}/api/questions/assess", content=b"{", timeout=60).status_code in (400, 422)


def test_killed_it_is_done_without(served):
    address, _, [child] = served
    question = {"document": DEMOS["Moth-trap lamp"], "build": "0"}
    first = httpx.post(f"{address}/api/questions/assess", json=question, timeout=60).json()
    os.kill(child, signal.SIGKILL)
    for _ in range(3):
        again = httpx.post(f"{address}/api/questions/assess", json=question, timeout=60)
        assert (again.status_code, again.json()) == (200, first)


@pytest.mark.parametrize("how", [signal.SIGTERM, signal.SIGINT, signal.SIGKILL])
def test_it_ends_with_the_server(served, how):
    _, server, [child] = served
    server.send_signal(how)
    server.wait(60)
    assert gone_within(child)


def test_where_it_is_busy_or_slow_the_answer_comes_from_home(monkeypatch):
    monkeypatch.setattr(keystrokes, "PATIENCE_S", 0.2)
    monkeypatch.setattr(keystrokes, "answered", time.sleep)  # as one that never comes to an end would be

    async def asked():
        there = Keystrokes()
        assert await there.answer(b"") is None  # not started
        there.start()
        there._pool.submit(time.sleep, 30)
        found = await asyncio.gather(*(there.answer(b"") for _ in range(20)))
        there._pool._processes[next(iter(there._pool._processes))].kill()
        there.stop()
        return found

    # In a thread of its own: a browser of another test may have a loop in this one.
    with ThreadPoolExecutor(1) as apart:
        assert apart.submit(asyncio.run, asked()).result() == [None] * 20
