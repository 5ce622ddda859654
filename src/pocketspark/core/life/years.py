"""A build over the years, month by month: what its cell still holds, and how long a charge then serves.

How long a charge serves depends on capacity and resistance alone, and on capacity in proportion: so the runs are made
once for a row of resistances, and whole lives are read from that row.
"""

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from pocketspark.core.chain.chosen_cell import ChosenCell, cold_factors
from pocketspark.core.chain.running import Running
from pocketspark.core.chosen.service import service_share
from pocketspark.core.life.ageing_tests import Learnt, learnt_of, losses_of
from pocketspark.core.models import Cell
from pocketspark.core.models.build import PluggedIn
from pocketspark.core.physics.ageing import (
    GENTLE_C,
    HOURS_A_MONTH,
    MONTHS_A_YEAR,
    AgeingLaw,
    Stress,
    law_of,
    losses,
    resistance_growth,
)
from pocketspark.core.physics.charge_and_discharge import discharge
from pocketspark.core.physics.ocv import Floats, Numbers
from pocketspark.core.physics.self_discharge import self_discharge_a

# Further than this nobody has followed such cells: published tests ran for two to six years.
MOST_YEARS = 10
# The band: nine of ten cells lie within so many standard deviations of the logarithm of their loss.
BAND = 1.645
# Resistances at which runs are made, times that of the new cell in a warm room: aged and cold it has twenty times that.
_ROW = np.array([0.9, 1, 1.1, 1.25, 1.4, 1.6, 1.8, 2, 2.3, 2.7, 3.2, 4, 5, 6.5, 8.5, 12, 17, 25])
# A use of less than this share of an ampere-hour a day is none.
LEAST_A_DAY = 1e-12
# Between the last at which it runs and the first at which it does not, so many more.
CLOSER = 8
# Overnight it hangs on the charger for some hours after it is full; left plugged in it is full nearly all the time, and
# is used from the cell for one day of a week (common practice, no source).
OVERNIGHT_FULL_H, CARRIED_SHARE = 7.0, 1 / 7
# Where nobody says how long a charge is to last: half of what it does when new (our judgement).
WANTED_SHARE = 0.5


@dataclass(frozen=True)
class ByResistance:
    """Runs of one build at a row of resistances, for one ampere-hour of capacity; the last axis is that row.

    `per_ah`: days of its daily use, 0 where a mode does not run; `usable`: share of the capacity that comes out of the
    use that gets least out; `served`: share of its time in which the gadget does its job.
    """

    r_ohm: Floats
    per_ah: Floats
    usable: Floats
    served: Floats

    def days(self, r_ohm: Floats, capacity_ah: Floats, besides_ah: Numbers) -> Floats:
        """Days of service on a charge; 0 where a mode does not run. `besides_ah`: a day, beside the modes."""
        per_ah, usable, served = (self._at(r_ohm, row) for row in (self.per_ah, self.usable, self.served))
        with np.errstate(divide="ignore", invalid="ignore"):
            days = served * capacity_ah / (1 / per_ah + besides_ah / usable)
        return np.where((per_ah > 0) & (usable > 0), days, 0.0)

    def _at(self, r_ohm: Floats, row: Floats) -> Floats:
        """Between two runs along the logarithm of the resistance."""
        return np.interp(np.log(np.maximum(r_ohm, 1e-9)), np.log(self.r_ohm), row)


def by_resistance(running: Running) -> ByResistance:
    """Every mode that is used daily, run at each resistance of the row; closer where one of them no longer runs."""
    chosen = running.chosen
    new_ohm = _new_ohm(chosen)
    row = _runs_at(running, np.unique(np.append(_ROW, chosen.r_ohm / new_ohm)) * new_ohm)
    fails = np.flatnonzero(row.per_ah <= 0)
    if not len(fails) or fails[0] == 0:
        return row
    last, first = row.r_ohm[fails[0] - 1], row.r_ohm[fails[0]]
    return _joined(row, _runs_at(running, np.geomspace(last, first, CLOSER + 2)[1:-1]))


