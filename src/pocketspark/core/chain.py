"""The chain of one build: source -> charger -> cell -> guard -> shaper -> gadget, resolved and computed once.

Everything here is looked up or calculated when first asked for, then kept. Rules and the assessment read it.
"""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from pocketspark.core.nouns import Board, Build, Cell, Charger, Gadget, Guard, Mode, Project, Shaper
from pocketspark.core.nouns.project import SOFT, Basis
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.load import NO_LOAD, Load, load_from_reading
from pocketspark.core.physics.ocv import CURVES, OcvCurve
from pocketspark.core.physics.running import CellGroup, ChargerSetting, ChargeRun, RunDown, charge, run_down
from pocketspark.core.physics.shaping import Shaping, shaping_of

# Thin hook-up wire and joints between cell and shaper (common practice, no source).
WIRES_OHM = 0.05
# 2 to 3 % a month (from memory).
SELF_DISCHARGE_PER_HOUR = 0.025 / (30.4 * 24)
# Knots a segment is cut into, so that the drawn tail is round.
FINE = 4


class MissingPart(LookupError):
    """A part is not chosen yet; whoever asked has nothing to say until it is."""


@dataclass(frozen=True)
class EffectiveWindow:
    """The window in force, and where its two ends come from."""

    v_run_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


@dataclass(frozen=True)
class Limit:
    """One ceiling on the charge current."""

    name: Literal["policy", "cell", "board", "source", "heat"]
    label: str
    current_a: float


@dataclass(frozen=True)
class ModeRun:
    """One mode, run from full to its end."""

    mode: Mode
    load: Load
    run: RunDown

    @property
    def hours(self) -> float:
        return float(self.run.hours.flat[0])

    @property
    def charge_ah(self) -> float:
        return float(self.run.charge_ah.flat[0])

    @property
    def stranded(self) -> float:
        """Share of the charge left in the cell when the run ends."""
        return float(self.run.soc[..., -1].flat[0])


