"""What each regulator of a row is rated for."""

from collections.abc import Iterator
from functools import partial

from pocketspark.core.circuit import Circuit
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import _, say
from pocketspark.core.models import Regulator
from pocketspark.core.ratings.rating import Bound, Rating
from pocketspark.core.units.figures import Figure, volts


def _each(circuit: Circuit) -> Iterator[tuple[str, Regulator]]:
    """Each with the name under which the circuit has its quantities."""
    for number, regulator in enumerate(circuit.running.chosen.regulators_in_the_way):
        yield f"regulator{number}", regulator


def _output(circuit: Circuit) -> Iterator[Bound]:
    for name, regulator in _each(circuit):
        if regulator.rated_a is not None:
            yield Bound(regulator.rated_a, regulator.name, quantity=f"{name}_out_a")


def _input(circuit: Circuit) -> Iterator[Bound]:
    for name, regulator in _each(circuit):
        if regulator.v_in_max is not None:
            yield Bound(regulator.v_in_max, regulator.name, quantity=f"{name}_in_v")


def _switch(circuit: Circuit) -> Iterator[Bound]:
    for name, regulator in _each(circuit):
        if regulator.switch_a is not None and kind_of(regulator).steps_up:
            yield Bound(regulator.switch_a, regulator.name, quantity=f"{name}_in_a")


def _volts(value: float, limit: float) -> tuple[Figure, Figure]:
    return volts(value), volts(limit)


_overloaded = partial(
    Rating,
    code="power.regulator_overloaded",
    station="power",
    node="regulator",
    source="the part's own rating",
    watches="What a regulator gives in any mode and at its peak against its current rating, and what reaches its "
    "input, from the cell or plugged in, against its input rating.",
    advice=say("Choose a regulator rated for more current, or for a higher input."),
    quantity="",
)

RATINGS = (
    _overloaded(
        bounds=_output,
        uses=("asleep", "mode", "peak"),
        over=_("The {part} is rated for {limit}, and {value} is drawn from it."),
        within=_("The {part} is rated for {limit}; {value} is drawn from it at most."),
    ),
    _overloaded(
        bounds=_output,
        uses=("stalled", "cold filament"),
        stop_from=float("inf"),
        over=_("The {part} is rated for {limit} and can fail to start the gadget, which draws {value} at first."),
        within=_("The {part} is rated for {limit}; the gadget draws {value} when it starts."),
    ),
    _overloaded(
        bounds=_input,
        over=_("The {part} is rated for {limit} at its input, and up to {value} reaches it."),
        within=_("The {part} is rated for {limit} at its input; {value} reaches it at most."),
        figures=_volts,
    ),
    Rating(
        code="power.regulator_switch",
        station="power",
        node="regulator",
        source="I_in = I_out V_out / (eta V_in): the switch of a step-up carries the input current, common practice",
        watches="The current into a step-up against what its switch can take: it is highest with a nearly empty cell.",
        advice=say("Choose a converter whose switch can take more, or a lighter load."),
        quantity="",
        bounds=_switch,
        uses=("asleep", "mode", "peak"),
        over=_("The switch in the {part} can take {limit}, and {value} flows into it. Its output collapses."),
        within=_("The switch in the {part} can take {limit}; {value} flows into it at most."),
    ),
)
