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


# What may be wrong with a gadget, or merely peculiar.
GadgetFault = Literal["starts_hard", "stops_early", "surges", "shorted", "loose"]
# By so much: of its window, of its current (invented: a stand-in is for practice).
HARDER, EARLIER, SURGE_TIMES, SURGE_S, SHORT_OHM, LOOSE_EVERY = 1.25, 1.2, 4.0, 0.25, 0.5, 7


@dataclass
class SimulatedGadget:
    """Amperes by volts, with a memory of whether it runs: it starts and stops at volts of its own."""

    law: Callable[[float], float]
    stops_v: float = 0.0
    starts_v: float = 0.0
    fault: GadgetFault | None = None
    runs: bool = False
    _began: float = 0.0
    _asked: int = 0

    def gets(self, volts: float) -> None:
        """It has had these volts until now: it may have started, or given up."""
        starts_v = self.starts_v * (HARDER if self.fault == "starts_hard" else 1.0)
        stops_v = self.stops_v * (EARLIER if self.fault == "stops_early" else 1.0)
        ran, self.runs = self.runs, volts >= (stops_v if self.runs else max(starts_v, stops_v))
        if self.runs and not ran:
            self._began = time.monotonic()
        self._asked += 1

    def __call__(self, volts: float) -> float:
        if self.fault == "shorted":
            return volts / SHORT_OHM
        if not self.runs or (self.fault == "loose" and self._asked % LOOSE_EVERY == 0):
            return 0.0
        surges = self.fault == "surges" and time.monotonic() - self._began < SURGE_S
        return self.law(volts) * (SURGE_TIMES if surges else 1.0)


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
        volts = self.volts if self.on and not self.tripped else 0.0
        if isinstance(self.drawn, SimulatedGadget):
            self.drawn.gets(volts)
        if not volts:
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


def drawn_by(project: Project | None, fault: GadgetFault | None = None) -> SimulatedGadget:
    """What the gadget of a file draws in its heaviest mode, by its law; without one, LEDs of 2.9 V behind 22 ohm."""
    if project is None or not project.gadget.modes:
        return SimulatedGadget(lambda volts: max(volts - 2.9, 0.0) / 22, 2.7, 2.7, fault)
    chain = Chain(project, 0)
    load = chain.load_of(max(project.gadget.modes, key=lambda mode: mode.current_a))
    window = chain.window
    return SimulatedGadget(lambda volts: float(load.current(volts)), window.v_run_min, window.v_start_min, fault)


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
