"""What would fit: every cell with every board set, those that go in by energy, and how much larger one could be."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import replace

from pocketspark.core.fit.bays import space_of
from pocketspark.core.fit.placing import goes_in, setting_of
from pocketspark.core.fit.questions import FAR_OFF_MM, Walls, Yield, question_of
from pocketspark.core.fit.search import search
from pocketspark.core.models import Board, Cell, Project
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownMillimetres, ShownWattHours

# Of a single question; past it a cell counts as not fitting, which is on the safe side.
NODES = 4000


class Fitting(Model):
    """One cell with one board set that goes in."""

    cell: str
    boards: str
    energy_wh: ShownWattHours
    thickness_mm: ShownMillimetres


class Largest(Model):
    """How much larger the chosen cell could be in one measure alone, mm; negative: must be smaller."""

    measure: str
    mm: float


def what_fits(
    project: Project, build: int, cells: Mapping[str, Cell], board_sets: Mapping[str, Sequence[Board]]
) -> Iterator[tuple[int, int, Fitting | None]]:
    """Each combination in turn as (done, total, fitting or None). Stop asking to cancel."""
    total, done = len(cells) * len(board_sets), 0
    for name, boards in board_sets.items():
        too_big: list[tuple[float, ...]] = []
        # Smallest first: a cell that contains one that did not go in does not go in either.
        for key, cell in sorted(cells.items(), key=lambda item: _bulk(item[1])):
            done += 1
            size = _size(cell)
            fits = size is not None and not any(_contains(size, small) for small in too_big)
            if fits and not _goes_in(project, build, cell, boards):
                fits = False
                too_big.append(size or ())
            yield done, total, _fitting(key, cell, name) if fits else None


def _fitting(key: str, cell: Cell, boards: str) -> Fitting:
    thickness = cell.size_mm[0] if cell.size_mm else 0.0
    energy_wh = cell.planning_capacity_ah * cell.facts.nominal_v
    return Fitting(cell=key, boards=boards, energy_wh=round(energy_wh, 3), thickness_mm=thickness)


def _size(cell: Cell) -> tuple[float, ...] | None:
    """With its form, since only like forms contain each other."""
    return None if cell.size_mm is None else (float(len(cell.form)), *cell.size_mm)


def _bulk(cell: Cell) -> float:
    return cell.volume_l or 0.0


def _contains(size: tuple[float, ...], small: tuple[float, ...]) -> bool:
    alike = len(size) == len(small) and size[0] == small[0]
    return alike and all(a >= b for a, b in zip(size[1:], small[1:], strict=True))


def _goes_in(project: Project, build: int, cell: Cell, boards: Sequence[Board]) -> bool:
    chosen = project.builds[build].model_copy(update={"cell": cell, "boards": tuple(boards)})
    builds = (*project.builds[:build], chosen, *project.builds[build + 1 :])
    setting = setting_of(project.model_copy(update={"builds": builds}), build)
    return setting is not None and goes_in(setting, NODES)


def largest(project: Project, build: int = 0) -> list[Largest]:
    """Each measure of the chosen cell alone. Empty where nothing is known of the bay, or it is a tube."""
    setting = setting_of(project, build)
    if setting is None or setting.bay.tube:
        return []
    cell = next((i for i, part in enumerate(setting.parts) if part.kind == "cell"), None)
    if cell is None:
        return []
    space, walls = space_of(setting.bay), Walls(setting.bay.walls)
    found = []
    for measure, axis in (("thickness", 2), ("width", 1), ("length", 0)):
        yields = Yield(parts=(cell,), home_axes=(axis,))
        question = question_of(space, setting.parts, walls, setting.pins, yields, least=-FAR_OFF_MM)
        answer = search(replace(question, node_limit=NODES * 4))
        if answer.placed:
            found.append(Largest(measure=measure, mm=round(answer.value - 0.005, 2)))
    return found
