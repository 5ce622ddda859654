"""What must give, computed by the same search: the smallest change of each kind that lets everything in.

Every remedy stands alone, and is exact to 0.01 mm: with it all goes in, with a hair less it does not. Where no single
one helps, two at once are tried.
"""

import itertools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from pocketspark.core.fit.allowances import SOCKET_HEIGHT_MM, board_height_mm
from pocketspark.core.fit.answer import FitRemedy
from pocketspark.core.fit.bays import space_of
from pocketspark.core.fit.parts import FaceAt, Part, boards_by_name
from pocketspark.core.fit.placing import Setting, answer_to, goes_in, setting_of
from pocketspark.core.fit.questions import FAR_OFF_MM, Walls, Yield, question_of
from pocketspark.core.fit.search import search
from pocketspark.core.models import Build, Cell, Project
from pocketspark.core.models.bay import SIDES, Bay, Side, WallOpening
from pocketspark.core.models.board import SOCKETS
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import amp_hours

_NO_LENGTH = ("socket", "shell_off", "wall", "outside", "both")
_MEASURES = (("shorter", 0), ("narrower", 1), ("thinner", 2))
# Work is bounded: a question that takes longer than this many nodes is left unasked.
NODES = 15_000
# Two changes at once are tried this often at most.
PAIRS_TOLD = 3


def remedies_for(project: Project, build: int = 0) -> tuple[FitRemedy, ...]:
    """Smallest first, changes that are no length last. Empty where it fits, or nothing is known of the bay."""
    setting = setting_of(project, build)
    if setting is None or answer_to(setting).fits == "yes":
        return ()
    at, chosen = f"builds.{build}", project.builds[build]
    changes = _changes(setting, at, chosen)
    found = [*_lengths(setting), *_alone(setting, changes)]
    found = found or list(itertools.islice(_together(setting, changes), PAIRS_TOLD))
    remedies = [_with_gain(remedy, setting, chosen.cell) for remedy in found]
    return tuple(sorted(remedies, key=lambda remedy: (remedy.what in _NO_LENGTH, remedy.mm)))


def _with_gain(remedy: FitRemedy, setting: Setting, cell: Cell | None) -> FitRemedy:
    """What it buys: a smaller cell of the same density holds less by as much as it is smaller."""
    if cell is None:
        return remedy
    held = cell.planning_capacity_ah
    part = next((part for part in setting.parts if part.name == remedy.subject and part.kind == "cell"), None)
    if part is None:
        return remedy.model_copy(update={"buys": f"keeps the {amp_hours(held)}{remedy.buys and f', {remedy.buys}'}"})
    axis = next(axis for what, axis in _MEASURES if what == remedy.what)
    if part.form == "round" and remedy.what == "thinner":
        axis = 1
    share = 1 - remedy.mm / part.size[axis]
    share **= 2 if part.form == "round" and axis == 1 else 1
    return remedy.model_copy(update={"buys": f"such a cell holds about {amp_hours(held * share)} of {amp_hours(held)}"})


@lru_cache(maxsize=128)
def _lengths(setting: Setting) -> tuple[FitRemedy, ...]:
    return tuple(_in_tube(setting) if setting.bay.tube else _in_boxes(setting))


# Boxes ---------------------------------------------------------------------------------------------------------


def _needed(setting: Setting, yields: Yield) -> float | None:
    """Millimetres by which this must give; None where not even a lot of it helps."""
    space, walls = space_of(setting.bay), Walls(setting.bay.walls)
    question = question_of(space, setting.parts, walls, setting.pins, yields, least=-FAR_OFF_MM)
    found = search(replace(question, node_limit=NODES))
    if not found.placed:
        return None
    # Rounded up, so that it really does let it in.
    return max(0.0, -int(found.value * 100 - 0.999999) / 100) if found.value < 0 else 0.0


def _in_boxes(setting: Setting) -> Iterator[FitRemedy]:
    for index, part in enumerate(setting.parts):
        if part.kind == "cell":
            yield from _smaller_cell(setting, index, part)
    for index, solid in enumerate(space_of(setting.bay).solids):
        if solid.obstacle is not None and setting.bay.obstacles[solid.obstacle].state == "trim":
            yield from _trim(setting, index, solid.obstacle)
    yield from _raised_lid(setting)


