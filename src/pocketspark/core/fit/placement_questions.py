"""Turns a bay and its parts into questions for the search: how much clearance, or which size must give."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass

from pocketspark.core.fit.bays import Solid, Space, Triple
from pocketspark.core.fit.blocks import Part, Turned, ways_round
from pocketspark.core.fit.bore import chord_half_mm, side_of_a_tube, ways_in_bore
from pocketspark.core.fit.openings import DEEP_MM, edge_mm, hole_mm
from pocketspark.core.fit.packing import ANY_GAP, CUT_MM, Block, Bounds, Circle, Item, LinearLength, Packing, Pose
from pocketspark.core.fit.shapes import lies_in_troughs, round_steps_for, steps_for
from pocketspark.core.models.bay import SIDES, Pin, Side, WallOpening

# A socket's face lies this close behind the inside of its wall (common practice, no source).
SOCKET_CLEARANCE_MM = 0.3
NODES_WITH_STEPS = 15_000
# Below this much "less than the clearances" nothing is asked: it does not go in by far.
FAR_OFF_MM = 12.0


@dataclass(frozen=True)
class Yield:
    """What lambda stands for. At most one of them is set; none: clearance beyond every clearance.

    `home_axes`: these measures of the parts (0 length, 1 width, 2 height) grow with lambda: of like cells all, of a
    round one both across. `solid_side`: from where a solid grows.
    """

    parts: tuple[int, ...] = ()
    home_axes: tuple[int, ...] = ()
    lid: bool = False  # the lid comes down with lambda
    solid: int | None = None
    solid_side: Side = "lid"
    window: Side | None = None  # the heights at which this wall may be opened come nearer to each other with lambda
    thinned: Side | None = None  # this wall gets thicker from inside, where something shows in it, with lambda

    @property
    def is_clearance(self) -> bool:
        return not self.parts and not self.lid and (self.solid, self.window, self.thinned) == (None, None, None)


CLEARANCE = Yield()


@dataclass(frozen=True)
class Walls:
    """Which walls may be opened, and where; and how thick they all are."""

    openings: tuple[WallOpening, ...]
    wall_mm: float

    def at(self, side: Side) -> WallOpening | None:
        return next((opening for opening in self.openings if opening.side == side), None)


def question_of(
    space: Space,
    parts: Sequence[Part],
    walls: Walls,
    pins: Sequence[Pin] = (),
    yields: Yield = CLEARANCE,
    least: float = 0.0,
    spare_mm: float = 0.0,
    around_mm: float = 0.0,
) -> Packing:
    """The question. Parts keep their order; the search is quickest with the largest first.

    `spare_mm`: beyond every clearance, as much as the calipers may be off. `around_mm`: in a round bay, the clearance
    that is kept from its wall; there no question is asked below 0.
    """
    slope = 1.0 if yields.is_clearance else 0.0
    air = [LinearLength(part.gap_mm + spare_mm, slope) for part in parts]
    to_hard = [LinearLength(part.gap_to_hard_mm + spare_mm, slope) for part in parts]
    steps = _steps(space, parts, yields, air, to_hard)
    circles: tuple[Circle, ...] = ()
    if space.bore_mm is not None:
        in_side = any(side_of_a_tube(opening.side) for opening in walls.openings)
        held = {pin.part for pin in pins if pin.side and side_of_a_tube(pin.side)}
        at_wall = {part.name for part in parts if part.name in held or (part.face and in_side)}
        circles = _circles(space.bore_mm / 2, parts, air, at_wall, around_mm)
    items = tuple(
        Item(part.name, tuple(_poses(space, part, index, walls, pins, yields, air[index])))
        for index, part in enumerate(parts)
    )
    solids = [_block(solid, space, yields, index) for index, solid in enumerate(space.solids)]
    blocks = (*solids, *steps)
    item_gap = tuple(tuple(max(one, other) for other in air) for one in air)
    block_gap = tuple(
        (
            *(hard if solid.is_hard else one for solid in space.solids),
            *(barred.get(index, ANY_GAP) for barred in steps.values()),
        )
        for index, (one, hard) in enumerate(zip(air, to_hard, strict=True))
    )
    # Every step is looked at in every node: so many take as long as the usual number does without them.
    limit = {"node_limit": NODES_WITH_STEPS} if steps else {}
    return Packing(items, blocks, item_gap, block_gap, circles, least=least, most=60.0, **limit)


def _steps(
    space: Space,
    parts: Sequence[Part],
    yields: Yield,
    air: Sequence[LinearLength],
    to_hard: Sequence[LinearLength],
) -> dict[Block, dict[int, LinearLength]]:
    """The steps of troughs and rounded corners, and the gap to each for the parts that keep off it.

    The ridge between two troughs is as hard as a rib is.
    """
    found: dict[Block, dict[int, LinearLength]] = {}
    for index, part in enumerate(parts if space.shaped else ()):
        # A round cell that is to get slimmer is taken as its box: its steps are of one diameter.
        if lies_in_troughs(space, part) and index not in yields.parts:
            gap, steps = LinearLength(air[index].at), round_steps_for(space, part, air[index].slope)
        else:
            gap, steps = air[index], steps_for(space)
        for step in steps:
            found.setdefault(step, {})[index] = to_hard[index] if step.name == "trough" and gap is air[index] else gap
    return found


def _circles(
    radius_mm: float, parts: Sequence[Part], air: Sequence[LinearLength], at_wall: Collection[str], around_mm: float
) -> tuple[Circle, ...]:
    """For every part its own. What shows in the side of the tube, or is held there, counts no clearance there."""
    found = []
    for part, gap in zip(parts, air, strict=True):
        own_mm = part.size[1] / 2 if part.form == "round" else 0.0
        gap_mm = gap.at if part.name in at_wall else gap.at + gap.slope * around_mm
        found.append(Circle(radius_mm, radius_mm - own_mm - gap_mm, own_mm))
    return tuple(found)


def _block(solid: Solid, space: Space, yields: Yield, index: int) -> Block:
    low, high = [LinearLength(at) for at in solid.low], [LinearLength(at) for at in solid.high]
    if yields.solid == index:
        axis, far = AXIS_OF[yields.solid_side]
        if far:
            high[axis] = LinearLength(solid.high[axis], 1.0)
        else:
            low[axis] = LinearLength(solid.low[axis], -1.0)
    elif yields.lid and solid.on_lid:
        low[2], high[2] = LinearLength(solid.low[2], -1.0), LinearLength(solid.high[2], -1.0)
    elif yields.lid and solid.obstacle is None and solid.high[2] >= space.size[2] - 1e-6:
        # What is outside up to the lid stays outside however high the lid is raised.
        high[2] = LinearLength(solid.high[2], -1.0)
    return Block(solid.name, (low[0], low[1], low[2]), (high[0], high[1], high[2]))


def _poses(
    space: Space, part: Part, index: int, walls: Walls, pins: Sequence[Pin], yields: Yield, air: LinearLength
) -> list[Pose]:
    pin = next((pin for pin in pins if pin.part == part.name), None)
    along_alone = bool(space.shaped) and index not in yields.parts and lies_in_troughs(space, part)
    ways = ways_round(part, index in yields.parts)
    found = []
    for turned in ways if space.bore_mm is None else ways_in_bore(space.bore_mm / 2, part, ways):
        if pin and pin.turned and pin.turned != turned.name:
            continue
        if along_alone and turned.home_axes[0] != 0:
            continue
        if turned.face_side and walls.at(turned.face_side) is None:
            continue
        found.append(_pose(space, part, index, turned, walls, pin, yields, air))
    return found


def _pose(
    space: Space,
    part: Part,
    index: int,
    turned: Turned,
    walls: Walls,
    pin: Pin | None,
    yields: Yield,
    air: LinearLength,
) -> Pose:
    """Between its walls with its clearance, and besides wherever its face and its pin hold it."""
    grows = yields.home_axes if index in yields.parts else ()
    x, y, z = (LinearLength(turned.size[axis], float(turned.home_axes[axis] in grows)) for axis in range(3))
    bounds = _Held(space, (x, y, z), yields.lid)
    touched = {side for side in (turned.face_side, pin.side if pin else None) if side}
    if part.cradle_mm and not pin:
        touched.add("floor")
        bounds.keep_near("floor", LinearLength(0.0), LinearLength(0.0))
    for side in SIDES:
        if side not in touched:
            bounds.keep_off(side, air)
    opening = walls.at(turned.face_side) if turned.face_side else None
    if space.bore_mm is not None and part.form != "round":
        bounds.keep_in_bore(space.bore_mm / 2 - air.at)
    if turned.face_side and turned.face_centre and opening and space.bore_mm and side_of_a_tube(opening.side):
        # Flat against a round wall: as near as the corners of its end let it.
        off_mm = air.at + _behind_a_round_wall(space.bore_mm / 2 - air.at, part, turned, opening.side)
        bounds.keep_near(opening.side, LinearLength(0.0), LinearLength(off_mm + SOCKET_CLEARANCE_MM))
        bounds.keep_in_window(opening, turned.face_centre, float(yields.window == opening.side))
    elif turned.face_side and turned.face_centre and opening and part.face:
        # As deep into the wall as it goes: what shows deep needs the larger hole.
        into_mm = opening.takes_in_mm(walls.wall_mm, part.face.nose_mm)
        off_mm = _off_the_wall_mm(walls.wall_mm - into_mm)
        behind = (LinearLength(at - into_mm, float(yields.thinned == opening.side)) for at in (0, off_mm))
        bounds.keep_near(turned.face_side, *behind)
        narrows = float(yields.window == opening.side)
        if space.bore_mm is None:
            hole = hole_mm(part.face, turned, walls.wall_mm - into_mm)
            bounds.keep_hole_in_wall(opening, turned.face_centre, hole, walls.wall_mm, narrows)
        else:
            bounds.keep_in_window(opening, turned.face_centre, narrows)
    if pin and pin.side and pin.side != turned.face_side:
        off_mm = part.gap_mm
        if space.bore_mm and side_of_a_tube(pin.side):
            off_mm += CUT_MM + _behind_a_round_wall(space.bore_mm / 2 - off_mm - CUT_MM, part, turned, pin.side)
        bounds.keep_near(pin.side, LinearLength(part.gap_mm), LinearLength(off_mm))
    if pin and pin.room:
        bounds.keep_inside(space.rooms.get(pin.room))
    if pin and pin.at_mm is not None:
        bounds.keep_at(pin.at_mm)
    return Pose(turned.name, (x, y, z), bounds.low, bounds.high)


def _off_the_wall_mm(depth_mm: float) -> float:
    """How far behind its place at the wall a face may lie: what could have the smaller hole keeps it."""
    return SOCKET_CLEARANCE_MM if depth_mm > DEEP_MM else min(SOCKET_CLEARANCE_MM, DEEP_MM - depth_mm)


def _behind_a_round_wall(radius_mm: float, part: Part, turned: Turned, side: Side) -> float:
    """How far a flat end stays off the innermost line of a bore of this radius."""
    across_mm = 0.0 if part.form == "round" else turned.size[3 - AXIS_OF[side][0]]
    return radius_mm - chord_half_mm(radius_mm, across_mm)


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

    def keep_near(self, side: Side, least: LinearLength, most: LinearLength) -> None:
        """Between these distances of a wall."""
        axis, far = AXIS_OF[side]
        if far:
            self._high[axis].append(self._from_far(axis, least))
            self._low[axis].append(self._from_far(axis, most))
        else:
            self._low[axis].append(least)
            self._high[axis].append(most)

    def keep_in_window(self, opening: WallOpening, centre: Triple, narrows: float) -> None:
        """The middle of what shows where the wall may be opened; the heights may come nearer to each other."""
        across, _ = AXIS_OF[opening.side]
        if across == 2:
            return
        along = 1 - across
        if opening.from_mm is not None:
            self._low[along].append(LinearLength(opening.from_mm - centre[along]))
        if opening.to_mm is not None:
            self._high[along].append(LinearLength(opening.to_mm - centre[along]))
        if opening.low_mm is not None:
            self._low[2].append(LinearLength(opening.low_mm - centre[2], narrows))
        if opening.high_mm is not None:
            self._high[2].append(LinearLength(opening.high_mm - centre[2], -narrows))

    def keep_hole_in_wall(
        self, opening: WallOpening, centre: Triple, hole: tuple[float, float], wall_mm: float, narrows: float
    ) -> None:
        """The whole hole where the wall may be opened, and off the edges of its outer face."""
        across, _ = AXIS_OF[opening.side]
        axes = [axis for axis in range(3) if axis != across]
        level = across == 2
        stated = (
            [(None, None), (None, None)]
            if level
            else [
                (opening.from_mm, opening.to_mm),
                (opening.low_mm, opening.high_mm),
            ]
        )
        past_mm = wall_mm - edge_mm(wall_mm)
        for axis, mm, (start, end) in zip(axes, hole, stated, strict=True):
            slope = narrows if axis == 2 else 0.0
            before, behind = mm / 2 - centre[axis], mm / 2 + centre[axis]
            if start is not None:
                self._low[axis].append(LinearLength(start + before, slope))
            if end is not None:
                self._high[axis].append(LinearLength(end - behind, -slope))
            # Where it hardly stands out beyond the part its walls hold it anyway.
            if before > past_mm:
                self._low[axis].append(LinearLength(before - past_mm))
            if behind - self._size[axis].at > past_mm:
                down = 1.0 if self._lid_yields and axis == 2 else 0.0
                self._high[axis].append(LinearLength(self._space.size[axis] + past_mm - behind, -down))

    def keep_in_bore(self, radius_mm: float) -> None:
        """No part is as high as the bore where it is wide: follows from its circle, and spares it many a look."""
        middle = self._space.size[1] / 2
        for axis, other in ((1, 2), (2, 1)):
            half = chord_half_mm(radius_mm, self._size[other].at)
            self._low[axis].append(LinearLength(middle - half))
            self._high[axis].append(LinearLength(middle + half - self._size[axis].at))

    def keep_inside(self, room: tuple[Triple, Triple] | None) -> None:
        """Wholly in one of the rooms; one that is not there holds nothing."""
        for axis in range(3) if room else ():
            assert room is not None
            size = self._size[axis]
            self._low[axis].append(LinearLength(room[0][axis]))
            self._high[axis].append(LinearLength(room[1][axis] - size.at, -size.slope))

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
