"""Every question ends with its time, or with its client; nothing else that its thread does is hit."""

import socket
import threading
import time
from contextlib import contextmanager, suppress

import httpx
import pytest
from fastapi import APIRouter, FastAPI

from builders import plan
from headless import running_app
from pocketspark.server import budget, summaries
from pocketspark.server.budget import Budget, BudgetedRoute, TookTooLong, at_most
from pocketspark.server.problems import answer_with_problems


def forever(seen=None):
    count = 0
    while True:
        count += 1
        if seen is not None:
            seen[:] = [count]


def swallowing_everything():
    """As a rule that fails is one finding: no handler of faults keeps it going."""
    while True:
        try:
            forever()
        except Exception:
            continue


@pytest.mark.parametrize("work", [forever, swallowing_everything])
def test_work_ends_with_its_time(work):
    begun = time.monotonic()
    with pytest.raises(TookTooLong, match="took longer"):
        at_most(0.05, work)
    assert time.monotonic() - begun < 30


def test_what_is_done_in_time_is_answered_and_what_it_raises_comes_through():
    assert at_most(60, lambda: 7) == 7
    with pytest.raises(ZeroDivisionError):
        at_most(60, lambda: 1 / 0)


def test_the_end_never_hits_what_the_thread_does_next():
    """Ended at every moment round the end of the work, a thousand times: it is either done or given up, and no more."""
    outcomes = set()
    for turn in range(1000):
        one = Budget()
        ender = threading.Timer(turn % 20 / 20_000, one.end)
        ender.start()
        try:
            one.spend(lambda: sum(range(3000)))
            outcomes.add("done")
        except TookTooLong:
            outcomes.add("given up")
        for _ in range(50):  # an exception that comes late would come here
            sum(range(10))
        ender.join()
    assert outcomes == {"done", "given up"}


def test_an_end_that_something_swallowed_does_not_hold_the_thread_for_ever():
    """As a callback of a compiled library does: what it was is done, and the thread goes on."""
    one = Budget()

    def swallowed():
        with suppress(BaseException):
            one.end()
            forever()
        return 7

    begun = time.monotonic()
    assert one.spend(swallowed) == 7
    assert time.monotonic() - begun < 10


def test_what_has_ended_begins_nothing():
    one = Budget()
    one.end()
    with pytest.raises(TookTooLong):
        one.spend(lambda: pytest.fail("it began"))


@contextmanager
def served(path, endpoint, tmp_path):
    """A real server with one budgeted route."""
    import uvicorn

    app = FastAPI()
    router = APIRouter(route_class=BudgetedRoute)
    router.add_api_route(path, endpoint, methods=["POST"])
    app.include_router(router)
    answer_with_problems(app, tmp_path)
    listener = socket.create_server(("127.0.0.1", 0))
    server = uvicorn.Server(uvicorn.Config(app, log_level="error"))
    thread = threading.Thread(target=server.run, kwargs={"sockets": [listener]})
    thread.start()
    try:
        yield f"http://127.0.0.1:{listener.getsockname()[1]}{path}"
    finally:
        server.should_exit = True
        thread.join()


def until(condition):
    for _ in range(3000):
        if condition():
            return True
        time.sleep(0.01)
    return False


def test_a_question_ends_when_its_client_has_gone(tmp_path):
    seen, ended = [], threading.Event()

    def endless() -> int:
        try:
            forever(seen)
        finally:
            ended.set()

    with served("/endless", endless, tmp_path) as address:
        with pytest.raises(httpx.ReadTimeout):
            httpx.post(address, json={}, timeout=0.5)
        assert ended.wait(30)
        assert seen


def test_a_question_that_takes_too_long_is_refused_with_a_sentence(tmp_path, monkeypatch):
    monkeypatch.setattr(budget, "QUESTION_WITHIN_S", 0.2)

    def endless() -> int:
        forever()

    with served("/endless", endless, tmp_path) as address:
        answer = httpx.post(address, json={}, timeout=30)
    assert (answer.status_code, "given up" in answer.json()["detail"]) == (503, True)


def test_slow_questions_take_turns_and_a_keystroke_waits_for_none(tmp_path):
    at_work, release = [], threading.Event()

    def slow() -> int:
        at_work.append(1)
        release.wait(30)
        return 1

    with served("/slow", slow, tmp_path) as address:
        asking = [threading.Thread(target=lambda: httpx.post(address, json={}, timeout=60)) for _ in range(5)]
        for one in asking:
            one.start()
        assert until(lambda: len(at_work) == budget.SLOW_AT_ONCE)
        time.sleep(0.2)
        assert len(at_work) == budget.SLOW_AT_ONCE
        release.set()
        for one in asking:
            one.join()
    assert len(at_work) == 5


def test_a_line_of_the_shelf_that_takes_too_long_says_so(monkeypatch):
    monkeypatch.setattr(summaries, "LINE_WITHIN_S", 0.1)
    monkeypatch.setattr(summaries, "summary_of", lambda _: forever())
    assert "takes longer" in summaries.judged(plan()).summary["unreadable"]


def test_every_question_has_a_budget(tmp_path):
    """Every route that computes from a document sent along; what goes on by itself is a search, with its own end."""
    from pocketspark.server.app import create_app
    from pocketspark.server.settings import Settings

    app = create_app(Settings(data=tmp_path))
    without = {
        route.path
        for route in app.routes
        if getattr(route, "path", "").startswith("/api/questions/") and not isinstance(route, BudgetedRoute)
    }
    assert all(path.startswith(("/api/questions/proposals", "/api/questions/first-charge")) for path in without)


def test_an_abandoned_keystroke_of_the_real_app_takes_no_thread(tmp_path):
    with running_app(tmp_path / "data", demo=True) as address:
        document = httpx.get(f"{address}/api/projects/1").json()["project"]
        body = {"document": document, "build": "0"}
        for _ in range(60):
            with suppress(httpx.TimeoutException):
                httpx.post(f"{address}/api/questions/scenarios", json=body, timeout=0.001)
        answer = httpx.post(f"{address}/api/questions/assess", json=body, timeout=30)
        assert answer.status_code == 200
