"""Every law fitted to the readings, the best first, each with how far its figures may be off.

Weighted least squares (any textbook of statistics): chi^2 = sum ((read - law) / sigma)^2. Laws are ranked by Akaike's
criterion with a known spread, chi^2 + 2 k for k parameters; one that is `CLEAR` worse than another is out of the race.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from pocketspark.core.load_laws.forms import FORMS, LEAST_A, FormKey, Parameters
from pocketspark.core.physics.ocv import Floats

if TYPE_CHECKING:
    from scipy.optimize import OptimizeResult

# Readings of one meter in one evening scatter by so much of what is read, and by so much of the most that was; what is
# wrong with all of them alike bends no curve (common practice, no source).
SCATTER, SCATTER_OF_MOST = 0.015, 0.003
# By so much a law has to be better than the next to be told from it: some 20 to 1 (common practice).
CLEAR = 6.0
# A law that misses the readings by more, in spreads, is none that we know.
MISSES = 4.0
# Give or take so many spreads: 95 of 100.
COVERS = 2.0
GRID = 60


@dataclass(frozen=True)
class FittedLaw:
    """`off`: give or take of each parameter. `missed`: of its worst reading, in spreads. `criterion`: Akaike's."""

    key: FormKey
    parameters: tuple[float, ...]
    off: tuple[float, ...]
    missed: float
    criterion: float

    def current(self, volts: Floats) -> Floats:
        return FORMS[self.key].current(np.array(self.parameters), np.asarray(volts, dtype=float))

    @property
    def holds(self) -> bool:
        return self.missed <= MISSES


def spread_a(amps: Floats) -> Floats:
    """One standard deviation of each reading."""
    return np.asarray(np.hypot(SCATTER * amps, SCATTER_OF_MOST * max(float(np.max(amps)), LEAST_A)))


def fitted(volts: Sequence[float], amps: Sequence[float]) -> list[FittedLaw]:
    """Best first. A law of k figures needs k + 1 readings at different volts; none with fewer than two."""
    read_v, read_a = np.asarray(volts, dtype=float), np.asarray(amps, dtype=float)
    differing = len(np.unique(np.round(read_v, 2)))
    if differing < 2 or not np.any(read_a > 0):
        return []
    found = (_fit(key, read_v, read_a) for key, form in FORMS.items() if differing > form.parameters)
    return sorted(found, key=lambda one: one.criterion)


def race(laws: Sequence[FittedLaw], low_v: float, high_v: float) -> list[FittedLaw]:
    """Those that the readings do not rule out, the simplest first; none where not even the best holds.

    Between these volts a law with more figures may come to the same as a simpler one: then it is no rival.
    """
    if not laws or not laws[0].holds:
        return []
    left = [one for one in laws if one.holds and one.criterion - laws[0].criterion < CLEAR]
    simplest = min(left, key=lambda one: (FORMS[one.key].parameters, one.criterion))
    rivals = [one for one in left if one is not simplest]
    return [simplest, *(one for one in rivals if apart(simplest, one, low_v, high_v).spreads > COVERS)]


@dataclass(frozen=True)
class TellsApart:
    """Read at these volts, the one law shows this current and the other that: so many spreads of a reading apart."""

    volts: float
    first_a: float
    second_a: float
    spreads: float


def apart(first: FittedLaw, second: FittedLaw, low_v: float, high_v: float) -> TellsApart:
    """Where between these volts the two differ most."""
    volts = np.linspace(low_v, high_v, GRID)
    one, other = first.current(volts), second.current(volts)
    spreads = np.abs(one - other) / spread_a(np.maximum(one, other))
    at = int(np.argmax(spreads))
    return TellsApart(round(float(volts[at]), 2), float(one[at]), float(other[at]), float(spreads[at]))


def _fit(key: FormKey, volts: Floats, amps: Floats) -> FittedLaw:
    # A fifth of what all imports take: only here, where readings are waited for anyway.
    from scipy.optimize import least_squares

    form, sigma = FORMS[key], spread_a(amps)

    def fit(begin: tuple[float, ...]) -> "tuple[OptimizeResult, Parameters]":
        held = np.array(begin[form.parameters :])

        def misses(logs: Parameters) -> Floats:
            return np.asarray((form.current(np.concatenate([np.exp(logs), held]), volts) - amps) / sigma)

        start = np.log(np.maximum(begin[: form.parameters], 1e-12))
        found = least_squares(misses, start, bounds=(start - 12, start + 12), max_nfev=200)
        return found, np.concatenate([np.exp(found.x), held])

    best, parameters = min(map(fit, form.begins(volts, amps)), key=lambda one: float(one[0].cost))
    chi2 = 2 * float(best.cost)
    freedom = max(len(volts) - form.parameters, 1)
    # What scatters by more than a meter does makes the figures less sure.
    widening = max(chi2 / freedom, 1.0)
    covariance = np.linalg.pinv(best.jac.T @ best.jac) * widening
    off = COVERS * parameters[: form.parameters] * np.sqrt(np.maximum(np.diag(covariance), 0.0))
    return FittedLaw(
        key,
        tuple(map(float, parameters)),
        tuple(map(float, off)),
        float(np.max(np.abs(best.fun))),
        chi2 + 2 * form.parameters,
    )
