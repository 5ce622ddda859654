"""The old adapter in its old jack: what it brings to the battery terminals, and what of it reaches the cell.

Such a charger has no voltage limit for lithium: some open volts behind a resistance, held down so far by the NiMH it
charged. Where the new cell is out of its reach, behind a diode or a converter, nothing holds its volts down any more,
and they all stand at the gadget.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from pocketspark.core.chain.states import InState, State
from pocketspark.core.chosen.given_charger import own_charger_ends_v
from pocketspark.core.kinds.regulators import SCHOTTKY, LetsBack, back_through
from pocketspark.core.models import Gadget, Mode, Regulator
from pocketspark.core.physics.load import NO_LOAD, Load
from pocketspark.core.physics.ocv import Floats, Numbers
from pocketspark.core.physics.regulator_laws import OperatingPoint, ThroughRegulator, junction_v

# Of the volts of the set it charges, what an unregulated adapter has with nothing on it, and the charge current that
# its resistance leaves (common practice, no source). Measured at the jack, both are better.
USUAL_OPEN = 1.6
USUAL_A = 0.2
LEAST_OHM = 0.05
# The diode that every transistor of a linear regulator or a buck has across it (common practice, no source).
BODY = Regulator(kind="diode", name="body diode", is_a=1e-12, n=1.0, rs_ohm=0.0)


@dataclass(frozen=True)
class OldCharger:
    """Volts behind a resistance, and never more than `most_a`: with that, a lithium charger's constant current too."""

    open_v: float
    r_ohm: float
    most_a: float

    def current(self, volts: Numbers) -> Floats:
        """Amperes into terminals that stand at these volts; its rectifier lets nothing back."""
        return np.clip((self.open_v - np.asarray(volts)) / self.r_ohm, 0.0, self.most_a)


def old_charger(gadget: Gadget) -> OldCharger | None:
    """What charges the gadget's terminals today: as measured, else as such chargers usually are; None: nothing does."""
    existing = gadget.existing_charging
    if existing.kind == "none":
        return None
    current_a = existing.current_a or USUAL_A
    if existing.kind == "lithium_charger":
        return OldCharger(own_charger_ends_v(gadget), LEAST_OHM, current_a)
    into_v = gadget.supply.working_v
    open_v = existing.adapter_v or USUAL_OPEN * into_v
    return OldCharger(open_v, max((open_v - into_v) / current_a, LEAST_OHM), np.inf)


def in_the_old_jack(states: InState, ocv_v: float, mode: Mode | None) -> State:
    """The old adapter plugged in, the cell at this open-circuit voltage, the gadget off or in this mode."""
    old, treatment = old_charger(states.chosen.chain.gadget), states.chosen.chain.gadget.existing_charging.treatment
    alone = states.switched_off(ocv_v) if mode is None else states.runs(ocv_v, mode)
    alone = replace(alone, name="adapter in the old jack")
    if treatment == "moved" and old is not None and states.setting is not None:
        return replace(states.charges(ocv_v, mode, old.open_v), name=alone.name)
    if old is None or treatment in ("cut", "moved") or float(old.current(alone.gadget_v or 0.0)) == 0:
        return alone
    load = states.chosen.chain.off_load if mode is None else states.chosen.chain.load_of(mode)
    return _Terminals(states, alone, old, load, states.on_the_cell(mode), ocv_v).state()


