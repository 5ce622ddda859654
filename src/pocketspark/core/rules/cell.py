"""Cell: is it what its label says, and may it be treated as planned?"""

from collections.abc import Iterator

from pocketspark.core.cells.credibility import DENSITY, credible_capacity_ah, energy_density_wh_per_l
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import Chain, ChosenCell, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import JOINING_V
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import Figure, amp_hours, amps, amps_apart, fixed, ohms, percent, volts

# More like cells than this: what suits the group hardly suits the one whose tab holds (common practice, no source).
MANY_CELLS = 3
# A new cell of its size has so much resistance; twice that is worn (common practice, no source).
RESISTANCE_HIGH = 2.0


def density(wh_per_l: float) -> Figure:
    return Figure(f"{wh_per_l:.0f} Wh/l", wh_per_l, "Wh/l")


@rule("cell.none", station="cell", source="common practice, no source")
def none_chosen(chain: Chain) -> Iterator[Judgement]:
    """A build starts with its cell."""
    if chain.cell is None:
        yield note("No cell is chosen yet: pick the largest one that fits.")


@rule(
    "cell.claim_not_credible",
    station="cell",
    source="energy densities of good cells, from memory",
    formula="label Ah x nominal V / volume of the bare body",
    limits="pouch 600 and 650, round 740 and 780 Wh/l",
)
def claim_not_credible(chosen: ChosenCell) -> Iterator[Judgement]:
    """The label is held against what the volume can hold: Wh per litre of the bare body."""
    cell = chosen.cell
    wh_per_l, plan_ah = energy_density_wh_per_l(cell), credible_capacity_ah(cell)
    if cell.measured_capacity_ah is not None:
        return
    if wh_per_l is None or plan_ah is None:
        yield note(
            "Its size is not given, so the claim on its label cannot be checked.", subjects=(f"{chosen.path}.size_mm",)
        )
        return
    usual, most, _ = DENSITY[cell.form]
    label, claimed, plan = amp_hours(cell.capacity_ah), density(wh_per_l), amp_hours(plan_ah)
    working = (
        f"{label} x {fixed(cell.facts.nominal_v, 1)} V / {fixed((cell.volume_l or 0) * 1000, 1)} ml = {claimed}; "
        f"the best {cell.form} cells reach about {usual:.0f}"
    )
    path = f"{chosen.path}.measured_capacity_ah"
    if wh_per_l > most:
        yield stop(
            f"A cell of this size cannot hold {label}: plan with {plan}.",
            figure=label,
            limit=plan,
            working=working,
            remedy=remedy(f"Plan with {plan}", {path: round(plan_ah, 3), f"basis.{path}": "inferred"}),
        )
    elif wh_per_l > usual:
        yield caution(
            f"{label} is a bold claim for this size ({claimed}): measure it before you rely on it.",
            figure=claimed,
            working=working,
        )
    else:
        yield fine(f"Its label is credible for its size: {claimed}.", figure=claimed, working=working)


@rule("cell.salvaged_unmeasured", station="cell", source="common practice, no source")
def salvaged_unmeasured(chosen: ChosenCell) -> Iterator[Judgement]:
    """A salvaged cell is planned with its label only until it has been measured."""
    cell = chosen.cell
    if cell.origin == "salvaged" and cell.measured_capacity_ah is None:
        label = amp_hours(cell.capacity_ah)
        yield caution(
            f"This used cell held {label} when it was new; nobody has measured what it holds now.",
            figure=label,
            working=grade(cell).next_step,
        )


@rule(
    "cell.intake",
    station="cell",
    source="triage of used cells, common practice, no source",
    limits="rest 2.0, 2.5 V, class full + 0.05 V; thickness +15 %; capacity 80, 60 %; drop 10, 30 mV a day; 2 x R",
)
def intake(chosen: ChosenCell) -> Iterator[Judgement]:
    """Every reading of the intake record: damage, thickness, rest voltage, day's drop, capacity, resistance."""
    if chosen.cell.origin == "salvaged" or chosen.cell.intake is not None:
        yield from grade(chosen.cell).judgements


@rule("cell.series", station="cell", source="common practice, no source", limits="1 cell, or like cells in parallel")
def series(chosen: ChosenCell) -> Iterator[Judgement]:
    """Two cells in series need a two-cell charger, a balancer and a two-cell protection: out of scope here."""
    count = chosen.chain.build.cells_in_series
    if count > 1:
        yield stop(
            f"{count} cells in series need a charger and a protection made for {count}, which balance them.",
            working=f"{count} x {volts(chosen.cell.facts.full_v)}. One cell and a step-up converter does it with the "
            "parts here.",
            remedy=remedy("One cell in series", {f"{chosen.chain.path}.cells_in_series": 1}),
        )


@rule(
    "cell.resistance_high", station="cell", source="common practice, no source", limits=f"{RESISTANCE_HIGH:.0f} x new"
)
def resistance_high(chosen: ChosenCell) -> Iterator[Judgement]:
    """A cell with more than twice the resistance of a new one sags and warms."""
    cell = chosen.cell
    if cell.r_ohm is None or cell.r_ohm <= RESISTANCE_HIGH * cell.typical_ohm:
        return
    now, new = ohms(cell.r_ohm), ohms(cell.typical_ohm)
    yield caution(
        f"Its {now} is {cell.r_ohm / cell.typical_ohm:.1f} times that of a new cell of its size: it will sag and warm.",
        figure=now,
        limit=new,
        working=f"a new {amp_hours(cell.capacity_ah)} cell has about {new}",
        rests_on=(f"{chosen.path}.r_ohm",),
    )


@rule("cell.over_discharge_rating", station="cell", source="the cell's own stated maximum")
def over_discharge_rating(running: Running) -> Iterator[Judgement]:
    """The gadget's peak, as the cell feels it, against what the cell may give."""
    stated_a = running.chosen.discharge_max_a
    if stated_a is None or not running.runs:
        return
    peak, may_give = amps_apart(running.peak_cell_a, stated_a)
    if peak.value > may_give.value:
        yield stop(
            f"The gadget's peak takes {peak} from a cell that may give {may_give}.",
            figure=peak,
            limit=may_give,
            working=f"peak of the heaviest mode, with {volts(running.cell.facts.empty_v)} in the cell",
            rests_on=(f"{running.chosen.path}.discharge_max_a",),
        )
    else:
        yield fine(f"The gadget takes {peak} at most; the cell may give {may_give}.", figure=peak, limit=may_give)


@rule("cell.parallel", station="cell", source="common practice, no source")
def parallel(chosen: ChosenCell) -> Iterator[Judgement]:
    """Cells in parallel must be alike and join at nearly the same voltage."""
    count = chosen.count
    if count == 1 or chosen.chain.build.unlike_cells:
        return
    r_pair = 2 * chosen.cell.resistance_ohm
    joining = amps(JOINING_V / r_pair)
    working = f"{JOINING_V * 1000:.0f} mV apart through {ohms(r_pair)} of two cells: {joining} as they join"
    if count > MANY_CELLS:
        yield caution(
            f"One protection hardly suits each of {count} cells in parallel.",
            working=f"{working}. Should the tabs of the others break, all its current comes from one.",
        )
    else:
        yield note(
            f"The {count} cells must be of one class and maker, within {percent(0.1)} in capacity and "
            f"{JOINING_V * 1000:.0f} mV when they are joined.",
            working=working,
        )
