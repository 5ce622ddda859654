"""Proving it: volts at the gadget, the first charge and its rest, the case closed, and a whole run."""

from pocketspark.core.chain import BoardCharging, Chain, Charging, Running
from pocketspark.core.limits import CELL_HOT_C, CELL_WARM_C, CURRENT_OFF, DROP_WATCH_V, FULL_V, REST_DROP_V
from pocketspark.core.message import say
from pocketspark.core.steps.making import hold, seconds, step
from pocketspark.core.steps.probing import across, in_series, on_the_flat
from pocketspark.core.steps.step import Step
from pocketspark.core.units.figures import celsius, volts

# When a first charge has settled; from then on the cell is as warm as it gets.
WARM_AFTER_S = 1800
DAY_S = 24 * 3600


def output_volts(chain: Chain) -> Step:
    window = chain.window
    return step(
        "output",
        say("Measure the volts at the gadget's terminals in its heaviest mode"),
        say("Inside the window, under load, is what was planned."),
        5,
        hold=hold(
            say("volts at the gadget"),
            "V",
            window.v_run_min,
            window.v_abs_max,
            say("at the gadget's own terminals, heaviest mode on"),
            "stop",
            say("the regulator is not set"),
            say("a weak joint or a thin wire"),
            say("the protection has tripped: charge it for a moment"),
            picture=across("gadget", "plus terminal", "minus terminal"),
        ),
    )


def listen(_chain: Chain) -> Step:
    return step(
        "listen",
        say("Listen: quiet passages, every range, the converter at work"),
        say("Now a capacitor and shorter wires can cure a whistle or hum; in a closed case hardly anything can."),
        5,
        materials=(say("a capacitor of some 100 μF at the converter's output, if it is heard"),),
    )


def first_charge(charging: Charging) -> Step:
    ours = isinstance(charging, BoardCharging)
    planned = charging.current.spread.nominal_a
    return step(
        "first_charge",
        say("First charge, attended"),
        say("Stay with it, on a surface that does not burn. Feel the cell every few minutes."),
        15,
        tools=(say("USB meter in line"),),
        caution=say(
            "Unplug it at once if the cell gets over {cell_hot_c}, smells, or swells.", cell_hot_c=celsius(CELL_HOT_C)
        ),
        hold=hold(
            say("charge current"),
            "A",
            planned * (1 - CURRENT_OFF),
            planned * (1 + CURRENT_OFF),
            say("USB meter in line, cell half empty")
            if ours
            else say("meter in the cell's plus lead, cell half empty"),
            "caution",
            say("another resistor is fitted than planned")
            if ours
            else say("that charger gives another current than was said"),
            say("the board holds itself back: heat, or a thin cable")
            if ours
            else say("it measures the cell first, and waits"),
            say("the cell is nearly full"),
            picture=in_series("USB 5 V", "charger") if ours else in_series("charger", "cell"),
        ),
    )


def warmth(_charging: Charging) -> Step:
    return step(
        "warmth",
        say("Temperature of the cell after half an hour of charging"),
        say(
            "Under {cell_hot_c}, better under {cell_warm_c}.",
            cell_hot_c=celsius(CELL_HOT_C),
            cell_warm_c=celsius(CELL_WARM_C),
        ),
        5,
        wait_s=WARM_AFTER_S,
        attended=True,
        hold=hold(
            say("temperature of the cell"),
            "C",
            None,
            CELL_HOT_C,
            say("probe on the flat of the cell"),
            "stop",
            say("the board or pad lies against it"),
            say("too much current for it"),
            say("a worn cell"),
            picture=on_the_flat("probe"),
        ),
    )


def full(charging: Charging) -> Step:
    float_v = charging.charger.float_v
    return step(
        "full",
        say("End of charge"),
        say("The lamp changes, and the cell is at its float voltage."),
        10,
        wait_s=max(seconds(float(charging.run.hours.flat[0])) - WARM_AFTER_S, 0),
        attended=True,
        hold=hold(
            say("volts of the cell"),
            "V",
            float_v - (4.20 - FULL_V[0]),
            float_v + (FULL_V[1] - 4.20),
            say("at the cell, right after the lamp changes"),
            "stop",
            say("the lamp changed early: the protection tripped, or a weak joint"),
            say("over {float_v}: a wrong board for this cell, take it off", float_v=volts(float_v)),
            picture=across("cell", "plus", "minus"),
        ),
    )


def rest(_chain: Chain) -> Step:
    return step(
        "rest",
        say("Drop after an hour of rest"),
        say("A healthy cell settles and then holds its voltage."),
        5,
        wait_s=3600,
        hold=hold(
            say("drop in an hour"),
            "V",
            None,
            REST_DROP_V,
            say("at the cell, gadget off, nothing plugged in"),
            "caution",
            say("something still draws: see the drains at Power"),
            say("a cell that discharges itself: watch it for a day"),
            picture=across("cell", "plus", "minus"),
        ),
    )


def day(_chain: Chain) -> Step:
    return step(
        "day",
        say("Drop after a day of rest"),
        say("A cell with a past shows here whether it discharges itself."),
        5,
        wait_s=DAY_S,
        hold=hold(
            say("drop in a day"),
            "V",
            None,
            DROP_WATCH_V,
            say("at the cell, gadget off, nothing plugged in; from the volts after the first hour"),
            "stop",
            say("the cell discharges itself: do not build with it"),
            say("something still draws: see the drains at Power"),
            picture=across("cell", "plus", "minus"),
        ),
    )


def no_frost(_charging: Charging) -> Step:
    return step(
        "no_frost",
        say("Write on it: charge indoors, never in frost"),
        say("It hangs where it freezes. Bring it in, and let it warm for an hour before it is charged."),
        5,
        materials=(say("label"),),
    )


def close(_chain: Chain) -> Step:
    return step(
        "close",
        say("Close the case"),
        say("Foam where it rattles, nothing where it presses, no wire over the pouch."),
        10,
    )


def discharge(running: Running) -> Step:
    run = running.heaviest_in_use
    assert run is not None  # the step belongs to a gadget that runs
    planned = run.hours
    return step(
        "discharge",
        say("Run it down once in “{mode}”, its heaviest mode in use, and note how long it runs", mode=run.mode.name),
        say("The calculations then use what was measured."),
        15,
        wait_s=seconds(planned),
        hold=hold(
            say("hours until it stopped"),
            "h",
            planned * 0.8,
            None,
            say("a clock; or a log read at Prove"),
            "caution",
            say("the cell holds less than its label"),
            say("the gadget draws more current than was measured"),
            say("it stops at a higher voltage than surveyed"),
        ),
    )
