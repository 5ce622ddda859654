"""Charge: does it ever end, and how long does it take?"""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.finding import Judgement
from pocketspark.core.message import _, say
from pocketspark.core.rules.charge.current import current_working
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import (
    amps,
    fixed,
    hours,
    percent,
    volts,
)

# So far over its pre-charge voltage a cell gets the whole current for certain.
PAST_PRECHARGE_V = 0.2

# A charge longer than this is longer than a night.
NIGHT_H = 10.0

# The charger's end current is this uncertain (its comparator beside its K, common practice, no source).
END_CURRENT_OFF = 0.30


@rule(
    "charge.never_ends",
    station="charge",
    source="end current of linear chargers, common practice",
    formula=say("ends where the charger gives I_prog / 10: cell current + load"),
    limits=say("load over I_prog / 10: never ends; over I_prog: empties while plugged in"),
    advice=say("Switch the gadget off while it charges, or use a board with load sharing."),
)
def never_ends(charging: Charging) -> Iterator[Judgement]:
    """A load on the cell hides the end of the charge, or eats the whole current."""
    run, current = charging.run, charging.current
    float_v = charging.charger.float_v
    load, ends_at = amps(float(charging.load_while_charging.current(float_v))), amps(current.termination_a)
    comes_in = amps(current.spread.nominal_a)
    working = say(
        "load {load}, the charger stops at {ends_at}, charge current {comes_in}",
        load=load,
        ends_at=ends_at,
        comes_in=comes_in,
    )
    heaviest = charging.chain.heaviest
    duty, between_a = heaviest.duty if heaviest else 1.0, charging.chain.gadget.off_current_a
    average_a = load.value * duty + between_a * (1 - duty)
    if average_a >= comes_in.value:
        yield stop(
            say(
                "The cell empties while plugged in: the gadget draws {load}, but only {comes_in} comes in.",
                load=load,
                comes_in=comes_in,
            ),
            figure=load,
            limit=comes_in,
            working=working,
        )
    elif load.value >= comes_in.value:
        yield caution(
            say(
                "At times the gadget draws {load} and only {comes_in} comes in. The cell gives the rest.",
                load=load,
                comes_in=comes_in,
            ),
            figure=load,
            limit=comes_in,
            working=say("{working}; {average} on average", working=working, average=amps(average_a)),
        )
    elif bool(run.never_ends):
        yield caution(
            say(
                "The charge never ends: the gadget draws {load}, which hides the {ends_at} at which the charger "
                "would stop.",
                load=load,
                ends_at=ends_at,
            ),
            figure=load,
            limit=ends_at,
            working=say(
                "{working}. The cell is held at {float_v} for ever and the lamp never changes. Switch the gadget "
                "off while it charges, or share the load.",
                working=working,
                float_v=volts(float_v),
            ),
        )
    elif _falls_short(charging):
        has = volts(charging.build.source.volts)
        yield stop(
            say("The cell never gets full: {has} from the source is too little for this charger.", has=has),
            figure=has,
            working=working,
        )
    elif load.value <= ends_at.value * (1 - END_CURRENT_OFF):
        # Nearer to it, whether it ends is a matter of luck: see charge.end_near_load.
        taken = hours(float(run.hours.flat[0]))
        yield fine(say("The charge ends by itself after about {taken}.", taken=taken), figure=taken, working=working)


def _falls_short(charging: Charging) -> bool:
    """Does the current fall to nothing on the way? With a flat cell that has its own cause: see
    charge.stuck_in_precharge."""
    if not bool(charging.run.stalls):
        return False
    past_precharge = float(charging.chosen.curve.soc_at(charging.charger.precharge_v + PAST_PRECHARGE_V))
    return bool(charging.charge_from(past_precharge).stalls)


@rule(
    "charge.slow",
    station="charge",
    source="common practice, no source",
    limits=say("{night_h} h", night_h=fixed(NIGHT_H, 0)),
    advice=say("Charge it overnight, or fit a smaller resistor if every part can take the current."),
)
def slow(charging: Charging) -> Iterator[Judgement]:
    """A charge that takes longer than a night is worth a word."""
    taken = hours(float(charging.run.hours.flat[0]))
    if np.isfinite(taken.value) and taken.value > NIGHT_H:
        working = current_working(charging)
        yield note(say("A full charge takes {taken}, longer than a night.", taken=taken), figure=taken, working=working)


@rule(
    "charge.shared_window",
    station="charge",
    node="gadget",
    source="two-diode selector; Schottky drop by Shockley's law",
    formula=say("V_gadget = V_source - I R_cable - V_diode, through the regulator"),
    advice=say("Put a regulator behind the change-over, or do not use the gadget while it charges."),
)
def shared_window(charging: BoardCharging) -> Iterator[Judgement]:
    """Used while plugged in, the gadget sees the source less a diode, which its window must allow."""
    build, window = charging.build, charging.chain.window
    how = build.use_while_charging
    if how == "load_sharing" and not any(board.load_sharing for board in build.boards):
        yield caution(say("This build relies on a load-sharing board but has none."))
    plugged_v = charging.plugged_gadget_v()
    if plugged_v is None or how == "on_cell":
        return
    plugged, takes = volts(plugged_v), volts(window.v_abs_max)
    straight = _("{volts}, regulator: {regulator}; its limit is {takes}")
    by_diode = _("{volts} less one Schottky diode, regulator: {regulator}; its limit is {takes}")
    working = say(
        straight if how == "change_over" else by_diode,
        volts=volts(build.source.volts),
        regulator=charging.chain.regulator.name,
        takes=takes,
    )
    facts: Facts = {"figure": plugged, "limit": takes, "working": working}
    if plugged.value > takes.value:
        # As grave as the same volts from the cell: a limit that is only guessed is a caution.
        guessed = window.max_basis == "inferred"
        level = caution if guessed else stop
        yield level(
            say("Plugged in, the gadget gets {plugged}, over its limit of {takes}.", plugged=plugged, takes=takes),
            assumed=guessed,
            **facts,
        )
    else:
        yield fine(
            say("Plugged in, the gadget gets {plugged}; its limit is {takes}.", plugged=plugged, takes=takes), **facts
        )


@rule(
    "charge.change_over",
    station="charge",
    node="gadget",
    source="common practice, no source",
    advice=say("Throw it before you plug the cable in, and expect the gadget to restart."),
)
def change_over(chain: Chain) -> Iterator[Judgement]:
    """A change-over switch interrupts the gadget for a moment, and somebody has to throw it."""
    if chain.build.use_while_charging == "change_over":
        yield note(say("The gadget restarts whenever the change-over switch is thrown, from cell to 5 V and back."))


@rule(
    "charge.end_near_load",
    station="charge",
    source="end current of linear chargers, common practice",
    limits=say("the load under the end current less {end_current_off}", end_current_off=percent(END_CURRENT_OFF)),
    advice=say("Switch the gadget off while it charges, or check that the first charge ends."),
    follows=("charge.never_ends",),
)
def end_near_load(charging: BoardCharging) -> Iterator[Judgement]:
    """A load that comes near to the charger's end current hides it on some boards and not on others."""
    ends, load = charging.current.termination_a, float(charging.load_while_charging.current(charging.charger.float_v))
    least = ends * (1 - END_CURRENT_OFF)
    if least < load < ends:
        yield caution(
            say(
                "The charge can fail to end: the gadget draws {load}, close to the {ends} at which the charger stops.",
                load=amps(load),
                ends=amps(ends),
            ),
            figure=amps(load),
            limit=amps(least),
            working=say("The end current of such boards varies by a third. Switch the gadget off while it charges."),
        )
