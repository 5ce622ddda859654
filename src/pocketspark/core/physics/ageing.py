"""How a lithium cell loses capacity and gains resistance over the years: by lying there, and by being used.

Two losses add up. By the calendar: the layer on the graphite grows with the square root of time or a little faster,
sooner when it is warm (Arrhenius) and when the cell is full. By use: every full cycle's worth of charge costs a
little, deep swings more than shallow ones, quick ones more than gentle ones.

The form is that of published fits of ageing tests; the figures were fitted to the median of those of small cells, by
way of 240 random lives (tests/reference/data/published_lives.json, which tools/ageing_reference.py makes). Round cells
were tested; pouches of hobby shops are seldom better, so the band is told with every figure.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from pocketspark.core.physics.ocv import Floats, Numbers

ROOM_K, GAS_J_PER_MOL_K = 298.15, 8.314
HOURS_A_MONTH = 24 * 365 / 12
MONTHS_A_YEAR = 12
# Charged in so many hours' capacity an hour, cycles cost what the fits say; quicker ones cost more (from memory: the
# cycle life of data sheets at 1C against 0.5C); past 2C no cell of these is charged without a stop.
GENTLE_C, QUICKEST_C, RATE_POWER = 0.3, 2.0, 0.75
# Of each share of capacity that is lost, so much resistance comes on top: the fits that tell it have 0.7 to 2.3.
RESISTANCE_PER_LOSS = 2.0
# No cell is worth a sentence once this little is left.
LEAST_SHARE = 0.05


@dataclass(frozen=True)
class AgeingLaw:
    """One class of cell. `calendar`: share lost in the first year at 25 C and half full; `cycle`: in the first hundred
    full cycles. `spread`: the standard deviation of the logarithm of the loss from cell to cell.
    """

    calendar: float
    calendar_power: float
    activation_j: float
    fullness: float
    cycle: float
    cycle_power: float
    depth_power: float
    spread: float


AGEING: Mapping[str, AgeingLaw] = {
    "lithium": AgeingLaw(0.046, 0.58, 20_300, 0.62, 0.021, 0.50, 0.25, 0.55),
    # Of one cell alone: the spread is that of the others.
    "lfp": AgeingLaw(0.0395, 0.43, 27_000, 0.76, 0.0012, 0.80, 0.25, 0.55),
}


def law_of(cell_class: str) -> AgeingLaw:
    """That of its class; a class nobody has fitted ages like other lithium cells on cobalt and nickel."""
    return AGEING.get(cell_class, AGEING["lithium"])


@dataclass(frozen=True)
class Stress:
    """How a cell lives, month by month along the last axis; a batch of lives before it.

    `celsius`: where it is. `high` and `low`: between which states of charge it swings, 0 to 1. `full_share`: of the
    time, spent at `high`. `cycles`: full cycles' worth of charge in a month. `rate_c`: how fast it is charged.
    """

    celsius: Numbers
    high: Numbers
    low: Numbers
    full_share: Numbers
    cycles: Numbers
    rate_c: Numbers = GENTLE_C


def calendar_rate(law: AgeingLaw, stress: Stress) -> Floats:
    """Share lost in a first year that is lived like this."""
    kelvin = np.asarray(stress.celsius, dtype=float) + 273.15
    warmth = np.exp(-law.activation_j / GAS_J_PER_MOL_K * (1 / kelvin - 1 / ROOM_K))
    return np.asarray(law.calendar * warmth * _fullness(law, stress))


def _fullness(law: AgeingLaw, stress: Stress) -> Floats:
    """Mean over the time of what the state of charge does: at `high` for a while, then falling evenly to `low`."""
    high, low, full = (np.asarray(each, dtype=float) for each in (stress.high, stress.low, stress.full_share))
    slope, depth = law.fullness, np.maximum(high - low, 1e-9)
    at_high = np.exp(slope * (high - 0.5))
    falling = at_high * -np.expm1(-slope * depth) / (slope * depth)
    return np.asarray(full * at_high + (1 - full) * falling)


def losses(law: AgeingLaw, stress: Stress, lost: Numbers = 0.0) -> Floats:
    """Share of the capacity as new that is lost at the end of each month; `lost`: when the first month begins.

    Months of unlike stress follow one another as if the loss so far had been lived under the present one: with a loss
    of k t^p each month adds k^(1/p) to (loss)^(1/p).
    """
    calendar = calendar_rate(law, stress) ** (1 / law.calendar_power) / MONTHS_A_YEAR
    depth = np.maximum(np.asarray(stress.high, dtype=float) - stress.low, 1e-3)
    quick = (np.clip(np.asarray(stress.rate_c, dtype=float), GENTLE_C, QUICKEST_C) / GENTLE_C) ** RATE_POWER
    a_cycle = (law.cycle * depth**law.depth_power * quick) ** (1 / law.cycle_power) / 100
    before = np.asarray(lost, dtype=float)[..., None] ** (1 / law.calendar_power)
    by_calendar = (before + np.cumsum(calendar, axis=-1)) ** law.calendar_power
    by_use = np.cumsum(a_cycle * np.asarray(stress.cycles, dtype=float), axis=-1) ** law.cycle_power
    return np.minimum(by_calendar + by_use, 1 - LEAST_SHARE)


def resistance_growth(lost: Numbers) -> Floats:
    """Times the resistance that the new cell had."""
    return np.asarray(1 + RESISTANCE_PER_LOSS * np.asarray(lost, dtype=float))
