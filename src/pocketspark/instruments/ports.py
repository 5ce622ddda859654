"""Which serial ports there are, and how a line to a meter is opened."""

from dataclasses import dataclass
from pathlib import Path

from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect, Connection, MeterLink
from pocketspark.instruments.scpi import ScpiLink
from pocketspark.instruments.serial_line import SerialLink


@dataclass(frozen=True)
class Port:
    """A serial port of this machine. `simulated`: a stand-in is at its other end."""

    address: str
    says: str
    simulated: bool = False


class Ports:
    """The ports of this machine, and those that stand-ins have put into `folder`. No other file is ever opened."""

    def __init__(self, folder: Path) -> None:
        self._folder = folder

    def all(self) -> list[Port]:
        from serial.tools import list_ports

        real = [Port(port.device, port.description or "") for port in list_ports.comports()]
        links = sorted(self._folder.iterdir()) if self._folder.is_dir() else []
        stand_ins = [Port(str(link), "stand-in: simulated", simulated=True) for link in links if link.is_char_device()]
        return [*sorted(real, key=lambda port: port.address), *stand_ins]

    def open(self, connection: Connection) -> MeterLink:
        """Raises CannotConnect."""
        if connection.kind == "scpi":
            return ScpiLink(connection)
        port = next((port for port in self.all() if port.address == connection.address), None)
        if port is None:
            raise CannotConnect(
                say(
                    "this machine has no serial port '{address}': plug the meter in, and look again",
                    address=connection.address,
                )
            )
        return SerialLink(connection, simulated=port.simulated)
