"""Cell: is it what its label says, and may it be used as planned?"""

from collections.abc import Iterator

from pocketspark.core.cells.credibility import DENSITY, credible_capacity_ah, energy_density_wh_per_l
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import Chain, ChosenCell
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amp_hours, density, fixed, ohms, volts

# A new cell of its size has so much resistance; twice that is worn (common practice, no source).
RESISTANCE_HIGH = 2.0


@rule(
    "cell.none",
    station="cell",
    source="common practice, no source",
    advice=say("Choose a cell at Cell. Those that fit are listed first."),
)
def none_chosen(chain: Chain) -> Iterator[Judgement]:
    """A build starts with its cell."""
    if chain.cell is None:
        yield note(say("No cell is chosen yet. Choose the largest one that fits."))


@rule(
    "cell.claim_not_credible",
    station="cell",
    source="energy densities of good cells, from memory",
    formula=say("label Ah x nominal V / volume of the bare body"),
    limits=say("pouch 600 and 650, round 740 and 780 Wh/l"),
    advice=say("Plan with what the volume can hold, or measure the cell before you rely on it."),
)
def claim_not_credible(chosen: ChosenCell) -> Iterator[Judgement]:
    """The label is held against what the volume can hold: Wh per litre of the bare body."""
    cell = chosen.cell
    wh_per_l, plan_ah = energy_density_wh_per_l(cell), credible_capacity_ah(cell)
    if cell.measured_capacity_ah is not None:
        return
    if wh_per_l is None or plan_ah is None:
        yield note(
            say("Its size is unknown, so its label cannot be checked."),
            subjects=(f"{chosen.path}.size_mm",),
        )
        return
    usual, most, _ = DENSITY[cell.form]
    label, claimed, plan = amp_hours(cell.capacity_ah), density(wh_per_l), amp_hours(plan_ah)
    working = say(
        "{label} x {nominal_v} V / {volume_l} ml = {claimed}; the best {form} cells reach about {usual}",
        label=label,
        nominal_v=fixed(cell.facts.nominal_v, 1),
        volume_l=fixed((cell.volume_l or 0) * 1000, 1),
        claimed=claimed,
        form=cell.form,
        usual=fixed(usual, 0),
    )
    path = f"{chosen.path}.measured_capacity_ah"
    if wh_per_l > most:
        yield stop(
            say("A cell of this size cannot hold {label}. Plan with {plan}.", label=label, plan=plan),
            figure=label,
            limit=plan,
            working=working,
            remedy=remedy(say("Plan with {plan}", plan=plan), {path: round(plan_ah, 3), f"basis.{path}": "inferred"}),
        )
    elif wh_per_l > usual:
        yield caution(
            say(
                "{label} is a lot for this size ({claimed}). Measure the cell before you rely on it.",
                label=label,
                claimed=claimed,
            ),
            figure=claimed,
            working=working,
        )
    else:
        yield fine(
            say("Its label is credible for its size ({claimed}).", claimed=claimed), figure=claimed, working=working
        )


@rule(
    "cell.salvaged_unmeasured",
    station="cell",
    source="common practice, no source",
    advice=say("Charge it once, discharge it through a known load, and enter what it gave."),
    guide="resistance",
)
def salvaged_unmeasured(chosen: ChosenCell) -> Iterator[Judgement]:
    """A salvaged cell is planned with its label only until it has been measured."""
    cell = chosen.cell
    if cell.origin == "salvaged" and cell.measured_capacity_ah is None:
        label = amp_hours(cell.capacity_ah)
        yield caution(
            say("This used cell held {label} when it was new. What it holds now has not been measured.", label=label),
            figure=label,
            working=grade(cell).next_step,
        )


@rule(
    "cell.intake",
    station="cell",
    source="triage of used cells, common practice, no source",
    limits=say(
        "rest {dead}, {low} V, class full + {over} V; thickness +15 %; capacity 80, 60 %; drop 10, 30 mV a day; 2 x R",
        dead=fixed(2.0, 1),
        low=fixed(2.5, 1),
        over=fixed(0.05, 2),
    ),
    advice=say("Follow the reading that failed. A damaged, swollen or empty cell is recycled, never revived."),
)
def intake(chosen: ChosenCell) -> Iterator[Judgement]:
    """Every reading of the intake record: damage, thickness, rest voltage, day's drop, capacity, resistance."""
    if chosen.cell.origin == "salvaged" or chosen.cell.intake is not None:
        yield from grade(chosen.cell).judgements


@rule(
    "cell.series",
    station="cell",
    source="common practice, no source",
    limits=say("1 cell, or like cells in parallel"),
    advice=say("Use one cell and a step-up converter, or cells in parallel."),
)
def series(chosen: ChosenCell) -> Iterator[Judgement]:
    """Two cells in series need a two-cell charger, a balancer and a two-cell protection: out of scope here."""
    count = chosen.chain.build.cells_in_series
    if count > 1:
        yield stop(
            say(
                "{count} cells in series need a charger and a protection for {count} cells, with balancing.",
                count=count,
            ),
            working=say(
                "That is {count} x {full_v}. One cell and a step-up converter does the same with the parts here.",
                count=count,
                full_v=volts(chosen.cell.facts.full_v),
            ),
            remedy=remedy(say("One cell in series"), {f"{chosen.chain.path}.cells_in_series": 1}),
        )


@rule(
    "cell.resistance_high",
    station="cell",
    source="common practice, no source",
    limits=say("{resistance_high} x new", resistance_high=fixed(RESISTANCE_HIGH, 0)),
    advice=say("Measure again at the cell's own tabs. If the value stays, use the cell where little current is drawn."),
    guide="resistance",
)
def resistance_high(chosen: ChosenCell) -> Iterator[Judgement]:
    """A cell with more than twice the resistance of a new one sags and warms."""
    cell = chosen.cell
    if cell.r_ohm is None or cell.r_ohm <= RESISTANCE_HIGH * cell.typical_ohm:
        return
    now, new = ohms(cell.r_ohm), ohms(cell.typical_ohm)
    yield caution(
        say(
            "Its {now} is {r_ohm} times that of a new cell of its size. Its voltage will sag and it will get warm.",
            now=now,
            r_ohm=fixed(cell.r_ohm / cell.typical_ohm, 1),
        ),
        figure=now,
        limit=new,
        working=say("a new {capacity_ah} cell has about {new}", capacity_ah=amp_hours(cell.capacity_ah), new=new),
        rests_on=(f"{chosen.path}.r_ohm",),
    )
