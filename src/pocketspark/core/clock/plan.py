"""Puts all jobs on one bench: one pair of hands, so many chargers and meters, and hours in which anybody is up.

What is due at a set time goes first; else the task of the shortest job that is left, so that something is finished
soon. Nothing is begun that would run into a reading, and no charge that somebody has to stay with runs into the night.
"""

from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime, time, timedelta
from typing import Annotated, Self

from pydantic import Field, field_validator, model_validator

from pocketspark.core.clock.tasks import JobInHand, Takes, Task
from pocketspark.core.message import Message
from pocketspark.core.models.model import Model, refusal

# A reading may be taken so much later than it is due, and still tells the same.
LATE_MIN = 15.0
_SHORT_WAIT_MIN = 180.0
_STEP = timedelta(minutes=5)
_LONGEST = timedelta(days=400)


class Workbench(Model):
    """What there is to work with, and when. `day_begins` and `day_ends` are of the maker's own clock."""

    chargers: Annotated[int, Field(ge=1, le=20)] = 1
    meters: Annotated[int, Field(ge=1, le=20)] = 1
    day_begins: time = time(9)
    day_ends: time = time(22)

    @field_validator("day_begins", "day_ends")
    @classmethod
    def _on_the_wall(cls, value: time) -> time:
        """A clock on the wall knows no zone."""
        return value.replace(tzinfo=None)

    @model_validator(mode="after")
    def _has_a_day(self) -> Self:
        if self.day_begins >= self.day_ends:
            raise refusal("the day on the bench ends before it begins: say from when to when you are up")
        return self


class Due(Model):
    """One task at its time. `waits_from`: when its wait began, where it has one; `late`: due, but nobody is up."""

    job: str
    page: str
    step: str
    title: Message
    waits_from: datetime | None = None
    begins: datetime
    ends: datetime
    attended: bool = False
    late: bool = False


class Timeline(Model):
    """Everything in the order it is to be done. `ends`: job by job, when it is finished.

    `blocked`: jobs that come to a stop of the findings first; `left`: what does not end within a year.
    """

    due: tuple[Due, ...]
    ends: dict[str, datetime]
    blocked: tuple[str, ...] = ()
    left: tuple[str, ...] = ()


@dataclass
class _Row:
    """One job as it moves along."""

    job: JobInHand
    ready: datetime  # the wait of its next task is over by then
    waits_from: datetime
    waiting: bool = False  # that wait has begun, and holds what it takes
    tasks: list[Task] = field(default_factory=list)

    @property
    def hands_left(self) -> float:
        return sum(task.hands_min for task in self.tasks)


def plan(jobs: Sequence[JobInHand], bench: Workbench, now: datetime) -> Timeline:
    """The timeline of all jobs from `now` on, in `now`'s own time zone. The same jobs always give the same one."""
    rows = [_row(job, now) for job in jobs if job.tasks]
    for row in rows:
        row.waiting = row.waits_from < now
    at, due, ends = now, list[Due](), dict[str, datetime]()
    while any(row.tasks for row in rows) and at < now + _LONGEST:
        _let_wait(rows, bench, at)
        chosen = next(_may_begin(rows, bench, at), None)
        if chosen is None:
            at = _next_moment(rows, bench, at)
            continue
        at = _do(chosen, at, due, ends)
    return Timeline(
        due=tuple(due),
        ends=ends,
        blocked=tuple(job.name for job in jobs if job.blocked),
        left=tuple(row.job.name for row in rows if row.tasks),
    )


def _do(row: _Row, at: datetime, due: list[Due], ends: dict[str, datetime]) -> datetime:
    """Its next task is begun: when the hands are free again."""
    task = row.tasks.pop(0)
    over = at + timedelta(minutes=task.hands_min)
    due.append(_due(row, task, at, over))
    row.waits_from, row.waiting = over, False
    row.ready = over + timedelta(minutes=row.tasks[0].wait_min if row.tasks else 0)
    if not row.tasks and not row.job.blocked:
        ends[row.job.name] = over
    return over


def _row(job: JobInHand, now: datetime) -> _Row:
    """What waits goes on from when the last step was done, for as long as that can still be meant."""
    since = job.since.astimezone(now.tzinfo) if job.since else now
    first = job.tasks[0]
    waits_from = since if (first.reading or first.goes_on) and since <= now else now
    return _Row(job, waits_from + timedelta(minutes=first.wait_min), waits_from, tasks=list(job.tasks))


