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
