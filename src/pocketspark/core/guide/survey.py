"""How to measure what the survey asks for. Common practice of the bench, no source, unless a figure names one."""

from pocketspark.core.guide.measurement import Guide, GuideDrawing, Lead, Symbol, loop
from pocketspark.core.message import NOTHING, say
from pocketspark.core.units.figures import fixed, millimetres, ohms

# What a silicon diode drops at some hundred milliamperes, V (common practice, no source).
SILICON_DROP = fixed(0.7, 1)

SURVEY: tuple[Guide, ...] = (
    Guide(
        key="current",
        title=say("What it draws"),
        gives=say("the current of each way it is used"),
        needs=say("multimeter, a strip of thin card with foil on both sides"),
        steps=(
            say("Set the meter to its highest current range, 10 A or 20 A, and put the red lead into that socket."),
            say("Slip the strip between one battery and its contact, so that all current goes through the meter."),
            say("Switch the gadget on and read each mode. Below 200 mA, go down one range and read again."),
            say("Read switched off as well, in the smallest range: microamps decide how long it keeps in a drawer."),
            say("Put the red lead back into the volts socket: left where it is, it shorts whatever is measured next."),
        ),
        beware=say(
            "A small range has ohms of its own and lets the gadget see less voltage: trust the larger one for more."
        ),
        fields=("current_a", "off_current_a"),
        picture=loop(
            Symbol(kind="battery", x=50, y=40, says=say("batteries")),
            Symbol(kind="meter", x=160, y=40, says=say("A")),
            Symbol(kind="gadget", x=270, y=40, says=say("gadget, on")),
        ),
    ),
    Guide(
        key="pulses",
        title=say("The current of a thing that blinks, beeps or sends"),
        gives=say("its average, and the peak that the cell has to carry"),
        needs=say("multimeter, 1 ohm resistor, 4700 µF capacitor of 10 V or more, a minute of patience"),
        steps=(
            say("Put 1 ohm in series and the capacitor across the gadget: it turns pulses into their average."),
            say("Wait half a minute, then read the volts over the resistor: 1 mV is 1 mA on average."),
            say("Take the capacitor off and read the highest volts, by a meter with MAX or a scope: that is the peak."),
            say("No way to catch the peak: time how long a pulse lasts and how often it comes, and note both."),
        ),
        beware=say("A meter's own current range jumps about on pulses and may reset the gadget: use the resistor."),
        fields=("peak_a", "peak_s", "on_s", "every_s"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="battery", x=46, y=40, says=say("batteries")),
                Symbol(kind="resistor", x=128, y=40, says=say("1 Ω"), wide=44, high=14),
                Symbol(kind="capacitor", x=190, y=80, says=say("4700 µF"), wide=28, high=24),
                Symbol(kind="gadget", x=270, y=40, says=say("gadget")),
                Symbol(kind="meter", x=128, y=90, says=say("mV"), wide=44, high=30),
            ),
            leads=(
                Lead(points=((78, 40), (106, 40))),
                Lead(points=((150, 40), (238, 40))),
                Lead(points=((190, 40), (190, 68))),
                Lead(points=((98, 40), (98, 90), (106, 90))),
                Lead(points=((158, 40), (158, 90), (150, 90))),
                Lead(points=((270, 60), (270, 130), (46, 130), (46, 60)), role="minus"),
                Lead(points=((190, 92), (190, 130)), role="minus"),
            ),
        ),
    ),
    Guide(
        key="lowest_volts_worn",
        title=say("Lowest volts it works at, with worn batteries"),
        gives=say("the lower end of its window, without a bench supply"),
        needs=say("multimeter, a set of worn batteries beside a fresh one"),
        steps=(
            say("Measure each worn battery while the gadget runs on it, and sort them from full to flat."),
            say(
                "Swap fresh ones for worn ones, one at a time, and read the volts at the gadget's terminals each time."
            ),
            say("Use every function: the loudest sound, the brightest light, a start from cold."),
            say("The last volts at which all of it worked is the lowest. Note the volts under load, not at rest."),
        ),
        beware=say("It stops late or works wrongly before it stops: a figure that reads wrong counts as stopped."),
        fields=("v_run_min", "v_start_min", "warn_v", "stop_v"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="battery", x=50, y=34, says=say("fresh")),
                Symbol(kind="battery", x=50, y=94, says=say("worn")),
                Symbol(kind="gadget", x=250, y=64, says=say("gadget, on")),
                Symbol(kind="meter", x=158, y=64, says=say("V"), wide=44, high=34),
            ),
            leads=(
                Lead(points=((50, 54), (50, 74))),
                Lead(points=((82, 34), (250, 34), (250, 44))),
                Lead(points=((158, 34), (158, 47))),
                Lead(points=((50, 114), (50, 132), (250, 132), (250, 84)), role="minus"),
                Lead(points=((158, 81), (158, 132)), role="minus"),
            ),
        ),
    ),
    Guide(
        key="lowest_volts_diodes",
        title=say("Lowest volts it works at, with diodes"),
        gives=say("the lower end of its window, in steps of some {drop} V and finer", drop=SILICON_DROP),
        needs=say("multimeter, a few silicon and Schottky diodes that carry its current"),
        steps=(
            say(
                "Feed it from fresh batteries through one silicon diode in the plus lead: about {drop} V less.",
                drop=SILICON_DROP,
            ),
            say("Add one after the other, or a Schottky for {drop} V, until a function fails.", drop=fixed(0.3, 1)),
            say("Read the volts at the gadget with one diode less: that is the lowest at which all of it worked."),
        ),
        beware=say("A diode drops less at little current: read the volts at the gadget, do not count diodes."),
        fields=("v_run_min",),
        picture=loop(
            Symbol(kind="battery", x=50, y=40, says=say("fresh batteries")),
            Symbol(kind="block", x=160, y=40, says=say("1, 2, 3 diodes"), wide=96, high=30),
            Symbol(kind="gadget", x=270, y=40, says=say("gadget, on")),
        ),
    ),
    Guide(
        key="dummy",
        title=say("A battery that is only its shape"),
        gives=say("a way to feed the gadget from outside, and to keep it whole"),
        needs=say("dowel or printed round, two brass screws, thin wire"),
        steps=(
            say("Cut a dowel to the battery's length and diameter, and put a screw into each end."),
            say("Screw head where the nub of plus was; wires run out through the lid's edge."),
            say("Bridge the empty places with dowels whose screws are joined by a wire."),
            say("Feed the two outer ends from a supply, or from the new cell and its board, before anything is cut."),
        ),
        beware=say("Mark plus on it. A dowel put in the wrong way round feeds the gadget backwards."),
        fields=("style",),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="dummy", x=160, y=48, says=say("dowel with a screw at each end"), wide=190, high=44),
                Symbol(kind="block", x=160, y=118, says=say("from the supply"), wide=120, high=28),
            ),
            leads=(
                Lead(points=((255, 48), (290, 48), (290, 118), (220, 118))),
                Lead(points=((65, 48), (30, 48), (30, 118), (100, 118)), role="minus"),
            ),
        ),
    ),
    Guide(
        key="bay",
        title=say("The bay, by calipers"),
        gives=say("length, width and depth, and what stands in the way"),
        needs=say("calipers, a torch, ten minutes"),
        steps=(
            say(
                "Batteries out. Along the floor, where moulded walls lean in: length, width, at both ends; take "
                "the less."
            ),
            say("Depth with the rod at the caliper's end, from the rim down, in the middle and in each corner."),
            say("The lid: lay a straight edge over the rim, and measure what reaches down from the lid."),
            say("Ribs, springs, screw posts: from the same corner, where each begins and ends, and how high it is."),
            say("Read to {finest}; what flexes counts as its smaller figure.", finest=millimetres(0.1)),
        ),
        beware=say("Ribs that hold the batteries often carry the board on their other side: look before they are cut."),
        fields=("size_mm", "at_mm", "diameter_mm", "length_mm", "wall_mm", "tolerance_mm"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="block", x=160, y=72, says=say("floor of the bay"), wide=200, high=84),
                Symbol(kind="strip", x=160, y=50, says=NOTHING, wide=6, high=40),
            ),
            leads=(
                Lead(points=((60, 132), (260, 132)), role="arrow", says=say("length")),
                Lead(points=((284, 30), (284, 114)), role="arrow", says=say("width")),
                Lead(points=((60, 20), (157, 20)), role="arrow", says=say("to the rib")),
            ),
        ),
    ),
    Guide(
        key="polarity",
        title=say("Which way round a jack is"),
        gives=say("whether its centre pin is plus, and what volts it brings"),
        needs=say("multimeter, the adapter"),
        steps=(
            say(
                "Adapter into the wall, nothing on its plug. Red probe into the hole of the plug, black on its outside."
            ),
            say("No minus in the display: the centre is plus. A minus: it is minus."),
            say("Note the volts without load: much over its label means that it is not regulated."),
            say("On the jack itself: find by ohms which pin is the centre, and which one opens when a plug goes in."),
        ),
        beware=say("Only the low-voltage side. A cracked adapter goes to the bin, not to the bench."),
        fields=("centre", "open_v", "regulated"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="jack", x=84, y=60, says=say("plug of the adapter"), wide=110, high=40),
                Symbol(kind="meter", x=248, y=72, says=say("V")),
            ),
            leads=(
                Lead(points=((139, 60), (216, 60)), says=say("into the hole")),
                Lead(points=((110, 80), (110, 118), (248, 118), (248, 92)), role="minus", says=say("on the outside")),
            ),
        ),
    ),
    Guide(
        key="resistance",
        title=say("Inner resistance, by two loads"),
        gives=say("how far the cell's volts fall under load"),
        needs=say("multimeter, two resistors such as {light} and {heavy} of 5 W", light=ohms(47), heavy=ohms(4.7)),
        steps=(
            say("Charge the cell and let it rest for an hour."),
            say("With the light load on, read the volts after ten seconds, and work out its current: V / R."),
            say("With the heavy load on, read again after ten seconds: volts and current."),
            say("Resistance = (first volts - second volts) / (second current - first current)."),
        ),
        beware=say("The heavy resistor gets hot. Measure at the cell's own tabs: a lead's contact counts as well."),
        fields=("r_ohm",),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="battery", x=50, y=70, says=say("cell")),
                Symbol(kind="meter", x=140, y=70, says=say("V"), wide=44, high=34),
                Symbol(kind="resistor", x=218, y=70, says=say("47 Ω"), wide=44, high=14),
                Symbol(kind="resistor", x=286, y=70, says=say("{heavy}", heavy=ohms(4.7)), wide=44, high=14),
            ),
            leads=(
                Lead(points=((50, 50), (50, 20), (286, 20), (286, 63))),
                Lead(points=((140, 20), (140, 53))),
                Lead(points=((218, 20), (218, 63))),
                Lead(points=((50, 90), (50, 132), (286, 132), (286, 77)), role="minus"),
                Lead(points=((140, 87), (140, 132)), role="minus"),
                Lead(points=((218, 77), (218, 132)), role="minus"),
            ),
        ),
    ),
    Guide(
        key="thickness",
        title=say("How thick a pouch really is"),
        gives=say("its thickness with room to swell"),
        needs=say("calipers, two flat coins or bits of plastic"),
        steps=(
            say(
                "Lay the pouch between two flat pieces, so that the jaws cannot dent it, and close the calipers gently."
            ),
            say("Take both pieces' own thickness off. Measure in the middle, where it is thickest."),
            say("Add its room for swelling: a tenth of its thickness over its life is common."),
        ),
        beware=say("Never squeeze a pouch, never lay steel jaws over both tabs. A puffed one is not used at all."),
        fields=("capacity_ah", "swelling"),
        picture=GuideDrawing(
            symbols=(
                Symbol(kind="caliper", x=160, y=30, says=NOTHING, wide=240, high=24),
                Symbol(kind="strip", x=128, y=92, says=NOTHING, wide=8, high=64),
                Symbol(kind="block", x=160, y=92, says=say("pouch"), wide=48, high=64),
                Symbol(kind="strip", x=192, y=92, says=NOTHING, wide=8, high=64),
            ),
            leads=(Lead(points=((124, 140), (196, 140)), role="arrow", says=say("less both pieces")),),
        ),
    ),
)
