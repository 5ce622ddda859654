"""Every rule with a figure, on both sides of it: the last plan that passes, and the first that does not.

Each edge is worked out by hand beside it from the trade's formula; the limits themselves carry their sources there.
Level None: the rule says nothing, or only that it is fine.
"""

import pytest

from builders import CELL, CHARGER, PROTECTION, SIZE, board, finding, judged
from pocketspark.core.cells.grading import grade
from pocketspark.core.cells.matching import matches
from pocketspark.core.models import Cell

# Draws next to nothing, so that the full 4.20 V of the cell stand at the gadget's terminals.
FAINT = [{"name": "on", "current_a": 1e-6, "hours_per_day": 1}]
UNPROTECTED_BY_POLICY = {"policy": "data_sheet", "source": {"kind": "type_c_3a"}}


PEAK = {"name": "on", "current_a": 0.05, "hours_per_day": 1}


def cell(**changes):
    return {"cell": CELL | changes}


def gadget(**changes):
    return {"gadget": changes}


def fed_by(kind, design_v, **behind):
    """A gadget whose front end sees 4.20 V at most and was made for `design_v`."""
    return gadget(front_end=kind, modes=FAINT, behind={"design_v": design_v, **behind}, window={"v_run_min": 2.0})


def charging_with(load_a):
    return {"use_while_charging": "on_cell"} | gadget(modes=[{"name": "on", "current_a": load_a, "hours_per_day": 1}])


def drawing(current_a, **build):
    return build | gadget(modes=[{"name": "on", "current_a": current_a, "hours_per_day": 1}])


def protected(**figures):
    return [{"name": "board", "charger": CHARGER, "protection": PROTECTION | figures} | SIZE]


def room(celsius):
    """An open gadget has the room's temperature inside."""
    return gadget(shell={"closed": False, "room_c": celsius})


