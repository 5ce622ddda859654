"""Parts for the printer, made round the certified placement: lid, cradle, sleeve, spacers, shell of a battery, box.

Each is made in the bay's own coordinates, where it will sit, and only then turned onto the printer's bed. So a lid is
never a mirror image, and nothing is printed where a part lies.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from pocketspark.core.error import PocketSparkError
from pocketspark.core.fit.allowances import CRADLE_SLACK_MM, WIRE_ROOM_MM
from pocketspark.core.fit.answer import NOWHERE, FitAnswer, Placement, RoomShape
from pocketspark.core.fit.openings import WEB_MM, WIRE_MM, stretch_of, wire_opening
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.prints import filling_of
from pocketspark.core.fit.tubes import Filling
from pocketspark.core.message import all_of, say
from pocketspark.core.models import Build, Project
from pocketspark.core.models.bay import Side, WallOpening
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import millimetres
from pocketspark.formats.solids import (
    PAST_MM,
    body,
    box,
    corridors,
    cylinder,
    only_the_largest,
    ring,
    round_cornered,
    union,
)

if TYPE_CHECKING:
    from manifold3d import Manifold

RIM_MM = 2.0
# A wall thinner than two lines of a usual nozzle is none (common practice, no source).
THINNEST_MM = 0.8
# How far over the board's top side a cradle reaches, and what the floor under it needs at least.
GRIP_MM = 1.5
# Thicker than this is printed as two skins with webs between them.
SOLID_MM = 4.0
# A spacer's contact is a brass screw of this hole, or a wire soldered through it (common practice, no source).
CONTACT_MM = 3.2
# A shell in a battery's outline comes out this much thinner, so that it goes where the battery went.
SLIP_MM = 0.2


class NoSuchPrint(PocketSparkError, LookupError):
    """This build has no use for the part that was asked for, or it cannot be made; the message says why."""

    status = 409


class PrintSettings(Model):
    """Wall and clearance of printed parts, mm."""

    wall_mm: Annotated[float, Field(ge=0.8, le=6)] = 1.6
    clearance_mm: Annotated[float, Field(ge=0.0, le=1.5)] = 0.3


@dataclass(frozen=True)
class PrintJob:
    """What a printed part is made from: a build, its fit, the figures of a filling, and the printer's."""

    project: Project
    build: int
    answer: FitAnswer | None
    filling: Filling | None
    settings: PrintSettings

    @property
    def chosen(self) -> Build:
        return self.project.builds[self.build]

    @property
    def certified(self) -> FitAnswer:
        """Raises NoSuchPrint where no place is known for every part."""
        if self.answer is None:
            raise NoSuchPrint(say("nothing is known of the bay yet, or nothing goes into it: give their sizes first"))
        if self.answer.fits in (*NOWHERE, "not_certain"):
            raise NoSuchPrint(say("it is made round the parts where they lie, and no certain place for all is known"))
        return self.answer

    def taken(self) -> "Manifold":
        """Every part with the air round it that a print keeps."""
        return union(body(one, self.settings.clearance_mm) for one in self.certified.placements)


@dataclass(frozen=True)
class Print:
    """One kind of printed part: when a build has a use for it, its solid where it sits, and how it lies on the bed."""

    label: str
    wanted: Callable[[PrintJob], bool]
    make: Callable[[PrintJob], "Manifold"]
    turn: tuple[float, float, float] = (0, 0, 0)


def prints_of(project: Project, build: int, answer: FitAnswer | None) -> dict[str, str]:
    """The parts that this build has a use for, by name, with what they are."""
    job = PrintJob(project, build, answer, filling_of(project, build), PrintSettings())
    return {name: kind.label for name, kind in PRINTS.items() if kind.wanted(job)}


def in_place(name: str, project: Project, build: int, settings: PrintSettings) -> "Manifold":
    """The part in bay coordinates, where it will sit. Raises NoSuchPrint."""
    job = PrintJob(project, build, fit_of(project, build), filling_of(project, build), settings)
    return PRINTS[name].make(job)


def on_the_bed(name: str, solid: "Manifold") -> "Manifold":
    """The same part as it is printed: turned, never mirrored, and standing on the bed."""
    turned = solid.rotate(PRINTS[name].turn)
    x, y, z, *_ = turned.bounding_box()
    return turned.translate((-x, -y, -z))


