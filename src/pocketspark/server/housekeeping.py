"""What the server does by itself while nobody waits: judges anew, copies once a day, thins the history."""

import threading
from collections.abc import Callable
from datetime import datetime
from pathlib import Path

from sqlalchemy import Engine

from pocketspark.server.log import logger
from pocketspark.store import NothingThere, Projects
from pocketspark.store.backup import copy_of_the_day
from pocketspark.store.clock import now

EVERY_S = 3600.0


class Housekeeping:
    """One thread that works through what is due, then sleeps until it is woken or an hour has passed."""

    def __init__(self, engine: Engine, folder: Path, projects: Projects, clock: Callable[[], datetime] = now) -> None:
        self._engine, self._folder, self._projects, self._clock = engine, folder, projects, clock
        self._wake, self._stop = threading.Event(), threading.Event()
        self._thread: threading.Thread | None = None

    def start(self) -> None:
        self._thread = threading.Thread(target=self._work, name="housekeeping", daemon=True)
        self._thread.start()

    def wake(self) -> None:
        self._wake.set()

    def stop(self) -> None:
        """Returns once it has laid down what it had in hand."""
        self._stop.set()
        self._wake.set()
        if self._thread is not None:
            self._thread.join(timeout=10)

    def run_once(self) -> None:
        """Everything that is due now. One failure does not keep the rest from being done."""
        tasks: tuple[Callable[[], object], ...] = (
            self._judge_anew,
            lambda: copy_of_the_day(self._engine, self._folder, self._clock().date()),
            lambda: self._projects.thin(self._clock()),
        )
        for task in tasks:
            if self._stop.is_set():
                return
            try:
                task()
            except Exception:
                logger.exception("housekeeping failed")

    def _judge_anew(self) -> None:
        for project_id in self._projects.outdated():
            if self._stop.is_set():
                return
            try:
                self._projects.judge_anew(project_id)
            except NothingThere:
                continue  # erased meanwhile

    def _work(self) -> None:
        while not self._stop.is_set():
            self._wake.clear()
            self.run_once()
            self._wake.wait(EVERY_S)
