"""Routes of real meters: which there are, trying one, reading it once, and recording a run from one or two of them."""

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime
from threading import BoundedSemaphore
from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import BaseModel, Field

from pocketspark.core.chain import Chain
from pocketspark.core.logs.watch import limits_of
from pocketspark.core.message import Label, say
from pocketspark.core.models.model import Title
from pocketspark.core.models.record import Moment, Origin
from pocketspark.core.units.figures import celsius, engineering
from pocketspark.instruments.connection import (
    BAUDS,
    LINK_KINDS,
    CannotConnect,
    Connection,
    LinkKind,
    MeterLink,
    MeterReading,
    listen,
)
from pocketspark.instruments.joined_meters import ConnectedInstrument
from pocketspark.instruments.ports import Ports
from pocketspark.instruments.serial_line import SerialLink
from pocketspark.server.asking import OurProjects, Question, read_question
from pocketspark.server.live import LiveStarted, live_runs_of, require_practice
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import Connections

router = APIRouter(prefix="/api/instruments", tags=["instruments"], responses=PROBLEM_RESPONSES)

# So long a meter is listened to when it is tried; a slow one shows a reading every few seconds.
TRIED_FOR_S = 6.0
# Readings that one look takes, so that a header in the middle of a line is past.
TRIED_READINGS = 3
# Digits of a reading: as many as such meters have.
DIGITS = 5
MOST_KEPT = 40
_LISTENING = BoundedSemaphore(4)


class PortText(BaseModel):
    """A serial port of this machine."""

    address: str
    says: Label
    simulated: bool


class LinkKindText(BaseModel):
    """A way to reach a meter."""

    kind: LinkKind
    label: Label
    does: Label


class RealMeters(BaseModel):
    """What can be connected, and what has been."""

    kinds: tuple[LinkKindText, ...]
    ports: tuple[PortText, ...]
    bauds: tuple[int, ...]
    connections: tuple[Connection, ...]


def ports_of(request: Request) -> Ports:
    ports: Ports = request.app.state.ports
    return ports


def connections_of(request: Request) -> Connections:
    connections: Connections = request.app.state.connections
    return connections


OurPorts = Annotated[Ports, Depends(ports_of)]
OurConnections = Annotated[Connections, Depends(connections_of)]


@router.get("/meters")
def real_meters(ports: OurPorts, connections: OurConnections) -> RealMeters:
    return RealMeters(
        kinds=tuple(LinkKindText(kind=kind, label=link.label, does=link.does) for kind, link in LINK_KINDS.items()),
        ports=tuple(PortText(address=port.address, says=port.says, simulated=port.simulated) for port in ports.all()),
        bauds=BAUDS,
        connections=tuple(Connection.model_validate(body) for body in connections.all()),
    )


@router.put("/meters")
def keep_meter(connection: Connection, connections: OurConnections) -> Connection:
    """By its name: a new one, or in the place of the one that has it."""
    others = [body for body in connections.all() if body["name"] != connection.name]
    if len(others) >= MOST_KEPT:
        raise HTTPException(409, say("{most_kept} meters are kept at most: let one go first", most_kept=MOST_KEPT))
    connections.keep(connection.name, connection.model_dump(mode="json"))
    return connection


class MeterName(BaseModel):
    """Which of the kept meters."""

    name: Title


@router.post("/meters/removed", status_code=204)
def remove_meter(meter: MeterName, connections: OurConnections) -> None:
    connections.remove(meter.name)


class ShownNow(BaseModel):
    """One reading with its texts; what was not shown is None. `origin` goes into the record with it."""

    volts: float | None
    amps: float | None
    celsius: float | None
    volts_text: str | None
    amps_text: str | None
    celsius_text: str | None
    origin: Origin
    at: Moment


class TriedMeter(BaseModel):
    """What came of a try: how it introduces itself, its last lines, how its columns were taken, a reading."""

    introduces: str
    simulated: bool
    heard: tuple[str, ...]
    header: tuple[str, ...]
    places: tuple[int | None, ...] | None
    unread: int
    says: str  # what is to be looked at where no reading came; empty where one did
    reading: ShownNow | None


