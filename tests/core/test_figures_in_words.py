"""What a finding says: the figures in its words, each worked by hand beside it."""

import pytest
from scipy.optimize import brentq

from builders import CELL, board, finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess

LIT = {"name": "lit", "current_a": 0.06, "hours_per_day": 3}


def told(code, **changes):
    """Headline and working of the gravest finding of this code, passes too."""
    said = [one for one in judged(**changes).findings if one.code == code]
    return " | ".join(f"{one.headline} | {one.working}" for one in said)


SAID = [
    # 1200 V / 3 kohm ± 10 % and 1 %: 1200 x 0.9 / 3030 = 356 mA, 1200 x 1.1 / 2970 = 444 mA
    ("charge.over_policy", {}, ["Up to 444 mA can flow; gentle charging is 450 mA", "356 mA to 444 mA", "3 kΩ"]),
    # 1200 / 1200 = 1.0 A, most 1.1 / 0.99 = 1.111 A into 0.9 Ah: 1.2C
    ("charge.over_cell", {"r_prog_ohm": 1200}, ["can push 1.11 A (1.2C) into a cell rated for 900 mA"]),
    (
        "charge.over_cell",
        {"r_prog_ohm": 1200, "cell_count": 2},
        ["can push 1.11 A at most into a cell rated for 1.8 A"],
    ),
    ("charge.over_source", {"r_prog_ohm": 2000}, ["The USB 2 port supplies 500 mA, but up to 667 mA is drawn from it"]),
    (
        "charge.over_source",
        {"r_prog_ohm": 2000, "use_while_charging": "two_diodes"},
        ["up to 727 mA is drawn", "667 mA charging + 60 mA for the gadget"],
    ),
    ("charge.over_board", {"r_prog_ohm": 1000}, ["it is set to 1.2 A and rated for 1 A", "1.4 A at 900 Ω"]),
    # next of E24 above 1200 x 1.1 / 0.45 / 0.99 = 2963 ohm
    (
        "charge.resistor",
        {"r_prog_ohm": None},
        ["Fit a charge-current resistor of 3 kΩ: it sets 400 mA", "gentle, 0.5C 450 mA is the lowest limit"],
    ),
    (
        "charge.resistor",
        {"r_prog_ohm": 7500},
        ["It could charge 2.5 times as fast with 3 kΩ instead of the 7.5 kΩ fitted"],
    ),
    ("charge.measured_resistor_off", {"r_measured_ohm": 2700}, ["measures 2.7 kΩ but is marked 3 kΩ, 10 % off"]),
    (
        "charge.float_high",
        {"boards": [board(float_v=4.35)]},
        ["it stops at 4.35 V, but the cell is full at 4.20 V"],
    ),
    (
        "charge.never_ends",
        {"use_while_charging": "on_cell"},
        ["the gadget draws 60 mA, which hides the 40 mA", "held at 4.20 V for ever", "charge current 400 mA"],
    ),
    (
        "charge.never_ends",
        {"use_while_charging": "on_cell", "gadget": {"modes": [LIT | {"current_a": 0.5}]}},
        ["the gadget draws 500 mA, but only 400 mA comes in"],
    ),
    ("charge.drop_out", {"source": {"r_cable_ohm": 2.0}}, ["4.20 V at the board", "5.00 V - 400 mA x 2 Ω"]),
    # (5 - 4.2) / (2.0 + 0.35) = 340 mA
    ("charge.drop_out", {"source": {"r_cable_ohm": 2.0}}, ["drops from 400 mA to 340 mA near the end"]),
    # 0.15 / (2 x 0.025) = 3 A; least 3 / 1.15 x 0.8 = 2.09 A; peak 60 mA x 1.3 = 78 mA
    (
        "power.protection_trips_early",
        {},
        ["the protection opens at 2.09 A", "0.15 V / (2 x 25 mΩ) = 3 A", "Peak x 1.3 = 78 mA"],
    ),
    ("power.no_protection", {}, ["The protection opens at 2.50 V, and at about 3 A"]),
    # most 3 / 0.85 x 1.2 = 4.24 A
    (
        "power.protection_trips_late",
        {"cell": CELL | {"discharge_max_a": 2}},
        ["stops a short, not a moderate overload", "4.24 A at the latest", "the cell can supply 2 A"],
    ),
    ("cell.series", {"cells_in_series": 2}, ["2 cells in series", "2 x 4.20 V"]),
    # 50 mV / (2 x 90 mohm) = 278 mA
    ("cell.parallel", {"cell_count": 2}, ["50 mV apart, through the 180 mΩ of two cells: 278 mA when they are joined"]),
    (
        "cell.over_discharge_rating",
        {"cell": CELL | {"discharge_max_a": 0.05}},
        ["draws 60 mA from a cell that can supply 50 mA"],
    ),
    # 0.9 Ah x 3.7 V / (5 x 34 x 50 mm = 8.5 ml) = 392 Wh/l
    ("cell.claim_not_credible", {}, ["credible for its size (392 Wh/l)", "900 mAh x 3.7 V / 8.5 ml"]),
    # plan with 8.5 ml x 450 Wh/l / 3.7 V = 1.034 Ah
    ("cell.claim_not_credible", {"cell": CELL | {"capacity_ah": 2.0}}, ["Plan with 1034 mAh"]),
    # (4.2 V - drop - 3.0) / (4.5 - 3.0) with next to no load: 80 %
    (
        "power.stress_led",
        {"gadget": {"front_end": "led_resistor", "modes": [LIT | {"current_a": 1e-6}], "behind": {"led_v": 3.0}}},
        ["80 % of the current they were designed for", "(4.20 V - 3.00 V) / (4.50 V - 3.00 V) = 0.80"],
    ),
    # (4.2 / 4.5)^2 = 0.871
    (
        "power.stress_heater",
        {"gadget": {"front_end": "heater", "modes": [LIT | {"current_a": 1e-6}]}},
        ["87 % of its power at most", "(4.20 V / 4.50 V)²"],
    ),
    # 4.2 / 4.5 = 93 %; stalled 4.2 V / (2 ohm + the way there)
    (
        "power.stress_motor",
        {"gadget": {"front_end": "motor", "modes": [LIT | {"current_a": 1e-6}], "behind": {"winding_ohm": 2.0}}},
        ["93 % of its speed at most", "stalled, it draws 1."],
    ),
    # (4.2 / 4.5)^-13 = 2.45, ^3.4 = 0.79
    (
        "power.stress_lamp",
        {"gadget": {"front_end": "lamp", "modes": [LIT | {"current_a": 1e-6}]}},
        ["79 % of its light at most", "life 245 %"],
    ),
    ("power.hum", {"regulator": {"kind": "buck_boost", "v_set": 3.6}}, ["a switching converter can be heard there"]),
    (
        "charge.old_jack",
        {"input": {"kind": "old_jack", "open_v": 9.4}},
        ["gives 9.40 V unloaded", "survives 6.00 V at most"],
    ),
    ("fit.swell", {}, ["The pouch has 0.5 mm left to swell"]),  # 10 % of 5 mm (common practice, no source)
]


