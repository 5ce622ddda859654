"""A cell is one thing: what a conversion measures of a cell of the maker's own is what the parts know of it."""

from collections.abc import Iterator, Mapping

from pocketspark.core.models import Build, Cell, Project

# What is read of a cell while it is built in, or on its way there.
_READ = ("measured_capacity_ah", "r_ohm")


def learnt_of_own_cells(before: Project, after: Project) -> Mapping[int, Mapping[str, float]]:
    """Figures that were newly measured on own cells, by the number of the part.

    Of a practice copy nothing is learnt, nor of cells side by side, of which no single one was measured.
    """
    known = {(build.id, part): cell for build, cell, part in _own_cells(before)}
    learnt: dict[int, dict[str, float]] = {}
    for build, cell, part in _own_cells(after):
        was = known.get((build.id, part))
        for field in _READ:
            value = getattr(cell, field)
            is_new = value is not None and was is not None and value != getattr(was, field)
            if is_new and after.basis_of(f"builds.{build.id}.cell.{field}") == "measured":
                learnt.setdefault(part, {})[field] = value
    return learnt


def _own_cells(project: Project) -> Iterator[tuple[Build, Cell, int]]:
    for build in project.builds:
        cell = build.cell
        if cell is not None and cell.inventory_id is not None and build.cell_count == 1 and not build.practice:
            yield build, cell, cell.inventory_id