@router.post("/meters/tried")
def try_meter(connection: Connection, ports: OurPorts) -> TriedMeter:
    """Opens the line, listens for a moment, and closes it. 409 where nobody answers."""
    with _at_the_meter(ports, connection) as link:
        reading = listen(link, connection.reads, TRIED_READINGS, TRIED_FOR_S)
        lines = link.lines if isinstance(link, SerialLink) else None
        shown = None if reading is None else _shown(reading, simulated=link.simulated)
        return TriedMeter(
            introduces=link.introduces,
            simulated=link.simulated,
            heard=tuple(link.heard),
            header=lines.header if lines else (),
            places=lines.places if lines else None,
            unread=link.unread,
            says="" if shown else link.refused or _nothing_came(link.heard),
            reading=shown,
        )


@contextmanager
def _at_the_meter(ports: Ports, connection: Connection) -> Iterator[MeterLink]:
    """Its line, closed again afterwards; few at a time, for each keeps somebody waiting. Raises CannotConnect."""
    if not _LISTENING.acquire(blocking=False):
        raise CannotConnect(say("some meters are being tried already: wait a moment"))
    try:
        link = ports.open(connection)
        try:
            yield link
        finally:
            link.close()
    finally:
        _LISTENING.release()


def _nothing_came(heard: list[str]) -> str:
    if heard:
        return "No reading could be made of what it writes: look at its rate, or say which column holds what."
    return f"Nothing came for {TRIED_FOR_S:.0f} s: is it switched on and writing, at this rate?"


@router.post("/meters/reading")
def read_meter(connection: Connection, ports: OurPorts, request: Request) -> ShownNow:
    """One reading, now; of the run that this meter is writing, where it is. 409 where none comes."""
    latest = live_runs_of(request).latest(connection)
    if latest is not None:
        sample, simulated = latest
        return _shown(MeterReading(sample.volts, sample.amps, sample.celsius), simulated=simulated)
    with _at_the_meter(ports, connection) as link:
        reading = listen(link, connection.reads, 1, TRIED_FOR_S)
        if reading is None:
            raise CannotConnect(link.refused or _nothing_came(link.heard))
        return _shown(reading, simulated=link.simulated)


def _shown(reading: MeterReading, *, simulated: bool) -> ShownNow:
    def text(value: float | None, unit: str) -> str | None:
        return None if value is None else str(engineering(value, unit, DIGITS))

    return ShownNow(
        volts=reading.volts,
        amps=reading.amps,
        celsius=reading.celsius,
        volts_text=text(reading.volts, "V"),
        amps_text=text(reading.amps, "A"),
        celsius_text=None if reading.celsius is None else str(celsius(reading.celsius, 1)),
        origin="simulated" if simulated else "instrument",
        at=f"{datetime.now(UTC):%Y-%m-%dT%H:%M:%SZ}",
    )


class Recording(Question):
    """A document, one of its builds, and the meters that a run on it is recorded from."""

    connections: Annotated[tuple[Connection, ...], Field(min_length=1, max_length=2)]
    charging: bool = True  # a charge is watched against the limits of this build


@router.post("/live/recorded", status_code=201)
def record(recording: Recording, request: Request, projects: OurProjects, ports: OurPorts) -> LiveStarted:
    """Begins to record. What stand-ins show goes into practice copies alone."""
    asked = read_question(recording, projects)
    shown = {figure for connection in recording.connections for figure in connection.reads}
    if not {"volts", "amps"} <= shown:
        raise HTTPException(422, say("a run needs volts and amps: let this meter give both, or add a second one"))
    instrument = ConnectedInstrument(recording.connections, ports.open)
    instrument.connect()
    try:
        if instrument.simulated:
            require_practice(asked)
        limits = limits_of(Chain(asked.project, asked.build)) if recording.charging else None
        run = live_runs_of(request).start(instrument, limits, recording.project_id, recording.connections)
    except Exception:
        instrument.disconnect()
        raise
    return LiveStarted(id=run.id, name=instrument.name, seconds=0.0)
