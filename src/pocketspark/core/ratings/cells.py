"""What a cell is rated for."""

from collections.abc import Iterator

from pocketspark.core.circuit import Circuit
from pocketspark.core.message import _, say
from pocketspark.core.ratings.rating import Bound, Rating


def _discharge(circuit: Circuit) -> Iterator[Bound]:
    most_a = circuit.running.chosen.discharge_max_a
    if most_a is not None and circuit.running.runs:
        yield Bound(most_a, rests_on=(f"{circuit.running.chosen.path}.discharge_max_a",))


RATINGS = (
    Rating(
        code="cell.over_discharge_rating",
        station="cell",
        node="cell",
        source="the cell's own stated maximum",
        watches="The current out of the cell in any state, at any charge, against what the cell can supply.",
        advice=say("Choose a cell that can supply more, a larger one, or a lighter load."),
        quantity="cell_out_a",
        # A cold filament is warm before the cell is.
        uses=("asleep", "mode", "peak", "stalled"),
        bounds=_discharge,
        over=_("The gadget draws {value} from a cell that can supply {limit}. It will overheat and lose capacity."),
        within=_("The gadget draws {value} at most; the cell can supply {limit}."),
    ),
)
