"""The second look at rooms that are no boxes: troughs as half cylinders and corners as quarter circles, exactly.

It knows nothing of the steps that the search takes for them.
"""

import math
from collections.abc import Iterator, Sequence

import numpy as np

from pocketspark.core.message import Message, say
from pocketspark.core.models.bay import Bay, Room
from pocketspark.core.units.figures import millimetres

# Places are written to a ten-thousandth of a millimetre; a circle is looked at in so many places.
EXACT_MM = 2e-3
PLACES = 801

Corners = tuple[Sequence[float], Sequence[float]]


def doubts_of_curves(
    name: str, box: Corners, air_mm: float, gap_mm: float, *, is_round: bool, bay: Bay
) -> Iterator[Message]:
    """What speaks against a part with this air round it: in the plastic of a rounded corner, or of a trough, in which
    it lies with its gap alone."""
    origin = [min(room.at_mm[axis] for room in bay.rooms) for axis in range(3)]
    low = [at + start - air_mm for at, start in zip(box[0], origin, strict=True)]
    high = [at + start + air_mm for at, start in zip(box[1], origin, strict=True)]
    along = is_round and abs((box[1][1] - box[0][1]) - (box[1][2] - box[0][2])) < EXACT_MM < box[1][0] - box[0][0]
    for room in bay.rooms:
        inside = [high[a] > room.at_mm[a] and low[a] < room.at_mm[a] + room.inside_mm[a] for a in range(3)]
        if not all(inside):
            continue
        if room.troughs and not _over_the_troughs(room, *_lying(box, origin, gap_mm), is_round=along):
            yield say("{name} does not lie {air_mm} clear of the troughs", name=name, air_mm=millimetres(gap_mm, 2))
        if room.corner_mm and not _clear_of_the_corners(room, low, high):
            yield say(
                "{name} does not lie {air_mm} clear of the rounded corners", name=name, air_mm=millimetres(air_mm, 2)
            )


def _lying(box: Corners, origin: Sequence[float], gap_mm: float) -> tuple[list[float], list[float]]:
    low = [at + start - gap_mm for at, start in zip(box[0], origin, strict=True)]
    return low, [at + start + gap_mm for at, start in zip(box[1], origin, strict=True)]


def _over_the_troughs(room: Room, low: Sequence[float], high: Sequence[float], *, is_round: bool) -> bool:
    """Its flat underside over the plastic at every place across; of a circle its middle, as far from all of it."""
    width, floor = room.inside_mm[1], room.at_mm[2]
    radius = width / room.troughs / 2
    near, far = max(low[1], room.at_mm[1]), min(high[1], room.at_mm[1] + width)
    ridges = [room.at_mm[1] + 2 * radius * number for number in range(room.troughs + 1)]
    across = np.array([*np.linspace(near, far, PLACES), *(ridge for ridge in ridges if near < ridge < far)])
    from_axis = np.abs((across - room.at_mm[1]) % (2 * radius) - radius)
    plastic = floor + radius - np.sqrt(np.maximum(radius**2 - from_axis**2, 0.0))
    if not is_round:
        return bool(low[2] >= plastic.max() - EXACT_MM)
    own, middle, height = (high[1] - low[1]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2
    nearest = np.hypot(across - middle, plastic - height).min()
    return bool(nearest >= own - EXACT_MM and (plastic[np.abs(across - middle) < own / 2] <= height).all())


def _clear_of_the_corners(room: Room, low: Sequence[float], high: Sequence[float]) -> bool:
    """Seen from above, each corner of its box is inside the quarter circle of the room's."""
    radius = room.corner_mm
    for x, y in ((low[0], low[1]), (low[0], high[1]), (high[0], low[1]), (high[0], high[1])):
        reach = []
        for at, start, length in ((x, room.at_mm[0], room.inside_mm[0]), (y, room.at_mm[1], room.inside_mm[1])):
            reach.append(max(start + radius - at, at - (start + length - radius), 0.0))
        if min(reach) > 0 and math.hypot(*reach) > radius + EXACT_MM:
            return False
    return True
