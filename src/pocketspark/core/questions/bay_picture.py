"""The parts of a build as they would lie in a photograph of its bay."""

from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.photo import BayCorners, Line
from pocketspark.core.photo_plane import BayPlane, traced_box

Spot = tuple[float, ...]


class SeenPart(Model):
    """One part as a polygon in the picture, in shares of its width and height; in the plane of the marked corners."""

    part: str
    kind: str
    corners: tuple[Spot, ...]


class SeenBay(Model):
    """The bay's outline and what lies in it. No parts where the fit has put none."""

    outline: tuple[Spot, ...]
    parts: tuple[SeenPart, ...]


class TracedObstacle(Model):
    """What was traced, in the bay's own millimetres; its height is for the maker to measure."""

    at_mm: Spot
    size_mm: Spot


def seen_bay(project: Project, build: int, corners: BayCorners) -> SeenBay:
    """Raises NoPlane."""
    plane = BayPlane(corners)
    length, width = plane.size_mm
    answer = fit_of(project, build)
    placed = answer.placements if answer and not answer.tube_mm else ()
    return SeenBay(
        outline=tuple(plane.in_picture(_rectangle((0.0, 0.0), (length, width)))),
        parts=tuple(
            SeenPart(
                part=one.part,
                kind=one.kind,
                corners=tuple(
                    plane.in_picture(_rectangle((one.min_mm[0], one.min_mm[1]), (one.max_mm[0], one.max_mm[1])))
                ),
            )
            for one in sorted(placed, key=lambda one: one.max_mm[2])
        ),
    )


def traced(project: Project, corners: BayCorners, line: Line) -> TracedObstacle:
    """Raises NoPlane."""
    bay = project.gadget.bay
    x_edges = [edge for one in bay.obstacles for edge in (one.at_mm[0], one.at_mm[0] + one.size_mm[0])] if bay else []
    y_edges = [edge for one in bay.obstacles for edge in (one.at_mm[1], one.at_mm[1] + one.size_mm[1])] if bay else []
    low, size = traced_box(BayPlane(corners), line, (x_edges, y_edges))
    return TracedObstacle(at_mm=low, size_mm=size)


def _rectangle(low: tuple[float, float], high: tuple[float, float]) -> list[tuple[float, float]]:
    return [low, (high[0], low[1]), high, (low[0], high[1])]
