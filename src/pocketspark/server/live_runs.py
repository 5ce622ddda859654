"""Runs that are read live: each in a thread of its own, watched against its limits, kept as it comes."""

import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, field

from sqlalchemy.exc import DBAPIError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.logs.watch import Alarm, Limits, Reading, alarms
from pocketspark.core.message import say
from pocketspark.instruments import Instrument, Sample
from pocketspark.instruments.connection import Connection
from pocketspark.instruments.joined_meters import ConnectedInstrument, Opens
from pocketspark.server.own_log import logger
from pocketspark.store import LiveLogs
from pocketspark.store.database import why_not
from pocketspark.store.utc import now

# Rows are written to the database together, this often.
KEPT_EVERY_S = 0.2


# Runs that may go on at once: each has a thread of its own.
MOST_AT_ONCE = 10
# A run that goes on for longer, or writes more, is no charge of a small cell.
MOST_ROWS = 1_000_000
MOST_S = 7 * 24 * 3600.0
# A run is taken up again after a new start where its last row is no older: a charge goes on for hours.
TAKEN_UP_WITHIN_S = 2 * 3600.0


class TooManyRuns(PocketSparkError, RuntimeError):
    """As many runs as are allowed go on already."""

    status = 409


@dataclass
class LiveRun:
    """What has come of a run so far, and which limits it passed. `failure`: why it broke off; empty where it did not.

    `samples` are those that are stored already: what a page is shown is never lost. `connections`: of real meters.
    """

    id: int
    limits: Limits | None
    simulated: bool = True
    connections: Sequence[Connection] = ()
    remarks: Sequence[str] = ()
    samples: list[Sample] = field(default_factory=list)
    passed: dict[str, Alarm] = field(default_factory=dict)
    finished: bool = False
    cut_short: bool = False
    failure: str = ""
    taken_up_later: bool = False
    stop: threading.Event = field(default_factory=threading.Event)

    def take(self, samples: Sequence[Sample]) -> None:
        self.samples.extend(samples)
        if self.limits:
            readings = [
                Reading(minutes=one.time_s / 60, volts=one.volts, amps=one.amps, celsius=one.celsius) for one in samples
            ]
            for alarm in alarms(self.limits, readings):
                self.passed.setdefault(alarm.code, alarm)


