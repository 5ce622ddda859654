"""As built beside as planned: every figure that was both predicted and measured, and by how much they differ."""

from collections.abc import Callable, Iterator

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.message import Message, Value, as_message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.steps import counts
from pocketspark.core.steps.order import ORDER
from pocketspark.core.steps.prediction import first_prediction
from pocketspark.core.units.figures import amp_hours, hours, ohms

# Closer than this nobody would measure again (common practice, no source).
SAME_SHARE = 0.03


class BuiltFigure(Model):
    """One figure, in words; `off_share` is measured over planned less one."""

    what: Message
    planned: Message
    built: Message
    off_share: float

    @property
    def same(self) -> bool:
        return abs(self.off_share) <= SAME_SHARE


def as_built(project: Project, build: int = 0) -> tuple[BuiltFigure, ...]:
    """Everything measured so far that had been planned. Empty before anything was measured."""
    chain = Chain(project, build)
    return tuple(figure for figure in (*_steps(chain), *_cell(chain), *_charge(chain)) if figure is not None)


def _figure(
    what: Value, planned: float | None, built: float | None, write: Callable[[float], Value]
) -> BuiltFigure | None:
    if not planned or built is None:
        return None
    return BuiltFigure(
        what=as_message(what),
        planned=as_message(write(planned)),
        built=as_message(write(built)),
        off_share=built / planned - 1,
    )


def _steps(chain: Chain) -> Iterator[BuiltFigure | None]:
    """Every step's reading that the plan had told."""
    readings = {record.step: record.value for record in chain.build.record.steps if counts(record, chain.build)}
    for kind in ORDER:
        step = kind.step_of(chain) if kind.write else None
        if step is not None and kind.write and readings.get(step.key) is not None:
            yield _figure(kind.measures, kind.planned_for(chain), readings[step.key], kind.write)


def _cell(chain: Chain) -> Iterator[BuiltFigure | None]:
    if chain.chosen_cell is None:
        return
    cell, path = chain.chosen_cell.cell, chain.chosen_cell.path
    yield _figure(say("cell's charge"), cell.capacity_ah, cell.measured_capacity_ah, amp_hours)
    if chain.project.basis.get(f"{path}.r_ohm") == "measured":
        yield _figure(say("cell's resistance"), cell.typical_ohm, cell.r_ohm, ohms)


def _charge(chain: Chain) -> Iterator[BuiltFigure | None]:
    """How long the attended charge took."""
    watch = chain.build.record.first_charge
    if watch.started_at is None or watch.ended_at is None or chain.charging is None:
        return
    took_h = _hours_between(watch.started_at, watch.ended_at)
    yield _figure("first charge", first_prediction(chain).charge_hours, took_h, hours)


def _hours_between(start: str, end: str) -> float:
    first, last = (np.datetime64(moment.removesuffix("Z"), "s") for moment in (start, end))
    return float((last - first) / np.timedelta64(1, "h"))
