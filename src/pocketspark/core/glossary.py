"""The words of the job, each in one plain sentence, with the other names a maker meets when looking for it.

`fields` are the document's fields whose labels use the term: last steps of their paths.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Term:
    """One word of the trade."""

    term: str
    sentence: str
    also: tuple[str, ...] = ()
    fields: tuple[str, ...] = ()


GLOSSARY: tuple[Term, ...] = (
    Term(
        "Absolute maximum",
        "The most volts a part survives at all; over it, it may die at once.",
        ("abs max",),
        ("v_abs_max", "logic_max_v"),
    ),
    Term("AWG", "American wire gauge: the higher the number, the thinner the wire.", ("wire gauge",), ("awg",)),
    Term("Bay", "The space that the old batteries leave.", ("battery compartment",), ("bay",)),
    Term("Boost", "A switching converter that makes more volts out of fewer.", ("step-up",)),
    Term("Buck", "A switching converter that makes fewer volts out of more.", ("step-down",)),
    Term("Buck-boost", "A switching converter that holds its volts whether the cell stands above or below them."),
    Term(
        "C rate",
        "A current as a share of the capacity: at 1C a 900 mAh cell gets 900 mA, at 0.5C half of that.",
        ("0.5C", "1C"),
        ("policy",),
    ),
    Term(
        "Capacity",
        "How much charge a cell holds, in mAh; printed ones are often too high.",
        ("mAh",),
        ("capacity_ah", "measured_capacity_ah"),
    ),
    Term(
        "Cell",
        "One lithium cell, or two to three like ones in parallel, which act as one.",
        ("battery", "LiPo", "Li-ion"),
    ),
    Term(
        "Charger board",
        "A small board that fills one cell from 5 V: first at a constant current, then at a constant voltage.",
        ("CC/CV charger",),
    ),
    Term(
        "Charge-current resistor",
        "The small resistor at the charger's PROG pin; its ohms set the charge current.",
        ("PROG resistor", "R_prog"),
        ("r_prog_ohm", "r_measured_ohm"),
    ),
    Term("Checkpoint", "A measurement that must lie inside its limits before the next step.", ("hold point",)),
    Term(
        "Constant current",
        "The first part of a charge: the same current until the cell reaches its end voltage.",
        ("CC",),
    ),
    Term(
        "Constant voltage",
        "The last part of a charge: the volts are held, and the current falls by itself.",
        ("CV", "taper"),
    ),
    Term(
        "Drop-out",
        "How much more a regulator must get than it gives; below that its output falls too.",
        ("headroom",),
        ("drop_ohm", "drop_v"),
    ),
    Term(
        "Dropping resistor",
        "A resistor in series that takes some volts from LEDs or a lamp.",
        ("series resistor",),
        ("series_ohm",),
    ),
    Term(
        "LED driver",
        "A regulator that holds a current and not a voltage, so that LEDs stay as bright as the cell empties.",
        ("constant-current driver",),
        ("i_set_a",),
    ),
    Term(
        "End current",
        "Where the charger calls the charge finished, usually a tenth of the set current.",
        ("termination current", "C/10"),
        ("termination_share",),
    ),
    Term(
        "End voltage",
        "The volts at which the charger holds the cell at last: 4.20 V for the usual lithium.",
        ("float voltage", "charge voltage"),
        ("float_v",),
    ),
    Term(
        "Enable pin",
        "A pin of a regulator that switches it on and off with almost no current.",
        ("EN", "shutdown pin"),
        ("has_enable",),
    ),
    Term(
        "Ferrite sheet",
        "A thin dark sheet that keeps the field of a wireless pad out of the cell's metal.",
        (),
        ("pad_ferrite",),
    ),
    Term(
        "Fold-back",
        "A hot charger gives less current, so as not to get hotter.",
        ("thermal regulation",),
        ("fold_back_c",),
    ),
    Term("Forward voltage", "What an LED or a diode takes for itself when current flows.", ("Vf",), ("led_v",)),
    Term("Gentle", "Charging with half the capacity in an hour: kind to the cell, and a little slower.", ("0.5C",)),
    Term(
        "Internal resistance",
        "What makes a cell's volts sag under load; it grows as the cell wears.",
        ("DCIR", "ESR"),
        ("r_ohm",),
    ),
    Term("K", "The board's own constant: charge current = K / ohms of the charge-current resistor.", (), ("k_volts",)),
    Term(
        "LDO",
        "A linear regulator that needs little more than it gives; what is too much becomes heat.",
        ("low drop-out regulator",),
    ),
    Term("LFP", "Lithium iron phosphate: full at 3.65 V, and needs its own charger.", ("LiFePO4",)),
    Term(
        "Load sharing", "The gadget runs from 5 V while the cell charges beside it.", ("power path",), ("load_sharing",)
    ),
    Term(
        "Open-circuit voltage",
        "The cell's volts at rest, without load; they tell how full it is.",
        ("OCV", "rest voltage"),
        ("rest_v",),
    ),
    Term(
        "Over-charge cut",
        "Where a protection stops a charge that the charger did not end.",
        ("over-voltage protection",),
        ("over_charge_v",),
    ),
    Term(
        "Over-discharge cut",
        "Where a protection switches the cell off, so that it is not ruined.",
        ("under-voltage protection",),
        ("cut_v",),
    ),
    Term(
        "Peak",
        "The current at switch-on, or of a stalled motor: short, and many times the usual.",
        ("inrush", "surge"),
        ("peak_a",),
    ),
    Term("Pouch", "A soft flat cell in foil. It swells a little over its life.", ("LiPo", "flat pack")),
    Term(
        "Precharge",
        "The small current with which a charger starts on a very empty cell.",
        ("trickle charge", "conditioning"),
        ("precharge_v", "precharge_share"),
    ),
    Term(
        "Protection",
        "A circuit that disconnects the cell before it is over-charged, run flat or shorted; on a board of its own, on "
        "the charger board, or on the cell.",
        ("BMS", "PCM", "protection board"),
        ("own_protection",),
    ),
    Term(
        "Quiescent current",
        "What a regulator draws for itself as long as it is connected.",
        ("Iq", "standby current"),
        ("iq_a", "iq_off_a"),
    ),
    Term(
        "Regulator",
        "What stands between protection and gadget and gives it the right volts; often nothing is needed.",
        ("converter", "voltage regulator"),
        ("regulator",),
    ),
    Term("Release voltage", "Where a protection that has opened closes again by itself.", (), ("release_v",)),
    Term("Schottky diode", "A diode that takes only 0.25 to 0.45 V; it blocks a way back.", ("low-drop diode",)),
    Term("Self-discharge", "What a cell loses by itself: 2 to 3 % a month when sound.", (), ("drop_24h_v",)),
    Term("Short check", "Measuring, before the cell goes on, that no plus touches a minus."),
    Term(
        "Stall current",
        "What a motor takes when it is held still: volts over the ohms of its winding.",
        (),
        ("winding_ohm",),
    ),
    Term(
        "Temperature wire",
        "A third lead of a cell, to a thermistor that tells the charger how warm it is.",
        ("thermistor", "NTC", "T lead"),
        ("thermistor_lead",),
    ),
    Term(
        "Theta",
        "By how many degrees the chip gets hotter for every watt it burns.",
        ("thermal resistance",),
        ("theta_ja_c_per_w",),
    ),
    Term(
        "Trip current",
        "Where a protection switches off because too much flows.",
        ("over-current protection",),
        ("v_trip",),
    ),
    Term("Unused", "The share of the charge that stays in the cell because the gadget stops first."),
    Term(
        "Window",
        "From the lowest volts at which the gadget still works, to the highest it may get.",
        ("operating range",),
        ("v_run_min", "v_start_min", "v_abs_max"),
    ),
)
