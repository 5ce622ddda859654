"""Which of a maker's own parts can really be had: what is built in, untested or worn out is left out, and told."""

from collections.abc import Iterable
from dataclasses import dataclass

from pocketspark.core.cells.grading import Grade, grade
from pocketspark.core.message import Message, say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.inventory import InventoryModel


@dataclass(frozen=True)
class OwnStock:
    """One of the maker's own: how many there are, and how many of them are built into something already."""

    body: InventoryModel
    stock: int
    built_in: int = 0

    @property
    def free(self) -> int:
        return max(self.stock - self.built_in, 0)


def pieces_built_in(project: Project, part_id: int) -> int:
    """How many of this part the builds hold that were begun; a practice copy and a plan hold none."""
    begun = [build for build in project.builds if not build.practice and any(step.done for step in build.record.steps)]
    cells = [build.cell_count for build in begun if build.cell and build.cell.inventory_id == part_id]
    others = (cell for build in begun for cell in build.unlike_cells if cell.inventory_id == part_id)
    boards = (board for build in begun for board in build.boards if board.inventory_id == part_id)
    return sum(cells) + sum(1 for _ in others) + sum(1 for _ in boards)


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
    if part.free == 0:
        return say("{part}: used up, every one is built in.", part=part.body.name)
    return _not_fit(part.body.name, graded) if graded else None


def _not_fit(name: str, graded: Grade) -> Message | None:
    if graded.word == "untested":
        return say("{part}: not tested yet. {next_step}", part=name, next_step=graded.next_step)
    return say("{part}: to be recycled.", part=name) if graded.word == "recycle" else None
