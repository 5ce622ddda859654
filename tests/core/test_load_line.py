"""The load in one line: what makers write is read with its units, what cannot be meant is refused in a sentence.

The lines come from the handbook, section 18, and from how people write; figures are worked out by hand beside each.
"""

from contextlib import suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import plan
from pocketspark.core.models import Gadget, Project
from pocketspark.core.models.lenient import read_leniently
from pocketspark.core.models.load_line import DrawnCurrent, read_load, written
from pocketspark.core.models.load_words import UnreadableLoad
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.load_as_lived import load_day, read_load_line
from pocketspark.core.units.reading import reading_named

DAY = 24.0


def modes_of(line):
    return [
        (one.current_a, pytest.approx(one.on_day_h), one.on_s, one.every_s, one.peak_a) for one in read_load(line).drawn
    ]


@pytest.mark.parametrize(
    ("line", "current_a", "hours", "pulse"),
    [
        ("18 mA for 2 s every minute, 60 uA asleep", 0.018, DAY, (2, 60)),
        ("18mA/2s/1min", 0.018, DAY, (2, 60)),
        ("18 mA 2 s of every 60 s", 0.018, DAY, (2, 60)),
        ("transmitting 18 mA for a second every hour", 0.018, DAY, (1, 3600)),
        ("62 mA, 3 h each evening", 0.062, 3, None),
        ("3 h each evening, 62 mA", 0.062, 3, None),
        ("lit: 62 mA 3 h/day", 0.062, 3, None),
        ("0,138 A", 0.138, 1, None),
        ("18", 0.018, 1, None),
        ("half an hour a day 5 mA", 0.005, 0.5, None),
        ("10 mA 1 h 30 min a day", 0.010, 1.5, None),
        ("80 mA 2 h a week", 0.080, 2 / 7, None),
        ("20 s a day, 900 mA when the motor starts", 0.9, 20 / 3600, None),
        ("900 mA for 1 s when it starts, 20 times a day", 0.9, DAY, (1, 86_400 / 20)),
        ("20x a day 5 mA for 3 s", 0.005, DAY, (3, 4320)),
        ("5 mA 5 times 3 s a day", 0.005, DAY, (3, 17_280)),
        ("18 mA for 2 s every minute, 8 h a day", 0.018, 8, (2, 60)),
        ("4 mA day and night", 0.004, DAY, None),
    ],
)
def test_a_line_is_read_as_it_is_meant(line, current_a, hours, pulse):
    assert modes_of(line) == [(pytest.approx(current_a), pytest.approx(hours), *(pulse or (None, None)), None)]


def test_what_sleeps_and_what_starts():
    line = read_load("120 mA, 20 s a day, 900 mA for 0.3 s at start, 20 times a day; 60 uA off")
    (motor,) = line.drawn
    assert (motor.peak_a, motor.peak_s, motor.starts_per_day, line.asleep_a) == (0.9, 0.3, 20, pytest.approx(60e-6))
    assert read_load("20 mA with peaks of 200 mA, 3 h a day").drawn[0].on_day_h == 3


def test_all_day_fills_what_the_others_leave():
    steady, beeps = read_load("5 mA all day, 200 mA for 3 s 5 times a day").drawn
    assert (steady.on_day_h, beeps.on_day_h) == (pytest.approx(24 - 15 / 3600), pytest.approx(15 / 3600))
    pulses, other = read_load("30 mA for 10 ms every second, 100 mA for 5 s every hour").drawn
    assert (other.on_s, other.on_day_h) == (None, pytest.approx(120 / 3600))
    assert pulses.on_day_h == pytest.approx(24 - 120 / 3600)


