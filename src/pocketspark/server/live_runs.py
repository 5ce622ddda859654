"""Runs that are read live: each in a thread of its own, watched against its limits, kept as it comes."""

import threading
import time
from dataclasses import dataclass, field

from pocketspark.core.logs.watch import Alarm, Limits, Reading, alarms
from pocketspark.instruments import Instrument, Sample
from pocketspark.store import LiveLogs

# Rows are written to the database together, this often.
KEPT_EVERY_S = 0.5


@dataclass
class LiveRun:
    """What has come of a run so far, and which limits it passed."""

    id: int
    limits: Limits | None
    samples: list[Sample] = field(default_factory=list)
    passed: dict[str, Alarm] = field(default_factory=dict)
    finished: bool = False
    cut_short: bool = False
    stop: threading.Event = field(default_factory=threading.Event)

    def take(self, sample: Sample) -> None:
        self.samples.append(sample)
        if self.limits:
            seen = Reading(minutes=sample.time_s / 60, volts=sample.volts, amps=sample.amps, celsius=sample.celsius)
            for alarm in alarms(self.limits, [seen]):
                self.passed.setdefault(alarm.code, alarm)


class LiveRuns:
    """The runs that go on, and by their numbers those that have been kept."""

    def __init__(self, logs: LiveLogs) -> None:
        self._logs = logs
        self._runs: dict[int, LiveRun] = {}

    def start(self, instrument: Instrument, limits: Limits | None) -> LiveRun:
        run = LiveRun(self._logs.begin(instrument.name, None if limits is None else limits.model_dump()), limits)
        self._runs[run.id] = run
        threading.Thread(target=self._read, args=(run, instrument), daemon=True).start()
        return run

    def get(self, run_id: int) -> LiveRun:
        """One that goes on, or as it was kept. Raises NothingThere."""
        return self._runs.get(run_id) or self._stored(run_id)

    def _read(self, run: LiveRun, instrument: Instrument) -> None:
        """Until the run ends or is stopped."""
        kept, last = 0, time.monotonic()
        for sample in instrument.samples(run.stop):
            run.take(sample)
            if time.monotonic() - last > KEPT_EVERY_S:
                upto = len(run.samples)
                self._logs.append(run.id, run.samples[kept:upto])
                kept, last = upto, time.monotonic()
        self._logs.append(run.id, run.samples[kept:])
        self._logs.end(run.id)
        run.finished = True
        del self._runs[run.id]

    def _stored(self, run_id: int) -> LiveRun:
        """One that was not brought to its end was cut short: the server was started anew since."""
        log = self._logs.get(run_id)
        run = LiveRun(log.id, None if log.limits is None else Limits.model_validate(log.limits))
        for row in log.rows:
            run.take(Sample(*row))
        run.finished, run.cut_short = True, not log.ended
        return run
