"""One pack for several gadgets: each of them judged as a conversion of its own would be, and what the box says."""

import pytest

from builders import plan
from pocketspark.core.models import Project
from pocketspark.core.models.fed_gadget import fed_gadget_of
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.shared_pack import shared_pack

LAMP = {"name": "lamp", "front_end": "heater", "v_run_min": 2.5, "v_abs_max": 5.0, "current_a": 0.1}
GADGETS = {
    "suits": (LAMP, True),
    "over its volts": (LAMP | {"v_abs_max": 3.6}, False),
    "never runs": (LAMP | {"v_run_min": 4.5, "v_abs_max": 6.0}, False),
    "trips the protection": (LAMP | {"peak_a": 5.0}, False),
    "too much for the cell": (LAMP | {"current_a": 3.0}, False),
    "not known": ({"name": "box"}, None),
}


def pack_for(*gadgets, **changes):
    return plan(style="stand_alone", also_feeds=list(gadgets), **changes)


@pytest.mark.parametrize("case", GADGETS)
def test_each_gadget_is_served_or_not_and_why(case):
    fed, serves = GADGETS[case]
    _, one = shared_pack(pack_for(fed), 0).served
    assert one.serves is serves
    assert bool(str(one.why)) is (serves is not True)
    assert (one.hours is not None) is (serves is True)


@pytest.mark.parametrize("case", [case for case, (_, serves) in GADGETS.items() if serves is not None])
def test_it_is_judged_as_a_conversion_of_its_own_is(case):
    """The same gadget in a document of its own, with the same cell and board: the same stops, the same hours."""
    fed, serves = GADGETS[case]
    mode = {"name": fed["name"], "current_a": fed["current_a"], "peak_a": fed.get("peak_a"), "hours_per_day": 1}
    window = {"v_run_min": fed["v_run_min"], "v_abs_max": fed["v_abs_max"]}
    own = plan(style="stand_alone", gadget={"front_end": fed["front_end"], "modes": [mode], "window": window})
    alone, bare = assess(own, 0), assess(plan(style="stand_alone"), 0)
    of_the_pack = {one.code for one in bare.findings if one.level == "stop"}
    stops = [one for one in alone.findings if one.level == "stop" and one.code not in of_the_pack]
    assert (not [one for one in stops if one.station != "fit"]) is serves
    if serves:
        [hours] = [mode.hours for mode in alone.run.modes]
        assert shared_pack(pack_for(fed), 0).served[1].hours == pytest.approx(hours)


def test_the_box_says_what_it_is_for_and_what_never():
    pack = shared_pack(pack_for(LAMP, LAMP | {"name": "radio", "v_abs_max": 3.6}), 0)
    label = [str(line) for line in pack.label]
    assert "For: lamp" in label
    assert "Never: radio" in label
    assert any("rated for less than 4." in line for line in label)
    assert pack.most_a == pytest.approx(0.15 / 0.05 * 0.8 / 1.3, rel=0.25)  # of the protection, or what says less


def test_a_gadget_of_another_conversion_is_taken_with_its_window():
    other = Project.model_validate(
        {
            "gadget": {
                "name": "horn",
                "window": {"v_run_min": 2.2, "v_abs_max": 4.0},
                "modes": [{"current_a": 0.2, "hours_per_day": 2}, {"current_a": 0.01, "hours_per_day": 1}],
            }
        }
    )
    fed = fed_gadget_of(other.gadget)
    assert (fed.name, fed.v_run_min, fed.v_abs_max, fed.current_a, fed.hours_per_day) == ("horn", 2.2, 4.0, 0.2, 3.0)
