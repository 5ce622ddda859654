"""A judgement, and the finding it becomes once a rule has signed it: one plain sentence and all that it rests on."""

from collections.abc import Iterable, Mapping
from typing import Annotated, Literal

from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.message import NOTHING, Label, Message
from pocketspark.core.models.kinds import KeyOf
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import Figure

Level = Literal["stop", "caution", "note", "pass"]
StationKey = Annotated[str, KeyOf(STATIONS)]
Node = Literal["source", "charger", "cell", "protection", "regulator", "gadget"]

GRAVITY: dict[Level, int] = {"stop": 3, "caution": 2, "note": 1, "pass": 0}
LEVELS: Mapping[Level, tuple[str, str]] = {
    "stop": ("stop", "do not build or power this"),
    "caution": ("caution", "works, with a cost or a risk that is named"),
    "note": ("note", "worth knowing"),
    "pass": ("fine", "checked, and fine"),
}


class Remedy(Model):
    """A change the tool can make by itself, as edits to the project document."""

    label: Message
    edits: tuple[Edit, ...]


class Judgement(Model):
    """What is thought of one thing: the level, one plain sentence, and all that it rests on.

    `figure` is the number that decides, `limit` what it is held against; both stand in the sentence as they are here.
    `subjects` are what it is about besides its node: pads, a hole, a wall, a mode, by the names the document uses.
    `assumed`: it rests on something guessed or usual, named in `rests_on`; None: the basis of those decides.
    """

    level: Level
    headline: Message
    figure: Figure | None = None
    limit: Figure | None = None
    subjects: tuple[str, ...] = ()
    working: Message = NOTHING
    assumed: bool | None = None
    rests_on: tuple[str, ...] = ()
    remedy: Remedy | None = None


class Finding(Judgement):
    """A judgement, signed by the rule that made it. `id` is unique in an assessment and the same in the next."""

    id: str
    code: str
    station: StationKey
    node: Node
    source: Label = ""
    assumed: bool = False
    part_of: str = ""  # the id of the graver finding that tells of the same cause


def worst(levels: Iterable[Level], default: Level = "pass") -> Level:
    """The gravest level among them."""
    return max(levels, key=GRAVITY.__getitem__, default=default)
