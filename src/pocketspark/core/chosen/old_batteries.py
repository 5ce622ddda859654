"""What the old batteries did: hours of each use on a fresh set, and how long a set lasts as the gadget is used."""

from collections.abc import Mapping
from functools import lru_cache

from pocketspark.core.chosen.chosen_parts import ChosenParts, load_of_mode
from pocketspark.core.chosen.service import service_share
from pocketspark.core.models import Gadget, Mode
from pocketspark.core.models.battery import Chemistry
from pocketspark.core.models.supply import Supply
from pocketspark.core.physics.primary import old_hours, old_run

# What lies in a drawer is not worth a set any more after so many years, and no sooner in a gadget that draws next to
# nothing; rechargeables, of the kind that keeps its charge, are charged again within (all from memory).
SHELF_YEARS: Mapping[Chemistry, float] = {
    "alkaline": 7.0,
    "zinc_carbon": 3.0,
    "lithium_iron": 15.0,
    "lithium_manganese": 10.0,
    "silver": 5.0,
    "nimh": 2.0,
}
_LITHIUM_PACK_YEARS = 2.0
DAYS_A_YEAR = 365.0


def old_mode_hours(chosen: ChosenParts, mode: Mode) -> float:
    """Hours of this mode on a fresh set, by the set's own drain curve; between pulses what is drawn asleep flows."""
    return _mode_hours(chosen.gadget, mode, chosen.gadget.supply, chosen.window.v_run_min)


def old_set_days(chosen: ChosenParts, supply: Supply | None = None) -> float | None:
    """Days on one fresh set, as the gadget is used and as far as it does its job.

    `supply`: other batteries in the place of the gadget's own, which go on setting the volts that it works at. None
    where no use is known, or a mode does not run on it.
    """
    return _set_days(chosen.gadget, supply or chosen.gadget.supply, chosen.window.v_run_min)


# Kept, since the old set stays what it is while everything else is tried.
@lru_cache(maxsize=64)
def _set_days(gadget: Gadget, supply: Supply, v_run_min: float) -> float | None:
    used = [mode for mode in gadget.modes if mode.current_a > 0 and mode.hours_per_day > 0]
    hours = [_mode_hours(gadget, mode, supply, v_run_min) for mode in used]
    if not used or min(hours) <= 0:
        return None
    a_day = sum(mode.hours_per_day / lasts_h for mode, lasts_h in zip(used, hours, strict=True))
    besides_ah = sum(mode.starts_ah for mode in gadget.modes)
    besides_ah += gadget.off_current_a * max(24 - gadget.hours_on_per_day, 0.0)
    a_day += besides_ah / supply.capacity_ah
    years = _LITHIUM_PACK_YEARS if supply.kind == "lithium" else SHELF_YEARS[supply.chemistry]
    served = min(_served_share(gadget, mode, supply, v_run_min) for mode in used)
    return served / (a_day + 1 / (years * DAYS_A_YEAR))


def _mode_hours(gadget: Gadget, mode: Mode, supply: Supply, v_run_min: float) -> float:
    steady_h = old_hours(supply, load_of_mode(gadget, mode), v_run_min)
    if mode.duty == 1 or steady_h <= 0:
        return steady_h
    return 1 / (mode.duty / steady_h + (1 - mode.duty) * gadget.off_current_a / supply.capacity_ah)


def _served_share(gadget: Gadget, mode: Mode, supply: Supply, v_run_min: float) -> float:
    """Share of its time in which the gadget did its job, as in its new life."""
    return float(service_share(gadget, mode, old_run(supply, load_of_mode(gadget, mode), v_run_min)).flat[0])
