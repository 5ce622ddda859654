"""Cell: two that are not alike, joined."""

from collections.abc import Iterator
from itertools import combinations

from pocketspark.core.chain import ChosenCell
from pocketspark.core.chain.chosen_cell import LEAST_OHM
from pocketspark.core.circuit import BUT_COLD, Circuit
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import JOINING_V
from pocketspark.core.message import _, say
from pocketspark.core.models import Cell
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import amps, amps_apart, fixed, millivolts, ohms, percent, significant, volts

# One that carries so much more of the load than it has of the charge ages first (our judgement, no source).
UNEVEN = 1.3

# Without a rating of its own a small cell may give, or take, its capacity in half an hour, or in an hour (common
# practice, no source).
UNKNOWN_GIVES_C, UNKNOWN_TAKES_C = 2.0, 1.0


@rule(
    "cell.unlike_class",
    station="cell",
    source="full voltage of the cell's class (handbooks, from memory)",
    advice=say("Join cells of one class only."),
)
def unlike_class(chosen: ChosenCell) -> Iterator[Judgement]:
    """Cells in parallel stand at one voltage: those of two classes never suit it both."""
    other = next((c for c in chosen.chain.build.cells if c.cell_class != chosen.cell.cell_class), None)
    if other is not None:
        yield stop(
            say(
                "{other} is full at {full_v} and {cell} at {full_v_2}. In parallel, one is over-charged or the "
                "other never gets full.",
                other=other.name,
                full_v=volts(other.facts.full_v),
                cell=chosen.cell.name,
                full_v_2=volts(chosen.cell.facts.full_v),
            ),
            subjects=(other.name,),
        )


@rule(
    "cell.unlike_joining",
    station="cell",
    node="cell",
    source="Ohm's law over both cells' resistances",
    formula=say("I = (V1 - V2) / (R1 + R2)"),
    limits=say(
        "what the emptier one is rated for; {joining_v} mV apart where their voltages are not measured",
        joining_v=fixed(JOINING_V * 1000, 0),
    ),
    advice=say("Charge both full, let them rest, and join them when they are within a few millivolts of each other."),
)
def unlike_joining(chosen: ChosenCell) -> Iterator[Judgement]:
    """The fuller of two cells charges the other as they are joined, with nothing but their resistance between."""
    if not chosen.chain.build.unlike_cells:
        return
    pairs = [_joining(one, other) for one, other in combinations(chosen.chain.build.cells, 2)]
    flows_a, takes_a, apart_v, r_ohm, read = max(pairs, key=lambda pair: pair[0] / pair[1])
    flows, takes = amps_apart(flows_a, takes_a)
    apart = millivolts(apart_v)
    measured, guessed = _("{apart} apart, through {r_ohm}"), _("{apart} apart, as not measured, through {r_ohm}")
    working = say(measured if read else guessed, apart=apart, r_ohm=ohms(r_ohm))
    if flows_a > takes_a:
        yield caution(
            say(
                "Joined as they are, {flows} flows from the fuller cell into one rated for {takes}.",
                flows=flows,
                takes=takes,
            ),
            figure=flows,
            limit=takes,
            working=say(
                "{working}. Put about 10 Ω, 1 W, between the plus leads until they agree within a few millivolts.",
                working=working,
            ),
        )
    else:
        yield fine(
            say("When they are joined {flows} flows; the emptier cell can take {takes}.", flows=flows, takes=takes),
            figure=flows,
            working=working,
        )


def _joining(one: Cell, other: Cell) -> tuple[float, float, float, float, bool]:
    """Amperes as the two are joined, what the emptier takes, volts apart, ohms between, whether both were read."""
    rest_v = [cell.intake.rest_v if cell.intake else None for cell in (one, other)]
    first, second = rest_v
    read = first is not None and second is not None
    apart_v = abs(first - second) if first is not None and second is not None else JOINING_V
    emptier = one if first is not None and second is not None and first < second else other
    r_ohm = max(one.resistance_ohm + other.resistance_ohm, LEAST_OHM)
    takes_a = emptier.charge_max_a or UNKNOWN_TAKES_C * emptier.planning_capacity_ah
    return apart_v / r_ohm, takes_a, apart_v, r_ohm, read


@rule(
    "cell.unlike_shares",
    station="cell",
    node="cell",
    source="Kirchhoff: parallel cells share by their conductances",
    formula=say("I_k = I (1 / R_k) / sum(1 / R)"),
    limits=say(
        "its own rating, else {unknown_gives_c}C; {uneven} times its share of the charge",
        unknown_gives_c=fixed(UNKNOWN_GIVES_C, 0),
        uneven=significant(UNEVEN, 2),
    ),
    advice=say("Join cells of similar resistance, or leave the weaker one out."),
)
def unlike_shares(circuit: Circuit) -> Iterator[Judgement]:
    """Unlike cells share a load by their resistances: the strongest carries most of a peak, and ages first."""
    running = circuit.running
    chosen = running.chosen
    cells = chosen.chain.build.cells
    if not chosen.chain.build.unlike_cells or not running.runs:
        return
    whole_ah = sum(cell.planning_capacity_ah for cell in cells)
    gives = [cell.discharge_max_a or UNKNOWN_GIVES_C * cell.planning_capacity_ah for cell in cells]
    shares = chosen.load_shares
    worst = max(range(len(cells)), key=lambda k: shares[k] / gives[k])
    carries, may_give = amps_apart(shares[worst] * circuit.most("cell_out_a", uses=BUT_COLD), gives[worst])
    of_load, of_charge = percent(shares[worst]), percent(cells[worst].planning_capacity_ah / whole_ah)
    together = amps(min(most / share for most, share in zip(gives, shares, strict=True)))
    working = say(
        "{resistance_ohm} of its own against {r_ohm} of all. Together they give {together} before "
        "one is at its most, where like cells would give {sum}",
        resistance_ohm=ohms(cells[worst].resistance_ohm),
        r_ohm=ohms(chosen.r_ohm),
        together=together,
        sum=amps(sum(gives)),
    )
    facts: Facts = {"figure": carries, "limit": may_give, "working": working, "subjects": (cells[worst].name,)}
    if carries.value > may_give.value:
        yield caution(
            say(
                "{cells} carries {of_load} of the load: {carries} at the peak, where it can supply {may_give}.",
                cells=cells[worst].name,
                of_load=of_load,
                carries=carries,
                may_give=may_give,
            ),
            **facts,
        )
    elif shares[worst] > UNEVEN * cells[worst].planning_capacity_ah / whole_ah:
        yield note(
            say(
                "{cells} carries {of_load} of the load with {of_charge} of the charge, so it ages first.",
                cells=cells[worst].name,
                of_load=of_load,
                of_charge=of_charge,
            ),
            **facts,
        )
    else:
        yield fine(
            say(
                "{cells} carries {of_load} of the load, with {of_charge} of the charge.",
                cells=cells[worst].name,
                of_load=of_load,
                of_charge=of_charge,
            ),
            **facts,
        )
