"""Which printed parts a build has a use for, and the figures that go into them."""

from pocketspark.core.fit.tubes import Filling, filling
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay

PRINTS = {
    "lid": "lid blank with its openings",
    "sleeve": "sleeve for a thinner cell",
    "front-spacer": "front spacer",
    "rear-spacer": "rear spacer",
    "cradle": "board cradle with socket stop",
    "dummy": "dummy cell",
    "box": "outside box",
    "box-lid": "lid of the outside box",
}


def filling_of(project: Project, build: int) -> Filling | None:
    """Sleeve and spacers for a round cell in a tube; None where they make no sense."""
    bay, cell = project.gadget.bay, project.builds[build].cell
    supply = project.gadget.supply
    if cell is None or cell.form != "round" or cell.size_mm is None:
        return None
    diameter, stack = _stack(bay, supply.size.size_mm if supply.kind == "cells" else None, supply.series)
    if diameter is None:
        return None
    return filling(diameter, cell.size_mm[0], cell.size_mm[1], stack)


def _stack(bay: Bay | None, battery_mm: tuple[float, ...] | None, series: int) -> tuple[float | None, float]:
    """Diameter of the tube, and length of the old stack in it."""
    old = battery_mm[1] * series if battery_mm and len(battery_mm) == 2 else 0.0
    if bay and bay.tube:
        return bay.tube.diameter_mm, old or bay.tube.length_mm
    return (battery_mm[0], old) if battery_mm and len(battery_mm) == 2 else (None, 0.0)
