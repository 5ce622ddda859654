"""The demo: a volunteer wetland-survey club converts its field instruments. Invented, for show only."""

import json
from importlib import resources

from pocketspark.core.models import Project
from pocketspark.core.models.inventory_item import INVENTORY_MODELS, InventoryKind, InventoryModel
from pocketspark.formats import project_json

_FILES = (
    "moth-trap-lamp",
    "bat-call-detector",
    "pocket-anemometer",
    "pond-thermometer",
    "soil-moisture-probe",
    "water-turbidity-wand",
)
# The one to look around in first: all of its stations are filled in.
EXAMPLE = 0


def demo_projects() -> list[Project]:
    """The club's conversions, in the order they should stand among the projects."""
    folder = resources.files(__package__)
    return [project_json.loads(folder.joinpath(f"{name}.json").read_text("utf-8")) for name in _FILES]


def demo_inventory() -> list[tuple[InventoryKind, InventoryModel, int]]:
    """What lies in the club's your parts: kind, part, stock."""
    records = json.loads(resources.files(__package__).joinpath("inventory.json").read_text("utf-8"))
    return [(r["kind"], INVENTORY_MODELS[r["kind"]].model_validate(r["body"]), r["stock"]) for r in records]
