"""Which serial ports there are, and how a line to a meter is opened."""

from importlib import import_module
from pathlib import Path

from pocketspark.instruments.connection import LINK_KINDS, Connection, MeterLink, Port


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
        module = import_module(f"{__package__}.{LINK_KINDS[connection.kind].module}")
        link: MeterLink = module.open_link(connection, self.all)
        return link
