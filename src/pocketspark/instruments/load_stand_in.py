"""A stand-in for an electronic load with a cell at its terminals: SCPI on a socket of the loopback, in quick time."""

import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Literal

from pocketspark.core.models import Project
from pocketspark.instruments.cell_model import SteppedCell
from pocketspark.instruments.line_server import LineServer
from pocketspark.instruments.printed_line import SIMULATED
from pocketspark.instruments.supply_stand_in import SimulatedSupply

LoadManner = Literal["sound", "mishears", "lies", "reversed", "hangs_up", "stays_on"]


@dataclass
class SimulatedLoad:
    """A load and its cell, which is another model than the planner's. `speed_up`: how fast its time goes.

    `clock`: seconds, of whatever goes on evenly.
    """

    cell: SteppedCell
    speed_up: float = 1.0
    manner: LoadManner = "sound"
    set_a: float = 0.0
    on: bool = False
    heard: list[str] = field(default_factory=list)
    supply: SimulatedSupply | None = None  # on the same cell
    clock: Callable[[], float] = time.monotonic
    _at: float = field(init=False)
    _lock: threading.Lock = field(default_factory=threading.Lock)

    def __post_init__(self) -> None:
        self._at = self.clock()

    @property
    def draws_a(self) -> float:
        return self.set_a if self.on else 0.0

    @property
    def flows_a(self) -> float:
        """Into the cell."""
        return (self.supply.terminals()[1] if self.supply else 0.0) - self.draws_a

    def with_supply(self) -> SimulatedSupply:
        """One beside the load, on the same cell."""
        self.supply = SimulatedSupply(lambda volts: max(volts - self.cell.source_v, 0.0) / self.cell.ohmic_ohm)
        return self.supply

    def catch_up(self) -> None:
        """The cell up to this moment, in steps of a second or two of its time."""
        now = self.clock()
        passed_s, self._at = (now - self._at) * self.speed_up, now
        while passed_s > 0:
            step_s = min(passed_s, 2.0)
            self.cell.step(self.flows_a, step_s)
            passed_s -= step_s

    def answer(self, line: str) -> str | None:
        with self._lock:
            self.catch_up()
            self.heard.append(line)
            command, _, value = line.partition(" ")
            if command.endswith("?"):
                return self._says(command.upper())
            if command == "INP" and not (self.manner == "stays_on" and value != "ON"):
                self.on = value == "ON"
            elif command == "SOUR:CURR" and self.manner != "mishears":
                self.set_a = float(value)
            return None

    @property
    def sees_v(self) -> float:
        """At its leads."""
        return self.cell.source_v + self.flows_a * self.cell.ohmic_ohm

    def _says(self, command: str) -> str:
        volts = self.sees_v
        if self.manner == "lies" and self.on:
            volts = 1e9
        if self.manner == "reversed":
            volts = -volts
        return {
            "*IDN?": f"POCKET SPARK,{SIMULATED.upper()} LOAD,0,1",
            "MEAS:VOLT?": f"{volts:.5E}",
            "MEAS:CURR?": f"{self.draws_a:.5E}",
            "SOUR:CURR?": f"{self.set_a:.4f}",
            "INP?": "1" if self.on else "0",
            "SYST:ERR?": '0,"No error"',
        }.get(command, "9.91E37")


# What may be wrong with a cell: worn, of high resistance, losing its charge by itself, not charged full.
CellFault = Literal["worn", "tired", "leaks", "not_full"]
# By so much (invented: a stand-in is for practice).
WORN_SHARE, TIRED_TIMES, LEAKS_C, NOT_FULL = 0.55, 5.0, 0.02, 0.7


def cell_on_test(project: Project | None, fault: CellFault | None = None) -> SteppedCell:
    """The cell of a file's first build, full; without one, 0.85 Ah. With its fault."""
    cell = project.builds[0].cell if project else None
    capacity_ah, r_ohm = (cell.planning_capacity_ah, cell.r_ohm or cell.typical_ohm) if cell else (0.85, 0.1)
    return SteppedCell(
        cell.cell_class if cell else "li_4v20",
        capacity_ah * (WORN_SHARE if fault == "worn" else 1.0),
        r_ohm * (TIRED_TIMES if fault == "tired" else 1.0),
        NOT_FULL if fault == "not_full" else 1.0,
        leaks_a=LEAKS_C * capacity_ah if fault == "leaks" else 0.0,
    )


class LoadStandIn(LineServer):
    """Serves one simulated load. It stays as it was left when its line breaks, as real ones do."""

    def __init__(self, load: SimulatedLoad, port: int = 0) -> None:
        self.load = load

        def answer(line: str) -> str | None:
            if load.manner == "hangs_up" and load.on:
                load.manner = "sound"
                raise EOFError
            return load.answer(line)

        super().__init__(answer, port)
