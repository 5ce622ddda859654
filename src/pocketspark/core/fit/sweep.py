"""What would fit: every cell with every board set, those that go in by energy, and how much larger one could be."""

import math
from collections.abc import Iterator, Mapping, Sequence
from functools import lru_cache

from pocketspark.core.fit.answer_facts import Setting
from pocketspark.core.fit.cell_sizes import cells_of, measures_of, room_for_more_mm
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.placing import setting_of
from pocketspark.core.limits import LEAST_FULL, SAME_V
from pocketspark.core.message import Label
from pocketspark.core.models import Board, Cell, Project
from pocketspark.core.models.model import Model
from pocketspark.core.physics.ocv import curve_of
from pocketspark.core.units.figures import ShownMillimetres, ShownWattHours


class Fitting(Model):
    """One cell with one board set that goes in."""

    cell: str
    boards: str
    energy_wh: ShownWattHours
    thickness_mm: ShownMillimetres


class Largest(Model):
    """How much larger the chosen cells could be in one measure alone, mm; negative: must be smaller."""

    measure: Label
    mm: float


def what_fits(
    project: Project, build: int, cells: Mapping[str, Cell], board_sets: Mapping[str, Sequence[Board]]
) -> Iterator[tuple[int, int, Fitting | None]]:
    """Each pair whose charger suits the cell in turn, as (done, total, fitting or None). Stop asking to cancel."""
    pairs = {name: [key for key in cells if _suit(cells[key], boards)] for name, boards in board_sets.items()}
    total, done = sum(map(len, pairs.values())), 0
    known = KnownFits()
    for name, keys in pairs.items():
        for key in halving(sorted(keys, key=lambda key: _bulk(cells[key]))):
            done += 1
            fits = cells[key].size_mm is not None and known.goes_in(
                _with(project, build, cells[key], board_sets[name]), build
            )
            yield done, total, _fitting(key, cells[key], name) if fits else None


def halving(keys: Sequence[str]) -> Iterator[str]:
    """The middle one first, then those of either half, and so on: each answer says most about those that are left."""
    waiting = [keys]
    for part in waiting:
        if part:
            middle = len(part) // 2
            yield part[middle]
            waiting += [part[:middle], part[middle + 1 :]]


def _suit(cell: Cell, boards: Sequence[Board]) -> bool:
    """Whether every charger here may charge this cell, and fills it at least by half."""
    ends = [board.charger.float_v for board in boards if board.charger]
    curve = curve_of(cell.cell_class)
    return all(v <= cell.facts.full_v + SAME_V and float(curve.soc_at(v)) > LEAST_FULL for v in ends)


def _fitting(key: str, cell: Cell, boards: str) -> Fitting:
    thickness = cell.size_mm[0] if cell.size_mm else 0.0
    energy_wh = cell.planning_capacity_ah * cell.facts.nominal_v
    return Fitting(cell=key, boards=boards, energy_wh=round(energy_wh, 3), thickness_mm=thickness)


def _bulk(cell: Cell) -> float:
    return cell.volume_l or 0.0


def _with(project: Project, build: int, cell: Cell, boards: Sequence[Board]) -> Project:
    chosen = project.builds[build].model_copy(update={"cell": cell, "boards": tuple(boards)})
    builds = (*project.builds[:build], chosen, *project.builds[build + 1 :])
    return project.model_copy(update={"builds": builds})


def largest(project: Project, build: int = 0) -> tuple[Largest, ...]:
    """Each measure of the chosen cells alone. Empty for a bay that is not known, or where no cell goes in."""
    setting = setting_of(project, build)
    return () if setting is None else _largest(setting)


@lru_cache(maxsize=64)
def _largest(setting: Setting) -> tuple[Largest, ...]:
    cells = cells_of(setting)
    measures = measures_of(setting.parts[cells[0]]) if cells else ()
    could = ((measure, room_for_more_mm(setting, measure)) for measure in measures)
    # Rounded down: what is said goes in.
    return tuple(
        Largest(measure=measure.name, mm=math.floor(mm * 100 + 1e-6) / 100) for measure, mm in could if mm is not None
    )
