"""What the server does by itself while nobody waits: looks for damage, judges anew, copies, thins the history."""

import threading
from collections.abc import Callable
from contextlib import suppress
from datetime import datetime

from pocketspark.server.own_log import logger
from pocketspark.store import NothingThere, Projects
from pocketspark.store.copies import Copies
from pocketspark.store.devices import Devices
from pocketspark.store.utc import now

EVERY_S = 3600.0


class Housekeeping:
    """One thread that works through what is due, then sleeps until it is woken or an hour has passed."""

    def __init__(
        self, copies: Copies, projects: Projects, devices: Devices, clock: Callable[[], datetime] = now
    ) -> None:
        self._copies, self._projects, self._devices, self._clock = copies, projects, devices, clock
        self._looked_for_damage = False
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
            self._tell_of_damage,
            self._judge_anew,
            self._copies.make_if_due,
            lambda: self._projects.thin(self._clock()),
            self._devices.write_seen,
        )
        for task in tasks:
            if self._stop.is_set():
                return
            try:
                task()
            except Exception:
                logger.exception("housekeeping failed")

    def _tell_of_damage(self) -> None:
        """Once after each start: a line that was made before the disk changed its document says nothing of it."""
        if not self._looked_for_damage:
            self._judge(self._projects.shelf.damaged())
            self._looked_for_damage = not self._stop.is_set()

    def _judge_anew(self) -> None:
        self._judge(self._projects.shelf.outdated())

    def _judge(self, project_ids: list[int]) -> None:
        for project_id in project_ids:
            if self._stop.is_set():
                return
            with suppress(NothingThere):  # erased meanwhile
                self._projects.shelf.judge_anew(project_id)

    def _work(self) -> None:
        while not self._stop.is_set():
            self._wake.clear()
            self.run_once()
            self._wake.wait(EVERY_S)
