"""What must give, computed by the same search: the smallest change of each kind that lets everything in.

Every remedy stands alone, and is rounded up to a tenth: with it all goes in and the calipers cannot be at fault, with a
tenth less they could. Where no single one helps, two at once are tried.
"""

import itertools
import math
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace
from functools import lru_cache

from pocketspark.core.fit.allowances import SOCKET_HEIGHT_MM, board_height_mm
from pocketspark.core.fit.answer import FitRemedy
from pocketspark.core.fit.answer_facts import Setting
from pocketspark.core.fit.bays import space_of
from pocketspark.core.fit.blocks import Part, boards_by_name
from pocketspark.core.fit.bore import side_of_a_tube
from pocketspark.core.fit.cell_sizes import (
    cells_of,
    clearance_of,
    given_mm,
    measures_of,
    room_for_more_mm,
)
from pocketspark.core.fit.openings import DEEP_MM
from pocketspark.core.fit.own_choices import FitChange, own_choices
from pocketspark.core.fit.placement_questions import AXIS_OF, Yield
from pocketspark.core.fit.placing import answer_to, setting_of
from pocketspark.core.message import Message, _, row_of, say
from pocketspark.core.models import Build, Cell, Project
from pocketspark.core.models.bay import LEAST_WALL_MM, SIDES, Bay, Side, WallOpening
from pocketspark.core.models.board import SOCKETS
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import amp_hours, bare_length, millimetres

_NO_LENGTH = ("socket", "shell_off", "wall", "outside", "both")
# A cell that keeps less than this share is the last thing that one would do.
MUCH_LESS = 0.7
# Less than this is not left standing: then it is taken out.
LEAST_STANDING_MM = 0.4
# Two changes at once are tried this often at most.
PAIRS_TOLD = 3


def remedies_for(project: Project, build: int = 0) -> tuple[FitRemedy, ...]:
    """Smallest first, changes that are no length last. Empty where it fits, or nothing is known of the bay."""
    setting = setting_of(project, build)
    if setting is None or answer_to(setting).fits == "yes":
        return ()
    at, chosen = f"builds.{build}", project.builds[build]
    changes = [*own_choices(project, build, setting), *_changes(setting, at, chosen)]
    found = [*_lengths(setting), *_alone(setting, changes)]
    found = found or list(itertools.islice(_together(setting, changes), PAIRS_TOLD))
    # Metal is neither printed nor packed with a frame.
    found = [remedy for remedy in found if remedy.what != "lid" or not project.gadget.shell.metal]
    ordered = _ribs_before_the_lid(sorted(found, key=lambda remedy: _worth(remedy, setting)))
    return tuple(_with_gain(remedy, setting, chosen.cell) for remedy in ordered)


def _ribs_before_the_lid(ordered: list[FitRemedy]) -> list[FitRemedy]:
    """What may be trimmed is inside and never seen; a raised lid is seen for good."""
    ribs = [place for place, remedy in enumerate(ordered) if remedy.what == "trim"]
    lids = [remedy for remedy in ordered[: ribs[-1]] if remedy.what == "lid"] if ribs else []
    rest = [remedy for remedy in ordered if remedy not in lids]
    after = ribs[-1] + 1 - len(lids) if ribs else 0
    return [*rest[:after], *lids, *rest[after:]]


def _worth(remedy: FitRemedy, setting: Setting) -> tuple[int, float]:
    """What costs least first: a few tenths somewhere, then other ways, and last a cell that holds a good deal less."""
    kept = _share_kept(remedy, setting)
    group = 2 if kept < MUCH_LESS else 1 if remedy.what in _NO_LENGTH else 0
    return group, remedy.mm / kept


def _with_gain(remedy: FitRemedy, setting: Setting, cell: Cell | None) -> FitRemedy:
    """What it buys: a smaller cell of the same density holds less by as much as it is smaller."""
    if cell is None:
        return remedy
    held = cell.planning_capacity_ah
    share = _share_kept(remedy, setting)
    if share == 1.0:
        return remedy.model_copy(update={"buys": row_of((say("keeps the {held}", held=amp_hours(held)), remedy.buys))})
    return remedy.model_copy(
        update={
            "buys": say(
                "such a cell holds about {held} of {held_2}", held=amp_hours(held * share), held_2=amp_hours(held)
            )
        }
    )


