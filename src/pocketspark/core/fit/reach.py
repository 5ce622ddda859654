"""Can a wire be led to everybody's pads? A part that fits but whose pads are shut in cannot be soldered to.

The room left for a wire's middle line is the bay less every solid grown by half a wire. Cut along the faces of those
grown solids it falls into small boxes that are wholly free or wholly taken, so whether two places are joined is exact,
with no grid to choose. A round cell leaves the corners of its box: it counts as the cross that the circle just fills.
A bore, troughs and rounded corners are steps that cover their plastic: a wire that just passes a curve may be missed.
"""

import itertools
import math
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.fit.allowances import TABS_MM, WIRE_ROOM_MM
from pocketspark.core.fit.bays import Space, Triple
from pocketspark.core.fit.blocks import Part, Turned
from pocketspark.core.fit.packing import Block, Placed
from pocketspark.core.fit.shapes import steps_for

# Outside of the usual hook-up wire, insulation included (from memory: 28 AWG with silicone).
HOOK_UP_WIRE_MM = 1.2
# A quarter of a bore in so many steps: what they bar of the bore is a thirtieth of its radius at most.
STEPS_OF_A_BORE = 24
# Corner of the box round a circle that the circle leaves free: (1 - 1 / sqrt 2) / 2 of its diameter.
CORNER_SHARE = (1 - 0.5**0.5) / 2

Box = tuple[Triple, Triple]


@dataclass(frozen=True)
class Wired:
    """A placed part as a wire meets it: what it fills, and the places where its pads may be; one of them must do."""

    name: str
    solid: tuple[Box, ...]
    pads: tuple[Box, ...]


def shut_in(space: Space, placed: Sequence[Placed], parts: Sequence[Part], ways: Sequence[Turned]) -> tuple[str, ...]:
    """Names of the parts whose pads no wire can reach from where most others can be; `ways` as placed."""
    wired = [_wired(one, parts[one.item], way) for one, way in zip(placed, ways, strict=True)]
    barred = space.solids if space.for_wires is None else space.for_wires
    solids = [(solid.low, solid.high) for solid in barred] + [box for one in wired for box in one.solid]
    solids += [_where_it_is(step) for step in steps_for(space)]
    room = _WireRoom(space, solids, [box for one in wired for box in one.pads])
    wanting = [one for one in wired if one.pads]
    best: set[str] = set()
    for one in wanting:
        if one.name in best:
            continue
        flooded = room.flooded_from(one.pads)
        reached = {other.name for other in wanting if room.meets(flooded, other.pads)}
        best = max(best, reached, key=len)
    return tuple(one.name for one in wanting if one.name not in best)


def _where_it_is(step: Block) -> Box:
    (x0, y0, z0), (x1, y1, z1) = step.low, step.high
    return (x0.at, y0.at, z0.at), (x1.at, y1.at, z1.at)


def _wired(one: Placed, part: Part, way: Turned) -> Wired:
    """Which end of a board without a socket has the pads is the maker's choice, so both are free for it."""
    low, high = one.low, one.high
    along = way.home_axes.index(0)
    if part.kind == "cell" and part.form == "round":
        return Wired(part.name, *_round_cell(low, high, along))
    if part.kind == "cell" and part.form == "pouch":
        ends = _ends(low, high, along, TABS_MM)
        body_low, body_high = _between(low, high, along, TABS_MM)
        # A wire over a pouch is not pressed into it by the lid where there is room for two.
        return Wired(part.name, ((body_low, _raised(body_high, HOOK_UP_WIRE_MM)),), ends)
    if part.kind in ("board", "lamp", "switch"):
        # A stop is narrower than the board, and lets its wires past.
        near, far = _ends(low, high, along, WIRE_ROOM_MM + part.stop_mm)
        if way.face_side is None:
            return Wired(part.name, (_between(low, high, along, WIRE_ROOM_MM),), (near, far))
        pads = far if way.face_side in ("left", "front", "floor") else near
        return Wired(part.name, (_without(low, high, along, pads),), (pads,))
    return Wired(part.name, ((low, high),), ())


