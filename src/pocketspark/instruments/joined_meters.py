"""Real meters as one instrument: one that shows volts and amps, or two whose readings are joined on one clock."""

import queue
import threading
import time
from collections.abc import Callable, Iterator, Sequence
from contextlib import suppress
from dataclasses import dataclass, field

from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, Connection, LineLost, MeterLink, MeterReading
from pocketspark.instruments.instrument import Sample

# A figure of the other meter that is older than this says nothing of now.
FRESH_S = 3.0
# A line that was lost is tried again for so long, this often; cables are bumped.
TRIED_FOR_S, TRIED_EVERY_S = 30.0, 1.0
# A meter that shows nothing: told after the first, given up after the second.
SILENT_S, GIVEN_UP_S = 10.0, 120.0
# So many lines without a reading, and one in five of all, are told.
UNREAD_TOLD = 5

Opens = Callable[[Connection], MeterLink]


@dataclass(frozen=True)
class _Arrival:
    """What came from one of the meters, when by the host's clock; or why nothing will come any more."""

    meter: int
    at_s: float
    reading: MeterReading | None = None
    failure: LineLost | None = None


@dataclass
class ConnectedInstrument:
    """One or two meters. `begun_s`: seconds of the run that are written already, where it is taken up again."""

    connections: Sequence[Connection]
    opens: Opens
    begun_s: float = 0.0
    remarks: list[str] = field(default_factory=list)
    simulated: bool = False
    _links: list[MeterLink] = field(default_factory=list)

    @property
    def name(self) -> str:
        return " and ".join(connection.name for connection in self.connections)

    def samples(self, stop: threading.Event) -> Iterator[Sample]:
        """Until `stop`, or a meter is lost for good: then LineLost is raised. Raises CannotConnect."""
        self.connect()
        links, self._links = self._links, []
        arrivals: queue.Queue[_Arrival] = queue.Queue(maxsize=10_000)
        ended = threading.Event()
        listeners = [
            threading.Thread(target=self._listen, args=(number, link, arrivals, ended), daemon=True)
            for number, link in enumerate(links)
        ]
        for listener in listeners:
            listener.start()
        try:
            yield from self._joined(arrivals, stop)
        finally:
            ended.set()
            for listener in listeners:
                listener.join(timeout=5)

    def connect(self) -> None:
        """Opens the line to each meter, once. Raises CannotConnect."""
        if self._links:
            return
        try:
            for connection in self.connections:
                self._links.append(self.opens(connection))
        except CannotConnect:
            self.disconnect()
            raise
        self.simulated = self.simulated or any(link.simulated for link in self._links)

    def disconnect(self) -> None:
        """Closes what was opened and is not yet read."""
        for link in self._links:
            link.close()
        self._links = []

    # Listening: a thread for each meter ------------------------------------------------------------------------

    def _listen(self, number: int, link: MeterLink, arrivals: "queue.Queue[_Arrival]", ended: threading.Event) -> None:
        taken, remarked = 0, False
        try:
            while not ended.is_set():
                try:
                    reading = link.read()
                except LineLost as lost:
                    link.close()
                    link = self._again(number, lost, ended)
                    continue
                if reading is not None:
                    taken += 1
                    arrivals.put(_Arrival(number, time.monotonic(), reading))
                if not remarked and link.unread >= UNREAD_TOLD and link.unread * 4 > taken:
                    remarked = True
                    why = link.refused or f"No reading can be made of its lines, such as “{_last(link)}”."
                    self._remark(f"{self._called(number)}: {why}")
        except LineLost as lost:
            arrivals.put(_Arrival(number, time.monotonic(), failure=lost))
        finally:
            link.close()

    def _again(self, number: int, lost: LineLost, ended: threading.Event) -> MeterLink:
        """The line anew, once it is there again. Raises LineLost."""
        called, since = self._called(number), time.monotonic()
        self._remark(f"The line to {called} was lost; it is tried again.")
        while time.monotonic() - since < TRIED_FOR_S and not ended.wait(TRIED_EVERY_S):
            with suppress(CannotConnect):
                link = self.opens(self.connections[number])
                self._remark(f"{called} was back after {time.monotonic() - since:.0f} s.")
                return link
        raise LineLost(
            say(
                "the line to {called} was lost, and did not come back within {tried_for_s} s",
                called=called,
                tried_for_s=f"{TRIED_FOR_S:.0f}",
            )
        ) from lost

    def _called(self, number: int) -> str:
        return self.connections[number].name

    def _remark(self, sentence: str) -> None:
        self.remarks.append(sentence)

    # Joining ---------------------------------------------------------------------------------------------------

    def _joined(self, arrivals: "queue.Queue[_Arrival]", stop: threading.Event) -> Iterator[Sample]:
        clock = _RunClock(self.begun_s, own=len(self.connections) == 1, remark=self._remark)
        shown: dict[str, tuple[float, float]] = {}  # figure: value, and when it came
        last = [time.monotonic()] * len(self.connections)
        silent = [False] * len(self.connections)
        while not stop.is_set():
            self._look_for_silence(last, silent)
            try:
                arrival = arrivals.get(timeout=0.2)
            except queue.Empty:
                continue
            if arrival.failure is not None:
                raise arrival.failure
            assert arrival.reading is not None
            last[arrival.meter], silent[arrival.meter] = arrival.at_s, False
            sample = _sample(shown, arrival, clock)
            if sample is not None:
                yield sample

    def _look_for_silence(self, last: Sequence[float], silent: list[bool]) -> None:
        """Raises LineLost for a meter that has shown nothing for long."""
        for number, heard in enumerate(last):
            quiet_s = time.monotonic() - heard
            if quiet_s > GIVEN_UP_S:
                raise LineLost(
                    say(
                        "{called} has shown nothing for {most} minutes",
                        called=self._called(number),
                        most=f"{GIVEN_UP_S / 60:.0f}",
                    )
                )
            if quiet_s > SILENT_S and not silent[number]:
                silent[number] = True
                self._remark(f"{self._called(number)} has shown nothing for {SILENT_S:.0f} s.")