# Lid -----------------------------------------------------------------------------------------------------------


def _lid(job: PrintJob) -> "Manifold":
    """A flat lid over the bay's outer face, with its openings and a rim that hangs into the bay where nothing is."""
    answer = job.certified
    if answer.tube_mm:
        raise NoSuchPrint(say("a lid is made for a bay of boxes, and this one is a tube"))
    if answer.passages:
        raise NoSuchPrint(say("the spaces lie apart, and each has its own lid: none is made for both"))
    return _lid_over(answer, job, answer.wall_mm)


def _lid_over(answer: FitAnswer, job: PrintJob, wall_mm: float) -> "Manifold":
    settings = job.settings
    length, width, top = answer.size_mm
    plate = box((-wall_mm, -wall_mm, top), (length + wall_mm, width + wall_mm, top + settings.wall_mm))
    off, inner = settings.clearance_mm, settings.clearance_mm + settings.wall_mm
    rim = box((off, off, top - RIM_MM), (length - off, width - off, top + PAST_MM / 2))
    rim -= box((inner, inner, top - 2 * RIM_MM), (length - inner, width - inner, top + PAST_MM))
    rim -= job.taken() + _solid_bay(answer, settings.clearance_mm)
    # Where the lid is thinned from inside, a board's end stands in it.
    plate -= job.taken()
    return only_the_largest(plate + (rim ^ _under(plate)) - corridors(answer, settings.clearance_mm))


def _under(plate: "Manifold") -> "Manifold":
    """Plate and all below it: the rim is welded a little way into the plate, and not through it."""
    x0, y0, z0, x1, y1, z1 = plate.bounding_box()
    return box((x0, y0, z0 - 100), (x1, y1, z1))


def _solid_bay(answer: FitAnswer, air_mm: float) -> "Manifold":
    """Ribs, posts, rounded corners and what is no bay at all."""
    solids = union(
        box([at - air_mm for at in solid.min_mm], [at + air_mm for at in solid.max_mm]) for solid in answer.solids
    )
    return solids + union(_rounding(room, air_mm) for room in answer.shapes if room.corner_mm)


def _rounding(room: RoomShape, air_mm: float) -> "Manifold":
    """What a room's rounded corners take of its box, from under its floor to above its lid."""
    low = [at + air_mm for at in room.min_mm]
    high = [at - air_mm for at in room.max_mm]
    low[2], high[2] = room.min_mm[2] - PAST_MM, room.max_mm[2] + PAST_MM
    round_mm = max(room.corner_mm - air_mm, 0.1)
    whole = box((room.min_mm[0], room.min_mm[1], low[2]), (room.max_mm[0], room.max_mm[1], high[2]))
    middles = [(x, y) for x in (low[0] + round_mm, high[0] - round_mm) for y in (low[1] + round_mm, high[1] - round_mm)]
    return whole - round_cornered(middles, round_mm, low[2], high[2])


# Cradle --------------------------------------------------------------------------------------------------------


def _cradle(job: PrintJob) -> "Manifold":
    """Round the charger board where it lies, from the bay's floor up: rails beside it, and a stop behind its socket."""
    answer, settings = job.certified, job.settings
    charger = next((board for board in job.chosen.boards if board.charger), None)
    placed = next((one for one in answer.placements if charger and one.part == charger.name), None)
    if charger is None or placed is None:
        raise NoSuchPrint(say("a cradle is made for a charger board with a size: choose one first"))
    if any(room.troughs for room in answer.shapes):
        raise NoSuchPrint(say("the floor has round troughs, and a cradle stands flat: glue the board to their ridges"))
    if answer.tube_mm:
        raise NoSuchPrint(
            say("in a tube the board is held by the printed halves of a sleeve: no cradle is made for it")
        )
    if placed.face_side in ("lid", "floor"):
        raise NoSuchPrint(
            say(
                "its socket shows in the {face_side}: glue the board in, a cradle has no stop there",
                face_side=placed.face_side,
            )
        )
    placed = _without_its_cradle(_without_its_stop(placed))
    block, stop = _round_the_board(placed, job)
    keep_out = _shadows(placed, job) + _solid_bay(answer, settings.clearance_mm)
    keep_out += corridors(answer, settings.clearance_mm)
    solid = only_the_largest(block - body(placed, settings.clearance_mm / 2, None) - _above(placed) - keep_out)
    if (solid ^ stop).volume() < 0.5 * stop.volume() or stop.volume() == 0:
        raise NoSuchPrint(
            say(
                "behind {name} there is no room for a stop of {length}: move it off the wall there, or back the socket "
                "with glue and a printed block",
                name=charger.name,
                length=millimetres(settings.wall_mm),
            )
        )
    return solid


