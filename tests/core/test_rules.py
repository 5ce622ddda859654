"""Every rule: a plan that raises it, and the sound plan that does not."""

import re

import pytest

from builders import CELL, PROTECTION, board, finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.guide import GUIDES
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.ratings import RATINGS
from pocketspark.core.rules import RULES

LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3}

# A gadget that already has a lithium cell and its own charger, and a build that only changes the cell.
SWAP = {
    "who_charges": "gadget",
    "gadget": {
        "supply": {
            "kind": "lithium",
            "pack_capacity_ah": 0.6,
            "own_charger": {"current_a": 0.3, "timer_h": 3, "reads_thermistor": True},
        }
    },
}

SOCKETED = {"boards": [board(socket={"kind": "type_c"})]}

# A board pinned to the floor, its warm side up, in a bay so low that the cell can only lie on top of it.
HOT = {
    "gadget": {"bay": {"rooms": [{"size_mm": [54, 35, 11.2]}], "walls": [{"side": "left"}]}},
    "boards": [board(socket={"kind": "type_c"})],
    "pins": [{"part": "board", "side": "floor", "turned": "flat, socket left, parts up"}],
}

# A charger and a protection on boards of their own, and what is right about their wires.
APART = [board(protection=False), {"name": "protection", "protection": PROTECTION, "outline_mm": [20, 6, 2]}]
APART_WIRES = (("cell.+", "protection.B+"), ("cell.-", "protection.B-"), ("protection.P+", "charger.B+"))
BUT_LOAD = (("cell.+", "charger.B+"), ("cell.-", "charger.B-"), ("charger.OUT+", "gadget.+"))
# Nothing is known of where its parts lie, so its wires are taken as long ones.
FAR = {"kind": "pack", "pack_v": 3.6}


def wires(*pairs):
    return {"wiring": {"wires": [{"start": start, "end": end} for start, end in pairs]}}


# A room for the cell and one for the board, joined by a slit of 1 mm, which no wire of 1.2 mm goes through.
TWO_ROOMS = {"rooms": [{"size_mm": [54, 35, 9]}, {"at_mm": [54, 34, 0], "size_mm": [30, 19, 9]}]}
# A cell held under a ledge that leaves less than its width open.
UNDER_A_LEDGE = {
    "gadget": {
        "bay": {
            "rooms": [{"size_mm": [60, 60, 20]}],
            "obstacles": [{"name": "ledge", "at_mm": [0, 0, 10], "size_mm": [60, 40, 2], "state": "keep"}],
        }
    },
    "pins": [{"part": "Pouch 503450", "at_mm": [2, 2, 1]}],
    "boards": [board()],
}
# As wide as the hole of the plug's body and a millimetre: no room for a lamp's beside it.
NARROW = {"rooms": [{"size_mm": [75, 45, 15]}], "walls": [{"side": "left", "from_mm": 10, "to_mm": 24}]}
# A board on the floor of the bay and the pouch over it: at the socket's wall, where the hole for a plug's body is 6.9
# high, and with its near end on the board alone.
FLOOR_AND_OVER = {
    "gadget": {"bay": {"rooms": [{"size_mm": [80, 45, 20]}], "walls": [{"side": "left"}]}},
    "boards": [board(socket={"kind": "type_c"})],
}
PUSHED = FLOOR_AND_OVER | {
    "pins": [
        {"part": "board", "at_mm": [0, 10, 0.5], "turned": "flat, socket left, parts up"},
        {"part": "Pouch 503450", "at_mm": [1, 5, 5.3]},
    ],
}
OVERHANGING = FLOOR_AND_OVER | {"pins": [PUSHED["pins"][0], {"part": "Pouch 503450", "at_mm": [20, 5, 5.3]}]}
# A switch right over a board: its lever's slot comes within a millimetre of the socket's hole.
CROWDED = {
    "small_parts": [{"kind": "switch", "name": "own switch"}],
    "pins": [
        {"part": "1 A board", "at_mm": [0, 13, 1], "turned": "flat, socket left, parts up"},
        {"part": "own switch", "at_mm": [0, 17, 5.8], "turned": "flat, switch left"},
    ],
}

