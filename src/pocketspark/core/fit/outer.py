"""The first look at a fit: does a cell's outside go into the room the old batteries leave?"""

import itertools
import math

from pocketspark.core.fit.allowances import ROUND_OVER_MM, SWELL_SHARE, TABS_MM
from pocketspark.core.models import Cell, Gadget
from pocketspark.core.models.supply import Supply


def room_mm(supply: Supply) -> tuple[float, float, float] | None:
    """Length, width and height of the old batteries laid side by side; None where they are not known by size."""
    if supply.kind != "cells":
        return None
    size, count = supply.size, supply.count
    if size.form == "block":
        length, width, height = size.size_mm
        return length, width * count, height
    diameter, tall = size.size_mm
    if size.form in ("coin", "button"):
        return diameter, diameter, tall * count
    return tall, diameter * count, diameter


def boxes_mm(gadget: Gadget) -> list[tuple[float, float, float]]:
    """The boxes of its bay as measured, each by itself; else the room of its old batteries. Empty: not known."""
    bay = gadget.bay
    if bay is not None and bay.tube is not None:
        across_mm = bay.tube.diameter_mm / math.sqrt(2)
        return [(bay.tube.length_mm, across_mm, across_mm)]
    if bay is not None:
        lengths = [(*room.inside_mm[:2], room.inside_mm[2] + bay.lid_raised_mm) for room in bay.rooms]
        return [(length, width, height) for length, width, height in lengths]
    room = room_mm(gadget.supply)
    return [] if room is None else [room]


def most_margin_mm(cell: Cell, gadget: Gadget) -> float | None:
    """By its outside alone, in whichever box leaves most. None: neither cell nor bay is known by size."""
    margins = (outer_margin_mm(cell, box) for box in boxes_mm(gadget))
    return max((margin for margin in margins if margin is not None), default=None)


def body_mm(cell: Cell) -> tuple[float, float, float] | None:
    """The box a cell needs: with swell and tabs for a pouch, with its run-over for a round one."""
    if cell.size_mm is None:
        return None
    if cell.form == "round":
        diameter, length = cell.size_mm
        return length, diameter + ROUND_OVER_MM, diameter + ROUND_OVER_MM
    thickness, width, length = cell.size_mm
    swollen = thickness * (1 + SWELL_SHARE) if cell.form == "pouch" else thickness
    return length + TABS_MM, width, swollen


def outer_margin_mm(cell: Cell, room: tuple[float, float, float] | None) -> float | None:
    """Smallest clearance in any direction, the best way round; negative: too large by so much. None: not known."""
    body = body_mm(cell)
    if body is None or room is None:
        return None
    return max(min(r - b for r, b in zip(room, turned, strict=True)) for turned in itertools.permutations(body))
