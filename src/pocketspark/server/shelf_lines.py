"""The lines of the shelf, made after a save has been committed: nobody waits for them, and no save is held up."""

from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor, wait
from threading import RLock

from pocketspark.server.own_log import logger
from pocketspark.store import NothingThere

# As long as a list of lines waits for those that are being made.
PATIENCE_S = 0.2


class ShelfLines:
    """Makes the lines that are out of date, each conversion's newest once.

    Two at a time: one that takes long holds up no other. `judge_anew` is given when the projects are there.
    """

    judge_anew: Callable[[int], object]

    def __init__(self, patience_s: float = PATIENCE_S) -> None:
        self.patience_s = patience_s
        self._threads = ThreadPoolExecutor(max_workers=2, thread_name_prefix="shelf-line")
        self._waiting: set[int] = set()
        self._under_way: set[Future[None]] = set()
        self._lock = RLock()
        self._is_stopped = False

    def later(self, project_id: int) -> None:
        """One that waits already will see the newest state anyway."""
        with self._lock:
            if project_id in self._waiting or self._is_stopped:
                return
            self._waiting.add(project_id)
            future = self._threads.submit(self._work, project_id)
            self._under_way.add(future)
            future.add_done_callback(self._forget)

    def settle(self) -> None:
        """Returns once no line is being made any more, or patience is at its end."""
        with self._lock:
            under_way = set(self._under_way)
        wait(under_way, timeout=self.patience_s)

    def stop(self) -> None:
        """What has not begun is out of date at the next start, and made then."""
        with self._lock:
            self._is_stopped = True
        self._threads.shutdown(wait=True, cancel_futures=True)

    def _work(self, project_id: int) -> None:
        with self._lock:
            self._waiting.discard(project_id)
        try:
            self.judge_anew(project_id)
        except NothingThere:
            pass  # erased meanwhile
        except Exception:
            logger.exception("a line of the shelf could not be made")

    def _forget(self, future: Future[None]) -> None:
        with self._lock:
            self._under_way.discard(future)