# code: (level, what to change in the sound plan)
RAISED = {
    "survey.no_modes": ("note", {"gadget": {"modes": []}}),
    "survey.window_inferred": ("note", {"gadget": {"window": None}}),
    "cell.none": ("note", {"cell": None}),
    "cell.claim_not_credible": ("stop", {"cell": CELL | {"capacity_ah": 3.0}}),
    "cell.salvaged_unmeasured": ("caution", {"cell": CELL | {"origin": "salvaged"}}),
    "survey.not_to_be_converted": ("stop", {"gadget": {"purpose": "small_children"}}),
    "survey.existing_charging_live": ("stop", {"gadget": {"existing_charging": {"kind": "dock"}}}),
    "survey.old_adapter_unclamped": (
        "stop",
        {"gadget": {"existing_charging": {"kind": "jack", "treatment": "diode", "adapter_v": 9.0}}},
    ),
    "survey.own_lamp": (
        "note",
        {
            "gadget": {
                "supply": {"battery": "LR6", "series": 2, "chemistry": "nimh"},
                "existing_charging": {"kind": "dock"},
            }
        },
    ),
    "cell.intake": ("stop", {"cell": CELL | {"intake": {"damage": ["dent"]}}}),
    "cell.series": ("stop", {"cells_in_series": 2}),
    "cell.swap_without_lithium": ("stop", {"who_charges": "gadget"}),
    "cell.swap_class": ("stop", SWAP | {"cell": CELL | {"cell_class": "lfp"}}),
    "survey.second_supply": ("note", {"gadget": {"second_supply": {"battery": "CR2032"}}}),
    "cell.unlike_class": ("stop", {"unlike_cells": [CELL | {"cell_class": "lfp"}]}),
    "cell.unlike_joining": (
        "caution",
        {
            "cell": CELL | {"intake": {"rest_v": 4.1}},
            "unlike_cells": [CELL | {"r_ohm": 0.05, "intake": {"rest_v": 3.6}}],
        },
    ),
    "cell.unlike_shares": ("note", {"unlike_cells": [CELL | {"r_ohm": 0.03, "discharge_max_a": 9.0}]}),
    "wire.own_computed": ("caution", {"wiring": {"wires": []}}),
    "charge.given_unknown": ("note", {"who_charges": "external"}),
    "cell.swap_charge": ("caution", SWAP | {"cell": CELL | {"capacity_ah": 1.4}}),
    "cell.swap_gauge": ("note", SWAP),
    "cell.swap_thermistor_lead": ("caution", SWAP),
    "cell.polarity": ("caution", SWAP),
    "cell.resistance_high": ("caution", {"cell": CELL | {"r_ohm": 0.4}}),
    "cell.over_discharge_rating": ("stop", {"cell": CELL | {"discharge_max_a": 0.03}}),
    "cell.parallel": ("note", {"cell_count": 2}),
    "power.no_protection": ("stop", {"boards": [board(protection=False)]}),
    "power.protection_trips_early": ("stop", {"gadget": {"modes": [LIT | {"peak_a": 4.0}]}}),
    "power.protection_trips_late": ("note", {"cell": CELL | {"discharge_max_a": 1.0}}),
    "power.regulator_hot": (
        "caution",
        {"regulator": {"kind": "ldo", "v_set": 3.3}, "gadget": {"modes": [LIT | {"current_a": 0.6}]}},
    ),
    "power.resets_on_peak": (
        "caution",
        {"gadget": {"modes": [LIT | {"peak_a": 1.4}], "window": {"v_run_min": 3.5, "v_abs_max": 4.8}}},
    ),
    "power.motor_unknown": ("note", {"gadget": {"front_end": "motor"}}),
    "cell.discharge_unstated": (
        "caution",
        {"cell": CELL | {"discharge_max_a": None}, "gadget": {"modes": [LIT | {"peak_a": 1.9}]}},
    ),
    "cell.dummy_unprotected": ("stop", {"style": "dummy_cell"}),
    "wire.plug_rating": ("caution", {"cell_lead": "small_plug", "gadget": {"modes": [LIT | {"peak_a": 1.1}]}}),
    "charge.cold": ("caution", {"cold": True}),
    "charge.end_near_load": (
        "caution",
        {"use_while_charging": "on_cell", "gadget": {"modes": [LIT | {"current_a": 0.035}]}},
    ),
    "charge.no_socket": ("stop", {"boards": [board()]}),
    "power.over_window": ("stop", {"gadget": {"window": {"v_run_min": 2.0, "v_abs_max": 3.6}}}),
    "power.shared_pack": (
        "caution",
        {"also_feeds": [{"name": "radio", "v_run_min": 2.0, "v_abs_max": 3.6, "current_a": 0.03}]},
    ),
    "power.starts_again": ("caution", {"gadget": {"window": {"v_run_min": 2.0, "v_start_min": 3.8, "v_abs_max": 5}}}),
    "power.under_window": ("stop", {"gadget": {"window": {"v_run_min": 6.0, "v_abs_max": 10}}}),
    "power.cell_ends_low": ("note", {"gadget": {"window": {"v_run_min": 2.0, "v_abs_max": 5}}}),
    "power.regulator_overloaded": ("stop", {"regulator": {"kind": "diode", "rated_a": 0.05}}),
    "power.two_regulators": (
        "note",
        {"regulator": {"kind": "diode"}, "boards": [board() | {"regulator": {"kind": "diode"}}]},
    ),
    "power.peak_at_empty": (
        "stop",
        {"regulator": {"kind": "boost", "v_set": 9}, "gadget": {"modes": [LIT | {"peak_a": 3.5}]}},
    ),
    "power.auto_off": ("caution", {"regulator": {"kind": "boost", "v_set": 4.5, "auto_off_a": 0.1}}),
    "power.regulator_starved": ("stop", {"regulator": {"kind": "boost", "v_set": 5, "v_in_min": 4.5}}),
    "survey.hours_without_power": (
        "note",
        {"gadget": {"modes": [LIT, {"name": "waiting", "current_a": 0, "hours_per_day": 2}]}},
    ),
    "survey.dark_window": ("caution", {"gadget": {"front_end": "led_resistor", "behind": {"led_v": 3.3}}}),
    "survey.converter_window": ("caution", {"gadget": {"front_end": "converter", "behind": {"input_min_v": 3.5}}}),
    "survey.gauge_over_window": ("note", {"gadget": {"gauge": {"stop_v": 3.5}}}),
    "cell.too_good": ("caution", {"cell": CELL | {"r_ohm": 0.01}}),
    "cell.use_temperature": ("caution", {"gadget": {"shell": {"use_c": -10}}}),
    "charge.stuck_in_precharge": (
        "stop",
        {"use_while_charging": "on_cell", "gadget": {"window": {"v_run_min": 2.0, "v_abs_max": 4.8}}},
    ),
    "charge.heat_unknown": ("caution", {"r_prog_ohm": 1200}),
    "charge.below_its_law": ("caution", {"r_prog_ohm": 300e3}),
    "charge.temperature_input": ("stop", {"boards": [board(temperature_input="open")]}),
    "charge.timer": ("caution", {"boards": [board(timer_h=1)]}),
    "charge.old_adapter_fits": (
        "caution",
        {"gadget": {"existing_charging": {"kind": "jack", "treatment": "moved", "adapter_v": 9}}},
    ),
    "charge.coil_under_metal": ("stop", {"input": {"kind": "wireless"}, "gadget": {"shell": {"metal": True}}}),
    "wire.case_unsaid": ("note", {"gadget": {"shell": {"metal": True}}}),
    "wire.socket_shell": ("caution", {"gadget": {"shell": {"metal": True}}}),
    "power.regulator_switch": ("stop", {"regulator": {"kind": "boost", "v_set": 4.5, "switch_a": 0.06}}),
    "wire.switch_rating": (
        "caution",
        {
            "regulator": {"kind": "boost", "v_set": 4.5},
            "switch_place": "before_regulator",
            "gadget": {"modes": [LIT | {"peak_a": 0.5}]},
        },
    ),
    "wire.contacts_rating": ("caution", {"style": "rebuilt_shell", "gadget": {"modes": [LIT | {"peak_a": 1.5}]}}),
    "wire.fuse_opens": ("stop", {"fuse_a": 0.2}),
    "cell.store_temperature": ("stop", {"gadget": {"shell": {"store_c": 65}}}),
    "wire.existing_wires": ("caution", {"gadget": {"wires_awg": 36, "modes": [LIT | {"current_a": 0.3}]}}),
    "power.capacitor_inrush": ("caution", {"gadget": {"capacitance_f": 4.7e-3}}),
    "charge.capacitor_at_port": ("note", {"use_while_charging": "two_diodes", "gadget": {"capacitance_f": 1e-4}}),
    "power.no_enable_pin": ("caution", {"switch_place": "enable"}),
    "power.hum": ("caution", {"regulator": {"kind": "boost", "v_set": 4.5}, "gadget": {"sound": "speaker"}}),
    "power.gauge": ("note", {"gadget": {"gauge": {"warn_v": 3.6, "stop_v": 3.3}}}),
    "power.conditions": ("note", {"aged": True}),
    "power.stress_led": ("stop", {"gadget": {"front_end": "led_resistor", "behind": {"design_v": 3.0}}}),
    "power.dim": ("note", {"gadget": {"front_end": "led_resistor", "behind": {"design_v": 5.0}}}),
    "power.stress_lamp": ("caution", {"gadget": {"front_end": "lamp", "behind": {"design_v": 3.6}}}),
    "power.stress_motor": ("caution", {"gadget": {"front_end": "motor", "behind": {"design_v": 3.0}}}),
    "power.stress_heater": ("caution", {"gadget": {"front_end": "heater", "behind": {"design_v": 3.0}}}),
    "power.stress_regulator": ("stop", {"gadget": {"behind": {"input_max_v": 4.0}}}),
    "power.stress_converter": (
        "stop",
        {"gadget": {"front_end": "converter", "behind": {"input_max_v": 4.0}}},
    ),
    "power.off_drain": ("caution", {"gadget": {"off_current_a": 0.005}}),
    "power.run_time": ("note", {}),
    "power.recharge_by": ("caution", {"gadget": {"off_current_a": 0.0008}}),
    "charge.plugged_in": ("note", {"plugged_in": "always"}),
    "charge.no_charger": ("note", {"boards": []}),
    "charge.float_high": ("stop", {"cell": CELL | {"cell_class": "lfp"}}),
    "charge.float_low": ("note", {"cell": CELL | {"cell_class": "li_4v35"}}),
    "charge.over_cell": ("stop", {"r_prog_ohm": 1200}),
    "charge.over_policy": ("caution", {"r_prog_ohm": 2000}),
    "charge.over_source": ("caution", {"r_prog_ohm": 2200}),
    "charge.over_board": ("stop", {"boards": [board(rated_a=0.3)]}),
    "charge.resistor": ("note", {"r_prog_ohm": None}),
    "charge.measured_resistor_off": ("caution", {"r_measured_ohm": 2800}),
    "charge.never_ends": ("caution", {"use_while_charging": "on_cell"}),
    "charge.slow": ("note", {"r_prog_ohm": 20_000}),
    "charge.folds_back": ("note", {"boards": [board(theta_ja_c_per_w=200)]}),
    "charge.shared_window": ("caution", {"use_while_charging": "load_sharing"}),
    "charge.protection_trips": (
        "stop",
        {"r_prog_ohm": 1200, "boards": [board() | {"protection": PROTECTION | {"v_trip": 0.1, "r_on_ohm": 0.07}}]},
    ),
    "power.cut_low": ("stop", {"boards": [board() | {"protection": PROTECTION | {"cut_v": 2.0}}]}),
    "charge.old_jack": ("caution", {"input": {"kind": "old_jack"}}),
    "charge.hot_plug": ("caution", {"source": {"kind": "own", "volts": 5.8, "limit_a": 1, "cable_mm": 3000}}),
    "charge.frost": ("note", {"gadget": {"shell": {"climate": "cold"}}}),
    "charge.soft_print": ("caution", {"cradle_mm": 1.5, "boards": [board(theta_ja_c_per_w=150)]}),
    "power.motor_kick": ("note", {"gadget": {"front_end": "motor"}, "regulator": {"kind": "ldo", "v_set": 3.3}}),
    "power.in_band": (
        "caution",
        {"gadget": {"sound": "radio", "receives": "medium_wave"}, "regulator": {"kind": "boost", "v_set": 5.0}},
    ),
    "charge.dock": ("note", {"input": {"kind": "dock"}}),
    "charge.wireless": ("stop", {"input": {"kind": "wireless", "pad_ferrite": False}}),
    "charge.usb_out": ("caution", {"boards": [board() | {"usb_out_pads": True}]}),
    "charge.cell_warm": ("stop", {"gadget": {"shell": {"outer_mm": [30, 20, 10], "room_c": 40}}}),
    "charge.drop_out": ("note", {"source": {"kind": "own", "limit_a": 2, "r_cable_ohm": 2.0}}),
    "charge.change_over": ("note", {"use_while_charging": "change_over"}),
    "fit.does_not_fit": ("stop", {"gadget": {"bay": {"rooms": [{"size_mm": [50, 30, 9]}]}}}),
    "fit.bay_assumed": ("note", {"gadget": {"bay": None}}),
    "fit.tolerances": (
        "note",
        {"boards": [], "gadget": {"bay": {"rooms": [{"size_mm": [60, 40, 5.75]}], "tolerance_mm": 0.1}}},
    ),
    "fit.size_unknown": ("caution", {"boards": [board() | {"outline_mm": None}]}),
    "fit.socket_deep": ("note", {"gadget": {"bay": {"rooms": [{"size_mm": [75, 45, 20]}], "wall_mm": 2}}}),
    "fit.socket_unsupported": ("note", {}),
    "fit.hot_side": ("caution", HOT),
    "fit.pads_shut_in": ("caution", {"gadget": {"bay": TWO_ROOMS}, "boards": [board()]}),
    "fit.holes_meet": ("caution", CROWDED),
    "fit.no_way_in": ("caution", UNDER_A_LEDGE),
    "fit.cell_behind_plug": ("caution", PUSHED),
    "fit.tips": ("note", OVERHANGING),
    "fit.lamp_unseen": ("note", {"cell": None, "gadget": {"bay": NARROW}}),
    "fit.swell": ("note", {"gadget": {"bay": {"rooms": [{"size_mm": [54, 36, 5.2]}]}}}),
    "fit.last_try_off": ("note", {"attempts": [{"note": "0.5 mm too tight at the latch", "off_mm": 0.5}]}),
    "wire.cell_unprotected": ("stop", wires(("cell.-", "gadget.-"))),
    "wire.protection_bypassed": ("stop", wires(("charger.B-", "charger.OUT-"))),
    "wire.charger_before_protection": (
        "stop",
        {"boards": APART} | wires(*APART_WIRES, ("protection.B-", "charger.B-")),
    ),
    "wire.load_on_cell_pads": ("stop", wires(*BUT_LOAD, ("charger.B-", "gadget.-"))),
    "wire.regulator_bypassed": ("stop", {"regulator": {"kind": "diode"}} | wires(("cell.+", "gadget.+"))),
    "wire.five_on_battery": ("stop", wires(("source.5V", "charger.B+"))),
    "wire.old_path": ("stop", {"gadget": {"existing_charging": {"kind": "contacts"}}}),
    "wire.switch_place": ("caution", {"regulator": {"kind": "ldo", "v_set": 3.3, "iq_a": 5e-3}}),
    "wire.polarity": ("stop", wires(("cell.+", "charger.B-"), ("cell.-", "charger.B+"))),
    "wire.open": ("stop", wires(("cell.+", "charger.B+"))),
    "wire.thermistor_lead": ("caution", {"cell": CELL | {"thermistor_lead": True}}),
    "wire.bare_leads": ("note", {}),
    "survey.wet_hole": ("caution", {"gadget": {"shell": {"climate": "temperate"}}} | SOCKETED),
    "survey.damp_inside": ("note", {"gadget": {"shell": {"climate": "bathroom"}}}),
    "survey.parked_hot": ("caution", {"gadget": {"shell": {"climate": "car"}}}),
    "survey.aerial": ("note", {"gadget": {"sound": "radio", "receives": "remote_433"}}),
    "survey.shaken": ("note", {"gadget": {"shell": {"climate": "pocket"}}}),
    "wire.thin": ("note", {"gadget": {"modes": [LIT | {"peak_a": 20}], "bay": None, "supply": FAR}}),
    "wire.usb_out_fed": (
        "stop",
        {"boards": [board() | {"usb_out_pads": True}]} | wires(("source.5V", "charger.U+")),
    ),
    "wire.unmatched": ("caution", {"cell_count": 2}),
    "power.over_charge_cut": ("caution", {"boards": [board(float_v=4.35)], "cell": CELL | {"cell_class": "li_4v35"}}),
    "power.needs_waking": (
        "note",
        {
            "gadget": {"window": {"v_run_min": 1.0, "v_abs_max": 6}, "modes": [LIT]},
            "boards": [board() | {"protection": PROTECTION | {"cut_v": 3.3, "release_v": 3.9}}],
        },
    ),
    "charge.source_high": ("stop", {"source": {"kind": "old adapter", "volts": 9.0}}),
    "charge.type_c_dead": ("caution", {"boards": [board(socket={"kind": "type_c", "cc_resistors": False})]}),
}
ALWAYS_SAID = {"power.run_time", "wire.bare_leads", "fit.socket_unsupported"}


