"""The parts of a build as they would lie in a photograph of its bay."""

from collections.abc import Iterator
from typing import cast, get_args

from pocketspark.core.chain import Chain
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.hookup.hookup import hook_up
from pocketspark.core.message import Message, say, say_of
from pocketspark.core.models import Project
from pocketspark.core.models.battery import BATTERIES
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.photographs.bay_finder import FoundBay
from pocketspark.core.photographs.marks import BayCorners, Line
from pocketspark.core.photographs.plane import BayPlane, WallSide, traced_box, traced_wall
from pocketspark.core.units.figures import percent
from pocketspark.core.wiring.laid import laid_wires

Spot = tuple[float, ...]


class SeenPart(Model):
    """One part as a polygon in the picture, in shares of its width and height; in the plane of the marked corners."""

    part: str
    kind: str
    corners: tuple[Spot, ...]


class SeenOpening(Model):
    """A hole that the fit asks for, as a line on the bay's rim; `what` it is for, and through which wall."""

    what: str
    side: WallSide
    line: tuple[Spot, ...]


class SeenWire(Model):
    """A wire from pad to pad, by its letter and in its colour: along the bay first, then across, as wires are led."""

    letter: str
    colour: str
    says: Message
    line: tuple[Spot, ...]


class SeenBay(Model):
    """The bay's outline, what lies in it, what shows in its walls, its wires. Nothing where the fit has put no part."""

    outline: tuple[Spot, ...]
    parts: tuple[SeenPart, ...]
    openings: tuple[SeenOpening, ...] = ()
    wires: tuple[SeenWire, ...] = ()


class TracedWall(Model):
    """A stretch of a wall that may be opened, and what sets it in the survey."""

    side: WallSide
    from_mm: float
    to_mm: float
    edits: tuple[Edit, ...]


class TracedObstacle(Model):
    """What was traced, in the bay's own millimetres; its height is for the maker to measure."""

    at_mm: Spot
    size_mm: Spot


# What nine of ten lengths of bays in drawn photographs are right to (tests/reference/test_bay_in_photographs.py).
LENGTHS_WITHIN = 0.12


class ProposedBay(Model):
    """A bay that was found in a photograph, to be looked at and dragged right: nothing of it is taken as measured.

    `edits` set the batteries that were seen; none where none were.
    """

    found: FoundBay
    says: Message
    lengths_say: Message = say(
        "Lengths by a picture are right to {share} or so: calipers decide.", share=percent(LENGTHS_WITHIN)
    )
    edits: tuple[Edit, ...] = ()


def proposed_bay(found: FoundBay) -> ProposedBay:
    """What a photograph shows of a bay, in words, and what would set its batteries."""
    if found.battery is None:
        return ProposedBay(found=found, says=say("No batteries are seen in it."))
    battery, count = BATTERIES[found.battery], len(found.batteries)
    called = battery.common if battery.common == battery.iec else f"{battery.common} ({battery.iec})"
    says = say_of(count, "One battery is seen in it: {name}.", "{count} batteries are seen in it: {name}.", name=called)
    edits = {"kind": "cells", "battery": battery.iec, "series": count, "parallel": 1}
    return ProposedBay(
        found=found,
        says=says,
        edits=tuple(Edit(path=f"gadget.supply.{name}", value=value) for name, value in edits.items()),
    )


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
        openings=tuple(_seen_openings(answer, plane)) if answer and placed else (),
        wires=tuple(_seen_wires(Chain(project, build), answer, plane)) if answer and placed else (),
    )


def _seen_wires(chain: Chain, answer: FitAnswer, plane: BayPlane) -> Iterator[SeenWire]:
    if chain.build.cell is None:
        return
    for laid in laid_wires(chain, hook_up(chain), answer):
        wire, corner = laid.wire, (laid.end[0], laid.start[1])
        start, end = (pad.replace(".", " ") for pad in (wire.start, wire.end))
        yield SeenWire(
            letter=wire.letter,
            colour=wire.colour,
            says=say(
                "{letter}, {colour}: {start} to {end}", letter=wire.letter, colour=wire.colour, start=start, end=end
            ),
            line=tuple(plane.in_picture([laid.start, corner, laid.end])),
        )


def _seen_openings(answer: FitAnswer, plane: BayPlane) -> Iterator[SeenOpening]:
    """Holes in the walls round the bay, each as a line on the inside of its wall, as it is seen from above."""
    length, width = answer.size_mm[:2]
    for hole in answer.openings:
        if hole.side not in get_args(WallSide):
            continue
        (x, y, _), (right, back, _) = hole.min_mm, hole.max_mm
        ends = {
            "front": [(x, 0.0), (right, 0.0)],
            "back": [(x, width), (right, width)],
            "left": [(0.0, y), (0.0, back)],
            "right": [(length, y), (length, back)],
        }[hole.side]
        yield SeenOpening(what=hole.what, side=cast(WallSide, hole.side), line=tuple(plane.in_picture(ends)))


def traced(project: Project, corners: BayCorners, line: Line) -> TracedObstacle:
    """Raises NoPlane."""
    bay = project.gadget.bay
    x_edges = [edge for one in bay.obstacles for edge in (one.at_mm[0], one.at_mm[0] + one.size_mm[0])] if bay else []
    y_edges = [edge for one in bay.obstacles for edge in (one.at_mm[1], one.at_mm[1] + one.size_mm[1])] if bay else []
    low, size = traced_box(BayPlane(corners), line, (x_edges, y_edges))
    return TracedObstacle(at_mm=low, size_mm=size)


def traced_opening(project: Project, corners: BayCorners, line: Line) -> TracedWall:
    """The wall along which was drawn may be opened there, and nowhere else on it. Raises NoPlane."""
    side, from_mm, to_mm = traced_wall(BayPlane(corners), line)
    known = next((wall for wall in (project.gadget.bay.walls if project.gadget.bay else ()) if wall.side == side), None)
    edits = (
        [Edit(path="gadget.bay.walls.+", value={"side": side, "from_mm": from_mm, "to_mm": to_mm})]
        if known is None
        else [
            Edit(path=f"gadget.bay.walls.{known.id}.{key}", value=value)
            for key, value in (("from_mm", from_mm), ("to_mm", to_mm))
        ]
    )
    return TracedWall(side=side, from_mm=from_mm, to_mm=to_mm, edits=tuple(edits))


def _rectangle(low: tuple[float, float], high: tuple[float, float]) -> list[tuple[float, float]]:
    return [low, (high[0], low[1]), high, (low[0], high[1])]