# code: rows of (what it is, changes, level). Rows of one figure stand next to each other, either side of it.
EDGES = {
    # Wh/l = Ah x 3.7 V / 8.5 ml; energy densities of good pouches, from memory: 600 and 650 Wh/l
    "cell.claim_not_credible": [
        ("596 Wh/l", cell(capacity_ah=1.37), None),
        ("605 Wh/l", cell(capacity_ah=1.39), "caution"),
        ("648 Wh/l", cell(capacity_ah=1.489), "caution"),
        ("653 Wh/l", cell(capacity_ah=1.50), "stop"),
    ],
    # discharge_max_a is the cell's own; straight through, the gadget's current is the cell's
    "cell.over_discharge_rating": [
        ("as it may", drawing(0.3, cell=CELL | {"discharge_max_a": 0.3001}), None),
        ("more than it may", drawing(0.3, cell=CELL | {"discharge_max_a": 0.2999}), "stop"),
    ],
    # common practice, no source: two or three like cells share one protection, four hardly
    "cell.parallel": [
        ("one", {"cell_count": 1}, None),
        ("three", {"cell_count": 3}, "note"),
        ("four", {"cell_count": 4}, "caution"),
    ],
    # 4.20 V class (handbooks, from memory), told to a hundredth
    "charge.float_high": [
        ("4.20 V", {"boards": [board(float_v=4.20)]}, None),
        ("4.21 V", {"boards": [board(float_v=4.21)]}, "stop"),
        ("4.35 V cell", {"boards": [board(float_v=4.35)]} | cell(cell_class="li_4v35"), None),
        ("4.20 V into LFP", {"boards": [board(float_v=4.20)]} | cell(cell_class="lfp"), "stop"),
    ],
    "charge.float_low": [
        ("4.20 V", {"boards": [board(float_v=4.20)]}, None),
        ("4.19 V", {"boards": [board(float_v=4.19)]}, "note"),
        # half full is near 3.8 V (open-circuit curve of the class, from memory): an LFP charger leaves nearly all of it
        ("3.90 V", {"boards": [board(float_v=3.90)]}, "caution"),
        ("3.65 V", {"boards": [board(float_v=3.65)]}, "stop"),
    ],
    # I_most = 1200 x 1.1 / (0.99 R): 0.9 A at 1481 ohm
    "charge.over_cell": [
        ("899 mA into 900", {"r_prog_ohm": 1484} | UNPROTECTED_BY_POLICY, None),
        ("903 mA into 900", {"r_prog_ohm": 1477} | UNPROTECTED_BY_POLICY, "stop"),
        # no data sheet: 1.2C is certainly too much (common practice, no source): 1.08 A at 1234.6 ohm
        ("1.19C", {"r_prog_ohm": 1240, "cell": CELL | {"charge_max_a": None}}, None),
        ("1.21C", {"r_prog_ohm": 1228, "cell": CELL | {"charge_max_a": None}}, "stop"),
    ],
    # gentle: 0.5C = 450 mA at 2963 ohm
    "charge.over_policy": [
        ("449 mA", {"r_prog_ohm": 2970}, None),
        ("451 mA", {"r_prog_ohm": 2955}, "caution"),
        # label: 1C = 900 mA at 1481 ohm
        ("899 mA, label", {"r_prog_ohm": 1484, "policy": "label"}, None),
        ("903 mA, label", {"r_prog_ohm": 1477, "policy": "label"}, "caution"),
    ],
    # USB 2.0, from memory: 500 mA, at 2667 ohm
    "charge.over_source": [
        ("499 mA", {"r_prog_ohm": 2673}, None),
        ("502 mA", {"r_prog_ohm": 2657}, "caution"),
        # the gadget's 60 mA pass through the same input with two diodes: 440 mA left, at 3030 ohm
        ("440 + 60", {"r_prog_ohm": 3035, "use_while_charging": "two_diodes"}, None),
        ("442 + 60", {"r_prog_ohm": 3015, "use_while_charging": "two_diodes"}, "caution"),
    ],
    # the board's rating of 1 A, with 2 % for the resistor: 1.02 A at 1176 ohm
    "charge.over_board": [
        ("1.017 A", {"r_prog_ohm": 1180}, None),
        ("1.024 A", {"r_prog_ohm": 1172}, "stop"),
        ("1.024 A, open", {"r_prog_ohm": 1172} | gadget(shell={"closed": False}), "caution"),
    ],
    # 3.0 kohm suits; over twice as much is told
    "charge.resistor": [
        ("twice", {"r_prog_ohm": 6000}, None),
        ("over twice", {"r_prog_ohm": 6010}, "note"),
    ],
    # hold limit of 2 % (common practice, no source)
    "charge.measured_resistor_off": [
        ("+1.97 %", {"r_measured_ohm": 3059}, None),
        ("+2.03 %", {"r_measured_ohm": 3061}, "caution"),
        ("-1.97 %", {"r_measured_ohm": 2941}, None),
        ("-2.03 %", {"r_measured_ohm": 2939}, "caution"),
    ],
    # I_prog = 400 mA: ends at 40 mA, empties from 400 mA on
    "charge.never_ends": [
        ("39 mA", charging_with(0.039), None),
        ("41 mA", charging_with(0.041), "caution"),
        ("399 mA", charging_with(0.399), "caution"),
        ("400 mA", charging_with(0.400), "stop"),
    ],
    # (5.0 - 4.2) / (R_cable + 0.35) = 0.4 A at 1.65 ohm of cable
    "charge.drop_out": [
        ("1.64 ohm", {"source": {"r_cable_ohm": 1.64}}, None),
        ("1.66 ohm", {"source": {"r_cable_ohm": 1.66}}, "note"),
    ],
    # 6 V at most unloaded (common practice, no source)
    "charge.old_jack": [
        ("6.0 V", {"input": {"kind": "old_jack", "centre": "positive", "open_v": 6.0}}, None),
        ("6.1 V", {"input": {"kind": "old_jack", "centre": "positive", "open_v": 6.1}}, "stop"),
        ("no regulator", {"input": {"kind": "old_jack", "centre": "positive", "regulated": False}}, "stop"),
        ("not measured", {"input": {"kind": "old_jack"}}, "caution"),
    ],
    # 0 to 45 C while charging (IEC 62133-2 as commonly stated, from memory), better under 40
    "charge.cell_warm": [
        ("39.9 C", room(39.9), None),
        ("40.1 C", room(40.1), "caution"),
        ("44.9 C", room(44.9), "caution"),
        ("45.1 C", room(45.1), "stop"),
    ],
    # V_trip / (2 R_on) = 3.0 A at 3.6 V; R_on + 15 % at 3.0 V, - 20 % of tolerance: 2.087 A / 1.3 = 1.605 A of peak
    "power.protection_trips_early": [
        ("1.60 A", drawing(1.60), None),
        ("1.61 A", drawing(1.61), "caution"),
        ("2.08 A", drawing(2.08), "caution"),
        ("2.09 A", drawing(2.09), "stop"),
        ("a weak protection", drawing(1.60, boards=protected(v_trip=0.149)), "caution"),
    ],
    # R_on - 15 % at 4.2 V, + 20 %: 3.0 / 0.85 x 1.2 = 4.235 A. A stop for shorts only is no fault by itself; it is
    # where a motor held fast takes what the cell may not give and the protection lets pass.
    "power.protection_trips_late": [
        ("under the cell's 4.24 A", cell(discharge_max_a=4.24), None),
        ("over the cell's 4.23 A", cell(discharge_max_a=4.23), "note"),
        (
            "a stall between the two",
            cell(discharge_max_a=2.0) | gadget(front_end="motor", behind={"winding_ohm": 1.5}),
            "caution",
        ),
    ],
    # Data sheets of lithium cells: 10 to 45 C, or 0 to 45 C at less (from memory)
    "charge.cold": [
        ("10 C", gadget(shell={"room_c": 10}), None),
        ("9.9 C", gadget(shell={"room_c": 9.9}), "caution"),
        ("0 C", gadget(shell={"room_c": 0}), "caution"),
        ("-0.1 C", gadget(shell={"room_c": -0.1}), "stop"),
    ],
    # 2C and 5C of 0.9 Ah (common practice, no source)
    "cell.discharge_unstated": [
        ("1.79 A", cell(discharge_max_a=None) | gadget(modes=[PEAK | {"peak_a": 1.79}]), None),
        ("1.81 A", cell(discharge_max_a=None) | gadget(modes=[PEAK | {"peak_a": 1.81}]), "caution"),
        ("4.6 A", cell(discharge_max_a=None) | gadget(modes=[PEAK | {"peak_a": 4.6}]), "stop"),
    ],
    # Contacts of 1.25 and 2.0 mm pitch: 1 A and 2 A (drawings, from memory)
    "wire.plug_rating": [
        ("0.99 A in the small plug", {"cell_lead": "small_plug"} | gadget(modes=[PEAK | {"peak_a": 0.99}]), None),
        ("1.01 A in the small plug", {"cell_lead": "small_plug"} | gadget(modes=[PEAK | {"peak_a": 1.01}]), "caution"),
        ("1.01 A in the larger plug", {"cell_lead": "common_plug"} | gadget(modes=[PEAK | {"peak_a": 1.01}]), None),
    ],
    # 10 % of 400 mA end the charge; a third less is 28 mA
    "charge.end_near_load": [
        ("27 mA", charging_with(0.027), None),
        ("29 mA", charging_with(0.029), "caution"),
    ],
    # 4.2 V less the drop of cell and path into 3.3 V at 0.6 A: 0.47 W; 150 C/W of a usual package and the air inside
    "power.regulator_hot": [
        ("a linear regulator at 250 mA", drawing(0.25, regulator={"kind": "ldo", "v_set": 3.3}), None),
        ("at 600 mA", drawing(0.60, regulator={"kind": "ldo", "v_set": 3.3}), "caution"),
        ("at 900 mA", drawing(0.90, regulator={"kind": "ldo", "v_set": 3.0}), "stop"),
        ("7 ohm at 130 mA: 118 mW", drawing(0.130, regulator={"kind": "resistor", "series_ohm": 7}), None),
        ("7 ohm at 140 mA: 137 mW", drawing(0.140, regulator={"kind": "resistor", "series_ohm": 7}), "caution"),
        ("7 ohm at 190 mA: 253 mW", drawing(0.190, regulator={"kind": "resistor", "series_ohm": 7}), "stop"),
    ],
    # (4.2 - 3.0) / (V0 - 3.0) = 1.3 at 3.923 V, 2.0 at 3.600 V
    "power.stress_led": [
        ("1.29", fed_by("led_resistor", 3.93, led_v=3.0), None),
        ("1.32", fed_by("led_resistor", 3.91, led_v=3.0), "caution"),
        ("1.97", fed_by("led_resistor", 3.61, led_v=3.0), "caution"),
        ("2.03", fed_by("led_resistor", 3.59, led_v=3.0), "stop"),
    ],
    # (4.2 / V0) ^ -13 = 0.5 at V0 = 4.2 / 2 ^ (1 / 13) = 3.982 V (re-rating of the lighting handbooks, from memory)
    "power.stress_lamp": [
        ("51 % of its life", fed_by("lamp", 3.99), None),
        ("48 % of its life", fed_by("lamp", 3.97), "caution"),
    ],
    # 4.2 / 1.35 = 3.111 V
    "power.stress_motor": [
        ("135 %", fed_by("motor", 3.12), None),
        ("136 %", fed_by("motor", 3.10), "caution"),
    ],
    # 4.2 / sqrt 1.4 = 3.550 V
    "power.stress_heater": [
        ("139 %", fed_by("heater", 3.56), None),
        ("141 %", fed_by("heater", 3.54), "caution"),
    ],
    "power.stress_regulator": [
        ("takes 4.21 V", fed_by("regulator", 4.5, input_max_v=4.21), None),
        ("takes 4.19 V", fed_by("regulator", 4.5, input_max_v=4.19), "stop"),
    ],
    "power.stress_converter": [
        ("takes 4.21 V", fed_by("converter", 4.5, input_max_v=4.21), None),
        ("takes 4.19 V", fed_by("converter", 4.5, input_max_v=4.19), "stop"),
    ],
    # the part's own ratings
    "power.regulator_overloaded": [
        ("as rated", {"regulator": {"kind": "ldo", "v_set": 3.3, "rated_a": 0.0601, "v_in_max": 4.21}}, None),
        ("over its amps", {"regulator": {"kind": "ldo", "v_set": 3.3, "rated_a": 0.0599}}, "stop"),
        ("over its volts", {"regulator": {"kind": "ldo", "v_set": 3.3, "v_in_max": 4.19}}, "stop"),
    ],
    # power-bank boards (common practice, no source): each has its own figure
    "power.auto_off": [
        ("61 mA stays on", drawing(0.061, regulator={"kind": "boost", "v_set": 4.5, "auto_off_a": 0.06}), None),
        ("59 mA is cut", drawing(0.059, regulator={"kind": "boost", "v_set": 4.5, "auto_off_a": 0.06}), "caution"),
    ],
    # an idle current of 200 uA before the switch (common practice, no source)
    "wire.switch_place": [
        ("190 uA", {"regulator": {"kind": "ldo", "v_set": 3.3, "iq_a": 190e-6}}, None),
        ("210 uA", {"regulator": {"kind": "ldo", "v_set": 3.3, "iq_a": 210e-6}}, "caution"),
    ],
}
ROWS = [(code, *row) for code, rows in EDGES.items() for row in rows]


