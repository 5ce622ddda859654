"""A programmable supply that answers SCPI: what it may give at most is set in it first, and looked at again.

The commands are those of SCPI-1999's SOURce, OUTPut and MEASure subsystems (volume 2, from memory).
"""

from pocketspark.core.load_laws.supply_sweep import SupplyLimits
from pocketspark.core.message import say
from pocketspark.instruments.connection import MeterReading
from pocketspark.instruments.scpi_device import DeviceFault, ScpiDevice

# Over its limits by more than this, it does not hold them.
OVER_SHARE, OVER_V, OVER_A = 0.03, 0.05, 0.005
# No supply on a bench for gadgets shows more.
MOST_V, MOST_A = 100.0, 60.0


class PowerSupply(ScpiDevice):
    """One open session. Nothing comes out before `protect` has set and seen its limits."""

    CALLED = "supply"
    OFF, IS_OFF = "OUTP OFF", "OUTP?"
    _limits: SupplyLimits | None = None

    def protect(self, limits: SupplyLimits) -> None:
        """Off, then its over-voltage protection and its current limit. Raises DeviceFault where it takes them not."""
        self.tell("OUTP OFF")
        self.tell(f"SOUR:VOLT:PROT {limits.volts:.4g}")
        self.tell(f"SOUR:CURR {limits.amps:.4g}")
        self.took("SOUR:VOLT:PROT?", limits.volts, "its over-voltage protection")
        self.took("SOUR:CURR?", limits.amps, "its current limit")
        self._limits = limits

    def give(self, volts: float) -> None:
        """These volts, on. Raises DeviceFault over the limits, or where it takes others than it was told."""
        limits = self._limits
        if limits is None or not 0 <= volts <= limits.volts:
            raise DeviceFault(say("nothing was given: the volts are over the limits that were set"))
        self.tell(f"SOUR:VOLT {volts:.4f}")
        self.took("SOUR:VOLT?", volts, "its volts")
        self.is_on = True
        self.tell("OUTP ON")

    def read(self) -> MeterReading:
        """Raises DeviceFault for figures over its limits, or such as no supply shows."""
        volts, amps = self.figure("MEAS:VOLT?"), self.figure("MEAS:CURR?")
        if not (abs(volts) <= MOST_V and abs(amps) <= MOST_A):
            raise DeviceFault(say("the supply answers with figures that no supply has"))
        limits = self._limits
        if limits and volts > limits.volts * (1 + OVER_SHARE) + OVER_V:
            raise DeviceFault(say("the supply gives more volts than its limit"))
        if limits and amps > limits.amps * (1 + OVER_SHARE) + OVER_A:
            raise DeviceFault(say("the supply gives more current than its limit"))
        if limits and volts * amps > limits.watts * (1 + OVER_SHARE):
            raise DeviceFault(say("the gadget takes more watts than the limit"))
        return MeterReading(volts=volts, amps=amps)