@pytest.mark.parametrize(
    ("line", "says"),
    [
        ("", "Enter what it draws"),
        ("20 s a day", "No current"),
        ("5 times 3 s", "No current"),
        ("5 mA, 5 times 3 s", "times a day"),
        ("18 V", "Write its unit"),
        ("1k2", "Write its unit"),
        ("5 bananas", "Write its unit"),
        ("-3 mA 2 h a day", "not understood"),
        ("18 mA sometimes", "“sometimes” is not understood"),
        ("18 mA for 2 min every minute", "120 s do not go into every 60 s"),
        ("5 mA 26 h a day", "A day has 24 h, not 26 h"),
        ("5 mA 20 h a day, 8 mA 8 h a day", "add up to 28 h"),
        ("5 mA all day, 20 mA all day", "Two steady currents"),
        ("5 mA 24 h a day, 8 mA for 1 s every minute", "add up to 24 h"),
        ("18 mA 20 mA 2 h a day", "Two currents stand in one part"),
        ("18 mA for 2 s", "How often"),
        ("18 mA every minute", "For how long"),
        ("18 mA 20 times a day", "How long does it last"),
        ("peaks of 200 mA", "after it has started"),
        ("200 mA 1 h a day, 100 mA at start", "start draws no more"),
        ("5 uA asleep, 6 uA off, 3 mA 1 h a day", "Two currents are said to flow while"),
        ("x" * 500, "400 characters"),
    ],
)
def test_what_cannot_be_meant_is_refused_with_what_to_write(line, says):
    with pytest.raises(UnreadableLoad, match=says):
        read_load(line)


@given(st.text(max_size=60) | st.from_regex(r"([0-9.,]{1,4} ?(mA|uA|s|min|h|times|a day|every|asleep)[ ,;/]*){1,6}"))
def test_any_text_is_read_or_refused(text):
    with suppress(UnreadableLoad):
        assert sum(one.on_day_h for one in read_load(text).drawn) <= 24.001


AMPS = st.floats(1e-7, 5).map(lambda a: float(f"{a:.4g}"))
DRAWN = st.builds(
    DrawnCurrent,
    current_a=AMPS,
    name=st.sampled_from(["", "lit", "sending", "slow motion"]),
    hours_per_day=st.floats(0.01, 5).map(lambda h: round(h, 2)),
    on_s=st.sampled_from([None, 0.5, 2.0]),
    every_s=st.just(60.0),
).map(lambda one: one if one.on_s else DrawnCurrent(one.current_a, one.name, one.hours_per_day))


@given(st.lists(DRAWN, min_size=1, max_size=4), st.just(0.0) | AMPS, st.sampled_from(["", "comma"]))
def test_what_is_written_is_read_again(drawn, asleep_a, decimals):
    reader = reading_named(decimals)
    again = read_load(written(drawn, asleep_a).text(reader))
    assert again.asleep_a == (pytest.approx(asleep_a) if asleep_a else None)
    for one, other in zip(drawn, again.drawn, strict=True):
        assert other.current_a == pytest.approx(one.current_a)
        assert other.hours_per_day == pytest.approx(one.hours_per_day)
        assert (other.name, other.on_s) == (one.name, one.on_s)


def test_sleep_counts_inside_the_hours_of_a_mode():
    # 18 mA x 2/60 = 600 uA, and 60 uA for the other 58 s of the minute: 658 uA, not 600 (handbook 18).
    gadget = Gadget.model_validate({"name": "radio gauge", "load": "18 mA for 2 s every minute, 60 uA asleep"})
    assert gadget.daily_ah == pytest.approx(24 * 658e-6)
    # A start of 0.3 s at 900 mA, 20 times a day, over the 120 mA that run anyway.
    lock = Gadget.model_validate(
        {"name": "lock", "load": "120 mA 20 s a day, 900 mA for 0.3 s at start, 20 times a day"}
    )
    assert lock.daily_ah == pytest.approx((0.120 * 20 + 0.780 * 6) / 3600)


def test_starts_take_their_days():
    lock = {"modes": [{"current_a": 0.12, "hours_per_day": 0.1, "peak_a": 0.9, "peak_s": 1}], "off_current_a": 10e-6}
    seldom, often = plan(gadget=lock), plan(gadget=lock)
    often = often.with_value("gadget.modes.mode1.starts_per_day", 200.0)
    assert assess(often).run.days < 0.7 * assess(seldom).run.days


