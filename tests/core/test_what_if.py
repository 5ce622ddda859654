"""Questions asked of a whole build: which reading next, which regulator."""

import pytest

from builders import CELL, plan
from pocketspark.core.questions.measure_next import next_readings
from pocketspark.core.questions.regulator_options import STRAIGHT, regulator_options
from pocketspark.demo import demo_projects
from pocketspark.parts import library

KNOWN = {
    "gadget.modes.0.current_a": "measured",
    "gadget.window.v_run_min": "measured",
    "gadget.window.v_abs_max": "measured",
    "gadget.off_current_a": "measured",
    "gadget.shell.room_c": "measured",
    "builds.0.cell.measured_capacity_ah": "measured",
    "builds.0.cell.r_ohm": "measured",
    "builds.0.boards.0.charger.k_volts": "measured",
    "builds.0.boards.0.protection.r_on_ohm": "measured",
}
MEASURED_CELL = CELL | {"measured_capacity_ah": 0.88}


def paths(project):
    return [reading.path for reading in next_readings(project)]


# Measure next ----------------------------------------------------------------------------------------------------


def test_where_all_is_measured_nothing_is_asked():
    assert paths(plan(basis=KNOWN, cell=MEASURED_CELL)) == []


def test_the_reading_that_turns_the_verdict_comes_first():
    # Two alkalines behind a motor: whether 4.2 V is too much hangs on a ceiling that is only inferred.
    two = {"supply": {"battery": "LR6", "series": 2}, "window": {"v_run_min": 2.0}, "front_end": "motor"}
    basis = {path: "measured" for path in KNOWN if path != "gadget.window.v_abs_max"}
    first = next_readings(plan(gadget=two, basis=basis, cell=MEASURED_CELL))[0]
    assert first.path == "gadget.window.v_abs_max"
    assert first.level_changes
    assert any("no longer a caution: With a full cell the gadget gets" in str(change) for change in first.changes)
    assert any("a stop: " in str(change) for change in first.changes)
    assert first.station == "survey"
    assert first.how


def test_an_inferred_current_moves_the_run_time():
    basis = KNOWN | {"gadget.modes.0.current_a": "inferred"}
    (reading,) = next_readings(plan(basis=basis, cell=MEASURED_CELL))
    assert reading.path == "gadget.modes.mode1.current_a"
    # 0.6 to 1.7 times the current: the run time spans 1/0.6 - 1/1.7 of itself, but for the sag
    assert reading.run_span == pytest.approx(1 / 0.6 - 1 / 1.7, rel=0.03)
    assert "moves the run time from" in str(reading.headline)


def test_the_worst_that_could_come_out_leads_then_the_share_of_the_run():
    """The 1.9 A peak is near to where the protection may trip: its transistors decide, and no run time moves."""
    two = {"modes": [{"name": "lit", "current_a": 0.06, "peak_a": 1.9, "hours_per_day": 3}]}
    basis = {path: how for path, how in KNOWN.items() if "r_on_ohm" not in path and "measured_capacity" not in path}
    ranked = next_readings(plan(gadget=two, basis=basis, cell=CELL | {"discharge_max_a": 4.0}))
    assert ranked[0].path == "builds.build1.boards.board1.protection.r_on_ohm"
    assert (ranked[0].worst, ranked[0].station) == ("stop", "power")
    gravity = ["pass", "note", "caution", "stop"]
    keys = [(-gravity.index(reading.worst), -reading.run_span) for reading in ranked]
    assert keys == sorted(keys)


def test_a_lamp_behind_a_plain_switch_is_not_asked_what_it_draws_when_off():
    basis = {path: how for path, how in KNOWN.items() if path != "gadget.off_current_a"}
    for front_end, asked in (("lamp", False), ("logic", True)):
        readings = next_readings(plan(gadget={"front_end": front_end}, basis=basis, cell=MEASURED_CELL))
        assert ("gadget.off_current_a" in [reading.path for reading in readings]) is asked


def test_a_salvaged_cell_may_hold_far_less():
    basis = {path: how for path, how in KNOWN.items() if "capacity" not in path}
    new, old = (next_readings(plan(basis=basis, cell=CELL | {"origin": origin}))[0] for origin in ("new", "salvaged"))
    assert old.run_span > new.run_span


def test_the_answer_is_always_the_same_and_never_touches_the_plan():
    for project in demo_projects():
        before = project.model_dump()
        assert next_readings(project) == next_readings(project)
        assert project.model_dump() == before


def test_a_value_is_set_where_there_was_no_group_yet():
    changed = plan(gadget={"window": None}).with_value("gadget.window.v_abs_max", 4.0)
    assert changed.gadget.window.v_abs_max == 4.0
    assert changed.with_value("builds.0.cell.r_ohm", 0.2).builds[0].cell.r_ohm == 0.2


