"""The charge current of one build: every ceiling on it, the charge-current resistor in force, and what that gives."""

import math
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from pocketspark.core.chain.chosen_cell import ChosenCell
from pocketspark.core.chain.states import InState
from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.message import Message, say, verbatim
from pocketspark.core.models import Board, Build, Cell, Charger
from pocketspark.core.models.build import Policy
from pocketspark.core.physics import heat, resistors
from pocketspark.core.units.figures import bare

# What the policies come to, as a share of the capacity an hour (common practice, no source).
GENTLE_C, LABEL_C = 0.5, 1.0


@dataclass(frozen=True)
class Limit:
    """One ceiling on the charge current."""

    name: Literal["policy", "cell", "board", "source", "heat", "cable"]
    label: Message
    current_a: float


@dataclass(frozen=True)
class ChargeCurrent:
    """How much may flow into the cell of one build, and how much does."""

    chosen: ChosenCell
    board: Board

    @cached_property
    def charger(self) -> Charger:
        assert self.board.charger is not None  # only a board with a charger is ever put here
        return self.board.charger

    @cached_property
    def readings(self) -> list[tuple[float, float]]:
        """The board's own measured table; asked for each resistor of the picture."""
        return self.charger.readings

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
    def source_load_a(self) -> float:
        """What the gadget itself takes from the 5 V source while the cell charges, in its heaviest mode."""
        return InState(self.chosen).source_load_a(self.chain.heaviest)

    @cached_property
    def limits(self) -> list[Limit]:
        """Every ceiling on the charge current, lowest first."""
        found = [self._policy_limit, Limit("board", say("board"), self.charger.rated_a)]
        if (most_a := self.chosen.charge_max_a) is not None:
            found.append(Limit("cell", say("cell maximum"), most_a))
        found.append(Limit("source", self.source_label, max(self.source_limit_a - self.source_load_a, 0.0)))
        if self.charger.theta_ja_c_per_w is not None:
            # Judged where the charge spends most of its time: at the middle of the curve.
            headroom = self.build.source.volts - float(self.chosen.curve.at(0.5))
            found.append(Limit("heat", say("heat inside"), self.burn_limit_w / max(headroom, 0.1)))
        if self.cable_limit_a is not None:
            found.append(Limit("cable", say("cable"), self.cable_limit_a))
        return sorted(found, key=lambda limit: limit.current_a)

    @property
    def source_limit_a(self) -> float:
        """What reaches the board at most: a wireless link loses its share on the way."""
        share = self.build.input.pad_efficiency if self.build.input.facts.over_a_gap else 1.0
        return self.build.source.limit_a * share

    @property
    def source_label(self) -> Message:
        label = verbatim(self.build.source.label)
        return say("{label} over the pad", label=label) if self.build.input.facts.over_a_gap else label

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
        return heat.surroundings_of(self.chain.gadget.shell)

    @property
    def burn_limit_w(self) -> float:
        return heat.burn_limit_w(self.charger, self.surroundings)

    @property
    def policy(self) -> Policy:
        """The policy in force: a used cell is charged gently, and so is one whose data sheet nobody has."""
        wanted = self.build.policy
        unknown = wanted == "data_sheet" and self.chosen.charge_max_a is None
        used = any(cell.origin == "salvaged" for cell in self.build.cells)
        return "gentle" if used or unknown else wanted

    @property
    def _policy_limit(self) -> Limit:
        capacity_ah = self.chosen.capacity_ah
        if self.policy == "gentle":
            return Limit("policy", say("gentle, {rate}C", rate=bare(GENTLE_C)), GENTLE_C * capacity_ah)
        if self.policy == "label":
            return Limit("policy", say("label, {rate}C", rate=bare(LABEL_C)), LABEL_C * capacity_ah)
        return Limit("policy", say("data sheet"), self.chosen.charge_max_a or 0.0)

    @property
    def policy_a(self) -> float:
        return self._policy_limit.current_a

    @cached_property
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
        return resistors.ohms_for(charger.k_volts, self.readings, nominal_a) / (1 - self.build.r_tolerance)

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
            return resistors.current_at(charger.k_volts, self.readings, ohm)

        return resistors.CurrentSpread(
            current_at(r_ohm),
            current_at(r_ohm * (1 + off)) * (1 - charger.k_tolerance),
            current_at(r_ohm * (1 - off)) * (1 + charger.k_tolerance),
        )

    @cached_property
    def spread(self) -> resistors.CurrentSpread:
        return self.spread_at(self.r_prog_ohm)

    @property
    def termination_a(self) -> float:
        return self.spread.nominal_a * self.charger.termination_share


class GivenCurrent(ChargeCurrent):
    """Of a charger that is there: nothing about it is chosen, and what its chip does with heat is not known."""

    @property
    def r_prog_ohm(self) -> float:
        return self.charger.r_prog_ohm or 1000.0

    @property
    def burn_limit_w(self) -> float:
        return math.inf

    @property
    def cable_limit_a(self) -> float | None:
        return None

    @cached_property
    def source_load_a(self) -> float:
        return InState(self.chosen).source_load_a(self.chain.heaviest) if self._in_the_gadget else 0.0

    @cached_property
    def spread(self) -> resistors.CurrentSpread:
        gives_a, off = self.charger.rated_a, self.charger.k_tolerance
        return resistors.CurrentSpread(gives_a, gives_a * (1 - off), gives_a * (1 + off))

    @cached_property
    def surroundings(self) -> heat.Surroundings:
        shell = self.chain.gadget.shell
        return heat.surroundings_of(shell if self._in_the_gadget else shell.model_copy(update={"closed": False}))

    @property
    def _in_the_gadget(self) -> bool:
        return self.build.who_charges != "external"