def _runs_at(running: Running, r_ohm: Floats) -> ByResistance:
    # The capacity is one ampere-hour: where a run takes t hours, a real cell runs its capacity times as long.
    chosen = running.chosen
    group = replace(chosen.group, capacity_ah=np.ones((len(r_ohm), 1)), r_ohm=r_ohm[:, None])
    a_day, usable, served = np.zeros(len(r_ohm)), np.ones(len(r_ohm)), np.ones(len(r_ohm))
    for mode in running.gadget.modes:
        if mode.current_a <= 0:
            continue
        run = discharge(
            group,
            chosen.path_ohm,
            chosen.regulator_law,
            running.chain.load_of(mode),
            v_run_min=running.chain.stops_at_v,
            cell_cuts=chosen.cuts,
            full_v=running.starts_v,
        )
        with np.errstate(divide="ignore"):
            rate = 1 / np.where(run.hours > 1e-9, run.hours, 0.0)
        rest_a = running.awake_a if mode.duty < 1 else 0.0
        rate = mode.duty * rate + (1 - mode.duty) * rest_a / np.maximum(run.charge_ah, 1e-12)
        usable = np.minimum(usable, np.where(run.hours > 1e-9, run.charge_ah, usable))
        if mode.hours_per_day > 0:
            a_day = a_day + mode.hours_per_day * rate
            served = np.minimum(served, service_share(running.gadget, mode, run))
    with np.errstate(divide="ignore"):
        return ByResistance(r_ohm, 1 / np.maximum(a_day, LEAST_A_DAY), usable, served)


def _joined(one: ByResistance, other: ByResistance) -> ByResistance:
    r_ohm = np.append(one.r_ohm, other.r_ohm)
    order = np.argsort(r_ohm)

    def both(first: Floats, second: Floats) -> Floats:
        return np.append(first, second)[order]

    return ByResistance(
        r_ohm[order],
        both(one.per_ah, other.per_ah),
        both(one.usable, other.usable),
        both(one.served, other.served),
    )


def _new_ohm(chosen: ChosenCell) -> float:
    """Of the whole group in a warm room."""
    warm = cold_factors(25.0, chosen.chain.build.model_copy(update={"cold": False, "aged": False}))
    return chosen.r_ohm / (chosen.wear[1] / warm[1])


@dataclass(frozen=True)
class Band:
    """A figure of each month, last axis: as expected, and within which nine of ten cells lie."""

    likely: Floats
    least: Floats
    most: Floats


