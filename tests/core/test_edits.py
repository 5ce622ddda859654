"""Edits and where values came from: by the ids of rows, so that nothing lands on a neighbour."""

import pytest
from pydantic import ValidationError

from builders import plan
from pocketspark.core.models import Project
from pocketspark.core.models.paths import NoSuchPlace
from pocketspark.core.models.project import Edit

TWO_MODES = {"modes": [{"name": "dim", "current_a": 0.02}, {"name": "lit", "current_a": 0.06}]}


def edits(**values):
    return [Edit(path=path.replace("__", "."), value=value) for path, value in values.items()]


def test_rows_without_an_id_are_given_one_and_a_second_of_the_same_id_another():
    modes = [{"current_a": 0.1}, {"id": "mode1", "current_a": 0.2}, {"id": "mode1", "current_a": 0.3}]
    assert [mode.id for mode in plan(gadget={"modes": modes}).gadget.modes] == ["mode2", "mode1", "mode3"]


def test_a_basis_by_number_is_stored_by_id_and_stays_with_its_row():
    project = plan(gadget=TWO_MODES, basis={"gadget.modes.1.current_a": "measured"})
    assert project.basis == {"gadget.modes.mode2.current_a": "measured"}
    document = project.model_dump(mode="json")
    del document["gadget"]["modes"][0]
    shorter = Project.model_validate(document)
    assert str(shorter.gadget.modes[0].name) == "lit"
    assert shorter.basis_of("gadget.modes.0.current_a") == "measured"


def test_the_basis_of_a_row_that_is_gone_goes_with_it():
    document = plan(gadget=TWO_MODES, basis={"gadget.modes.mode1.current_a": "measured"}).model_dump(mode="json")
    del document["gadget"]["modes"][0]
    assert Project.model_validate(document).basis == {}


def test_replacing_a_part_clears_what_was_known_of_the_old_one():
    project = plan(basis={"builds.0.cell.r_ohm": "measured", "builds.0.r_prog_ohm": "measured"})
    changed = project.apply([Edit(path="builds.0.cell", value={"capacity_ah": 0.5})])
    assert changed.builds[0].cell.capacity_ah == 0.5
    assert changed.basis == {"builds.build1.r_prog_ohm": "measured"}
    assert project.apply([Edit(path="builds.0.cell", value=None)]).basis == changed.basis


def test_an_edit_sets_a_value_and_where_it_came_from():
    changed = plan().apply(edits(builds__build1__cell__r_ohm="90 mohm", basis__builds__0__cell__r_ohm="measured"))
    assert changed.builds[0].cell.r_ohm == pytest.approx(0.09)
    assert changed.basis == {"builds.build1.cell.r_ohm": "measured"}


def test_an_edit_makes_the_group_that_is_absent():
    bare = plan(gadget={"window": None})
    assert bare.apply(edits(gadget__window__v_abs_max=4.0)).gadget.window.v_abs_max == 4.0
    assert bare.with_value("gadget.gauge.warn_v", 3.3).gadget.gauge.warn_v == 3.3
    assert bare.with_value("builds.build1.cell.intake.rest_v", 3.7).builds[0].cell.intake.rest_v == 3.7


@pytest.mark.parametrize("path", ["gadget.modes.mode7.current_a", "builds.build9.cell", "gadget.modes.5"])
def test_an_edit_that_leads_nowhere_says_so(path):
    with pytest.raises(NoSuchPlace, match=path):
        plan().apply([Edit(path=path, value=1)])


def test_an_edit_is_refused_like_any_figure():
    with pytest.raises(ValidationError, match="Enter a value from"):
        plan().apply(edits(builds__0__cell__capacity_ah=5000))


def test_another_build_copies_the_plan_and_not_what_was_soldered():
    steps = [{"step": "photograph", "done": True}]
    basis = {"builds.0.cell.r_ohm": "measured", "builds.0.record.r_measured_ohm": "measured"}
    project = plan(r_measured_ohm=2990, steps=steps, basis=basis).with_build_copied("build1", "Second")
    first, second = project.builds
    assert (second.id, str(second.name), second.cell) == ("build2", "Second", first.cell)
    assert (first.record.r_measured_ohm, second.record.r_measured_ohm, second.record.steps) == (2990, None, ())
    assert project.basis_of("builds.build2.cell.r_ohm") == "measured"
    assert "builds.build2.record.r_measured_ohm" not in project.basis
