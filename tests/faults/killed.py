"""A process that is killed without warning, as a power cut does: forked, so that two hundred of them take seconds."""

import os
import select
import signal
import traceback
from collections.abc import Callable


def in_a_process(work: Callable[[int], None]) -> tuple[int, int]:
    """Start `work` in a process of its own with the writing end of a pipe; its number, and the reading end."""
    reading, writing = os.pipe()
    process = os.fork()
    if process == 0:
        os.close(reading)
        try:
            work(writing)
        except BaseException:
            traceback.print_exc()
            os._exit(1)
        os._exit(0)
    os.close(writing)
    return process, reading


def heard_so_far(reading: int, words: int) -> str:
    """What it writes, until it has written so many words or was silent for long."""
    heard = b""
    while heard.count(b" ") < words and select.select([reading], [], [], 10)[0]:
        more = os.read(reading, 4096)
        if not more:
            break
        heard += more
    return heard.decode()


def said(reading: int) -> str:
    """Everything that the process wrote until it ended."""
    with os.fdopen(reading) as pipe:
        return pipe.read()


def kill(process: int) -> None:
    os.kill(process, signal.SIGKILL)
    os.waitpid(process, 0)


def exit_code(process: int) -> int:
    return os.waitstatus_to_exitcode(os.waitpid(process, 0)[1])
