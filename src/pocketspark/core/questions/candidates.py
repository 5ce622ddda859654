"""Search over cells: what each candidate would come to in this build."""

from collections.abc import Iterable

import numpy as np

from pocketspark.core.cells.credibility import energy_density_wh_per_l
from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.fit.outer import outer_margin_mm, room_mm
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.model import Model


class Candidate(Model):
    """One cell in the place of the build's own. None where a part or a current is still missing."""

    name: str
    energy_wh: float
    density_wh_per_l: float | None
    c_rate: float | None  # at the resistor in force
    over_c: bool  # that rate is over what the cell or the policy allows
    charge_hours: float | None
    run_hours: float | None  # of the mode used most
    days: float | None
    outer_margin_mm: float | None  # smallest clearance in the old batteries' room; negative: too large by so much
    price: float | None


def candidates(project: Project, build: int, cells: Iterable[Cell]) -> list[Candidate]:
    """Try each cell in this build, in the order given."""
    return [_candidate(project, build, cell) for cell in cells]


def _candidate(project: Project, build: int, cell: Cell) -> Candidate:
    chosen = project.builds[build].model_copy(update={"cell": cell})
    builds = (*project.builds[:build], chosen, *project.builds[build + 1 :])
    chain = Chain(project.model_copy(update={"builds": builds}), build)
    most_used = chain.most_used
    c_rate, over_c, charge_hours = _charging(chain)
    return Candidate(
        name=cell.name,
        energy_wh=chain.capacity_ah * cell.facts.nominal_v,
        density_wh_per_l=energy_density_wh_per_l(cell),
        c_rate=c_rate,
        over_c=over_c,
        charge_hours=charge_hours,
        run_hours=most_used.hours if most_used else None,
        days=chain.days,
        outer_margin_mm=outer_margin_mm(cell, room_mm(project.gadget.supply)),
        price=cell.price,
    )


def _charging(chain: Chain) -> tuple[float | None, bool, float | None]:
    try:
        hours = float(chain.charge_run.hours.flat[0])
        over = chain.spread.most_a > chain.policy_a * 1.001
        return chain.spread.nominal_a / chain.capacity_ah, over, hours if np.isfinite(hours) else None
    except MissingPart:
        return None, False, None
