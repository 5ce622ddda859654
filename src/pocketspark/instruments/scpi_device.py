"""What a supply and a load that answer SCPI have in common: commands whose taking is looked at, figures, and off.

SCPI-1999, SYSTem:ERRor? after each command (volume 2, from memory).
"""

import math
import re
from typing import Any, ClassVar, TypeVar

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.instruments.connection import CannotConnect
from pocketspark.instruments.printed_line import SIMULATED
from pocketspark.instruments.scpi import visa_address

ANSWER_MS = 2000
# What it says it took may differ by so much from what it was told: its last digit.
SAME_SHARE, SAME = 0.01, 0.011
_NUMBER = re.compile(r"\s*[-+]?\d*\.?\d+(?:[eE][-+]?\d+)?")


class DeviceFault(PocketSparkError, RuntimeError):
    """It did what it was not told to; it has been switched off, as far as it listens."""

    status = 409


class ScpiDevice:
    """One open session. `CALLED` in sentences; `OFF` switches it off, and `IS_OFF` asks for that: 0."""

    CALLED: ClassVar[str]
    OFF: ClassVar[str]
    IS_OFF: ClassVar[str]
    # It was told to switch on, and not off since.
    is_on = False

    def __init__(self, address: str, backend: str = "@py", *, resource: str = "") -> None:
        """`resource`: its full VISA name, where `address` is none of the network's. Raises CannotConnect."""
        import pyvisa

        self._manager = pyvisa.ResourceManager(backend)
        try:
            self._session: Any = self._manager.open_resource(
                resource or visa_address(address),
                read_termination="\n",
                write_termination="\n",
                timeout=ANSWER_MS,
                open_timeout=ANSWER_MS,
            )
            self.introduces = self.ask("*IDN?")[:200]
        except CannotConnect:
            self.close()
            raise
        except Exception as error:  # the backend raises what its transport raises
            self.close()
            raise CannotConnect(
                say(
                    "nothing at '{address}' answers as a {called}: is it switched on, and its address right?",
                    address=address,
                    called=self.CALLED,
                )
            ) from error
        self.simulated = SIMULATED in self.introduces.lower()

    def off(self) -> bool:
        """Whether it says that it is off."""
        try:
            self._session.write(self.OFF)
            # An answer to something earlier may stand before it.
            return any(_number(self.ask(self.IS_OFF)) == 0 for _ in range(3))
        except Exception:  # whatever the transport raises: it could not be asked
            return False

    def close(self) -> None:
        if hasattr(self, "_session"):
            self._session.close()
        self._manager.close()

    def tell(self, command: str) -> None:
        """Raises DeviceFault where it refuses."""
        self._session.write(command)
        answer = self.ask("SYST:ERR?")
        if _number(answer) != 0:
            raise DeviceFault(
                say(
                    "the {called} refuses {command}: {answer}",
                    called=self.CALLED,
                    command=command.partition(" ")[0],
                    answer=answer[:80],
                )
            )

    def took(self, question: str, wanted: float, what: str) -> None:
        """Raises DeviceFault where it says that it took something else."""
        taken = self.figure(question)
        if abs(taken - wanted) > SAME_SHARE * wanted + SAME:
            raise DeviceFault(
                say(
                    "the {called} did not take {what}: {wanted} was set, and it says {taken}",
                    called=self.CALLED,
                    what=what,
                    wanted=f"{wanted:.4g}",
                    taken=f"{taken:.4g}",
                )
            )

    def figure(self, question: str) -> float:
        """Raises DeviceFault for an answer that begins with no number."""
        figure = _number(self.ask(question))
        if not math.isfinite(figure):
            raise DeviceFault(
                say("the {called} gives no figure when it is asked {question}", called=self.CALLED, question=question)
            )
        return figure

    def ask(self, question: str) -> str:
        return str(self._session.query(question)).strip()


D = TypeVar("D", bound=ScpiDevice)


def switched_off(kind: type[D], address: str) -> bool:
    """By a session of its own, where another broke. Whether it says that it is off."""
    try:
        device = kind(address)
    except CannotConnect:
        return False
    try:
        return device.off()
    finally:
        device.close()


def _number(text: str) -> float:
    """What an answer begins with; NaN where that is no number."""
    match = _NUMBER.match(text)
    return float(match[0]) if match else math.nan
