"""Charge: what the charger's own chip needs, and what it does by itself."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import BoardCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import amps, hours, volts, watts

# A chip whose package nobody knows may burn so much before it is worth asking, W (common practice, no source).
UNKNOWN_WARM_W, UNKNOWN_HOT_W = 0.6, 1.0


@rule(
    "charge.stuck_in_precharge",
    station="charge",
    source="pre-charge current of linear chargers, common practice",
    formula=say("the gadget's current at the pre-charge voltage against a tenth of the charge current"),
    limits=say("what the charger gives before the cell has reached its pre-charge voltage"),
    advice=say("Switch the gadget off before a flat cell is charged, or share the load."),
    follows=("charge.never_ends",),
)
def stuck_in_precharge(charging: BoardCharging) -> Iterator[Judgement]:
    """A flat cell is charged with a tenth at first: a gadget that takes as much keeps it flat for ever."""
    charger = charging.charger
    gives_a = charging.current.spread.least_a * charger.precharge_share
    hangs = charging.load_while_charging
    # What the window already ends takes nothing: at these volts the gadget has stopped.
    at_gadget_v = charging.states.gadget_on_charger_v(charger.precharge_v)
    if at_gadget_v is not None and at_gadget_v < charging.chain.window.v_run_min:
        return
    takes_a = float(hangs.current(charger.precharge_v))
    gives, takes, until = amps(gives_a), amps(takes_a), volts(charger.precharge_v)
    facts: Facts = {"figure": takes, "limit": gives}
    if takes_a >= gives_a:
        yield stop(
            say(
                "A flat cell stays flat: under {until} the charger gives {gives}, and the gadget draws {takes}.",
                until=until,
                gives=gives,
                takes=takes,
            ),
            working=say("It is plugged in, the lamp says that it charges, and nothing gets into the cell."),
            **facts,
        )
    elif takes_a > 0:
        yield fine(
            say("A flat cell is charged too: the gadget draws {takes} of the {gives}.", takes=takes, gives=gives),
            **facts,
        )


@rule(
    "charge.heat_unknown",
    station="charge",
    source="P = (V_in - V_cell) I; small packages, common practice, no source",
    limits=say("{warm} note, {hot} caution", warm=watts(UNKNOWN_WARM_W), hot=watts(UNKNOWN_HOT_W)),
    advice=say("Look up the package and enter its theta, or feel the chip at the first charge."),
)
def heat_unknown(charging: BoardCharging) -> Iterator[Judgement]:
    """Where the package is not known, nobody can say whether a fast charge gets too hot."""
    if charging.charger.theta_ja_c_per_w is not None:
        return
    burnt_w = (charging.build.source.volts - float(charging.chosen.curve.at(0.2))) * charging.current.spread.nominal_a
    if burnt_w < UNKNOWN_WARM_W:
        return
    burnt = watts(burnt_w)
    level = caution if burnt_w >= UNKNOWN_HOT_W else note
    yield level(
        say("The charger burns {burnt}, and how hot that makes it is not known.", burnt=burnt),
        figure=burnt,
        limit=watts(UNKNOWN_HOT_W),
        working=say("Without its theta no fold-back and no heat of the chip is computed. Most chips then slow down."),
        assumed=True,
        rests_on=(f"{charging.charger_path}.theta_ja_c_per_w",),
    )


@rule(
    "charge.below_its_law",
    station="charge",
    source="data sheets of such chips: K holds down to some ten milliamperes, from memory",
    advice=say("Measure what it gives with this resistor, and enter both in the board's table."),
)
def below_its_law(charging: BoardCharging) -> Iterator[Judgement]:
    """At low currents K over R tells too little: boards give more than that."""
    set_to, least = amps(charging.current.spread.nominal_a), amps(charging.charger.least_a)
    if set_to.value < least.value and len(charging.charger.readings) < 2:
        level = caution if set_to.value < least.value / 4 else note
        yield level(
            say(
                "The charger is set to {set_to}, and K over R holds from {least} up. It can give much more.",
                set_to=set_to,
                least=least,
            ),
            figure=set_to,
            limit=least,
            rests_on=(f"{charging.charger_path}.least_a",),
        )


@rule(
    "charge.temperature_input",
    station="charge",
    source="data sheets of such chips, from memory",
    advice=say("Tie the input as the data sheet says, or wire the cell's thermistor to it."),
)
def temperature_input(charging: BoardCharging) -> Iterator[Judgement]:
    """A charger with a temperature input that is left open takes the cell for too cold and never charges."""
    wired = charging.charger.temperature_input
    if wired == "open":
        yield stop(
            say("It never charges: the charger's temperature input is open."),
            working=say("Open, the chip reads a cell far below freezing, and waits."),
            subjects=(charging.board.name,),
        )
    elif wired == "thermistor" and not charging.cell.thermistor_lead:
        yield caution(
            say("The charger wants a thermistor at its temperature input, and this cell has none."),
            working=say("Tie the input off as the data sheet says, or glue a thermistor to the cell."),
            subjects=(charging.board.name,),
        )


@rule(
    "charge.timer",
    station="charge",
    source="safety timers of such chips, common practice",
    advice=say("Fit a smaller resistor if every part can take the current, or do not use it while it charges."),
)
def timer(charging: BoardCharging) -> Iterator[Judgement]:
    """A safety timer ends a charge that takes longer, and the cell is never full."""
    limit_h, taken_h = charging.charger.timer_h, float(charging.run.hours.flat[0])
    if limit_h is None:
        return
    limit, taken = hours(limit_h), hours(taken_h)
    if not np.isfinite(taken_h) or taken_h > limit_h:
        yield caution(
            say("The charger's timer ends the charge after {limit}, before the cell is full.", limit=limit),
            figure=limit,
            limit=limit,
            working=say("A full charge takes {taken}.", taken=taken)
            if np.isfinite(taken_h)
            else say("By itself this charge does not end."),
        )
    else:
        yield fine(
            say("The charge takes {taken}; the charger's timer waits for {limit}.", taken=taken, limit=limit),
            figure=taken,
            limit=limit,
        )
