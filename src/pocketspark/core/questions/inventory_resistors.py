"""Which of a maker's own resistors set the current best, alone or two together."""

from collections.abc import Mapping, Sequence

from pocketspark.core.chain import Chain
from pocketspark.core.message import Joint, Message, row_of, say
from pocketspark.core.models import Charger, Project
from pocketspark.core.models.inventory_item import Resistor
from pocketspark.core.models.model import Model
from pocketspark.core.physics.resistors import CurrentSpread, current_at, from_inventory
from pocketspark.core.units.figures import ShownAmps, ShownOhms, amps, ohms

_JOINED: Mapping[str, Joint] = {"single": ",", "series": " + ", "parallel": " ‖ "}


class InventoryChoice(Model):
    """One way to make the charge-current resistor from the inventory."""

    how: str
    parts_ohm: tuple[float, ...]
    r_ohm: ShownOhms
    current_a: ShownAmps
    most_a: ShownAmps
    text: Message


def inventory_choices(project: Project, build: int, own: Sequence[Resistor]) -> list[InventoryChoice]:
    """Best first; empty before cell and charger are chosen, or where nothing in your parts is enough.

    The widest tolerance among the resistors counts for all of them, so that the worst case stays under the target.
    """
    chain = Chain(project, build)
    if chain.board_charging is None:
        return []
    charger = chain.board_charging.charger
    tolerance = max([resistor.tolerance for resistor in own] + [0.0])
    # What is marked must be this much, for the least it may really be to keep under the target.
    least = chain.board_charging.current.least_ohm * (1 - chain.build.r_tolerance) / (1 - tolerance)
    found = from_inventory([resistor.r_ohm for resistor in own], least)
    return [_choice(charger, combination.how, combination.parts, combination.r_ohm, tolerance) for combination in found]


def _choice(charger: Charger, how: str, parts: tuple[float, ...], r_ohm: float, tolerance: float) -> InventoryChoice:
    spread = _spread(charger, r_ohm, tolerance)
    joined = row_of((ohms(part) for part in parts), _JOINED[how])
    return InventoryChoice(
        how=how,
        parts_ohm=parts,
        r_ohm=round(r_ohm, 1),
        current_a=spread.nominal_a,
        most_a=spread.most_a,
        text=say(
            "{joined}: {r_ohm}, {nominal_a}, {most_a} at most",
            joined=joined,
            r_ohm=ohms(r_ohm),
            nominal_a=amps(spread.nominal_a),
            most_a=amps(spread.most_a),
        ),
    )


def _spread(charger: Charger, r_ohm: float, tolerance: float) -> CurrentSpread:
    currents = [
        current_at(charger.k_volts, charger.readings, r_ohm * factor) for factor in (1, 1 + tolerance, 1 - tolerance)
    ]
    return CurrentSpread(currents[0], currents[1] * (1 - charger.k_tolerance), currents[2] * (1 + charger.k_tolerance))
