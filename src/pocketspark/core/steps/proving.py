"""Proving it: volts at the gadget, the first charge and its rest, the case closed, and a whole run."""

from pocketspark.core.chain import BoardCharging, Chain, Charging, Running
from pocketspark.core.limits import CELL_HOT_C, CELL_WARM_C, CURRENT_OFF, DROP_WATCH_V, FULL_V, REST_DROP_V
from pocketspark.core.steps.making import hold, seconds, step
from pocketspark.core.steps.model import Step
from pocketspark.core.steps.probing import across, in_series, on_the_flat
from pocketspark.core.units.figures import celsius, volts

# When a first charge has settled; from then on the cell is as warm as it gets.
WARM_AFTER_S = 1800
DAY_S = 24 * 3600


def output_volts(chain: Chain) -> Step:
    window = chain.window
    return step(
        "output",
        "Measure the volts at the gadget's terminals in its heaviest mode",
        "Inside the window, under load, is what was planned.",
        5,
        hold=hold(
            "volts at the gadget",
            "V",
            window.v_run_min,
            window.v_abs_max,
            "at the gadget's own terminals, heaviest mode on",
            "stop",
            "the regulator is not set",
            "a weak joint or a thin wire",
            "the protection has tripped: charge it for a moment",
            picture=across("gadget", "plus terminal", "minus terminal"),
        ),
    )


def listen(_chain: Chain) -> Step:
    return step(
        "listen",
        "Listen: quiet passages, every range, the converter at work",
        "A whistle or hum is mended now with a capacitor and shorter wires, and hardly in a closed case.",
        5,
        materials=("a capacitor of some 100 μF at the converter's output, if it is heard",),
    )


def first_charge(charging: Charging) -> Step:
    ours = isinstance(charging, BoardCharging)
    planned = charging.current.spread.nominal_a
    return step(
        "first_charge",
        "First charge, attended",
        "Stay with it, on a surface that does not burn; feel the cell every few minutes.",
        15,
        tools=("USB meter in line",),
        caution=f"Unplug at once when the cell is over {celsius(CELL_HOT_C)}, smells, or swells.",
        hold=hold(
            "charge current",
            "A",
            planned * (1 - CURRENT_OFF),
            planned * (1 + CURRENT_OFF),
            "USB meter in line, cell half empty" if ours else "meter in the cell's plus lead, cell half empty",
            "caution",
            "another resistor is fitted than planned" if ours else "that charger gives another current than was said",
            "the board holds itself back: heat, or a thin cable" if ours else "it measures the cell first, and waits",
            "the cell is nearly full",
            picture=in_series("USB 5 V", "charger") if ours else in_series("charger", "cell"),
        ),
    )


def warmth(_charging: Charging) -> Step:
    return step(
        "warmth",
        "Temperature of the cell after half an hour of charging",
        f"Under {celsius(CELL_HOT_C)}, better under {celsius(CELL_WARM_C)}.",
        5,
        wait_s=WARM_AFTER_S,
        attended=True,
        hold=hold(
            "temperature of the cell",
            "C",
            None,
            CELL_HOT_C,
            "probe on the flat of the cell",
            "stop",
            "the board or pad lies against it",
            "too much current for it",
            "a worn cell",
            picture=on_the_flat("probe"),
        ),
    )


def full(charging: Charging) -> Step:
    float_v = charging.charger.float_v
    return step(
        "full",
        "End of charge",
        "The lamp changes, and the cell stands at its float voltage.",
        10,
        wait_s=max(seconds(float(charging.run.hours.flat[0])) - WARM_AFTER_S, 0),
        attended=True,
        hold=hold(
            "volts of the cell",
            "V",
            float_v - (4.20 - FULL_V[0]),
            float_v + (FULL_V[1] - 4.20),
            "at the cell, right after the lamp changes",
            "stop",
            "the lamp changed early: the protection tripped, or a weak joint",
            f"over {volts(float_v)}: a wrong board for this cell, take it off",
            picture=across("cell", "plus", "minus"),
        ),
    )


def rest(_chain: Chain) -> Step:
    return step(
        "rest",
        "Drop after an hour of rest",
        "A healthy cell settles and then stands.",
        5,
        wait_s=3600,
        hold=hold(
            "drop in an hour",
            "V",
            None,
            REST_DROP_V,
            "at the cell, gadget off, nothing plugged in",
            "caution",
            "something still draws: see the drains at Power",
            "a cell that discharges itself: watch it for a day",
            picture=across("cell", "plus", "minus"),
        ),
    )


def day(_chain: Chain) -> Step:
    return step(
        "day",
        "Drop after a day of rest",
        "A cell with a past shows here whether it discharges itself.",
        5,
        wait_s=DAY_S,
        hold=hold(
            "drop in a day",
            "V",
            None,
            DROP_WATCH_V,
            "at the cell, gadget off, nothing plugged in; from the volts after the first hour",
            "stop",
            "the cell discharges itself: do not build with it",
            "something still draws: see the drains at Power",
            picture=across("cell", "plus", "minus"),
        ),
    )


def close(_chain: Chain) -> Step:
    return step(
        "close", "Close the case", "Foam where it rattles, nothing where it presses, no wire over the pouch.", 10
    )


def discharge(running: Running) -> Step:
    run = running.heaviest_in_use
    assert run is not None  # the step belongs to a gadget that runs
    planned = run.hours
    return step(
        "discharge",
        f"Run it down once in “{run.mode.name}”, its heaviest mode in use, and note how long it ran",
        "What was learnt goes back into the numbers.",
        15,
        wait_s=seconds(planned),
        hold=hold(
            "hours until it stopped",
            "h",
            planned * 0.8,
            None,
            "a clock; or a log read at Prove",
            "caution",
            "the cell holds less than its label",
            "the gadget draws more than was measured",
            "it gives up at higher volts than surveyed",
        ),
    )
