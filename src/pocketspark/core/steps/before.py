"""Before anything is put together: the gadget as it is, and every part proven on its own."""

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.limits import FIVE_V, JOINING_V, REGULATOR_OFF, RESISTOR_OFF
from pocketspark.core.steps.making import hold, step
from pocketspark.core.steps.model import Step
from pocketspark.core.steps.probing import across, between, in_series
from pocketspark.core.units.figures import amps, ohms, volts

# Changing a chip resistor (common practice, no source).
SWAP_A_CHIP = (
    "Tape the board down; flux on both ends of the old one.",
    "Fresh solder to both ends, heat them back and forth until it lifts: no force.",
    "Wick both pads flat; flux; tin one pad.",
    "Hold the new one in tweezers, tack one end, then the other.",
    "Clean the flux off, then measure. Glue or tape over fine joints.",
)


def photograph(_chain: Chain) -> Step:
    return step("photograph", "Photograph everything as it is", "Afterwards nobody knows which wire was where.", 5)


def prove_old(chain: Chain) -> Step:
    return step(
        "prove_old",
        f"Prove that it works on {chain.gadget.supply.label}",
        "A gadget that was dead before is not mended by lithium.",
        5,
        caution="Alkaline cells hold caustic electrolyte: gloves and goggles for leaked ones, never open one.",
    )


def measure_current(chain: Chain) -> Step:
    mode = chain.heaviest
    assert mode is not None  # the step belongs to a gadget with modes
    return step(
        "current",
        f"Measure what it draws in “{mode.name}”",
        "Everything that was planned rests on this number.",
        10,
        tools=("multimeter",),
        hold=hold(
            "current",
            "A",
            mode.current_a * 0.8,
            mode.current_a * 1.2,
            "in series with the old batteries' plus",
            "caution",
            "the survey's figure was a guess: put this one into it",
            "another mode was on",
            "the meter's fuse or range",
            picture=in_series("batteries", "gadget"),
        ),
    )


def polarity(_chain: Chain) -> Step:
    return step(
        "polarity",
        "Mark plus and minus at the gadget's terminals",
        "Found by meter, not by colour; a reversed board is dead at once.",
        5,
        tools=("multimeter", "marker"),
    )


def second_supply(chain: Chain) -> Step:
    """The battery that stays, proven to be a circuit of its own before anything new is joined."""
    second = chain.gadget.second_supply
    assert second is not None  # the step belongs to a gadget that has one
    return step(
        "second_supply",
        f"Leave the {second.battery} in, and prove that it stands alone",
        f"It keeps {second.keeps}. Joined to the main supply it would be charged, and such cells must not be.",
        5,
        tools=("multimeter",),
        hold=hold(
            "resistance between the two plus terminals",
            "ohm",
            10_000.0,
            None,
            "main plus to that battery's plus, both batteries out for this one reading",
            "caution",
            "a diode lies between them: swap the probes and read again",
            "they are one supply: then it is part of this conversion",
            picture=between("gadget", "main plus", "second battery's holder", "its plus", "Ω"),
        ),
    )


def terminals(chain: Chain) -> Step:
    if chain.build.facts_of_style.keeps_terminals:
        return step("terminals", "Clean the old terminals, leave them in", "This style uses them again.", 5)
    return step(
        "terminals",
        "Take out the terminals and springs that are in the way",
        "Their room is needed, and nothing of them may touch the new wires.",
        15,
        tools=("flush cutter", "pliers"),
        caution="Goggles: springs jump.",
    )


def cut_path(chain: Chain) -> Step:
    treatment = chain.gadget.existing_charging.treatment
    words = {"diode": "Put the blocking diode in", "moved": "Move the old jack's wires to the charger board"}
    return step(
        "old_path",
        words.get(treatment, "Cut the old charge path"),
        "It has no voltage limit: one old adapter over-charges the cell.",
        10,
        hold=hold(
            "resistance from the jack to the terminals",
            "ohm",
            100_000.0,
            None,
            "the jack's centre pin to the gadget's battery plus, unpowered",
            "stop",
            "a second track still joins them",
            "the diode is the other way round",
            picture=between("jack", "centre pin", "gadget", "battery plus", "Ω"),
        ),
    )


