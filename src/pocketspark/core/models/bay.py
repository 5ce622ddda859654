"""The room the old batteries leave: boxes or a tube, what stands in it, and which walls may be opened.

Inside measures in mm. x runs along the length from the left wall, y across from the front wall, z up from the floor;
the lid is on top.
"""

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from pocketspark.core.models.model import LongMillimetres, Model, Row, RowId, Title, named_rows, refusal
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.models.tools import CALIPERS
from pocketspark.core.units.figures import as_typed, millimetres, sizes
from pocketspark.core.units.quantity import Quantity

Side = Literal["left", "right", "front", "back", "floor", "lid"]
SIDES: tuple[Side, ...] = ("left", "right", "front", "back", "floor", "lid")
Arrangement = Literal["side_by_side", "end_to_end", "two_rows"]

ARRANGEMENTS: dict[Arrangement, tuple[str, str]] = {
    "side_by_side": ("Side by side", "each in its own trough"),
    "end_to_end": ("End to end", "in one tube or trough"),
    "two_rows": ("Two rows", "half of them on top of, or behind, the others"),
}

Coordinate = Annotated[float, Quantity("mm", -1000, 3000)]
SmallLength = Annotated[float, Quantity("mm", 0, 200)]
Corner = Annotated[tuple[Coordinate, ...], Field(min_length=3, max_length=3)]
Extent = Annotated[tuple[LongMillimetres, ...], Field(min_length=3, max_length=3)]


OBSTACLE_STATES: dict[str, tuple[str, str]] = {
    "keep": ("stays", ""),
    "trim": ("may be trimmed", ""),
    "removed": ("is removed", ""),
}


class Room(Row):
    """One box of the bay. Several join to one space where they touch or overlap."""

    name: Annotated[str, Field(max_length=60), ON_ONE_LINE] = ""
    at_mm: Corner = (0.0, 0.0, 0.0)
    size_mm: Extent
    troughs: Annotated[int, Field(ge=0, le=6)] = 0  # round-bottomed, side by side along x; 0: a flat floor
    corner_mm: SmallLength = 0.0  # radius of its four upright corners
    narrows_mm: SmallLength = 0.0  # so much less long and wide at its floor, where walls lean; measured under the lid

    @property
    def inside_mm(self) -> tuple[float, ...]:
        """What a part may count with from floor to lid: the box on its floor, whatever the lean between."""
        length, width, height = self.size_mm
        return (round(length - self.narrows_mm, 4), round(width - self.narrows_mm, 4), height)

    @model_validator(mode="after")
    def _has_room_for_its_shape(self) -> Self:
        if 2 * self.narrows_mm > min(self.size_mm[:2]):
            raise refusal(
                "Walls that lean by {narrows} leave less than half of {size} at the floor. Measure both again.",
                narrows=as_typed(self.narrows_mm),
                size=sizes(*self.size_mm[:2], digits=None),
            )
        length, width, height = self.inside_mm
        if 2 * self.corner_mm > min(length, width):
            raise refusal(
                "corners of {corner} do not go into {size}: half at most",
                corner=as_typed(self.corner_mm),
                size=sizes(length, width, digits=None),
            )
        if self.troughs and width / self.troughs / 2 > height:
            deep = millimetres(width / self.troughs / 2)
            raise refusal(
                "{count} round troughs in {width} would be {deep} deep, and it is {height}",
                count=self.troughs,
                width=as_typed(width),
                deep=deep,
                height=as_typed(height),
            )
        return self


class Passage(Row):
    """A gap between two spaces of the case through which wires are led, and no part."""

    name: Title
    at_mm: Corner
    size_mm: Extent


class Tube(Model):
    """A round bay along x: inner diameter, and length between its ends."""

    diameter_mm: LongMillimetres
    length_mm: LongMillimetres


