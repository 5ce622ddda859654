"""Where a gadget lives, and what of it reaches steps, shopping and judgement: common practice, worked by hand."""

import pytest

from builders import board, finding, judged, plan
from pocketspark.core.chain import Chain
from pocketspark.core.models.climate import CLIMATES
from pocketspark.core.questions.bill import sundries
from pocketspark.core.steps import procedure

SOCKETED = {"boards": [board(socket={"kind": "type_c"})]}


def at(place, **changes):
    return {"gadget": {"shell": {"climate": place}}} | SOCKETED | changes


@pytest.mark.parametrize(
    ("changes", "level"),
    [
        (at("temperate"), "caution"),
        (at("temperate", input={"kind": "dock"}), None),
        (at("temperate", input={"sealed": True}), None),
        (at("indoors"), None),
        (at("shed"), None),
    ],
)
def test_a_hole_is_asked_about_where_it_gets_wet_and_nowhere_else(changes, level):
    found = finding(judged(**changes), "survey.wet_hole")
    assert (found.level if found else None) == level


def test_the_remedy_settles_it_and_is_bought_and_done():
    project = plan(**at("bathroom"))
    found = finding(judged(**at("bathroom")), "survey.wet_hole")
    sealed = project.apply(found.remedy.edits)
    assert sealed.builds[0].input.sealed
    assert "cap with a seal" in [str(name) for _, name, _ in sundries(Chain(sealed, 0))]
    keys = [step.key for step in procedure(sealed, 0).steps]
    assert keys.index("seal") < keys.index("close")
    assert "seal" not in [step.key for step in procedure(plan(**at("indoors")), 0).steps]


def test_a_fuse_is_bought_and_fitted_before_the_cell_goes_on():
    project = plan(fuse_a=0.75)
    assert "polyfuse that holds 750 mA" in [str(name) for _, name, _ in sundries(Chain(project, 0))]
    keys = [step.key for step in procedure(project, 0).steps]
    assert keys.index("fuse") + 1 == keys.index("cell_last")


def test_only_what_is_hotter_than_a_cell_may_be_kept_is_warned_of():
    hot = {key for key in CLIMATES if finding(judged(**at(key)), "survey.parked_hot")}
    assert hot == {"car"}
    shaken = {key for key in CLIMATES if finding(judged(**at(key)), "survey.shaken")}
    assert shaken == {"car", "pocket"}


def test_what_freezes_where_it_lives_is_charged_indoors_or_by_a_board_that_feels_it():
    def frost(**changes):
        return finding(judged(**at("cold", **changes)), "charge.frost")

    assert frost().level == "note"
    assert "November to March" in str(frost().headline)  # the months under 0 C of that table
    left = frost(plugged_in="always")
    assert left.level == "stop"
    unplugged = plan(**at("cold", plugged_in="always")).apply(left.remedy.edits)
    assert unplugged.builds[0].plugged_in == "until_full"
    assert frost(boards=[board(temperature_input="thermistor")]) is None
    assert finding(judged(**at("indoors")), "charge.frost") is None
    assert "no_frost" in [step.key for step in procedure(plan(**at("cold")), 0).steps]
    assert "no_frost" not in [step.key for step in procedure(plan(**at("indoors")), 0).steps]


def test_a_printed_cradle_softens_under_a_hot_chip():
    def soft(theta, cradle_mm):
        return finding(judged(cradle_mm=cradle_mm, boards=[board(theta_ja_c_per_w=theta)]), "charge.soft_print")

    # 0.4 A of (5 - 3) V are 0.8 W: a chip of 150 K/W is 120 K over its air, its board half of that
    assert soft(150, 1.5).level == "caution"
    assert soft(40, 1.5) is None
    assert soft(150, 0) is None


def test_what_moves_it_counts_more_than_where_it_lives():
    assert finding(judged(gadget={"shell": {"climate": "indoors", "moved": "driven"}}), "survey.shaken")
    assert not finding(judged(gadget={"shell": {"climate": "car", "moved": "still"}}), "survey.shaken")


def test_one_that_must_let_no_water_in_is_proposed_with_its_hole_sealed():
    from pocketspark.core.proposals.ways import ways_of
    from pocketspark.core.proposals.wishes import Wishes

    project = plan(**at("temperate"))
    for wishes in (Wishes(weatherproof=True), Wishes(weatherproof=True, any_way_in=True)):
        for way in ways_of(project, 0, wishes):
            way_in = way.build.input
            assert way_in.sealed == (way_in.kind in ("board_socket", "wired_socket"))
    assert not ways_of(project, 0, Wishes())[0].build.input.sealed


def test_metal_is_kept_from_an_aerial_and_only_where_it_lies_in_the_gadget():
    def told(**changes):
        return finding(judged(gadget={"receives": "remote_868"}, **changes), "survey.aerial")

    assert "20 mm" in str(told().headline)
    assert "wireless pad" in str(told(input={"kind": "wireless"}).headline)
    assert told(style="outside_pack") is None
