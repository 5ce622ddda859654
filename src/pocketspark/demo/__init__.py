"""The demo: a volunteer wetland-survey club converts its field instruments. Invented, for show only."""

import json
from importlib import resources

from pocketspark.core.nouns import Project
from pocketspark.core.nouns.drawer import DRAWER_BODIES, DrawerBody, DrawerKind
from pocketspark.formats import project_json

_FILES = (
    "moth-trap-lamp",
    "bat-call-detector",
    "pocket-anemometer",
    "pond-thermometer",
    "soil-moisture-probe",
    "water-turbidity-wand",
)


def demo_projects() -> list[Project]:
    """The club's conversions, in the order they should stand on the shelf."""
    folder = resources.files(__package__)
    return [project_json.loads(folder.joinpath(f"{name}.json").read_text("utf-8")) for name in _FILES]


def demo_drawer() -> list[tuple[DrawerKind, DrawerBody, int]]:
    """What lies in the club's drawers: kind, part, stock."""
    records = json.loads(resources.files(__package__).joinpath("drawer.json").read_text("utf-8"))
    return [(r["kind"], DRAWER_BODIES[r["kind"]].model_validate(r["body"]), r["stock"]) for r in records]
