"""Before anything is put together: the gadget as it is, and every part proven on its own."""

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.kinds.regulators import law_of_regulators
from pocketspark.core.limits import FIVE_V, JOINING_V, REGULATOR_OFF, RESISTOR_OFF
from pocketspark.core.message import say, verbatim
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.core.steps.making import hold, seconds, step
from pocketspark.core.steps.probing import across, between, in_series
from pocketspark.core.steps.step import Step
from pocketspark.core.units.figures import amps, ohms, volts

# Changing a chip resistor (common practice, no source).
SWAP_A_CHIP = (
    "Tape the board down; flux on both ends of the old one.",
    "Fresh solder to both ends, heat them back and forth until it lifts: no force.",
    "Wick both pads flat; flux; tin one pad.",
    "Hold the new one in tweezers, tack one end, then the other.",
    "Clean the flux off, then measure. Glue or tape over fine joints.",
)


# A bench supply in the place of a cell, and a load that is there at all (common practice, no source).
BENCH_V, BENCH_LOAD_A = 3.7, 1e-3


def photograph(_chain: Chain) -> Step:
    return step(
        "photograph", say("Photograph everything as it is"), say("Afterwards nobody knows which wire was where."), 5
    )


def prove_old(chain: Chain) -> Step:
    return step(
        "prove_old",
        say("Prove that it works on {supply}", supply=chain.gadget.supply.label),
        say("A gadget that was broken before is not repaired by a lithium cell."),
        5,
        caution=say("Alkaline cells hold caustic electrolyte: gloves and goggles for leaked ones, never open one."),
    )


def measure_current(chain: Chain) -> Step:
    mode = chain.heaviest
    assert mode is not None  # the step belongs to a gadget with modes
    return step(
        "current",
        say("Measure what it draws in “{mode}”", mode=mode.name),
        say("Everything that was planned rests on this number."),
        10,
        tools=(say("multimeter"),),
        hold=hold(
            say("current"),
            "A",
            mode.current_a * 0.8,
            mode.current_a * 1.2,
            say("in series with the old batteries' plus"),
            "caution",
            say("the survey's figure was a guess: put this one into it"),
            say("another mode was on"),
            say("the meter's fuse or range"),
            picture=in_series("batteries", "gadget"),
        ),
    )


def polarity(_chain: Chain) -> Step:
    return step(
        "polarity",
        say("Mark plus and minus at the gadget's terminals"),
        say("Found by meter, not by colour; a reversed board is dead at once."),
        5,
        tools=(say("multimeter"), say("marker")),
    )


def second_supply(chain: Chain) -> Step:
    """The battery that stays, proven to be a circuit of its own before anything new is joined."""
    second = chain.gadget.second_supply
    assert second is not None  # the step belongs to a gadget that has one
    return step(
        "second_supply",
        say("Leave the {battery} in, and check that it is separate", battery=second.battery),
        say(
            "It keeps {keeps}. Joined to the main supply it would be charged, and such cells must not be.",
            keeps=second.keeps,
        ),
        5,
        tools=(say("multimeter"),),
        hold=hold(
            say("resistance between the two plus terminals"),
            "ohm",
            10_000.0,
            None,
            say("main plus to that battery's plus, both batteries out for this one reading"),
            "caution",
            say("a diode lies between them: swap the probes and read again"),
            say("they are one supply: then it is part of this conversion"),
            picture=between("gadget", "main plus", "second battery's holder", "its plus", "Ω"),
        ),
    )


def terminals(chain: Chain) -> Step:
    if chain.build.facts_of_style.keeps_terminals:
        return step("terminals", say("Clean the old terminals, leave them in"), say("This style uses them again."), 5)
    return step(
        "terminals",
        say("Take out the terminals and springs that are in the way"),
        say("Their room is needed, and they must not touch the new wires."),
        15,
        tools=(say("flush cutter"), say("pliers")),
        caution=say("Goggles: springs jump."),
    )


def cut_path(chain: Chain) -> Step:
    treatment = chain.gadget.existing_charging.treatment
    titles = {
        "diode": say("Fit the blocking diode"),
        "moved": say("Move the old jack's wires to the charger board"),
    }
    return step(
        "old_path",
        titles.get(treatment, say("Cut the old charge path")),
        say("It has no voltage limit: one old adapter over-charges the cell."),
        10,
        hold=hold(
            say("resistance from the jack to the terminals"),
            "ohm",
            100_000.0,
            None,
            say("the jack's centre pin to the gadget's battery plus, unpowered"),
            "stop",
            say("a second track still joins them"),
            say("the diode is the other way round"),
            picture=between("jack", "centre pin", "gadget", "battery plus", "Ω"),
        ),
    )


def resistor(charging: BoardCharging) -> Step:
    wanted = charging.build.r_prog_ohm or charging.current.suggested_r_ohm
    return step(
        "resistor",
        say("Set the charge-current resistor to {wanted}", wanted=ohms(wanted)),
        say(
            "As delivered it sets another current, not the {nominal_a} planned.",
            nominal_a=amps(charging.current.spread_at(wanted).nominal_a),
        ),
        20,
        tools=(say("fine soldering iron"), say("tweezers")),
        materials=(
            say("resistor {wanted}, chip 0805 or leaded", wanted=ohms(wanted)),
            say("flux"),
            say("wick"),
            say("solder"),
            say("tape"),
        ),
        how=SWAP_A_CHIP,
        caution=say("Solder fumes: air. Board taped down; no force on a pad that is still cold."),
        hold=hold(
            say("resistance at the PROG pin"),
            "ohm",
            wanted * (1 - RESISTOR_OFF),
            wanted * (1 + RESISTOR_OFF),
            say("PROG pin to ground on the board: unpowered, no cell, no USB"),
            "stop",
            say("a cell or USB is connected and spoils the reading"),
            say("another value was fitted: read its code"),
            say("one end is not soldered"),
            picture=across("charger", "PROG pin", "ground", "Ω"),
        ),
    )


