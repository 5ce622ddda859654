"""A meter with a probe on the cell, that answers SCPI: it is asked now and then, whoever asks how warm it is."""

import time

from pocketspark.core.message import say
from pocketspark.instruments.connection import Connection, LineLost
from pocketspark.instruments.scpi import ScpiLink
from pocketspark.instruments.scpi_device import DeviceFault

# Asked so often at most; a small cell warms by a degree in a quarter of a minute at worst.
EVERY_S = 2.0


class Thermometer:
    """One open line. A probe that shows nothing is none: then nothing may be drawn."""

    def __init__(self, address: str) -> None:
        """Raises CannotConnect."""
        self._link = ScpiLink(Connection(name="thermometer", kind="scpi", address=address, reads=("celsius",)))
        self.simulated = self._link.simulated
        self._asked_s = float("-inf")
        self._celsius = 0.0

    def celsius(self) -> float:
        """Raises DeviceFault where it shows no temperature."""
        if time.monotonic() - self._asked_s < EVERY_S:
            return self._celsius
        try:
            reading = self._link.read()
        except LineLost as lost:
            raise DeviceFault(say("the thermometer does not answer: without it nothing is drawn")) from lost
        if reading is None or reading.celsius is None:
            raise DeviceFault(say("the thermometer shows no temperature: without it nothing is drawn"))
        self._asked_s, self._celsius = time.monotonic(), reading.celsius
        return self._celsius

    def close(self) -> None:
        self._link.close()
