"""Rooms that are no boxes: round-bottomed troughs along the bay, and rounded corners. The search sees them as steps.

Each step covers the plastic wholly and a little of the air, so that what is found lies in the true shape; what needs
the last tenth of a millimetre of a curve is not found. A round cell along its trough has steps of its own: they bar
the places of its box for which its circle would be in the plastic, not what its box would meet.
"""

import itertools
import math
from collections.abc import Iterator

from pocketspark.core.fit.bays import ShapedRoom, Space
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.packing import Block, LinearLength, Placed

# Steps for a quarter of a circle: more are nearer to it, and slower.
STEPS = 4
_ANGLES = [math.pi / 2 * step / STEPS for step in range(STEPS + 1)]
# Over a ridge a circle rises steepest at its side: there the steps are nearer to each other.
_ANGLES_OVER = [math.pi / 2 * (step / STEPS) ** 2 for step in range(STEPS + 1)]
_FAR_MM = 1e4


def steps_for(space: Space) -> list[Block]:
    """What a part may not meet, beyond its gap."""
    return [step for room in space.shaped for step in (*_corners(room), *_troughs(room))]


def round_steps_for(space: Space, part: Part, slope: float) -> list[Block]:
    """For a round cell along its trough, whose circle is to be larger by lambda times `slope`: its gap counts."""
    steps = []
    for room in space.shaped:
        steps += [*_corners(room, slope), *_in_a_smaller_trough(room, part.size[1] / 2, slope)]
        steps += _over_ridges(room, part.size[1] / 2, slope)
    return steps


def lies_in_troughs(space: Space, part: Part) -> bool:
    """A round cell is tried along the troughs alone: in one of them, or on two ridges."""
    return part.form == "round" and any(room.troughs for room in space.shaped)


def _troughs(room: ShapedRoom) -> Iterator[Block]:
    """About every ridge a stack of slabs, each wide enough for the plastic at its foot; the lowest is the floor."""
    if not room.troughs:
        return
    radius = room.trough_radius_mm
    for angle, above in itertools.pairwise(_ANGLES):
        half, top = radius * (1 - math.sin(angle)), radius * (1 - math.cos(above))
        for ridge in room.ridges_mm if angle else (room.low[1],):
            near = max(ridge - half, room.low[1])
            far = min(ridge + half, room.high[1]) if angle else room.high[1]
            yield _block(room, LinearLength(near), LinearLength(far), LinearLength(room.low[2] + top))


def _in_a_smaller_trough(room: ShapedRoom, own: float, slope: float) -> Iterator[Block]:
    """The centre of a circle of radius R + lambda keeps to a trough of radius r - R - lambda."""
    smaller = room.trough_radius_mm - own if room.troughs else 0.0
    if smaller <= 0:
        return  # it comes to rest on two ridges before it touches the bottom
    for angle, above in itertools.pairwise(_ANGLES):
        wide, steep = math.sin(angle), math.cos(above)
        top = LinearLength(room.low[2] + smaller * (1 - steep), steep * slope)
        for ridge in room.ridges_mm:
            half = smaller * (1 - wide)
            near, far = LinearLength(ridge - half, -wide * slope), LinearLength(ridge + half, wide * slope)
            yield _block(room, near, far, top, _FAR_MM)


def _over_ridges(room: ShapedRoom, own: float, slope: float) -> Iterator[Block]:
    """Over a ridge the circle has to clear its edge."""
    if not room.troughs:
        return
    smaller = room.trough_radius_mm - own
    for ridge in room.ridges_mm[1:-1]:
        for angle, above in itertools.pairwise(_ANGLES_OVER):
            wide, steep = math.cos(angle), math.sin(above)
            near = LinearLength(ridge + own * (1 - wide), -wide * slope)
            far = LinearLength(ridge - own * (1 - wide), wide * slope)
            top = LinearLength(room.low[2] + smaller + own * steep, steep * slope)
            yield _block(room, near, far, top, _FAR_MM)


def _block(room: ShapedRoom, near: LinearLength, far: LinearLength, top: LinearLength, down_mm: float = 0.0) -> Block:
    """Along the whole room. `far` may lie before `near`: then it bars places of a part that is wider than that."""
    low = (LinearLength(room.low[0]), near, LinearLength(room.low[2] - down_mm))
    return Block("trough", low, (LinearLength(room.high[0]), far, top))


def _corners(room: ShapedRoom, grows: float = 0.0) -> Iterator[Block]:
    """In every upright corner, slabs from floor to lid; `grows`: by lambda, where no gap is kept from them."""
    radius = room.corner_mm
    if not radius:
        return
    for angle, above in itertools.pairwise(_ANGLES):
        along, across = radius * (1 - math.sin(angle)), radius * (1 - math.cos(above))
        for x in _both_ends(room.low[0], room.high[0], along, grows):
            for y in _both_ends(room.low[1], room.high[1], across, grows):
                z = LinearLength(room.low[2]), LinearLength(room.high[2])
                yield Block("corner", (x[0], y[0], z[0]), (x[1], y[1], z[1]))


def _both_ends(low: float, high: float, mm: float, grows: float) -> list[tuple[LinearLength, LinearLength]]:
    near = LinearLength(low), LinearLength(low + mm, grows)
    return [near, (LinearLength(high - mm, -grows), LinearLength(high))]


def circle_left_mm(space: Space, one: Placed) -> float:
    """How much larger the circle of a round cell along its trough could be where it lies."""
    own, middle, height = one.size[1] / 2, one.low[1] + one.size[1] / 2, one.low[2] + one.size[2] / 2
    left = math.inf
    for room in space.shaped:
        if not room.troughs or one.high[0] <= room.low[0] or one.low[0] >= room.high[0]:
            continue
        radius = room.trough_radius_mm
        over_mm = height - room.low[2] - radius
        if over_mm < 0:
            aside = (middle - room.low[1]) % (2 * radius) - radius
            left = min(left, radius - math.hypot(aside, over_mm) - own)
        else:
            left = min([left, *(math.hypot(middle - ridge, over_mm) - own for ridge in room.ridges_mm[1:-1])])
    return left
