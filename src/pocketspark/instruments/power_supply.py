"""A programmable supply that answers SCPI: what it may give at most is set in it first, and looked at again.

The commands are those of SCPI-1999's SOURce, OUTPut, MEASure and SYSTem subsystems (volume 2, from memory).
"""

import math
import re
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.load_laws.supply_sweep import SupplyLimits
from pocketspark.instruments.connection import CannotConnect, MeterReading
from pocketspark.instruments.printed_line import SIMULATED
from pocketspark.instruments.scpi import visa_address

ANSWER_MS = 2000
# What it says it took may differ by so much from what it was told: its last digit.
SAME_SHARE, SAME = 0.01, 0.011
# Over its limits by more than this, it does not hold them.
OVER_SHARE, OVER_V, OVER_A = 0.03, 0.05, 0.005
# No supply on a bench for gadgets shows more.
MOST_V, MOST_A = 100.0, 60.0
_NUMBER = re.compile(r"\s*[-+]?\d*\.?\d+(?:[eE][-+]?\d+)?")


class SupplyFault(PocketSparkError, RuntimeError):
    """The supply did what it was not told to; it has been switched off, as far as it listens."""

    status = 409


class PowerSupply:
    """One open session. Nothing comes out before `protect` has set and seen its limits."""

    def __init__(self, address: str, backend: str = "@py", *, resource: str = "") -> None:
        """`resource`: its full VISA name, where `address` is none of the network's. Raises CannotConnect."""
        import pyvisa

        self._limits: SupplyLimits | None = None
        self._manager = pyvisa.ResourceManager(backend)
        try:
            self._session: Any = self._manager.open_resource(
                resource or visa_address(address),
                read_termination="\n",
                write_termination="\n",
                timeout=ANSWER_MS,
                open_timeout=ANSWER_MS,
            )
            self.introduces = self._ask("*IDN?")[:200]
        except CannotConnect:
            self.close()
            raise
        except Exception as error:  # the backend raises what its transport raises
            self.close()
            raise CannotConnect(
                f"nothing at '{address}' answers as a supply: is it switched on, and its address right?"
            ) from error
        self.simulated = SIMULATED in self.introduces.lower()

    def protect(self, limits: SupplyLimits) -> None:
        """Off, then its over-voltage protection and its current limit. Raises SupplyFault where it takes them not."""
        self._tell("OUTP OFF")
        self._tell(f"SOUR:VOLT:PROT {limits.volts:.4g}")
        self._tell(f"SOUR:CURR {limits.amps:.4g}")
        self._took("SOUR:VOLT:PROT?", limits.volts, "its over-voltage protection")
        self._took("SOUR:CURR?", limits.amps, "its current limit")
        self._limits = limits

    def give(self, volts: float) -> None:
        """These volts, on. Raises SupplyFault over the limits, or where it takes others than it was told."""
        limits = self._limits
        if limits is None or not 0 <= volts <= limits.volts:
            raise SupplyFault("nothing was given: the volts are over the limits that were set")
        self._tell(f"SOUR:VOLT {volts:.4f}")
        self._took("SOUR:VOLT?", volts, "its volts")
        self._tell("OUTP ON")

    def read(self) -> MeterReading:
        """Raises SupplyFault for figures over its limits, or such as no supply shows."""
        volts, amps = self._figure("MEAS:VOLT?"), self._figure("MEAS:CURR?")
        if not (abs(volts) <= MOST_V and abs(amps) <= MOST_A):
            raise SupplyFault("the supply answers with figures that no supply has")
        limits = self._limits
        if limits and volts > limits.volts * (1 + OVER_SHARE) + OVER_V:
            raise SupplyFault("the supply gives more volts than its limit")
        if limits and amps > limits.amps * (1 + OVER_SHARE) + OVER_A:
            raise SupplyFault("the supply gives more current than its limit")
        if limits and volts * amps > limits.watts * (1 + OVER_SHARE):
            raise SupplyFault("the gadget takes more watts than the limit")
        return MeterReading(volts=volts, amps=amps)

    def off(self) -> bool:
        """Whether it says that it is off."""
        try:
            self._session.write("OUTP OFF")
            # An answer to something earlier may stand before it.
            return any(_number(self._ask("OUTP?")) == 0 for _ in range(3))
        except Exception:  # whatever the transport raises: it could not be asked
            return False

    def close(self) -> None:
        if hasattr(self, "_session"):
            self._session.close()
        self._manager.close()

    def _tell(self, command: str) -> None:
        self._session.write(command)
        answer = self._ask("SYST:ERR?")
        if _number(answer) != 0:
            raise SupplyFault(f"the supply refuses {command.partition(' ')[0]}: {answer[:80]}")

    def _took(self, question: str, wanted: float, what: str) -> None:
        taken = self._figure(question)
        if abs(taken - wanted) > SAME_SHARE * wanted + SAME:
            raise SupplyFault(f"the supply did not take {what}: {wanted:.4g} was set, and it says {taken:.4g}")

    def _figure(self, question: str) -> float:
        figure = _number(self._ask(question))
        if not math.isfinite(figure):
            raise SupplyFault(f"the supply gives no figure when it is asked {question}")
        return figure

    def _ask(self, question: str) -> str:
        return str(self._session.query(question)).strip()


def switched_off(address: str) -> bool:
    """By a session of its own, where another broke. Whether it says that it is off."""
    try:
        supply = PowerSupply(address)
    except CannotConnect:
        return False
    try:
        return supply.off()
    finally:
        supply.close()


def _number(text: str) -> float:
    """What an answer begins with; NaN where that is no number."""
    match = _NUMBER.match(text)
    return float(match[0]) if match else math.nan
