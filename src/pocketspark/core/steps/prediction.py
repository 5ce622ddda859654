"""The prediction of a build in a few figures, to be kept beside what is measured later."""

from pydantic import ValidationError

from pocketspark.core.chain import Chain
from pocketspark.core.models.record import Prediction

ENDLESS = 1e6


def prediction_of(chain: Chain) -> Prediction:
    """The figures as they stand now. What cannot be told, for want of a part say, is None."""
    running, charging = chain.running, chain.charging
    most_used = running.most_used if running else None
    heaviest = running.heaviest_in_use if running else None
    figures = {
        "gadget_current_a": chain.heaviest.current_a if chain.heaviest else None,
        "charge_current_a": charging.current.spread.nominal_a if charging else None,
        "charge_hours": float(charging.run.hours.flat[0]) if charging else None,
        "run_hours": most_used.hours if most_used else None,
        "heaviest_hours": heaviest.hours if heaviest else None,
        "days": running.days if running else None,
        "capacity_ah": running.cell.planning_capacity_ah if running else None,
        "r_ohm": running.cell.resistance_ohm if running else None,
    }
    # A charge that never ends and a gadget that never drains its cell have no figure either.
    return Prediction(**{name: value for name, value in figures.items() if value is not None and _is_told(name, value)})


def _is_told(name: str, value: float) -> bool:
    """Whether it is a figure that such a thing can have: an impossible plan has impossible ones."""
    try:
        return value < ENDLESS and bool(Prediction.model_validate({name: value}))
    except ValidationError:
        return False


def first_prediction(chain: Chain) -> Prediction:
    """The plan: what was predicted before any measurement was taken into it."""
    earlier = chain.build.record.predictions
    return earlier[0].before if earlier else prediction_of(chain)
