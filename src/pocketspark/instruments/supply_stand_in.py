"""A stand-in for a programmable supply with a gadget at its terminals: SCPI on a socket of the loopback."""

import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.instruments.line_server import LineServer
from pocketspark.instruments.printed_line import SIMULATED

SupplyManner = Literal[
    "sound", "slow", "windows", "mute", "deaf", "refuses", "lies", "mishears", "runs_away", "hangs_up"
]


@dataclass
class SimulatedSupply:
    """Its state, and the gadget: amperes by volts. `manner`: how it misbehaves, from its first output on."""

    drawn: Callable[[float], float]
    manner: SupplyManner = "sound"
    volts: float = 0.0
    most_a: float = 5.0
    most_v: float = 32.0
    on: bool = False
    tripped: bool = False
    heard: list[str] = field(default_factory=list)

    def terminals(self) -> tuple[float, float]:
        """Volts and amperes: held at the volts, or at the current limit where the gadget takes more."""
        if not self.on or self.tripped:
            return 0.0, 0.0
        if self.drawn(self.volts) <= self.most_a:
            return self.volts, self.drawn(self.volts)
        low, high = 0.0, self.volts
        for _ in range(40):
            middle = (low + high) / 2
            low, high = (middle, high) if self.drawn(middle) < self.most_a else (low, middle)
        return low, self.most_a

    def answer(self, line: str) -> str | None:
        """None: nothing is said."""
        self.heard.append(line)
        command, _, value = line.partition(" ")
        # It goes wrong once something comes out.
        manner = self.manner if self.on or self.manner in ("refuses", "mishears", "windows") else "sound"
        if manner == "slow":
            time.sleep(0.3)
        if manner == "deaf":
            return None
        if command.endswith("?"):
            return None if manner == "mute" else self._says(command.upper(), manner)
        self._does(command.upper(), value, manner)
        return None

    def _does(self, command: str, value: str, manner: SupplyManner) -> None:
        if command == "OUTP":
            self.on = value.strip().upper() in ("ON", "1")
        elif command == "SOUR:VOLT":
            self.volts = float(value)
            self.tripped = self.tripped or self.volts > self.most_v
        elif command == "SOUR:CURR":
            self.most_a = float(value)
        elif command == "SOUR:VOLT:PROT" and manner != "mishears":
            self.most_v = float(value)

    def _says(self, command: str, manner: SupplyManner) -> str:
        volts, amps = self.terminals()
        if manner == "lies" and command.startswith("MEAS"):
            return "1.000000E+09"
        if manner == "runs_away" and command == "MEAS:VOLT?":
            volts += 3.0
        answers = {
            "*IDN?": f"POCKET SPARK,{SIMULATED.upper()} SUPPLY,0,1",
            "MEAS:VOLT?": f"{volts:.4E}",
            "MEAS:CURR?": f"{amps:.5E}",
            "SOUR:VOLT?": f"{self.volts:.4f}",
            "SOUR:CURR?": f"{self.most_a:.4f}",
            "SOUR:VOLT:PROT?": f"{self.most_v:.3f}",
            "OUTP?": "1" if self.on else "0",
            "SYST:ERR?": '-222,"Data out of range"' if manner == "refuses" else '0,"No error"',
        }
        return answers.get(command, "9.91E37")


def drawn_by(project: Project | None) -> Callable[[float], float]:
    """What the gadget of a file draws in its heaviest mode, by its law; without one, LEDs of 2.9 V behind 22 ohm."""
    if project is None or not project.gadget.modes:
        return lambda volts: max(volts - 2.9, 0.0) / 22
    load = Chain(project, 0).load_of(max(project.gadget.modes, key=lambda mode: mode.current_a))
    return lambda volts: float(load.current(volts))


class SupplyStandIn(LineServer):
    """Serves one simulated supply. It stays as it was left when its line breaks, as real ones do."""

    def __init__(self, supply: SimulatedSupply, port: int = 0) -> None:
        self.supply = supply

        def answer(line: str) -> str | None:
            if supply.manner == "hangs_up" and supply.on:
                supply.manner = "sound"
                raise EOFError
            return supply.answer(line)

        super().__init__(answer, port, "\r\n" if supply.manner == "windows" else "\n")
