"""As built beside as planned: every figure that was both predicted and measured, and by how much they differ."""

from collections.abc import Callable, Iterator, Mapping

import numpy as np

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.models.record import Prediction
from pocketspark.core.record.prediction import prediction_of
from pocketspark.core.units.quantity import amp_hours, amps, hours, ohms, volts

# Closer than this nobody would measure again (common practice, no source).
SAME_SHARE = 0.03


class BuiltFigure(Model):
    """One figure, in words; `off_share` is measured over planned less one."""

    what: str
    planned: str
    built: str
    off_share: float

    @property
    def same(self) -> bool:
        return abs(self.off_share) <= SAME_SHARE


def as_built(project: Project, build: int = 0) -> tuple[BuiltFigure, ...]:
    """Everything measured so far that had been planned. Empty before anything was measured."""
    chain = Chain(project, build)
    return tuple(figure for figure in (*_steps(chain), *_cell(chain), *_charge(chain)) if figure is not None)


def _figure(what: str, planned: float | None, built: float | None, told: Callable[[float], str]) -> BuiltFigure | None:
    if not planned or built is None:
        return None
    return BuiltFigure(what=what, planned=told(planned), built=told(built), off_share=built / planned - 1)


def _first_prediction(chain: Chain) -> Prediction:
    """The plan is what was predicted before any measurement was taken into it."""
    return chain.build.record.predictions[0].before if chain.build.record.predictions else prediction_of(chain)


# What each step's reading was planned to be.
_PLANNED: Mapping[str, tuple[str, Callable[[Chain], float | None], Callable[[float], str]]] = {
    "current": ("gadget's current", lambda chain: _first_prediction(chain).gadget_current_a, amps),
    "resistor": ("charge-current resistor", lambda chain: chain.build.r_prog_ohm or chain.suggested_r_ohm, ohms),
    "board_alone": ("board alone", lambda chain: chain.charger.float_v, volts),
    "regulator": ("regulator's volts", lambda chain: chain.regulator.v_set, volts),
    "first_charge": ("charge current", lambda chain: _first_prediction(chain).charge_current_a, amps),
    "full": ("full cell", lambda chain: chain.charger.float_v, volts),
    "discharge": ("run time", lambda chain: _first_prediction(chain).run_hours, hours),
}


def _steps(chain: Chain) -> Iterator[BuiltFigure | None]:
    readings = {record.step: record.value for record in chain.build.record.steps}
    for key, (what, planned, told) in _PLANNED.items():
        if readings.get(key) is None:
            continue
        try:
            yield _figure(what, planned(chain), readings[key], told)
        except MissingPart:
            continue


def _cell(chain: Chain) -> Iterator[BuiltFigure | None]:
    if not chain.has_cell:
        return
    cell = chain.cell
    yield _figure("cell's charge", cell.capacity_ah, cell.measured_capacity_ah, amp_hours)
    if chain.project.basis.get(f"{chain.at}.cell.r_ohm") == "measured":
        yield _figure("cell's resistance", cell.typical_ohm, cell.r_ohm, ohms)


def _charge(chain: Chain) -> Iterator[BuiltFigure | None]:
    """How long the attended charge took."""
    watch = chain.build.record.first_charge
    if watch.started_at is None or watch.ended_at is None or not chain.has_cell or not chain.chargers:
        return
    took_h = _hours_between(watch.started_at, watch.ended_at)
    yield _figure("first charge", _first_prediction(chain).charge_hours, took_h, hours)


def _hours_between(start: str, end: str) -> float:
    first, last = (np.datetime64(moment.removesuffix("Z"), "s") for moment in (start, end))
    return float((last - first) / np.timedelta64(1, "h"))