def _sample(shown: dict[str, tuple[float, float]], arrival: _Arrival, clock: "_RunClock") -> Sample | None:
    """A row, once volts and amps are both of now."""
    reading = arrival.reading
    assert reading is not None
    for figure in ("volts", "amps", "celsius"):
        value = getattr(reading, figure)
        if value is not None:
            shown[figure] = (value, arrival.at_s)
    fresh = {figure: value for figure, (value, at_s) in shown.items() if arrival.at_s - at_s <= FRESH_S}
    if "volts" not in fresh or "amps" not in fresh:
        return None
    time_s = clock.at(arrival)
    return None if time_s is None else Sample(time_s, fresh["volts"], fresh["amps"], fresh.get("celsius"))


class _RunClock:
    """Seconds of the run: by the meter's own clock where it is alone and has one, else by the host's.

    A clock that falls back is a meter that was started anew: it goes on from the host's time.
    """

    def __init__(self, begun_s: float, *, own: bool, remark: Callable[[str], None]) -> None:
        self._begun_s, self._own, self._remark = begun_s, own, remark
        self._host_zero: float | None = None
        self._own_zero = 0.0
        self._last_own: float | None = None
        self._last_s = begun_s or -1.0

    def at(self, arrival: _Arrival) -> float | None:
        """None for a reading that comes with the same moment as the one before."""
        if self._host_zero is None:
            self._host_zero = arrival.at_s - self._begun_s
        seconds = round(self._seconds(arrival), 3)  # as it is written: the same thousandth is the same moment
        if seconds <= self._last_s:
            return None
        self._last_s = seconds
        return seconds

    def _seconds(self, arrival: _Arrival) -> float:
        assert self._host_zero is not None
        reading = arrival.reading
        own_s = reading.time_s if reading is not None and self._own else None
        if own_s is None:
            return arrival.at_s - self._host_zero
        if self._last_own is None:
            self._own_zero = own_s - self._begun_s
        elif own_s < self._last_own:
            self._remark("Its clock began anew: the meter was started again.")
            self._own_zero = own_s - max(arrival.at_s - self._host_zero, self._last_s)
        self._last_own = own_s
        return own_s - self._own_zero


def _last(link: MeterLink) -> str:
    heard = link.heard
    return heard[-1][:60] if heard else ""
