"""A record that cannot be fooled: ways of getting a build called proven that it is not (handbook, what it proves).

Every way begins with a build that is proven, and does one thing that a maker, a page or another device may do.
"""

import pypdfium2
import pytest

from builders import CELL, plan
from pocketspark.core.merging import merged
from pocketspark.core.models import Project
from pocketspark.core.models.project import Edit
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.questions.summary import summary_of
from pocketspark.core.steps import procedure
from pocketspark.core.steps.fixing import as_read_from_file, with_plans_fixed
from pocketspark.formats import certificate

CUT_AT, LATER = "2026-11-26T10:00Z", "2026-11-28T10:00Z"
CHARGED = {
    "started_at": "2026-11-26T12:00Z",
    "ended_at": "2026-11-26T14:30Z",
    "readings": [{"minutes": 1, "origin": "typed", "volts": 3.8, "current_a": 0.4, "celsius": 24}],
    "full_v": 4.19,
    "rested_v": 4.17,
}


def passed(step, **more):
    value = None
    if step.hold:
        low, high = step.hold.low, step.hold.high
        value = low * 1.2 if high is None else high / 2 if low is None else (low + high) / 2
    return {"step": step.key, "done": True, "value": value, "origin": "typed", "at": CUT_AT} | more


def begun(**changes):
    """Its case opened, and nothing more: from here on its plan is fixed."""
    project = plan(**changes)
    steps = procedure(project, 0).steps
    opening = next(number for number, step in enumerate(steps) if step.opens)
    return with_plans_fixed(plan(**changes, steps=[passed(step) for step in steps[: opening + 1]]), CUT_AT)


def proven(**changes):
    """Every step done within the limits that were fixed at its first cut, and the first charge watched."""
    fixed = begun(**changes)
    record = fixed.builds[0].record.model_dump(mode="json")
    steps = [passed(step) for step in procedure(fixed, 0).steps]
    return with_record(fixed, record | {"steps": steps, "first_charge": CHARGED})


def with_record(project, record):
    document = project.model_dump(mode="json")
    document["builds"][0]["record"] = record
    return Project.model_validate(document)


def changed(project, **record):
    return with_record(project, project.builds[0].record.model_dump(mode="json") | record)


def verdict(project):
    return build_steps(project, 0).verdict


def with_step(project, key, **more):
    steps = [step.model_dump(mode="json") for step in project.builds[0].record.steps]
    return changed(project, steps=[step | more if step["step"] == key else step for step in steps])


def saved(project, before):
    """As the server keeps it: what was fixed stays."""
    return with_plans_fixed(project, LATER, before)


def edited(project, **edits):
    return project.apply([Edit(path=path.replace("__", "."), value=value) for path, value in edits.items()])


def test_a_build_within_all_its_limits_is_proven():
    project = proven()
    assert (verdict(project).kind, verdict(project).because) == ("proven", ())
    assert summary_of(project).stage == "proven"
    text = "".join(
        page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(certificate.to_pdf(project, 0))
    )
    assert "Finished and proven" in text
    assert "first cut, 2026-11-26" in text