def _round_cell(low: Triple, high: Triple, along: int) -> tuple[tuple[Box, ...], tuple[Box, ...]]:
    """The cross that fills the circle, and the four corners along it, where wires run to either end."""
    one, other = (axis for axis in range(3) if axis != along)
    corner = (high[one] - low[one]) * CORNER_SHARE
    solid = (_between(low, high, one, corner), _between(low, high, other, corner))
    sides = _ends(low, high, one, corner)
    return solid, tuple(box for side in sides for box in _ends(*side, other, corner))


def _outside_a_circle(size: Triple, radius: float) -> Iterator[Box]:
    """Along a tube all that is further from its middle line than this, and a little of what is not."""
    middle = size[1] / 2
    angles = [math.pi / 2 * step / STEPS_OF_A_BORE for step in range(STEPS_OF_A_BORE + 1)]
    for angle, further in itertools.pairwise(angles):
        y, z = radius * math.cos(further), radius * math.sin(angle)
        for y0, y1 in ((0.0, middle - y), (middle + y, size[1])):
            for z0, z1 in ((0.0, middle - z), (middle + z, size[2])):
                yield (0.0, y0, z0), (size[0], y1, z1)


def _ends(low: Triple, high: Triple, axis: int, mm: float) -> tuple[Box, Box]:
    return (low, _set(high, axis, low[axis] + mm)), (_set(low, axis, high[axis] - mm), high)


def _between(low: Triple, high: Triple, axis: int, mm: float) -> Box:
    return _set(low, axis, low[axis] + mm), _set(high, axis, high[axis] - mm)


def _without(low: Triple, high: Triple, axis: int, end: Box) -> Box:
    """The box less a slab at one of its ends."""
    return (_set(low, axis, end[1][axis]), high) if end[0] == low else (low, _set(high, axis, end[0][axis]))


def _raised(point: Triple, mm: float) -> Triple:
    return _set(point, 2, point[2] + mm)


def _set(point: Triple, axis: int, value: float) -> Triple:
    x, y, z = (value if a == axis else point[a] for a in range(3))
    return x, y, z


class _WireRoom:
    """Where the middle line of a wire may run: free[i, j, k] of the boxes between the cuts."""

    def __init__(self, space: Space, solids: Iterable[Box], pads: Iterable[Box]) -> None:
        half, size = HOOK_UP_WIRE_MM / 2, space.size
        grown = [(tuple(v - half for v in low), tuple(v + half for v in high)) for low, high in solids]
        if space.bore_mm is not None:
            grown += _outside_a_circle(size, space.bore_mm / 2 - half)
        boxes = [*grown, *pads]
        self._cuts = [
            np.unique(np.clip([half, size[a] - half, *(v for box in boxes for v in (box[0][a], box[1][a]))],
                              half, max(size[a] - half, half)))
            for a in range(3)
        ]  # fmt: skip
        self._free = np.ones([max(len(cuts) - 1, 0) for cuts in self._cuts], dtype=bool)
        for low, high in grown:
            self._free[self._inside(low, high)] = False

    def _inside(self, low: Sequence[float], high: Sequence[float]) -> tuple[slice, slice, slice]:
        """The boxes within these corners, which lie on cuts."""
        x, y, z = (
            slice(int(np.searchsorted(cuts, low[a] - 1e-9)), max(int(np.searchsorted(cuts, high[a] - 1e-9)), 0))
            for a, cuts in enumerate(self._cuts)
        )
        return x, y, z

    def flooded_from(self, pads: Sequence[Box]) -> NDArray[np.bool_]:
        """Every box that a wire can be led to from these pads."""
        wet = np.zeros_like(self._free)
        for low, high in pads:
            where = self._inside(low, high)
            wet[where] = self._free[where]
        reached = -1
        while (now := int(wet.sum())) != reached:
            reached = now
            for axis in range(3):
                self._spread(wet, axis)
        return wet

    def _spread(self, wet: NDArray[np.bool_], axis: int) -> None:
        """To every neighbour along one axis, there and back, so that a straight run takes one pass."""
        cells, free = np.moveaxis(wet, axis, 0), np.moveaxis(self._free, axis, 0)
        for i in range(1, len(cells)):
            cells[i] |= cells[i - 1] & free[i]
        for i in range(len(cells) - 2, -1, -1):
            cells[i] |= cells[i + 1] & free[i]

    def meets(self, wet: NDArray[np.bool_], pads: Sequence[Box]) -> bool:
        return any(bool(wet[self._inside(low, high)].any()) for low, high in pads)