def test_every_rule_is_in_this_table():
    assert RAISED.keys() == RULES.keys()


@pytest.mark.parametrize("code", RAISED)
def test_the_rule_speaks_when_it_should(code):
    level, changes = RAISED[code]
    raised = finding(judged(**changes), code)
    assert raised is not None
    assert raised.level == level
    assert raised.source
    assert reads_plainly(str(raised.headline))
    for shown in (raised.figure, raised.limit):
        assert shown is None or (shown.value is not None and shown.text)


def reads_plainly(sentence):
    """A whole sentence, as a maker reads it: no number first, no "0 of something", no word that only we use."""
    first = sentence.split()[0]
    starts_well = (
        first[0].isupper() or first[0] == "5" or (sentence[0].isdigit() and sentence.split()[1] in ("%", "cells"))
    )
    ends_well = sentence.endswith(".") and ".." not in sentence
    ours = {"guard", "shaper", "stranded", "foretold", "reckoned", "shelf", "drawer", "nets", "falsifies"}
    return starts_well and ends_well and "-+" not in sentence and not ours & set(re.findall(r"[a-z]+", sentence))


@pytest.mark.parametrize("code", sorted(RAISED.keys() - ALWAYS_SAID))
def test_the_rule_is_silent_on_a_sound_plan(code):
    assert finding(judged(), code) is None