@dataclass(frozen=True)
class Years:
    """A build from a January on, in which its cell is put to use."""

    running: Running
    years: int = MOST_YEARS

    @property
    def law(self) -> AgeingLaw:
        return law_of(self.running.cell.cell_class)

    @cached_property
    def learnt(self) -> Learnt:
        """What tests of this very cell say of its loss against that of its class."""
        return learnt_of(self.running.cell, self.law, self.stress, self.lost_before)

    # Month by month -----------------------------------------------------------------------------------------------

    @cached_property
    def month(self) -> "np.typing.NDArray[np.int64]":
        """Of the year, from 1."""
        return np.arange(self.years * MONTHS_A_YEAR) % MONTHS_A_YEAR + 1

    @cached_property
    def celsius(self) -> Floats:
        return np.array(self.running.gadget.shell.year_c, dtype=float)[self.month - 1]

    @cached_property
    def is_used(self) -> "np.typing.NDArray[np.bool_]":
        return np.isin(self.month, self.running.gadget.shell.used_in)

    @cached_property
    def runs(self) -> ByResistance:
        return by_resistance(self.running)

    @cached_property
    def stress(self) -> Stress:
        """How the cell lives. In months without use it lies as it was left: somewhere between full and empty."""
        running = self.running
        high = float(np.clip(running.chosen.curve.soc_at(running.starts_v), 0.0, 1.0))
        depth = min(running.usable_ah / running.chosen.capacity_ah, high)
        days = max(running.days or np.inf, 1e-3)
        habit = running.build.plugged_in
        cycles = np.where(self.is_used, HOURS_A_MONTH / 24 / days * depth, 0.0)
        full = np.where(self.is_used | (habit == "always"), _full_share(habit, days), 0.0)
        if habit == "always":
            cycles = cycles * CARRIED_SHARE
        return Stress(self.celsius, high, high - depth, full, cycles, _charge_rate(running))

    @cached_property
    def lost(self) -> Band:
        """Share of the capacity as new that is gone at the end of each month."""
        before = self.lost_before
        likely = losses_of(self.running.cell, self.law, self.stress, before)
        times, wide = self.learnt.times, BAND * self.learnt.spread
        least, most = (np.minimum(likely * times * np.exp(side * wide), 0.95) for side in (-1, 1))
        return Band(np.minimum(likely * times, 0.95), least, most)

    @cached_property
    def lost_before(self) -> float:
        """Before the first month: what a measurement says of a used cell, else what lying half full has cost it."""
        return lost_by_now(self.running.cell)

    @cached_property
    def left(self) -> Band:
        """Share of what the cell holds now that it holds at the end of each month."""
        now = 1 - self.lost_before
        return Band(
            *(np.clip((1 - lost) / now, 0.0, 1.0) for lost in (self.lost.likely, self.lost.most, self.lost.least))
        )

    @cached_property
    def days(self) -> Band:
        """Days of service on a charge, in the cold and warmth of each month."""
        return Band(*(self._days(lost) for lost in (self.lost.likely, self.lost.most, self.lost.least)))

    @cached_property
    def days_now(self) -> float:
        """The same of the first month's cell, where and as it is used on average: what the rest of the tool tells."""
        return self.running.served_days or 0.0

    def _days(self, lost: Floats) -> Floats:
        before, build, running = self.lost_before, self.running.build, self.running
        chosen, shell = running.chosen, running.gadget.shell
        by_month = [cold_factors(celsius, build) for celsius in shell.year_c]
        capacity, resistance = (np.array(column)[self.month - 1] for column in zip(*by_month, strict=True))
        warm_ah, warm_ohm = chosen.capacity_ah / chosen.wear[0], chosen.r_ohm / chosen.wear[1]
        worn = (chosen.wear[0], chosen.wear[1]) if build.aged else (1.0, 1.0)
        now = cold_factors(shell.used_at_c, build)
        aged = (worn[0] / now[0], worn[1] / now[1]) if build.aged else (1.0, 1.0)
        capacity_ah = warm_ah * aged[0] * capacity * np.clip((1 - lost) / (1 - before), 0.0, 1.0)
        r_ohm = warm_ohm * aged[1] * resistance * resistance_growth(lost) / resistance_growth(before)
        own_a = self_discharge_a(capacity_ah, self.celsius) - self_discharge_a(chosen.capacity_ah, shell.used_at_c)
        return self.runs.days(r_ohm, capacity_ah, running.besides_ah + 24 * own_a)

    # What comes of it ---------------------------------------------------------------------------------------------

    @property
    def wanted_days(self) -> float:
        """A charge is to last so long: as the maker says, else half of what it does now."""
        said = self.running.gadget.wanted_days
        return WANTED_SHARE * self.days_now if said is None else said

    def fails_at(self, days: Floats) -> int | None:
        """The first month of use in which a charge does not last as long as wanted, from 0; None within these years."""
        short = np.flatnonzero(self.is_used & (days < self.wanted_days * (1 - 1e-9)))
        return int(short[0]) if len(short) else None

    @cached_property
    def shortest_month(self) -> int:
        """Of the first year's months of use, the one in which a charge is shortest."""
        days = np.where(self.is_used, self.days.likely, np.inf)[:MONTHS_A_YEAR]
        return int(np.argmin(days))

    @cached_property
    def serves_years(self) -> float:
        """Years until then, as expected; `years` where it outlasts them."""
        if self.days_now <= 0:
            return 0.0
        month = self.fails_at(self.days.likely)
        return float(self.years) if month is None else month / MONTHS_A_YEAR


def lost_by_now(cell: Cell) -> float:
    """Share of the capacity as new that is gone when it is put to use."""
    age_years = cell.age_years or 0.0
    if cell.measured_capacity_ah is not None and cell.origin == "salvaged":
        return float(np.clip(1 - cell.measured_capacity_ah / cell.capacity_ah, 0.0, 0.9))
    if age_years <= 0 or cell.measured_capacity_ah is not None:
        return 0.0
    months = max(round(age_years * MONTHS_A_YEAR), 1)
    lying = Stress(np.full(months, 22.0), 0.5, 0.5, 1.0, np.zeros(months))
    return float(losses(law_of(cell.cell_class), lying)[-1])


def _full_share(habit: PluggedIn, days: float) -> float:
    if habit == "always":
        return 1 - CARRIED_SHARE
    return min(OVERNIGHT_FULL_H / 24 / days, 0.9) if habit == "overnight" else 0.0


def _charge_rate(running: Running) -> float:
    """How fast it is charged, of its capacity an hour; gentle where nobody knows."""
    if running.charging is None:
        return GENTLE_C
    return float(running.charging.current.spread.nominal_a / running.chosen.capacity_ah)