def _let_wait(rows: Sequence[_Row], bench: Workbench, at: datetime) -> None:
    """A wait that takes a charger or a meter begins as soon as one is free, shortest job first."""
    taken = _taken(rows)
    for row in sorted(rows, key=_shortest):
        if not row.tasks or row.waiting or row.waits_from > at:
            continue
        takes = row.tasks[0].takes
        if takes and taken[takes] >= _there(bench)[takes]:
            continue
        if takes:
            taken[takes] += 1
        row.waiting, row.waits_from = True, max(row.waits_from, at)
        row.ready = row.waits_from + timedelta(minutes=row.tasks[0].wait_min)


def _may_begin(rows: Sequence[_Row], bench: Workbench, at: datetime) -> Iterator[_Row]:
    """Rows whose next task may begin now: readings first, the longest overdue of them first."""
    if not _is_up(bench, at):
        return
    ready = [row for row in rows if row.tasks and row.waiting and row.ready <= at]
    readings = sorted((row for row in ready if row.tasks[0].reading), key=lambda row: (row.ready, row.job.name))
    yield from readings
    others = sorted((row for row in ready if not row.tasks[0].reading), key=_shortest)
    yield from (row for row in others if _has_room(row, rows, bench, at))


def _has_room(row: _Row, rows: Sequence[_Row], bench: Workbench, at: datetime) -> bool:
    """Whether it is done before the next reading and the night, and what follows it and is attended as well."""
    over = at + timedelta(minutes=row.tasks[0].hands_min)
    readings = (other.ready for other in rows if other.tasks and other.waiting and other.tasks[0].reading)
    if any(at < moment and over > moment + timedelta(minutes=LATE_MIN) for moment in readings):
        return False
    if over > _day_end(bench, at):
        return False
    following = row.tasks[1] if len(row.tasks) > 1 else None
    if following is None or following.takes is None:
        return True
    if _taken(rows)[following.takes] >= _there(bench)[following.takes]:
        return False
    stays = timedelta(minutes=sum(task.wait_min + task.hands_min for task in _same_day(row)))
    day = _day_end(bench, at) - _day_begin(bench, at)
    is_longer_than_a_day = over - at + stays > day
    return over + stays <= _day_end(bench, at) or (is_longer_than_a_day and at <= _day_begin(bench, at) + _STEP)


def _same_day(row: _Row) -> Iterator[Task]:
    """What follows it and has to be done on the same day: what is attended, and short waits after that."""
    for task in row.tasks[1:]:
        if not task.attended and not (task.reading and task.wait_min <= _SHORT_WAIT_MIN):
            return
        yield task


def _next_moment(rows: Sequence[_Row], bench: Workbench, at: datetime) -> datetime:
    """When anything may change: the next wait that ends, or the next morning."""
    if not _is_up(bench, at):
        morning = _day_begin(bench, at)
        return morning if morning > at else morning + timedelta(days=1)
    ends = [row.ready for row in rows if row.tasks and row.waiting and row.ready > at]
    return min([*ends, max(_day_end(bench, at), at + _STEP)])


def _due(row: _Row, task: Task, at: datetime, over: datetime) -> Due:
    return Due(
        job=row.job.name,
        page=row.job.page,
        step=task.step,
        title=task.title,
        waits_from=row.waits_from if task.wait_min else None,
        begins=at,
        ends=over,
        attended=task.attended,
        late=task.reading and at > row.ready + timedelta(minutes=LATE_MIN),
    )


def _shortest(row: _Row) -> tuple[float, str, str]:
    return row.hands_left, row.job.name, row.job.page


def _taken(rows: Sequence[_Row]) -> Counter[Takes]:
    return Counter(row.tasks[0].takes for row in rows if row.tasks and row.waiting and row.tasks[0].takes)


def _there(bench: Workbench) -> Mapping[Takes, int]:
    return {"charger": bench.chargers, "meter": bench.meters}


def _is_up(bench: Workbench, at: datetime) -> bool:
    return _day_begin(bench, at) <= at < _day_end(bench, at)


def _day_begin(bench: Workbench, at: datetime) -> datetime:
    return datetime.combine(at.date(), bench.day_begins, at.tzinfo)


def _day_end(bench: Workbench, at: datetime) -> datetime:
    return datetime.combine(at.date(), bench.day_ends, at.tzinfo)
