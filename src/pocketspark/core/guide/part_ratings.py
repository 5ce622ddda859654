"""How to find out what parts and places can take. Common practice of the bench, no source."""

from pocketspark.core.guide.measurement import Guide, GuideDrawing, Lead, Symbol, loop
from pocketspark.core.message import say
from pocketspark.core.units.figures import amps, millimetres, volts, warmer

# Over the air, a dark shell in the sun or a closed car (common practice, no source).
IN_THE_SUN = warmer(30)
GROUND = say("ground")

PARTS: tuple[Guide, ...] = (
    Guide(
        key="way",
        title=say("What the way to the gadget can carry"),
        gives=say("the rating of its switch, its springs, its fuse and its wires"),
        needs=say("a lamp, a magnifier, calipers"),
        steps=(
            say("Switch: read what is printed on its side, such as {amps} 50 V. Only the amps count.", amps=amps(0.5)),
            say("Fuse: the number on its cap is what it holds. On a polyfuse 050 stands for {amps}.", amps=amps(0.5)),
            say("Springs: a thin steel one carries about an ampere, a broad plated strip two."),
            say("Wires: read the gauge on the insulation, or strip a little and measure the copper over all strands."),
            say(
                "Copper of {thick} is 28 AWG, {thin} is 32, {hair} is 36. The thinnest wire on the way counts.",
                thick=millimetres(0.32, 2),
                thin=millimetres(0.2, 2),
                hair=millimetres(0.13, 2),
            ),
        ),
        beware=say("The insulation says nothing of the copper: thick wires of toys are often thin inside."),
        fields=("switch_a", "contacts_a", "fuse_a", "wires_awg"),
        picture=loop(
            Symbol(kind="battery", x=44, y=40, says=say("springs"), wide=60),
            Symbol(kind="block", x=126, y=40, says=say("fuse"), wide=52, high=22),
            Symbol(kind="block", x=204, y=40, says=say("switch"), wide=52, high=22),
            Symbol(kind="gadget", x=278, y=40, says=say("gadget"), wide=56),
        ),
    ),
    Guide(
        key="capacitor",
        title=say("A capacitor across its terminals"),
        gives=say("what has to fill up at the moment in which it is switched on"),
        needs=say("a magnifier; multimeter, 1 kΩ resistor and a watch where nothing is printed on it"),
        steps=(
            say("Look for a round can near the terminals. Its side says microfarads and volts: 470 µF 10 V."),
            say("Nothing printed: batteries out, switch on, and wait a minute until it is empty."),
            say("Feed the terminals from 3 V through 1 kΩ, and watch the volts at the terminals rise."),
            say("The seconds until {charged} are its capacitance: 1 s is 1000 µF.", charged=volts(1.9)),
        ),
        beware=say("A gadget that draws current meanwhile never reaches the volts: then take the printed value."),
        fields=("capacitance_f",),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="battery", x=46, y=70, says=say("3 V")),
                Symbol(kind="resistor", x=124, y=24, says=say("1 kΩ"), wide=44, high=14),
                Symbol(kind="capacitor", x=196, y=70, says=say("inside"), wide=40),
                Symbol(kind="meter", x=282, y=70, says=say("V"), wide=44),
            ),
            leads=(
                Lead(points=((46, 50), (46, 24), (102, 24))),
                Lead(points=((146, 24), (282, 24), (282, 50))),
                Lead(points=((196, 24), (196, 60))),
                Lead(points=((46, 90), (46, 132), (282, 132), (282, 90)), role="minus"),
                Lead(points=((196, 80), (196, 132)), role="minus"),
            ),
        ),
    ),
    Guide(
        key="charger_chip",
        title=say("What the charger's chip asks for"),
        gives=say("its temperature input, its timer, its least current and its most volts"),
        needs=say("the number on the chip and its data sheet; multimeter"),
        steps=(
            say("Find the pin called TEMP, TS or NTC in the data sheet, and look where it leads on the board."),
            say("Meter on ohms, no power: next to nothing to ground or to the input means that it is tied off."),
            say("A resistor of 10 kΩ beside it, or two pads for one: it wants the cell's thermistor."),
            say("Timer: the sheet says for how many hours, or which capacitor sets it. Many small chips have none."),
            say("Highest input volts: take the recommended figure, not the absolute one."),
        ),
        beware=say("An open temperature input reads as freezing cold: the lamp is on and nothing is charged."),
        fields=("temperature_input", "timer_h", "least_a", "v_in_max", "theta_ja_c_per_w"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="block", x=110, y=72, says=say("charger's chip"), wide=120, high=64),
                Symbol(kind="meter", x=262, y=72, says=say("Ω")),
            ),
            leads=(
                Lead(points=((170, 58), (230, 58)), says=say("TEMP")),
                Lead(
                    points=((170, 92), (200, 92), (200, 126), (262, 126), (262, 92)), role="minus", says=say("ground")
                ),
            ),
        ),
    ),
    Guide(
        key="temperatures",
        title=say("How warm it is where it lives"),
        gives=say("the temperatures at which it is used and charged"),
        needs=say("any thermometer, a day of its season"),
        steps=(
            say("Used at: the coldest hour in which it has to work, at its place, not in the house."),
            say("Charged in a room of: where the cable is. A cell is never charged below freezing."),
            say("Stored at: the hottest place in which it lies unused, such as a car in summer."),
            say(
                "In the sun or a closed car it gets {warm} warmer than the air: measure inside the shell.",
                warm=IN_THE_SUN,
            ),
        ),
        beware=say("Cold halves what a cell gives and does not harm it; charging it while it is cold does."),
        fields=("use_c", "room_c", "store_c"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="block", x=84, y=72, says=say("where it is used"), wide=120, high=60),
                Symbol(kind="block", x=230, y=72, says=say("where it is charged"), wide=130, high=60),
            ),
            leads=(Lead(points=((144, 72), (165, 72)), role="arrow"),),
        ),
    ),
)
