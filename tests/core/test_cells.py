"""Cells as they come: codes read, used ones graded, like ones matched, and all of them tried for size."""

import contextlib

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import CELL, plan
from pocketspark.core.cells.grading import grade, resistance_from_loads
from pocketspark.core.cells.intake_readings import NotInThisOrder, intake_edits
from pocketspark.core.cells.matching import joining_a, matches
from pocketspark.core.cells.size_codes import NotASizeCode, read_size_code
from pocketspark.core.fit.outer import outer_margin_mm, room_mm
from pocketspark.core.models import Cell, Supply
from pocketspark.core.questions.candidates import candidates


@pytest.mark.parametrize(
    ("label", "size_mm", "printed_ah", "cell_class"),
    [
        ("LP 503040 3.7V 600mAh", (5.0, 30, 40), 0.6, "li_4v20"),
        ("603048 3,8 V 910 mAh 3.46Wh", (6.0, 30, 48), 0.91, "li_4v35"),
        ("IFR14500 3.2V 0.6Ah", (14, 50.0), 0.6, "lfp"),
        ("18650 2600mAh", (18, 65.0), 2.6, "li_4v20"),
        ("503759", (5.0, 37, 59), None, "li_4v20"),
    ],
)
def test_a_whole_label_is_read(label, size_mm, printed_ah, cell_class):
    # as printed on such cells; common practice, no source
    reading = read_size_code(label)[0]
    assert (reading.size_mm, reading.printed_ah, reading.cell_class) == (size_mm, printed_ah, cell_class)


# Codes ----------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("code", "form", "size_mm"),
    [
        ("503759", "pouch", (5.0, 37, 59)),  # common practice, no source
        ("LP 503450", "pouch", (5.0, 34, 50)),
        ("18650", "round", (18, 65.0)),  # common practice, no source
        ("14500", "round", (14, 50.0)),
        ("10440", "round", (10, 44.0)),
        ("ICR19/66", "round", (19, 66)),  # IEC 61960-3, from memory
        ("ICP9/35/48", "block", (9, 35, 48)),
        ("IFRt185/t650", "round", (18.5, 65.0)),  # t: tenths of a mm
    ],
)
def test_a_code_is_read_into_millimetres(code, form, size_mm):
    first = read_size_code(code)[0]
    assert (first.form, first.size_mm) == (form, pytest.approx(size_mm))


def test_seven_digits_are_offered_both_ways_where_both_are_plausible():
    # common practice, no source
    assert [r.size_mm for r in read_size_code("1203048")] == [(12.0, 30, 48)]
    readings = [r.size_mm for r in read_size_code("5060110")]
    assert readings[0] == (5.0, 60, 110)
    assert [r.size_mm for r in read_size_code("1808090")] == [(18.0, 80, 90), (1.8, 8, 90)]


def test_an_iron_positive_makes_it_an_iron_cell():
    assert read_size_code("IFR18/65")[0].cell_class == "lfp"


@pytest.mark.parametrize("nonsense", ["", "abc", "12", "12345678", "ICQ1/2", "9/35/48/2", "t0/5"])
def test_what_is_no_code_is_told_what_would_be(nonsense):
    with pytest.raises(NotASizeCode, match="503759"):
        read_size_code(nonsense)


@given(st.text(max_size=12))
def test_any_text_is_read_or_refused(text):
    with contextlib.suppress(NotASizeCode):
        assert all(size >= 0 for reading in read_size_code(text) for size in reading.size_mm)


# Grading --------------------------------------------------------------------------------------------------------


def used(intake=None, **fields):
    return Cell.model_validate(CELL | {"origin": "salvaged", "r_ohm": None, "intake": intake or {}} | fields)


# The triage of used cells: common practice, no source.
@pytest.mark.parametrize(
    ("intake", "level"),
    [
        ({"damage": ["smell"]}, "stop"),
        ({"rest_v": 1.9}, "stop"),
        ({"rest_v": 2.2}, "caution"),
        ({"rest_v": 2.6}, "pass"),
        ({"rest_v": 4.3}, "stop"),
        ({"thickness_mm": 5.75}, "stop"),
        ({"thickness_mm": 5.1}, "pass"),
        ({"drop_24h_v": 0.009}, "pass"),
        ({"drop_24h_v": 0.02}, "caution"),
        ({"drop_24h_v": 0.05}, "stop"),
        ({"loads": [{"current_a": 0, "volts": 3.9}, {"current_a": 0.5, "volts": 3.7}]}, "caution"),
        ({"loads": [{"current_a": 0.1, "volts": 3.89}, {"current_a": 0.5, "volts": 3.85}]}, "pass"),
    ],
)
def test_each_reading_has_its_say(intake, level):
    assert grade(used(intake)).level == level


@pytest.mark.parametrize(("share", "word"), [(0.85, "good"), (0.7, "usable"), (0.5, "recycle")])
def test_what_is_left_of_the_label_decides_the_box(share, word):
    # common practice, no source: 80 % good, 60 to 80 usable, under 60 recycle
    tested = used({"rest_v": 3.8, "drop_24h_v": 0.005, "thickness_mm": 5}, measured_capacity_ah=0.9 * share)
    assert grade(tested).word == word