def test_run_time_is_not_told_of_what_never_runs():
    assert finding(judged(**RAISED["power.under_window"][1]), "power.run_time") is None


def test_every_rule_says_in_the_handbook_what_it_watches():
    assert all(len(rule.watches) > 20 and rule.code.startswith(f"{rule.station}.") for rule in RULES.values())


def test_every_finding_says_what_to_do_and_may_show_how():
    assert all(reads_plainly(str(rule.advice)) and len(str(rule.advice)) < 120 for rule in RULES.values())
    assert {rule.guide for rule in RULES.values() if rule.guide} <= {guide.key for guide in GUIDES}


def test_a_rule_stands_where_its_station_is():
    # The module is that of the station, or one within its package; ratings stand by the part that has them.
    for rule in RULES.values():
        if rule.code in {rating.code for rating in RATINGS}:
            continue
        assert rule.judge.__module__.split(".")[3] == rule.station, rule.code


# The judgements that need more than one case -----------------------------------------------------------------


def test_an_inferred_ceiling_is_soft_unless_bare_logic_would_die():
    two_alkalines = {"supply": {"battery": "LR6", "series": 2}, "window": None, "modes": [LIT]}
    soft = finding(judged(gadget=two_alkalines | {"front_end": "motor"}), "power.over_window")
    logic = finding(judged(gadget=two_alkalines | {"front_end": "logic"}), "power.over_window")
    assert (soft.level, soft.assumed) == ("caution", True)
    assert (logic.level, logic.assumed) == ("stop", True)


