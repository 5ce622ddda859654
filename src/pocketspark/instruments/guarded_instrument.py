"""A supply or a load behind its guard: whatever happens to us, it is off afterwards."""

import json
import os
import select
import subprocess
import sys
import time
from types import TracebackType
from typing import Any, Literal, Self

from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, MeterReading
from pocketspark.instruments.guard import DEVICES
from pocketspark.instruments.scpi_device import DeviceFault, switched_off

# The guard's answers come within this: it waits for the device for two seconds.
ANSWER_S = 8.0


class Guarded:
    """The device is off when this ends, however it ends."""

    def __init__(self, kind: Literal["supply", "load"], address: str) -> None:
        """Raises CannotConnect."""
        self._guard = subprocess.Popen(
            [sys.executable, "-m", "pocketspark.instruments.guard", kind, address],
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            bufsize=0,
            # The same packages as ours, wherever they were found.
            env=os.environ | {"PYTHONPATH": os.pathsep.join(filter(None, sys.path))},
        )
        self._left, self._kind, self._address = b"", kind, address
        self.was_left_off: bool | None = None
        introduced = self._answer()
        if "error" in introduced:
            self._guard.kill()
            self._guard.wait()
            raise CannotConnect(introduced["error"])
        self.introduces, self.simulated = introduced["introduces"], bool(introduced["simulated"])

    @property
    def guard_pid(self) -> int:
        return self._guard.pid

    def __enter__(self) -> Self:
        return self

    def __exit__(
        self, kind: type[BaseException] | None, error: BaseException | None, trace: TracebackType | None
    ) -> None:
        self._end()

    def order(self, do: str, **more: float) -> dict[str, Any]:
        """Raises DeviceFault; then the guard has switched the device off."""
        assert self._guard.stdin is not None
        try:
            self._guard.stdin.write((json.dumps({"do": do} | more) + "\n").encode())
        except OSError as error:
            raise DeviceFault(say("what guards the {kind} has ended", kind=self._kind)) from error
        answer = self._answer()
        if "error" in answer:
            raise DeviceFault(answer["error"])
        return answer

    def read(self) -> MeterReading:
        answer = self.order("read")
        return MeterReading(volts=answer["volts"], amps=answer["amps"])

    def _answer(self) -> dict[str, Any]:
        assert self._guard.stdout is not None
        until = time.monotonic() + ANSWER_S
        while b"\n" not in self._left:
            left_s = until - time.monotonic()
            if left_s <= 0 or not select.select([self._guard.stdout], [], [], left_s)[0]:
                return {"error": say("the {called} does not answer any more", called=self._kind)}
            chunk = self._guard.stdout.read(65_536)
            if not chunk:
                return {"error": say("what guards the {kind} has ended", kind=self._kind)}
            self._left += chunk
        line, self._left = self._left.split(b"\n", 1)
        answer: dict[str, Any] = json.loads(line)
        if "off" in answer:
            self.was_left_off = bool(answer["off"])
        return answer

    def _end(self) -> None:
        """Closed, the pipe tells the guard to switch off; what it says of that is kept."""
        assert self._guard.stdin is not None
        self._guard.stdin.close()
        while self.was_left_off is None:
            if "error" in self._answer():
                break
        try:
            self._guard.wait(timeout=ANSWER_S)
        except subprocess.TimeoutExpired:
            self._guard.kill()
        # The guard itself was killed, or its line broke: once more, by a line of our own.
        self.was_left_off = self.was_left_off or switched_off(DEVICES[self._kind], self._address)
