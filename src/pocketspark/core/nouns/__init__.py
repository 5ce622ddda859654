"""What there is: gadgets, batteries, cells, boards and builds, each with its units in its names."""

from pocketspark.core.nouns.battery import BATTERIES, CHEMISTRIES, Battery, Chemistry
from pocketspark.core.nouns.board import Board, Charger, Guard, Shaper, Socket
from pocketspark.core.nouns.build import SOURCES, Build, Source
from pocketspark.core.nouns.cell import CELL_CLASSES, Cell, CellClass
from pocketspark.core.nouns.gadget import FRONT_ENDS, Gadget, Mode, Window
from pocketspark.core.nouns.project import Basis, Project
from pocketspark.core.nouns.supply import Supply

__all__ = [
    "BATTERIES",
    "CELL_CLASSES",
    "CHEMISTRIES",
    "FRONT_ENDS",
    "SOURCES",
    "Basis",
    "Battery",
    "Board",
    "Build",
    "Cell",
    "CellClass",
    "Charger",
    "Chemistry",
    "Gadget",
    "Guard",
    "Mode",
    "Project",
    "Shaper",
    "Socket",
    "Source",
    "Supply",
    "Window",
]
