"""Turns a bay and its parts into questions for the search: how much clearance, or which size must give."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.bays import Solid, Space, Triple
from pocketspark.core.fit.parts import Part, Turned, ways_round
from pocketspark.core.fit.search import Block, Bounds, Item, LinearLength, Packing, Pose
from pocketspark.core.models.bay import SIDES, Pin, Side, WallOpening

# A socket's face lies this close behind the inside of its wall (common practice, no source).
SOCKET_CLEARANCE_MM = 0.3
# Below this much "less than the clearances" nothing is asked: it does not go in by far.
FAR_OFF_MM = 12.0


@dataclass(frozen=True)
class Yield:
    """What lambda stands for. At most one of them is set; none: clearance beyond every clearance.

    `home_axis`: this measure of the part (0 length, 1 width, 2 height) grows with lambda.
    """

    part: int | None = None
    home_axis: int | None = None
    lid: bool = False  # the lid comes down with lambda
    solid: int | None = None  # this solid's top grows with lambda

    @property
    def is_clearance(self) -> bool:
        return self.part is None and not self.lid and self.solid is None


CLEARANCE = Yield()


@dataclass(frozen=True)
class Walls:
    """Which walls may be opened, and where."""

    openings: tuple[WallOpening, ...]

    def at(self, side: Side) -> WallOpening | None:
        return next((opening for opening in self.openings if opening.side == side), None)


def question_of(
    space: Space,
    parts: Sequence[Part],
    walls: Walls,
    pins: Sequence[Pin] = (),
    yields: Yield = CLEARANCE,
    least: float = 0.0,
) -> Packing:
    """The question. Parts keep their order; the search is quickest with the largest first."""
    slope = 1.0 if yields.is_clearance else 0.0
    items = tuple(
        Item(part.name, tuple(_poses(space, part, index, walls, pins, yields, slope)))
        for index, part in enumerate(parts)
    )
    blocks = tuple(
        Block(solid.name, _lengths(solid.low), _top(solid, space, yields, index))
        for index, solid in enumerate(space.solids)
    )
    item_gap = tuple(tuple(LinearLength(max(a.gap_mm, b.gap_mm), slope) for b in parts) for a in parts)
    block_gap = tuple(tuple(LinearLength(part.gap_mm, slope) for _ in blocks) for part in parts)
    return Packing(items, blocks, item_gap, block_gap, least=least, most=60.0)


def _lengths(point: Triple) -> tuple[LinearLength, LinearLength, LinearLength]:
    return LinearLength(point[0]), LinearLength(point[1]), LinearLength(point[2])


def _top(solid: Solid, space: Space, yields: Yield, index: int) -> tuple[LinearLength, LinearLength, LinearLength]:
    """What is outside up to the lid stays outside however high the lid is raised: it goes up with it."""
    x, y, z = solid.high
    under_lid = yields.lid and solid.obstacle is None and z >= space.size[2] - 1e-6
    return (
        LinearLength(x),
        LinearLength(y),
        LinearLength(z, 1.0 if yields.solid == index else -1.0 if under_lid else 0.0),
    )


def _poses(
    space: Space, part: Part, index: int, walls: Walls, pins: Sequence[Pin], yields: Yield, slope: float
) -> list[Pose]:
    pin = next((pin for pin in pins if pin.part == part.name), None)
    found = []
    for turned in ways_round(part):
        if pin and pin.turned and pin.turned != turned.name:
            continue
        if turned.face_side and walls.at(turned.face_side) is None:
            continue
        found.append(_pose(space, part, index, turned, walls, pin, yields, slope))
    return found


def _pose(
    space: Space,
    part: Part,
    index: int,
    turned: Turned,
    walls: Walls,
    pin: Pin | None,
    yields: Yield,
    slope: float,
) -> Pose:
    """Between its walls with its clearance, and besides wherever its face and its pin hold it."""
    grows = index == yields.part
    x, y, z = (
        LinearLength(turned.size[axis], 1.0 if grows and turned.home_axes[axis] == yields.home_axis else 0.0)
        for axis in range(3)
    )
    bounds = _Held(space, (x, y, z), yields.lid)
    touched = {side for side in (turned.face_side, pin.side if pin else None) if side}
    for side in SIDES:
        if side not in touched:
            bounds.keep_off(side, LinearLength(part.gap_mm, slope))
    if turned.face_side and turned.face_centre:
        bounds.keep_near(turned.face_side, 0.0, SOCKET_CLEARANCE_MM)
        bounds.keep_in_window(walls.at(turned.face_side), turned.face_centre[2], turned.face_side)
    if pin and pin.side and pin.side != turned.face_side:
        bounds.keep_near(pin.side, part.gap_mm, part.gap_mm)
    if pin and pin.at_mm is not None:
        bounds.keep_at(pin.at_mm)
    return Pose(turned.name, (x, y, z), bounds.low, bounds.high)


AXIS_OF: Mapping[Side, tuple[int, bool]] = {
    "left": (0, False),
    "right": (0, True),
    "front": (1, False),
    "back": (1, True),
    "floor": (2, False),
    "lid": (2, True),
}


class _Held:
    """The bounds of one pose as they gather: each holds, whatever else does."""

    def __init__(self, space: Space, size: tuple[LinearLength, LinearLength, LinearLength], lid_yields: bool) -> None:
        self._space, self._size, self._lid_yields = space, size, lid_yields
        self._low: list[list[LinearLength]] = [[], [], []]
        self._high: list[list[LinearLength]] = [[], [], []]

    @property
    def low(self) -> tuple[Bounds, Bounds, Bounds]:
        x, y, z = (_those_that_count(bounds, 1) for bounds in self._low)
        return x, y, z

    @property
    def high(self) -> tuple[Bounds, Bounds, Bounds]:
        x, y, z = (_those_that_count(bounds, -1) for bounds in self._high)
        return x, y, z

    def keep_off(self, side: Side, air: LinearLength) -> None:
        """At least this far from a wall."""
        axis, far = AXIS_OF[side]
        if far:
            self._high[axis].append(self._from_far(axis, air))
        else:
            self._low[axis].append(air)

    def keep_near(self, side: Side, least: float, most: float) -> None:
        """Between these distances of a wall."""
        axis, far = AXIS_OF[side]
        if far:
            self._high[axis].append(self._from_far(axis, LinearLength(least)))
            self._low[axis].append(self._from_far(axis, LinearLength(most)))
        else:
            self._low[axis].append(LinearLength(least))
            self._high[axis].append(LinearLength(most))

    def keep_in_window(self, opening: WallOpening | None, centre: float, side: Side) -> None:
        """The middle of what shows between the heights at which the wall may be opened."""
        if opening is None or AXIS_OF[side][0] == 2:
            return
        if opening.low_mm is not None:
            self._low[2].append(LinearLength(opening.low_mm - centre))
        if opening.high_mm is not None:
            self._high[2].append(LinearLength(opening.high_mm - centre))

    def keep_at(self, corner: Sequence[float]) -> None:
        """The low corner at this place of the document, which counts from where its rooms do."""
        for axis, (at, origin) in enumerate(zip(corner, self._space.origin, strict=True)):
            self._low[axis].append(LinearLength(at - origin))
            self._high[axis].append(LinearLength(at - origin))

    def _from_far(self, axis: int, air: LinearLength) -> LinearLength:
        """Where the low corner lies with this much air before the far wall, the part's own size between."""
        down = 1.0 if self._lid_yields and axis == 2 else 0.0
        size = self._size[axis]
        return LinearLength(self._space.size[axis] - size.at - air.at, -size.slope - air.slope - down)


def _those_that_count(bounds: Sequence[LinearLength], sign: int) -> Bounds:
    """Of bounds of the same slope only the tighter one; the search is quickest with one."""
    tightest: dict[float, LinearLength] = {}
    for bound in bounds:
        other = tightest.get(bound.slope)
        if other is None or sign * bound.at > sign * other.at:
            tightest[bound.slope] = bound
    return tuple(tightest.values())
