"""Long work in the background: started, looked at while it goes on, cancelled."""

import threading
from collections.abc import Iterator
from contextvars import copy_context
from dataclasses import dataclass, field
from functools import partial
from itertools import count
from typing import Generic, Literal, TypeVar

from pocketspark.core.error import PocketSparkError

R = TypeVar("R")
State = Literal["running", "finished", "cancelled", "failed"]
# Finished jobs are forgotten once there are more than this many.
KEPT = 20
# So many may go on at once: each has a thread, and keeps a core busy.
MOST_AT_ONCE = 4


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
    stop: threading.Event = field(default_factory=threading.Event)


class Jobs(Generic[R]):
    """All jobs of one kind. `keep`: so many of the last results of each; None: all of them."""

    def __init__(self, keep: int | None = None) -> None:
        self._keep = keep
        self._jobs: dict[int, Job[R]] = {}
        self._ids = count(1)

    def start(self, work: Iterator[tuple[int, int, R | None]]) -> Job[R]:
        """Begin in a thread of its own. Raises TooManyJobs."""
        if sum(job.state == "running" for job in self._jobs.values()) >= MOST_AT_ONCE:
            raise TooManyJobs(f"{MOST_AT_ONCE} searches go on already, and no more are allowed: stop one first")
        job: Job[R] = Job(next(self._ids))
        self._jobs[job.id] = job
        for old in [j for j in self._jobs.values() if j.state != "running"][:-KEPT]:
            del self._jobs[old.id]
        name = f"search {job.id}"
        # In the context of whoever asked, whose units its sentences are written in.
        run = partial(copy_context().run, _run, job, work, self._keep)
        threading.Thread(target=run, daemon=True, name=name).start()
        return job

    def get(self, job_id: int) -> Job[R]:
        """Raises NoSuchJob."""
        if job_id not in self._jobs:
            raise NoSuchJob("this search is not known any more; start it again")
        return self._jobs[job_id]

    def cancel(self, job_id: int) -> None:
        self.get(job_id).stop.set()

    def cancel_all(self) -> None:
        for job in self._jobs.values():
            job.stop.set()


def _run(job: Job[R], work: Iterator[tuple[int, int, R | None]], keep: int | None) -> None:
    try:
        for job.done, job.total, result in work:
            if result is not None:
                job.results.append(result)
                if keep:
                    job.results = job.results[-keep:]
            if job.stop.is_set():
                job.state = "cancelled"
                return
        job.state = "finished"
    except Exception:
        job.state = "failed"
        raise