NAMES = [f"{code}: {what}" for code, what, *_ in ROWS]


@pytest.mark.parametrize(("code", "what", "changes", "level"), ROWS, ids=NAMES)
def test_either_side_of_a_limit(code, what, changes, level):  # noqa: ARG001
    told = finding(judged(**changes), code)
    assert (told and told.level) == level


# Used cells: the triage (common practice, no source), the last reading of a judgement and the first of the next.
@pytest.mark.parametrize(
    ("reading", "level"),
    [
        ({"rest_v": 1.99}, "stop"),
        ({"rest_v": 2.00}, "caution"),
        ({"rest_v": 2.49}, "caution"),
        ({"rest_v": 2.50}, "pass"),
        ({"rest_v": 4.25}, "pass"),
        ({"rest_v": 4.26}, "stop"),
        ({"thickness_mm": 5.25}, "pass"),
        ({"thickness_mm": 5.26}, "note"),
        ({"thickness_mm": 5.74}, "note"),
        ({"thickness_mm": 5.75}, "stop"),
        ({"drop_24h_v": 0.010}, "pass"),
        ({"drop_24h_v": 0.0101}, "caution"),
        ({"drop_24h_v": 0.030}, "caution"),
        ({"drop_24h_v": 0.0301}, "stop"),
    ],
)
def test_either_side_of_a_reading(reading, level):
    judged_cell = Cell.model_validate(CELL | {"origin": "salvaged", "intake": reading})
    assert grade(judged_cell).level == level


