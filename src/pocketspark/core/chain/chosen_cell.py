"""The chosen cell, or like cells in parallel, as it is to be judged: new, worn or cold, with the way to the load."""

from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.hookup.as_wired import AsWired, as_wired
from pocketspark.core.kinds.regulators import SCHOTTKY, law_of_regulators
from pocketspark.core.models import Build, Cell, Protection, Regulator
from pocketspark.core.physics.charge_and_discharge import CellGroup
from pocketspark.core.physics.ocv import Floats, Numbers, OcvCurve, curve_of
from pocketspark.core.physics.regulator_laws import RegulatorLaw, behind_diodes

# Thin hook-up wire and joints between cell and regulator (common practice, no source).
WIRES_OHM = 0.05
# Breakpoints a segment is cut into, so that the drawn tail is round.
FINE = 4
# What some 300 cycles leave of capacity, and what they make of resistance (usual data-sheet end of life, from memory).
AGED_CAPACITY, AGED_RESISTANCE = 0.80, 1.5
# By temperature: what comes out, and the resistance, against a warm room. At 0 C it doubles or trebles, at -10 C it is
# four to six times as high (from memory).
COLD_C = (-20.0, -10.0, 0.0, 10.0, 20.0)
COLD_CAPACITY, COLD_RESISTANCE = (0.50, 0.70, 0.85, 0.95, 1.0), (9.0, 5.0, 2.0, 1.4, 1.0)
# No cell has less, whatever is said of it.
LEAST_OHM = 1e-6


