"""What a maker measures with, and what such tools are right to (common practice, no source)."""

from collections.abc import Mapping
from dataclasses import dataclass

from pocketspark.core.message import Label


@dataclass(frozen=True)
class Tool:
    """One kind of it. `right_to`: mm of calipers, a share of a meter's reading."""

    label: Label
    right_to: float


CALIPERS: Mapping[str, Tool] = {
    "fine": Tool("digital calipers, jaws all the way in", 0.1),
    "usual": Tool("calipers in a bay that is hard to get at", 0.3),
    "ruler": Tool("a ruler", 1.0),
}
METERS: Mapping[str, Tool] = {
    "bench": Tool("a bench meter, or one that was checked", 0.01),
    "usual": Tool("a usual multimeter", 0.03),
    "cheap": Tool("one from the bottom of the drawer", 0.05),
}