@pytest.mark.parametrize("starts_v", [3.7, 3.8, 3.9])
def test_a_gadget_that_starts_no_more_has_as_much_left_as_one_that_stops_there(starts_v):
    """The same volts as its lowest say by the run itself how much is left below them."""
    window = {"v_run_min": 2.0, "v_abs_max": 5}
    starts = finding(judged(gadget={"window": window | {"v_start_min": starts_v}}), "power.starts_again")
    stops = finding(judged(gadget={"window": window | {"v_run_min": starts_v}}), "power.under_window")
    assert float(str(starts.figure).split()[0]) == pytest.approx(float(str(stops.figure).split()[0]), abs=1.5)
    never = finding(judged(gadget={"window": window | {"v_start_min": 4.5}}), "power.starts_again")
    assert never.level == "stop"


FED_FROM_5V = {"use_while_charging": "two_diodes", "gadget": {"window": {"v_run_min": 2.0, "v_abs_max": 5.5}}}


def test_what_reaches_a_regulator_plugged_in_is_held_against_its_rating_too():
    """USB gives 5 V where the gadget hangs on it (USB 2.0), a cell 4.2 V: rated for 4.5 V it bears the one alone."""
    small = {"regulator": {"kind": "ldo", "v_set": 2.8, "name": "small LDO", "v_in_max": 4.5}}
    assert finding(judged(**small), "power.regulator_overloaded") is None
    raised = finding(judged(**small | FED_FROM_5V), "power.regulator_overloaded")
    assert (raised.level, raised.figure.value) == ("stop", 5.0)
    # P = (V_in - V_out) I, by hand, 300 mA: 1.4 V at the full cell; on the 5 V, less 0.33 V of the Schottky diode and
    # 0.045 V of cable, 1.825 V.
    mode = {"modes": [{"name": "on", "current_a": 0.3, "hours_per_day": 1, "law": "current"}]}
    ldo = {"regulator": {"kind": "ldo", "v_set": 2.8, "name": "LDO", "iq_a": 0}}
    heats = [
        finding(judged(**ldo | {"gadget": mode | more.pop("gadget", {})} | more), "power.regulator_hot").figure.value
        for more in ({}, dict(FED_FROM_5V))
    ]
    assert heats == [pytest.approx(1.4 * 0.3, rel=0.06), pytest.approx(1.825 * 0.3, rel=0.02)]


def test_a_socket_that_is_not_used_may_lack_its_resistors():
    bare = {"kind": "type_c", "cc_resistors": False}
    assert finding(judged(boards=[board(socket=bare)]), "charge.type_c_dead").level == "caution"
    wired = judged(boards=[board(socket=bare)], input={"kind": "wired_socket"})
    assert finding(wired, "charge.type_c_dead") is None


def test_leds_on_the_5_volts_are_judged_there():
    # (5 V - 0.4 V of a Schottky diode - 2.0 V) / (3.0 V - 2.0 V), about: two alkalines' worth of LEDs of 2.0 V.
    leds = {"front_end": "led_resistor", "behind": {"led_v": 2.0}, "supply": {"battery": "LR6", "series": 2}}
    plugged = judged(**FED_FROM_5V | {"gadget": FED_FROM_5V["gadget"] | leds})
    assert "Plugged in" in str(finding(plugged, "power.stress_led").headline)
    assert finding(plugged, "power.stress_led").figure.value == pytest.approx(2.6, abs=0.25)


def test_volts_over_the_window_are_as_grave_plugged_in_as_from_the_cell():
    stated = judged(use_while_charging="two_diodes", gadget={"window": {"v_run_min": 3.0, "v_abs_max": 4.4}})
    assert finding(stated, "charge.shared_window").level == "stop"
    guessed = judged(
        use_while_charging="two_diodes",
        gadget={"window": {"v_run_min": 3.0}, "supply": {"battery": "LR6", "series": 2}},
    )
    assert finding(guessed, "charge.shared_window").level == "caution"


def test_the_charging_current_is_held_against_plug_and_protection():
    # 1 A through a plug of 1 A; K may give 10 % more (common practice, no source).
    fast = {"r_prog_ohm": 1200, "cell_lead": "small_plug", "policy": "label", "cell": CELL | {"charge_max_a": 2.0}}
    raised = finding(judged(**fast), "wire.plug_rating")
    assert raised.level == "caution"
    assert "plugged in" in str(raised.working)
    # I_trip = V_trip / (2 R_on) = 0.1 / 0.14 = 0.71 A
    weak = board() | {"protection": PROTECTION | {"v_trip": 0.1, "r_on_ohm": 0.07}}
    assert finding(judged(**fast, boards=[weak]), "charge.protection_trips").level == "stop"


