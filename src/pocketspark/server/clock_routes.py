"""Routes of the bench clock: what is due when, over all conversions and all cells on test."""

from collections.abc import Callable
from datetime import UTC, datetime, timedelta, timezone
from typing import Annotated

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, Field

from pocketspark.core.clock import RECHARGE, JobInHand, Timeline, Workbench, cell_job, jobs_of, plan, recharge_job
from pocketspark.core.life.recharge import Recharge
from pocketspark.core.models import Cell
from pocketspark.core.questions.summary import FINISHED
from pocketspark.formats.calendar import to_ics
from pocketspark.server.asking import OurProjects
from pocketspark.server.cell_tests import tests_of
from pocketspark.server.live import live_runs_of
from pocketspark.server.own_stock import own_stock
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.server.question_routes import OurInventory
from pocketspark.store import Sieve, Unreadable

router = APIRouter(prefix="/api/clock", tags=["clock"], responses=PROBLEM_RESPONSES)

# A day's work of a workshop: more is no plan for one pair of hands.
MOST_JOBS = 60
MOST_RECHARGES = 20
# What has to be charged again later than this is no work on the bench yet.
ON_THE_BENCH_DAYS = 14


class WhenAndWith(Workbench):
    """The bench, the maker's clock as minutes ahead of UTC, and whether what is only ready to build is planned too."""

    ahead_min: Annotated[int, Field(ge=-14 * 60, le=14 * 60)] = 0
    ready: bool = False


class ClockAnswer(BaseModel):
    """The timeline, and the moment it is made for. `more`: jobs beyond the first sixty, which are not planned."""

    now: datetime
    timeline: Timeline
    more: int


def _answer(
    request: Request, asked: Annotated[WhenAndWith, Query()], projects: OurProjects, inventory: OurInventory
) -> ClockAnswer:
    now = datetime.now(timezone(timedelta(minutes=asked.ahead_min))).replace(microsecond=0)
    jobs = _jobs(projects, inventory, lambda part_id: _on_load_min(request, part_id), ready=asked.ready)
    return ClockAnswer(now=now, timeline=plan(jobs[:MOST_JOBS], asked, now), more=max(len(jobs) - MOST_JOBS, 0))


Answer = Annotated[ClockAnswer, Depends(_answer)]


@router.get("")
def clock(answer: Answer) -> ClockAnswer:
    """What is to be charged again in months is in the calendar file, and not yet on the bench."""
    soon = answer.now + timedelta(days=ON_THE_BENCH_DAYS)
    timeline = answer.timeline
    due = tuple(one for one in timeline.due if one.step != RECHARGE or one.begins < soon)
    later = {one.job for one in timeline.due} - {one.job for one in due}
    ends = {job: end for job, end in timeline.ends.items() if job not in later}
    return answer.model_copy(update={"timeline": timeline.model_copy(update={"due": due, "ends": ends})})


@router.get("/calendar", response_class=Response, responses={200: {"content": {"text/calendar": {}}}})
def calendar(answer: Answer) -> Response:
    headers = {"Content-Disposition": 'attachment; filename="bench.ics"'}
    return Response(to_ics(answer.timeline, datetime.now(UTC)), media_type="text/calendar", headers=headers)


def _on_load_min(request: Request, part_id: int) -> float | None:
    return tests_of(request).minutes_left(part_id, live_runs_of(request))


def _jobs(
    projects: OurProjects, inventory: OurInventory, on_load_min: Callable[[int], float | None], *, ready: bool
) -> list[JobInHand]:
    """Of every conversion whose line on the shelf says that it is on the bench; no other document is read."""
    wanted = ("bench", "fits") if ready else ("bench",)
    jobs: list[JobInHand] = []
    for line in (line for stage in wanted for line in projects.shelf.lines(Sieve(stage=stage))):
        try:
            jobs += jobs_of(projects.get(line.id).project, f"/conversion/{line.id}/build", ready=ready)
        except Unreadable:
            continue
    jobs += _recharges(projects)
    for part, own in own_stock(inventory, projects):
        # What is shut in a gadget is not tested on the bench.
        is_there = isinstance(part.body, Cell) and (own.free > 0 or own.built_in == 0)
        if is_there and isinstance(part.body, Cell):
            job = cell_job(part.body, f"/parts#{part.id}", on_load_min(part.id))
            jobs += [job] if job else []
    return jobs


def _recharges(projects: OurProjects) -> list[JobInHand]:
    """Of what is finished, by the lines of the shelf; the first that are due."""
    found: list[tuple[str, JobInHand]] = []
    for stage in FINISHED:
        for line in projects.shelf.lines(Sieve(stage=stage)):
            if due := (line.summary or {}).get("recharge"):
                recharge = Recharge.model_validate(due)
                found.append((recharge.by, recharge_job(line.name, f"/conversion/{line.id}/years", recharge)))
    return [job for _, job in sorted(found, key=lambda one: one[0])[:MOST_RECHARGES]]