def board_alone(charging: BoardCharging) -> Step:
    float_v = charging.charger.float_v
    return step(
        "board_alone",
        say("Prove the charger board alone on USB"),
        say("A dead board is found now, not in a closed case; it also shows which pads are which."),
        5,
        hold=hold(
            say("volts at the open B pads"),
            "V",
            float_v - 0.4,
            float_v + 0.15,
            say("B+ to B-, nothing connected to them"),
            "stop",
            say("5 V went to the USB out pads"),
            say("a Type-C socket without its resistors on a C-to-C cable"),
            say("a dead board"),
            picture=across("charger", "B+", "B-"),
        ),
    )


def on_the_bench_v(chain: Chain) -> float:
    """What the regulators, all in a row, give on a bench supply under next to no load; a step-up passes more."""
    point = law_of_regulators(chain.regulators).operating_point(BENCH_V, 0.0, Load(steady_a=BENCH_LOAD_A))
    return or_zero(point.gadget_v) or chain.regulator.v_set or 0.0


def set_regulator(chain: Chain) -> Step:
    setting = on_the_bench_v(chain)
    *before, last = chain.regulators
    return step(
        "regulator",
        say("Set and prove the {regulator}", regulator=chain.regulator.name),
        say("Before it sees the gadget: an adjustable one may come set to anything."),
        10,
        how=tuple(
            say("First the {first} alone: {v_set} at its output.", first=one.name, v_set=volts(one.v_set))
            for one in before
            if one.v_set
        )
        + ((say("Then the {last} behind it.", last=last.name),) if before else ()),
        hold=hold(
            say("volts at its output"),
            "V",
            setting * (1 - REGULATOR_OFF),
            setting * (1 + REGULATOR_OFF),
            say("OUT+ to OUT-, fed from a bench supply at {it}, with a small load", it=volts(BENCH_V)),
            "stop",
            say("its trimmer is not set yet"),
            say("the input is below what it needs"),
            say("it is another type than its label says"),
            picture=across("regulator", "OUT+", "OUT-"),
        ),
    )


# Of its label: less is not worth building in (common practice, no source). No cell holds much more than its label.
LEAST_OF_LABEL, MOST_OF_LABEL = 0.60, 1.15
# Amperes of a capacity test, as a share of the label (common practice, no source).
TEST_C = 0.2


def cell_capacity(chain: Chain) -> Step:
    """A used cell, before anything is cut for it."""
    cell = chain.build.cell
    assert cell is not None  # the step belongs to a cell with a past
    label = cell.capacity_ah
    return step(
        "cell_capacity",
        say("Test what the used cell holds"),
        say("Its label says what it held when it was new. Every hour that is promised rests on this."),
        15,
        tools=(say("cell tester, or a load with a meter that counts mAh"),),
        how=(
            say("Charge it full, and let it rest for an hour."),
            say(
                "Discharge it with {current} down to {cut}, and note the mAh.",
                current=amps(TEST_C * label),
                cut=volts(cell.stop_v),
            ),
            say("Charge it half full again before it is built in."),
        ),
        caution=say("On a plate that does not burn, and not unattended: nobody knows its past."),
        wait_s=seconds(1 / TEST_C),
        hold=hold(
            say("charge that came out"),
            "Ah",
            label * LEAST_OF_LABEL,
            label * MOST_OF_LABEL,
            say("a cell tester, or current times hours"),
            "caution",
            say("the cell is worn: take another"),
            say("it was not full at first"),
            say("the cut was set too high"),
        ),
    )


def cells_apart(chain: Chain) -> Step:
    """Cells that are to be in parallel, before they meet."""
    return step(
        "cells_apart",
        say("Bring the {len} cells to the same volts", len=len(chain.build.cells)),
        say("Joined apart, the fuller one charges the other as fast as their resistance lets it."),
        20,
        tools=(say("multimeter"),),
        materials=(say("a resistor of some 10 Ω, 1 W, between the two plus leads until they agree"),),
        hold=hold(
            say("largest difference between two of them"),
            "V",
            None,
            JOINING_V,
            say("plus lead to plus lead, all minus leads joined"),
            "stop",
            say("one was charged and the other not: wait with the resistor between them"),
            say("one is worn: see which go together in Your parts"),
            picture=between("one cell", "its plus", "the other", "its plus", "V"),
        ),
    )


def five_volts_in(charging: Charging) -> Step:
    """An input that is not the board's own socket, before it meets the board."""
    way_in = charging.build.input
    reversed_pin = "centre" in way_in.facts.asks and way_in.centre == "negative"
    probes = verbatim(way_in.facts.probes)
    if reversed_pin:
        probes = say("{probes}; the red probe on the sleeve, because the centre is minus", probes=probes)
    return step(
        "five_volts_in",
        say("Prove {brings}", brings=way_in.facts.brings),
        say("Reversed, or a few volts too many, it kills the charger at once."),
        5,
        tools=(say("multimeter"),),
        hold=hold(
            say("volts that come in"),
            "V",
            *FIVE_V,
            probes,
            "stop",
            say("a minus sign: it is the other way round"),
            say("far over 5 V: an adapter that holds no voltage without load"),
            say("nothing: no contact, or metal between coil and coil"),
            picture=across("5 V comes in", "its plus", "its minus"),
        ),
    )
