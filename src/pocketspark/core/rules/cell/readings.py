"""Cell: readings that no such cell has, and the temperature that it is used at."""

from collections.abc import Iterator

from pocketspark.core.cells.credibility import DENSITY, energy_density_wh_per_l
from pocketspark.core.chain import ChosenCell
from pocketspark.core.chain.chosen_cell import cold_factors
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.models.gadget import Shell
from pocketspark.core.rules.rule import Facts, caution, fine, rule, stop
from pocketspark.core.units.figures import amp_hours, celsius, density, fixed, ohms, percent

# A resistance under this share of a new cell's has been read wrong as a rule (common practice, no source).
TOO_LITTLE = 1 / 3
# A measured capacity may be so much over what the best cells of that volume hold (common practice, no source).
OVER_THE_BEST = 1.05
# Discharged between -20 and 60 C; weak in the cold, aged by the heat (data sheets, from memory).
USED_LEAST_C, USED_COLD_C, USED_WARM_C, USED_MOST_C = -20.0, -5.0, 45.0, 60.0


@rule(
    "cell.too_good",
    station="cell",
    source="energy densities of good cells and resistance of new ones, from memory",
    limits=say("measured capacity over what the best cells of that volume hold; a third of a new cell's resistance"),
    advice=say("Measure it again: four wires for the resistance, a whole discharge for the capacity."),
    guide="resistance",
)
def too_good(chosen: ChosenCell) -> Iterator[Judgement]:
    """A measured capacity that the volume cannot hold, or a resistance that no such cell has, has been read wrong."""
    cell = chosen.cell
    most = DENSITY[cell.form][1] * OVER_THE_BEST
    if cell.measured_capacity_ah is not None:
        measured = cell.model_copy(update={"capacity_ah": cell.measured_capacity_ah, "measured_capacity_ah": None})
        wh_per_l = energy_density_wh_per_l(measured)
        if wh_per_l is not None and wh_per_l > most:
            yield caution(
                say(
                    "A cell of this size cannot hold the {measured} that were measured.",
                    measured=amp_hours(cell.measured_capacity_ah),
                ),
                figure=density(wh_per_l),
                limit=density(most),
                rests_on=(f"{chosen.path}.measured_capacity_ah",),
            )
    if cell.r_ohm is not None and 0 < cell.r_ohm < cell.typical_ohm * TOO_LITTLE:
        yield caution(
            say(
                "A resistance of {r_ohm} is {times} times less than a new cell of {capacity} has.",
                r_ohm=ohms(cell.r_ohm),
                times=fixed(cell.typical_ohm / cell.r_ohm, 1),
                capacity=amp_hours(cell.planning_capacity_ah),
            ),
            figure=ohms(cell.r_ohm),
            limit=ohms(cell.typical_ohm),
            working=say("Peaks and hours would be told too well. A meter that shows milliohms reads such cells right."),
            rests_on=(f"{chosen.path}.r_ohm",),
        )


@rule(
    "cell.use_temperature",
    station="cell",
    source="discharging temperatures of lithium cells' data sheets, -20 to 60 C, from memory",
    limits=say(
        "{least} to {most}; caution under {cold} and over {warm}",
        least=celsius(USED_LEAST_C),
        most=celsius(USED_MOST_C),
        cold=celsius(USED_COLD_C),
        warm=celsius(USED_WARM_C),
    ),
    advice=say("Keep the cell where it is milder, in an inside pocket or a box, and charge it indoors."),
)
def use_temperature(chosen: ChosenCell) -> Iterator[Judgement]:
    """Where the gadget is used: cold costs capacity and volts, heat ages the cell, and both have an end."""
    shell, build = chosen.chain.gadget.shell, chosen.chain.build
    used_c = _worst_c(shell)
    used = celsius(used_c)
    place = "gadget.shell.climate" if shell.has_seasons else "gadget.shell.use_c"
    facts: Facts = {"figure": used, "rests_on": (place,)}
    capacity, resistance = cold_factors(used_c, build)
    left = percent(capacity)
    if used_c < USED_LEAST_C:
        yield stop(
            say("A lithium cell is dead at {used}.", used=used),
            limit=celsius(USED_LEAST_C),
            working=say("Its electrolyte carries next to nothing there. It comes back when it is warm."),
            **facts,
        )
    elif used_c > USED_MOST_C:
        yield stop(
            say(
                "At {used} a lithium cell can vent. It must stay under {limit}.",
                used=used,
                limit=celsius(USED_MOST_C),
            ),
            limit=celsius(USED_MOST_C),
            **facts,
        )
    elif used_c < USED_COLD_C:
        yield caution(
            say("At {used} the cell gives about {left} of its charge, and sags.", used=used, left=left),
            limit=celsius(USED_COLD_C),
            working=say(
                "Its resistance is {times} times that in a warm room. All figures of this build count that.",
                times=fixed(resistance, 1),
            ),
            **facts,
        )
    elif used_c > USED_WARM_C:
        yield caution(
            say("Used at {used} the cell ages several times as fast.", used=used), limit=celsius(USED_WARM_C), **facts
        )
    else:
        yield fine(say("It is used at {used}, which suits the cell.", used=used), **facts)


def _worst_c(shell: Shell) -> float:
    """Of the months in which it is used the coldest, unless one is too warm or it is never cold."""
    if not shell.has_seasons:
        return shell.used_at_c
    months_c = [shell.year_c[month - 1] for month in shell.used_in]
    coldest, warmest = min(months_c), max(months_c)
    return warmest if warmest > USED_MOST_C or (warmest > USED_WARM_C and coldest >= USED_COLD_C) else coldest


# Stored up to 60 C for a month, 45 C for three months, 25 C for a year (data sheets, from memory).
STORED_LEAST_C, STORED_WARM_C, STORED_MOST_C = -20.0, 45.0, 60.0


@rule(
    "cell.store_temperature",
    station="cell",
    source="storage temperatures of lithium cells' data sheets, from memory",
    limits=say(
        "{least} to {most}; caution over {warm}",
        least=celsius(STORED_LEAST_C),
        most=celsius(STORED_MOST_C),
        warm=celsius(STORED_WARM_C),
    ),
    advice=say("Keep it indoors, half full, or take the cell out for the season."),
)
def store_temperature(chosen: ChosenCell) -> Iterator[Judgement]:
    """Where the gadget lies when nobody uses it: a parked car in summer is too hot for any lithium cell."""
    stored_c = chosen.chain.gadget.shell.store_c
    if stored_c is None:
        return
    stored, most = celsius(stored_c), celsius(STORED_MOST_C)
    facts: Facts = {"figure": stored, "limit": most, "rests_on": ("gadget.shell.store_c",)}
    if stored_c > STORED_MOST_C:
        yield stop(
            say("Stored at {stored} a lithium cell can vent. It must stay under {most}.", stored=stored, most=most),
            **facts,
        )
    elif stored_c > STORED_WARM_C:
        yield caution(
            say("Stored at {stored} the cell loses capacity within weeks, a full one soonest.", stored=stored), **facts
        )
    elif stored_c < STORED_LEAST_C:
        yield caution(
            say("At {stored} its electrolyte can freeze. Warm the cell up before it is used.", stored=stored), **facts
        )
    else:
        yield fine(say("It is stored at {stored}, which suits the cell.", stored=stored), **facts)