@dataclass(frozen=True)
class _Terminals:
    """The gadget's battery terminals, between the old charger, the gadget and the cell. `alone`: without the first."""

    states: InState
    alone: State
    old: OldCharger
    load: Load
    on_cell: ThroughRegulator
    ocv_v: float

    def state(self) -> State:
        alone_v = self.alone.gadget_v or 0.0
        if self._lets_back == "freely":
            return self._pushed_back((alone_v - float(self._terminal_v(0.0))) / self._back_ohm, math.inf)
        lifted_v = _highest_zero(self._left_a, alone_v, self.old.open_v)
        helped = self._helped(lifted_v or self.old.open_v) if self.on_cell.load else None
        if helped is not None or lifted_v is None:
            return helped or self._with(None, self._idle_a)
        return self._with(lifted_v, self._idle_a) if self._lets_back == "not" else self._pushed_back(0.0, lifted_v)

    # What stands between the terminals and the cell --------------------------------------------------------------

    @property
    def _lets_back(self) -> LetsBack:
        lets = back_through(self.states.chosen.regulators_in_the_way)
        return "not" if self._is_blocked and (lets == "freely" or not self._regulator_a) else lets

    @property
    def _is_blocked(self) -> bool:
        """By a diode before the regulator, or by a switch there that is off."""
        chosen = self.states.chosen
        cut_off = self.on_cell.load is None and chosen.chain.build.switch_place == "before_regulator"
        return cut_off or chosen.run_path_diodes > 0

    @cached_property
    def _cell_ohm(self) -> float:
        return float(self.states.chosen.r_ohm_at(self.ocv_v))

    @property
    def _back_ohm(self) -> float:
        regulators = self.states.chosen.regulators_in_the_way
        return self._cell_ohm + self.states.chosen.path_ohm + sum(one.series_ohm or 0.0 for one in regulators)

    @cached_property
    def _idle_a(self) -> float:
        """What leaves the cell with nothing drawn behind the regulator."""
        return float(replace(self.on_cell, load=self.on_cell.load and NO_LOAD).current(self.ocv_v))

    @property
    def _regulator_a(self) -> float:
        return self._idle_a - self.on_cell.before_a

    def _terminal_v(self, back_a: Numbers) -> Floats:
        """Volts at the terminals that drive this current back; negative, what the cell gives.

        What a regulator itself takes comes from there as well, through its body diode, once they stand high enough.
        """
        chosen, from_cell_a = self.states.chosen, np.asarray(self._regulator_a - back_a)
        at_cell_v = self.ocv_v - self._cell_ohm * (self.on_cell.before_a + from_cell_a)
        path_v = (self._back_ohm - self._cell_ohm) * from_cell_a
        diodes_v = chosen.run_path_diodes * junction_v(SCHOTTKY, np.maximum(from_cell_a, 0.0))
        body_v = junction_v(BODY, back_a) if self._lets_back == "by_its_diode" else 0.0
        return np.asarray(at_cell_v - path_v - diodes_v + body_v)

    # Where it all comes to rest ----------------------------------------------------------------------------------

    def _left_a(self, volts: Numbers) -> Floats:
        """What the old charger gives at these volts and the gadget does not take."""
        return np.asarray(self.old.current(volts) - self.load.current(volts))

    def _pushed_back(self, least_a: float, most_v: float) -> State:
        """`most_v`: where the terminals stand with nothing flowing back."""
        most_a = float(self.old.current(self._terminal_v(max(least_a, 0.0)))) or -least_a
        if self._is_blocked:
            most_a = min(most_a, self._regulator_a)
        back_a = _highest_zero(lambda amps: self._left_a(self._terminal_v(amps)) - amps, least_a, most_a)
        if back_a is None:
            return self._with(None if most_v == math.inf else most_v, self._idle_a)
        if self._is_blocked and back_a > 0.999 * self._regulator_a:
            lifted_v = _highest_zero(lambda volts: self._left_a(volts) - self._regulator_a, 0.0, self.old.open_v)
            return self._with(lifted_v, self.on_cell.before_a)
        return self._with(min(float(self._terminal_v(back_a)), most_v), self._idle_a - back_a)

    def _helped(self, up_to_v: float) -> State | None:
        """It brings a part of what the gadget takes, the cell the rest; None where it brings all of it."""
        # Where the cell alone cannot carry it, it settles no lower than half of that.
        least_v = self.alone.gadget_v or up_to_v / 2
        most_a = float(max(self.load.current(least_v), self.load.current(up_to_v)))
        if self._left_a(self._given(0.0).gadget_v) > 0:
            return None
        # From nothing upwards: of two places of rest the one with the least current is meant.
        less_a = _highest_zero(lambda less: self._left_a(self._given(-less).gadget_v) - less, -most_a, 0.0)
        if less_a is None:
            return None
        settled = self._given(-less_a)
        return self._with(float(settled.gadget_v), float(settled.cell_a) + self.on_cell.before_a)

    def _given(self, cell_side_a: Numbers) -> OperatingPoint:
        """Where the cell stands with the gadget's terminals at this current from its side."""
        r_ohm, before_a = self._cell_ohm, self.on_cell.before_a
        given = Load(steady_a=cell_side_a)
        return self.on_cell.law.operating_point(self.ocv_v - r_ohm * before_a, r_ohm + self.on_cell.r_ohm, given)

    def _with(self, gadget_v: float | None, cell_a: float) -> State:
        """None: what constant power the gadget asks for, adapter and cell together cannot carry."""
        gadget_a = float(self.load.current(gadget_v)) if gadget_v else 0.0
        source_a = float(self.old.current(gadget_v)) if gadget_v else 0.0
        cell_v = self.ocv_v - self._cell_ohm * cell_a
        return replace(
            self.alone, gadget_v=gadget_v, gadget_a=gadget_a, source_a=source_a, cell_a=cell_a, cell_v=cell_v
        )


def _highest_zero(falls: Callable[[Numbers], Floats], low: float, high: float) -> float | None:
    """The highest place between `low` and `high` where this turns from plus to minus; None where it is never plus.

    Not by halves from the ends: a constant power has a second, lower place of rest, which is never meant.
    """
    for _ in range(4):
        places = np.linspace(high, low, 200)
        above = np.flatnonzero(falls(places) >= 0)
        if not above.size:
            return None
        low, high = float(places[above[0]]), float(places[max(above[0] - 1, 0)])
    return (low + high) / 2