class Obstacle(Row):
    """Something that stands in the bay. `trim`: it may be cut down; `removed`: it is gone already.

    `on_lid`: it hangs from the lid, as its ribs and its catch do: it goes up with it, and is away while it is open.
    """

    name: Title
    at_mm: Corner
    size_mm: Extent
    on_lid: bool = False
    state: Literal["keep", "trim", "removed"] = "keep"


class WallOpening(Row):
    """A wall that may be opened, and between which heights over the floor; None: all of it.

    `from_mm`, `to_mm`: between which places along the wall, x at front and back, y at the ends; floor and lid: all.
    `thinned_mm`: by so much it is cut away from inside where something shows in it.
    """

    side: Side
    low_mm: SmallLength | None = None
    high_mm: SmallLength | None = None
    from_mm: SmallLength | None = None
    to_mm: SmallLength | None = None
    thinned_mm: SmallLength = 0.0

    def takes_in_mm(self, wall_mm: float, nose_mm: float) -> float:
        """How deep a part with this nose goes into the wall: its end where it is thinned, and its nose in the rest."""
        return self.thinned_mm + min(nose_mm, wall_mm - self.thinned_mm)

    @model_validator(mode="after")
    def _right_way_up(self) -> Self:
        if self.low_mm is not None and self.high_mm is not None and self.low_mm >= self.high_mm:
            low, high = as_typed(self.low_mm), as_typed(self.high_mm)
            raise refusal("The wall opens from {low} up to {high}. Swap the two.", low=low, high=high)
        if self.from_mm is not None and self.to_mm is not None and self.from_mm >= self.to_mm:
            begins, ends = as_typed(self.from_mm), as_typed(self.to_mm)
            raise refusal("The wall opens from {begins} along to {ends}. Swap the two.", begins=begins, ends=ends)
        return self


# What has to stay of a wall that is thinned from inside (common practice, no source).
LEAST_WALL_MM = 0.8


class Bay(Model):
    """The bay as measured. Either `rooms` or a `tube`. Rooms that lie apart are joined by `passages`, for wires."""

    rooms: Annotated[tuple[Room, ...], named_rows("room"), Field(max_length=6)] = ()
    passages: Annotated[tuple[Passage, ...], named_rows("gap"), Field(max_length=4)] = ()
    tube: Tube | None = None
    wall_mm: Annotated[float, Quantity("mm", 0.2, 20)] = 2.0
    walls: Annotated[tuple[WallOpening, ...], named_rows("wall"), Field(max_length=6)] = (
        WallOpening(id="wall1", side="left"),
        WallOpening(id="wall2", side="right"),
    )
    lid_raise_mm: SmallLength | None = None  # how far the lid may be raised; None: as far as need be
    lid_raised_mm: SmallLength = 0.0  # how far it is to be raised
    lid_depth_mm: SmallLength = 0.0  # how deep it is itself, its walls with it; of two half shells the upper one
    tolerance_mm: Annotated[float, Quantity("mm", 0, 5)] = CALIPERS["usual"].right_to
    obstacles: Annotated[tuple[Obstacle, ...], named_rows("obstacle"), Field(max_length=12)] = ()

    @model_validator(mode="after")
    def _is_a_bay(self) -> Self:
        if bool(self.rooms) == (self.tube is not None):
            raise refusal("a bay is either one or more boxes or one tube: fill in one of the two")
        if self.rooms and not _connected((*self.rooms, *self.passages)):
            raise refusal("these boxes do not touch: name the gap between them that wires go through, with its size")
        for wall in self.walls:
            if wall.thinned_mm and wall.thinned_mm > self.wall_mm - LEAST_WALL_MM + 1e-6:
                raise refusal(
                    "of the {side} wall's {wall} at least {least} stay where it is thinned",
                    side=wall.side,
                    wall=as_typed(self.wall_mm),
                    least=as_typed(LEAST_WALL_MM),
                )
        if len(self.rooms) > 1 and any(room.narrows_mm for room in self.rooms):
            raise refusal("walls that lean are counted in a bay of one box: give each of several as it is at its floor")
        if self.tube is not None and self.passages:
            raise refusal("a tube is one space: it has no gaps to another")
        if self.lid_depth_mm and (self.tube or self.lid_depth_mm >= max(room.size_mm[2] for room in self.rooms)):
            raise refusal(
                "A lid {deep} deep would be the whole case. Enter less than the depth of the bay.",
                deep=as_typed(self.lid_depth_mm),
            )
        if self.lid_raise_mm is not None and self.lid_raised_mm > self.lid_raise_mm:
            raise refusal(
                "The lid is raised by {raised} and can be raised by {most} at most.",
                raised=as_typed(self.lid_raised_mm),
                most=as_typed(self.lid_raise_mm),
            )
        for first, second in _pairs([o for o in self.obstacles if o.state != "removed"]):
            if _overlap(first, second):
                raise refusal(
                    "{first} and {second} stand in the same place: measure one of them again",
                    first=first.name,
                    second=second.name,
                )
        if self.rooms and any(min(room.inside_mm) <= self.wall_mm for room in self.rooms):
            raise refusal("The bay is thinner than its own wall of {wall}", wall=as_typed(self.wall_mm))
        return self

    @property
    def has_flat_floor(self) -> bool:
        """A printed cradle stands on no other."""
        return self.tube is None and not any(room.troughs for room in self.rooms)

    @property
    def standing(self) -> tuple[Obstacle, ...]:
        """Obstacles that are still there."""
        return tuple(obstacle for obstacle in self.obstacles if obstacle.state != "removed")