@pytest.mark.parametrize(
    ("front_end", "ohm", "below_v"),
    [
        # I = (V - Vf) / R and I = V / R, by hand: 2 A of three alkalines (4.5 V), LEDs of 3.0 V.
        ({"front_end": "led_resistor", "behind": {"led_v": 3.0}}, (4.5 - 3.0) / 2.0, 3.0),
        ({"front_end": "heater"}, 4.5 / 2.0, 0.0),
    ],
    ids=["LEDs", "heater"],
)
def test_what_draws_most_from_a_full_cell_is_held_against_its_rating_there(front_end, ohm, below_v):
    torch = front_end | {"modes": [{"name": "lit", "current_a": 2.0, "hours_per_day": 1}]}
    changes = {"gadget": torch, "cell": CELL | {"discharge_max_a": 0.9}, "cell_lead": "small_plug"}
    raised = finding(judged(**changes), "cell.over_discharge_rating")
    series_ohm = Chain(plan(**changes), 0).chosen_cell.all_ohm
    assert raised.level == "stop"
    assert raised.figure.value == pytest.approx((4.2 - below_v) / (ohm + series_ohm), rel=0.01)
    assert "with 4.20 V in the cell" in str(raised.working)
    assert finding(judged(**changes), "wire.plug_rating").level == "caution"


def test_a_stated_ceiling_is_hard():
    raised = finding(judged(gadget={"window": {"v_abs_max": 3.6, "v_run_min": 2}}), "power.over_window")
    assert (raised.level, raised.assumed) == ("stop", False)


def test_a_board_left_as_delivered_on_a_small_cell_is_stopped_and_mended_by_its_remedy():
    project = plan(cell={"capacity_ah": 0.2, "size_mm": [4, 20, 30]}, r_prog_ohm=None, boards=[board(r_prog_ohm=1200)])
    raised = finding(assess(project), "charge.over_cell")
    assert raised.level == "stop"
    assert "5.6C" in str(raised.headline)
    (r_prog, r_measured) = raised.remedy.edits
    assert (r_prog.path, r_measured.value) == ("builds.build1.r_prog_ohm", None)
    mended = project.builds[0].model_copy(update={"r_prog_ohm": r_prog.value})
    seen = assess(project.model_copy(update={"builds": (mended,)}))
    assert finding(seen, "charge.over_cell") is None
    assert finding(seen, "charge.over_policy") is None


def test_a_salvaged_cell_is_charged_gently_whatever_the_policy():
    seen = judged(policy="label", cell=CELL | {"origin": "salvaged", "measured_capacity_ah": 0.8})
    assert seen.charge.limits[0].current_a == pytest.approx(0.4)
    spent = CELL | {"origin": "salvaged", "measured_capacity_ah": 0.4}
    assert finding(judged(cell=spent), "cell.intake").level == "stop"


@pytest.mark.parametrize(("policy", "target_a"), [("gentle", 0.45), ("label", 0.9), ("data_sheet", 0.7)])
def test_the_three_schools_of_charging(policy, target_a):
    # common practice: 0.5C, 1C, or what the data sheet says
    source = {"kind": "charging_port"}
    seen = judged(policy=policy, cell=CELL | {"charge_max_a": 0.7 if policy == "data_sheet" else 2}, source=source)
    assert seen.charge.limits[0].current_a == pytest.approx(target_a)
    assert seen.charge.suggested.r_ohm >= 1200 * 1.1 / target_a / 0.99


def test_a_load_over_the_charge_current_is_a_stop():
    heavy = {"modes": [LIT | {"current_a": 0.5}]}
    assert finding(judged(gadget=heavy, use_while_charging="on_cell"), "charge.never_ends").level == "stop"


def test_a_protection_on_the_cell_serves_a_bare_charger():
    assert (
        finding(judged(boards=[board(protection=False)], cell=CELL | {"own_protection": True}), "power.no_protection")
        is None
    )
    assert finding(judged(boards=[board(protection=False), {"protection": PROTECTION}]), "power.no_protection") is None


def test_two_diodes_must_not_lift_the_gadget_over_its_window():
    narrow = {"window": {"v_run_min": 2.9, "v_abs_max": 4.3}}
    assert finding(judged(gadget=narrow, use_while_charging="two_diodes"), "charge.shared_window")
    wide = {"window": {"v_run_min": 2.9, "v_abs_max": 5.5}}
    assert finding(judged(gadget=wide, use_while_charging="two_diodes"), "charge.shared_window") is None


def test_a_bold_claim_between_usual_and_incredible_is_a_caution():
    raised = finding(judged(cell=CELL | {"capacity_ah": 1.44}), "cell.claim_not_credible")
    assert raised.level == "caution"


def test_an_old_regulator_before_the_switch_empties_the_cell():
    # common practice, no source: old three-terminal regulators draw 5 mA for ever
    old = {"kind": "ldo", "v_set": 3.3, "drop_v": 1.1, "iq_a": 5e-3}
    assert judged(regulator=old).run.standby_days < 9


# A gadget that charges already, purpose, swap --------------------------------------------------------------------


@pytest.mark.parametrize(
    ("treatment", "level"),
    [("untouched", "stop"), ("never_plugged_in", "caution"), ("diode", "note"), ("cut", None), ("moved", None)],
)
def test_the_two_schools_of_an_old_charge_path(treatment, level):
    # common practice, no source: block it with a diode, or never plug it in and have that printed
    raised = finding(
        judged(gadget={"existing_charging": {"kind": "jack", "treatment": treatment}}),
        "survey.existing_charging_live",
    )
    assert (raised.level if raised else None) == level


