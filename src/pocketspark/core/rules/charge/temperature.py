"""Charge: what gets warm while it charges, and what is too cold for it."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import BoardCharging, Charging, GivenCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import (
    CELL_HOT_C,
    CELL_WARM_C,
    CHARGE_COLD_C,
    CHARGE_FROZEN_C,
)
from pocketspark.core.message import all_of, say
from pocketspark.core.models.month_words import months_in_words
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import (
    amps,
    celsius,
    fixed,
    warmer,
)

# Common printed plastic, PLA (from memory: 55 to 60 C).
SOFTENS_C = 55.0


@rule(
    "charge.folds_back",
    station="charge",
    source="thermal fold-back of linear chargers, common practice",
    formula=say("I <= (T_fold - T_room) / ((theta + 1 / (h A)) (V_in - V_cell))"),
    advice=say("Nothing is at risk. Give the board air, or fit a larger resistor: it costs no time."),
)
def folds_back(charging: BoardCharging) -> Iterator[Judgement]:
    """A linear charger that gets too hot gives less until the cell's voltage has risen."""
    charger, run = charging.charger, charging.run
    if charger.theta_ja_c_per_w is None:
        return
    in_cc = run.charger_v < charger.float_v - 1e-3
    above_precharge = run.charger_v > charger.precharge_v + 0.01
    held = amps(float(np.min(run.charger_a, initial=np.inf, where=in_cc & above_precharge)))
    set_to = amps(charging.current.spread.nominal_a)
    if held.value < set_to.value * 0.98:
        yield note(
            say(
                "The charger gets hot and drops to {held} at first; it is set to {set_to}.",
                held=held,
                set_to=set_to,
            ),
            figure=held,
            limit=set_to,
            working=say(
                "theta {theta_ja_c_per_w} °C/W, folds back at {fold_back_c}: slower",
                theta_ja_c_per_w=fixed(charger.theta_ja_c_per_w, 0),
                fold_back_c=celsius(charger.fold_back_c),
            ),
            rests_on=(f"{charging.charger_path}.theta_ja_c_per_w",),
            assumed=True,
        )


@rule(
    "charge.cell_warm",
    station="charge",
    node="cell",
    source="0 to 45 C while charging: IEC 62133-2 range as commonly stated, from memory",
    formula=say("T_inside = T_room + P / (h A), h 10 W/m2K, A the gadget's outer surface"),
    limits=say(
        "{cell_warm_c} caution, {cell_hot_c} stop", cell_warm_c=celsius(CELL_WARM_C), cell_hot_c=celsius(CELL_HOT_C)
    ),
    advice=say("Charge more slowly, or move the warm board away from the cell."),
)
def cell_warm(charging: Charging) -> Iterator[Judgement]:
    """How warm the cell gets while it charges in this case."""
    hottest, inside = celsius(float(np.max(charging.warmth.cell_c))), celsius(float(np.max(charging.warmth.inside_c)))
    around = charging.current.surroundings
    working = say(
        "room {room_c}, {warmer} for each watt inside; air {inside} at most",
        room_c=celsius(around.room_c),
        warmer=warmer(around.rise_c_per_w),
        inside=inside,
    )
    facts: Facts = {"figure": hottest, "working": working, "rests_on": ("gadget.shell.outer_mm",)}
    if isinstance(charging, GivenCharging):
        # As if that charger burnt what a linear one does: a switching one burns less.
        facts |= {
            "working": say("{working}; the {board} counted as linear", working=working, board=charging.board.name),
            "assumed": True,
        }
    if hottest.value > CELL_HOT_C:
        yield stop(
            say(
                "The cell reaches {hottest} while it charges. Over {cell_hot_c} it ages fast and can vent.",
                hottest=hottest,
                cell_hot_c=celsius(CELL_HOT_C),
            ),
            limit=celsius(CELL_HOT_C),
            **facts,
        )
    elif hottest.value > CELL_WARM_C:
        yield caution(
            say(
                "The cell reaches {hottest} while it charges. Under {cell_warm_c} it lasts longer.",
                hottest=hottest,
                cell_warm_c=celsius(CELL_WARM_C),
            ),
            limit=celsius(CELL_WARM_C),
            **facts,
        )
    else:
        yield fine(say("The cell stays at {hottest} or less while it charges.", hottest=hottest), **facts)


