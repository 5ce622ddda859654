"""A budget for each question: how long it may take, and an end where nobody waits for its answer any more.

A thread cannot be told to stop from outside but by an exception that is raised in it between two steps of Python's.
Only what computes and writes nothing is stopped so. A step that is one call of a compiled library is ended after it.
"""

import asyncio
import ctypes
import threading
import time
from collections.abc import Callable, Coroutine
from contextlib import nullcontext, suppress
from contextvars import ContextVar
from functools import partial, wraps
from typing import Any, ParamSpec, TypeVar
from weakref import WeakKeyDictionary

from fastapi import Request, Response
from fastapi.routing import APIRoute
from starlette.types import Message

from pocketspark.core.error import PocketSparkError

QUESTION_WITHIN_S = 30.0
# So many questions that take long are computed at once; a keystroke's own waits for none of them.
SLOW_AT_ONCE = 2
STEPS_UNTIL_IT_COMES = 300
_KEYSTROKE = "/assess"
P = ParamSpec("P")
R = TypeVar("R")


class TookTooLong(PocketSparkError, TimeoutError):
    """The budget of a question is spent."""

    status = 503


class _Stopped(BaseException):
    """Raised in a thread that is stopped: no handler of exceptions takes it for a fault of what it computed."""


class Budget:
    """Work of some threads that may be ended. Each does its part within `spend`."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._threads: set[int] = set()
        self._stopped: set[int] = set()
        self.is_spent = False

    def end(self) -> None:
        """Whatever works on it stops now, and what would begin does not."""
        with self._lock:
            self.is_spent = True
            for thread in self._threads - self._stopped:
                self._stopped.add(thread)
                ctypes.pythonapi.PyThreadState_SetAsyncExc(ctypes.c_ulong(thread), ctypes.py_object(_Stopped))

    def spend(self, work: Callable[[], R]) -> R:
        """What the work answers. Raises TookTooLong where the budget ends meanwhile.

        One function and no context manager: between the two halves of one an exception of `end` would pass by both.
        """
        thread = threading.get_ident()
        try:
            self._enter(thread)
            try:
                answer = work()
            except _Stopped:
                raise
            except BaseException:
                self._leave(thread)
                raise
            self._leave(thread)
            return answer
        except _Stopped:
            raise TookTooLong(_SENTENCE) from None

    def _enter(self, thread: int) -> None:
        with self._lock:
            if self.is_spent:
                raise TookTooLong(_SENTENCE)
            self._threads.add(thread)

    def _leave(self, thread: int) -> None:
        """What was raised in this thread has to come up here, and not in whatever it does next.

        It comes between two steps of Python's. Where it has not come after some hundred of them something has swallowed
        it (a callback of a compiled library), and it comes no more.
        """
        with self._lock:
            self._threads.discard(thread)
            is_on_its_way = thread in self._stopped
        for _ in range(STEPS_UNTIL_IT_COMES if is_on_its_way else 0):
            time.sleep(0.001)


_SENTENCE = (
    f"This took longer than {QUESTION_WITHIN_S:.0f} s and was given up. Leave something out, or ask for it as a search "
    f"that goes on by itself"
)
_budget: ContextVar[Budget | None] = ContextVar("budget", default=None)


def within_budget(work: Callable[P, R]) -> Callable[P, R]:
    """Work of a question that runs in a thread of its own, and may be ended with it."""

    @wraps(work)
    def bounded(*args: P.args, **kwargs: P.kwargs) -> R:
        budget = _budget.get()
        if budget is None:
            return work(*args, **kwargs)
        return budget.spend(partial(work, *args, **kwargs))

    return bounded


def at_most(seconds: float, work: Callable[[], R]) -> R:
    """Work outside of any request. Raises TookTooLong."""
    budget = Budget()
    timer = threading.Timer(seconds, budget.end)
    timer.daemon = True
    timer.start()
    try:
        return budget.spend(work)
    finally:
        timer.cancel()


class BudgetedRoute(APIRoute):
    """A route whose endpoint computes and writes nothing: it ends with its time, or with its client."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        super().__init__(path, within_budget(endpoint), **options)

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        handle = super().get_route_handler()
        is_slow = not self.path.endswith(_KEYSTROKE)

        async def within(request: Request) -> Response:
            budget = Budget()
            token = _budget.set(budget)
            watch = asyncio.ensure_future(_end_with_the_client(request, budget))
            try:
                async with _turn() if is_slow else nullcontext():
                    ends = asyncio.get_running_loop().call_later(QUESTION_WITHIN_S, budget.end)
                    try:
                        return await handle(request)
                    finally:
                        ends.cancel()
            finally:
                _budget.reset(token)
                watch.cancel()

        return within


_turns: WeakKeyDictionary[asyncio.AbstractEventLoop, asyncio.Semaphore] = WeakKeyDictionary()


def _turn() -> asyncio.Semaphore:
    """The queue of the slow ones."""
    return _turns.setdefault(asyncio.get_running_loop(), asyncio.Semaphore(SLOW_AT_ONCE))


async def _end_with_the_client(request: Request, budget: Budget) -> None:
    """Once its body has been read, the next word of a client is that it has gone."""
    receive, is_read = request.receive, asyncio.Event()

    async def receiving() -> Message:
        message = await receive()
        if not message.get("more_body", False):
            is_read.set()
        return message

    request._receive = receiving
    await is_read.wait()
    with suppress(asyncio.CancelledError):
        if (await receive())["type"] == "http.disconnect":
            budget.end()