def resistor(charging: BoardCharging) -> Step:
    wanted = charging.build.r_prog_ohm or charging.current.suggested_r_ohm
    return step(
        "resistor",
        f"Set the charge-current resistor to {ohms(wanted)}",
        f"As delivered it gives its own current, not {amps(charging.current.spread_at(wanted).nominal_a)} as planned.",
        20,
        tools=("fine soldering iron", "tweezers"),
        materials=(f"resistor {ohms(wanted)}, chip 0805 or leaded", "flux", "wick", "solder", "tape"),
        how=SWAP_A_CHIP,
        caution="Solder fumes: air. Board taped down; no force on a pad that is still cold.",
        hold=hold(
            "resistance at the PROG pin",
            "ohm",
            wanted * (1 - RESISTOR_OFF),
            wanted * (1 + RESISTOR_OFF),
            "PROG pin to ground on the board: unpowered, no cell, no USB",
            "stop",
            "a cell or USB is connected and spoils the reading",
            "another value was fitted: read its code",
            "one end is not soldered",
            picture=across("charger", "PROG pin", "ground", "Ω"),
        ),
    )


def board_alone(charging: BoardCharging) -> Step:
    float_v = charging.charger.float_v
    return step(
        "board_alone",
        "Prove the charger board alone on USB",
        "A dead board is found now, not in a closed case; it also shows which pads are which.",
        5,
        hold=hold(
            "volts at the open B pads",
            "V",
            float_v - 0.4,
            float_v + 0.15,
            "B+ to B-, nothing connected to them",
            "stop",
            "5 V went to the USB out pads",
            "a Type-C socket without its resistors on a C-to-C cable",
            "a dead board",
            picture=across("charger", "B+", "B-"),
        ),
    )


def set_regulator(chain: Chain) -> Step:
    setting = chain.regulator.v_set or 0.0
    return step(
        "regulator",
        f"Set and prove the {chain.regulator.name}",
        "Before it sees the gadget: an adjustable one may come set to anything.",
        10,
        hold=hold(
            "volts at its output",
            "V",
            setting * (1 - REGULATOR_OFF),
            setting * (1 + REGULATOR_OFF),
            f"OUT+ to OUT-, fed from a bench supply at {volts(3.7)}, with a small load",
            "stop",
            "its trimmer is not set yet",
            "the input is below what it needs",
            "it is another type than its label says",
            picture=across("regulator", "OUT+", "OUT-"),
        ),
    )


def cells_apart(chain: Chain) -> Step:
    """Cells that are to be in parallel, before they meet."""
    return step(
        "cells_apart",
        f"Bring the {len(chain.build.cells)} cells to the same volts",
        "Joined apart, the fuller one charges the other as fast as their resistance lets it.",
        20,
        tools=("multimeter",),
        materials=("a resistor of some 10 Ω, 1 W, between the two plus leads until they agree",),
        hold=hold(
            "largest difference between two of them",
            "V",
            None,
            JOINING_V,
            "plus lead to plus lead, all minus leads joined",
            "stop",
            "one was charged and the other not: wait with the resistor between them",
            "one is worn: see which go together in Your parts",
            picture=between("one cell", "its plus", "the other", "its plus", "V"),
        ),
    )


def five_volts_in(charging: Charging) -> Step:
    """An input that is not the board's own socket, before it meets the board."""
    way_in = charging.build.input
    reversed_pin = "centre" in way_in.facts.asks and way_in.centre == "negative"
    red = "; red on the sleeve, since its centre is minus" if reversed_pin else ""
    return step(
        "five_volts_in",
        f"Prove {way_in.facts.brings}",
        "Reversed, or a few volts too many, it kills the charger at once.",
        5,
        tools=("multimeter",),
        hold=hold(
            "volts that come in",
            "V",
            *FIVE_V,
            way_in.facts.probes + red,
            "stop",
            "a minus sign: it is the other way round",
            "far over 5 V: an adapter that holds no voltage without load",
            "nothing: no contact, or metal between coil and coil",
            picture=across("5 V comes in", "its plus", "its minus"),
        ),
    )
