"""What there is: gadgets, batteries, cells, boards and builds, each with its units in its names."""

from pocketspark.core.models.battery import BATTERIES, CHEMISTRIES, Battery, Chemistry
from pocketspark.core.models.board import Board, Charger, Protection, Regulator, Socket
from pocketspark.core.models.build import SOURCES, Build, Source
from pocketspark.core.models.cell import Cell
from pocketspark.core.models.cell_class import CELL_CLASSES, CellClass
from pocketspark.core.models.gadget import FRONT_ENDS, Gadget, Mode, Window
from pocketspark.core.models.project import Basis, Project
from pocketspark.core.models.supply import Supply

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
    "Protection",
    "Mode",
    "Project",
    "Regulator",
    "Socket",
    "Source",
    "Supply",
    "Window",
]
