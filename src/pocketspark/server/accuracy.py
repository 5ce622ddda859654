"""Routes of how far predictions were off: over all conversions that were measured to their end."""

from collections.abc import Iterator
from contextlib import suppress

from fastapi import APIRouter
from fastapi.responses import Response

from pocketspark.core.models import Project
from pocketspark.core.questions.prediction_errors import PredictionErrors, prediction_errors
from pocketspark.core.units.reading import METRIC, read_as
from pocketspark.formats.errors_csv import errors_as_csv
from pocketspark.server.asking import OurProjects
from pocketspark.server.budget import BudgetedRoute
from pocketspark.server.problems import PROBLEM_RESPONSES
from pocketspark.store import NothingThere, Projects, Sieve, Unreadable

router = APIRouter(prefix="/api/accuracy", tags=["accuracy"], responses=PROBLEM_RESPONSES, route_class=BudgetedRoute)

# The last so many of each stage.
MOST = 300


@router.get("")
def accuracy(projects: OurProjects) -> PredictionErrors:
    return prediction_errors(_measured(projects))


@router.get("/errors.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def accuracy_as_csv(projects: OurProjects) -> Response:
    with read_as(METRIC):
        return Response(errors_as_csv(prediction_errors(_measured(projects))), media_type="text/csv; charset=utf-8")


def _measured(projects: Projects) -> Iterator[tuple[Project, int]]:
    """The first build of each that is no practice copy: of that the shelf tells the stage."""
    for stage in ("proven", "reserved"):
        for line in projects.shelf.lines(Sieve(stage=stage), most=MOST):
            with suppress(NothingThere, Unreadable):
                project = projects.get(line.id).project
                number = next((number for number, build in enumerate(project.builds) if not build.practice), None)
                if number is not None:
                    yield project, number
