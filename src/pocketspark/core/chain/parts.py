"""What there is in the chain: the parts of one build, the window in force, and the cell as it is to be judged."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Board, Build, Cell, Charger, Gadget, Mode, Project, Protection, Regulator
from pocketspark.core.models.project import SOFT, Basis
from pocketspark.core.physics.charge_and_discharge import CellGroup
from pocketspark.core.physics.load import Load, load_from_reading
from pocketspark.core.physics.ocv import CURVES, OcvCurve

# Thin hook-up wire and joints between cell and regulator (common practice, no source).
WIRES_OHM = 0.05
# Knots a segment is cut into, so that the drawn tail is round.
FINE = 4
# What some 300 cycles leave of capacity, and what they make of resistance (usual data-sheet end of life, from memory).
AGED_CAPACITY, AGED_RESISTANCE = 0.80, 1.5
# A cell at 0 C: resistance doubles, and less comes out (from memory).
COLD_CAPACITY, COLD_RESISTANCE = 0.85, 2.0


class MissingPart(PocketSparkError, LookupError):
    """A part is not chosen yet; whoever asked has nothing to say until it is."""

    status = 409

    def __init__(self, part: str) -> None:
        super().__init__(f"choose a {part} first" if part != "mode" else "measure a current first")


@dataclass(frozen=True)
class EffectiveWindow:
    """The window in force, and where its two ends come from."""

    v_run_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


@dataclass(frozen=True)
class ChainParts:
    """One build of a project, part by part."""

    project: Project
    build_index: int

    @property
    def gadget(self) -> Gadget:
        return self.project.gadget

    @property
    def build(self) -> Build:
        return self.project.builds[self.build_index]

    @property
    def at(self) -> str:
        """The build's own path in the document."""
        return f"builds.{self.build_index}"

    @property
    def is_swap(self) -> bool:
        """The gadget keeps its own lithium charger, and only the cell changes."""
        return self.build.style == "cell_swap" and self.gadget.supply.kind == "lithium"

    # Parts -----------------------------------------------------------------------------------------------------

    @property
    def cell(self) -> Cell:
        if self.build.cell is None:
            raise MissingPart("cell")
        return self.build.cell

    @property
    def has_cell(self) -> bool:
        return self.build.cell is not None

    def require_cell(self) -> None:
        """For a rule that makes no sense before a cell is chosen. Raises MissingPart."""
        _ = self.cell

    @cached_property
    def chargers(self) -> list[tuple[int, Board]]:
        return [(i, board) for i, board in enumerate(self.build.boards) if board.charger]

    @property
    def charger_board(self) -> Board:
        if not self.chargers:
            raise MissingPart("charger")
        return self.chargers[0][1]

    @property
    def charger(self) -> Charger:
        charger = self.charger_board.charger
        assert charger is not None
        return charger

    @property
    def charger_path(self) -> str:
        return f"{self.at}.boards.{self.chargers[0][0]}.charger"

    @cached_property
    def protections(self) -> list[Protection]:
        on_cell = [self.build.cell.protection] if self.build.cell and self.build.cell.protection else []
        return on_cell + [board.protection for board in self.build.boards if board.protection]

    @property
    def first_to_trip(self) -> Protection:
        """The protection that lets the least current by. Raises MissingPart."""
        if not self.protections:
            raise MissingPart("protection")
        return min(self.protections, key=lambda protection: protection.trip_least_a)

    @cached_property
    def regulators(self) -> list[Regulator]:
        found = [self.build.regulator, *(board.regulator for board in self.build.boards)]
        return [regulator for regulator in found if regulator is not None and regulator.kind != "none"]

    @property
    def regulator(self) -> Regulator:
        return self.regulators[0] if self.regulators else Regulator(name="none")

    # Where numbers come from -----------------------------------------------------------------------------------

    def basis_of(self, path: str) -> Basis:
        return self.project.basis_of(path)

    def assumed(self, *paths: str) -> bool:
        """Does any of these fields rest on something inferred or default?"""
        return any(self.basis_of(path) in SOFT for path in paths)

    @cached_property
    def window(self) -> EffectiveWindow:
        stated = self.gadget.window
        v_run_min = stated.v_run_min if stated else None
        v_abs_max = stated.v_abs_max if stated else None
        return EffectiveWindow(
            self.gadget.supply.empty_v if v_run_min is None else v_run_min,
            self.gadget.supply.fresh_v if v_abs_max is None else v_abs_max,
            "inferred" if v_run_min is None else self.basis_of("gadget.window.v_run_min"),
            "inferred" if v_abs_max is None else self.basis_of("gadget.window.v_abs_max"),
        )

    # Loads -----------------------------------------------------------------------------------------------------

    def load_of(self, mode: Mode, current_a: float | None = None) -> Load:
        """The mode as a load law; with `current_a`, the same law at another current (its peak, say)."""
        return load_from_reading(
            self.gadget.law_of(mode), mode.current_a if current_a is None else current_a, self.gadget.volts_of(mode)
        )

    @property
    def off_load(self) -> Load:
        """What the switched-off gadget draws through the regulator."""
        return Load(steady_a=self.gadget.off_current_a if self.gadget.off_path == "after_regulator" else 0.0)

    @property
    def heaviest(self) -> Mode:
        if not self.gadget.modes:
            raise MissingPart("mode")
        return max(self.gadget.modes, key=lambda mode: mode.current_a)

    @property
    def hours_on_per_day(self) -> float:
        return sum(mode.hours_per_day for mode in self.gadget.modes)

    # The cell as it is to be judged ----------------------------------------------------------------------------

    @property
    def _wear(self) -> tuple[float, float]:
        """Factors on capacity and resistance for the conditions the build is judged under."""
        build = self.build
        capacity = (AGED_CAPACITY if build.aged else 1.0) * (COLD_CAPACITY if build.cold else 1.0)
        resistance = (AGED_RESISTANCE if build.aged else 1.0) * (COLD_RESISTANCE if build.cold else 1.0)
        return capacity, resistance

    @property
    def capacity_ah(self) -> float:
        return self.cell.planning_capacity_ah * self.build.cell_count * self._wear[0]

    @property
    def full_v(self) -> float:
        """Where the charger leaves the cell, or its class's own full voltage while no charger is chosen."""
        if self.is_swap:
            own = self.gadget.supply.own_charger
            return (own.float_v if own else None) or self.gadget.supply.fresh_v
        return self.charger.float_v if self.chargers else self.cell.facts.full_v

    @cached_property
    def curve(self) -> OcvCurve:
        return FINE_CURVES[self.cell.cell_class]

    @cached_property
    def group(self) -> CellGroup:
        r_ohm = self.cell.resistance_ohm * self._wear[1] / self.build.cell_count
        return CellGroup(self.curve, self.capacity_ah, r_ohm)

    @property
    def path_ohm(self) -> float:
        return WIRES_OHM + sum(2 * protection.r_on_ohm for protection in self.protections)

    @property
    def all_ohm(self) -> float:
        return float(np.asarray(self.group.r_ohm)) + self.path_ohm

    @property
    def cuts(self) -> dict[str, float]:
        """Voltages at the cell's terminals that end a run, by who ends it."""
        protection = (
            {"protection": max(protection.cut_v for protection in self.protections)} if self.protections else {}
        )
        return {"cell": self.cell.stop_v, **protection}


def _fine(coarse: OcvCurve) -> OcvCurve:
    steps = np.linspace(0, len(coarse.soc) - 1, FINE * (len(coarse.soc) - 1) + 1)
    soc = np.interp(steps, np.arange(len(coarse.soc)), coarse.soc)
    return OcvCurve(soc, coarse.at(soc))


FINE_CURVES = {name: _fine(curve) for name, curve in CURVES.items()}
