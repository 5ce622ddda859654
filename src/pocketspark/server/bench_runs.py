"""What goes on at the bench under a page's eyes: one thing at a time, that is off when nobody looks any more."""

import threading
import time
from dataclasses import dataclass, field
from itertools import count
from typing import Generic, Literal, TypeVar

from fastapi import HTTPException

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say

# A page looks twice a second. Where none has for so long it was closed, or its line is dead: all goes off.
LOOKED_WITHIN_S = 3.0
ENDS_WITHIN_S = 12.0

BenchState = Literal["running", "finished", "stopped", "failed"]


@dataclass
class BenchRun:
    """One, by its number, and what has come of it. `left_off`: whether its devices say so; None while it goes on."""

    looked_within_s: float = LOOKED_WITHIN_S
    id: int = 0
    state: BenchState = "running"
    failure: str = ""
    simulated: bool = False
    left_off: bool | None = None
    stop: threading.Event = field(default_factory=threading.Event)
    looked_s: float = field(default_factory=time.monotonic)

    def is_looked_at(self) -> bool:
        return time.monotonic() - self.looked_s < self.looked_within_s

    def run(self) -> None:
        """To its end, whatever it is."""
        try:
            self.state = "finished" if self.is_whole_after_work() else "stopped"
        except PocketSparkError as refusal:
            self.failure = str(refusal)
            self.state = "failed"

    def is_whole_after_work(self) -> bool:
        """Does the work; whether it came to its end. Raises PocketSparkError."""
        raise NotImplementedError


R = TypeVar("R", bound=BenchRun)


class OneAtATime(Generic[R]):
    """There is one bench."""

    def __init__(self, called: str) -> None:
        self._called, self._ids = called, count(1)
        self._last: R | None = None
        self._thread: threading.Thread | None = None
        self._starting = threading.Lock()

    def start(self, run: R) -> R:
        with self._starting:
            if self._last is not None and self._last.state == "running":
                raise HTTPException(409, say("a {called} goes on already: stop it first", called=self._called))
            run.id = next(self._ids)
            self._last = run
            self._thread = threading.Thread(target=run.run, daemon=True)
            self._thread.start()
        return run

    def get(self, run_id: int) -> R:
        if self._last is None or self._last.id != run_id:
            raise HTTPException(404, say("this {called} is not known any more: start it again", called=self._called))
        return self._last

    def looked_at(self, run_id: int) -> R:
        run = self.get(run_id)
        run.looked_s = time.monotonic()
        return run

    def stop(self) -> None:
        """Returns when all is off."""
        if self._last is not None:
            self._last.stop.set()
        if self._thread is not None:
            self._thread.join(timeout=ENDS_WITHIN_S)
