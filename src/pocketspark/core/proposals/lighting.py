"""What lights a lamp: resistors worked out for it in the place of the few values that a library lists, and drivers."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from pocketspark.core.chosen.chosen_parts import load_of_mode
from pocketspark.core.models import Board, Gadget, Regulator
from pocketspark.core.physics.resistors import preferred_at_or_above, preferred_between
from pocketspark.core.proposals.offer import Offered, OnOffer
from pocketspark.core.units.figures import ohms
from pocketspark.core.units.reading import METRIC

# Less is no resistor but a wire.
LEAST_OHM = 0.47
# Neighbours in E24 are 5 to 12 % apart.
NEIGHBOUR = 1.13


def for_what_glows(offer: OnOffer, gadget: Gadget) -> OnOffer:
    """The offer with E24 values for these LEDs or this filament instead of the resistors that are sold.

    LED drivers are offered for LEDs alone. One's own parts stay.
    """
    if gadget.front_end != "led_resistor":
        offer = replace(offer, regulators=[part for part in offer.regulators if part is None or not _is_driver(part)])
    return _with_resistors(offer, gadget)


def _with_resistors(offer: OnOffer, gadget: Gadget) -> OnOffer:
    pattern = next((part for part in offer.regulators if part and not part.own and _is_resistor(part)), None)
    if pattern is None or gadget.front_end not in ("led_resistor", "lamp"):
        return offer
    boards = [part.body for part in offer.chargers if isinstance(part.body, Board)]
    full_v = {board.charger.float_v for board in boards if board.charger}
    made = [_of_value(pattern, ohm) for ohm in sorted(set(_values(gadget, full_v)))]
    others = [part for part in offer.regulators if part is None or part.own or not _is_resistor(part)]
    return replace(offer, regulators=[*others, *made])


def _values(gadget: Gadget, full_v: Iterable[float]) -> Iterator[float]:
    """R = (full cell - design volts) / design current: the next value above, and the one before that.

    The lower one is a few per cent brighter; whether the lamp can take that is judged later.
    """
    brightest = max(gadget.modes, key=lambda mode: mode.current_a)
    design_a = float(load_of_mode(gadget, brightest).current(gadget.design_v))
    for volts in full_v:
        exact_ohm = (volts - gadget.design_v) / design_a if design_a > 0 else 0.0
        if exact_ohm >= LEAST_OHM:
            above = preferred_at_or_above(exact_ohm)
            yield from (above, preferred_between(above / NEIGHBOUR, above * 0.99)[-1])


def _is_resistor(part: Offered) -> bool:
    return isinstance(part.body, Board) and part.body.regulator is not None and part.body.regulator.kind == "resistor"


def _is_driver(part: Offered) -> bool:
    regulator = part.body.regulator if isinstance(part.body, Board) else None
    return not part.own and regulator is not None and regulator.i_set_a is not None


def _of_value(pattern: Offered, ohm: float) -> Offered:
    name = f"{ohms(ohm).text(METRIC)} dropping resistor"
    regulator = Regulator(kind="resistor", name=name, series_ohm=ohm)
    return replace(pattern, body=pattern.body.model_copy(update={"name": name, "regulator": regulator}))
