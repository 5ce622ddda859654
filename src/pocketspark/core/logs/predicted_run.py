"""What was predicted for a run, in the shape of what is measured, so that both stand in one chart."""

import numpy as np

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.logs.analysis import Kind
from pocketspark.core.models.model import Model


class PredictedRun(Model):
    """A predicted run, column by column."""

    hours: tuple[float, ...]
    volts: tuple[float, ...]
    amps: tuple[float, ...]
    total_hours: float | None  # None: it never ends
    charge_ah: float


def predicted(chain: Chain, kind: Kind) -> PredictedRun | None:
    """The charge run, or the run-down of the most used mode; None where a part is missing."""
    try:
        if kind == "charge":
            run = chain.charge_run
            hours, volts, amps = run.time_h, run.cell_v, run.charger_a
            charge_ah = float((run.soc.flat[-1] - run.soc.flat[0]) * chain.capacity_ah)
            total = float(run.hours.flat[0])
        else:
            used = chain.most_used
            if used is None:
                return None
            hours, volts, amps = used.run.time_h, used.run.cell_v, used.run.cell_a
            charge_ah, total = used.charge_ah, float(used.run.hours.flat[0])
    except MissingPart:
        return None
    columns = [np.asarray(column).ravel() for column in (hours, volts, amps)]
    kept = np.concatenate([[True], np.diff(columns[0]) > 1e-6])
    plain = [tuple(column[kept].round(5).tolist()) for column in columns]
    return PredictedRun(
        hours=plain[0],
        volts=plain[1],
        amps=plain[2],
        total_hours=total if np.isfinite(total) else None,
        charge_ah=charge_ah,
    )