def _share_kept(remedy: FitRemedy, setting: Setting) -> float:
    """Which share of the cell's charge is kept, by its volume."""
    part = next((part for part in setting.parts if part.name == remedy.subject and part.kind == "cell"), None)
    measures = measures_of(part) if part else ()
    # A cell may be called as the wall is that is to give way.
    measure = next((measure for measure in measures if measure.smaller == remedy.what), None)
    if part is None or measure is None:
        return 1.0
    share = 1 - measure.in_the_bay(part, remedy.mm) / part.size[measure.axes[0]]
    return share ** len(measure.axes)


@lru_cache(maxsize=128)
def _lengths(setting: Setting) -> tuple[FitRemedy, ...]:
    return tuple(_given(setting))


def _needed(setting: Setting, yields: Yield) -> float | None:
    """Millimetres by which this must give; None where not even a lot of it helps."""
    could = given_mm(setting, yields)
    return None if could is None else max(0.0, -could)


def _rounded_up(mm: float) -> float:
    """To a tenth, so that what is said really does let it in."""
    return math.ceil(mm * 10 - 1e-3) / 10


def _given(setting: Setting) -> Iterator[FitRemedy]:
    yield from _smaller_cells(setting)
    for index, solid in enumerate(space_of(setting.bay).solids):
        if solid.obstacle is not None and setting.bay.obstacles[solid.obstacle].state == "trim":
            yield from _trim(setting, index, solid.obstacle)
    yield from _raised_lid(setting)
    for opening in setting.bay.walls:
        if (opening.low_mm, opening.high_mm) != (None, None) and opening.side not in ("floor", "lid"):
            yield from _wider_window(setting, opening)
        yield from _thinned_wall(setting, opening)


def _thinned_wall(setting: Setting, opening: WallOpening) -> Iterator[FitRemedy]:
    """Cut away from inside where something shows in it; not offered beyond what has to stay of it."""
    flat = ("left", "right") if setting.bay.tube else ("left", "right", "front", "back")
    if opening.side not in flat or not any(part.face for part in setting.parts):
        return
    needed = _needed(setting, Yield(thinned=opening.side)) or _until_bare_mm(setting, opening)
    if not needed:
        return
    mm = _rounded_up(needed)
    thinned = round(opening.thinned_mm + mm, 4)
    if thinned > setting.bay.wall_mm - LEAST_WALL_MM + 1e-6:
        return
    says = say(
        "Thin the {side} wall from inside by {mm}, where the board's end is", side=opening.side, mm=millimetres(mm)
    )
    edits = _bay_edit(_with_thinned(setting.bay, opening, thinned))
    yield FitRemedy(what="thinned", subject=opening.side, mm=mm, says=says, edits=edits)


def _until_bare_mm(setting: Setting, opening: WallOpening) -> float | None:
    """So much off the wall that a hole for the bare socket is enough, where with that it goes in."""
    bay = setting.bay
    noses = [part.face.nose_mm for part in setting.parts if part.face and part.socket]
    if bay.tube or not noses:
        return None
    deep_mm = bay.wall_mm - opening.takes_in_mm(bay.wall_mm, min(noses)) - DEEP_MM
    thinner = _with_thinned(bay, opening, round(opening.thinned_mm + _rounded_up(deep_mm), 4))
    return deep_mm if deep_mm > 0 and clearance_of(replace(setting, bay=thinner)) is not None else None


def _with_thinned(bay: Bay, opening: WallOpening, thinned_mm: float) -> Bay:
    thinner = opening.model_copy(update={"thinned_mm": thinned_mm})
    return bay.model_copy(update={"walls": tuple(thinner if wall is opening else wall for wall in bay.walls)})


def _raised_lid(setting: Setting) -> Iterator[FitRemedy]:
    """Not offered beyond what the lid may be raised by."""
    bay, needed = setting.bay, None if setting.bay.tube else _needed(setting, Yield(lid=True))
    if not needed:
        return
    mm = _rounded_up(needed)
    raised = round(bay.lid_raised_mm + mm, 2)
    if bay.lid_raise_mm is None or raised <= bay.lid_raise_mm:
        edits = _bay_edit(bay.model_copy(update={"lid_raised_mm": raised}))
        yield FitRemedy(
            what="lid", subject="lid", mm=mm, says=say("Raise the lid by {mm}", mm=millimetres(mm)), edits=edits
        )


def _smaller_cells(setting: Setting) -> Iterator[FitRemedy]:
    """Like cells get smaller together, a round one all round."""
    cells = cells_of(setting)
    for measure in measures_of(setting.parts[cells[0]]) if cells else ():
        could = room_for_more_mm(setting, measure)
        if could is None or could >= 0:
            continue
        mm, own = _rounded_up(-could), setting.parts[cells[0]].name
        alone, several = _("A cell {mm} {smaller} than {own}"), _("Cells each {mm} {smaller} than these")
        says = say(alone if len(cells) == 1 else several, mm=millimetres(mm), smaller=measure.smaller, own=own)
        yield FitRemedy(what=measure.smaller, subject=own, mm=mm, says=says)


