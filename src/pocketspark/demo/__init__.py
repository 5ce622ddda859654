"""The demo: a volunteer wetland-survey club converts its field instruments. Invented, for show only."""

from importlib import resources

from pocketspark.core.nouns import Project
from pocketspark.formats import project_json

_FILES = ("moth-trap-lamp", "bat-call-detector", "pocket-anemometer", "pond-thermometer", "soil-moisture-probe")


def demo_projects() -> list[Project]:
    """The club's conversions, in the order they should stand on the shelf."""
    folder = resources.files(__package__)
    return [project_json.loads(folder.joinpath(f"{name}.json").read_text("utf-8")) for name in _FILES]
