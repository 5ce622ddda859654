"""Small parts that go into the bay besides cell and boards: a lamp on wires, a switch of its own, a spacer."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from pocketspark.core.models.model import Millimetres, Row, Title

SmallPartKind = Literal["lamp", "switch", "spacer"]
Size = Annotated[tuple[Millimetres, ...], Field(min_length=3, max_length=3)]


@dataclass(frozen=True)
class SmallPartFacts:
    """What a kind of small part is for, and its usual length, width and height, mm, without its wires."""

    label: str
    says: str
    usual_mm: tuple[float, float, float]


# A 3 mm LED with its flange and a small slide switch with its lever inside the wall: from memory of such parts'
# drawings. A spacer is whatever the maker cuts; a strip of 3 mm foam is usual (common practice, no source).
SMALL_PARTS: Mapping[SmallPartKind, SmallPartFacts] = {
    "lamp": SmallPartFacts("Lamp", "an LED on wires, seen in a wall", (5.3, 3.9, 3.9)),
    "switch": SmallPartFacts("Switch", "a slide switch, its lever through a wall", (3.6, 8.6, 3.7)),
    "spacer": SmallPartFacts("Spacer", "foam or a printed block that holds a place", (20.0, 10.0, 3.0)),
}


class SmallPart(Row):
    """One small part. `size_mm`: depth behind the wall that it shows in, width, height; None: usual for its kind."""

    kind: SmallPartKind
    name: Title
    size_mm: Size | None = None

    @property
    def mm(self) -> tuple[float, float, float]:
        x, y, z = self.size_mm or SMALL_PARTS[self.kind].usual_mm
        return x, y, z
