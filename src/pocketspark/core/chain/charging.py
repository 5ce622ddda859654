"""Charging: every ceiling on the current, the resistor in force, the charge run and the heat it makes."""

from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from pocketspark.core.chain.running import SCHOTTKY, ChainRunning
from pocketspark.core.models.build import UseWhileCharging
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.charge_and_discharge import ChargerSetting, ChargeRun, charge
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.core.physics.regulators import BehindDiode, law_of_regulator

# Over the air inside, a receiver pad that has to shed a watt (common practice, no source).
PAD_C_PER_W = 30.0
_PLUGGED_FROM_5V: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing", "change_over"})


@dataclass(frozen=True)
class Limit:
    """One ceiling on the charge current."""

    name: Literal["policy", "cell", "board", "source", "heat", "cable"]
    label: str
    current_a: float


@dataclass(frozen=True)
class Chain(ChainRunning):
    """One build of a project, with all that follows from it."""

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
        found.append(Limit("source", self.source_label, max(self.source_limit_a - self.source_load_a, 0.0)))
        if self.charger.theta_ja_c_per_w is not None:
            # Judged where the charge spends most of its time: at the middle of the curve.
            headroom = self.build.source.volts - float(self.curve.at(0.5))
            found.append(Limit("heat", "heat inside", self.burn_limit_w / max(headroom, 0.1)))
        if self.cable_limit_a is not None:
            found.append(Limit("cable", "cable", self.cable_limit_a))
        return sorted(found, key=lambda limit: limit.current_a)

    @property
    def source_limit_a(self) -> float:
        """What reaches the board at most: a wireless link loses its share on the way."""
        share = self.build.input.pad_efficiency if self.build.input.kind == "wireless" else 1.0
        return self.build.source.limit_a * share

    @property
    def source_label(self) -> str:
        label = self.build.source.label
        return f"{label} over the pad" if self.build.input.kind == "wireless" else label

    @property
    def cable_limit_a(self) -> float | None:
        """Above this the cable leaves the charger too little to hold its float voltage: (V - V_float) / R."""
        source = self.build.source
        series_ohm = source.r_cable_ohm + self.charger.pass_ohm
        if series_ohm <= 0 or source.volts <= self.charger.float_v:
            return None
        return (source.volts - self.charger.float_v) / series_ohm - self.source_load_a

    @cached_property
    def surroundings(self) -> heat.Surroundings:
        return heat.surroundings_of(self.gadget.shell)

    @property
    def receiver_heat_w(self) -> float:
        """What a wireless receiver burns at the set current; 0 with any other input."""
        if self.build.input.kind != "wireless":
            return 0.0
        passed_w = self.build.source.volts * self.spread.nominal_a
        return float(heat.receiver_heat_w(passed_w, max(self.build.input.pad_efficiency, 0.05)))

    @property
    def burn_limit_w(self) -> float:
        return heat.burn_limit_w(self.charger, self.surroundings)

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
        return resistors.preferred_at_or_above(min(self.least_ohm, 1e6 / 1.1))

    @property
    def least_ohm(self) -> float:
        """The smallest marked value whose highest possible current stays within the target."""
        charger = self.charger
        nominal_a = self.target_a / (1 + charger.k_tolerance)
        return resistors.ohms_for(charger.k_volts, charger.readings, nominal_a) / (1 - self.build.r_tolerance)

    @property
    def r_prog_ohm(self) -> float:
        """The resistor in force: measured, else chosen, else as delivered, else the one suggested."""
        build = self.build
        return build.record.r_measured_ohm or build.r_prog_ohm or self.charger.r_prog_ohm or self.suggested_r_ohm

    @property
    def r_marked_ohm(self) -> float:
        """What is marked on the resistor in force, whatever was read from it."""
        build = self.build
        return build.r_prog_ohm or self.charger.r_prog_ohm or build.record.r_measured_ohm or self.suggested_r_ohm

    @property
    def r_origin(self) -> Literal["measured", "chosen", "as delivered", "suggested"]:
        if self.build.record.r_measured_ohm:
            return "measured"
        if self.build.r_prog_ohm:
            return "chosen"
        return "as delivered" if self.charger.r_prog_ohm else "suggested"

    def spread_at(self, r_ohm: float) -> resistors.CurrentSpread:
        charger, off = self.charger, self.build.r_tolerance

        def current_at(ohm: float) -> float:
            return resistors.current_at(charger.k_volts, charger.readings, ohm)

        return resistors.CurrentSpread(
            current_at(r_ohm),
            current_at(r_ohm * (1 + off)) * (1 - charger.k_tolerance),
            current_at(r_ohm * (1 - off)) * (1 + charger.k_tolerance),
        )

    @cached_property
    def spread(self) -> resistors.CurrentSpread:
        return self.spread_at(self.r_prog_ohm)

    @property
    def end_current_a(self) -> float:
        return self.spread.nominal_a * self.charger.termination_share

    @cached_property
    def charge_run(self) -> ChargeRun:
        return self.charge_from(0.0)

    def charge_from(self, soc: float) -> ChargeRun:
        """The charge run from this share of the charge to its end."""
        charger = self.charger
        setting = ChargerSetting(
            i_prog_a=self.spread.nominal_a,
            float_v=charger.float_v,
            termination_share=charger.termination_share,
            precharge_v=charger.precharge_v,
            precharge_share=charger.precharge_share,
            pass_ohm=charger.pass_ohm,
            burn_w=self.burn_limit_w,
            source_v=self.build.source.volts,
            cable_ohm=0.0 if self.build.input.kind == "wireless" else self.build.source.r_cable_ohm,
        )
        return charge(self.group, setting, self.load_while_charging, from_soc=soc)

    @cached_property
    def swap_charge_run(self) -> ChargeRun | None:
        """The charge by the gadget's own charger, in a cell swap whose charge current is known."""
        own = self.gadget.supply.own_charger
        if not self.is_swap or own is None or not own.current_a:
            return None
        return charge(self.group, ChargerSetting(i_prog_a=own.current_a, float_v=self.full_v))

    def hours_until(self, share: float) -> float:
        """Hours until this share of the final charge is in the cell."""
        run = self.charge_run
        soc, time_h = run.soc.ravel(), run.time_h.ravel()
        return float(np.interp(soc[0] + share * (soc[-1] - soc[0]), soc, time_h))

    # Heat ------------------------------------------------------------------------------------------------------

    @cached_property
    def warmth(self) -> heat.Warmth:
        """Air, chip and cell over the charge run. Each moment is taken as settled: cases settle in minutes."""
        run, around, pad_w = self.charge_run, self.surroundings, self.receiver_heat_w
        at_board_v = self.build.source.volts - run.charger_a * self.build.source.r_cable_ohm
        chip_w = np.asarray(heat.charger_heat_w(at_board_v, run.cell_v, run.charger_a))
        cell_w = run.cell_a**2 * np.asarray(self.group.r_ohm)
        pad_now_w = pad_w * run.charger_a / max(self.spread.nominal_a, 1e-9)
        inside_c = around.room_c + around.rise_c_per_w * (chip_w + cell_w + pad_now_w)
        theta = self.charger.theta_ja_c_per_w
        pressed = heat.CONTACT_SHARE if self.build.input.pad_against_cell else 0.0
        return heat.Warmth(
            inside_c=inside_c,
            junction_c=None if theta is None else inside_c + theta * chip_w,
            cell_c=inside_c + pressed * PAD_C_PER_W * pad_now_w,
        )

    # Used while it charges -------------------------------------------------------------------------------------

    def plugged_gadget_v(self, lightest: bool = True) -> float | None:
        """Volts at the gadget while plugged in; None where it is switched off meanwhile or nothing is known."""
        how = self.build.use_while_charging
        if how == "off" or not self.gadget.modes:
            return None
        choose = min if lightest else max
        load = self.load_of(choose(self.gadget.modes, key=lambda mode: mode.current_a))
        if how not in _PLUGGED_FROM_5V:
            point = self.regulator_law.operating_point(self.charger.float_v, self.path_ohm, load)
        else:
            inner = law_of_regulator(self.regulator)
            through = inner if how == "change_over" else BehindDiode(SCHOTTKY, inner)
            point = through.operating_point(self.build.source.volts, self.build.source.r_cable_ohm, load)
        return or_zero(point.gadget_v)
