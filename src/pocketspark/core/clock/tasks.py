"""The work that is left of one build, as a row of tasks: each waits for the one before it, then takes both hands."""

from datetime import datetime
from typing import Literal

from pocketspark.core.cells.grading import grade
from pocketspark.core.life.recharge import Recharge
from pocketspark.core.message import Message, say
from pocketspark.core.models import Cell, Project
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.model import Model
from pocketspark.core.moments import hours_between, moment_of
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.steps import Step

Takes = Literal["charger", "meter"]
# Steps during whose wait something on the bench is taken: it charges, or a meter logs.
_TAKES: dict[str, Takes] = {"warmth": "charger", "full": "charger", "discharge": "meter"}


class Task(Model):
    """One thing to do. It is due `wait_min` after the one before it, and then takes both hands for `hands_min`.

    `takes`: what lies in use during the wait; `attended`: somebody is near meanwhile. `reading`: it is read when its
    wait is over, so that nothing else may be begun that would run into it. `goes_on`: it waits whatever is done
    meanwhile, as a reading does.
    """

    step: str
    title: Message
    wait_min: float
    hands_min: float
    attended: bool = False
    takes: Takes | None = None
    reading: bool = False
    goes_on: bool = False


class JobInHand(Model):
    """What is left of one build, or of the test of one cell of the maker's own.

    `since`: when its last step was done; None: not known, or nothing is done yet. `blocked`: a stop stands before the
    rest of it. `page`: where it is worked on.
    """

    name: str
    page: str
    tasks: tuple[Task, ...]
    since: datetime | None = None
    blocked: bool = False


def jobs_of(project: Project, page: str, *, ready: bool = False) -> list[JobInHand]:
    """Every build that is on the bench, practice aside; with `ready` the first one where none is."""
    begun = [
        number
        for number, build in enumerate(project.builds)
        if build.cell and build.record.steps and not build.practice
    ]
    first = [0] if ready and project.builds[0].cell else []
    return [job_of(project, number, f"{page}?build={number}") for number in begun or first]


def job_of(project: Project, build: int, page: str = "") -> JobInHand:
    """Every step that is still to do, up to the first that is locked. Raises MissingPart before a cell is chosen."""
    work = build_steps(project, build)
    steps = work.steps
    left = [step for step in steps if step.state in ("open", "held")]
    moments = [_moment(step.at) for step in steps if step.at and step.state in ("done", "overridden")]
    several = len(project.builds) > 1
    return JobInHand(
        name=f"{project.gadget.name}, {project.builds[build].name}" if several else project.gadget.name,
        page=page,
        tasks=tuple(_task(step) for step in left),
        since=max((moment for moment in moments if moment), default=None),
        blocked=work.lock is not None,
    )


def cell_job(cell: Cell, page: str = "", on_load_min: float | None = None) -> JobInHand | None:
    """The test of a salvaged cell, as far as it is still to do; None for a new one, and for one that goes to recycling.

    `on_load_min`: a load tests it, for so long at most; None: none does.

    Charged at 0.5C and discharged at 0.2C, the rate that capacities are stated at (IEC 61960, from memory).
    """
    if on_load_min is not None:
        off = Task(
            step="off_load",
            title=say("Take it off the load, and put the next one on"),
            wait_min=on_load_min,
            hands_min=5,
            attended=True,
            takes="meter",
            goes_on=True,
        )
        return JobInHand(name=cell.name, page=page, tasks=(off,))
    intake = cell.intake or Intake()
    if cell.origin != "salvaged" or grade(cell).word == "recycle":
        return None
    charge = Task(step="charge", title=say("Charge it gently"), wait_min=0, hands_min=5)
    full = Task(
        step="full",
        title=say("Take it off when it is full"),
        wait_min=60 / CHARGE_C + END_OF_CHARGE_MIN,
        hands_min=5,
        attended=True,
        takes="charger",
        reading=True,
    )
    rest = Task(step="rest", title=say("Note its volts after an hour"), wait_min=60, hands_min=5, reading=True)
    day = Task(step="day", title=say("Note its volts after a day"), wait_min=24 * 60, hands_min=5, reading=True)
    load = Task(step="load", title=say("Put it on the tester"), wait_min=0, hands_min=5)
    empty = Task(
        step="empty",
        title=say("Read what it gave"),
        wait_min=60 / DISCHARGE_C,
        hands_min=5,
        takes="meter",
        reading=True,
    )
    tasks: tuple[Task, ...] = (charge, full)
    tasks += (rest, day) if intake.drop_24h_v is None else ()
    tasks += (load, empty) if cell.measured_capacity_ah is None else ()
    return JobInHand(name=cell.name, page=page, tasks=tasks) if len(tasks) > 2 else None


RECHARGE = "recharge"


def recharge_job(name: str, page: str, due: Recharge) -> JobInHand:
    """What is done and lies unused is charged again in time."""
    wait_min = hours_between(due.charged, due.by) * 60
    task = Task(
        step=RECHARGE,
        title=say("Charge it: its cell is lost on {day}", day=due.lost),
        wait_min=wait_min,
        hands_min=5,
        goes_on=True,
    )
    return JobInHand(name=name, page=page, tasks=(task,), since=moment_of(due.charged))


CHARGE_C, DISCHARGE_C = 0.5, 0.2
# At constant voltage, after the current has been held (common practice, no source).
END_OF_CHARGE_MIN = 40.0


def _task(step: Step) -> Task:
    return Task(
        step=step.key,
        title=step.title,
        wait_min=step.wait_s / 60,
        hands_min=step.minutes,
        attended=step.attended,
        takes=_TAKES.get(step.key),
        reading=step.wait_s > 0 and step.hold is not None,
    )


def _moment(text: str) -> datetime | None:
    """A step's own moment. A day alone says too little: what waits for it counts from now."""
    if "T" not in text or not text.endswith("Z"):
        return None
    return datetime.fromisoformat(text.replace("Z", "+00:00"))