def _raised_lid(setting: Setting) -> Iterator[FitRemedy]:
    """Not offered beyond what the lid may be raised by."""
    bay, mm = setting.bay, _needed(setting, Yield(lid=True))
    if not mm:
        return
    raised = round(bay.lid_raised_mm + mm, 2)
    if bay.lid_raise_mm is None or raised <= bay.lid_raise_mm:
        edits = _bay_edit(bay.model_copy(update={"lid_raised_mm": raised}))
        yield FitRemedy(what="lid", subject="lid", mm=mm, says=f"Raise the lid by {mm:.1f} mm", edits=edits)


def _smaller_cell(setting: Setting, index: int, part: Part) -> Iterator[FitRemedy]:
    for what, axis in _MEASURES:
        if part.form == "round" and axis == 2:
            continue
        mm = _needed(setting, Yield(part=index, home_axis=axis))
        if mm and mm < part.size[axis] - 1:
            word = "slimmer" if part.form == "round" and axis == 1 else what
            yield FitRemedy(what=what, subject=part.name, mm=mm, says=f"A cell {mm:.1f} mm {word} than {part.name}")


def _trim(setting: Setting, solid: int, obstacle: int) -> Iterator[FitRemedy]:
    """Cut down from its top; all of it at most."""
    mm = _needed(setting, Yield(solid=solid))
    stands = setting.bay.obstacles[obstacle]
    tall = stands.size_mm[2]
    if not mm or mm > tall:
        return
    says = f"Trim {stands.name} by {mm:.1f} of {tall:.1f} mm"
    obstacles = list(setting.bay.obstacles)
    if tall - mm < 0.2:
        obstacles[obstacle] = stands.model_copy(update={"state": "removed"})
    else:
        size = (stands.size_mm[0], stands.size_mm[1], round(tall - mm, 2))
        obstacles[obstacle] = stands.model_copy(update={"size_mm": size})
    bay = setting.bay.model_copy(update={"obstacles": tuple(obstacles)})
    yield FitRemedy(what="trim", subject=stands.name, mm=mm, says=says, edits=_bay_edit(bay))


def _bay_edit(bay: Bay) -> tuple[Edit, ...]:
    return (Edit(path="gadget.bay", value=bay.model_dump(mode="json")),)


# Tubes: in closed form, so the lengths follow from the clearance itself ----------------------------------------------


def _in_tube(setting: Setting) -> Iterator[FitRemedy]:
    cell = next((i for i, part in enumerate(setting.parts) if part.kind == "cell"), None)
    if cell is None:
        return
    for what, axis in (("shorter", 0), ("thinner", 1)):
        mm = _tube_needed(setting, cell, axis)
        if mm:
            part = setting.parts[cell]
            word = "slimmer" if axis else "shorter"
            yield FitRemedy(what=what, subject=part.name, mm=mm, says=f"A cell {mm:.1f} mm {word} than {part.name}")


def _tube_needed(setting: Setting, cell: int, axis: int) -> float | None:
    """By halves: less cell never makes the fit worse."""
    low, high = 0.0, setting.parts[cell].size[axis] - 1

    def goes_in(mm: float) -> bool:
        part = setting.parts[cell]
        size = tuple(s - mm if a == axis or (axis == 1 and a == 2) else s for a, s in enumerate(part.size))
        smaller = _with_part(setting, cell, size)
        clearance = answer_to(smaller).clearance_mm
        return clearance is not None and clearance >= 0

    if high <= 0 or not goes_in(high):
        return None
    while high - low > 0.005:
        middle = (low + high) / 2
        low, high = (low, middle) if goes_in(middle) else (middle, high)
    return round(high + 0.005, 2)


def _with_part(setting: Setting, index: int, size: tuple[float, ...]) -> Setting:
    part = replace(setting.parts[index], size=(size[0], size[1], size[2]))
    parts = (*setting.parts[:index], part, *setting.parts[index + 1 :])
    return replace(setting, parts=parts)


# Changes that are no length --------------------------------------------------------------------------------------


@dataclass(frozen=True)
class _Change:
    """Something that can be done, what it makes of the setting, and the edits that do it; none: it has to be bought."""

    what: str
    subject: str
    says: str
    to: Callable[[Setting], Setting]
    edits: tuple[Edit, ...] = ()


