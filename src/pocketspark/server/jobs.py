"""Long work in the background: started, looked at while it goes on, cancelled; it rests while nobody looks."""

import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass, field
from itertools import count
from typing import Generic, Literal, TypeVar

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say

R = TypeVar("R")
State = Literal["running", "finished", "cancelled", "failed"]
# Finished jobs are forgotten once there are more than this many.
KEPT = 20
# So many may go on at once: each has a thread, and keeps a core busy.
MOST_AT_ONCE = 4
# Whoever waits for an answer looks again within a second. Where nobody does, the page was closed: the work goes on with
# the next look, and is given up where none comes.
RESTS_AFTER_S = 5.0
GIVEN_UP_AFTER_S = 600.0


class NoSuchJob(PocketSparkError, LookupError):
    """There is no such job, or it was finished and forgotten."""

    status = 404


class TooManyJobs(PocketSparkError, RuntimeError):
    """As many searches as are allowed go on already."""

    status = 409


@dataclass
class Job(Generic[R]):
    """Work that yields (done, total, result or None) as it goes."""

    id: int
    done: int = 0
    total: int = 0
    results: list[R] = field(default_factory=list)
    state: State = "running"
    rests: bool = False
    stop: threading.Event = field(default_factory=threading.Event)
    looked: threading.Event = field(default_factory=threading.Event)

    def cancel(self) -> None:
        self.stop.set()
        self.looked.set()  # one that rests hears it too


class Jobs(Generic[R]):
    """All jobs of one kind. `keep`: so many of the last results of each; None: all of them."""

    def __init__(self, keep: int | None = None) -> None:
        self._keep = keep
        self._jobs: dict[int, Job[R]] = {}
        self._ids = count(1)

    def start(self, work: Iterator[tuple[int, int, R | None]]) -> Job[R]:
        """Begin in a thread of its own; where there are too many, one that rests is given up. Raises TooManyJobs."""
        running = [job for job in self._jobs.values() if job.state == "running" and not job.stop.is_set()]
        if len(running) >= MOST_AT_ONCE:
            resting = next((job for job in running if job.rests), None)
            if resting is None:
                raise TooManyJobs(
                    say(
                        "{most_at_once} searches go on already, and no more are allowed: stop one first",
                        most_at_once=MOST_AT_ONCE,
                    )
                )
            resting.cancel()
        job: Job[R] = Job(next(self._ids))
        self._jobs[job.id] = job
        for old in [j for j in self._jobs.values() if j.state != "running"][:-KEPT]:
            del self._jobs[old.id]
        name = f"search {job.id}"
        threading.Thread(target=_run, args=(job, work, self._keep), daemon=True, name=name).start()
        return job

    def all(self) -> list[Job[R]]:
        """Those that are known, the oldest first; none is looked at by it."""
        return list(self._jobs.values())

    def get(self, job_id: int) -> Job[R]:
        """Raises NoSuchJob."""
        if job_id not in self._jobs:
            raise NoSuchJob(say("this search is not known any more; start it again"))
        self._jobs[job_id].looked.set()
        return self._jobs[job_id]

    def cancel(self, job_id: int) -> None:
        self.get(job_id).cancel()

    def cancel_all(self) -> None:
        for job in self._jobs.values():
            job.cancel()


def _run(job: Job[R], work: Iterator[tuple[int, int, R | None]], keep: int | None) -> None:
    looked_s = time.monotonic()
    try:
        for job.done, job.total, result in work:
            if result is not None:
                job.results.append(result)
                if keep:
                    job.results = job.results[-keep:]
            if job.looked.is_set() or time.monotonic() - looked_s > RESTS_AFTER_S:
                _rest_until_looked_at(job)
                looked_s = time.monotonic()
            if job.stop.is_set():
                job.state = "cancelled"
                return
        job.state = "finished"
    except Exception:
        job.state = "failed"
        raise


def _rest_until_looked_at(job: Job[R]) -> None:
    job.rests = not job.looked.is_set()
    if not job.looked.wait(GIVEN_UP_AFTER_S):
        job.stop.set()
    job.looked.clear()
    job.rests = False
