"""Cell: like cells side by side."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenCell
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import JOINING_V
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, note, rule
from pocketspark.core.units.figures import amps, fixed, ohms, percent

# More like cells than this: what suits the group hardly suits the one whose tab holds (common practice, no source).
MANY_CELLS = 3


@rule(
    "cell.parallel",
    station="cell",
    source="common practice, no source",
    advice=say("Bring like cells to the same voltage first, then join them."),
)
def parallel(chosen: ChosenCell) -> Iterator[Judgement]:
    """Cells in parallel must be alike and join at nearly the same voltage."""
    count = chosen.count
    if count == 1 or chosen.chain.build.unlike_cells:
        return
    r_pair = 2 * chosen.cell.resistance_ohm
    joining = amps(JOINING_V / r_pair)
    working = say(
        "{joining_v} mV apart, through the {r_pair} of two cells: {joining} when they are joined",
        joining_v=fixed(JOINING_V * 1000, 0),
        r_pair=ohms(r_pair),
        joining=joining,
    )
    if count > MANY_CELLS:
        yield caution(
            say("One protection cannot suit each of {count} cells in parallel.", count=count),
            working=say(
                "{working}. If the tabs of the others break, one cell supplies all the current.", working=working
            ),
        )
    else:
        yield note(
            say(
                "The {count} cells must be of one class and maker, and within {it} in capacity and {joining_v} mV "
                "in voltage when they are joined.",
                count=count,
                it=percent(0.1),
                joining_v=fixed(JOINING_V * 1000, 0),
            ),
            working=working,
        )
