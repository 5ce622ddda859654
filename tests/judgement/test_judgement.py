"""What an expert would stop, the tool stops; what is fine, it leaves in peace. The confusion table is printed."""

from collections import Counter

import pytest
from plans import SOUND, cases

from builders import judged, plan
from pocketspark.core.finding import GRAVITY
from pocketspark.core.models import Project
from pocketspark.core.questions.assess import assess

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
