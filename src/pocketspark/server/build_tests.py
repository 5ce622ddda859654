"""Routes of a build's tests by a supply and a load: which a checkpoint has, begun, looked at, stopped."""

from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import dataclass, field
from typing import Annotated

from fastapi import APIRouter, Depends, HTTPException, Request
from pydantic import Field

from pocketspark.core.bench_tests.course import Course, TestReading
from pocketspark.core.bench_tests.of_a_build import KINDS, BuildTest, TestTold, tests_of
from pocketspark.core.chain import Chain
from pocketspark.core.message import NOTHING, Message, say, verbatim
from pocketspark.core.models.model import Model, RowNumber
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps, bare, volts
from pocketspark.instruments.build_stand_in import BuildFault, on_the_bench
from pocketspark.instruments.build_test_run import read_course
from pocketspark.instruments.guarded_instrument import Guarded
from pocketspark.server.asking import OurProjects, Question, read_question
from pocketspark.server.bench_runs import LOOKED_WITHIN_S, BenchRun, BenchState, OneAtATime
from pocketspark.server.problems import PROBLEM_RESPONSES

router = APIRouter(prefix="/api/instruments/build-test", tags=["instruments"], responses=PROBLEM_RESPONSES)

# A charge goes on for hours, and a phone sleeps: there the page may be away for so long.
LONG_S, LOOKED_WITHIN_LONG_S = 600.0, 120.0
# The stand-in that a practice copy has for itself.
SIMULATED_BENCH = "simulated"
# A reading is shown so often at most.
MOST_SHOWN = 60


@dataclass(kw_only=True)
class BuildTestRun(BenchRun):
    """One test of one build, and its readings so far."""

    chain: Chain
    key: str
    course: Course
    addresses: tuple[str, str]
    fault: BuildFault | None
    speed_up: float
    readings: list[TestReading] = field(default_factory=list)

    def is_whole_after_work(self) -> bool:
        with self._bench() as (supply_at, load_at), ExitStack() as devices:
            supply = load = None
            try:
                load = devices.enter_context(Guarded("load", load_at))
                supply = devices.enter_context(Guarded("supply", supply_at))
                self.simulated = supply.simulated or load.simulated
                speed_up = self.speed_up if supply.simulated and load.simulated else 1.0
                for reading in read_course(supply, load, self.course, self.stop, self.is_looked_at, speed_up):
                    self.readings.append(reading)
            finally:
                devices.close()
                opened = [one for one in (supply, load) if one is not None]
                self.left_off = all(one.was_left_off for one in opened) if opened else None
        return not self.stop.is_set() and self.is_looked_at()

    @contextmanager
    def _bench(self) -> Iterator[tuple[str, str]]:
        if self.addresses[0] != SIMULATED_BENCH:
            yield self.addresses
            return
        with on_the_bench(self.chain, self.key, self.fault, self.speed_up) as bench:
            yield bench.supply, bench.load


BuildTests = OneAtATime[BuildTestRun]


def build_tests_of(request: Request) -> BuildTests:
    tests: BuildTests = request.app.state.build_tests
    return tests


OurTests = Annotated[BuildTests, Depends(build_tests_of)]
Address = Annotated[str, Field(min_length=1, max_length=200), ON_ONE_LINE]


class StepQuestion(Question):
    """A build, and the step that is open."""

    step: Annotated[str, Field(max_length=60)]


class TestQuestion(Question):
    """Which test of a build, and where supply and load answer: "simulated" in a practice copy.

    `fault`, `speed_up`: of the simulated bench; what lasts seconds takes its seconds there too.
    """

    __test__ = False

    test: Annotated[str, Field(max_length=60)]
    supply: Address
    load: Address
    fault: BuildFault | None = None
    speed_up: Annotated[float, Field(ge=1, le=20_000)] = 600.0


class TestShown(Model):
    """One reading of a test."""

    __test__ = False

    supply_v: ShownVolts
    supply_a: ShownAmps
    load_v: ShownVolts
    load_a: ShownAmps


