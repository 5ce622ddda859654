"""What would make a cell serve longer, each as a change of the plan that can be tried: the build is lived once more.

A lever that leaves the build with a stop it did not have is none.
"""

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain import BoardCharging, Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.life.years import Years
from pocketspark.core.message import Message, say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.project import Edit
from pocketspark.core.physics import resistors
from pocketspark.core.rules import findings_of
from pocketspark.core.units.figures import amp_hours, fixed, hours, percent, volts

LeverKey = Literal[
    "gentler", "lower_end", "taken_off", "always_in", "warm_winter", "cool_summer", "larger_cell", "iron_phosphate"
]

# Charged with this share of its capacity an hour nothing is gained by charging it more gently still.
GENTLE_SHARE = 0.3
# A tenth of a volt less at the end (common practice for cells that stay full).
END_V_LESS = 0.10
# In the house from autumn on, and out of the sun in summer.
COLD_C, IN_THE_HOUSE_C, HOT_C, IN_THE_SHADE_C = 10.0, 18.0, 28.0, 25.0
# A cell of another class of about the same size: so much longer or wider, mm.
SAME_SIZE_MM = 1.0
# A cell this much larger is worth another cell, and one over that is another gadget.
LARGER, LARGEST, _TRIED = 1.25, 2.5, 3


@dataclass(frozen=True)
class Offer:
    """One lever as it is offered for a build: its edits, and what it costs, told from the build as it becomes."""

    label: Message
    edits: tuple[Edit, ...]
    costs: Callable[[Years, Years], Message]