def _changes(setting: Setting, at: str, build: Build) -> list[_Change]:
    changes = [_other_wall(setting.bay, side) for side in _closed_sides(setting)]
    for part in setting.parts:
        if part.socket:
            changes += [*_lower_socket(part), _without_socket(part, at, build)]
    if len(setting.parts) > 1:
        changes += [_left_out(part, at, build.outside) for part in setting.parts if part.kind != "cell"]
    return changes


def _alone(setting: Setting, changes: Sequence[_Change]) -> Iterator[FitRemedy]:
    for change in changes:
        clearance = _clearance_of(change.to(setting))
        if clearance is not None:
            yield FitRemedy(
                what=change.what,
                subject=change.subject,
                mm=0,
                says=change.says,
                buys=_leaves(clearance),
                edits=change.edits,
            )


def _together(setting: Setting, changes: Sequence[_Change]) -> Iterator[FitRemedy]:
    """Two at once, of different parts, which the tool can do itself; asked for where no single change helps."""
    for first, second in itertools.combinations([change for change in changes if change.edits], 2):
        if first.subject == second.subject or (first.what, second.what) == ("wall", "wall"):
            continue
        clearance = _clearance_of(second.to(first.to(setting)))
        if clearance is not None:
            yield FitRemedy(
                what="both",
                subject=f"{first.subject} and {second.subject}",
                mm=0,
                says=f"{first.says}, and {second.says[0].lower()}{second.says[1:]}",
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
    if setting.bay.tube or not any(part.face for part in setting.parts):
        return []
    return [side for side in SIDES if side not in {opening.side for opening in setting.bay.walls}]


def _other_wall(bay: Bay, side: Side) -> _Change:
    opened = bay.model_copy(update={"walls": (*bay.walls, WallOpening(side=side))})
    says = f"Open the {side if side in ('floor', 'lid') else f'{side} wall'} as well"
    return _Change("wall", side, says, lambda setting: replace(setting, bay=opened), _bay_edit(opened))


def _lower_socket(part: Part) -> Iterator[_Change]:
    """The same board with a lower socket: no edit, for that is another board to buy."""
    assert part.socket is not None
    assert part.face is not None
    lowest = min(SOCKET_HEIGHT_MM, key=lambda kind: SOCKET_HEIGHT_MM[kind])
    lower_by = SOCKET_HEIGHT_MM[part.socket] - SOCKET_HEIGHT_MM[lowest]
    if lower_by > 0:
        face = FaceAt(lowest, part.face.centre_mm - lower_by / 2)
        lower = replace(part, face=face, size=(part.size[0], part.size[1], part.size[2] - lower_by))
        says = f"A board like {part.name} with a {SOCKETS[lowest]} socket, {lower_by:.1f} mm lower"
        yield _Change("socket", part.name, says, lambda setting: _instead(setting, part.name, lower))


def _without_socket(part: Part, at: str, build: Build) -> _Change:
    board = next(board for name, board in boards_by_name(build) if name == part.name)
    bare = replace(part, face=None, size=(part.size[0], part.size[1], board_height_mm(board, socket_off=True)))
    return _Change(
        "shell_off",
        part.name,
        f"Take the socket off {part.name} and bring 5 V in by wires",
        lambda setting: _instead(setting, part.name, bare),
        (Edit(path=f"{at}.shell_off", value=[*build.shell_off, part.name]),),
    )


def _left_out(part: Part, at: str, outside: tuple[str, ...]) -> _Change:
    says = f"Leave {part.name} out" if part.kind == "spacer" else f"Put {part.name} outside the bay"
    edit = Edit(path=f"{at}.outside", value=[*outside, part.name])
    return _Change("outside", part.name, says, lambda setting: _instead(setting, part.name, None), (edit,))


def _instead(setting: Setting, name: str, other: Part | None) -> Setting:
    """Another part in this one's place, or none."""
    parts = [other if part.name == name else part for part in setting.parts]
    return replace(setting, parts=tuple(part for part in parts if part is not None))


def _clearance_of(setting: Setting) -> float | None:
    """The clearance that is left, mm; None where it does not go in."""
    if not setting.parts or not goes_in(setting, NODES):
        return None
    clearance = answer_to(setting).clearance_mm
    return clearance if clearance is not None and clearance >= 0 else None


def _leaves(clearance_mm: float) -> str:
    return f"leaves {clearance_mm:.1f} mm of clearance"
