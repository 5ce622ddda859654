"""A meter on a serial line that prints by itself, at any rate."""

from collections import deque
from collections.abc import Callable, Sequence
from typing import Any

from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, Connection, LineLost, MeterReading, Port
from pocketspark.instruments.printed_line import LONGEST_LINE, PrintedLines

# So long one look at the line takes, when nothing comes.
LOOK_S = 0.2
HEARD = 8


def open_link(connection: Connection, ports: Callable[[], Sequence[Port]]) -> "SerialLink":
    """A line to what is at this port. Raises CannotConnect."""
    port = next((port for port in ports() if port.address == connection.address), None)
    if port is None:
        raise CannotConnect(
            say(
                "this machine has no serial port '{address}': plug the meter in, and look again",
                address=connection.address,
            )
        )
    return SerialLink(connection, simulated=port.simulated)


class SerialLink:
    """An open serial line. `simulated`: it is one of our own stand-ins, by where it lies or by what it says."""

    def __init__(self, connection: Connection, *, simulated: bool = False) -> None:
        """Raises CannotConnect."""
        import serial

        self.lines = PrintedLines(connection)
        self._simulated, self._part = simulated, b""
        self._heard: deque[str] = deque(maxlen=HEARD)
        try:
            self._port: Any = serial.Serial(connection.address, connection.baud, timeout=LOOK_S, exclusive=True)
        except (OSError, ValueError) as error:
            raise CannotConnect(
                say(
                    "'{address}' cannot be opened: is the meter plugged in, and no other program at it?",
                    address=connection.address,
                )
            ) from error

    introduces = ""

    @property
    def simulated(self) -> bool:
        return self._simulated or self.lines.simulated

    @property
    def heard(self) -> list[str]:
        return list(self._heard)

    @property
    def unread(self) -> int:
        return self.lines.unread

    @property
    def refused(self) -> str:
        return self.lines.refused

    def read(self) -> MeterReading | None:
        try:
            self._part += self._port.read_until(b"\n", LONGEST_LINE * 2)
        except (OSError, TypeError) as error:  # the port raises TypeError where its cable was pulled meanwhile
            raise LineLost(say("the serial line was lost")) from error
        if not self._part.endswith(b"\n") and len(self._part) < LONGEST_LINE * 2:
            return None
        line, self._part = _decoded(self._part).strip(), b""
        if line:
            self._heard.append(line[:LONGEST_LINE])
        return self.lines.read(line)

    def close(self) -> None:
        self._port.close()


def _decoded(data: bytes) -> str:
    """UTF-8, else as small boards of the west write their degree sign."""
    try:
        return data.decode()
    except UnicodeDecodeError:
        return data.decode("latin-1")
