"""What each part stands on, and how thick the foam or tape under it has to be: nothing hangs in the air."""

from collections.abc import Sequence

from pocketspark.core.fit.answer import Placement, SolidBox, StandsOn
from pocketspark.core.message import Message, say
from pocketspark.core.units.figures import millimetres

# Under this a strip of tape does, or nothing at all (common practice, no source).
TAPE_MM = 0.2
FLOOR = "the floor"
_TOUCH_MM = 1e-4


def standing(placements: Sequence[Placement], solids: Sequence[SolidBox]) -> tuple[StandsOn, ...]:
    """For every part the highest thing under it, in the order of the placements; a rib on the lid carries nothing."""
    return tuple(
        _under(one, placements, [solid for solid in solids if not solid.on_lid and solid.state != "removed"])
        for one in placements
    )


def _under(one: Placement, placements: Sequence[Placement], solids: Sequence[SolidBox]) -> StandsOn:
    tops = [(0.0, FLOOR)]
    tops += [(part.max_mm[2], part.part) for part in placements if part is not one and _is_below(part, one)]
    tops += [
        (solid.max_mm[2], FLOOR if solid.state == "outside" else solid.name)
        for solid in solids
        if _is_below(solid, one)
    ]
    top, name = max(tops)
    return StandsOn(part=one.part, on=name, foam_mm=round(max(one.min_mm[2] - top, 0.0), 2))


def _is_below(under: Placement | SolidBox, one: Placement) -> bool:
    """Does it stand wholly lower, with some of the part's footprint over it?"""
    over = [min(under.max_mm[a], one.max_mm[a]) - max(under.min_mm[a], one.min_mm[a]) > _TOUCH_MM for a in (0, 1)]
    return all(over) and under.max_mm[2] <= one.min_mm[2] + _TOUCH_MM


def foam_in_words(stands: StandsOn) -> Message:
    """What goes under a part, as a step or a list says it."""
    if stands.foam_mm <= TAPE_MM:
        return say("straight on {on}", on=stands.on)
    return say("{foam_mm} of foam under it, on {on}", foam_mm=millimetres(stands.foam_mm), on=stands.on)