def _without_its_stop(placed: Placement) -> Placement:
    """The board alone: the cradle's own stop stands where the fit has kept room for one."""
    axis, sign = {"left": (0, 1), "right": (0, -1), "front": (1, 1)}.get(placed.face_side or "", (1, -1))
    low, high = list(placed.min_mm), list(placed.max_mm)
    if sign > 0:
        high[axis] -= placed.stop_mm
    else:
        low[axis] += placed.stop_mm
    return placed.model_copy(update={"min_mm": tuple(low), "max_mm": tuple(high)})


def _without_its_cradle(placed: Placement) -> Placement:
    """The board alone, where the fit has kept room for its cradle under it and on either side."""
    wall_mm = placed.cradle_mm
    if not wall_mm:
        return placed
    across = 0 if placed.face_side in ("front", "back") or _lies_across(placed) else 1
    low, high = list(placed.min_mm), list(placed.max_mm)
    low[across] += wall_mm + CRADLE_SLACK_MM
    high[across] -= wall_mm + CRADLE_SLACK_MM
    low[2] += wall_mm
    return placed.model_copy(update={"min_mm": tuple(low), "max_mm": tuple(high)})


def _lies_across(placed: Placement) -> bool:
    return placed.face_side is None and "across" in placed.turned


def _round_the_board(placed: Placement, job: PrintJob) -> tuple["Manifold", "Manifold"]:
    """The block that the board lies in, within the bay, and the part of it that takes the push of the plug."""
    settings, size = job.settings, job.certified.size_mm
    grown = (placed.cradle_mm or settings.wall_mm) + settings.clearance_mm / 2
    low = [max(at - grown, settings.clearance_mm / 2) for at in placed.min_mm]
    high = [min(at + grown, mm - settings.clearance_mm / 2) for at, mm in zip(placed.max_mm, size, strict=True)]
    low[2] = 0.0
    high[2] = min(placed.min_mm[2] + GRIP_MM + 1.6, size[2] - settings.clearance_mm)
    stop_low, stop_high = list(low), list(high)
    stop_low[2] = placed.min_mm[2]
    axis, before = {"left": (0, True), "right": (0, False), "front": (1, True)}.get(placed.face_side or "", (1, False))
    # The board's end has its wires' room: the stop stands behind that, and a slot amid it lets them out.
    if before:
        # What of it is in the wall needs no cradle.
        low[axis], stop_low[axis] = max(placed.min_mm[axis], 0.0), placed.max_mm[axis] + settings.clearance_mm / 2
    else:
        high[axis], stop_high[axis] = (
            min(placed.max_mm[axis], size[axis]),
            placed.min_mm[axis] - settings.clearance_mm / 2,
        )
    across = 1 - axis
    middle = (placed.min_mm[across] + placed.max_mm[across]) / 2
    slot_low, slot_high = [-PAST_MM] * 3, [mm + PAST_MM for mm in size]
    slot_low[across], slot_high[across] = middle - WIRE_ROOM_MM, middle + WIRE_ROOM_MM
    slot_low[2] = placed.min_mm[2] + 1.0
    slot = box(slot_low, slot_high)
    return box(low, high) - slot, box(stop_low, stop_high) - slot


def _shadows(placed: Placement, job: PrintJob) -> "Manifold":
    """Every other part, with the way by which cradle or part goes past it: it never shuts one in."""
    air, top = job.settings.clearance_mm, job.certified.size_mm[2]
    shadows = []
    for one in job.certified.placements:
        if one.part == placed.part:
            continue
        below = one.min_mm[2] < placed.min_mm[2]
        low = (one.min_mm[0] - air, one.min_mm[1] - air, -PAST_MM if below else one.min_mm[2] - air)
        high = (one.max_mm[0] + air, one.max_mm[1] + air, one.max_mm[2] + air if below else top + PAST_MM)
        shadows.append(box(low, high))
    return union(shadows)


