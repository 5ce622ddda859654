"""What goes into a sleeve and its spacers: the figures of the printed parts that fill a round bay."""

from pocketspark.core.fit.tubes import Filling, filling
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay


def filling_of(project: Project, build: int) -> Filling | None:
    """Sleeve and spacers for a round cell in a tube; None where they make no sense."""
    bay, cell = project.gadget.bay, project.builds[build].cell
    supply = project.gadget.supply
    if cell is None or cell.form != "round" or cell.size_mm is None:
        return None
    diameter, stack = _stack(bay, supply.size.size_mm if supply.kind == "cells" else None, supply.series)
    if diameter is None:
        return None
    tube_mm = bay.tube.length_mm if bay and bay.tube else stack
    return filling(diameter, cell.size_mm[0], cell.size_mm[1], min(stack, tube_mm))


def _stack(bay: Bay | None, battery_mm: tuple[float, ...] | None, series: int) -> tuple[float | None, float]:
    """Diameter of the tube, and length of the old stack in it."""
    old = battery_mm[1] * series if battery_mm and len(battery_mm) == 2 else 0.0
    if bay and bay.tube:
        return bay.tube.diameter_mm, old or bay.tube.length_mm
    return (battery_mm[0], old) if battery_mm and len(battery_mm) == 2 else (None, 0.0)
