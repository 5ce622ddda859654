"""What an expert would stop, the tool stops; what is fine, it leaves in peace. The confusion table is printed."""

from collections import Counter

import pytest
from plans import SOUND, cases

from builders import judged, plan
from pocketspark.core.finding import GRAVITY
from pocketspark.core.message import _, say
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess
from pocketspark.core.ratings import Bound, Rating
from pocketspark.core.rules import RULES
from pocketspark.core.rules.rating_rules import register

CASES = list(cases())
GRAVE = ("stop", "caution")


def gravest(assessment, code):
    levels = [finding.level for finding in assessment.findings if finding.code == code]
    return max(levels, key=GRAVITY.__getitem__, default=None)


def wrongs(case):
    """(station, "false calm" or "false alarm", what) of one plan."""
    assessment = judged(**case.changes)
    for code, level in case.must.items():
        said = gravest(assessment, code)
        if said is None or GRAVITY[said] < GRAVITY[level]:
            yield code.split(".")[0], "false calm", f"{case.says}: {code} is {said}, not {level}"
    for finding in assessment.findings:
        if finding.level in GRAVE and (finding.code in case.must_not or SOUND in case.must_not):
            yield finding.station, "false alarm", f"{case.says}: {finding.headline}"


def test_there_are_a_hundred_and_fifty_plans_and_none_twice():
    assert len(CASES) >= 150
    assert len({str(case.says) for case in CASES}) == len(CASES)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.says)
def test_as_an_expert_would(case):
    assert list(wrongs(case)) == []


@pytest.mark.parametrize("limit_a", [0.01, 0.03, 0.1])
def test_no_remedy_charges_for_days(limit_a):
    """A weak port and a load beside it: what is offered charges within a day, or nothing is (our judgement: 24 h)."""
    for way in ("off", "two_diodes"):
        project = plan(source={"kind": "weak", "limit_a": limit_a}, use_while_charging=way)
        for finding in assess(project).findings:
            for edit in finding.remedy.edits if finding.remedy else ():
                if edit.path.endswith(".r_prog_ohm"):
                    assert 0.9 / (1200 / edit.value) <= 24, finding.headline


def test_a_made_up_rating_is_one_entry():
    """A rating of the gadget's current: told in the state that passes it, by the page of all rules and by assess."""
    rating = Rating(
        code="wire.made_up",
        station="wire",
        node="gadget",
        source="made up for this test",
        watches="What flows into the gadget against a made-up figure.",
        advice=say("Nothing to do."),
        quantity="gadget_a",
        bounds=lambda _circuit: [Bound(0.05)],
        over=_("The made-up part is rated for {limit}, and {value} flows through it."),
        within=_("The made-up part is rated for {limit}; {value} flows at most."),
    )
    register([rating])
    try:
        raised = next(f for f in judged().findings if f.code == "wire.made_up")
    finally:
        del RULES["wire.made_up"]
    assert (raised.level, raised.figure.value, raised.limit.value) == ("stop", pytest.approx(0.06), 0.05)
    assert "In “lit”" in str(raised.headline)


def test_the_confusion_table():
    table = Counter((station, kind) for case in CASES for station, kind, _ in wrongs(case))
    stations = sorted({code.split(".")[0] for case in CASES for code in (*case.must, *case.must_not) if code != SOUND})
    asked = Counter(code.split(".")[0] for case in CASES for code in case.must)
    for station in stations:
        calm, alarm = table[station, "false calm"], table[station, "false alarm"]
        print(f"{station:8} {asked[station]:4} faults, {calm:3} passed in silence, {alarm:3} false alarms")
    assert not table


MORE = {
    "charge current": [{"r_prog_ohm": ohm} for ohm in (9100, 5600, 3300, 2700, 2000, 1500, 1200)],
    "source volts": [{"source": {"kind": "usb2", "volts": v}} for v in (5.0, 5.5, 6.0, 6.5, 9.0, 15.0)],
    "cold": [{"gadget": {"shell": {"room_c": c}}} for c in (25, 12, 8, 2, -3, -15)],
    "peak": [
        {"gadget": {"modes": [{"name": "on", "current_a": 0.05, "peak_a": a}]}} for a in (0.1, 0.6, 1.5, 2.4, 4.0)
    ],
}


@pytest.mark.parametrize("steps", MORE.values(), ids=MORE)
def test_more_of_a_hazard_never_lowers_the_level(steps):
    levels = [GRAVITY[judged(**step).worst] for step in steps]
    assert levels == sorted(levels)


@pytest.mark.parametrize("case", CASES, ids=lambda case: case.says)
def test_a_remedy_removes_its_finding_and_raises_no_graver_one(case):
    project = plan(**case.changes)
    before = assess(project)
    for finding in before.findings:
        if finding.remedy is None or finding.level not in GRAVE:
            continue
        after = assess(Project.model_validate(project.apply(finding.remedy.edits).model_dump(mode="json")))
        still = [f for f in after.findings if f.code == finding.code and f.level == finding.level]
        same = [f for f in before.findings if f.code == finding.code and f.level == finding.level]
        assert len(still) < len(same), (finding.code, finding.remedy.label)
        assert GRAVITY[after.worst] <= GRAVITY[before.worst], (finding.code, after.worst)