def _above(placed: Placement) -> "Manifold":
    """The way by which the board is put in."""
    low, high = placed.min_mm, placed.max_mm
    return box((low[0], low[1], high[2] - PAST_MM / 2), (high[0], high[1], high[2] + 100))


# Round bays ----------------------------------------------------------------------------------------------------


def _sleeve(job: PrintJob) -> "Manifold":
    """Carries a thin cell in a thick tube; the spacers lie inside it."""
    fill = _filling(job)
    return _pipe(fill.sleeve_outer_mm, fill.sleeve_inner_mm, 0.0, fill.sleeve_length_mm, fill)


def _front_spacer(job: PrintJob) -> "Manifold":
    fill = _filling(job)
    return _spacer(fill, 0.0, fill.front_spacer_mm)


def _rear_spacer(job: PrintJob) -> "Manifold":
    fill = _filling(job)
    return _spacer(fill, fill.stack_mm - fill.rear_spacer_mm, fill.stack_mm)


def _spacer(fill: Filling, start: float, end: float) -> "Manifold":
    """A disc with a hole for the screw that carries the current."""
    if end - start < 0.4:
        raise NoSuchPrint(
            say("{length} is missing there: too little for a print, use a washer", length=millimetres(end - start))
        )
    return _pipe(fill.sleeve_inner_mm - 0.4, CONTACT_MM, start, end, fill)


def _filling(job: PrintJob) -> Filling:
    if job.filling is None:
        raise NoSuchPrint(say("a sleeve is for a round cell thinner and shorter than the old batteries"))
    if others := _beside_the_cells(job):
        raise NoSuchPrint(
            say(
                "a sleeve and its spacers fill the whole tube, and it also holds {others}: hold the cell by foam, "
                "or put that elsewhere",
                others=all_of(others),
            )
        )
    return job.filling


def _beside_the_cells(job: PrintJob) -> tuple[str, ...]:
    """What else is in a tube, parts and what stands there: a sleeve would go through it."""
    if job.answer is None or job.answer.tube_mm is None:
        return ()
    placed = (one.part for one in job.answer.placements if one.kind != "cell")
    return tuple(dict.fromkeys((*placed, *(solid.name for solid in job.answer.solids))))


def _fills_the_tube(job: PrintJob) -> bool:
    return job.filling is not None and not _beside_the_cells(job)


def _pipe(outer: float, inner: float, start: float, end: float, fill: Filling) -> "Manifold":
    """Two skins and three webs where one would be solid; about the axis of the old batteries."""
    y = z = fill.sleeve_outer_mm / 2
    whole = ring(outer, inner, start, end, y, z)
    if (outer - inner) / 2 <= SOLID_MM:
        return whole
    web = union(
        box((start, -0.6, 0), (end, 0.6, outer / 2)).rotate((angle, 0, 0)).translate((0, y, z))
        for angle in (0, 120, 240)
    )
    skins = ring(outer, outer - 3.2, start, end, y, z) + ring(inner + 3.2, inner, start, end, y, z)
    return skins + (web ^ whole)


def _dummy(job: PrintJob) -> "Manifold":
    """A shell in the outline of the old batteries; everything in it is put in from its right end.

    A contact goes through the closed end, and a groove beside the parts takes the wire from there.
    """
    answer = job.certified
    if not job.chosen.facts_of_style.like_a_battery or answer.tube_mm is None:
        raise NoSuchPrint(say("a shell like a battery is made in the outline of round batteries, and these are none"))
    diameter, length = answer.tube_mm
    wall, middle = answer.wall_mm, diameter / 2
    outside = cylinder(diameter + 2 * wall - SLIP_MM, -wall, length + wall - SLIP_MM, middle, middle)
    rooms = union(body(one, job.settings.clearance_mm, length + wall + PAST_MM) for one in answer.placements)
    # What the walls of the outline allow; a part may touch them within its clearance.
    rooms ^= cylinder(diameter, 0.0, length + wall + PAST_MM, middle, middle)
    first = min(one.min_mm[0] for one in answer.placements)
    contact = cylinder(CONTACT_MM, -wall - PAST_MM, first + PAST_MM, middle, middle)
    return only_the_largest(outside - rooms - contact - _groove(job, diameter, length) - corridors(answer))


