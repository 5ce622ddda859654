"""What was predicted for a run, in the shape of what is measured, so that both stand in one chart."""

import numpy as np

from pocketspark.core.chain import Chain, Running
from pocketspark.core.chain.running import ModeRun
from pocketspark.core.logs.analysis import Kind
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownAmpHours, ShownHours


class PredictedRun(Model):
    """A predicted run, column by column."""

    hours: tuple[float, ...]
    volts: tuple[float, ...]
    amps: tuple[float, ...]
    total_hours: ShownHours | None  # None: it never ends
    charge_ah: ShownAmpHours


def predicted(chain: Chain, kind: Kind, mode: str = "") -> PredictedRun | None:
    """The charge run, or the discharge in this mode, by its id, or in the most used; None where a part is missing."""
    if kind == "charge":
        if chain.charging is None:
            return None
        run = chain.charging.run
        hours, volts, amps = run.time_h, run.cell_v, run.charger_a
        charge_ah = float((run.soc.flat[-1] - run.soc.flat[0]) * chain.charging.chosen.capacity_ah)
        total = float(run.hours.flat[0])
    else:
        used = _run_in(chain.running, mode) if chain.running else None
        if used is None:
            return None
        hours, volts, amps = used.run.time_h, used.run.cell_v, used.run.cell_a
        charge_ah, total = used.charge_ah, float(used.run.hours.flat[0])
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


def _run_in(running: Running, mode: str) -> ModeRun | None:
    if not mode:
        return running.most_used
    return next((run for run in running.runs if run.mode.id == mode), None)
