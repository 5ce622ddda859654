"""The prediction of a build in a few figures, to be kept beside what is measured later."""

from collections.abc import Callable, Mapping

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.models.record import Prediction

ENDLESS = 1e6


def prediction_of(chain: Chain) -> Prediction:
    """The figures as they stand now. What cannot be told, for want of a part say, is None."""
    return Prediction(**{figure: _told(chain, tell) for figure, tell in _FIGURES.items()})


def _told(chain: Chain, tell: Callable[[Chain], float | None]) -> float | None:
    """A charge that never ends and a gadget that never drains its cell have no figure either."""
    try:
        figure = tell(chain)
    except MissingPart:
        return None
    return figure if figure is not None and figure < ENDLESS else None


_FIGURES: Mapping[str, Callable[[Chain], float | None]] = {
    "gadget_current_a": lambda chain: chain.heaviest.current_a if chain.gadget.modes else None,
    "charge_current_a": lambda chain: chain.spread.nominal_a,
    "charge_hours": lambda chain: float(chain.charge_run.hours.flat[0]),
    "run_hours": lambda chain: chain.most_used.hours if chain.most_used else None,
    "days": lambda chain: chain.days,
    "capacity_ah": lambda chain: chain.cell.planning_capacity_ah,
    "r_ohm": lambda chain: chain.cell.resistance_ohm,
}
