"""What must give, computed by the same search: the smallest change of each kind that lets everything in.

Every remedy stands alone, and is exact to 0.01 mm: with it all goes in, with a hair less it does not.
"""

from collections.abc import Iterator
from dataclasses import replace
from functools import lru_cache

from pocketspark.core.finding import Edit
from pocketspark.core.fit.answer import FitRemedy
from pocketspark.core.fit.bays import space_of
from pocketspark.core.fit.parts import SOCKET_HEIGHT_MM, WITHOUT_SOCKET_MM, Part, SocketAt
from pocketspark.core.fit.placing import Setting, answer_to, setting_of
from pocketspark.core.fit.questions import FAR_OFF_MM, Walls, Yield, question_of
from pocketspark.core.fit.search import search
from pocketspark.core.nouns import Build, Cell, Project
from pocketspark.core.nouns.bay import SIDES, Bay, WallOpening
from pocketspark.core.nouns.board import SOCKETS
from pocketspark.core.quantity import amp_hours

_NO_LENGTH = ("socket", "shell_off", "wall", "outside")
_MEASURES = (("shorter", 0), ("narrower", 1), ("thinner", 2))
# Work is bounded: a question that takes longer than this many nodes is left unasked.
NODES = 15_000


def remedies_for(project: Project, build: int = 0) -> tuple[FitRemedy, ...]:
    """Smallest first, changes that are no length last. Empty where it fits, or nothing is known of the bay."""
    setting = setting_of(project, build)
    if setting is None or answer_to(setting).fits == "yes":
        return ()
    at, chosen = f"builds.{build}", project.builds[build]
    found = [*_lengths(setting), *_others(setting, at, chosen)]
    told = [_with_gain(remedy, setting, chosen.cell) for remedy in found]
    return tuple(sorted(told, key=lambda remedy: (remedy.what in _NO_LENGTH, remedy.mm)))


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
    # Rounded up, so that what is told really does let it in.
    return max(0.0, -int(found.value * 100 - 0.999999) / 100) if found.value < 0 else 0.0


def _in_boxes(setting: Setting) -> Iterator[FitRemedy]:
    for index, part in enumerate(setting.parts):
        if part.kind == "cell":
            yield from _smaller_cell(setting, index, part)
    for index, solid in enumerate(space_of(setting.bay).solids):
        if solid.obstacle is not None and setting.bay.obstacles[solid.obstacle].state == "trim":
            yield from _trim(setting, index, solid.obstacle)
    lid = _needed(setting, Yield(lid=True))
    if lid:
        raised = round(setting.bay.lid_raised_mm + lid, 2)
        bay = setting.bay.model_copy(
            update={"lid_raised_mm": raised, "lid_raise_mm": max(setting.bay.lid_raise_mm, raised)}
        )
        yield FitRemedy(what="lid", subject="lid", mm=lid, says=f"Raise the lid by {lid:.1f} mm", edits=_bay_edit(bay))


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


# Tubes: in closed form, so the lengths follow from the play itself ----------------------------------------------


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


def _others(setting: Setting, at: str, build: Build) -> Iterator[FitRemedy]:
    yield from _other_walls(setting)
    for index, part in enumerate(setting.parts):
        if part.socket:
            yield from _lower_socket(setting, index, part)
            yield from _without_socket(setting, index, part, at, build.shell_off)
    for index, part in enumerate(setting.parts):
        if len(setting.parts) > 1:
            yield from _left_out(setting, index, part, at, build.outside)


def _lower_socket(setting: Setting, index: int, part: Part) -> Iterator[FitRemedy]:
    """The same board with a lower socket: no edit, for that is another board to buy."""
    assert part.socket is not None
    lower_by = SOCKET_HEIGHT_MM[part.socket.kind] - min(SOCKET_HEIGHT_MM.values())
    lowest = min(SOCKET_HEIGHT_MM, key=lambda kind: SOCKET_HEIGHT_MM[kind])
    if lower_by <= 0:
        return
    socket = SocketAt(lowest, part.socket.centre_mm - lower_by / 2)
    size = (part.size[0], part.size[1], part.size[2] - lower_by)
    play = _play_of(_with(setting, part=(index, replace(part, socket=socket, size=size))))
    if play is not None:
        kind = SOCKETS[lowest]
        yield FitRemedy(
            what="socket",
            subject=part.name,
            mm=0,
            says=f"A board like {part.name} with a {kind} socket, {lower_by:.1f} mm lower",
            buys=_leaves(play),
        )


def _other_walls(setting: Setting) -> Iterator[FitRemedy]:
    if setting.bay.tube or not any(part.socket for part in setting.parts):
        return
    have = {opening.side for opening in setting.bay.walls}
    for side in SIDES:
        if side in have:
            continue
        bay = setting.bay.model_copy(update={"walls": (*setting.bay.walls, WallOpening(side=side))})
        play = _play_of(_with(setting, bay=bay))
        if play is not None:
            name = side if side in ("floor", "lid") else f"{side} wall"
            says = f"Open the {name} as well"
            yield FitRemedy(what="wall", subject=side, mm=0, says=says, buys=_leaves(play), edits=_bay_edit(bay))


def _without_socket(
    setting: Setting, index: int, part: Part, at: str, shell_off: tuple[str, ...]
) -> Iterator[FitRemedy]:
    assert part.socket is not None
    lower = part.size[2] - SOCKET_HEIGHT_MM[part.socket.kind] + WITHOUT_SOCKET_MM
    height = min(part.size[2], max(lower, WITHOUT_SOCKET_MM))
    play = _play_of(_with(setting, part=(index, _bare(part, height))))
    if play is not None:
        yield FitRemedy(
            what="shell_off",
            subject=part.name,
            mm=0,
            says=f"Take the socket off {part.name} and bring 5 V in by wires",
            buys=_leaves(play),
            edits=(Edit(path=f"{at}.shell_off", value=[*shell_off, part.name]),),
        )


def _bare(part: Part, height: float) -> Part:
    return replace(part, socket=None, size=(part.size[0], part.size[1], height))


def _left_out(setting: Setting, index: int, part: Part, at: str, outside: tuple[str, ...]) -> Iterator[FitRemedy]:
    if part.kind == "cell":
        return
    play = _play_of(_with(setting, parts=setting.parts[:index] + setting.parts[index + 1 :]))
    if play is not None:
        yield FitRemedy(
            what="outside",
            subject=part.name,
            mm=0,
            says=f"Put {part.name} outside the bay",
            buys=_leaves(play),
            edits=(Edit(path=f"{at}.outside", value=[*outside, part.name]),),
        )


def _with(
    setting: Setting,
    *,
    bay: Bay | None = None,
    part: tuple[int, Part] | None = None,
    parts: tuple[Part, ...] | None = None,
) -> Setting:
    if part is not None:
        parts = (*setting.parts[: part[0]], part[1], *setting.parts[part[0] + 1 :])
    return replace(setting, bay=bay or setting.bay, parts=parts or setting.parts)


def _play_of(setting: Setting) -> float | None:
    """The play that is left, mm; None where it does not go in."""
    clearance = answer_to(setting).clearance_mm
    return clearance if clearance is not None and clearance >= 0 else None


def _leaves(play_mm: float) -> str:
    return f"leaves {play_mm:.1f} mm of play"