WATCHED = CHARGED["readings"][0]
WAYS = {
    "hours under the limit, passed over with a reason": (
        lambda p: with_step(p, "discharge", value=5.0, override="it was cold"),
        "unproven",
    ),
    "a current outside its limits, passed over with a reason": (
        lambda p: with_step(p, "first_charge", value=0.2, override="thin cable"),
        "reserved",
    ),
    "a reading from the simulated meter": (lambda p: with_step(p, "full", origin="simulated"), "unproven"),
    "a step undone": (lambda p: with_step(p, "output", done=False), "unproven"),
    "a stop-grade reading with a reason": (lambda p: with_step(p, "full", value=4.35, override="so what"), "unproven"),
    "a first charge that was never watched": (lambda p: changed(p, first_charge={}), "unproven"),
    "a first charge without an end": (lambda p: changed(p, first_charge=CHARGED | {"ended_at": None}), "unproven"),
    "ended after seconds": (
        lambda p: changed(p, first_charge=CHARGED | {"ended_at": "2026-11-26T12:00:20Z"}),
        "unproven",
    ),
    "a clock set back": (lambda p: changed(p, first_charge=CHARGED | {"ended_at": "2026-11-26T11:00Z"}), "unproven"),
    "watched without one reading": (lambda p: changed(p, first_charge=CHARGED | {"readings": []}), "unproven"),
    "watched by the simulated meter": (
        lambda p: changed(p, first_charge=CHARGED | {"readings": [WATCHED | {"origin": "simulated"}]}),
        "unproven",
    ),
    "4.35 V while it was charged": (
        lambda p: changed(p, first_charge=CHARGED | {"readings": [WATCHED | {"volts": 4.35}]}),
        "reserved",
    ),
    "600 mA while it was charged": (
        lambda p: changed(p, first_charge=CHARGED | {"readings": [WATCHED | {"current_a": 0.6}]}),
        "reserved",
    ),
    "46 C while it was charged": (
        lambda p: changed(p, first_charge=CHARGED | {"readings": [WATCHED | {"celsius": 46}]}),
        "reserved",
    ),
    "a reading over a limit struck out": (lambda p: saved(p, saved(hot(p), p)), "reserved"),
    "hot, and another watched": (
        lambda p: saved(
            changed(p, first_charge=CHARGED | {"started_at": "2026-11-27T12:00Z", "ended_at": LATER}), hot(p)
        ),
        "reserved",
    ),
    "an alarm, and a good reading after it": (
        lambda p: changed(
            p, first_charge=CHARGED | {"readings": [WATCHED | {"celsius": 47}, WATCHED | {"minutes": 60}]}
        ),
        "reserved",
    ),
    "built in spite of a stop": (lambda p: changed(p, built_although="I know better"), "reserved"),
    "made a practice copy": (lambda p: edited(p, builds__0__practice=True), "unproven"),
    "its fixed plan taken out by a page": (lambda p: saved(changed(p, fixed=None), p), "proven"),
    "its limits widened by a page": (
        lambda p: saved(widened(with_step(p, "discharge", value=5.0)), p),
        "unproven",
    ),
    "limits moved by a measured capacity": (
        lambda p: edited(with_step(p, "discharge", value=5.0), builds__0__cell__measured_capacity_ah=0.3),
        "unproven",
    ),
    "limits moved by a heavier survey": (
        lambda p: edited(with_step(p, "discharge", value=5.0), gadget__modes__0__current_a=0.2),
        "unproven",
    ),
    "another resistor after the cut": (lambda p: edited(p, builds__0__r_prog_ohm=2700), "reserved"),
    "another cell after the cut": (lambda p: edited(p, builds__0__cell=CELL | {"capacity_ah": 1.2}), "reserved"),
    "another board after the cut": (lambda p: edited(p, builds__0__boards__0__charger__float_v=4.1), "reserved"),
    "used while it charges after the cut": (
        lambda p: edited(p, builds__0__use_while_charging="change_over"),
        "unproven",
    ),
    "a copy of the plan": (
        lambda p: p.model_copy(update={"builds": (p.builds[0].copied_plan("a copy"),)}),
        "unproven",
    ),
    "all but the last step": (
        lambda p: changed(p, steps=[s.model_dump(mode="json") for s in p.builds[0].record.steps[:-1]]),
        "unproven",
    ),
    "read from a file": (lambda p: as_read_from_file(p, LATER), "reserved"),
    "the mark of a file taken out by a page": (
        lambda p: saved(changed(as_read_from_file(p, LATER), from_file_at=None), as_read_from_file(p, LATER)),
        "reserved",
    ),
    "a file without the plan that was fixed": (lambda p: as_read_from_file(changed(p, fixed=None), LATER), "reserved"),
    "the plan of another day put in its place": (lambda p: saved(redated(p), p), "proven"),
    "a second device that undid a step": (
        lambda p: merged(p, with_step(p, "output", done=False), edited(p, notes="typed here")),
        "unproven",
    ),
    "a second device that brought a hot reading": (
        lambda p: saved(merged(p, edited(p, notes="typed here"), hot(p)), hot(p)),
        "reserved",
    ),
    "a first charge of two days": (
        lambda p: changed(p, first_charge=CHARGED | {"ended_at": "2026-11-28T13:00Z"}),
        "reserved",
    ),
    "a reading struck out of a step that was passed over": (
        lambda p: with_step(p, "first_charge", value=None, override="thin cable"),
        "unproven",
    ),
    "hours that are none": (lambda p: with_step(p, "discharge", value=0.0), "unproven"),
    "hours of a hundred years": (lambda p: with_step(p, "discharge", value=876_000.0), "reserved"),
    "a reading of no known origin": (lambda p: with_step(p, "discharge", origin="unknown"), "proven"),
}


def redated(project):
    fixed = project.builds[0].record.fixed.model_dump(mode="json")
    return changed(project, fixed=fixed | {"at": LATER, "limits": []})


def hot(project):
    """As it was saved with a reading of 47 C."""
    return saved(changed(project, first_charge=CHARGED | {"readings": [WATCHED | {"celsius": 47}]}), project)


def widened(project):
    fixed = project.builds[0].record.fixed.model_dump(mode="json")
    limits = [limit | {"low": None, "high": 1e6} for limit in fixed["limits"]]
    return changed(project, fixed=fixed | {"limits": limits})


@pytest.mark.parametrize("way", WAYS)
def test_it_is_not_fooled(way):
    make, expected = WAYS[way]
    project = make(proven())
    seen = verdict(project)
    assert seen.kind == expected, seen.because
    assert bool(seen.because) == (expected != "proven")
    if build_steps(project, 0).finished and not project.builds[0].practice:
        assert summary_of(project).stage == expected


def test_a_measured_cell_teaches_the_model_and_moves_no_limit():
    """385 mAh of 900: the hours that are predicted fall, the limit of the run-down does not."""
    fixed = begun()
    learnt = edited(fixed, builds__0__cell__measured_capacity_ah=0.385)
    held = [next(s for s in procedure(p, 0).steps if s.key == "discharge").hold.low for p in (fixed, learnt)]
    assert held[0] == held[1]
    unfixed = changed(learnt, fixed=None)
    assert next(s for s in procedure(unfixed, 0).steps if s.key == "discharge").hold.low < 0.5 * held[0]


def test_before_the_first_cut_nothing_is_fixed():
    project = plan(steps=[passed(procedure(plan(), 0).steps[0])])
    assert with_plans_fixed(project, CUT_AT).builds[0].record.fixed is None
    assert begun().builds[0].record.fixed.at == CUT_AT


def test_reservations_stand_on_the_certificate_with_reading_limit_and_reason():
    project = with_step(proven(), "first_charge", value=0.2, override="thin cable")
    pages = pypdfium2.PdfDocument(certificate.to_pdf(project, 0))
    text = " ".join("".join(page.get_textpage().get_text_range() for page in pages).split())
    for said in ("Finished, with reservations", "thin cable", "200 mA"):
        assert said in text
    assert "proven" not in text.lower().replace("unproven", "")