_FROM: Mapping[Side, str] = {
    "lid": "its top",
    "floor": "below",
    "left": "the left",
    "right": "the right",
    "front": "the front",
    "back": "the back",
}


def _trim(setting: Setting, solid: int, obstacle: int) -> Iterator[FitRemedy]:
    """Cut down from the side where least is lost; all of it where that is what it takes."""
    stands = setting.bay.obstacles[obstacle]
    cuts = []
    for side in _FROM:
        needed, axis = _needed(setting, Yield(solid=solid, solid_side=side)), AXIS_OF[side][0]
        if needed and (mm := _rounded_up(needed)) < stands.size_mm[axis] - LEAST_STANDING_MM:
            cuts.append((mm / stands.size_mm[axis], mm, side))
    if cuts:
        _, mm, side = min(cuts)
        axis, far = AXIS_OF[side]
        says = say(
            "Trim {mm} of {size_mm} off {rib}, from {side}",
            mm=bare_length(mm),
            size_mm=millimetres(stands.size_mm[axis]),
            rib=stands.name,
            side=_FROM[side],
        )
        at, size = list(stands.at_mm), list(stands.size_mm)
        size[axis] = round(size[axis] - mm, 4)
        at[axis] = at[axis] if far else round(at[axis] + mm, 4)
        edits = _with_obstacle(setting.bay, obstacle, {"at_mm": tuple(at), "size_mm": tuple(size)})
        yield FitRemedy(what="trim", subject=stands.name, mm=mm, says=says, edits=edits)
        return
    gone = replace(setting, bay=_bay_with(setting.bay, obstacle, {"state": "removed"}))
    if clearance_of(gone) is not None:
        edits = _with_obstacle(setting.bay, obstacle, {"state": "removed"})
        says = say("Remove {stands} completely", stands=stands.name)
        yield FitRemedy(what="trim", subject=stands.name, mm=round(max(stands.size_mm), 1), says=says, edits=edits)


def _wider_window(setting: Setting, opening: WallOpening) -> Iterator[FitRemedy]:
    """The heights at which a wall may be opened, each way by so much."""
    needed = _needed(setting, Yield(window=opening.side))
    if not needed:
        return
    mm = _rounded_up(needed)
    low = None if opening.low_mm is None or opening.low_mm <= mm else round(opening.low_mm - mm, 4)
    high = None if opening.high_mm is None else round(opening.high_mm + mm, 4)
    wider = opening.model_copy(update={"low_mm": low, "high_mm": high})
    walls = tuple(wider if wall is opening else wall for wall in setting.bay.walls)
    says = say("Let the {side} wall be opened {mm} further up and down", side=opening.side, mm=millimetres(mm))
    edits = _bay_edit(setting.bay.model_copy(update={"walls": walls}))
    yield FitRemedy(what="window", subject=opening.side, mm=mm, says=says, edits=edits)


def _bay_with(bay: Bay, obstacle: int, changes: dict[str, object]) -> Bay:
    obstacles = list(bay.obstacles)
    obstacles[obstacle] = obstacles[obstacle].model_copy(update=changes)
    return bay.model_copy(update={"obstacles": tuple(obstacles)})


def _with_obstacle(bay: Bay, obstacle: int, changes: dict[str, object]) -> tuple[Edit, ...]:
    return _bay_edit(_bay_with(bay, obstacle, changes))


def _bay_edit(bay: Bay) -> tuple[Edit, ...]:
    return (Edit(path="gadget.bay", value=bay.model_dump(mode="json")),)


# Changes that are no length --------------------------------------------------------------------------------------


def _changes(setting: Setting, at: str, build: Build) -> list[FitChange]:
    changes = [_other_wall(setting.bay, side) for side in _closed_sides(setting)]
    for part in setting.parts:
        if part.socket and part.kind == "board":
            changes += [*_lower_socket(part), _without_socket(part, at, build)]
    if len(setting.parts) > 1:
        changes += [_left_out(part, at, build.outside) for part in setting.parts if part.kind != "cell"]
    return changes


@lru_cache(maxsize=2048)
def _left_with(setting: Setting) -> float | None:
    """What a change leaves, kept: the same is asked at every keystroke elsewhere."""
    return clearance_of(setting)


