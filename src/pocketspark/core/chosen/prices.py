"""What the parts of a build cost, in whatever money they are priced in. The maker's own cost nothing any more."""

from collections.abc import Mapping

from pocketspark.core.models import Board, Build, Cell
from pocketspark.core.models.build import UseWhileCharging

# What is taken of a part without a price (assumed).
CELL_PRICE_PER_AH = 4.0
BOARD_PRICE = 1.0
# What a way of use takes beside the boards: diodes, a switch (rough prices, in the money of the parts).
_PRICE_OF_USE: Mapping[UseWhileCharging, float] = {"two_diodes": 0.2, "change_over": 0.6}


def price_of(part: Cell | Board) -> float:
    if part.inventory_id is not None:
        return 0.0
    if part.price is not None:
        return part.price
    if isinstance(part, Board):
        return BOARD_PRICE
    return 0.0 if part.origin == "salvaged" else 1 + CELL_PRICE_PER_AH * part.capacity_ah


def price_of_way(build: Build) -> float:
    """What this way of building costs, whatever its parts are."""
    outside = (build.external_charger.price or 0.0) if build.who_charges == "external" else 0.0
    return _PRICE_OF_USE.get(build.use_while_charging, 0.0) + outside


def price_of_parts(build: Build) -> float:
    """Of everything in it but wire, tape and solder."""
    parts: tuple[Cell | Board, ...] = (*build.cells, *build.boards)
    return round(sum(price_of(part) for part in parts) + price_of_way(build), 2)
