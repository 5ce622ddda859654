"""From pictures to a survey: every answer lands in its place with its basis, and not knowing never makes it milder."""

import itertools

import pytest
from pydantic import ValidationError

from builders import plan
from pocketspark.core.guide import GUIDES
from pocketspark.core.models.gadget import EXISTING_CHARGING
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.beginning import THINGS, UNKNOWN, Beginning, begin
from pocketspark.core.questions.summary import STAGES, summary_of
from pocketspark.demo import demo_projects

ANSWERS = {"name": "Rain gauge", "purpose": "ordinary", "battery": "LR6", "series": 3}


def test_what_was_said_is_in_its_place():
    project = begin(Beginning.model_validate(ANSWERS | {"thing": "motor", "charging": "dock", "load": "250 mA"}))
    gadget = project.gadget
    assert (gadget.supply.battery, gadget.supply.series, gadget.front_end) == ("LR6", 3, "motor")
    assert gadget.modes[0].current_a == 0.25
    assert project.basis_of("gadget.modes.mode1.current_a") == "measured"
    assert project.basis_of("gadget.front_end") == "inferred"
    assert project.basis_of("gadget.modes.mode1.hours_per_day") == "default"


@pytest.mark.parametrize(("thing", "charging"), itertools.product([None, *THINGS], [None, *EXISTING_CHARGING]))
def test_not_knowing_is_never_milder(thing, charging):
    project = begin(Beginning.model_validate(ANSWERS | {"thing": thing, "charging": charging}))
    window = assess(project).survey.window
    strictest = assess(begin(Beginning.model_validate(ANSWERS | {"thing": "chip", "charging": "none"}))).survey.window
    if thing is None:
        assert window == strictest
        assert project.basis_of("gadget.front_end") == "default"
    if charging is None:
        assert any(finding.level == "stop" for finding in assess(project).findings)
    assert project.basis_of("gadget.modes.mode1.current_a") == "default"
    assert summary_of(project).stage == "surveyed"


def test_every_answer_that_may_be_missing_says_what_that_costs():
    may_be_missing = {name for name, field in Beginning.model_fields.items() if field.default is None}
    assert may_be_missing == set(UNKNOWN)


@pytest.mark.parametrize(
    "wrong", [{"battery": "nonsense"}, {"series": 13}, {"name": " "}, {"load": "5 V"}, {"load": "0 mA, 2 h a day"}]
)
def test_what_cannot_be_is_refused(wrong):
    with pytest.raises(ValidationError):
        begin(Beginning.model_validate(ANSWERS | wrong))


def test_the_stages_of_a_conversion():
    surveyed = begin(Beginning.model_validate(ANSWERS | {"thing": "chip", "charging": "none"}))
    assert summary_of(surveyed).next_step.page == "proposals"
    stages = {project.gadget.name: summary_of(project).stage for project in demo_projects()}
    assert stages["Moth-trap lamp"] == "fits"
    assert stages["Pond thermometer"] == "planned"  # a stop stands against it
    begun = plan(record={"steps": [{"step": "photograph", "done": True}]})
    assert summary_of(begun).stage == "bench"
    assert str(summary_of(begun).next_step.text) != "Photograph everything as it is"
    assert set(stages.values()) <= set(STAGES)


def test_another_of_the_kind_has_the_plan_and_nothing_done():
    project = plan(record={"steps": [{"step": "photograph", "done": True}]})
    other = project.for_another("The second one")
    assert str(other.gadget.name) == "The second one"
    assert other.builds[0].record.steps == ()
    assert other.builds[0].cell == project.builds[0].cell
    assert assess(other).findings == assess(project.for_another(project.gadget.name)).findings


def test_a_guide_serves_fields_that_there_are():
    text = str(plan().model_json_schema()) + str(plan().model_dump())
    for guide in GUIDES:
        for field in guide.fields:
            assert f"'{field}'" in text, (guide.key, field)
        for lead in guide.picture.leads:
            assert all(0 <= x <= 320 and 0 <= y <= 150 for x, y in lead.points), guide.key
