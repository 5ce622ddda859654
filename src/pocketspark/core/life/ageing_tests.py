"""What tests of one cell over its years teach: whether it ages faster or slower than its class, and how surely."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.models import Cell
from pocketspark.core.models.cell import CellTest
from pocketspark.core.physics.ageing import LEAST_SHARE, MONTHS_A_YEAR, RESISTANCE_PER_LOSS, AgeingLaw, Stress, losses
from pocketspark.core.physics.ocv import Floats

# A capacity test repeats to some 2 % of the capacity, resistance to a fifth of that of the new cell; and how much
# resistance comes with a loss differs from cell to cell (common practice, no source).
CAPACITY_SD, RESISTANCE_SD = 0.02, 0.4
# A test so early says nothing of ageing.
EARLIEST_YEARS = 0.1


@dataclass(frozen=True)
class Learnt:
    """`times`: its loss against that of its class, at half of the probability; `spread`: what is left of the doubt,
    as a standard deviation of the logarithm; `tests`: those that count."""

    times: float
    spread: float
    tests: tuple[CellTest, ...]


def losses_of(cell: Cell, law: AgeingLaw, stress: Stress, lost_before: float) -> Floats:
    """Share of the capacity as new that is lost at the end of each month.

    A used cell whose history nobody knows is taken to begin anew: old ones can fall faster than any law has it.
    """
    if cell.origin == "salvaged":
        return np.asarray(np.minimum(lost_before + losses(law, stress), 1 - LEAST_SHARE))
    return losses(law, stress, lost_before)


def learnt_of(cell: Cell, law: AgeingLaw, stress: Stress, lost_before: float) -> Learnt:
    """Bayes on one number, the logarithm of `times`: normal before any test, with the spread from cell to cell.

    `lost_before`: share of the capacity as new that was gone when the cell was put to use.
    """
    tests = tuple(test for test in cell.tests if test.after_years >= EARLIEST_YEARS and _says_something(test, cell))
    if not tests:
        return Learnt(1.0, law.spread, ())
    by_month = np.append(lost_before, losses_of(cell, law, stress, lost_before))
    x = np.linspace(-4, 4, 401) * law.spread
    log_p = -0.5 * (x / law.spread) ** 2
    for test in tests:
        expected = np.interp(test.after_years * MONTHS_A_YEAR, np.arange(len(by_month)), by_month)
        log_p += _log_p(test, cell, lost_before, np.exp(x) * expected)
    p = np.exp(log_p - log_p.max())
    p /= p.sum()
    mean = float(p @ x)
    return Learnt(float(np.exp(mean)), float(np.sqrt(p @ (x - mean) ** 2)), tests)


def _says_something(test: CellTest, cell: Cell) -> bool:
    return test.capacity_ah is not None or (test.r_ohm is not None and cell.r_ohm is not None)


def _log_p(test: CellTest, cell: Cell, before: float, lost: Floats) -> Floats:
    """Logarithm of how probable this test is, if so much was lost by then."""
    log_p = np.zeros_like(lost)
    if test.capacity_ah is not None:
        measured = 1 - test.capacity_ah / cell.planning_capacity_ah * (1 - before)
        log_p -= 0.5 * ((measured - lost) / CAPACITY_SD) ** 2
    if test.r_ohm is not None and cell.r_ohm:
        log_p -= 0.5 * ((test.r_ohm / cell.r_ohm - 1 - RESISTANCE_PER_LOSS * (lost - before)) / RESISTANCE_SD) ** 2
    return log_p
