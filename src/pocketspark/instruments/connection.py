"""How a real meter is reached, and what is to be read of it. An open line to one is a `MeterLink`."""

import time
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Annotated, Literal, NamedTuple, Protocol, TypeAlias

from pydantic import Field

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models.model import Amps, Model, Title, Volts
from pocketspark.core.models.plain_text import ON_ONE_LINE

LinkKind = Literal["serial", "scpi"]
Shown = Literal["volts", "amps", "celsius"]

# Columns of its own seconds, volts, amps, degrees; None: no such column.
ColumnNumbers: TypeAlias = tuple[int | None, int | None, int | None, int | None]


class LinkType(NamedTuple):
    """One kind of line to a meter. `module`: the one beside this whose `open_link(connection, ports)` opens it."""

    label: str
    does: str
    module: str


LINK_KINDS: Mapping[LinkKind, LinkType] = {
    "serial": LinkType(
        "Serial line",
        "A board or meter that prints a line for each reading: seconds, volts and amps between commas, or name=value",
        "serial_line",
    ),
    "scpi": LinkType(
        "SCPI",
        "A bench meter, supply or load that is asked for each reading, over the network (192.168.1.20:5025) or USB",
        "scpi",
    ),
}
# The rates that serial meters print at, commonest first.
BAUDS = (115_200, 9600, 57_600, 38_400, 19_200, 4800, 2400, 230_400, 921_600)


class Connection(Model):
    """One meter. `places`: columns of its own seconds, volts, amps, degrees; None: by its header line or its names.

    `volts_in`, `amps_in`: what its bare figures are in, where neither a header nor a name says so. `reads`: what is
    taken from it; a second meter may give the rest. `resolution_v`, `resolution_a`: its last digit.
    """

    name: Title
    kind: LinkKind
    address: Annotated[str, Field(min_length=1, max_length=200), ON_ONE_LINE]
    baud: Annotated[int, Field(ge=300, le=4_000_000)] = BAUDS[0]
    places: (
        Annotated[tuple[Annotated[int, Field(ge=0, le=60)] | None, ...], Field(min_length=4, max_length=4)] | None
    ) = None
    volts_in: Literal["V", "mV"] = "V"
    amps_in: Literal["A", "mA"] = "A"
    reads: Annotated[tuple[Shown, ...], Field(min_length=1, max_length=3)] = ("volts", "amps")
    resolution_v: Volts | None = None
    resolution_a: Amps | None = None


@dataclass(frozen=True)
class MeterReading:
    """What a meter showed at one moment, in V, A and degrees Celsius; None: not shown.

    `time_s`: by its own clock, if it has one.
    """

    volts: float | None = None
    amps: float | None = None
    celsius: float | None = None
    time_s: float | None = None


class CannotConnect(PocketSparkError, RuntimeError):
    """Nobody answers there, or what answers is no meter; the message says what to look at."""

    status = 409


class LineLost(PocketSparkError, RuntimeError):
    """The line to a meter broke while it was read."""


@dataclass(frozen=True)
class Port:
    """A serial port of this machine. `simulated`: a stand-in is at its other end."""

    address: str
    says: str
    simulated: bool = False


class MeterLink(Protocol):
    """An open line to one meter. `simulated`: one of the stand-ins that ship with this tool is at its other end."""

    @property
    def simulated(self) -> bool: ...

    @property
    def introduces(self) -> str:
        """What it calls itself; empty where it does not."""

    @property
    def heard(self) -> list[str]:
        """The last lines as they came."""

    @property
    def unread(self) -> int:
        """Lines that no reading could be made of."""

    @property
    def refused(self) -> str:
        """Why figures were not taken that no small cell has; empty where none were."""

    def read(self) -> MeterReading | None:
        """The next reading; None where none came within a moment. Raises LineLost."""

    def close(self) -> None: ...


def listen(link: MeterLink, reads: Sequence[Shown], count: int, for_s: float) -> MeterReading | None:
    """The last of so many readings that show something of what is read; None where none came within the time."""
    until, last = time.monotonic() + for_s, None
    while count > 0 and time.monotonic() < until:
        reading = link.read()
        if reading is not None and any(getattr(reading, shown) is not None for shown in reads):
            last, count = reading, count - 1
    return last