class LiveRuns:
    """The runs that go on, and by their numbers those that have been kept."""

    def __init__(self, logs: LiveLogs) -> None:
        self._logs = logs
        self._runs: dict[int, LiveRun] = {}
        self._threads: list[threading.Thread] = []
        self._starting = threading.Lock()

    def start(
        self,
        instrument: Instrument,
        limits: Limits | None,
        project_id: int | None = None,
        connections: Sequence[Connection] = (),
    ) -> LiveRun:
        """Raises TooManyRuns."""
        with self._starting:
            if len(self._runs) >= MOST_AT_ONCE:
                raise TooManyRuns(
                    say("{most_at_once} runs go on already; stop one of them first", most_at_once=MOST_AT_ONCE)
                )
            written = None if limits is None else limits.model_dump()
            run_id = self._logs.begin(
                instrument.name,
                written,
                project_id,
                list(self._runs),
                simulated=instrument.simulated,
                connections=[connection.model_dump(mode="json") for connection in connections],
            )
            run = LiveRun(run_id, limits, instrument.simulated, tuple(connections))
            self._go_on(run, instrument)
        return run

    def take_up(self, opens: Opens) -> None:
        """The runs of real meters that went on when the server was ended, where that was not long ago."""
        for log in self._logs.left_open():
            run = self._stored(log.id)
            since_s = (now() - log.begun_at).total_seconds() if log.begun_at else 0.0
            last_s = run.samples[-1].time_s if run.samples else 0.0
            if since_s - last_s > TAKEN_UP_WITHIN_S:
                continue
            run.finished = run.cut_short = False
            remarks = [*log.remarks, "Pocket Spark was started anew meanwhile; what the meter showed then is missing."]
            begun_s = max(since_s, last_s)
            self._go_on(run, ConnectedInstrument(run.connections, opens, begun_s, remarks, log.simulated))

    def latest(self, connection: Connection) -> tuple[Sample, bool] | None:
        """The last row of a run that this meter alone is writing now, and whether that is simulated."""
        for run in list(self._runs.values()):
            if [one.address for one in run.connections] == [connection.address] and run.samples:
                return run.samples[-1], run.simulated
        return None

    def _go_on(self, run: LiveRun, instrument: Instrument) -> None:
        self._runs[run.id] = run
        run.remarks = instrument.remarks
        thread = threading.Thread(target=self._read, args=(run, instrument), daemon=True)
        self._threads = [*(other for other in self._threads if other.is_alive()), thread]
        thread.start()

    def get(self, run_id: int) -> LiveRun:
        """One that goes on, or as it was kept. Raises NothingThere."""
        return self._runs.get(run_id) or self._stored(run_id)

    def stop_all(self) -> None:
        """Returns once each has written down what it had; those of real meters are taken up at the next start."""
        for run in list(self._runs.values()):
            run.taken_up_later = bool(run.connections)
            run.stop.set()
        for thread in self._threads:
            thread.join(timeout=3)

    def _read(self, run: LiveRun, instrument: Instrument) -> None:
        """Until the run ends, is stopped, or fails: then its reason is kept with what there is of it."""
        try:
            self._write_down(run, instrument)
        except Exception as error:
            run.failure = _reason(error)
            logger.warning("run %s broke off", run.id, exc_info=error)
        with suppress(Exception):  # a full disk takes no reason either: the page still gets it
            if run.failure or not run.taken_up_later:
                self._logs.end(run.id, run.failure, run.remarks)
        run.finished = True
        self._runs.pop(run.id, None)

    def _write_down(self, run: LiveRun, instrument: Instrument) -> None:
        waiting: list[Sample] = []
        begun = last = time.monotonic()

        def store() -> None:
            self._logs.append(run.id, waiting, instrument.remarks)
            run.simulated = instrument.simulated
            run.take(waiting)
            waiting.clear()

        samples = iter(instrument.samples(run.stop))
        while (sample := _next_of(samples, store)) is not None:
            waiting.append(sample)
            moment = time.monotonic()
            if moment - last > KEPT_EVERY_S:
                store()
                last = moment
            if len(run.samples) >= MOST_ROWS or moment - begun > MOST_S:
                run.failure = "it went on for longer than any charge of a small cell, so it was ended"
                break
        store()

    def _stored(self, run_id: int) -> LiveRun:
        """One that was not brought to its end was cut short: the server was started anew since."""
        log = self._logs.get(run_id)
        connections = tuple(Connection.model_validate(body) for body in log.connections)
        limits = None if log.limits is None else Limits.model_validate(log.limits)
        run = LiveRun(log.id, limits, log.simulated, connections, log.remarks)
        run.take([Sample(*row) for row in log.rows])
        run.finished, run.cut_short, run.failure = True, not log.ended, log.failure
        return run


class InstrumentFailed(PocketSparkError, RuntimeError):
    """What an instrument raised, as the reason for which its run ended."""


def _next_of(samples: Iterator[Sample], store: Callable[[], None]) -> Sample | None:
    """The next sample; None at the end. Raises InstrumentFailed, once what came before is stored."""
    try:
        return next(samples, None)
    except Exception as error:  # an adapter may raise anything
        store()
        raise InstrumentFailed(say("the instrument failed: {why}", why=str(error) or type(error).__name__)) from error


def _reason(error: Exception) -> str:
    if isinstance(error, PocketSparkError):
        return str(error)
    if isinstance(error, DBAPIError | OSError):
        return str(why_not(error))
    return f"it could not be written down: {error or type(error).__name__}"