def _groove(job: PrintJob, diameter: float, length: float) -> "Manifold":
    """For the wire from the far pole, where there is something at the other end to take it to."""
    if len(job.certified.placements) < 2:
        return union(())
    middle = diameter / 2
    return box((0, middle - 0.8, 0), (length + PAST_MM * 3, middle + 0.8, middle)) ^ cylinder(
        diameter, 0, length + PAST_MM * 3, middle, middle
    )


def _dummy_cap(job: PrintJob) -> "Manifold":
    """Closes the shell's open end, glued on; its hole takes the contact."""
    _dummy(job)
    answer = job.certified
    assert answer.tube_mm is not None
    (diameter, length), wall = answer.tube_mm, answer.wall_mm
    y = diameter / 2
    start = length + wall - SLIP_MM
    solid = ring(diameter + 2 * wall - SLIP_MM, CONTACT_MM, start, start + THINNEST_MM, y, y)
    return solid - corridors(answer)


# A box of its own ----------------------------------------------------------------------------------------------


def _outside_box(job: PrintJob) -> "Manifold":
    """Open on top, with every hole that its parts need and one for the lead to the gadget."""
    answer, wall = _in_its_box(job), job.settings.wall_mm
    length, width, top = answer.size_mm
    shell = box((-wall, -wall, -wall), (length + wall, width + wall, top))
    shell -= box((0, 0, 0), (length, width, top + PAST_MM))
    size = (length, width, top)
    sides: list[Side] = ["right", "back", "front", "left"]
    # High up, under the rim of the lid.
    up = answer.wall_mm + top - WEB_MM - WIRE_MM / 2 - RIM_MM
    high_up = (up - WIRE_MM / 2, up + WIRE_MM / 2)
    stretches = {
        side: replace(stretch_of(WallOpening(id=side, side=side), size, answer.wall_mm), up_mm=high_up)
        for side in sides
    }
    lead = wire_opening("the gadget", stretches, size, answer.wall_mm, answer.openings)
    if lead is None:
        raise NoSuchPrint(say("the box is too low for a hole for the lead: give it more height"))
    with_lead = answer.model_copy(update={"openings": (*answer.openings, lead)})
    return only_the_largest(shell - corridors(with_lead))


def _outside_lid(job: PrintJob) -> "Manifold":
    return _lid_over(_in_its_box(job), job, job.settings.wall_mm)


def _in_its_box(job: PrintJob) -> FitAnswer:
    if not job.chosen.facts_of_style.own_box:
        raise NoSuchPrint(say("a box of its own is for what stays outside the gadget: choose that style first"))
    return job.certified


# The table -----------------------------------------------------------------------------------------------------


def _has_room_for(job: PrintJob, mm: float) -> bool:
    return _fills_the_tube(job) and mm >= 0.4


def _like_a_battery(job: PrintJob) -> bool:
    return job.chosen.facts_of_style.like_a_battery


def _in_a_box(job: PrintJob) -> bool:
    return job.chosen.facts_of_style.own_box


PRINTS: Mapping[str, Print] = {
    "lid": Print(
        "lid blank with its openings",
        lambda job: job.answer is not None and job.answer.tube_mm is None and not job.chosen.facts_of_style.own_box,
        _lid,
        (180, 0, 0),
    ),
    "sleeve": Print("sleeve for a thinner cell", _fills_the_tube, _sleeve, (0, -90, 0)),
    "front-spacer": Print(
        "front spacer, with a brass M3 screw through it",
        lambda job: job.filling is not None and _has_room_for(job, job.filling.front_spacer_mm),
        _front_spacer,
        (0, -90, 0),
    ),
    "rear-spacer": Print(
        "rear spacer, with a brass M3 screw through it",
        lambda job: job.filling is not None and _has_room_for(job, job.filling.rear_spacer_mm),
        _rear_spacer,
        (0, -90, 0),
    ),
    "cradle": Print(
        "board cradle with socket stop",
        lambda job: any(board.outline_mm and board.charger for board in job.chosen.boards),
        _cradle,
    ),
    "dummy": Print("shell like the old batteries", _like_a_battery, _dummy, (0, -90, 0)),
    "dummy-cap": Print("cap of that shell", _like_a_battery, _dummy_cap, (0, -90, 0)),
    "box": Print("outside box", _in_a_box, _outside_box),
    "box-lid": Print("lid of the outside box", _in_a_box, _outside_lid, (180, 0, 0)),
}
