"""Search over cells: what each candidate would come to in this build."""

from collections.abc import Iterable

import numpy as np

from pocketspark.core.cells.credibility import energy_density_wh_per_l
from pocketspark.core.chain import Chain, Charging
from pocketspark.core.fit.outer import outer_margin_mm, room_mm
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownDays, ShownHours, ShownMillimetres, ShownWattHours


class Candidate(Model):
    """One cell in the place of the build's own. None where a part or a current is still missing."""

    name: str
    energy_wh: ShownWattHours
    density_wh_per_l: float | None
    c_rate: float | None  # at the resistor in force
    over_c: bool  # that rate is over what the cell or the policy allows
    charge_hours: ShownHours | None
    run_hours: ShownHours | None  # of the mode used most
    days: ShownDays | None
    outer_margin_mm: (
        ShownMillimetres | None
    )  # smallest clearance in the old batteries' room; negative: too large by so much
    price: float | None


def candidates(project: Project, build: int, cells: Iterable[Cell]) -> list[Candidate]:
    """Try each cell in this build, in the order given."""
    return [_candidate(project, build, cell) for cell in cells]


def _candidate(project: Project, build: int, cell: Cell) -> Candidate:
    chosen = project.builds[build].model_copy(update={"cell": cell})
    builds = (*project.builds[:build], chosen, *project.builds[build + 1 :])
    chain = Chain(project.model_copy(update={"builds": builds}), build)
    running = chain.required_running()
    most_used = running.most_used
    c_rate, over_c, charge_hours = _charged(chain.charging) if chain.charging else (None, False, None)
    return Candidate(
        name=cell.name,
        energy_wh=running.chosen.capacity_ah * cell.facts.nominal_v,
        density_wh_per_l=energy_density_wh_per_l(cell),
        c_rate=c_rate,
        over_c=over_c,
        charge_hours=charge_hours,
        run_hours=most_used.service_hours if most_used else None,
        days=running.served_days,
        outer_margin_mm=outer_margin_mm(cell, room_mm(project.gadget.supply)),
        price=cell.price,
    )


def _charged(charging: Charging) -> tuple[float, bool, float | None]:
    """Rate over capacity, whether that is over what cell or policy allows, and hours to full."""
    spread, hours = charging.current.spread, float(charging.run.hours.flat[0])
    over = spread.most_a > charging.current.policy_a * 1.001
    return spread.nominal_a / charging.chosen.capacity_ah, over, hours if np.isfinite(hours) else None
