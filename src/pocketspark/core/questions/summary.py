"""A conversion in one line: what it is, how far it is, what it comes to, and what is to be done next."""

from collections.abc import Mapping
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Finding, Level
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.picture import BayPicture, picture_of
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.life.recharge import Recharge, recharge_of
from pocketspark.core.life.serving import Serving, serving, years_shown
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.steps import Procedure
from pocketspark.core.units.figures import days, hours

Stage = Literal["begun", "surveyed", "planned", "fits", "bench", "unproven", "reserved", "proven"]
STAGES: Mapping[Stage, tuple[str, str]] = {
    "begun": ("Begun", "what it draws is not known yet"),
    "surveyed": ("Surveyed", "cell or charger to be chosen"),
    "planned": ("Planned", "parts chosen; something stands against it, or it does not go in yet"),
    "fits": ("Ready to build", "nothing stops it, and all of it goes in"),
    "bench": ("On the bench", "steps are done"),
    "unproven": ("Finished, unproven", "every step is done; what would prove it is missing"),
    "reserved": ("Finished, with reservations", "built and measured; something was passed over"),
    "proven": ("Proven", "built, measured and finished, everything within its limits"),
}


FINISHED: tuple[Stage, ...] = ("unproven", "reserved", "proven")


class NextStep(Model):
    """What to do next, and the page of the conversion to do it on."""

    text: Message
    page: str


class Summary(Model):
    """The line of a project in a list of many. `headline`: the gravest stop or caution; empty texts: not known."""

    supply: Message
    builds: int
    worst: Level
    stage: Stage = "begun"
    tags: tuple[str, ...] = ()
    next_step: NextStep | None = None
    picture: BayPicture | None = None
    headline: Message = NOTHING
    charges: Message = NOTHING
    runs: Message = NOTHING
    worth: Message = NOTHING  # should it be done: the answer in a few words
    finished: bool = False  # a build of it, practice aside, is done
    reservations: tuple[Message, ...] = ()  # why it is not proven
    serves: Message = NOTHING  # how many years
    recharge: Recharge | None = None  # of a build that is done: when it has to be charged again


def summary_of(project: Project) -> Summary:
    """Judged by its first build that has a cell, and by whichever build is furthest on the bench."""
    number = next((number for number, build in enumerate(project.builds) if build.cell and not build.practice), 0)
    assessment = assess(project, number)
    charging, run = assessment.charging, assessment.run
    against = [finding for finding in assessment.findings if finding.level in ("stop", "caution")]
    answer = fit_of(project, number) if project.builds[number].cell else None
    work, served = _work(project), serving(Chain(project, number))
    stage = _stage(project, number, against, answer, work)
    return Summary(
        supply=project.gadget.supply.label,
        builds=len(project.builds),
        worst=assessment.worst,
        stage=stage,
        tags=project.tags,
        next_step=_next_step(stage, against, answer, work),
        picture=picture_of(answer),
        headline=against[0].headline if against else NOTHING,
        charges=say("charges in {hours}", hours=hours(charging.hours)) if charging and charging.hours else NOTHING,
        runs=say("lasts {days}", days=days(run.served_days)) if run and run.served_days else NOTHING,
        worth=assessment.worth.headline if assessment.worth else NOTHING,
        finished=stage in FINISHED,
        serves=_serves(served) if assessment.worst != "stop" else NOTHING,
        recharge=_recharge(project),
        reservations=work.verdict.because if work and work.finished and work.verdict else (),
    )


def _serves(served: Serving | None) -> Message:
    return say("serves {years}", years=years_shown(served.years)) if served else NOTHING


def _recharge(project: Project) -> Recharge | None:
    """Of the first build of which a full charge is known."""
    due = (recharge_of(Chain(project, number)) for number in range(len(project.builds)))
    return next((one for one in due if one), None)


def _work(project: Project) -> Procedure | None:
    """The steps of the build that is furthest, practice aside; None where nothing is done yet."""
    begun = [
        build_steps(project, number)
        for number, build in enumerate(project.builds)
        if build.cell and build.record.steps and not build.practice
    ]
    return max(begun, key=lambda work: (work.finished, sum(step.state == "done" for step in work.steps)), default=None)


def _stage(
    project: Project, number: int, against: list[Finding], answer: FitAnswer | None, work: Procedure | None
) -> Stage:
    build = project.builds[number]
    if work:
        return work.verdict.kind if work.finished and work.verdict else "bench"
    if not project.gadget.modes:
        return "begun"
    if not build.cell or (build.who_charges == "board" and not build.boards):
        return "surveyed"
    goes_in = answer is not None and answer.fits == "yes" and not answer.assumed_bay
    return "fits" if goes_in and all(finding.level != "stop" for finding in against) else "planned"


def _next_step(
    stage: Stage, against: list[Finding], answer: FitAnswer | None, work: Procedure | None
) -> NextStep | None:
    if stage == "begun":
        return NextStep(text=say("Measure what it draws"), page="survey")
    if stage == "surveyed":
        return NextStep(text=say("Look at the proposals"), page="proposals")
    if stage == "planned":
        return _still_to_plan(against, answer)
    if stage == "fits":
        return NextStep(text=say("Begin to build"), page="build")
    if stage in FINISHED or work is None:
        return NextStep(text=say("Print its certificate"), page="build")
    return NextStep(text=next(step.title for step in work.steps if step.key == work.next_step), page="build")


def _still_to_plan(against: list[Finding], answer: FitAnswer | None) -> NextStep:
    stops = [finding for finding in against if finding.level == "stop"]
    if stops:
        return NextStep(text=say("Solve what stops it"), page=stops[0].station)
    if answer is None or answer.assumed_bay:
        return NextStep(text=say("Measure its bay"), page="fit")
    return NextStep(text=say("Make it fit"), page="fit")