@pytest.mark.parametrize(("adapter_v", "level"), [(4.5, None), (9.0, "stop"), (None, "note")])
def test_behind_a_diode_the_adapters_volts_all_stand_at_the_gadget(adapter_v, level):
    # Kirchhoff: nothing else is left to take the adapter's current
    existing = {"kind": "jack", "treatment": "diode", "adapter_v": adapter_v}
    raised = finding(judged(gadget={"existing_charging": existing}), "survey.old_adapter_unclamped")
    assert (raised.level if raised else None) == level
    assert level != "stop" or raised.figure.value == pytest.approx(9.0, abs=0.05)


@pytest.mark.parametrize(
    ("regulator", "flows"), [({"kind": "none"}, True), ({"kind": "boost", "v_set": 5.0}, False)], ids=["none", "boost"]
)
def test_what_an_old_adapter_does_to_the_full_cell_is_composed(regulator, flows):
    # straight through, (9 - 4.2) V over (9 - 4.5) V / 0.2 A of the adapter and 0.19 ohm; a boost lets nothing back
    existing = {"kind": "jack", "adapter_v": 9.0, "current_a": 0.2}
    raised = finding(
        judged(gadget={"existing_charging": existing}, regulator=regulator), "survey.existing_charging_live"
    )
    assert raised.level == "stop"
    assert ("flows into the full cell" in str(raised.working)) == flows
    assert not flows or str(raised.working).startswith("With its adapter plugged in, 212 mA")


def test_a_blocking_diode_costs_its_volts_on_the_way_to_the_gadget():
    blocked = judged(gadget={"existing_charging": {"kind": "dock", "treatment": "diode"}})
    assert 0.2 < judged().gadget_v.max - blocked.gadget_v.max < 0.45


def test_nobody_is_asked_twice_and_an_unanswered_question_is_only_a_note():
    assert finding(judged(gadget={"purpose": None}), "survey.not_to_be_converted").level == "note"
    assert finding(judged(gadget={"purpose": "medical"}), "survey.not_to_be_converted").level == "stop"


def test_a_swap_within_its_own_chargers_means_passes():
    sound = SWAP["gadget"]["supply"] | {"pack_capacity_ah": 0.9, "own_charger": {"current_a": 0.4, "timer_h": 5}}
    swap = SWAP | {"gadget": {"supply": sound}, "cell": CELL | {"own_protection": True}, "boards": []}
    said = {f.code: f.level for f in judged(**swap).findings if f.code.startswith("cell.swap")}
    assert set(said.values()) == {"pass"}
    assert finding(judged(**swap), "charge.no_charger") is None


def test_a_timer_that_ends_the_charge_early_is_told_with_both_times():
    raised = finding(judged(**RAISED["cell.swap_charge"][1]), "cell.swap_charge")
    assert "takes 5 h" in str(raised.headline)
    assert "3 h" in str(raised.headline)


# Stress ---------------------------------------------------------------------------------------------------------


def test_a_lamp_a_tenth_over_lives_under_a_third():
    # lamp re-rating relations of the lighting handbooks, from memory: 1.1 ^ -13 = 0.29
    from pocketspark.core.physics import stress

    assert stress.lamp_life_share(1.1, 1.0) == pytest.approx(0.29, abs=0.005)
    assert stress.lamp_light_share(1.1, 1.0) == pytest.approx(1.38, abs=0.01)


def test_the_stall_current_of_a_motor_counts_against_the_protection():
    stalling = {"front_end": "motor", "behind": {"winding_ohm": 0.5}}
    raised = finding(judged(gadget=stalling), "power.protection_trips_early")
    assert raised.level == "stop"
    assert "With the motor held fast" in str(raised.working)


def test_leds_made_for_four_and_a_half_volts_are_spared_by_lithium():
    # (4.2 - 3.0) / (4.5 - 3.0) = 0.8, less 48 mA through some 0.16 ohm: Ohm's law
    seen = judged(gadget={"front_end": "led_resistor", "modes": [LIT | {"at_v": 4.5}], "off_current_a": 1e-6})
    said = next(f for f in seen.findings if f.code == "power.stress_led")
    assert said.level == "pass"
    assert "79 %" in str(said.headline)


@pytest.mark.parametrize(
    ("series", "treatment", "said"),
    [(2, "untouched", True), (3, "untouched", False), (2, "cut", False), (2, "moved", False)],
)
def test_an_old_lamp_is_believed_where_it_cannot_mislead(series, treatment, said):
    """2 x 1.40 V is passed before lithium is full, 3 x 1.40 V only as it is; where the path is cut no lamp lights."""
    nimh = {"supply": {"battery": "LR6", "series": series, "chemistry": "nimh"}}
    nimh |= {"existing_charging": {"kind": "dock", "treatment": treatment}}
    assert (finding(judged(gadget=nimh), "survey.own_lamp") is not None) is said


def test_leds_that_would_burn_are_offered_the_resistor_that_spares_them():
    """Made for 3.6 V over 3.0 V LEDs: (4.2 - 3.0) / (3.6 - 3.0) is twice their current. 60 mA were read at 3.6 V, so
    their own resistor is 10 ohm, and 1.2 V / 60 mA = 20 ohm are wanted in all, the cell's and the wires' among them."""
    led = {"front_end": "led_resistor", "behind": {"design_v": 3.6, "led_v": 3.0}, "modes": [LIT | {"at_v": 3.6}]}
    led |= {"window": {"v_run_min": 3.0, "v_abs_max": 4.8}}
    told = finding(judged(gadget=led), "power.stress_led")
    ohm = told.remedy.edits[0].value["series_ohm"]
    assert ohm == pytest.approx(20 - 10, abs=1.2)
    cured = assess(Project.model_validate(plan(gadget=led).apply(told.remedy.edits)))
    assert finding(cured, "power.stress_led") is None
    assert "stop" not in {f.level for f in cured.findings if f.station == "power"}


