"""Cell: what is asked of one that nobody says more of, or that leaves the gadget to be charged."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenCell
from pocketspark.core.circuit import BUT_COLD, Circuit
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import Facts, caution, remedy, rule, stop
from pocketspark.core.units.figures import amps, fixed

# A cell that nobody says more of gives so many times its capacity in an hour (common practice, no source).
UNKNOWN_CELL_WARM_C, UNKNOWN_CELL_MOST_C = 2.0, 5.0


@rule(
    "cell.discharge_unstated",
    station="cell",
    source="common practice, no source",
    limits=say(
        "{unknown_cell_warm_c}C caution, {unknown_cell_most_c}C stop",
        unknown_cell_warm_c=fixed(UNKNOWN_CELL_WARM_C, 0),
        unknown_cell_most_c=fixed(UNKNOWN_CELL_MOST_C, 0),
    ),
    advice=say("Find its data sheet, or keep the peak under twice its capacity."),
)
def discharge_unstated(circuit: Circuit) -> Iterator[Judgement]:
    """Without a data sheet, a peak of several times the capacity an hour is more than a small cell should give."""
    running = circuit.running
    if running.chosen.discharge_max_a is not None or not running.runs:
        return
    peak_a = circuit.most("cell_out_a", uses=BUT_COLD)
    peak, rate = amps(peak_a), peak_a / running.chosen.capacity_ah
    warm = amps(UNKNOWN_CELL_WARM_C * running.chosen.capacity_ah)
    facts: Facts = {
        "figure": peak,
        "limit": warm,
        "rests_on": (f"{running.chosen.path}.discharge_max_a",),
        "assumed": True,
    }
    so_fast = f"{fixed(rate, 1)}C"
    if rate > UNKNOWN_CELL_MOST_C:
        yield stop(
            say(
                "The gadget's peak takes {peak} ({so_fast}) from a cell of which nothing is stated.",
                peak=peak,
                so_fast=so_fast,
            ),
            **facts,
        )
    elif rate > UNKNOWN_CELL_WARM_C:
        yield caution(
            say(
                "The gadget's peak takes {peak} ({so_fast}); without a data sheet a small cell should give {warm}.",
                peak=peak,
                so_fast=so_fast,
                warm=warm,
            ),
            working=say("Find its discharge rating, choose a larger cell, or use two in parallel."),
            **facts,
        )


@rule(
    "cell.dummy_unprotected",
    station="cell",
    source="common practice, no source",
    advice=say("Choose a cell with its own protection."),
)
def dummy_unprotected(chosen: ChosenCell) -> Iterator[Judgement]:
    """A cell that is taken out to be charged has left every board behind: it needs its own protection."""
    if chosen.chain.build.cell_comes_out and chosen.cell.own_protection is None:
        yield stop(
            say("This cell is taken out to be charged and has no protection of its own."),
            working=say("Loose in a pocket, a key can short it. Choose a cell with its own protection on its end."),
            remedy=remedy(say("It has its own protection"), {f"{chosen.path}.own_protection": True}),
        )
