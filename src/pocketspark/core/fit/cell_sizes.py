"""How much larger the cells could be in one of their measures, or must be smaller; like cells all alike.

With it everything goes in, and the calipers cannot be at fault.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from pocketspark.core.fit.allowances import SWELL_SHARE
from pocketspark.core.fit.answer_facts import Setting
from pocketspark.core.fit.bays import space_of
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.branch_and_bound import search
from pocketspark.core.fit.placement_questions import FAR_OFF_MM, Walls, Yield, question_of
from pocketspark.core.fit.placing import answer_to, goes_in
from pocketspark.core.fit.shapes import lies_in_troughs

# Work is bounded: a question that takes longer than this many nodes is left unasked.
NODES = 20_000
# Nobody asks for a cell that is larger by more, and no cell is left that is thinner than this.
MOST_MM, LEAST_LEFT_MM = 60.0, 1.0
# By halves to this: what is said is never more than what goes in.
_NEAR_MM = 0.02


@dataclass(frozen=True)
class Measure:
    """One measure of a cell, what a smaller one is called, and which of its home axes it is."""

    name: str
    smaller: str
    axes: tuple[int, ...]

    def in_the_bay(self, part: Part, mm: float) -> float:
        """By how much its room grows with so much more cell: a pouch's swell grows with it."""
        return mm * (1 + SWELL_SHARE) if part.form == "pouch" and self.axes == (2,) else mm


LENGTH = Measure("length", "shorter", (0,))
_FLAT = (LENGTH, Measure("width", "narrower", (1,)), Measure("thickness", "thinner", (2,)))
_ROUND = (LENGTH, Measure("diameter", "slimmer", (1, 2)))


def measures_of(part: Part) -> tuple[Measure, ...]:
    return _ROUND if part.form == "round" else _FLAT


def cells_of(setting: Setting) -> tuple[int, ...]:
    return tuple(index for index, part in enumerate(setting.parts) if part.kind == "cell")


def room_for_more_mm(setting: Setting, measure: Measure) -> float | None:
    """Of the cell's own measure; negative: so much too large. None where no cell is left of it, or none is in.

    Where all is flat one search tells it; where it is round a question is of one size of cell, and it is tried.
    """
    cells = cells_of(setting)
    if not cells:
        return None
    part = setting.parts[cells[0]]
    if setting.bay.tube or lies_in_troughs(space_of(setting.bay), part):
        mm = _by_halves(setting, cells, measure)
    else:
        mm = given_mm(setting, Yield(parts=cells, home_axes=measure.axes))
    if mm is None or part.size[measure.axes[0]] + mm < LEAST_LEFT_MM:
        return None
    return mm / measure.in_the_bay(part, 1.0)


def given_mm(setting: Setting, yields: Yield) -> float | None:
    """How far this could go, mm, with the calipers' tolerance to spare; None where not even a lot less of it helps."""
    space, walls = space_of(setting.bay), Walls(setting.bay.walls, setting.bay.wall_mm)
    question = question_of(space, setting.parts, walls, setting.pins, yields, -FAR_OFF_MM, setting.tolerance_mm)
    found = search(question.within(NODES))
    return found.value if found.placed else None


def clearance_of(setting: Setting) -> float | None:
    """The clearance that is left, mm; None where it does not go in, or the calipers could be at fault."""
    if not setting.parts or not goes_in(setting, NODES):
        return None
    clearance = answer_to(setting).clearance_mm
    return clearance if clearance is not None and clearance >= setting.tolerance_mm - 1e-6 else None


def _by_halves(setting: Setting, cells: Sequence[int], measure: Measure) -> float | None:
    own_mm = min(setting.parts[cells[0]].size[axis] for axis in measure.axes)
    low, high = -min(FAR_OFF_MM, own_mm - LEAST_LEFT_MM), 0.0
    if _goes_in_with(setting, cells, measure, 0.0):
        low, high = 0.0, 1.0
        while high < MOST_MM and _goes_in_with(setting, cells, measure, high):
            low, high = high, 2 * high
    elif low >= 0 or not _goes_in_with(setting, cells, measure, low):
        return None
    while high - low > _NEAR_MM:
        middle = (low + high) / 2
        low, high = (middle, high) if _goes_in_with(setting, cells, measure, middle) else (low, middle)
    return low


def _goes_in_with(setting: Setting, cells: Sequence[int], measure: Measure, mm: float) -> bool:
    """In a tube with what is to spare; in a trough only what is there is measured."""
    parts = list(setting.parts)
    for index in cells:
        x, y, z = (size + mm * (axis in measure.axes) for axis, size in enumerate(parts[index].size))
        parts[index] = replace(parts[index], size=(x, y, z))
    changed = replace(setting, parts=tuple(parts))
    if setting.bay.tube:
        return goes_in(changed, NODES, setting.tolerance_mm)
    return clearance_of(changed) is not None
