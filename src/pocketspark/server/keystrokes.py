"""A process of its own for what is asked at every keystroke: no long work of the server takes turns with it.

It is forked before anything else begins, so it shares what was loaded. Where it is busy or gone, or something of the
document is refused, the question is answered where it came in.
"""

import asyncio
import gc
import json
import os
import signal
import threading
import time
from collections.abc import Callable, Coroutine
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from contextlib import suppress
from multiprocessing import get_context
from typing import Any

from fastapi import Request, Response

from pocketspark.core.error import PocketSparkError
from pocketspark.core.questions.assess import assess
from pocketspark.core.units.reading import ReadersUnits, read_as, reading
from pocketspark.demo import demo_projects
from pocketspark.server.asking import Question, build_number, read_document
from pocketspark.server.budget import QUESTION_WITHIN_S, BudgetedRoute, TookTooLong, at_most
from pocketspark.server.own_log import logger

# So many may wait for it; whoever comes then is answered at home.
MOST_WAITING = 5
# A document that takes so long to judge is not waited for by others.
PATIENCE_S = 2.0


class Keystrokes:
    """Answers the body of a question. Until `start` every one is answered at home."""

    def __init__(self) -> None:
        self._pool: ProcessPoolExecutor | None = None
        self._waiting = 0
        # What was waited for in vain: until it comes to its end nobody else waits.
        self._stuck: Future[str | None] | None = None

    def start(self) -> None:
        """Fork now, while there is one thread only; what a first assessment makes is made meanwhile."""
        self._pool = ProcessPoolExecutor(1, mp_context=get_context("fork"), initializer=_get_ready)
        self._pool.submit(_warm_up)

    def stop(self) -> None:
        if self._pool is not None:
            self._pool.shutdown(wait=False, cancel_futures=True)

    async def answer(self, body: bytes) -> str | None:
        """The answer as JSON; None where it is to be answered at home."""
        if self._pool is None or self._waiting >= MOST_WAITING or (self._stuck and not self._stuck.done()):
            return None
        self._waiting += 1
        try:
            future = self._pool.submit(answered, body, reading())
            answer = asyncio.wrap_future(future)
            await asyncio.wait([answer], timeout=PATIENCE_S)
            if answer.done():
                return answer.result()
            if not future.cancel():
                self._stuck = future
            return None
        except (BrokenProcessPool, RuntimeError):
            logger.error("the process of keystrokes has ended; they are answered without it")
            self._pool = None
            return None
        finally:
            self._waiting -= 1


class KeystrokeRoute(BudgetedRoute):
    """A route whose question goes to that process first."""

    def get_route_handler(self) -> Callable[[Request], Coroutine[Any, Any, Response]]:
        at_home = super().get_route_handler()

        async def handle(request: Request) -> Response:
            keystrokes: Keystrokes = request.app.state.keystrokes
            answer = await keystrokes.answer(await request.body())
            return await at_home(request) if answer is None else Response(answer, media_type="application/json")

        return handle


def answered(body: bytes, units: ReadersUnits) -> str | None:
    """None where anything is to be refused: what is stored is known at home only."""
    try:
        question = Question.model_validate(json.loads(body))
        read = read_document(question.document)
        build = build_number(read.project, question.build)
    except (ValueError, PocketSparkError, RecursionError):
        return None
    if read.refused:
        return None
    with read_as(units), suppress(TookTooLong):
        text = at_most(QUESTION_WITHIN_S, lambda: assess(read.project, build).model_dump_json())
        return f'{{"assessment":{text},"refused":[]}}'
    return None


def _get_ready() -> None:
    """A Ctrl-C is for the server; and without a server there is nothing to do here."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    threading.Thread(target=_end_with, args=(os.getppid(),), daemon=True).start()


def _end_with(server: int) -> None:
    while os.getppid() == server:
        time.sleep(1)
    os._exit(0)


def _warm_up() -> None:
    for project in demo_projects():
        assess(project).model_dump_json()
    gc.freeze()  # what was loaded stays: no search for garbage in it holds an answer up