def test_a_worn_cell_starts_where_its_charge_ended():
    """40 mA still flow through 1.5 ohm, and 0.1 ohm on the way, when the charger stops at 4.20 V: 4.136 V at rest."""
    chain = Chain(plan(cell=CELL | {"r_ohm": 1.5}), 0)
    assert chain.running.starts_v == pytest.approx(4.20 - 1.6 * 0.040, abs=0.001)
    assert chain.running.runs[0].run.soc[0] < 0.97
    assert Chain(plan(cell=CELL | {"r_ohm": 0.01}), 0).running.starts_v == pytest.approx(4.20, abs=0.006)


# Off, and really off --------------------------------------------------------------------------------------------


def test_a_switch_before_the_regulator_ends_its_drain_and_is_offered():
    old = {"regulator": {"kind": "ldo", "v_set": 3.3, "drop_v": 1.1, "iq_a": 5e-3}}
    raised = finding(judged(**old), "power.off_drain")
    assert [edit.value for edit in raised.remedy.edits] == ["before_regulator"]
    assert judged(**old, switch_place="before_regulator").run.standby_days > 200
    enabled = {"regulator": old["regulator"] | {"has_enable": True, "iq_off_a": 1e-6}}
    assert finding(judged(**enabled), "power.off_drain").remedy.edits[0].value == "enable"


def test_a_duty_cycle_stretches_the_run():
    # 1 s in 10: ten times as long, but for what is drawn between the pulses (nothing here)
    pulsed = judged(gadget={"modes": [LIT | {"on_s": 1, "every_s": 10}]})
    assert pulsed.run.modes[0].hours == pytest.approx(10 * judged().run.modes[0].hours, rel=0.001)
    assert pulsed.survey.daily_ah == pytest.approx(0.06 * 0.1 * 3)


def test_a_regulated_gadgets_gauge_shows_full_until_the_end():
    # common practice, no source: behind an LDO the gauge shows full until the end
    narrow = {"gauge": {"warn_v": 2.9}, "window": {"v_run_min": 2.5, "v_abs_max": 3.6}}
    seen = judged(gadget=narrow, regulator={"kind": "ldo", "v_set": 3.0, "drop_ohm": 0.1})
    assert "full until the end" in str(finding(seen, "power.gauge").headline)


def test_past_its_rating_an_open_gadget_is_only_cautioned():
    past = {"boards": [board(rated_a=0.3)]}
    assert finding(judged(**past), "charge.over_board").level == "stop"
    assert "1.4 A at 900" in str(finding(judged(**past), "charge.over_board").working)  # common practice, no source
    assert finding(judged(**past, gadget={"shell": {"closed": False}}), "charge.over_board").level == "caution"


# Fit ------------------------------------------------------------------------------------------------------------


def test_without_a_socket_there_is_no_push_to_take():
    assert finding(judged(boards=[board()]), "fit.socket_unsupported") is None


def test_a_stop_behind_the_socket_takes_room_once_it_is_kept_for_it():
    bay = {"rooms": [{"size_mm": [60, 38, 20]}], "walls": [{"side": "left"}]}
    project = plan(gadget={"bay": bay}, boards=[board(socket={"kind": "type_c"})])
    told = finding(assess(project), "fit.socket_unsupported")
    kept = project.apply(told.remedy.edits)
    assert finding(assess(kept), "fit.socket_unsupported") is None
    lengths = [
        next(one.max_mm[0] - one.min_mm[0] for one in fit_of(each).placements if one.kind == "board")
        for each in (project, kept)
    ]
    assert lengths[1] - lengths[0] == pytest.approx(2.0)  # common practice, no source


def test_what_must_give_is_told_and_applied():
    tongue = {"name": "tongue", "at_mm": [5, 16, 0], "size_mm": [50, 2, 9], "state": "trim"}
    bay = {"rooms": [{"size_mm": [60, 38, 12]}], "walls": [{"side": "left"}], "obstacles": [tongue]}
    project = plan(gadget={"bay": bay}, boards=[board()])
    raised = finding(assess(project), "fit.does_not_fit")
    assert raised.level == "stop"
    assert "mm off tongue, from its top" in str(raised.working)
    (edit,) = raised.remedy.edits
    mended = Project.model_validate(
        project.model_dump() | {"gadget": project.gadget.model_dump() | {"bay": edit.value}}
    )
    assert fit_of(mended).fits == "yes"


def test_outside_a_bay_nothing_has_to_go_in():
    small = {"bay": {"rooms": [{"size_mm": [10, 10, 10]}]}}
    assert finding(judged(gadget=small), "fit.does_not_fit").level == "stop"
    assert finding(judged(gadget=small, style="outside_pack"), "fit.does_not_fit") is None


def test_a_flat_cell_that_stays_flat_is_not_blamed_on_the_source():
    # 40 mA of pre-charge against 100 mA; the end current of 200 mA is well over the load
    plans = {"boards": [board(termination_share=0.5, socket={"kind": "type_c"})], "use_while_charging": "on_cell"}
    window = {"v_run_min": 2.0, "v_abs_max": 4.8}
    seen = judged(**plans, gadget={"modes": [LIT | {"current_a": 0.1}], "window": window})
    assert finding(seen, "charge.stuck_in_precharge").level == "stop"
    assert finding(seen, "charge.never_ends") is None


def test_a_converter_that_is_pulled_under_its_least_input_is_not_told_of_its_output():
    # 9 V x 0.95 A / 0.88 = 9.7 W: some 4.1 A through 0.37 ohm and a diode leave it under 2.5 V, by Ohm's law
    plans = {"cell": CELL | {"r_ohm": 0.11}, "regulator": {"kind": "boost", "v_set": 9.0, "input_ohm": 0.1}}
    gadget = {
        "existing_charging": {"kind": "dock", "treatment": "diode"},
        "window": {"v_run_min": 1.0, "v_abs_max": 12},
    }
    seen = judged(**plans, gadget=gadget | {"modes": [LIT | {"current_a": 0.95}]})
    said = finding(seen, "power.under_window")
    assert said.level == "stop"
    assert "more power than a full cell can give" in str(said.headline)
