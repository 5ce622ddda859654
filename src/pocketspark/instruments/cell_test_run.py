"""A cell tested by an electronic load, as a run that is read live: hours long, off at the end, on again after a cut.

Where a supply lies beside the load it brings the cell back to half; a thermometer on it ends the test where it is hot.
"""

import threading
import time
from collections.abc import Callable, Iterator
from typing import Self

from pocketspark.core.cells.cell_test import STORE_S, STORED_AT, CellTestPlan
from pocketspark.core.limits import CELL_HOT_C
from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, MeterReading
from pocketspark.instruments.guarded_instrument import Guarded
from pocketspark.instruments.instrument import Sample
from pocketspark.instruments.scpi_device import DeviceFault
from pocketspark.instruments.thermometer import Thermometer

EVERY_S = 0.5
# A line that was cut is tried again so often, so long apart.
TRIES, APART_S = 12, 5.0
LOST = "does not answer any more"
# The supply's over-voltage protection stands so far over the volts that it gives.
OVER_V = 0.05


class CellTestRun:
    """One test. `speed_up`: of a stand-in's time; a real cell takes its own."""

    def __init__(
        self,
        name: str,
        address: str,
        plan: CellTestPlan,
        speed_up: float = 1.0,
        *,
        supply: str = "",
        thermometer: str = "",
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        """`supply`, `thermometer`: where they answer; empty without one. Connects at once. Raises CannotConnect."""
        self._clock = clock
        self.name, self._address, self._plan, self._supply = name, address, plan, supply
        self._thermometer = Thermometer(thermometer) if thermometer else None
        try:
            self._load = Guarded("load", address)
        except CannotConnect:
            self._end_thermometer()
            raise
        self.simulated = self._load.simulated or (self._thermometer is not None and self._thermometer.simulated)
        self._speed_up = speed_up if self._load.simulated else 1.0
        self.remarks: list[str] = []

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_why: object) -> None:
        self.close()

    def close(self) -> None:
        """Off."""
        self._end_thermometer()
        self._load.__exit__(None, None, None)

    def _end_thermometer(self) -> None:
        if self._thermometer is not None:
            self._thermometer.close()

    def samples(self, stop: threading.Event) -> Iterator[Sample]:
        """Raises DeviceFault."""
        begun = self._clock()

        def now_s() -> float:
            return (self._clock() - begun) * self._speed_up

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
                    yield Sample(now_s(), reading.volts or 0.0, -(reading.amps or 0.0), self._celsius())
                    if amps and (reading.volts or 0.0) <= self._plan.cut_v:
                        break
                if phase == "drain":
                    self._draw(0.0, stop)
            if self._supply:
                yield from self._stored(now_s, stop)
        finally:
            self.close()
            if not self._load.was_left_off:
                self.remarks.append("The load did not say that it is off: switch it off by hand, now.")

    def _stored(self, now_s: Callable[[], float], stop: threading.Event) -> Iterator[Sample]:
        """Back to half: the supply gives, and the load, which draws nothing, says what the cell stands at."""
        plan = self._plan
        if (self._load.read().volts or 0.0) >= plan.storage_v:
            return
        with Guarded("supply", self._supply) as supply:
            supply.order("protect", volts=plan.storage_v + OVER_V, amps=plan.drain_a)
            supply.order("give", volts=plan.storage_v)
            until_s = now_s() + STORE_S
            while now_s() < until_s and not stop.wait(EVERY_S / self._speed_up):
                volts, given_a = self._load.read().volts or 0.0, supply.read().amps or 0.0
                yield Sample(now_s(), volts, given_a, self._celsius())
                if given_a < STORED_AT * plan.drain_a:
                    break
        if not supply.was_left_off:
            self.remarks.append("The supply did not say that it is off: switch it off by hand, now.")
        else:
            self.remarks.append("Charged back to half, as it keeps best.")

    def _celsius(self) -> float | None:
        """Raises DeviceFault where it is too hot, or nothing is shown any more."""
        if self._thermometer is None:
            return None
        celsius = self._thermometer.celsius()
        if celsius > CELL_HOT_C:
            raise DeviceFault(
                say(
                    "the cell is at {celsius} C, over {cell_hot_c} C: its test was ended",
                    celsius=f"{celsius:.0f}",
                    cell_hot_c=f"{CELL_HOT_C:.0f}",
                )
            )
        return celsius

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