def _pairs(things: list[Obstacle]) -> list[tuple[Obstacle, Obstacle]]:
    return [(a, b) for i, a in enumerate(things) for b in things[i + 1 :]]


Measured = Obstacle | Room | Passage


def _overlap(first: Measured, second: Measured) -> bool:
    return _reach(first, second, 1e-9)


def _reach(first: Measured, second: Measured, slack: float) -> bool:
    return all(
        a0 + slack < b0 + b and b0 + slack < a0 + a
        for a0, a, b0, b in zip(first.at_mm, first.size_mm, second.at_mm, second.size_mm, strict=True)
    )


def joined(first: Measured, second: Measured) -> bool:
    """Do they touch? A gap has to open into a room with a face: an edge or a corner lets no wire through."""
    if not _reach(first, second, -1e-6):
        return False
    if not isinstance(first, Passage) and not isinstance(second, Passage):
        return True
    shared = [
        min(a0 + a, b0 + b) - max(a0, b0) > 1e-6
        for a0, a, b0, b in zip(first.at_mm, first.size_mm, second.at_mm, second.size_mm, strict=True)
    ]
    return sum(shared) >= 2


def _connected(rooms: tuple[Room | Passage, ...]) -> bool:
    reached, waiting = {0}, [0]
    while waiting:
        here = waiting.pop()
        for other in range(len(rooms)):
            if other not in reached and joined(rooms[here], rooms[other]):
                reached.add(other)
                waiting.append(other)
    return len(reached) == len(rooms)


class Pin(Row):
    """A part held where the maker wants it: at a wall, at a place of its corner, turned one way, or in one room."""

    part: Title
    at_mm: Corner | None = None
    side: Side | None = None
    room: RowId = ""  # of the bay's rooms; empty: any
    turned: Annotated[str, Field(max_length=40), ON_ONE_LINE] | None = (
        None  # one of the part's own orientations, by name
    )


class Attempt(Row):
    """One try at fitting: what was tried, what it came to, and by how much the calipers were off."""

    day: Annotated[str, Field(max_length=20), ON_ONE_LINE] = ""
    note: Annotated[str, Field(min_length=1, max_length=400), ON_ONE_LINE]
    clearance_mm: float | None = None
    off_mm: SmallLength | None = None  # feeds the tolerance of the next answer