def _gentler(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    charging = chain.charging
    if not isinstance(charging, BoardCharging) or charging.build.record.r_measured_ohm:
        return
    capacity_ah, charger = charging.chosen.capacity_ah, charging.charger
    wanted_a = max(GENTLE_SHARE * capacity_ah, charger.least_a)
    ohm = resistors.preferred_at_or_above(resistors.ohms_for(charger.k_volts, charger.readings, wanted_a))
    if ohm <= charging.current.r_prog_ohm * 1.05 or ohm > 1e6:
        return
    share = fixed(resistors.current_at(charger.k_volts, charger.readings, ohm) / capacity_ah, 1)
    yield Offer(
        say("Charge at {share}C", share=share),
        (Edit(path=f"{chain.path}.r_prog_ohm", value=ohm),),
        lambda _, then: say("full in {full}", full=hours(_full_h(then))),
    )


def _lower_end(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    charging = chain.charging
    if not isinstance(charging, BoardCharging) or charging.charger.float_v <= charging.cell.facts.full_v - 0.05:
        return
    end_v = round(charging.charger.float_v - END_V_LESS, 2)
    yield Offer(
        say("End the charge at {end} (another board)", end=volts(end_v)),
        (Edit(path=f"{charging.charger_path}.float_v", value=end_v),),
        _fewer_days_today,
    )


def _taken_off(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    if chain.build.plugged_in != "until_full":
        yield Offer(
            say("Take it off the charger when it is full"),
            (Edit(path=f"{chain.path}.plugged_in", value="until_full"),),
            lambda _now, _then: say("a look at its lamp, or a timer in the wall socket"),
        )


def _always_in(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    """What leaving it plugged in would cost."""
    if chain.build.plugged_in != "always" and chain.charging and not chain.build.cell_comes_out:
        yield Offer(
            say("Leave it plugged in all year"),
            (Edit(path=f"{chain.path}.plugged_in", value="always"),),
            lambda _now, _then: say("always full when it is unplugged"),
        )


def _warm_winter(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    shell = chain.gadget.shell
    if shell.has_seasons and any(shell.year_c[month - 1] < COLD_C for month in shell.used_in):
        in_house = [IN_THE_HOUSE_C if celsius < COLD_C else celsius for celsius in shell.year_c]
        yield Offer(
            say("Keep it in the house while it is cold"),
            (Edit(path="gadget.shell.months_c", value=in_house),),
            lambda _now, _then: say("it is not where it is used"),
        )


def _cool_summer(chain: Chain, _cells: Sequence[Cell]) -> Iterator[Offer]:
    """Heat ages it whether it is used or not."""
    shell = chain.gadget.shell
    if shell.has_seasons and max(shell.year_c) > HOT_C:
        yield Offer(
            say("Keep it out of the heat"),
            (Edit(path="gadget.shell.months_c", value=[min(celsius, IN_THE_SHADE_C) for celsius in shell.year_c]),),
            lambda _now, _then: say("shade, or another place in summer"),
        )


def _iron_phosphate(chain: Chain, cells: Sequence[Cell]) -> Iterator[Offer]:
    """A class that ages less, of fewer volts; its charger has to end at them."""
    cell, charging = chain.cell, chain.charging
    if cell is None or cell.cell_class == "lfp" or not cell.size_mm or not isinstance(charging, BoardCharging):
        return
    for other in cells:
        alike = other.cell_class == "lfp" and other.form == cell.form and other.size_mm
        if alike and all(abs(a - b) <= SAME_SIZE_MM for a, b in zip(other.size_mm or (), cell.size_mm, strict=True)):
            yield Offer(
                say("A cell of iron phosphate, {capacity}", capacity=amp_hours(other.capacity_ah)),
                (
                    Edit(path=f"{chain.path}.cell", value=other.model_dump(mode="json")),
                    Edit(path=f"{charging.charger_path}.float_v", value=other.facts.full_v),
                ),
                lambda now, then: say("{less}; a charger for it", less=_fewer_days_today(now, then)),
            )
            return


def _larger_cell(chain: Chain, cells: Sequence[Cell]) -> Iterator[Offer]:
    cell, build = chain.cell, chain.build
    if cell is None or build.unlike_cells:
        return
    larger = sorted(
        (
            other
            for other in cells
            if other.cell_class == cell.cell_class
            and other.form == cell.form
            and LARGER * cell.capacity_ah <= other.capacity_ah <= LARGEST * cell.capacity_ah
        ),
        key=lambda other: other.capacity_ah,
    )
    for other in larger[:: max(len(larger) // _TRIED, 1)][:_TRIED]:
        edits = (Edit(path=f"{chain.path}.cell", value=other.model_dump(mode="json")),)
        answer = fit_of(chain.project.apply(edits), chain.build_number)
        if answer and (answer.fits == "yes" or answer.assumed_bay):
            label = say("A cell of {capacity}", capacity=amp_hours(other.capacity_ah))
            yield Offer(label, edits, _nobody_knows if answer.assumed_bay else _goes_in)
            return


def _goes_in(_now: Years, _then: Years) -> Message:
    return say("it goes in")


def _nobody_knows(_now: Years, _then: Years) -> Message:
    return say("the bay is not measured")


LEVERS: Mapping[LeverKey, Callable[[Chain, Sequence[Cell]], Iterator[Offer]]] = {
    "taken_off": _taken_off,
    "lower_end": _lower_end,
    "gentler": _gentler,
    "warm_winter": _warm_winter,
    "cool_summer": _cool_summer,
    "larger_cell": _larger_cell,
    "iron_phosphate": _iron_phosphate,
    "always_in": _always_in,
}


def offer_of(key: LeverKey, project: Project, build: int, cells: Sequence[Cell]) -> Offer | None:
    """This lever of a build; None where there is nothing to pull, or pulling it would make a stop."""
    chain = Chain(project, build)
    offer = next(LEVERS[key](chain, cells), None)
    if offer is None or _stops(Chain(project.apply(offer.edits), build)) - _stops(chain):
        return None
    return offer


def _stops(chain: Chain) -> set[str]:
    return {finding.code for finding in findings_of(chain) if finding.level == "stop"}


def _full_h(years: Years) -> float:
    charging = years.running.charging
    return float(charging.run.hours.flat[0]) if charging else float("inf")


def _fewer_days_today(now: Years, then: Years) -> Message:
    fewer = 1 - then.days_now / now.days_now if now.days_now else 0.0
    return say("{fewer} fewer days on a charge today", fewer=percent(max(fewer, 0.0)))
