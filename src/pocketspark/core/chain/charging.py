"""Charging: the charge run, the heat it makes, and the gadget used meanwhile."""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from pocketspark.core.chain.charge_current import ChargeCurrent, GivenCurrent
from pocketspark.core.chain.chosen_cell import ChosenCell
from pocketspark.core.chain.states import InState
from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.models import Board, Build, Cell, Charger, Mode
from pocketspark.core.physics import heat
from pocketspark.core.physics.charge_and_discharge import ChargerSetting, ChargeRun, charge
from pocketspark.core.physics.load import Draws
from pocketspark.core.physics.ocv import Numbers
from pocketspark.core.physics.regulator_laws import ThroughRegulator

# Ions spread through the electrodes slower than a resistance tells, so the last of the charge takes longer. Six
# published cells of the 4.2 V class in PyBaMM's single particle model (Chen2020, Marquis2019, Ai2020, Ecker2015,
# Mohtat2020, OKane2022) took -0.02 to 0.28 h more than a resistance as used here, 0.11 h in the mean, at 0.25C, 0.5C
# and 1C alike.
TAIL_H, TAIL_LEAST_H, TAIL_MOST_H = 0.11, 0.0, 0.28
# Over the air inside, a receiver pad that has to shed a watt (common practice, no source).
PAD_C_PER_W = 30.0


@dataclass(frozen=True)
class Charging:
    """One build on what charges it: `BoardCharging` on a board of ours, `GivenCharging` on a charger there is."""

    chosen: ChosenCell
    board: Board

    @cached_property
    def current(self) -> ChargeCurrent:
        return ChargeCurrent(self.chosen, self.board)

    @property
    def in_the_gadget(self) -> bool:
        """Cell and charger warm the gadget's inside, and the gadget may be used meanwhile."""
        return self.build.who_charges != "external"

    @property
    def charger(self) -> Charger:
        return self.current.charger

    @property
    def charger_path(self) -> str:
        """The charger's own path in the document."""
        return f"{self.chain.path}.boards.{self.board.id}.charger"

    @property
    def chain(self) -> ChosenParts:
        return self.chosen.chain

    @property
    def cell(self) -> Cell:
        return self.chosen.cell

    @property
    def build(self) -> Build:
        return self.chain.build

    @cached_property
    def states(self) -> InState:
        """The build to be asked for volts and amperes at its nodes."""
        return InState(self.chosen, self.setting)

    @cached_property
    def load_while_charging(self) -> Draws:
        """What hangs on the charger's output meanwhile: the heaviest mode, or what the switched-off gadget draws."""
        return InState(self.chosen).on_the_charger(self.chain.heaviest)

    @property
    def receiver_heat_w(self) -> float:
        """What a wireless receiver burns at the set current; 0 with any other input."""
        if not self.build.input.facts.over_a_gap or not self.in_the_gadget:
            return 0.0
        passed_w = self.build.source.volts * self.current.spread.nominal_a
        return float(heat.receiver_heat_w(passed_w, max(self.build.input.pad_efficiency, 0.05)))

    @cached_property
    def run(self) -> ChargeRun:
        return self.charge_from(0.0)

    def charge_from(self, soc: float, tail_h: Numbers = TAIL_H, at_a: Numbers | None = None) -> ChargeRun:
        """The charge run from this share of the charge to its end, with what the gadget takes beside it.

        `at_a`: at another current than the nominal one. Several of them, and of tails, are one batch.
        """
        setting = self.setting.fed_by(
            self.build.source.volts - float(self.setting.cable_ohm) * self.current.source_load_a
        )
        if at_a is not None:
            setting = replace(setting, i_prog_a=at_a)
        load, path_ohm = self.load_while_charging, self.path_ohm
        return charge(self.chosen.group, setting, load, path_ohm=path_ohm, from_soc=soc, tail_h=tail_h)

    @property
    def path_ohm(self) -> float:
        """Leads and protections between the charger's output and the cell's terminals."""
        return self.chosen.path_ohm

    @cached_property
    def hours_band(self) -> tuple[float, float]:
        """Hours from empty to full, the least and the most that the bench should show; inf where it never ends.

        The current at both ends of its tolerance, and the tail of the published cells at both ends.
        """
        spread = self.current.spread
        tails_h, at_a = np.array([[TAIL_LEAST_H], [TAIL_MOST_H]]), np.array([[spread.most_a], [spread.least_a]])
        soonest, latest = self.charge_from(0.0, tails_h, at_a).hours
        return float(soonest), float(latest)

    @cached_property
    def setting(self) -> ChargerSetting:
        """The charger as it is set."""
        charger = self.charger
        return ChargerSetting(
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
        chip_w = np.asarray(heat.charger_heat_w(at_board_v, run.charger_v, run.charger_a))
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
        """Volts at the gadget while plugged in; None where it is switched off meanwhile or nothing is known.

        Lightest: the charge has ended, and least is drawn, asleep or in a mode. Else the heaviest mode, at the
        beginning.
        """
        modes: list[Mode | None] = [*self.chain.gadget.modes]
        if self.build.use_while_charging == "off" or not modes or not self.in_the_gadget:
            return None
        if not lightest:
            return self.states.charges(float(self.chosen.curve.at(0.05)), self.chain.heaviest).gadget_v or 0.0
        # Where nothing flows asleep its own switch is open, and nothing gets behind it.
        asleep = [None] if self.chain.off_load.steady_a else []
        return max(self.states.charges(self.charger.float_v, mode).gadget_v or 0.0 for mode in [*modes, *asleep])


@dataclass(frozen=True)
class BoardCharging(Charging):
    """On a charger board of ours, whose resistor is to be chosen."""


@dataclass(frozen=True)
class GivenCharging(Charging):
    """On the gadget's own lithium charger, or outside on another: its current is what it is."""

    @cached_property
    def current(self) -> ChargeCurrent:
        return GivenCurrent(self.chosen, self.board)

    @cached_property
    def load_while_charging(self) -> Draws:
        if self.in_the_gadget:
            return InState(self.chosen).on_the_charger(self.chain.heaviest)
        return ThroughRegulator(self.chosen.regulator_law, 0.0, None, 0.0)
