"""What any instrument is to Pocket Spark: a name, and samples that come as they are taken.

An adapter for a real meter implements `Instrument`: its `samples` reads the meter's port and yields.
"""

import threading
import time
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import NamedTuple, Protocol

import numpy as np

from pocketspark.core.logs.log import Log, log_of


class Sample(NamedTuple):
    """One row: seconds since the start, volts and amps as the meter shows them, degrees where it has a probe."""

    time_s: float
    volts: float
    amps: float
    celsius: float | None = None


class Instrument(Protocol):
    """A source of samples."""

    @property
    def name(self) -> str:
        """What the maker calls it."""

    @property
    def simulated(self) -> bool:
        """Nothing of what it shows was measured."""

    @property
    def remarks(self) -> Sequence[str]:
        """What happened on the way that a reader of its log should know."""

    def samples(self, stop: threading.Event) -> Iterator[Sample]:
        """Each sample when it has been taken. Ends with the run, or soon after `stop` is set."""


@dataclass(frozen=True)
class SimulatedInstrument:
    """Writes what a simulated run holds, `speed_up` times as fast as it would happen."""

    name: str
    run: Log
    speed_up: float
    simulated: bool = True
    remarks: tuple[str, ...] = ()

    def samples(self, stop: threading.Event) -> Iterator[Sample]:
        began = time.monotonic()
        sign = -1.0 if self.run.swapped else 1.0
        for index, time_s in enumerate(self.run.time_s.tolist()):
            wait_s = began + time_s / self.speed_up - time.monotonic()
            # Short waits are left to add up: a sleep is never shorter than some tenths of a millisecond.
            if stop.is_set() or (wait_s > 0.002 and stop.wait(wait_s)):
                return
            celsius = None if self.run.celsius is None else float(self.run.celsius[index])
            yield Sample(time_s, sign * float(self.run.volts[index]), float(self.run.amps[index]), celsius)


def log_from(samples: list[Sample]) -> Log:
    """What has been sampled so far, as a log. Raises TooShort."""
    columns = [np.array([sample[column] for sample in samples], dtype=float) for column in range(3)]
    warm = np.array([np.nan if sample.celsius is None else sample.celsius for sample in samples])
    return log_of(columns[0], columns[1], columns[2], None if np.isnan(warm).all() else warm)