@dataclass(frozen=True)
class ChosenCell:
    """The cell of one build, among the other parts that were chosen for it."""

    chain: ChosenParts
    cell: Cell
    at_c: float | None = None  # another temperature than that of its use

    @property
    def indoors(self) -> "ChosenCell":
        """Where it is charged, which may be warmer than where it is used."""
        shell = self.chain.gadget.shell
        return self if shell.room_c == shell.used_at_c else replace(self, at_c=shell.room_c)

    @property
    def path(self) -> str:
        """The cell's own path in the document."""
        return f"{self.chain.path}.cell"

    @property
    def count(self) -> int:
        return len(self.chain.build.cells)

    @cached_property
    def load_shares(self) -> list[float]:
        """Of the group's current, what each cell carries at first: as its own resistance lets it."""
        siemens = self._siemens
        return [each / sum(siemens) for each in siemens]

    @cached_property
    def _siemens(self) -> list[float]:
        """Of each cell; one of which somebody says that it has no resistance at all has next to none."""
        return [1 / max(cell.resistance_ohm, LEAST_OHM) for cell in self.chain.build.cells]

    @property
    def charge_max_a(self) -> float | None:
        """What may flow into the group until the first of its cells has its own stated maximum; None: one has none."""
        return self._first_at_its_most([cell.charge_max_a for cell in self.chain.build.cells])

    @property
    def discharge_max_a(self) -> float | None:
        return self._first_at_its_most([cell.discharge_max_a for cell in self.chain.build.cells])

    def _first_at_its_most(self, stated: list[float | None]) -> float | None:
        each = [most for most in stated if most is not None]
        if len(each) < len(stated):
            return None
        return min(most / share for most, share in zip(each, self.load_shares, strict=True))

    @cached_property
    def wear(self) -> tuple[float, float]:
        """Factors on capacity and resistance for its temperature, and its age."""
        shell = self.chain.gadget.shell
        return wear_of(shell.used_at_c if self.at_c is None else self.at_c, self.chain.build)

    @cached_property
    def capacity_ah(self) -> float:
        return sum(cell.planning_capacity_ah for cell in self.chain.build.cells) * self.wear[0]

    @cached_property
    def full_v(self) -> float:
        """Where the charger leaves the cell, or its class's own full voltage while no charger is chosen."""
        ends_v = self.chain.charge_ends_v
        return self.cell.facts.full_v if ends_v is None else ends_v

    @cached_property
    def curve(self) -> OcvCurve:
        return fine_curve(self.cell.cell_class)

    @cached_property
    def group(self) -> CellGroup:
        r_ohm = self.wear[1] / sum(self._siemens)
        return CellGroup(self.curve, self.capacity_ah, r_ohm, rises=True)

    @cached_property
    def r_ohm(self) -> float:
        """Of the whole group, with charge left."""
        return float(np.asarray(self.group.r_ohm))

    def r_ohm_at(self, ocv_v: Numbers) -> Floats:
        """Of the whole group, where it stands at this open-circuit voltage: nearly empty it has more."""
        return np.asarray(self.group.r_at(ocv_v))

    @cached_property
    def path_ohm(self) -> float:
        """Wires and protections between cell and regulator."""
        return WIRES_OHM + sum(2 * protection.r_on_ohm for protection in self.protections_in_the_way)

    # The way from it to the gadget ------------------------------------------------------------------------------

    @cached_property
    def as_wired(self) -> AsWired | None:
        """What the maker's own wires make of it; None where the tool made them, or they lead nowhere."""
        return as_wired(self.chain)

    @property
    def regulators_in_the_way(self) -> list[Regulator]:
        """The regulators that the gadget is really fed through."""
        wired = self.as_wired
        return self.chain.regulators if wired is None or wired.through_regulator else []

    @property
    def regulator_in_the_way(self) -> Regulator:
        """The last of them, whose output the gadget hangs on."""
        return self.regulators_in_the_way[-1] if self.regulators_in_the_way else Regulator(name="none")

    @property
    def run_path_diodes(self) -> int:
        """Diodes beside the regulator: as the maker's own wires have them, else as the plan has."""
        return int(self._planned_diode) if self.as_wired is None else self.as_wired.diodes

    @property
    def _planned_diode(self) -> bool:
        """Against an old charge path, or the cell's half of a selector."""
        treatment = self.chain.gadget.existing_charging.treatment
        return treatment == "diode" or self.chain.build.use_while_charging == "two_diodes"

    @cached_property
    def regulator_law(self) -> RegulatorLaw:
        return behind_diodes(self.run_path_diodes, SCHOTTKY, law_of_regulators(self.regulators_in_the_way))

    @cached_property
    def protections_in_the_way(self) -> list[Protection]:
        """Those that the gadget's current really passes: a board that own wires go round is not among them."""
        wired = self.as_wired
        if wired is None or wired.through_protection:
            return self.chain.protections
        return [self.cell.protection] if self.cell.protection else []

    @property
    def all_ohm(self) -> float:
        return self.r_ohm + self.path_ohm

    def all_ohm_at(self, ocv_v: Numbers) -> Floats:
        return self.r_ohm_at(ocv_v) + self.path_ohm

    @cached_property
    def cuts(self) -> dict[str, float]:
        """Voltages at the cell's terminals that end a run, by who ends it."""
        cuts = {"cell": self.cell.stop_v}
        if self.protections_in_the_way:
            cuts["protection"] = max(protection.cut_v for protection in self.protections_in_the_way)
        return cuts


def cold_factors(at_c: float, build: Build) -> tuple[float, float]:
    """Factors on capacity and resistance at this temperature; `cold` judges it at 0 C at most."""
    used_c = min(at_c, 0.0) if build.cold else at_c
    return float(np.interp(used_c, COLD_C, COLD_CAPACITY)), float(np.interp(used_c, COLD_C, COLD_RESISTANCE))


def wear_of(at_c: float, build: Build) -> tuple[float, float]:
    """Factors on capacity and resistance for the conditions a build is judged under: its temperature, and its age."""
    capacity, resistance = cold_factors(at_c, build)
    return (AGED_CAPACITY * capacity, AGED_RESISTANCE * resistance) if build.aged else (capacity, resistance)


@lru_cache(maxsize=32)
def fine_curve(cell_class: str) -> OcvCurve:
    """The class's curve with more breakpoints."""
    coarse = curve_of(cell_class)
    steps = np.linspace(0, len(coarse.soc) - 1, FINE * (len(coarse.soc) - 1) + 1)
    soc = np.interp(steps, np.arange(len(coarse.soc)), coarse.soc)
    return OcvCurve(soc, coarse.at(soc))
