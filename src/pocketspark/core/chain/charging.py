"""Charging: the charge run, the heat it makes, and the gadget used meanwhile."""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from pocketspark.core.chain.chain import Chain
from pocketspark.core.chain.charge_current import ChargeCurrent
from pocketspark.core.chain.chosen_cell import ChosenCell
from pocketspark.core.chain.running import SCHOTTKY, Running
from pocketspark.core.kinds.regulators import law_of_regulator
from pocketspark.core.models import Board, Build, Cell, Charger
from pocketspark.core.models.build import UseWhileCharging
from pocketspark.core.physics import heat
from pocketspark.core.physics.charge_and_discharge import ChargerSetting, ChargeRun, charge
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.core.physics.regulators import BehindDiode

# Over the air inside, a receiver pad that has to shed a watt (common practice, no source).
PAD_C_PER_W = 30.0
_PLUGGED_FROM_5V: frozenset[UseWhileCharging] = frozenset({"two_diodes", "load_sharing", "change_over"})


@dataclass(frozen=True)
class Charging:
    """One build on its charger."""

    running: Running
    board: Board

    @cached_property
    def current(self) -> ChargeCurrent:
        return ChargeCurrent(self.running, self.board)

    @property
    def charger(self) -> Charger:
        return self.current.charger

    @property
    def charger_path(self) -> str:
        """The charger's own path in the document."""
        return f"{self.chain.path}.boards.{self.board.id}.charger"

    @property
    def chain(self) -> Chain:
        return self.running.chain

    @property
    def chosen(self) -> ChosenCell:
        return self.running.chosen

    @property
    def cell(self) -> Cell:
        return self.running.cell

    @property
    def build(self) -> Build:
        return self.chain.build

    @property
    def load_while_charging(self) -> Load:
        """What hangs on the cell's terminals meanwhile: the heaviest mode, or what the switched-off gadget draws."""
        heaviest = self.chain.heaviest
        used = self.build.use_while_charging == "on_cell"
        return self.chain.load_of(heaviest) if used and heaviest else self.chain.off_load

    @property
    def receiver_heat_w(self) -> float:
        """What a wireless receiver burns at the set current; 0 with any other input."""
        if not self.build.input.facts.over_a_gap:
            return 0.0
        passed_w = self.build.source.volts * self.current.spread.nominal_a
        return float(heat.receiver_heat_w(passed_w, max(self.build.input.pad_efficiency, 0.05)))

    @cached_property
    def run(self) -> ChargeRun:
        return self.charge_from(0.0)

    def charge_from(self, soc: float) -> ChargeRun:
        """The charge run from this share of the charge to its end."""
        charger = self.charger
        setting = ChargerSetting(
            i_prog_a=self.current.spread.nominal_a,
            float_v=charger.float_v,
            termination_share=charger.termination_share,
            precharge_v=charger.precharge_v,
            precharge_share=charger.precharge_share,
            pass_ohm=charger.pass_ohm,
            burn_w=self.current.burn_limit_w,
            source_v=self.build.source.volts,
            cable_ohm=0.0 if self.build.input.facts.over_a_gap else self.build.source.r_cable_ohm,
        )
        return charge(self.chosen.group, setting, self.load_while_charging, from_soc=soc)

    def hours_until(self, share: float) -> float:
        """Hours until this share of the final charge is in the cell."""
        run = self.run
        soc, time_h = run.soc.ravel(), run.time_h.ravel()
        return float(np.interp(soc[0] + share * (soc[-1] - soc[0]), soc, time_h))

    @cached_property
    def warmth(self) -> heat.Warmth:
        """Air, chip and cell over the charge run. Each moment is taken as settled: cases settle in minutes."""
        run, around, pad_w = self.run, self.current.surroundings, self.receiver_heat_w
        at_board_v = self.build.source.volts - run.charger_a * self.build.source.r_cable_ohm
        chip_w = np.asarray(heat.charger_heat_w(at_board_v, run.cell_v, run.charger_a))
        cell_w = run.cell_a**2 * np.asarray(self.chosen.group.r_ohm)
        pad_now_w = pad_w * run.charger_a / max(self.current.spread.nominal_a, 1e-9)
        inside_c = around.room_c + around.rise_c_per_w * (chip_w + cell_w + pad_now_w)
        theta = self.charger.theta_ja_c_per_w
        pressed = heat.CONTACT_SHARE if self.build.input.pad_against_cell else 0.0
        return heat.Warmth(
            inside_c=inside_c,
            junction_c=None if theta is None else inside_c + theta * chip_w,
            cell_c=inside_c + pressed * PAD_C_PER_W * pad_now_w,
        )

    def plugged_gadget_v(self, lightest: bool = True) -> float | None:
        """Volts at the gadget while plugged in; None where it is switched off meanwhile or nothing is known."""
        how = self.build.use_while_charging
        if how == "off" or not self.chain.gadget.modes:
            return None
        choose = min if lightest else max
        load = self.chain.load_of(choose(self.chain.gadget.modes, key=lambda mode: mode.current_a))
        if how not in _PLUGGED_FROM_5V:
            point = self.running.regulator_law.operating_point(self.charger.float_v, self.chosen.path_ohm, load)
        else:
            inner = law_of_regulator(self.chain.regulator)
            through = inner if how == "change_over" else BehindDiode(SCHOTTKY, inner)
            point = through.operating_point(self.build.source.volts, self.build.source.r_cable_ohm, load)
        return or_zero(point.gadget_v)
