"""What the fit says of one build, as the screen, the file and the command line read it."""

from typing import Annotated, Literal

from pydantic import Field

from pocketspark.core.fit.openings import Opening
from pocketspark.core.message import NOTHING, Label, Message
from pocketspark.core.models.bay import Side
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit

# `not_settled`: no place was found in the time, and nothing proves that there is none.
Fits = Literal["yes", "no", "too_close", "not_certain", "not_settled"]
NOWHERE: tuple[Fits, ...] = ("no", "not_settled")
Point = Annotated[tuple[float, ...], Field(min_length=3, max_length=3)]


class Placement(Model):
    """One part where it lies: its box in bay coordinates, mm. Round parts say so; their box is the box round them."""

    part: str
    kind: str
    min_mm: Point
    max_mm: Point
    turned: str
    ways: tuple[str, ...]  # every way round it could be turned
    round: bool = False
    pinned: bool = False
    face_side: Side | None = None
    upside_down: bool = False
    nose_mm: float = 0.0  # at that side so much of the box is its socket's nose alone
    stop_mm: float = 0.0  # at the other end so much of the box is what stands behind it against the push of the plug
    cradle_mm: float = 0.0  # wall of its printed cradle, which is part of it: under it and on either side


class Gap(Model):
    """Room between two neighbours (or a part and a wall), mm, with the line that shows it."""

    first: str
    second: Label
    mm: float
    start_mm: Point
    end_mm: Point


class StandsOn(Model):
    """What carries a part, and the thickness of foam or tape between the two, mm.

    `middle_carried`: it lies with its middle over what carries it, so that it does not tip. `under_lid_mm`: the room
    between it and the lid, where nothing else is over it.
    """

    part: str
    on: Label
    foam_mm: float
    middle_carried: bool = True
    under_lid_mm: float | None = None


class ToleranceChain(Model):
    """What stands in a row along one axis, and the room that is left in it beyond every clearance, mm.

    `worst_mm`: with bay, cell and boards off at once, the bad way; `likely_mm`: by the root of squares.
    """

    axis: str  # length, width, height
    parts: tuple[str, ...]
    spare_mm: float
    worst_mm: float
    likely_mm: float


class FitRemedy(Model):
    """One change that lets everything in. `mm` is the smallest that does, 0 where it is not a length."""

    # thinner, narrower, slimmer, shorter, trim, lid, window, thinned, socket, shell_off, wall, outside, both, edge,
    # pin, cradle, stop
    what: str
    subject: str
    mm: float
    says: Message
    buys: Message = NOTHING  # what is had for it: the charge that is kept, and the clearance that is left
    edits: tuple[Edit, ...] = ()


class SolidBox(Model):
    """An obstacle as it stands; `outside` is what is not bay at all, a `passage` what wires alone go through."""

    name: str
    min_mm: Point
    max_mm: Point
    state: str
    on_lid: bool = False
    obstacle: str = ""  # its id in the bay, where it is one of its obstacles


class RoomShape(Model):
    """A room that is no plain box: its troughs along x, and the radius of its upright corners, mm."""

    min_mm: Point
    max_mm: Point
    troughs: int
    corner_mm: float


class OpenWall(Model):
    """A wall that may be opened, and its part that may: along it (x at front, back, floor and lid, y at the ends), and
    up it (z, at floor and lid y), mm.
    """

    side: Side
    along_mm: Annotated[tuple[float, ...], Field(min_length=2, max_length=2)]
    up_mm: Annotated[tuple[float, ...], Field(min_length=2, max_length=2)]


class FitAnswer(Model):
    """Everything of one fit. `clearance_mm`: beyond the air asked for; below 0 short by so much; None by far.

    It is the most that can be had on all sides at once. The parts lie as they come to rest, at the foot of what room
    there is: beside and over them is as much of it as is worth having, and under them their tape.

    `not_certain`: a place was found for everything, and the second look at it has `doubts`.
    """

    fits: Fits
    clearance_mm: float | None
    tolerance_mm: float
    placements: tuple[Placement, ...] = ()
    conflict: tuple[str, ...] = ()
    remedies: tuple[FitRemedy, ...] = ()
    openings: tuple[Opening, ...] = ()
    size_mm: Point
    wall_mm: float
    tube_mm: Annotated[tuple[float, ...], Field(min_length=2, max_length=2)] | None = (
        None  # diameter and length of a round bay
    )
    seam_mm: float | None = None  # over the floor, where a deep lid, or the upper of two half shells, begins
    solids: tuple[SolidBox, ...] = ()
    shapes: tuple[RoomShape, ...] = ()
    rooms: tuple[SolidBox, ...] = ()  # where they lie apart
    passages: tuple[SolidBox, ...] = ()  # between spaces that lie apart: for wires alone
    open_walls: tuple[OpenWall, ...] = ()
    gaps: tuple[Gap, ...] = ()  # tightest first
    assumed_bay: bool
    chains: tuple[ToleranceChain, ...] = ()  # the tightest along each axis
    stands: tuple[StandsOn, ...] = ()
    hot_against_cell: bool = False
    behind_plugs: tuple[str, ...] = ()  # cells right behind the hole of a plug
    shut_in: tuple[str, ...] = ()  # parts whose pads no wire can reach where they lie
    unsized: tuple[str, ...] = ()
    order: tuple[str, ...] = ()  # in which the parts go in
    stuck: tuple[str, ...] = ()  # parts that no way is found for while the others of them lie there
    proven: bool = True
    doubts: tuple[Message, ...] = ()