def _alone(setting: Setting, changes: Sequence[FitChange]) -> Iterator[FitRemedy]:
    for change in changes:
        clearance = _left_with(change.to(setting))
        if clearance is not None:
            yield FitRemedy(
                what=change.what,
                subject=change.subject,
                mm=0,
                says=change.says,
                buys=_leaves(clearance),
                edits=change.edits,
            )


def _together(setting: Setting, changes: Sequence[FitChange]) -> Iterator[FitRemedy]:
    """Two at once, of different parts, which the tool can do itself; asked for where no single change helps."""
    for first, second in itertools.combinations([change for change in changes if change.edits], 2):
        if first.subject == second.subject or (first.what, second.what) == ("wall", "wall"):
            continue
        clearance = _left_with(second.to(first.to(setting)))
        if clearance is not None:
            yield FitRemedy(
                what="both",
                subject=f"{first.subject} and {second.subject}",
                mm=0,
                says=say(
                    "{first}, and: {second}",
                    first=first.says,
                    second=second.says,
                ),
                buys=_leaves(clearance),
                edits=_merged(first.edits + second.edits),
            )


def _merged(edits: Sequence[Edit]) -> tuple[Edit, ...]:
    """Two edits of one list, which each add a name to it, as one."""
    by_path: dict[str, Edit] = {}
    for edit in edits:
        before = by_path[edit.path].value if edit.path in by_path else None
        value = list(dict.fromkeys([*before, *edit.value])) if isinstance(before, list) else edit.value
        by_path[edit.path] = Edit(path=edit.path, value=value)
    return tuple(by_path.values())


def _closed_sides(setting: Setting) -> list[Side]:
    if not any(part.face for part in setting.parts):
        return []
    return [side for side in SIDES if side not in {opening.side for opening in setting.bay.walls}]


def _other_wall(bay: Bay, side: Side) -> FitChange:
    opened = bay.model_copy(update={"walls": (*bay.walls, WallOpening(side=side))})
    if bay.tube and side_of_a_tube(side):
        says = say("Open the {side} side of the tube as well", side=side)
    elif bay.tube or side not in ("floor", "lid"):
        says = say("Open the {side} wall as well", side=side)
    else:
        says = say("Open the {side} as well", side=side)
    return FitChange("wall", side, says, lambda setting: replace(setting, bay=opened), _bay_edit(opened))


def _lower_socket(part: Part) -> Iterator[FitChange]:
    """The same board with a lower socket: no edit, for that is another board to buy."""
    assert part.socket is not None
    assert part.face is not None
    lowest = min(SOCKET_HEIGHT_MM, key=lambda kind: SOCKET_HEIGHT_MM[kind])
    lower_by = SOCKET_HEIGHT_MM[part.socket] - SOCKET_HEIGHT_MM[lowest]
    if lower_by > 0:
        face = replace(part.face, kind=lowest, centre_mm=part.face.centre_mm - lower_by / 2)
        lower = replace(part, face=face, size=(part.size[0], part.size[1], part.size[2] - lower_by))
        says = say(
            "A board like {part} with a {sockets} socket, {lower_by} lower",
            part=part.name,
            sockets=SOCKETS[lowest],
            lower_by=millimetres(lower_by),
        )
        yield FitChange("socket", part.name, says, lambda setting: _instead(setting, part.name, lower))


def _without_socket(part: Part, at: str, build: Build) -> FitChange:
    board = next(board for name, board in boards_by_name(build) if name == part.name)
    bare = replace(part, face=None, size=(part.size[0], part.size[1], board_height_mm(board, socket_off=True)))
    return FitChange(
        "shell_off",
        part.name,
        say("Take the socket off {part} and bring 5 V in by wires", part=part.name),
        lambda setting: _instead(setting, part.name, bare),
        (Edit(path=f"{at}.shell_off", value=[*build.shell_off, part.name]),),
    )


def _left_out(part: Part, at: str, outside: tuple[str, ...]) -> FitChange:
    says = (
        say("Leave {part} out", part=part.name)
        if part.kind == "spacer"
        else say("Put {part} outside the bay", part=part.name)
    )
    edit = Edit(path=f"{at}.outside", value=[*outside, part.name])
    return FitChange("outside", part.name, says, lambda setting: _instead(setting, part.name, None), (edit,))


def _instead(setting: Setting, name: str, other: Part | None) -> Setting:
    """Another part in this one's place, or none."""
    parts = [other if part.name == name else part for part in setting.parts]
    return replace(setting, parts=tuple(part for part in parts if part is not None))


def _leaves(clearance_mm: float) -> Message:
    return say("leaves {clearance_mm} of clearance", clearance_mm=millimetres(clearance_mm))
