"""A cell tested by an electronic load, as a run that is read live: hours long, off at the end, on again after a cut."""

import threading
import time
from collections.abc import Iterator
from typing import Self

from pocketspark.core.cells.cell_test import CellTestPlan
from pocketspark.instruments.connection import CannotConnect, MeterReading
from pocketspark.instruments.guarded import Guarded
from pocketspark.instruments.instrument import Sample
from pocketspark.instruments.scpi_device import DeviceFault

EVERY_S = 0.5
# A line that was cut is tried again so often, so long apart.
TRIES, APART_S = 12, 5.0
LOST = "does not answer any more"


class CellTestRun:
    """One test. `speed_up`: of a stand-in's time; a real cell takes its own."""

    def __init__(self, name: str, address: str, plan: CellTestPlan, speed_up: float = 1.0) -> None:
        """Connects at once. Raises CannotConnect."""
        self.name, self._address, self._plan = name, address, plan
        self._load = Guarded("load", address)
        self.simulated = self._load.simulated
        self._speed_up = speed_up if self.simulated else 1.0
        self.remarks: list[str] = []

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_why: object) -> None:
        self.close()

    def close(self) -> None:
        """Off."""
        self._load.__exit__(None, None, None)

    def samples(self, stop: threading.Event) -> Iterator[Sample]:
        """Raises DeviceFault."""
        begun = time.monotonic()

        def now_s() -> float:
            return (time.monotonic() - begun) * self._speed_up

        try:
            self._protect()
            for phase, amps, lasts_s in self._plan.phases():
                self._draw(amps, stop)
                until_s = now_s() + lasts_s
                while now_s() < until_s:
                    # A step is looked at twice at its beginning: a second into it is what its resistance is read from.
                    if stop.wait(EVERY_S / self._speed_up):
                        return
                    reading = self._read(amps, stop)
                    yield Sample(now_s(), reading.volts or 0.0, -(reading.amps or 0.0))
                    if amps and (reading.volts or 0.0) <= self._plan.cut_v:
                        break
                if phase == "drain":
                    self._draw(0.0, stop)
        finally:
            self.close()
            if not self._load.was_left_off:
                self.remarks.append("The load did not say that it is off: switch it off by hand, now.")

    def _protect(self) -> None:
        self._load.order("protect", amps=self._plan.most_a, least_v=self._plan.cut_v)

    def _draw(self, amps: float, stop: threading.Event) -> None:
        try:
            self._load.order("draw", amps=amps)
        except DeviceFault as fault:
            self._go_on(amps, stop, fault)

    def _read(self, amps: float, stop: threading.Event) -> MeterReading:
        try:
            return self._load.read()
        except DeviceFault as fault:
            self._go_on(amps, stop, fault)
            return self._load.read()

    def _go_on(self, amps: float, stop: threading.Event, fault: DeviceFault) -> None:
        """After a cut: the guard has switched the load off meanwhile; it goes on where it was. Raises DeviceFault."""
        if LOST not in str(fault):
            raise fault
        self.close()
        for _ in range(TRIES):
            if stop.wait(APART_S / self._speed_up):
                break
            try:
                self._load = Guarded("load", self._address)
            except CannotConnect:
                continue
            self._protect()
            self._load.order("draw", amps=amps)
            self.remarks.append("The line to the load was cut and came back; nothing was drawn meanwhile.")
            return
        raise fault
