"""A cell is one thing: what a conversion measures of a cell of the maker's own is what the parts know of it."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from pocketspark.core.message import Message, Value, row_of, say
from pocketspark.core.models import Build, Cell, Project
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import amp_hours, ohms

# What is read of a cell, on the bench or while it is built in, and how it is written.
_READ: Mapping[str, Callable[[float], Value]] = {"measured_capacity_ah": amp_hours, "r_ohm": ohms}


class KnownElsewhere(Model):
    """What the maker's parts know of a cell and a build that holds it does not, with the edits that take it over."""

    says: Message
    edits: tuple[Edit, ...]


def known_elsewhere(project: Project, build: int, part: Cell) -> KnownElsewhere | None:
    """`part`: the own cell that the build's cell is a copy of. None where the build knows all that was read of it."""
    held = project.builds[build]
    alone = [cell for one, cell, _ in _own_cells(project) if one.id == held.id]
    edits, figures = [], []
    for cell in alone:
        for name, write in _READ.items():
            value, here = getattr(part, name), getattr(cell, name)
            if value is None or value == here:
                continue
            path = f"builds.{held.id}.cell.{name}"
            edits += [Edit(path=path, value=value), Edit(path=f"basis.{path}", value="measured")]
            known = say("{value}", value=write(value))
            figures.append(known if here is None else say("{value} ({here} here)", value=known, here=write(here)))
    if not edits:
        return None
    says = say("Read on this cell since, among your parts: {figures}.", figures=row_of(figures))
    return KnownElsewhere(says=says, edits=tuple(edits))


@dataclass
class LearntOfCell:
    """Figures that were newly measured on one own cell, and the full charges that it went through meanwhile."""

    figures: dict[str, float] = field(default_factory=dict)
    charges: int = 0

    def put_into(self, cell: Cell) -> Cell:
        """The part with what was learnt of it."""
        intake = cell.intake or Intake()
        if self.charges:
            intake = intake.model_copy(update={"cycles": (intake.cycles or 0) + self.charges})
            cell = cell.model_copy(update={"intake": intake})
        return cell.model_copy(update=dict(self.figures))


def learnt_of_own_cells(before: Project, after: Project) -> Mapping[int, LearntOfCell]:
    """What the second state of a project newly says of own cells, by the number of the part.

    Of a practice copy nothing is learnt, nor of cells side by side, of which no single one was measured.
    """
    known = {(build.id, part): (build, cell) for build, cell, part in _own_cells(before)}
    learnt: dict[int, LearntOfCell] = {}
    for build, cell, part in _own_cells(after):
        if (build.id, part) not in known:
            continue
        old_build, old_cell = known[build.id, part]
        for name in _READ:
            value = getattr(cell, name)
            is_new = value is not None and value != getattr(old_cell, name)
            if is_new and after.basis_of(f"builds.{build.id}.cell.{name}") == "measured":
                learnt.setdefault(part, LearntOfCell()).figures[name] = value
        if build.record.first_charge.ended_at and not old_build.record.first_charge.ended_at:
            learnt.setdefault(part, LearntOfCell()).charges += 1
    return learnt


def _own_cells(project: Project) -> Iterator[tuple[Build, Cell, int]]:
    for build in project.builds:
        cell = build.cell
        if cell is not None and cell.inventory_id is not None and build.cell_count == 1 and not build.practice:
            yield build, cell, cell.inventory_id
