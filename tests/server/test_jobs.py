"""Long work that nobody looks at rests, goes on with the next look, and keeps nobody else's out."""

import itertools
import threading
import time

import pytest

from pocketspark.server import jobs
from pocketspark.server.jobs import MOST_AT_ONCE, Jobs, TooManyJobs


@pytest.fixture
def searches(monkeypatch):
    monkeypatch.setattr(jobs, "RESTS_AFTER_S", 0.1)
    started = Jobs(keep=1)
    yield started
    started.cancel_all()


def steps(last=None):
    for step in itertools.count() if last is None else range(last):
        time.sleep(0.005)
        yield step, last or 0, None


def comes_true(what, within_s=20):
    until = time.monotonic() + within_s
    while not what():
        assert time.monotonic() < until
        time.sleep(0.01)
    return True


def test_it_rests_while_nobody_looks_and_goes_on_with_the_next_look(searches):
    job = searches.start(steps())
    comes_true(lambda: job.rests)
    done = job.done
    time.sleep(0.2)
    assert (job.done, job.state) == (done, "running")
    searches.get(job.id)
    comes_true(lambda: job.done > done)


def test_one_that_is_looked_at_never_rests(searches):
    job = searches.start(steps(last=100))  # five times as long as nobody may look away
    assert comes_true(lambda: not searches.get(job.id).rests and job.state == "finished")


def test_one_that_rests_can_be_cancelled_and_is_given_up_in_the_end(searches, monkeypatch):
    job = searches.start(steps())
    comes_true(lambda: job.rests)
    searches.cancel(job.id)
    comes_true(lambda: job.state == "cancelled")
    monkeypatch.setattr(jobs, "GIVEN_UP_AFTER_S", 0.1)
    forgotten = searches.start(steps())
    comes_true(lambda: forgotten.state == "cancelled")


def test_closed_pages_keep_no_search_out_and_open_ones_do(searches, monkeypatch):
    monkeypatch.setattr(jobs, "RESTS_AFTER_S", 60)
    left = [searches.start(steps()) for _ in range(MOST_AT_ONCE)]
    with pytest.raises(TooManyJobs):
        searches.start(steps())
    monkeypatch.setattr(jobs, "RESTS_AFTER_S", 0.1)
    comes_true(lambda: all(job.rests for job in left))
    another = searches.start(steps())
    comes_true(lambda: [job.state for job in left].count("cancelled") == 1)
    assert another.state == "running"


def test_one_that_was_told_to_stop_keeps_nobody_out_though_its_step_is_long(searches):
    step = threading.Event()

    def long_step():
        step.wait(20)
        yield 1, 1, None

    left = [searches.start(long_step()) for _ in range(MOST_AT_ONCE)]
    for job in left:
        searches.cancel(job.id)
    searches.start(steps(last=1))
    assert {job.state for job in left} == {"running"}
    step.set()
    comes_true(lambda: {job.state for job in left} == {"cancelled"})
