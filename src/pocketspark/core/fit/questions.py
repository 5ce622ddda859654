"""Turns a bay and its parts into questions for the search: how much clearance, or which size must give."""

from collections.abc import Sequence
from dataclasses import dataclass

from pocketspark.core.fit.bays import Space, Triple
from pocketspark.core.fit.parts import Part, Turned, ways_round
from pocketspark.core.fit.search import Block, Item, LinearLength, Packing, Pose
from pocketspark.core.models.bay import Pin, Side, WallOpening

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
        Block(solid.name, _lengths(solid.low), _top(solid.high, yields.solid == index))
        for index, solid in enumerate(space.solids)
    )
    item_gap = tuple(tuple(LinearLength(max(a.gap_mm, b.gap_mm), slope) for b in parts) for a in parts)
    block_gap = tuple(tuple(LinearLength(part.gap_mm, slope) for _ in blocks) for part in parts)
    return Packing(items, blocks, item_gap, block_gap, least=least, most=60.0)


def _lengths(point: Triple) -> tuple[LinearLength, LinearLength, LinearLength]:
    return LinearLength(point[0]), LinearLength(point[1]), LinearLength(point[2])


def _top(high: Triple, grows: bool) -> tuple[LinearLength, LinearLength, LinearLength]:
    return LinearLength(high[0]), LinearLength(high[1]), LinearLength(high[2], 1.0 if grows else 0.0)


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
        pose = _pose(space, part, index, turned, walls, yields, slope)
        found.append(_pinned(pose, pin, space, part) if pin else pose)
    if pin and pin.at_mm is not None:
        # Held at a corner, it lies the way round that stays inside; where none does, the answer will say so.
        return [pose for pose in found if _is_inside(space, pose)] or found
    return found


def _is_inside(space: Space, pose: Pose) -> bool:
    return all(pose.low[a].at >= 0 and pose.low[a].at + pose.size[a].at <= space.size[a] + 1e-9 for a in range(3))


def _pose(space: Space, part: Part, index: int, turned: Turned, walls: Walls, yields: Yield, slope: float) -> Pose:
    grows = index == yields.part
    size = tuple(
        LinearLength(turned.size[axis], 1.0 if grows and turned.home_axes[axis] == yields.home_axis else 0.0)
        for axis in range(3)
    )
    low = [LinearLength(part.gap_mm, slope) for _ in range(3)]
    high = [_up_to(space, axis, size[axis], part.gap_mm, slope, yields.lid) for axis in range(3)]
    if turned.face_side and turned.face_centre:
        _hold_socket(space, turned, walls, size, low, high, yields)
    return Pose(turned.name, (size[0], size[1], size[2]), (low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _up_to(space: Space, axis: int, size: LinearLength, gap: float, slope: float, lid: bool) -> LinearLength:
    """Where the low corner may lie at most, with the part's own size still before the wall."""
    down = 1.0 if lid and axis == 2 else 0.0
    return LinearLength(space.size[axis] - size.at - gap, -size.slope - slope - down)


def _hold_socket(
    space: Space,
    turned: Turned,
    walls: Walls,
    size: tuple[LinearLength, ...],
    low: list[LinearLength],
    high: list[LinearLength],
    yields: Yield,
) -> None:
    """The socket's end touches its wall, and its centre lies between the heights where that may be opened."""
    side, centre = turned.face_side, turned.face_centre
    assert side is not None
    assert centre is not None
    axis = {"left": 0, "right": 0, "front": 1, "back": 1, "floor": 2, "lid": 2}[side]
    if side in ("left", "front", "floor"):
        low[axis], high[axis] = LinearLength(0.0), LinearLength(SOCKET_CLEARANCE_MM)
    else:
        down = 1.0 if yields.lid and axis == 2 else 0.0
        wall = LinearLength(space.size[axis] - size[axis].at, -size[axis].slope - down)
        low[axis], high[axis] = LinearLength(wall.at - SOCKET_CLEARANCE_MM, wall.slope), wall
    opening = walls.at(side)
    if opening is None or axis == 2:
        return
    if opening.low_mm is not None and opening.low_mm - centre[2] > low[2].at:
        low[2] = LinearLength(opening.low_mm - centre[2])
    if opening.high_mm is not None and opening.high_mm - centre[2] < high[2].at:
        high[2] = LinearLength(opening.high_mm - centre[2])


def _pinned(pose: Pose, pin: Pin, space: Space, part: Part) -> Pose:
    """The pose held to its pin: its corner at a place, or the part against a wall."""
    low, high = list(pose.low), list(pose.high)
    if pin.at_mm is not None:
        low = high = [LinearLength(at) for at in pin.at_mm]
    elif pin.side is not None:
        axis, far = {
            "left": (0, False),
            "right": (0, True),
            "front": (1, False),
            "back": (1, True),
            "floor": (2, False),
            "lid": (2, True),
        }[pin.side]
        at = space.size[axis] - pose.size[axis].at - part.gap_mm if far else part.gap_mm
        low[axis] = high[axis] = LinearLength(at, -pose.size[axis].slope if far else 0.0)
    return Pose(pose.name, pose.size, (low[0], low[1], low[2]), (high[0], high[1], high[2]))
