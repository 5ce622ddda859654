"""The cell that explains a run: capacity and series resistance by least squares, with their uncertainty.

V = OCV(s0 +- q / Q) +- I R, with q counted from the log. Gauss-Newton on (Q, R, s0); the open-circuit curve is that of
the class.
"""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.logs.log import Log
from pocketspark.core.physics.ocv import Floats, OcvCurve

# Enough points to fit with, spread over the charge moved.
POINTS = 400
_ROUNDS = 40


@dataclass(frozen=True)
class FittedCell:
    """Best capacity and resistance, each with one standard uncertainty; `rms_v` is what is left unexplained."""

    capacity_ah: float
    capacity_off_ah: float
    r_ohm: float
    r_off_ohm: float
    from_soc: float
    rms_v: float


def fit_cell(log: Log, curve: OcvCurve, *, charging: bool) -> FittedCell | None:
    """None where the log covers too little of the curve to tell, or the fit does not settle."""
    sign = 1.0 if charging else -1.0
    moved = log.charge_ah
    total = float(moved[-1])
    if total <= 0:
        return None
    flowing = log.amps > 0.02 * float(np.quantile(log.amps, 0.9))
    index = np.flatnonzero(flowing)
    # Half of the points over charge, half over time: a tail moves little charge and tells most of the resistance.
    by_charge = np.searchsorted(moved[index], np.linspace(0, total, POINTS // 2)).clip(0, len(index) - 1)
    by_time = np.linspace(0, len(index) - 1, POINTS // 2).astype(int)
    index = np.unique(index[np.concatenate([by_charge, by_time])])
    volts, amps, q = log.volts[index], log.amps[index], moved[index]
    best: tuple[float, Floats, Floats] | None = None
    for start in ((total / 0.97, 0.1, 0.0), (total / 0.7, 0.2, 0.2), (total / 0.9, 0.5, 0.05)):
        found = _settle(np.array(start), volts, amps, q, curve, sign, total)
        if found is not None and (best is None or found[0] < best[0]):
            best = found
    if best is None:
        return None
    error, values, jacobian = best
    return _fitted(error, values, jacobian, len(volts), charging)


def _model(values: Floats, amps: Floats, q: Floats, curve: OcvCurve, sign: float) -> Floats:
    capacity, r_ohm, offset = values
    soc = (offset if sign > 0 else 1 - offset) + sign * q / capacity
    return np.asarray(curve.at(np.clip(soc, curve.soc[0], 1.0)) + sign * amps * r_ohm)


def _settle(
    values: Floats, volts: Floats, amps: Floats, q: Floats, curve: OcvCurve, sign: float, total: float
) -> tuple[float, Floats, Floats] | None:
    """Gauss-Newton with a little damping; (sum of squares, values, Jacobian)."""
    damping = 1e-3
    jacobian = np.zeros((len(volts), 3))
    error = float(np.sum((volts - _model(values, amps, q, curve, sign)) ** 2))
    for _ in range(_ROUNDS):
        rest = volts - _model(values, amps, q, curve, sign)
        steps = np.array([total * 1e-4, 1e-4, 1e-4])
        for k in range(3):
            nudged = values.copy()
            nudged[k] += steps[k]
            jacobian[:, k] = (_model(nudged, amps, q, curve, sign) - (volts - rest)) / steps[k]
        normal = jacobian.T @ jacobian
        try:
            move = np.linalg.solve(normal + damping * np.diag(np.diag(normal) + 1e-12), jacobian.T @ rest)
        except np.linalg.LinAlgError:
            return None
        trial = values + move
        trial[0] = max(trial[0], total * 0.9)
        trial[1] = float(np.clip(trial[1], 0.0, 20.0))
        trial[2] = float(np.clip(trial[2], -0.005, 0.6))
        now = float(np.sum((volts - _model(trial, amps, q, curve, sign)) ** 2))
        if now < error:
            done = error - now < 1e-9 * error
            values, error, damping = trial, now, max(damping / 5, 1e-9)
            if done:
                break
        else:
            damping *= 6
            if damping > 1e6:
                break
    return error, values, jacobian


def _fitted(error: float, values: Floats, jacobian: Floats, points: int, charging: bool) -> FittedCell | None:
    variance = error / max(points - 3, 1)
    try:
        covariance = np.linalg.inv(jacobian.T @ jacobian) * variance
    except np.linalg.LinAlgError:
        return None
    off = np.sqrt(np.maximum(np.diag(covariance), 0))
    return FittedCell(
        capacity_ah=float(values[0]),
        capacity_off_ah=float(off[0]),
        r_ohm=float(values[1]),
        r_off_ohm=float(off[1]),
        from_soc=float(values[2]) if charging else float(1 - values[2]),
        rms_v=float(np.sqrt(variance)),
    )