def test_a_dead_cell_is_not_revived_and_the_reason_is_given():
    (judgement,) = grade(used({"rest_v": 0.4})).judgements
    assert "cause of a later fire" in str(judgement.working)


def test_the_resistance_of_two_loads():
    # (3.90 - 3.80) / (0.6 - 0.1) = 0.2 ohm: Ohm's law
    loads = [{"current_a": 0.1, "volts": 3.90}, {"current_a": 0.6, "volts": 3.80}]
    assert grade(used({"loads": loads})).r_ohm == pytest.approx(0.2)


def test_the_next_step_walks_through_the_whole_triage():
    seen, record, fields = [], {}, {}
    for step in ({"rest_v": 3.7}, {"thickness_mm": 5.0}, None, "loads", {"drop_24h_v": 0.004}):
        seen.append(grade(used(record, **fields)).next_step)
        if step is None:
            fields = {"measured_capacity_ah": 0.8}
        elif step == "loads":
            record["loads"] = [{"current_a": 0.1, "volts": 3.9}, {"current_a": 0.5, "volts": 3.86}]
        else:
            record |= step
    assert len(set(seen)) == 5
    assert str(grade(used(record, **fields)).next_step).startswith("Ready")


# Matching -------------------------------------------------------------------------------------------------------


def at_rest(rest_v, capacity=0.85, **fields):
    record = {"rest_v": rest_v, "drop_24h_v": 0.004}
    return used(record, measured_capacity_ah=capacity, r_ohm=0.1, **fields)


def test_cells_alike_go_together_and_their_joining_current_is_told():
    # dV / (R1 + R2) = 0.02 / 0.2: Ohm's law
    (match,) = matches([at_rest(3.80), at_rest(3.82)])
    assert match.spoilers == ()
    assert match.joining_a == pytest.approx(0.1)


@pytest.mark.parametrize(
    "other",
    [
        at_rest(3.90),
        at_rest(3.80, capacity=0.7),
        at_rest(3.80, cell_class="lfp"),
        at_rest(3.80, size_mm=[5, 34, 48]),
        at_rest(1.5),
    ],
)
def test_what_spoils_a_match_is_named(other):
    (match,) = matches([at_rest(3.80), other])
    assert match.spoilers


def test_without_a_resting_voltage_no_joining_current():
    assert joining_a(at_rest(3.8), used()) is None


# Outer size -----------------------------------------------------------------------------------------------------


def test_the_room_of_three_triple_a_takes_a_flat_pouch_and_not_a_round_18_mm_one():
    # IEC 60086-2 maxima, from memory: 10.5 x 44.5 mm each
    room = room_mm(Supply(battery="LR03", series=3))
    assert room == (44.5, 31.5, 10.5)
    flat = Cell(capacity_ah=0.6, size_mm=(8, 30, 40))
    assert outer_margin_mm(flat, room) == pytest.approx(1.5)
    fat = Cell(capacity_ah=2.5, form="round", size_mm=(18.4, 65))
    assert outer_margin_mm(fat, room) < -7


def test_candidates_tell_fit_and_price():
    cell = Cell.model_validate(CELL | {"price": 3.5})
    (tried,) = candidates(plan(gadget={"bay": None}), 0, [cell])
    assert tried.price == 3.5
    assert tried.outer_margin_mm < 0  # 50 mm of pouch in 44.5 mm of room


def test_readings_of_a_meter_make_the_triage():
    """Resistance by two loads, worked by hand: (3.90 - 3.82) V / (0.5 - 0.1) A = 0.2 ohm."""
    project = plan()
    for what, volts, current_a in (
        ("rest", 3.95, 0.0),
        ("light_load", 3.90, -0.1),
        ("heavy_load", 3.82, -0.5),
        ("day", 3.94, 0),
    ):
        edits = intake_edits(project, 0, what, volts, current_a, origin="instrument", at="2026-11-26T10:00:00Z")
        project = project.apply(edits)
    intake = project.builds[0].cell.intake
    assert (intake.rest_v, intake.drop_24h_v) == (3.95, pytest.approx(0.01))
    assert resistance_from_loads(intake) == pytest.approx(0.2)
    assert [event.day for event in intake.history] == ["2026-11-26"] * 4
    assert str(intake.history[2].text) == "3.82 V at -500 mA under the heavy load, from an instrument"
    assert project.basis_of("builds.0.cell.intake.rest_v") == "measured"


@pytest.mark.parametrize(
    ("what", "volts", "current_a", "sentence"),
    [
        ("day", 3.9, 0.0, "at rest first"),
        ("heavy_load", 3.9, 0.5, "light load first"),
        ("light_load", 3.9, None, "needs amps"),
        ("rest", None, 0.1, "shows no volts"),
    ],
)
def test_a_reading_out_of_its_order_is_told(what, volts, current_a, sentence):
    with pytest.raises(NotInThisOrder, match=sentence):
        intake_edits(plan(), 0, what, volts, current_a, origin="typed", at="2026-11-26")