@pytest.mark.parametrize(
    ("left", "word"), [(0.599, "recycle"), (0.60, "usable"), (0.799, "usable"), (0.80, "good")]
)  # fmt: skip
def test_either_side_of_what_is_left(left, word):
    tested = {"rest_v": 3.8, "drop_24h_v": 0.005, "thickness_mm": 5.0}
    worn = CELL | {"capacity_ah": 1.0, "measured_capacity_ah": left, "origin": "salvaged", "intake": tested}
    assert grade(Cell.model_validate(worn)).word == word


@pytest.mark.parametrize(
    ("second", "spoilt"),
    [
        ({"measured_capacity_ah": 0.81}, False),  # 10 % of the larger
        ({"measured_capacity_ah": 0.80}, True),
        ({"intake": {"rest_v": 3.85}}, False),  # 50 mV
        ({"intake": {"rest_v": 3.851}}, True),
        ({"cell_class": "li_4v35"}, True),
        ({"size_mm": [5, 34, 51]}, True),
    ],
)
def test_either_side_of_a_match(second, spoilt):
    # common practice, no source: 10 % in capacity, 50 mV at joining, the same class and type
    first = CELL | {"measured_capacity_ah": 0.9, "intake": {"rest_v": 3.80}}
    (match,) = matches([Cell.model_validate(first), Cell.model_validate(first | second)])
    assert bool(match.spoilers) == spoilt


def test_the_current_of_joining():
    # dV / (R1 + R2) = 0.05 / (0.09 + 0.11) = 0.25 A
    first, second = ({"r_ohm": r, "intake": {"rest_v": v}} for r, v in ((0.09, 3.80), (0.11, 3.85)))
    (match,) = matches([Cell.model_validate(CELL | first), Cell.model_validate(CELL | second)])
    assert match.joining_a == pytest.approx(0.25)