@rule(
    "charge.cold",
    station="charge",
    node="cell",
    source="charging temperatures of lithium cells' data sheets, 0 or 10 to 45 C, from memory",
    limits=say(
        "caution under {charge_cold_c}, never under {charge_frozen_c}",
        charge_cold_c=celsius(CHARGE_COLD_C),
        charge_frozen_c=celsius(CHARGE_FROZEN_C),
    ),
    advice=say("Charge it indoors. Below freezing do not charge it at all."),
)
def cold(charging: Charging) -> Iterator[Judgement]:
    """Lithium plates out where a cell is charged cold: slowly under 10 C, at once under 0 C."""
    room_c = min(charging.chain.gadget.shell.room_c, CHARGE_FROZEN_C if charging.build.cold else 100.0)
    air, coldest = celsius(room_c), celsius(CHARGE_FROZEN_C)
    facts: Facts = {"figure": air, "rests_on": ("gadget.shell.room_c",)}
    if room_c < CHARGE_FROZEN_C:
        yield stop(
            say(
                "Never charge it at {air}. Under {coldest} lithium plates out and can short the cell later.",
                air=air,
                coldest=coldest,
            ),
            limit=coldest,
            working=say("It can run in the cold. To charge it, bring it indoors and let it warm up for an hour."),
            **facts,
        )
    elif room_c < CHARGE_COLD_C:
        yield caution(
            say(
                "Charging at {air} wears the cell. Warm it to {charge_cold_c} first, or charge at a tenth of its "
                "capacity per hour.",
                air=air,
                charge_cold_c=celsius(CHARGE_COLD_C),
            ),
            limit=celsius(CHARGE_COLD_C),
            working=say("Running in the cold does no harm. Charge indoors."),
            **facts,
        )
    else:
        yield fine(say("It is charged at {air}, warm enough for the cell.", air=air), **facts)


@rule(
    "charge.frost",
    station="charge",
    node="cell",
    source="charging temperatures of lithium cells' data sheets, from memory; months of our own tables",
    limits=say("never under {charge_frozen_c}", charge_frozen_c=celsius(CHARGE_FROZEN_C)),
    advice=say("Bring it in and let it warm for an hour, or take a board with a thermistor that waits by itself."),
    follows=("charge.cold",),
)
def frost(charging: BoardCharging) -> Iterator[Judgement]:
    """What lives where it freezes is charged indoors, or by a board that feels the cold."""
    shell, build = charging.chain.gadget.shell, charging.build
    if not shell.frozen_months or build.cell_comes_out:
        return
    months = all_of(months_in_words(shell.frozen_months))
    if charging.charger.temperature_input == "thermistor":
        yield fine(say("Its thermistor holds the charge back while it freezes, {months}.", months=months))
        return
    about = ("gadget.shell.climate",)
    if build.plugged_in == "always":
        yield stop(
            say("Left plugged in, it is charged in frost, {months}: lithium plates out in the cell.", months=months),
            remedy=remedy(say("Taken off when full"), {f"{charging.chain.path}.plugged_in": "until_full"}),
            subjects=about,
        )
    else:
        yield note(
            say("It freezes where it lives, {months}: never charge it out there.", months=months),
            working=say("It can run in the cold. Bring it in and let it warm for an hour before it is charged."),
            subjects=about,
        )


@rule(
    "charge.soft_print",
    station="charge",
    node="charger",
    source="softening of common printed plastic, from memory; half of the chip's rise in its board, common practice",
    formula=say("T_board = T_inside + (T_junction - T_inside) / 2"),
    limits=say("{softens}", softens=celsius(SOFTENS_C)),
    advice=say("Print the cradle in a plastic for heat, charge more slowly, or leave air under the chip."),
)
def soft_print(charging: BoardCharging) -> Iterator[Judgement]:
    """A printed cradle under a linear charger gets soft where the chip sits."""
    warmth = charging.warmth
    if not charging.build.cradle_mm or warmth.junction_c is None:
        return
    hottest_c = float(np.max((warmth.inside_c + warmth.junction_c) / 2))
    hottest, softens = celsius(hottest_c), celsius(SOFTENS_C)
    facts: Facts = {"figure": hottest, "limit": softens, "subjects": (charging.board.name,)}
    if hottest_c > SOFTENS_C:
        yield caution(
            say("Its board gets to {hottest} while it charges, and its printed cradle softens.", hottest=hottest),
            working=say("Common printed plastic softens from {softens} on.", softens=softens),
            **facts,
        )
    else:
        yield fine(say("Its board gets to {hottest}, and its printed cradle stays hard.", hottest=hottest), **facts)