@dataclass(frozen=True)
class Chain:
    """One build of a project, with all that follows from it."""

    project: Project
    build_index: int

    # What there is ---------------------------------------------------------------------------------------------

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
    def guards(self) -> list[Guard]:
        on_cell = [self.build.cell.guard] if self.build.cell and self.build.cell.guard else []
        return on_cell + [board.guard for board in self.build.boards if board.guard]

    @cached_property
    def shapers(self) -> list[Shaper]:
        found = [self.build.shaper, *(board.shaper for board in self.build.boards)]
        return [shaper for shaper in found if shaper is not None and shaper.kind != "none"]

    @property
    def shaper(self) -> Shaper:
        return self.shapers[0] if self.shapers else Shaper(name="none")

    @cached_property
    def shaping(self) -> Shaping:
        return shaping_of(self.shaper)

    def basis_of(self, path: str) -> Basis:
        return self.project.basis_of(path)

    def assumed(self, *paths: str) -> bool:
        """Does any of these fields rest on something inferred or default?"""
        return any(self.basis_of(path) in SOFT for path in paths)

    # Window and loads ------------------------------------------------------------------------------------------

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

    def load_of(self, mode: Mode, current_a: float | None = None) -> Load:
        """The mode as a load law; with `current_a`, the same law at another current (its peak, say)."""
        return load_from_reading(
            self.gadget.law_of(mode), mode.current_a if current_a is None else current_a, self.gadget.volts_of(mode)
        )

    @property
    def off_load(self) -> Load:
        return Load(steady_a=self.gadget.off_current_a)

    @property
    def heaviest(self) -> Mode:
        if not self.gadget.modes:
            raise MissingPart("mode")
        return max(self.gadget.modes, key=lambda mode: mode.current_a)

    @property
    def hours_on_per_day(self) -> float:
        return sum(mode.hours_per_day for mode in self.gadget.modes)

    # Cell and its way to the gadget ----------------------------------------------------------------------------

    @property
    def capacity_ah(self) -> float:
        return self.cell.planning_capacity_ah * self.build.cell_count

    @property
    def full_v(self) -> float:
        """Where the charger leaves the cell, or its class's own full voltage while no charger is chosen."""
        return self.charger.float_v if self.chargers else self.cell.facts.full_v

    @cached_property
    def curve(self) -> OcvCurve:
        coarse = CURVES[self.cell.cell_class]
        steps = np.linspace(0, len(coarse.soc) - 1, FINE * (len(coarse.soc) - 1) + 1)
        soc = np.interp(steps, np.arange(len(coarse.soc)), coarse.soc)
        return OcvCurve(soc, coarse.at(soc))

    @cached_property
    def group(self) -> CellGroup:
        return CellGroup(self.curve, self.capacity_ah, self.cell.resistance_ohm / self.build.cell_count)

    @property
    def path_ohm(self) -> float:
        return WIRES_OHM + sum(2 * guard.r_on_ohm for guard in self.guards)

    @property
    def cuts(self) -> dict[str, float]:
        """Voltages at the cell's terminals that end a run, by who ends it."""
        guard = {"guard": max(guard.cut_v for guard in self.guards)} if self.guards else {}
        return {"cell": self.cell.stop_v, **guard}

    # Running ---------------------------------------------------------------------------------------------------

    def run_of(self, load: Load) -> RunDown:
        return run_down(
            self.group,
            self.path_ohm,
            self.shaping,
            load,
            v_run_min=self.window.v_run_min,
            cell_cuts=self.cuts,
            full_v=min(self.full_v, float(self.curve.volts[-1])),
        )

    @cached_property
    def runs(self) -> list[ModeRun]:
        drawing = [mode for mode in self.gadget.modes if mode.current_a > 0]
        return [ModeRun(mode, load, self.run_of(load)) for mode in drawing for load in [self.load_of(mode)]]

    @property
    def all_ohm(self) -> float:
        return float(np.asarray(self.group.r_ohm)) + self.path_ohm

    def gadget_v_at(self, emf: float, load: Load) -> float:
        """Volts at the gadget under a load; 0 where the cell cannot carry it."""
        return float(np.nan_to_num(self.shaping.settle(emf, self.all_ohm, load).gadget_v))

    @cached_property
    def gadget_v_max(self) -> float:
        """Full cell, lightest load that is ever drawn."""
        lightest = [self.off_load] if self.gadget.off_current_a else [self.load_of(m) for m in self.gadget.modes]
        return max(self.gadget_v_at(self.full_v, load) for load in lightest or [NO_LOAD])

    @cached_property
    def gadget_v_min(self) -> float:
        """End of the run, heaviest mode."""
        lows = [float(run.run.gadget_v[..., -1].flat[0]) for run in self.runs]
        return min(lows, default=0.0)

    @cached_property
    def peak_cell_a(self) -> float:
        """What the highest peak takes from the cell at its worst, nearly empty at 3.0 V (2.5 V for LFP)."""
        empty_v = self.cell.facts.empty_v
        peaks = [self.load_of(mode, mode.most_a) for mode in self.gadget.modes]
        drawn = [float(self.shaping.settle(empty_v, self.all_ohm, peak).cell_a) for peak in peaks]
        plain = [mode.most_a for mode in self.gadget.modes]
        return max((a if np.isfinite(a) else b for a, b in zip(drawn, plain, strict=True)), default=0.0)

    @cached_property
    def standby_a(self) -> float:
        """Drawn from the cell while the gadget is off: gadget, shaper, guards, charger, and the cell itself."""
        at_half = float(self.curve.at(0.5))
        through = float(np.nan_to_num(self.shaping.settle(at_half, self.all_ohm, self.off_load).cell_a))
        boards = sum(guard.drain_a for guard in self.guards) + (self.charger.back_leak_a if self.chargers else 0.0)
        return through + boards + self.capacity_ah * SELF_DISCHARGE_PER_HOUR

    @cached_property
    def usable_ah(self) -> float:
        """Charge that the heaviest use gets out; all of it where nothing is known to run."""
        return min((run.charge_ah for run in self.runs if run.hours > 0), default=self.capacity_ah)

    @property
    def standby_days(self) -> float:
        return self.usable_ah / self.standby_a / 24

    @property
    def days(self) -> float | None:
        """Days on a charge at the surveyed use, or None where it never runs or no use is given."""
        if not self.runs or any(run.hours <= 0 for run in self.runs) or self.hours_on_per_day == 0:
            return None
        daily = sum(run.mode.hours_per_day / run.hours for run in self.runs)
        return 1 / (daily + (24 - self.hours_on_per_day) / 24 / self.standby_days)

    def original_hours(self, mode: Mode) -> float:
        """Hours of this mode on the old batteries: light-drain capacity over the current at their working volts."""
        supply = self.gadget.supply
        return supply.capacity_ah / float(self.load_of(mode).current(supply.working_v))

    # Charging --------------------------------------------------------------------------------------------------

    @property
    def load_while_charging(self) -> Load:
        """What hangs on the cell's terminals meanwhile: the heaviest mode, or what the switched-off gadget draws."""
        used = self.build.use_while_charging == "on_cell" and self.gadget.modes
        return self.load_of(self.heaviest) if used else self.off_load

    @property
    def source_load_a(self) -> float:
        """What the gadget itself takes from the 5 V source while the cell charges."""
        if self.build.use_while_charging in ("off", "change_over") or not self.gadget.modes:
            return 0.0
        return self.heaviest.current_a

    @cached_property
    def limits(self) -> list[Limit]:
        """Every ceiling on the charge current, lowest first."""
        found = [self._policy_limit, Limit("board", "board", self.charger.rated_a)]
        if self.cell.charge_max_a is not None:
            found.append(Limit("cell", "cell maximum", self.cell.charge_max_a * self.build.cell_count))
        found.append(Limit("source", self.build.source.label, max(self.build.source.limit_a - self.source_load_a, 0.0)))
        if self.charger.theta_c_per_w is not None:
            # Judged where the charge spends most of its time: at the middle of the curve.
            headroom = self.build.source.volts - float(self.curve.at(0.5))
            found.append(Limit("heat", "heat inside", heat.burn_limit_w(self.charger) / max(headroom, 0.1)))
        return sorted(found, key=lambda limit: limit.current_a)

    @property
    def _policy_limit(self) -> Limit:
        gentle = 0.5 * self.capacity_ah
        if self.build.policy == "gentle" or self.cell.origin == "salvaged":
            return Limit("policy", "gentle, 0.5C", gentle)
        if self.build.policy == "label":
            return Limit("policy", "label, 1C", self.capacity_ah)
        stated = self.cell.charge_max_a
        if stated is None:
            return Limit("policy", "gentle, 0.5C (no data sheet)", gentle)
        return Limit("policy", "data sheet", stated * self.build.cell_count)

    @property
    def policy_a(self) -> float:
        return self._policy_limit.current_a

    @property
    def target_a(self) -> float:
        return max(self.limits[0].current_a, 0.001)

    @cached_property
    def suggested_r_ohm(self) -> float:
        """The preferred value whose highest possible current stays under every limit."""
        least = resistors.least_ohms(
            self.charger.k_volts, self.charger.k_tolerance, self.target_a, self.build.r_tolerance
        )
        return resistors.preferred_at_or_above(min(least, 1e6 / 1.1))

    @property
    def r_program_ohm(self) -> float:
        """The resistor in force: measured, else chosen, else as delivered, else the one suggested."""
        build = self.build
        return build.r_measured_ohm or build.r_program_ohm or self.charger.r_program_ohm or self.suggested_r_ohm

    @property
    def r_marked_ohm(self) -> float:
        """What is marked on the resistor in force, whatever was read from it."""
        build = self.build
        return build.r_program_ohm or self.charger.r_program_ohm or build.r_measured_ohm or self.suggested_r_ohm

    @property
    def r_origin(self) -> Literal["measured", "chosen", "as delivered", "suggested"]:
        if self.build.r_measured_ohm:
            return "measured"
        if self.build.r_program_ohm:
            return "chosen"
        return "as delivered" if self.charger.r_program_ohm else "suggested"

    def spread_at(self, r_ohm: float) -> resistors.CurrentSpread:
        return resistors.current_spread(self.charger.k_volts, self.charger.k_tolerance, r_ohm, self.build.r_tolerance)

    @cached_property
    def spread(self) -> resistors.CurrentSpread:
        return self.spread_at(self.r_program_ohm)

    @property
    def end_current_a(self) -> float:
        return self.spread.nominal_a * self.charger.end_share

    @cached_property
    def charge_run(self) -> ChargeRun:
        charger, source = self.charger, self.build.source
        setting = ChargerSetting(
            program_a=self.spread.nominal_a,
            float_v=charger.float_v,
            end_share=charger.end_share,
            trickle_v=charger.trickle_v,
            trickle_share=charger.trickle_share,
            pass_ohm=charger.pass_ohm,
            burn_w=heat.burn_limit_w(charger),
            source_v=source.volts,
            cable_ohm=source.r_cable_ohm,
        )
        return charge(self.group, setting, self.load_while_charging)
