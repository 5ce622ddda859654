"""A meter, supply or load that answers SCPI questions, over the network or USB.

The questions are those of the standard's measurement class (SCPI-1999, volume 2, chapter 3, from memory).
"""

import ipaddress
import re
import socket
import threading
from collections import deque
from collections.abc import Callable, Mapping, Sequence
from typing import Any

from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, Connection, LineLost, MeterReading, Port, Shown
from pocketspark.instruments.printed_line import SIMULATED

QUESTIONS: Mapping[Shown, str] = {"volts": "MEAS:VOLT?", "amps": "MEAS:CURR?", "celsius": "MEAS:TEMP?"}
ANSWER_MS = 2000
# Readings are asked for this often.
EVERY_S = 0.5
# SCPI's own word for "no such reading": 9.91E37 is not a number, 9.9E37 and beyond an overload.
NO_READING = 9e37
_HOST_AND_PORT = re.compile(r"(?P<host>[A-Za-z0-9.-]{1,100}|\[[0-9a-fA-F:]{2,45}\]):(?P<port>\d{1,5})")
_FIRST_FIGURE = re.compile(r"[-+]?\d*\.?\d+(?:[eE][-+]?\d+)?")
HEARD = 8


def open_link(connection: Connection, _ports: Callable[[], Sequence[Port]]) -> "ScpiLink":
    """A session with the instrument at this address. Raises CannotConnect."""
    return ScpiLink(connection)


class ScpiLink:
    """An open session with one instrument."""

    def __init__(self, connection: Connection) -> None:
        """Raises CannotConnect."""
        import pyvisa

        self._reads = connection.reads
        self._heard: deque[str] = deque(maxlen=HEARD)
        self._pause = threading.Event()
        self._asked = False
        self.unread, self.refused = 0, ""
        resource = visa_address(connection.address)
        self._manager = pyvisa.ResourceManager("@py")
        try:
            self._session: Any = self._manager.open_resource(
                resource, read_termination="\n", write_termination="\n", timeout=ANSWER_MS, open_timeout=ANSWER_MS
            )
            self.introduces = self._ask("*IDN?")[:200]
        except Exception as error:  # the backend raises what its transport raises
            self.close()
            raise CannotConnect(
                say(
                    "nothing at '{address}' answers as an instrument: is it switched on, and its address right?",
                    address=connection.address,
                )
            ) from error
        self.simulated = SIMULATED in self.introduces.lower()

    @property
    def heard(self) -> list[str]:
        return list(self._heard)

    def read(self) -> MeterReading | None:
        if self._asked:
            self._pause.wait(EVERY_S)
        self._asked = True
        figures: dict[str, float] = {}
        for shown in self._reads:
            try:
                answer = self._ask(QUESTIONS[shown])
            except Exception as error:
                raise LineLost(say("the instrument does not answer any more")) from error
            figure = _FIRST_FIGURE.match(answer.strip())
            if figure and abs(float(figure[0])) < NO_READING:
                figures[shown] = float(figure[0])
            else:
                self.unread += 1
        return MeterReading(**figures) if figures else None

    def close(self) -> None:
        """Both: a manager that is left open holds the process up at its end."""
        if hasattr(self, "_session"):
            self._session.close()
        self._manager.close()

    def _ask(self, question: str) -> str:
        answer = str(self._session.query(question)).strip()
        self._heard.append(f"{question}  {answer}"[:200])
        return answer


def visa_address(address: str) -> str:
    """ "192.168.1.20:5025" as the libraries want it; one of USB as it is. Raises CannotConnect for any other."""
    text = address.strip()
    if re.fullmatch(r"USB\d*::[\w:.-]{1,120}", text):
        return text
    match = _HOST_AND_PORT.fullmatch(text)
    if match is None:
        raise CannotConnect(
            say(
                "an address is written like {example}, or as the instrument's own USB0::... name",
                example="192.168.1.20:5025",
            )
        )
    host, port = match["host"].strip("[]"), int(match["port"])
    if not 0 < port < 65_536:
        raise CannotConnect(say("{port} is no port: the instrument's handbook names it, often 5025", port=port))
    return f"TCPIP0::{_own_network(host)}::{port}::SOCKET"


def _own_network(host: str) -> str:
    """The host's address, if it is one of this machine or its own network: no instrument stands elsewhere."""
    try:
        found = {ipaddress.ip_address(info[4][0]) for info in socket.getaddrinfo(host, None, type=socket.SOCK_STREAM)}
    except (OSError, UnicodeError, ValueError) as error:
        raise CannotConnect(say("nobody on your network is called '{host}'", host=host)) from error
    near = sorted((one for one in found if one.is_private or one.is_loopback or one.is_link_local), key=str)
    if not near or len(near) != len(found):
        raise CannotConnect(say("'{host}' is not on your own network", host=host))
    return str(near[0])