class TestNews(Model):
    """How far a test is. `reading`: of its checkpoint, as its field reads it; `edits`: what it teaches the plan."""

    __test__ = False

    id: int
    state: BenchState
    says: Message
    failure: str
    share: float
    newest: TestShown | None
    result: Message
    reading: Message
    edits: tuple[Edit, ...]
    simulated: bool


@router.post("/of-step")
def tests_of_a_step(question: StepQuestion, projects: OurProjects) -> list[BuildTest]:
    """Those by which a supply and a load can answer this checkpoint. 409 where the build lacks a part for it."""
    read = read_question(question, projects)
    return list(tests_of(Chain(read.project, read.build), question.step))


@router.post("", status_code=201)
def start_test(question: TestQuestion, projects: OurProjects, tests: OurTests) -> TestNews:
    """Limits are set in both first. 404 for a test that there is not, 409 where this build has nothing to test so."""
    read = read_question(question, projects)
    chain = Chain(read.project, read.build)
    kind = KINDS.get(question.test)
    course = kind.course(chain) if kind else None
    if kind is None or course is None:
        raise HTTPException(404, say("this build has no such test"))
    simulated = SIMULATED_BENCH in (question.supply, question.load)
    if simulated and not chain.build.practice:
        raise HTTPException(409, say("the simulated bench serves practice copies alone: make one of this build first"))
    is_long = sum(setting.lasts_s for setting in course.settings) > LONG_S
    run = BuildTestRun(
        chain=chain,
        key=question.test,
        course=course,
        addresses=(SIMULATED_BENCH, SIMULATED_BENCH) if simulated else (question.supply, question.load),
        fault=question.fault,
        speed_up=question.speed_up if is_long else 1.0,
        looked_within_s=LOOKED_WITHIN_LONG_S if is_long else LOOKED_WITHIN_S,
    )
    return _news(tests.start(run))


@router.get("/{test_id}")
def look_at_test(test_id: RowNumber, tests: OurTests) -> TestNews:
    """To be asked twice a second: where nobody asks, it stops."""
    return _news(tests.looked_at(test_id))


@router.delete("/{test_id}", status_code=204)
def stop_test(test_id: RowNumber, tests: OurTests) -> None:
    """Answers when both are off."""
    tests.get(test_id)
    tests.stop()


def _news(run: BuildTestRun) -> TestNews:
    ended = run.state == "finished"
    outcome = KINDS[run.key].concludes(run.chain, run.readings) if ended else TestTold(value=None, says=NOTHING)
    last = run.readings[-1] if run.readings else None
    may_teach = not run.simulated or run.chain.build.practice
    return TestNews(
        id=run.id,
        state=run.state,
        says=_says(run),
        failure=run.failure,
        share=_share(run),
        newest=_shown(last) if last else None,
        result=outcome.says,
        reading=_reading(run.key, outcome.value),
        edits=outcome.edits if may_teach else (),
        simulated=run.simulated,
    )


def _reading(key: str, value: float | None) -> Message:
    """As it is put into the field of its checkpoint."""
    if value is None:
        return NOTHING
    return say("{number} {unit}", number=bare(float(f"{value:.4g}")), unit=verbatim(KINDS[key].unit))


def _share(run: BuildTestRun) -> float:
    settings = run.course.settings
    return (settings.index(run.readings[-1].setting) + 1) / len(settings) if run.readings else 0.0


def _shown(reading: TestReading) -> TestShown:
    return TestShown(
        supply_v=reading.setting.supply_v,
        supply_a=reading.supply_a,
        load_v=reading.load_v,
        load_a=reading.setting.load_a,
    )


def _says(run: BuildTestRun) -> Message:
    limits = run.course.limits
    if run.state == "running":
        return say(
            "The supply gives {volts} and {amps} at most. Both go off when you stop it, or close this page.",
            volts=volts(limits.volts),
            amps=amps(limits.amps),
        )
    if run.left_off is False:
        return say("Supply and load did not both say that they are off: switch them off by hand, now.")
    return NOTHING if run.state == "failed" else say("Supply and load are off.")
