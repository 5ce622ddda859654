"""Cell: is it what its label says, and may it be treated as planned?"""

from collections.abc import Iterator

from pocketspark.core.cells.credibility import DENSITY, credible_capacity_ah, energy_density_wh_per_l
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import Chain
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amp_hours, amps, ohms


@rule("cell.none", station="cell", source="common practice, no source")
def none_chosen(chain: Chain) -> Iterator[Judgement]:
    """A build starts with its cell."""
    if not chain.has_cell:
        yield note("0 cells chosen: pick the largest one that fits")


@rule(
    "cell.claim_not_credible",
    station="cell",
    source="energy densities of good cells, from memory",
    formula="label Ah x nominal V / volume of the bare body",
    limits="pouch 600 and 650, round 740 and 780 Wh/l",
)
def claim_not_credible(chain: Chain) -> Iterator[Judgement]:
    """The label is held against what the volume can hold: Wh per litre of the bare body."""
    cell = chain.cell
    density, plan_ah = energy_density_wh_per_l(cell), credible_capacity_ah(cell)
    if cell.measured_capacity_ah is not None:
        return
    if density is None or plan_ah is None:
        yield note("No size given, so the label's claim cannot be checked")
        return
    usual, most, _ = DENSITY[cell.form]
    working = (
        f"{amp_hours(cell.capacity_ah)} x {cell.facts.nominal_v} V / {(cell.volume_l or 0) * 1000:.1f} ml "
        f"= {density:.0f} Wh/l; the best {cell.form} cells reach about {usual:.0f}"
    )
    path = f"{chain.at}.cell.measured_capacity_ah"
    plan = remedy(
        f"Plan with {amp_hours(plan_ah)}",
        {path: round(plan_ah, 3), f"basis.{path}": "inferred"},
    )
    if density > most:
        headline = f"{amp_hours(cell.capacity_ah)} is not credible in this volume: plan with {amp_hours(plan_ah)}"
        yield stop(headline, working=working, remedy=plan)
    elif density > usual:
        yield caution(f"{density:.0f} Wh/l is a bold claim: measure before you rely on it", working=working)
    else:
        yield passed(f"{density:.0f} Wh/l: the label is credible", working=working)


@rule("cell.salvaged_unmeasured", station="cell", source="common practice, no source")
def salvaged_unmeasured(chain: Chain) -> Iterator[Judgement]:
    """A salvaged cell is planned with its label only until it has been measured."""
    cell = chain.cell
    if cell.origin == "salvaged" and cell.measured_capacity_ah is None:
        yield caution(
            f"{amp_hours(cell.capacity_ah)} is what it held when new: measure this salvaged cell",
            working=grade(cell).next_step,
        )


@rule(
    "cell.intake",
    station="cell",
    source="triage of used cells, common practice, no source",
    limits="rest 2.0, 2.5 V, class full + 0.05 V; thickness +15 %; capacity 80, 60 %; drop 10, 30 mV a day; 2 x R",
)
def intake(chain: Chain) -> Iterator[Judgement]:
    """Every reading of the intake record: damage, thickness, rest voltage, day's drop, capacity, resistance."""
    cell = chain.cell
    if cell.origin != "salvaged" and cell.intake is None:
        return
    for said in grade(cell).judgements:
        yield Judgement(said.level, said.headline, said.working)


@rule("cell.series", station="cell", source="common practice, no source", limits="1 cell, or like cells in parallel")
def series(chain: Chain) -> Iterator[Judgement]:
    """Two cells in series need a two-cell charger, a balancer and a two-cell protection: out of scope here."""
    count = chain.build.cells_in_series
    if count > 1:
        yield stop(
            f"{count} cells in series: not with a one-cell charger and protection",
            working=f"{count} x {chain.cell.facts.full_v:.2f} V needs a charger for {count} cells that balances them, "
            "and a protection that watches each. One cell and a step-up converter does it with the parts here.",
            remedy=remedy("One cell in series", {f"{chain.at}.cells_in_series": 1}),
        )


@rule("cell.resistance_high", station="cell", source="common practice, no source")
def resistance_high(chain: Chain) -> Iterator[Judgement]:
    """A cell with more than twice the resistance of a new one sags and warms."""
    cell = chain.cell
    if cell.r_ohm is None:
        return
    typical = cell.typical_ohm
    if cell.r_ohm > 2 * typical:
        yield caution(
            f"{ohms(cell.r_ohm)} is {cell.r_ohm / typical:.1f} times that of a new cell: it will sag and warm",
            working=f"a new {amp_hours(cell.capacity_ah)} cell has about {ohms(typical)}",
        )


@rule("cell.over_discharge_rating", station="cell", source="the cell's own stated maximum")
def over_discharge_rating(chain: Chain) -> Iterator[Judgement]:
    """The gadget's peak, as the cell feels it, against what the cell may give."""
    cell = chain.cell
    if cell.discharge_max_a is None or not chain.runs:
        return
    most_a, allowed_a = chain.peak_cell_a, cell.discharge_max_a * chain.build.cell_count
    if most_a > allowed_a:
        headline = f"{amps(most_a)} is asked of a cell that may give {amps(allowed_a)}"
        yield stop(headline, working="peak of the heaviest mode, at 3.0 V in the cell")
    else:
        yield passed(f"{amps(most_a)} at most from a cell that may give {amps(allowed_a)}")


@rule("cell.parallel", station="cell", source="common practice, no source")
def parallel(chain: Chain) -> Iterator[Judgement]:
    """Cells in parallel must be alike and join at nearly the same voltage."""
    count = chain.build.cell_count
    if count == 1:
        return
    r_pair = 2 * chain.cell.resistance_ohm
    working = f"50 mV apart through {ohms(r_pair)} of two cells: {amps(0.05 / r_pair)} as they join"
    if count > 3:
        yield caution(f"{count} cells in parallel: one protection hardly suits each of them", working=working)
    else:
        headline = f"{count} cells: same class and maker, within 10 % in capacity and 50 mV when joined"
        yield note(headline, working=working)
