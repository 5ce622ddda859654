"""Running: from the full cell through protection and regulator to the gadget, mode by mode, and in the inventory."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from pocketspark.core.chain.charging import Charging
from pocketspark.core.chain.chosen_cell import ChosenCell
from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.chosen.old_batteries import old_mode_hours
from pocketspark.core.chosen.service import light_share, service_share
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.models import Build, Cell, Gadget, Mode, Regulator
from pocketspark.core.physics import stress
from pocketspark.core.physics.charge_and_discharge import Discharge, discharge
from pocketspark.core.physics.load import NO_LOAD, Load, or_zero, together
from pocketspark.core.physics.ocv import Floats, Numbers
from pocketspark.core.physics.self_discharge import self_discharge_a
from pocketspark.core.physics.whistle import bursts_hz

# Of the run time, for each capacity an hour that flows: the slowest of the published cells named in charging.py fell
# short by so much, the quickest by a quarter of it (PyBaMM, 0.1C to 2C).
SLOW_PER_C = 0.05
# Gadgets made for alkalines usually warn about here, V a cell (common practice, no source).
GAUGE_WARNS_V = 1.20


@dataclass(frozen=True)
class ModeRun:
    """One mode, run from full to its end. `rest_a` flows from the cell between the pulses of a duty cycle."""

    mode: Mode
    load: Load
    run: Discharge
    rest_a: float
    service_share: float = 1.0  # of its hours, those in which the gadget does its job

    @property
    def hours(self) -> float:
        """Hours in this mode: pulses at its own current, the rest of the time at `rest_a`."""
        steady_h, duty = float(self.run.hours.flat[0]), self.mode.duty
        if duty == 1 or steady_h <= 0:
            return steady_h
        return 1 / (duty / steady_h + (1 - duty) * self.rest_a / self.charge_ah)

    @property
    def service_hours(self) -> float:
        """Hours in which the gadget does its job: those of too little light, speed, heat or sound are none."""
        return self.hours * self.service_share

    @property
    def charge_ah(self) -> float:
        return float(self.run.charge_ah.flat[0])

    @property
    def unused(self) -> float:
        """Share of the charge left in the cell when the run ends."""
        return float(self.run.soc[..., -1].flat[0])

    @property
    def stopped_by(self) -> str:
        return self.run.stopped_by


def loudness(gadget: Gadget, gadget_v: Numbers) -> Floats | None:
    """How loud it gets at these volts, dB against its design; None where it has no sound, or volts of its own."""
    keeps_its_volts = gadget.front_end in ("regulator", "converter")
    return None if gadget.sound != "speaker" or keeps_its_volts else stress.loudness_db(gadget_v, gadget.design_v)


def bursts_of(regulator: Regulator, load: Load) -> float | None:
    """Bursts a second of the converter behind which this load hangs; None where there is none, or its volts move."""
    if not kind_of(regulator).switches or not regulator.v_set:
        return None
    return float(bursts_hz(load.current(regulator.v_set), regulator.v_set))


@dataclass(frozen=True)
class Running:
    """One build in use: each mode from full to its end, and the months switched off."""

    chosen: ChosenCell
    charging: Charging | None = None  # where what charges it is known: how full the cell is then

    @property
    def chain(self) -> ChosenParts:
        return self.chosen.chain

    @property
    def cell(self) -> Cell:
        return self.chosen.cell

    @property
    def gadget(self) -> Gadget:
        return self.chain.gadget

    @property
    def build(self) -> Build:
        return self.chain.build

    def run_of(self, load: Load) -> Discharge:
        return discharge(
            self.chosen.group,
            self.chosen.path_ohm,
            self.chosen.regulator_law,
            load,
            v_run_min=self.chain.stops_at_v,
            cell_cuts=self.chosen.cuts,
            full_v=self.starts_v,
        )

    @cached_property
    def starts_v(self) -> float:
        """At rest, where the charge really ended: at its end current a cell of some resistance is not full."""
        full_v, charging = min(self.chosen.full_v, float(self.chosen.curve.volts[-1])), self.charging
        if charging is None:
            return full_v
        load_a = float(charging.load_while_charging.current(charging.charger.float_v))
        into_a = max(charging.current.termination_a - load_a, 0.0)
        return min(full_v, charging.charger.float_v - (charging.chosen.r_ohm + charging.path_ohm) * into_a)

    @cached_property
    def runs(self) -> list[ModeRun]:
        drawing = [mode for mode in self.gadget.modes if mode.current_a > 0]
        loads = [self.chain.load_of(mode) for mode in drawing]
        runs = self.run_of(together(loads)).rows() if loads else ()
        return [
            ModeRun(mode, load, run, self.awake_a, float(service_share(self.gadget, mode, run).flat[0]))
            for mode, load, run in zip(drawing, loads, runs, strict=True)
        ]

    def hours_least(self, run: ModeRun) -> float:
        """The fewest hours that published cells come to where the resistance tells `run.hours`."""
        if run.hours <= 0:
            return 0.0
        rate_c = run.charge_ah / run.hours / self.chosen.capacity_ah
        return run.hours * max(1 - SLOW_PER_C * rate_c, 0.5)

    @property
    def heaviest_run(self) -> ModeRun | None:
        """The run of the mode that draws most."""
        return max(self.runs, key=lambda run: run.mode.current_a, default=None)

    @property
    def heaviest_in_use(self) -> ModeRun | None:
        """Of the modes that are used daily, or of all where no hours are told, the one that draws most.

        None where none of them comes to an end that could be waited for."""
        lasting = [run for run in self.runs if 0 < run.hours < np.inf]
        used = [run for run in lasting if run.mode.hours_per_day > 0]
        return max(used or lasting, key=lambda run: run.mode.current_a, default=None)

    @property
    def most_used(self) -> ModeRun | None:
        """The mode with the most hours a day among those that run at all."""
        lasting = [run for run in self.runs if run.hours > 0]
        return max(lasting, key=lambda run: run.mode.hours_per_day, default=None)

    @cached_property
    def awake_a(self) -> float:
        """From the cell with the gadget on and drawing only its off current: what flows between pulses."""
        return self._cell_a_at_half(self.chain.off_load) + self._before_regulator_a

    # Volts at the gadget ---------------------------------------------------------------------------------------

    def gadget_v_at(self, ocv_v: float, load: Load) -> float:
        """Volts at the gadget under a load; 0 where the cell cannot carry it."""
        return or_zero(self.gadget_volts(ocv_v, load))

    def gadget_volts(self, ocv_v: Numbers, load: Load) -> Floats:
        """The same of many open-circuit voltages at once; NaN where the cell cannot carry it."""
        return self.chosen.regulator_law.operating_point(ocv_v, self.chosen.all_ohm_at(ocv_v), load).gadget_v

    def light_at(self, gadget_v: float) -> float | None:
        """Share of the light it was made for: LEDs by their current, a filament by its volts. None: it is no lamp."""
        share = light_share(self.gadget, gadget_v)
        return None if share is None else float(share)

    @property
    def light_half(self) -> float | None:
        """The same in the heaviest mode, half way through the charge."""
        if not self.runs:
            return None
        brightest = max(self.runs, key=lambda run: run.mode.current_a)
        return self.light_at(self.gadget_v_at(float(self.chosen.curve.at(0.5)), brightest.load))

    @cached_property
    def gadget_v_max(self) -> float:
        """Full cell, lightest load that is ever drawn."""
        asleep = self.chain.off_load.steady_a and self.build.switch_place == "gadget"
        lightest = [self.chain.off_load] if asleep else [self.chain.load_of(mode) for mode in self.gadget.modes]
        return max(self.gadget_v_at(self.chosen.full_v, load) for load in lightest or [NO_LOAD])

    @cached_property
    def gadget_v_min(self) -> float:
        """End of the run, heaviest mode."""
        lows = [float(run.run.gadget_v[..., -1].flat[0]) for run in self.runs]
        return min(lows, default=0.0)

    def left_when_gadget_at(self, volts: float) -> float:
        """Share of the charge left when the heaviest mode's volts have fallen to this; 1 where they start below."""
        if volts not in self._left_at:
            self._left_at[volts] = self._left_when_gadget_at(volts)
        return self._left_at[volts]

    @cached_property
    def _left_at(self) -> dict[float, float]:
        return {}

    def _left_when_gadget_at(self, volts: float) -> float:
        if self.chain.heaviest is None:
            return 1.0
        load = self.chain.load_of(self.chain.heaviest)
        law, path_ohm = self.chosen.regulator_law, self.chosen.path_ohm
        ocv_v = float(self.chosen.group.settled(lambda r_ohm: law.ocv_for(volts, r_ohm + path_ohm, load)))
        if not np.isfinite(ocv_v):
            return 1.0
        return float(np.clip(self.chosen.curve.soc_at(ocv_v), 0, 1))

    @property
    def gauge_warn_v(self) -> float | None:
        """Where the gadget's own gauge warns: as known, else as gadgets for such batteries usually do."""
        if self.gadget.gauge is None:
            return None
        supply = self.gadget.supply
        usual = supply.cells_in_series * GAUGE_WARNS_V if supply.facts.fresh_v < 2 else supply.working_v * 0.9
        return self.gadget.gauge.warn_v or usual

    @property
    def gauge_stop_v(self) -> float | None:
        if self.gadget.gauge is None:
            return None
        return self.gadget.gauge.stop_v or self.chain.window.v_run_min

    # Switched off ---------------------------------------------------------------------------------------------

    def _cell_a_at_half(self, load: Load) -> float:
        at_half = float(self.chosen.curve.at(0.5))
        return or_zero(self.chosen.regulator_law.operating_point(at_half, self.chosen.all_ohm, load).cell_a)

    @property
    def _before_regulator_a(self) -> float:
        return self.gadget.off_current_a if self.gadget.off_path == "before_regulator" else 0.0

    @cached_property
    def off_drains(self) -> dict[str, float]:
        """What leaves the cell while the gadget is off, by who takes it, A."""
        place = self.build.switch_place
        if place == "gadget":
            gadget_a = float(self.chain.off_load.steady_a)
            through = {"gadget": gadget_a, "regulator": max(self._cell_a_at_half(self.chain.off_load) - gadget_a, 0.0)}
        else:
            through = {"gadget": 0.0, "regulator": self.chain.regulator.iq_off_a if place == "enable" else 0.0}
        through["gadget"] += self._before_regulator_a
        return {
            **through,
            "protections": sum(protection.drain_a for protection in self.chain.protections),
            "charger": self._charger_leak_a,
            "the cell itself": float(self_discharge_a(self.chosen.capacity_ah, self.gadget.shell.used_at_c)),
        }

    @property
    def _charger_leak_a(self) -> float:
        board = self.chain.charging_board
        return board.charger.back_leak_a if board and board.charger else 0.0

    @cached_property
    def standby_a(self) -> float:
        """Drawn from the cell while the gadget is off."""
        return sum(self.off_drains.values())

    @cached_property
    def always_a(self) -> float:
        """Of that, what is lost all day long, whether the gadget is on or off."""
        drains = self.off_drains
        return sum(drains[name] for name in ("protections", "charger", "the cell itself")) + self._before_regulator_a

    @cached_property
    def usable_ah(self) -> float:
        """Charge that the heaviest use gets out; all of it where nothing is known to run."""
        return min((run.charge_ah for run in self.runs if run.hours > 0), default=self.chosen.capacity_ah)

    @property
    def standby_days(self) -> float:
        return self.usable_ah / self.standby_a / 24

    @cached_property
    def days(self) -> float | None:
        """Days on a charge at the surveyed use, or None where it never runs or no use is given."""
        if not self.runs or any(run.hours <= 0 for run in self.runs) or self.gadget.hours_on_per_day == 0:
            return None
        daily = sum(run.mode.hours_per_day / run.hours for run in self.runs)
        return 1 / (daily + self.besides_ah / self.usable_ah)

    @property
    def besides_ah(self) -> float:
        """What leaves the cell in a day beside the modes themselves: while it is off, by itself, and at its starts."""
        off_h = max(24 - self.gadget.hours_on_per_day, 0)
        besides_ah = 24 * self.always_a + off_h * (self.standby_a - self.always_a)
        return besides_ah + sum(self._starts_ah(mode) for mode in self.gadget.modes)

    @property
    def served_days(self) -> float | None:
        """Of those, the days in which the gadget does its job: the use that does it worst counts."""
        used = [run.service_share for run in self.runs if run.mode.hours_per_day > 0]
        return None if self.days is None else self.days * min(used, default=0.0)

    def _starts_ah(self, mode: Mode) -> float:
        """What leaves the cell in a day for the starts of this mode, over its own current."""
        if not mode.start_s_per_day:
            return 0.0
        peak_a, running_a = (
            self._cell_a_at_half(self.chain.load_of(mode, each)) for each in (mode.most_a, mode.current_a)
        )
        return mode.start_s_per_day / 3600 * max(peak_a - running_a, 0.0)

    def original_hours(self, mode: Mode) -> float:
        """Hours of this mode on a fresh set of the old batteries, by their own drain curve."""
        if mode not in self._original_hours:
            self._original_hours[mode] = old_mode_hours(self.chain, mode)
        return self._original_hours[mode]

    @cached_property
    def _original_hours(self) -> dict[Mode, float]:
        return {}
