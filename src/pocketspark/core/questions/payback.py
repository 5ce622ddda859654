"""Worth it? Parts and bench hours against batteries bought, energy against the original and against rechargeables.

Prices are a maker's own where given; otherwise rough ones in whatever money the parts are priced in (assumed).
"""

from collections.abc import Mapping
from typing import Literal

from pocketspark.core.chain import Chain, Running
from pocketspark.core.chosen.old_batteries import DAYS_A_YEAR, old_set_days
from pocketspark.core.chosen.prices import price_of_parts
from pocketspark.core.life.years import Years
from pocketspark.core.message import Message, say
from pocketspark.core.models.model import Model
from pocketspark.core.models.supply import Supply
from pocketspark.core.steps.order import hours_of_work, steps_of
from pocketspark.core.units.figures import ShownHours, ShownWattHours, days, fixed

# Price each and mass in g of common batteries, from memory and rounded; one line for what is not listed.
_BATTERY: Mapping[str, tuple[float, float]] = {
    "LR8D425": (0.9, 6.5),
    "LR03": (0.5, 11.5),
    "LR1": (1.2, 9),
    "LR6": (0.5, 23),
    "LR14": (1.5, 66),
    "LR20": (2.0, 140),
    "6LR61": (2.5, 46),
    "8LR932": (1.2, 8),
    "LR41": (0.4, 0.6),
    "LR44": (0.4, 2),
    "CR2032": (0.8, 3),
    "CR2450": (1.5, 6.5),
    "CR17345": (3.0, 17),
}
_OTHER_BATTERY = (1.0, 3.0)
# Price of a bought NiMH cell that keeps its charge, by size (from memory).
_RECHARGEABLE_PRICE: Mapping[str, float] = {"LR03": 2.5, "LR6": 3.0, "LR14": 8.0, "LR20": 12.0, "6LR61": 8.0}
RECHARGEABLE_V = 1.2
LITHIUM_WH_PER_KG = 180.0  # small pouch cells with their leads, from memory
SMALL_PARTS = 1.5  # wire, tape, solder, a resistor
# Longer than this and the money never comes back within the life of the cell (assumed).
LONG_PAYBACK_YEARS = 5.0
# Hardly any cell serves less: only what is earned back later is held against its years.
SHORT_LIFE_YEARS = 2.0

NOTHING_SAVED = say("It is not known to save any batteries. Do it for convenience, or leave it.")
RECHARGED = say("The old cells are rechargeable already, so it saves no batteries, only their charger.")
STOPPED: tuple["Answer", Message] = ("no", say("Something stops this build, so it earns nothing back yet."))

Answer = Literal["yes", "for its own sake", "no"]


class Payback(Model):
    """What a conversion costs and saves. Money is in the unit of the parts' prices."""

    currency: str
    parts_cost: float
    small_parts_cost: float  # wire, tape, solder
    bench_hours: ShownHours
    labour_cost: float
    sets_per_year: float | None
    saved_per_year: float | None
    payback_years: float | None  # None: nothing is saved, or no use is known
    energy_wh: ShownWattHours
    original_wh: ShownWattHours
    rechargeable_wh: ShownWattHours | None  # None: no such size is sold
    rechargeable_cost: float | None
    mass_g: float
    original_mass_g: float
    answer: Answer
    reason: Message


def payback_of(chain: Chain, *, stopped: bool = False) -> Payback:
    """Add it all up. `stopped`: something stops this build, so that it earns nothing back.

    The bench hours are the maker's own, else those of the build's steps: one figure wherever it stands.
    Raises MissingPart before a cell is chosen.
    """
    running = chain.required_running()
    cell = running.cell
    supply, costs = chain.gadget.supply, chain.project.costs
    energy_wh = running.chosen.capacity_ah * cell.facts.nominal_v
    original_wh = supply.capacity_ah * supply.working_v
    parts_cost = price_of_parts(chain.build)
    bench_hours = hours_of_work(steps_of(chain)) if costs.bench_hours is None else costs.bench_hours
    labour_cost = bench_hours * costs.hourly_rate
    sets = _sets_per_year(running)
    each, mass = _BATTERY.get(supply.battery, _OTHER_BATTERY)
    set_price = costs.battery_price * supply.count if costs.battery_price is not None else each * supply.count
    # A set that was recharged anyway saves no other.
    bought = supply.kind == "cells" and supply.chemistry != "nimh"
    saved = sets * set_price if sets is not None and bought else None
    payback = (parts_cost + SMALL_PARTS + labour_cost) / saved if saved else None
    rechargeable_wh, rechargeable_cost = _rechargeables(supply)
    if stopped:
        answer, reason = STOPPED
    else:
        answer, reason = _answer(running, payback, sets)
    return Payback(
        parts_cost=parts_cost,
        small_parts_cost=SMALL_PARTS,
        currency=costs.currency,
        bench_hours=bench_hours,
        labour_cost=labour_cost,
        sets_per_year=sets,
        saved_per_year=saved,
        payback_years=payback,
        energy_wh=energy_wh,
        original_wh=original_wh,
        rechargeable_wh=rechargeable_wh,
        rechargeable_cost=rechargeable_cost,
        mass_g=energy_wh / LITHIUM_WH_PER_KG * 1000,
        original_mass_g=mass * supply.count,
        answer=answer,
        reason=reason,
    )


def _sets_per_year(running: Running) -> float | None:
    """Sets of old batteries a year at the surveyed use, by their own drain curve."""
    lasts = old_set_days(running.chain)
    return DAYS_A_YEAR * len(running.gadget.shell.used_in) / 12 / lasts if lasts else None


def _rechargeables(supply: Supply) -> tuple[float | None, float | None]:
    if supply.kind != "cells" or supply.battery not in _RECHARGEABLE_PRICE:
        return None, None
    bought = supply.model_copy(update={"chemistry": "nimh"})
    nominal_v = RECHARGEABLE_V * supply.cells_in_series
    return bought.capacity_ah * nominal_v, _RECHARGEABLE_PRICE[supply.battery] * supply.count


def _answer(running: Running, payback: float | None, sets: float | None) -> tuple[Answer, Message]:
    """Plain words. An honest no is a result."""
    if any(run.hours <= 0 for run in running.runs):
        return "no", say("It would not run, so it saves no batteries.")
    if sets is not None and sets < 0.5:
        return "no", say("It uses only {sets} sets of batteries a year. Leave it as it is.", sets=fixed(sets, 1))
    if payback is None:
        recharged = running.gadget.supply.chemistry == "nimh"
        return "for its own sake", RECHARGED if recharged else NOTHING_SAVED
    if payback > SHORT_LIFE_YEARS and payback > (serves := Years(running).serves_years):
        text = say(
            "It would take {payback} to earn back parts and hours, and it serves {serves}.",
            payback=days(payback * 365),
            serves=days(serves * 365),
        )
        return "for its own sake", text
    if payback > LONG_PAYBACK_YEARS:
        return (
            "for its own sake",
            say(
                "It takes {payback} to earn back parts and hours. Do it for convenience, not for money.",
                payback=days(payback * 365),
            ),
        )
    return "yes", say("It earns back its parts and hours in {payback}.", payback=days(payback * 365))