@pytest.mark.parametrize(("code", "changes", "figures"), SAID, ids=[f"{row[0]} {i}" for i, row in enumerate(SAID)])
def test_the_figures_in_the_words(code, changes, figures):
    said = told(code, **changes)
    for figure in figures:
        assert figure in said


def test_a_regulators_own_heat():
    # (V - V_out) I: 0.3 W is worth a caution (common practice, no source)
    modes = [LIT | {"current_a": 0.2}]
    at_gadget = Chain(plan(gadget={"modes": modes}), 0)
    loaded_v = at_gadget.running.gadget_v_at(4.2, at_gadget.load_of(at_gadget.heaviest))

    def level(burnt_w):
        behind = {"regulated_v": loaded_v - burnt_w / 0.2}
        return finding(
            judged(gadget={"front_end": "regulator", "modes": modes, "behind": behind}), "power.stress_regulator"
        )

    assert level(0.295) is None
    assert level(0.305).level == "caution"
    assert level(0.305).figure.value == pytest.approx(0.305)


def test_longer_than_a_night():
    # ten hours (common practice, no source): the resistor that takes just that long
    def hours(r_ohm):
        return float(Chain(plan(r_prog_ohm=r_ohm), 0).charging.run.hours.flat[0])

    r_ohm = brentq(lambda r: hours(r) - 10, 5000, 40_000)
    assert finding(judged(r_prog_ohm=r_ohm * 0.995), "charge.slow") is None
    assert finding(judged(r_prog_ohm=r_ohm * 1.005), "charge.slow").level == "note"


def test_two_months_in_the_drawer():
    # 60 days (common practice, no source): the off current that empties it in just that time
    def days(off_a):
        return Chain(plan(gadget={"off_current_a": off_a, "modes": [LIT]}), 0).running.standby_days

    off_a = brentq(lambda a: days(a) - 60, 1e-5, 5e-3)
    for share, level in ((0.99, None), (1.01, "caution")):
        raised = finding(judged(gadget={"off_current_a": off_a * share, "modes": [LIT]}), "power.off_drain")
        assert (raised and raised.level) == level


@pytest.mark.parametrize(("unused", "level"), [(0.044, None), (0.056, "note"), (0.394, "note"), (0.406, "caution")])
def test_charge_that_is_stranded(unused, level):
    # 5 and 40 % (common practice, no source): the v_run_min that leaves just so much
    def left(v_run_min):
        chain = Chain(plan(gadget={"window": {"v_run_min": v_run_min, "v_abs_max": 4.8}}), 0)
        return max(run.unused for run in chain.running.runs)

    v_run_min = brentq(lambda v: left(v) - unused, 3.05, 4.1)
    seen = judged(gadget={"window": {"v_run_min": v_run_min, "v_abs_max": 4.8}})
    raised = finding(seen, "power.under_window")
    assert (raised and raised.level) == level
    if level:
        assert raised.figure.value == pytest.approx(unused, abs=1e-6)
        assert str(raised.headline).startswith(f"{raised.figure!s} stays in the cell")


@pytest.mark.parametrize(
    ("code", "changes"),
    [
        ("charge.over_cell", {"r_prog_ohm": 1200}),
        ("charge.over_policy", {"r_prog_ohm": 2000}),
        ("charge.over_source", {"r_prog_ohm": 2000}),
        ("charge.over_board", {"r_prog_ohm": 1000}),
        ("cell.series", {"cells_in_series": 2}),
        ("cell.claim_not_credible", {"cell": CELL | {"capacity_ah": 3.0}}),
        ("power.no_enable_pin", {"switch_place": "enable", "regulator": {"kind": "ldo", "v_set": 3.3}}),
        ("power.off_drain", {"regulator": {"kind": "ldo", "v_set": 3.3, "iq_a": 5e-3}}),
    ],
)
def test_a_remedy_mends_what_it_is_told_for(code, changes):
    project = plan(**changes)
    raised = finding(assess(project), code)
    basis = dict(project.basis)
    for edit in raised.remedy.edits:
        if edit.path.startswith("basis."):
            basis[edit.path.removeprefix("basis.")] = edit.value
        else:
            project = project.with_value(edit.path, edit.value)
    mended = finding(assess(Project.model_validate(project.model_dump() | {"basis": basis})), code)
    assert mended is None or mended.level not in (raised.level, "stop")
