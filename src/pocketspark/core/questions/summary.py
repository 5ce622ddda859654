"""A conversion in one line: what it is, what it comes to, and the gravest thing that stands against it."""

from pocketspark.core.finding import Level
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.build_steps import build_steps
from pocketspark.core.units.figures import days, hours


class Summary(Model):
    """The line of a project in a list of many. `headline`: the gravest stop or caution; empty texts: not known."""

    supply: str
    builds: int
    worst: Level
    headline: str = ""
    charges: str = ""
    runs: str = ""
    finished: bool = False  # a build of it, practice aside, is done and proven


def _is_finished(project: Project, number: int) -> bool:
    build = project.builds[number]
    return bool(build.cell and build.record.steps and not build.practice) and build_steps(project, number).finished


def summary_of(project: Project) -> Summary:
    """Judged by its first build."""
    assessment = assess(project)
    charge, run = assessment.charge, assessment.run
    against = (finding.headline for finding in assessment.findings if finding.level in ("stop", "caution"))
    return Summary(
        supply=project.gadget.supply.label,
        builds=len(project.builds),
        worst=assessment.worst,
        headline=next(against, ""),
        charges=f"charges in {hours(charge.hours)}" if charge and charge.hours else "",
        runs=f"runs {days(run.days)}" if run and run.days else "",
        finished=any(_is_finished(project, number) for number in range(len(project.builds))),
    )
