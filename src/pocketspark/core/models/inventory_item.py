"""What a maker's own inventory may hold."""

from collections.abc import Mapping
from typing import Literal

from pocketspark.core.models.board import Board
from pocketspark.core.models.cell import Cell
from pocketspark.core.models.model import Model, ProgOhms, Title, Tolerance

InventoryKind = Literal["cell", "charger", "protection", "regulator", "resistor"]


class Resistor(Model):
    """A resistor to program a charger with."""

    name: Title = "resistor"
    r_ohm: ProgOhms
    tolerance: Tolerance = 0.01
    mounting: Literal["leaded", "chip"] = "chip"


InventoryModel = Cell | Board | Resistor

INVENTORY_MODELS: Mapping[InventoryKind, type[Cell] | type[Board] | type[Resistor]] = {
    "cell": Cell,
    "charger": Board,
    "protection": Board,
    "regulator": Board,
    "resistor": Resistor,
}
