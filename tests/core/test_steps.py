"""The build procedure: what belongs to this build, in a safe order, and holds that hold."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import board, plan
from pocketspark.core.chain import MissingPart
from pocketspark.core.steps import inside, procedure


def keys(**changes):
    return [step.key for step in procedure(plan(**changes)).steps]


def test_the_cell_comes_last_and_after_the_short_check():
    # common practice, no source
    order = keys()
    assert (
        order.index("short_check") < order.index("cell_volts") < order.index("cell_last") < order.index("first_charge")
    )
    assert order.index("dry_fit") < order.index("mount")
    assert order[0] == "photograph"
    assert order[-1] == "run_down"


def test_steps_follow_from_the_build():
    assert "shaper" not in keys()
    assert "shaper" in keys(shaper={"kind": "ldo", "v_set": 3.3})
    assert "open_wall" not in keys(boards=[board()])
    assert "open_wall" in keys()
    assert "old_path" in keys(gadget={"inlet": {"kind": "dock", "fate": "cut"}})
    assert "old_path" not in keys()
    assert "terminals" not in keys(style="outside_pack")
    assert "first_charge" not in keys(boards=[])


def test_limits_are_made_for_this_build():
    # hold limits: resistor 2 %, current 12 %, full 4.15 to 4.22 V, rail 1 kohm: common practice, no source
    holds = {step.key: step.hold for step in procedure(plan()).steps if step.hold}
    assert (holds["resistor"].low, holds["resistor"].high) == (pytest.approx(2940), pytest.approx(3060))
    assert (holds["first_charge"].low, holds["first_charge"].high) == (pytest.approx(0.352), pytest.approx(0.448))
    assert (holds["full"].low, holds["full"].high) == (pytest.approx(4.15), pytest.approx(4.22))
    assert holds["short_check"].low == 1000
    assert (holds["output"].low, holds["output"].high) == (3.1, 4.8)
    assert all(hold.likely and hold.probes for hold in holds.values())


def told(key, **record):
    seen = procedure(plan(steps=[{"step": key, **record}]))
    return next(step for step in seen.steps if step.key == key), seen


def test_a_hold_is_passed_by_a_reading_inside_its_limits_alone():
    assert told("resistor", done=True)[0].state == "open"
    assert told("resistor", done=True, value=2990)[0].state == "done"
    outside, seen = told("resistor", done=True, value=1200)
    assert outside.state == "held"
    assert "another value was fitted" in outside.says
    assert seen.next_step == "photograph"


def test_a_stop_grade_hold_has_no_override_and_a_milder_one_needs_its_reason():
    assert told("resistor", done=True, value=1200, override="I know")[0].state == "held"
    assert told("first_charge", done=True, value=0.6)[0].state == "held"
    overridden, _ = told("first_charge", done=True, value=0.6, override="meter reads high")
    assert (overridden.state, overridden.override) == ("overridden", "meter reads high")


def test_the_next_step_moves_on():
    assert told("photograph", done=True)[1].next_step == "prove_old"


@given(st.floats(-10, 1e6))
def test_a_reading_is_inside_or_outside(value):
    hold = next(step.hold for step in procedure(plan()).steps if step.key == "resistor")
    assert inside(hold, value) == (hold.low <= value <= hold.high)


def test_without_a_cell_there_are_no_steps():
    with pytest.raises(MissingPart):
        procedure(plan(cell=None))
