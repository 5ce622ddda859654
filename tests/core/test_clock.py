"""The bench clock against days worked by hand, and against an audit of every timeline that shares nothing with it."""

import itertools
from datetime import UTC, datetime, time, timedelta, timezone

import pytest
from hypothesis import given
from hypothesis import strategies as st

from builders import plan as a_plan
from pocketspark.core.clock import JobInHand, Task, Workbench, cell_job, job_of, jobs_of, plan
from pocketspark.core.models import Cell, Project
from pocketspark.formats.calendar import to_ics

ZONE = timezone(timedelta(hours=1))
EVENING = datetime(2026, 11, 26, 19, 0, tzinfo=ZONE)
BENCH = Workbench(day_begins=time(8), day_ends=time(23))


def task(step, hands_min, wait_min=0.0, **more):
    return Task(step=step, title=step, wait_min=wait_min, hands_min=hands_min, **more)


CHARGE = (
    task("plug", 0),
    task("full", 0, 140, takes="charger", attended=True, reading=True),
    task("rest", 0, 60, reading=True),
    task("day", 0, 24 * 60, reading=True),
)


def times(timeline):
    return {(due.job, due.step): due.begins.strftime("%d %H:%M") for due in timeline.due}


def test_an_evening_worked_by_hand():
    # plugged in at 19:00, 2 h 20 of charge, an hour of rest, a day of rest
    timeline = plan([JobInHand(name="lamp", page="", tasks=CHARGE)], BENCH, EVENING)
    assert times(timeline) == {
        ("lamp", "plug"): "26 19:00",
        ("lamp", "full"): "26 21:20",
        ("lamp", "rest"): "26 22:20",
        ("lamp", "day"): "27 22:20",
    }
    assert timeline.ends["lamp"].strftime("%d %H:%M") == "27 22:20"


def test_two_on_one_charger_come_one_after_the_other_and_on_two_side_by_side():
    jobs = [JobInHand(name=name, page="", tasks=CHARGE[:2]) for name in ("a", "b")]
    morning = EVENING.replace(hour=8)
    assert times(plan(jobs, BENCH, morning))[("b", "full")] == "26 12:40"  # 8:00 + 2 x 2 h 20
    assert times(plan(jobs, Workbench(**BENCH.model_dump() | {"chargers": 2}), morning))[("b", "full")] == "26 10:20"


def test_no_attended_charge_runs_into_the_night():
    late = EVENING.replace(hour=21, minute=30)  # 140 minutes from here, and an hour of rest, would be past midnight
    timeline = plan([JobInHand(name="lamp", page="", tasks=CHARGE[:3])], BENCH, late)
    assert times(timeline)[("lamp", "plug")] == "27 08:00"


def test_nothing_long_is_begun_that_runs_into_a_reading():
    # full at 10:20: what takes longer may not be begun at 8:00, what takes one may
    charge = JobInHand(name="charge", page="", tasks=CHARGE[:2])
    for minutes, begins in ((160, "26 10:20"), (60, "26 08:00")):
        other = JobInHand(name="other", page="", tasks=(task("saw", minutes),))
        assert times(plan([charge, other], BENCH, EVENING.replace(hour=8)))[("other", "saw")] == begins


def test_what_happened_moves_what_is_due():
    done_at = "2026-11-26T17:00Z"
    done = [{"step": key, "done": True, "at": done_at} for key in _keys_until("first_charge")]
    for record in done:
        record["value"] = _reading(record["step"])
    project = _with_steps(done)
    job = job_of(project, 0)
    assert job.tasks[0].step == "warmth"
    now = datetime(2026, 11, 26, 17, 10, tzinfo=UTC)
    assert plan([job], BENCH, now).due[0].begins == datetime(2026, 11, 26, 17, 30, tzinfo=UTC)
    later = datetime(2026, 11, 26, 18, 0, tzinfo=UTC)  # overdue: now
    assert plan([job], BENCH, later).due[0].begins == later


def _with_steps(steps):
    document = a_plan().model_dump(mode="json")
    document["builds"][0]["record"] = {"steps": steps}
    return Project.model_validate(document)


def _steps():
    from pocketspark.core.questions.build_steps import build_steps

    return build_steps(a_plan(), 0).steps


def _keys_until(last):
    keys = [step.key for step in _steps()]
    return keys[: keys.index(last) + 1]


def _reading(key):
    hold = next(step.hold for step in _steps() if step.key == key)
    if hold is None:
        return None
    return (hold.low + hold.high) / 2 if hold.low is not None and hold.high is not None else hold.low or hold.high