def test_a_peak_nobody_has_measured_may_trip_the_protection():
    heavy = {"modes": [{"name": "on", "current_a": 1.2, "hours_per_day": 1}], "front_end": "motor"}
    found = {reading.path: reading for reading in next_readings(plan(gadget=heavy, basis=KNOWN, cell=MEASURED_CELL))}
    assert found["gadget.modes.mode1.peak_a"].level_changes
    assert "oscilloscope" in str(found["gadget.modes.mode1.peak_a"].how).lower()
    assert "gadget.behind.winding_ohm" in found


# Regulators ---------------------------------------------------------------------------------------------------------


def options(project):
    boards = [part.board for part in library().of("regulator")]
    return {option.name: option for option in regulator_options(project, 0, boards)}


def test_straight_is_best_for_three_alkalines():
    # common practice, no source: a three-cell gadget takes a lithium cell almost unchanged
    assert next(iter(options(plan(basis=KNOWN)))) == STRAIGHT


def test_a_nine_volt_gadget_needs_a_step_up():
    # common practice, no source
    nine = {"supply": {"battery": "6LR61"}, "window": {"v_run_min": 6.5, "v_abs_max": 10}}
    tried = options(plan(gadget=nine))
    assert next(iter(tried)) == "9 V step-up converter"
    assert tried[STRAIGHT].level == "stop"
    assert "It will not run" in str(tried[STRAIGHT].reason)


def test_bare_logic_wants_a_regulator_and_never_the_old_kind():
    # Asleep it draws so little that a diode drops next to nothing.
    logic = {"window": {"v_run_min": 2.2, "v_abs_max": 3.6}, "front_end": "logic", "off_current_a": 2e-6}
    tried = options(plan(gadget=logic))
    assert tried[STRAIGHT].level == "stop"
    assert tried["1 A silicon diode"].level == "stop"
    # A step-down to 2.5 V stretches the charge furthest; what steps down at all comes before what lets 4.2 V through.
    assert next(iter(tried)) == "2.5 V step-down converter"
    assert tried["3.0 V low-drop regulator, 250 mA"].level == "pass"
    old = tried["3.3 V three-terminal regulator, old kind"]
    assert (old.level, old.standby_days < 10) == ("caution", True)


def test_what_leaves_a_lamp_in_the_dark_is_not_best():
    """White LEDs of 3.0 V made for 4.5 V: a diode stretches the hours by leaving a tenth of the light. Light by the
    current over the series resistor, (V - Vf) / (V0 - Vf), put in here by hand."""
    lamp = {"front_end": "led_resistor", "behind": {"led_v": 3.0}, "window": {"v_run_min": 3.0, "v_abs_max": 6.0}}
    boards = [part.board for part in library().of("regulator")]
    ranked = regulator_options(plan(gadget=lamp, basis=KNOWN), 0, boards)
    dim = {option.name for option in ranked if option.light_half < 0.5}
    assert "1 A Schottky diode" in dim
    for option in ranked:
        volts_half = option.curve[len(option.curve) // 2]
        assert option.light_half == pytest.approx(max(volts_half - 3.0, 0) / 1.5, abs=2e-3)
    for level in ("pass", "note", "caution", "stop"):
        served = [option.service_hours or 0.0 for option in ranked if option.level == level]
        assert not served or served[0] >= 0.9 * max(served)  # the hours with half of the light count, and no others
        lit = [hours > 0 for hours in served]
        assert lit == sorted(lit, reverse=True)  # what never gives them comes last
    assert regulator_options(plan(basis=KNOWN), 0, [])[0].light == ()


def test_figures_of_an_option_hang_together():
    tried = options(plan(basis=KNOWN))
    diode, straight = tried["1 A Schottky diode"], tried[STRAIGHT]
    assert 0.2 < straight.gadget_v_max - diode.gadget_v_max < 0.45
    assert diode.run_hours < straight.run_hours
    assert diode.heat_w == pytest.approx(0.06 * (straight.curve[0] - diode.curve[0]), rel=0.05)
    assert straight.heat_w == 0
    assert list(straight.curve) == sorted(straight.curve, reverse=True)


def test_trying_regulators_leaves_a_combined_board_in_place():
    charger_and_regulator = {"charger": {"k_volts": 1000}, "protection": {}, "regulator": {"kind": "diode"}}
    tried = options(plan(boards=[charger_and_regulator]))
    assert tried[STRAIGHT].gadget_v_max < 4.1  # the board's own diode is still there


def test_without_a_current_there_is_no_curve_but_still_an_answer():
    assert options(plan(gadget={"modes": []}))[STRAIGHT].curve == ()
