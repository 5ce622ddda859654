"""What a maker's own drawer may hold."""

from collections.abc import Mapping
from typing import Literal

from pocketspark.core.nouns.board import Board
from pocketspark.core.nouns.cell import Cell
from pocketspark.core.nouns.noun import Noun, ProgramOhms, Share, Title

DrawerKind = Literal["cell", "charger", "guard", "shaper", "resistor"]


class Resistor(Noun):
    """A resistor to program a charger with."""

    name: Title = "resistor"
    r_ohm: ProgramOhms
    tolerance: Share = 0.01
    mounting: Literal["leaded", "chip"] = "chip"


DrawerBody = Cell | Board | Resistor

DRAWER_BODIES: Mapping[DrawerKind, type[Cell] | type[Board] | type[Resistor]] = {
    "cell": Cell,
    "charger": Board,
    "guard": Board,
    "shaper": Board,
    "resistor": Resistor,
}
