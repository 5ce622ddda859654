"""Stand-ins for real meters, at the protocols that real ones speak: a board on a pseudo-terminal, SCPI on a socket.

Both show what is on the simulated bench at that moment, so many times as fast; what reads them cannot tell them from
meters, but for what they say of themselves.
"""

import os
import threading
import time
import tty
from collections.abc import Callable, Iterator, Mapping
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from typing import Literal, Self

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.instruments.connection import MeterReading
from pocketspark.instruments.line_server import LineServer
from pocketspark.instruments.printed_line import SIMULATED

Manner = Literal["columns", "names"]
# What may go wrong with a line: figures that are none, a meter that stops, one that hangs up for a moment.
LineFault = Literal["garbage", "stops", "hangs_up"]
# A board says what it is this often, for whoever came later.
SAYS_SO_EVERY = 20
FAULT_AFTER_S = 1.0


@dataclass(frozen=True)
class OnTheBench:
    """A run that goes on: what stands at its terminals now. Over at its end, where its last figures stay."""

    run: Log
    speed_up: float = 1.0
    begun_s: float = 0.0

    def now(self) -> MeterReading:
        time_s = min((time.monotonic() - self.begun_s) * self.speed_up, float(self.run.time_s[-1]))
        volts, amps = (float(np.interp(time_s, self.run.time_s, column)) for column in (self.run.volts, self.run.amps))
        celsius = None if self.run.celsius is None else float(np.interp(time_s, self.run.time_s, self.run.celsius))
        return MeterReading(volts, amps, celsius, time_s)


def on_the_bench(run: Log, speed_up: float) -> OnTheBench:
    """From this moment on."""
    return OnTheBench(run, speed_up, time.monotonic())


class BoardStandIn:
    """A little board that prints a line `every_s`, on a pseudo-terminal that `link` leads to while it runs."""

    def __init__(
        self,
        bench: OnTheBench,
        link: Path,
        manner: Manner = "columns",
        every_s: float = 0.1,
        fault: LineFault | None = None,
    ) -> None:
        self._bench, self._manner, self._every_s, self._fault = bench, manner, every_s, fault
        self.link = link
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._print, daemon=True)

    def __enter__(self) -> Self:
        self._plug_in()
        self._thread.start()
        return self

    def __exit__(self, *_why: object) -> None:
        self._ended.set()
        self._thread.join(timeout=5)
        self._pull_out()

    def _plug_in(self) -> None:
        self._board, self._far = os.openpty()
        tty.setraw(self._far)
        os.set_blocking(self._board, False)
        self.link.parent.mkdir(mode=0o700, parents=True, exist_ok=True)
        self.link.unlink(missing_ok=True)
        self.link.symlink_to(os.ttyname(self._far))

    def _pull_out(self) -> None:
        self.link.unlink(missing_ok=True)
        for end in (self._board, self._far):
            with suppress(OSError):
                os.close(end)

    def _print(self) -> None:
        begun, lines = time.monotonic(), self._lines()
        while not self._ended.wait(self._every_s):
            faulty = time.monotonic() - begun > FAULT_AFTER_S
            if faulty and self._fault == "stops":
                return
            if faulty and self._fault == "hangs_up":
                self._fault = None
                self._pull_out()
                if not self._ended.wait(1.5):
                    self._plug_in()
                continue
            line = "\x00\x7f3.9,,0.4.1" if faulty and self._fault == "garbage" else next(lines)
            with suppress(BlockingIOError):  # nobody reads: what does not fit is lost, as with a real board
                os.write(self._board, (line + "\r\n").encode())

    def _lines(self) -> Iterator[str]:
        number = 0
        while True:
            if number % SAYS_SO_EVERY == 0:
                yield f"# {SIMULATED} board"
                if self._manner == "columns":
                    yield "seconds,voltage (V),current (mA),temperature (°C)"
            number += 1
            shown = self._bench.now()
            volts, amps, celsius = shown.volts or 0.0, shown.amps or 0.0, shown.celsius or 0.0
            if self._manner == "columns":
                yield f"{shown.time_s:.2f},{volts:.4f},{amps * 1000:.1f},{celsius:.1f}"
            else:
                yield f"t={shown.time_s:.2f}s U={volts * 1000:.0f}mV I={amps:.4f}A T={celsius:.1f}C"


class ScpiStandIn(LineServer):
    """A bench meter that answers SCPI questions on a socket of the loopback."""

    def __init__(self, bench: OnTheBench, port: int = 0) -> None:
        answers: Mapping[str, Callable[[], str]] = {
            "*IDN?": lambda: f"POCKET SPARK,{SIMULATED.upper()} METER,0,1",
            "MEAS:VOLT?": lambda: f"{bench.now().volts or 0.0:.6E}",
            "MEAS:CURR?": lambda: f"{bench.now().amps or 0.0:.6E}",
            "MEAS:TEMP?": lambda: "9.91E37" if bench.now().celsius is None else f"{bench.now().celsius:.3E}",
        }

        def answer(line: str) -> str | None:
            asked = answers.get(line.upper())
            return asked() if asked else None

        super().__init__(answer, port)