def test_a_practice_copy_and_an_unbegun_build_are_not_on_the_bench():
    assert jobs_of(a_plan(), "/x") == []
    assert [job.page for job in jobs_of(a_plan(), "/x", ready=True)] == ["/x?build=0"]


def test_a_salvaged_cell_on_test():
    # IEC 61960 states capacity at 0.2C (from memory): five hours on the tester; 0.5C charges in two hours and a tail
    cell = Cell.model_validate(
        {"name": "from a laptop", "capacity_ah": 2.0, "size_mm": [18, 18, 65], "origin": "salvaged"}
    )
    job = cell_job(cell)
    assert [(task.step, task.wait_min / 60) for task in job.tasks if task.reading] == [
        ("full", pytest.approx(2 + 40 / 60)),
        ("rest", 1),
        ("day", 24),
        ("empty", 5),
    ]
    assert cell_job(cell.model_copy(update={"origin": "new"})) is None


STEPS = st.builds(
    lambda hands, wait, kind: task(
        kind,
        hands,
        wait if kind != "work" else 0,
        takes={"charge": "charger", "log": "meter"}.get(kind),
        reading=kind != "work",
    ),
    st.integers(1, 90),
    st.integers(1, 600),
    st.sampled_from(["work", "charge", "log", "rest"]),
)


@given(
    rows=st.lists(st.lists(STEPS, min_size=1, max_size=6), min_size=1, max_size=6),
    chargers=st.integers(1, 2),
    meters=st.integers(1, 2),
    hour=st.integers(0, 23),
)
def test_every_timeline_holds_what_it_promises(rows, chargers, meters, hour):
    jobs = [JobInHand(name=f"job {number}", page="", tasks=tuple(row)) for number, row in enumerate(rows)]
    bench = Workbench(chargers=chargers, meters=meters, day_begins=time(9), day_ends=time(21))
    now = EVENING.replace(hour=hour)
    timeline = plan(jobs, bench, now)
    assert not timeline.left
    assert timeline == plan(list(reversed(jobs)), bench, now)  # in whatever order they are told
    spans = [(due.begins, due.ends) for due in timeline.due]
    for (_, end), (begin, _) in itertools.pairwise(spans):
        assert begin >= end, "one pair of hands"
    for begin, _ in spans:
        assert time(9) <= begin.time() < time(21), "somebody is up"
        assert begin >= now
    held = {"charger": [], "meter": []}
    for job in jobs:
        mine = [due for due in timeline.due if due.job == job.name]
        assert len(mine) == len(job.tasks)
        before = now
        for due, wanted in zip(mine, job.tasks, strict=True):
            assert due.begins >= before + timedelta(minutes=wanted.wait_min)
            assert due.ends - due.begins == timedelta(minutes=wanted.hands_min)
            if wanted.takes:
                held[wanted.takes].append((due.waits_from, due.begins))
            before = due.ends
    for what, most in (("charger", chargers), ("meter", meters)):
        for moment, _ in held[what]:
            assert sum(begin <= moment < end for begin, end in held[what]) <= most, what


def test_what_has_to_be_done_in_one_day_may_take_all_of_it():
    # 1 min of work and 12 h beside the charger, in a day of 12 h: once never begun, and not begun the next day either
    charges = [task("charge", hands, wait, takes="charger", reading=True) for hands, wait in ((90, 180), (270, 180))]
    job = JobInHand(name="lamp", page="", tasks=(task("work", 1, 0), *charges))
    timeline = plan([job], Workbench(day_begins=time(9), day_ends=time(21)), EVENING)
    assert not timeline.left
    assert timeline.due[0].begins == EVENING.replace(hour=9, minute=0) + timedelta(days=1)


def test_the_calendar_says_the_same():
    """Read by the lines of RFC 5545, not by the package that wrote them."""
    timeline = plan([JobInHand(name="lamp; shed, left", page="/x", tasks=CHARGE)], BENCH, EVENING)
    lines = to_ics(timeline, EVENING).decode().replace("\r\n ", "").split("\r\n")
    assert (lines[0], lines[-2]) == ("BEGIN:VCALENDAR", "END:VCALENDAR")
    assert [line for line in lines if line.startswith("DTSTART")] == [
        "DTSTART:20261126T180000Z",
        "DTSTART:20261126T202000Z",
        "DTSTART:20261126T212000Z",
        "DTSTART:20261127T212000Z",
    ]
    assert "SUMMARY:lamp\\; shed\\, left: full" in lines
    assert len({line for line in lines if line.startswith("UID")}) == 4
    assert lines.count("BEGIN:VALARM") == 3  # of what was waited for
    assert all(len(line.encode()) <= 75 for line in to_ics(timeline, EVENING).decode().split("\r\n"))
