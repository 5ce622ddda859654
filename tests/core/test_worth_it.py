"""Should I? Days on a charge beside days on a set, by hand: charge over current. Where the line runs we judge."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import plan
from pocketspark.core.chain import Chain
from pocketspark.core.chosen.old_batteries import old_set_days
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.summary import summary_of
from pocketspark.core.questions.worth_it import ANSWERS

GAUGE = "18 mA for 2 s every minute, 60 uA asleep"


def used(load, capacity_ah=0.9, battery="LR6", **gadget):
    gadget |= {"modes": [], "load": load, "supply": {"battery": battery, "series": 3}}
    cell = {
        "name": "pouch",
        "capacity_ah": capacity_ah,
        "charge_max_a": capacity_ah,
        "discharge_max_a": 5,
        "r_ohm": 0.09,
    }
    return plan(gadget=gadget, cell=cell)


def test_days_on_a_set_and_on_a_charge_are_charge_over_current():
    # 658 uA on average. 2.6 Ah of alkaline AA, 1.9 Ah of NiMH (from memory); each less a tenth or so that is left at
    # the 3.1 V at which the gadget stops, and what a set loses in a drawer in 7 and 2 years.
    project = used(GAUGE)
    chain, nimh = Chain(project, 0), project.gadget.supply.model_copy(update={"chemistry": "nimh"})
    for supply, charge_ah, shelf_days in ((None, 2.6, 7 * 365), (nimh, 1.9, 2 * 365)):
        whole = 1 / (658e-6 * 24 / charge_ah + 1 / shelf_days)
        assert 0.85 * whole < old_set_days(chain, supply) < whole
    old, bought, new = assess(project).worth.lasting
    assert [one.kind for one in (old, bought, new)] == ["old", "rechargeables", "build"]
    assert new.days == pytest.approx(0.9 / 658e-6 / 24, rel=0.08)


@pytest.mark.parametrize(
    ("load", "capacity_ah", "battery", "answer"),
    [
        (GAUGE, 0.9, "LR03", "do_it"),  # as long as the set, and longer than rechargeables
        (GAUGE, 0.9, "LR6", "rechargeables"),  # 54 days against three months of AA
        (GAUGE, 2.5, "LR6", "do_it"),
        ("60 mA, 3 h a day", 0.9, "LR6", "rechargeables"),
        ("1 mA, 10 min a day", 0.9, "LR6", "leave_it"),  # a set lasts for years
        (GAUGE, 0.3, "LR6", "do_it_with"),  # charged too fast; a resistor mends it
    ],
)
def test_the_answer(load, capacity_ah, battery, answer):
    said = assess(used(load, capacity_ah, battery)).worth
    assert said.answer == answer
    assert len(said.reasons) == 3


def test_a_lock_that_is_charged_oftener_than_its_set_was_bought_is_told_both():
    # Its old set lasted ten months and more; no size of NiMH goes in.
    lock = used("120 mA 20 s a day, 60 uA asleep", 0.3, battery="CR17345", window={"v_run_min": 3.1, "v_abs_max": 10})
    said = assess(lock.with_value("builds.build1.r_prog_ohm", 10_000.0)).worth
    assert [one.kind for one in said.lasting] == ["old", "build"]
    assert said.reasons[0].title.template == "{new} against {old}"


def test_hours_in_the_dark_are_no_days():
    # 10.4 days of 3 x AAA by charge alone; half of the light is gone at 3.75 V, a third of the way (drain curve).
    lamp = used("62 mA, 3 h a day", battery="LR03", front_end="led_resistor", window=None)
    assert old_set_days(Chain(lamp, 0)) < 0.6 * 1.1 / (0.062 * 3)


def test_what_would_change_it_is_a_press_or_a_place():
    fast = assess(used(GAUGE, 0.3)).worth
    project = used(GAUGE, 0.3).apply(fast.changes[0].edits)
    assert assess(project).worth.answer == "rechargeables"
    larger = next(change for change in assess(project).worth.changes if change.station == "cell")
    needed_ah = larger.text["needed"].value
    assert assess(used(GAUGE, needed_ah * 1.03)).worth.answer == "do_it"
    assert assess(used(GAUGE, needed_ah * 0.97)).worth.answer == "rechargeables"


def test_it_stands_on_the_shelf_and_not_before_there_is_one():
    assert str(summary_of(used(GAUGE)).worth) == str(ANSWERS["rechargeables"])
    assert assess(used(GAUGE).with_value("builds.build1.cell", None)).worth is None
    assert assess(used("62 mA, 0 h a day")).worth is None


@given(
    st.sampled_from(["LR03", "LR6", "6LR61", "CR2032", "LR44"]),
    st.integers(1, 6),
    st.floats(1e-4, 2),
    st.floats(0.01, 24),
    st.sampled_from(["led_resistor", "lamp", "motor", "logic", "regulator", "converter"]),
)
def test_what_is_stopped_or_dark_is_never_simply_done(battery, series, current_a, hours, front_end):
    mode = {"current_a": current_a, "hours_per_day": hours}
    supply = {"battery": battery, "series": series}
    seen = assess(plan(gadget={"supply": supply, "front_end": front_end, "modes": [mode], "window": None}))
    if seen.worth.answer == "do_it":
        assert seen.worst != "stop"
        assert seen.worth.lasting[-1].days > 0
    for level in (finding.level for finding in seen.findings):
        assert level != "stop" or seen.worth.answer in ("do_it_with", "leave_it")


@pytest.mark.parametrize(
    ("fields", "least", "share"),
    [
        # From 4.5 V it was made for, straight from a cell of 4.2 V: where half of each job is left, by hand.
        ({"front_end": "motor"}, None, 1.0),  # speed 0.6 at 2.7 V
        ({"front_end": "motor"}, 0.9, 0.0),  # 4.05 V of the cell's 4.2 is gone at once under its load
        ({"front_end": "heater"}, None, 0.9),  # half of the watts are left at 3.18 V
        ({"front_end": "logic", "sound": "speaker"}, 0.85, 0.4),  # 3.83 V, over the middle of the plateau
        ({"front_end": "logic", "sound": "none"}, 0.9, 1.0),
        ({"front_end": "regulator", "sound": "speaker"}, 0.9, 1.0),
    ],
)
def test_each_use_has_what_it_is_for_and_the_share_that_counts(fields, least, share):
    mode = {"name": "on", "current_a": 0.1, "hours_per_day": 1, "least_share": least}
    window = {"v_run_min": 2.7, "v_abs_max": 6}
    seen = assess(plan(gadget={"modes": [mode], "window": window} | fields))
    served = seen.run.modes[0].service_hours
    whole = seen.run.modes[0].hours
    assert (whole if served is None else served) / whole == pytest.approx(share, abs=0.15)
