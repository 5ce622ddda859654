"""Search over cells: what each candidate would come to in this build."""

from collections.abc import Iterable

import numpy as np

from pocketspark.core.cells.credibility import energy_density_wh_per_l
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import Chain, Charging
from pocketspark.core.fit.outer import most_margin_mm
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
    )  # smallest clearance in a box of the bay, else in the old batteries' room; negative: too large by so much
    price: float | None
    place: int = 0  # 1: the best for this gadget
    suits: bool = False  # it goes in, may be charged so, and does the gadget's job


def candidates(project: Project, build: int, cells: Iterable[Cell]) -> list[Candidate]:
    """Try each cell in this build, in the order given. `place` is by days of service, the measure of all lists."""
    tried = [(cell, _candidate(project, build, cell)) for cell in cells]
    order = sorted(range(len(tried)), key=lambda at: _rank(*tried[at]))
    places = {at: place for place, at in enumerate(order, 1)}
    return [
        one.model_copy(update={"place": places[at], "suits": not any(_rank(cell, one)[:3])})
        for at, (cell, one) in enumerate(tried)
    ]


def _rank(cell: Cell, candidate: Candidate) -> tuple[bool, bool, bool, float, float]:
    """What does not go in last, then what may not be had or charged so, then what serves for nothing."""
    served = candidate.days or candidate.run_hours or 0.0
    # Where nothing is left to be done to a cell nobody has tested, it is not among the best.
    untrusted = cell.origin == "salvaged" and grade(cell).word not in ("good", "usable")
    too_large = candidate.outer_margin_mm is not None and candidate.outer_margin_mm < 0
    return too_large, candidate.over_c or untrusted, not served, -served, candidate.price or 0.0


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
        outer_margin_mm=most_margin_mm(cell, project.gadget),
        price=cell.price,
    )


def _charged(charging: Charging) -> tuple[float, bool, float | None]:
    """Rate over capacity, whether that is over what cell or policy allows, and hours to full."""
    spread, hours = charging.current.spread, float(charging.run.hours.flat[0])
    over = spread.most_a > charging.current.policy_a * 1.001
    return spread.nominal_a / charging.chosen.capacity_ah, over, hours if np.isfinite(hours) else None