def test_a_file_says_its_load_in_one_line():
    document = {
        "format": "pocket-spark/2",
        "gadget": {"name": "gauge", "load": "4 mA for 1 s every minute, 9 uA asleep"},
    }
    project = Project.model_validate(document)
    assert (project.gadget.modes[0].current_a, project.gadget.off_current_a) == (0.004, pytest.approx(9e-6))
    assert "load" not in project.model_dump(mode="json")["gadget"]
    for load, others in (("5 bananas", {}), ("5 mA", {"modes": [{"current_a": 0.01}]})):
        gadget = {"name": "gauge", "load": load} | others
        (refused,) = read_leniently(document | {"gadget": gadget}).refused
        assert refused.field == "gadget.load"


def test_a_line_changes_what_it_says_and_leaves_the_rest():
    project = plan(
        gadget={
            "modes": [
                {"name": "lit", "current_a": 0.06, "at_v": 4.4, "peak_a": 0.1},
                {"name": "dim", "current_a": 0.02},
            ]
        },
        basis={"gadget.modes.mode1.current_a": "measured"},
    )
    again = project.apply(read_load_line(project, str(assess(project).survey.day.line)).edits)
    assert again == project
    changed = project.apply(read_load_line(project, "dim: 15 mA 2 h a day; lit: 60 mA 1 h a day").edits)
    lit, dim = changed.gadget.modes
    assert (lit.at_v, lit.peak_a, lit.id, dim.current_a, dim.hours_per_day) == (4.4, 0.1, "mode1", 0.015, 2)
    assert changed.basis_of("gadget.modes.mode1.current_a") == "measured"
    (other,) = project.apply(read_load_line(project, "sending: 5 mA for 1 s every minute").edits).gadget.modes
    assert (other.name, other.peak_a, other.duty) == ("sending", None, pytest.approx(1 / 60))
    with pytest.raises(UnreadableLoad, match="0 to 50 A"):
        read_load_line(project, "60 A, 1 h a day")


def test_more_than_a_day_is_told_at_the_modes_and_nothing_else_is_lost():
    stored = plan(gadget={"modes": [{"name": "lit", "current_a": 0.06, "hours_per_day": 3}]})
    document = stored.model_dump(mode="json")
    document["gadget"]["name"] = "Another name"
    document["gadget"]["modes"].append({"name": "dim", "current_a": 0.02, "hours_per_day": 24})
    read = read_leniently(document, stored)
    assert [(one.field, "27 h a day" in one.sentence) for one in read.refused] == [("gadget.modes", True)]
    assert (read.project.gadget.name, len(read.project.gadget.modes)) == ("Another name", 1)


@pytest.mark.parametrize(
    ("line", "months"),
    [
        ("62 mA, 3 h each evening, May to September", (5, 6, 7, 8, 9)),
        ("62 mA 3 h a day from Nov - Feb", (1, 2, 11, 12)),
        ("in July and August: 20 mA, 2 h a day; 1 uA asleep", (7, 8)),
        ("lit: 62 mA, 1 h a day; april; jun-jul", (4, 6, 7)),
        ("20 mA, 2 h a day", None),
    ],
)
def test_the_months_of_a_load_are_read(line, months):
    read = read_load(line)
    assert read.months == months
    assert (len(read.drawn), read.drawn[0].hours_per_day > 0) == (1, True)


@given(months=st.sets(st.integers(1, 12), max_size=11), drawn=st.just(DrawnCurrent(0.02, hours_per_day=2)))
def test_months_are_written_as_they_are_read(months, drawn):
    line = str(written([drawn], 1e-6, tuple(sorted(months))))
    assert read_load(line).months == (tuple(sorted(months)) or None)


def test_months_go_into_the_document_and_out_of_it_again():
    project = Project.model_validate(
        {"gadget": {"name": "lamp", "load": "62 mA, 3 h a day, May to July"}, "builds": [{}]}
    )
    assert project.gadget.shell.months_used == (5, 6, 7)
    assert str(load_day(project.gadget).line).endswith("May to July")
    said = read_load_line(project, "62 mA, 3 h a day, June")
    assert project.apply(said.edits).gadget.shell.months_used == (6,)
    assert project.apply(read_load_line(project, "62 mA, 3 h a day").edits).gadget.shell.months_used is None
