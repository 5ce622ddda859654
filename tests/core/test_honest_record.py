"""A record that cannot flatter itself: simulated readings prove nothing, stops lock the case, and what is learnt flows
back. Facts of the trade, worked by hand in the comments."""

import pypdfium2
import pytest

from builders import PROTECTION, board, plan
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project
from pocketspark.core.models.project import Edit
from pocketspark.core.models.record import StepRecord
from pocketspark.core.questions.as_built import as_built
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.steps import learnt_from, procedure
from pocketspark.formats import build_sheet, certificate

AT = "2026-11-26T10:00Z"


def passed(step, origin):
    """Every checkpoint read in the middle of its limits."""
    value = None
    if step.hold:
        low, high = step.hold.low, step.hold.high
        value = low * 2 if high is None else high / 2 if low is None else (low + high) / 2
    return {"step": step.key, "done": True, "value": value, "origin": origin, "at": AT}


def whole(origin, **changes):
    project = plan(**changes)
    steps = [passed(step, origin) for step in procedure(project, 0).steps]
    return plan(**changes, steps=steps)


def text_of(pdf):
    return "\n".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(pdf))


def states(project):
    return {step.key: step.state for step in procedure(project, 0).steps}


def test_not_one_checkpoint_of_a_real_build_is_passed_by_the_simulated_meter():
    real, practice = whole("simulated"), whole("simulated", practice=True)
    holds = [step.key for step in procedure(real, 0).steps if step.hold]
    assert len(holds) >= 10
    assert {states(real)[key] for key in holds} == {"open"}
    assert {states(practice)[key] for key in holds} == {"done"}
    assert not as_built(real, 0)
    assert as_built(practice, 0)
    assert not procedure(real, 0).finished
    assert procedure(practice, 0).finished


def test_paper_of_a_practice_copy_says_so_and_that_of_a_real_build_where_its_readings_come_from():
    practice, real = whole("simulated", practice=True), whole("typed")
    for made in (build_sheet.to_pdf(practice, 0), certificate.to_pdf(practice, 0)):
        assert "PRACTICE" in text_of(made)
    for made in (build_sheet.to_pdf(real, 0), certificate.to_pdf(real, 0)):
        assert "PRACTICE" not in text_of(made)
        assert "typed in" in text_of(made)
    assert "CONVERTED" in text_of(certificate.to_pdf(real, 0))


def test_a_certificate_is_made_of_a_finished_build_only():
    real = whole("typed")
    *most, _last = real.builds[0].record.steps
    with pytest.raises(certificate.NotFinished, match="next is"):
        certificate.to_pdf(plan(steps=[step.model_dump() for step in most]), 0)


def test_a_reading_kept_before_readings_said_where_they_came_from_is_of_unknown_origin():
    assert str(StepRecord(step="full", done=True, value=4.19).origin) == "unknown"
    kept = plan(steps=[{"step": "full", "done": True, "value": 4.19}])
    (full,) = [step for step in procedure(kept, 0).steps if step.key == "full"]
    assert (full.state, str(full.origin)) == ("done", "origin unknown")


# A charger that ends at 4.35 V over-charges a 4.20 V cell: a stop.
STOPPED = {"boards": [board(float_v=4.35)]}


def test_a_stop_locks_everything_from_the_step_that_opens_the_case_until_a_reason_is_given():
    locked = build_steps(plan(**STOPPED), 0)
    seen = {step.key: step.state for step in locked.steps}
    assert [seen[key] for key in ("photograph", "prove_old", "polarity")] == ["open"] * 3
    keys = [step.key for step in locked.steps]
    assert {seen[key] for key in keys[keys.index("terminals") :]} == {"locked"}
    assert not locked.lock.final
    assert any("over-charges" in str(reason) for reason in locked.lock.because)
    assert build_steps(plan(**STOPPED, built_although="a test rig, in a sand box"), 0).lock is None
    assert build_steps(plan(), 0).lock is None


def test_what_is_forbidden_is_locked_wholly_and_by_no_reason_opened():
    forbidden = plan(gadget={"purpose": "medical"}, built_although="I know what I do")
    locked = build_steps(forbidden, 0)
    assert locked.lock.final
    assert {step.state for step in locked.steps} == {"locked"}


def test_stops_stand_first_on_the_sheet():
    text = text_of(build_sheet.to_pdf(plan(**STOPPED), 0))
    assert text.index("STOP:") < text.index("Parts")
    assert text.index("STOP:") < min(text.index(word) for word in ("NOTE:", "CAUTION:") if word in text)


