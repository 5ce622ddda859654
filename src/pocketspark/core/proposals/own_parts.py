"""Which of a maker's own parts can really be had: what is built in, untested or worn out is left out, and told."""

from collections.abc import Iterable
from dataclasses import dataclass

from pocketspark.core.cells.grading import Grade, grade
from pocketspark.core.message import NOTHING, Message, row_of, say
from pocketspark.core.models import Build, Cell, Project
from pocketspark.core.models.inventory_item import InventoryModel


@dataclass(frozen=True)
class OwnStock:
    """One of the maker's own: how many there are, and how many of them are built into something already.

    `promised`: chosen for builds that are not begun; they can still be had. `on_test`: on a load just now.
    """

    body: InventoryModel
    stock: int
    built_in: int = 0
    promised: int = 0
    on_test: int = 0

    @property
    def free(self) -> int:
        return max(self.stock - self.built_in - self.on_test, 0)


def pieces_built_in(project: Project, part_id: int) -> int:
    """How many of this part the builds hold that were begun; a practice copy and a plan hold none."""
    return sum(_pieces(build, part_id) for build in project.builds if _is_begun(build))


def pieces_promised(project: Project, part_id: int) -> int:
    """How many its plans want, of which one will be built; none where one was begun."""
    if any(_is_begun(build) for build in project.builds):
        return 0
    return max((_pieces(build, part_id) for build in project.builds if not build.practice), default=0)


def _is_begun(build: Build) -> bool:
    return not build.practice and any(step.done for step in build.record.steps)


def _pieces(build: Build, part_id: int) -> int:
    cells = build.cell_count if build.cell and build.cell.inventory_id == part_id else 0
    others = sum(cell.inventory_id == part_id for cell in build.unlike_cells)
    return cells + others + sum(board.inventory_id == part_id for board in build.boards)


def where_they_are(part: OwnStock) -> Message:
    """Built in, on test, promised, free: only what is."""
    counted = [
        say("{count} built in", count=part.built_in) if part.built_in else NOTHING,
        say("{count} on test", count=part.on_test) if part.on_test else NOTHING,
        say("{count} promised", count=part.promised) if part.promised else NOTHING,
        say("{count} free", count=part.free) if part.free else say("none free"),
    ]
    return row_of([one for one in counted if one]) if any(counted[:3]) or not part.free else NOTHING


def can_be_had(parts: Iterable[OwnStock]) -> tuple[list[OwnStock], list[Message]]:
    """Those that are free and fit to be used, and why others are not."""
    had, left_out = [], []
    for part in parts:
        why = _why_not(part)
        if why is None:
            had.append(part)
        else:
            left_out.append(why)
    return had, left_out


def _why_not(part: OwnStock) -> Message | None:
    graded = grade(part.body) if isinstance(part.body, Cell) else None
    if part.stock == 0:
        return say("{part}: you have none left.", part=part.body.name)
    if part.free == 0 and part.on_test:
        return say("{part}: on test.", part=part.body.name)
    if part.free == 0:
        return say("{part}: used up, every one is built in.", part=part.body.name)
    return _not_fit(part.body.name, graded) if graded else None


def _not_fit(name: str, graded: Grade) -> Message | None:
    if graded.word == "untested":
        return say("{part}: not tested yet. {next_step}", part=name, next_step=graded.next_step)
    return say("{part}: to be recycled.", part=name) if graded.word == "recycle" else None
