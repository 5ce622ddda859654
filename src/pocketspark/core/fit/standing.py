"""What each part stands on, and how thick the foam or tape under it has to be: nothing hangs in the air."""

from collections.abc import Iterable, Sequence
from typing import NamedTuple

from pocketspark.core.fit.answer import Placement, SolidBox, StandsOn
from pocketspark.core.message import Message, say
from pocketspark.core.units.figures import millimetres

# Under this a strip of tape does, or nothing at all (common practice, no source).
TAPE_MM = 0.2
FLOOR = "the floor"
_TOUCH_MM = 1e-4
# Tops this near to each other carry together: tape and foam give so much.
_LEVEL_MM = 0.5

Corner = Sequence[float]


class Carrier(NamedTuple):
    """Something that may be under a part."""

    name: str
    low: Corner
    high: Corner


def standing(placements: Sequence[Placement], solids: Sequence[SolidBox], lid_mm: float) -> tuple[StandsOn, ...]:
    """For every part the highest thing under it, in the order of the placements; a rib on the lid carries nothing.

    `lid_mm`: so high over the floor the lid closes the bay.
    """
    bodies = [Carrier(one.part, one.min_mm, one.max_mm) for one in placements]
    bodies += [
        Carrier(FLOOR if solid.state == "outside" else solid.name, solid.min_mm, solid.max_mm)
        for solid in solids
        if not solid.on_lid and solid.state != "removed"
    ]
    over = [*bodies, *(Carrier(solid.name, solid.min_mm, solid.max_mm) for solid in solids if solid.on_lid)]
    return tuple(_stands(body, bodies, over, lid_mm) for body in bodies[: len(placements)])


def _stands(one: Carrier, bodies: Sequence[Carrier], over: Sequence[Carrier], lid_mm: float) -> StandsOn:
    under = carriers(one, bodies)
    top = max((body.high[2] for body in under), default=0.0)
    name = next((body.name for body in under if body.high[2] == top), FLOOR)
    foam_mm = round(max(one.low[2] - top, 0.0), 2)
    free = not any(_is_below(one, body) for body in over if body is not one)
    return StandsOn(
        part=one.name,
        on=name,
        foam_mm=foam_mm,
        middle_carried=middle_is_carried(one, under),
        under_lid_mm=round(max(lid_mm - one.high[2], 0.0), 2) if free else None,
    )


def carriers(one: Carrier, bodies: Iterable[Carrier]) -> list[Carrier]:
    """What it stands on: of all that is under it the highest, and what is as high; none: the floor."""
    under = [body for body in bodies if body is not one and body.high[2] > 0 and _is_below(body, one)]
    top = max((body.high[2] for body in under), default=0.0)
    return [body for body in under if body.high[2] >= top - _LEVEL_MM]


def middle_is_carried(one: Carrier, under: Sequence[Carrier]) -> bool:
    """Does its middle lie over what carries it, or between the things that do? On the floor it does."""
    if not under:
        return True
    for axis in (0, 1):
        middle = (one.low[axis] + one.high[axis]) / 2
        start = min(max(body.low[axis], one.low[axis]) for body in under)
        end = max(min(body.high[axis], one.high[axis]) for body in under)
        if not start - _TOUCH_MM <= middle <= end + _TOUCH_MM:
            return False
    return True


def _is_below(under: Carrier, one: Carrier) -> bool:
    """Does it stand wholly lower, with some of the part's footprint over it?"""
    over = [min(under.high[a], one.high[a]) - max(under.low[a], one.low[a]) > _TOUCH_MM for a in (0, 1)]
    return all(over) and under.high[2] <= one.low[2] + _TOUCH_MM


def foam_in_words(stands: StandsOn) -> Message:
    """What goes under a part, as a step or a list says it."""
    if stands.foam_mm <= TAPE_MM:
        return say("straight on {on}", on=stands.on)
    return say("{foam_mm} of foam under it, on {on}", foam_mm=millimetres(stands.foam_mm), on=stands.on)