def test_the_run_down_is_of_the_heaviest_mode_in_use():
    # 60 mA for three hours a day, 300 mA for a minute, and 900 mA never: the middle one is run down
    modes = [
        {"name": "dim", "current_a": 0.06, "hours_per_day": 3},
        {"name": "bright", "current_a": 0.3, "hours_per_day": 0.02},
        {"name": "test", "current_a": 0.9, "hours_per_day": 0},
    ]
    project = plan(gadget={"modes": modes})
    (step,) = [step for step in procedure(project, 0).steps if step.key == "discharge"]
    assert "bright" in str(step.title)
    # some 0.9 Ah at 0.3 A, less what stays in the cell: under three hours, and a fifth less is still let through
    assert 1.5 < step.hold.low < 0.8 * 3


def test_a_motor_that_is_unhooked_is_no_short():
    (step,) = [step for step in procedure(plan(), 0).steps if step.key == "short_check"]
    assert "unhooked" in str(step.hold.probes)


def test_the_wall_is_opened_before_the_case_is_closed_with_the_cable_in():
    keys = [step.key for step in procedure(plan(), 0).steps]
    assert keys.index("dry_fit") < keys.index("open_wall") < keys.index("plug_in")


def test_a_reading_inside_its_limits_flows_back_as_measured_and_from_practice_nothing_does():
    project = plan()
    edits = learnt_from(project, 0, "current", 0.063)
    learnt = project.apply(edits)
    assert learnt.gadget.modes[0].current_a == 0.063
    assert learnt.basis_of(edits[0].path) == "measured"
    assert project.apply(learnt_from(project, 0, "resistor", 2990)).builds[0].record.r_measured_ohm == 2990
    assert learnt_from(project, 0, "current", 0.4) == ()  # outside: it may be the meter
    assert learnt_from(plan(practice=True), 0, "current", 0.063) == ()
    dated = project.apply(learnt_from(project, 0, "current", 0.063, AT)).logbook[-1]
    assert (dated.at, dated.kind) == (AT, "measurement")
    assert str(dated.text).startswith("current: 63 mA, from its checkpoint")


def test_a_practice_copy_is_marked_and_a_copy_of_it_is_a_plan_again():
    copied = plan().with_build_copied(0, "Practice", practice=True)
    assert [build.practice for build in copied.builds] == [False, True]
    assert not copied.with_build_copied(1, "for real").builds[2].practice


# Where figures come from -----------------------------------------------------------------------------------------


def test_a_bay_that_was_guessed_stays_a_guess_until_each_length_is_typed():
    document = plan().model_dump(mode="json")
    document["gadget"]["bay"] = {"rooms": [{"id": "room1", "size_mm": [66, 40, 20]}]}
    document["basis"] = {"gadget.bay": "inferred"}
    for axis in range(3):
        project = Project.model_validate(document)
        assert project.basis_of(f"gadget.bay.rooms.0.size_mm.{axis}") == "inferred"
        assert fit_of(project).assumed_bay
        document["basis"][f"gadget.bay.rooms.room1.size_mm.{axis}"] = "measured"
    measured = Project.model_validate(document)
    assert measured.basis_of("gadget.bay.rooms.room1.size_mm.2") == "measured"
    assert not fit_of(measured).assumed_bay


@pytest.mark.parametrize(
    ("path", "basis"),
    [
        ("gadget.modes.0.current_a", "measured"),
        ("gadget.bay.wall_mm", "measured"),
        ("builds.0.cell.intake.rest_v", "measured"),
        ("builds.0.cell.capacity_ah", "label"),
        ("builds.0.cell.measured_capacity_ah", "default"),
    ],
)
def test_a_typed_figure_is_measured_where_one_measures(path, basis):
    bay = Edit(path="gadget.bay", value={"rooms": [{"size_mm": [66, 40, 20]}], "wall_mm": 1.5})
    project = plan().apply([bay, Edit(path="builds.0.cell.intake", value={"rest_v": 3.7})])
    assert project.basis_of(path) == basis


def test_the_label_in_the_lid_says_by_when_an_unused_one_is_charged():
    # By hand: 0.9 Ah less a little at 135.8 uA (asleep 100, protection 3, charger 2, the cell's own 30.8), until the
    # protection opens: 276 days. Four fifths of that are 221 days, 7 months of 30.4 days.
    made = board(socket={"kind": "type_c"}) | {"protection": PROTECTION | {"drain_a": 3e-6}}
    drains = {"gadget": {"off_current_a": 100e-6}, "boards": [made]}
    assert "Unused, charge it within 7 months." in text_of(certificate.to_pdf(whole("typed", **drains), 0))
