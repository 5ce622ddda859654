"""An electronic load that answers SCPI: constant current, off when the cell gets to its last volts.

The commands are those of SCPI-1999's INPut, SOURce, FUNCtion and MEASure (volume 2, from memory).
"""

from dataclasses import dataclass

from pocketspark.core.message import say
from pocketspark.instruments.connection import MeterReading
from pocketspark.instruments.scpi_device import DeviceFault, ScpiDevice

OVER_SHARE, OVER_A = 0.05, 0.005
# A cell's own volts lie between these; anything else is a wrong lead, or an instrument that lies.
LEAST_V, MOST_V = 0.5, 5.0
# Under the cut by more than this the load is off at once, whoever commands it.
UNDER_V = 0.15


@dataclass(frozen=True)
class LoadLimits:
    """The most it may draw, and the volts under which it may draw nothing. What it sees lies between the last two."""

    amps: float
    least_v: float
    sees_least_v: float = LEAST_V
    sees_most_v: float = MOST_V


class ElectronicLoad(ScpiDevice):
    """One open session. Nothing is drawn before `protect` has set its mode."""

    CALLED = "load"
    OFF, IS_OFF = "INP OFF", "INP?"
    _limits: LoadLimits | None = None

    def protect(self, limits: LoadLimits) -> None:
        """Off, and in constant current. Raises DeviceFault where it does not take that."""
        self.tell("INP OFF")
        self.tell("FUNC CURR")
        self.tell("SOUR:CURR 0")
        self._limits = limits

    def draw(self, amps: float) -> None:
        """So much from the cell; 0: nothing, and off. Raises DeviceFault over the limit."""
        limits = self._limits
        if limits is None or not 0 <= amps <= limits.amps * (1 + OVER_SHARE):
            raise DeviceFault(say("nothing was drawn: the current is over the limit that was set"))
        if amps == 0:
            self.tell("INP OFF")
            self.is_on = False
            return
        self.tell(f"SOUR:CURR {amps:.4f}")
        self.took("SOUR:CURR?", amps, "its current")
        self.is_on = True
        self.tell("INP ON")

    def read(self) -> MeterReading:
        """Raises DeviceFault for figures no cell has, for more current than was set, and under the last volts."""
        volts, amps = self.figure("MEAS:VOLT?"), self.figure("MEAS:CURR?")
        limits = self._limits
        least_v, most_v = (limits.sees_least_v, limits.sees_most_v) if limits else (LEAST_V, MOST_V)
        if not least_v <= volts <= most_v:
            raise DeviceFault(
                say(
                    "the load sees {volts} V, and {max} to {most_v} V can be: look at its leads and their polarity",
                    volts=f"{volts:.3g}",
                    max=f"{max(least_v, 0.0):.3g}",
                    most_v=f"{most_v:.3g}",
                )
            )
        if limits and amps > limits.amps * (1 + OVER_SHARE) + OVER_A:
            raise DeviceFault(say("the load draws more current than its limit"))
        if limits and volts < limits.least_v - UNDER_V and amps > OVER_A:
            raise DeviceFault(say("the cell is under its last volts, and the load still draws"))
        return MeterReading(volts=volts, amps=amps)
