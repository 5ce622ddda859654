"""Two to five clients on one conversion, each saving when it likes what it typed on the state that it last saw.

The reference is one person who types all of it in the order in which it arrived: what is put together has to be that
document, or has to be asked about. Which pairs of edits have to be asked about is written down here by what they mean,
not by what the product compares. Common practice of shared documents, no source.
"""

import os
from dataclasses import dataclass, field
from typing import Any

import pytest

from builders import CELL, board, plan
from chances import dice
from pocketspark.core.merging import BothChanged, merged
from pocketspark.core.models.project import Edit

MODES = [
    {"id": "lit", "name": "lit", "current_a": 0.06, "hours_per_day": 3},
    {"id": "dim", "name": "dim", "current_a": 0.02, "hours_per_day": 2},
]
BASE = plan(
    gadget={"modes": MODES},
    boards=[board() | {"id": "charger"}],
    cell=CELL | {"capacity_ah": 1.8, "charge_max_a": None},
)
AT = f"builds.{BASE.builds[0].id}"
ROOM = f"gadget.bay.rooms.{BASE.gadget.bay.rooms[0].id}"
POUCHES = [{"name": f"Pouch {n}", "capacity_ah": n / 100, "size_mm": [3, 10, 10 + n]} for n in (2, 5, 30)]
READS = [[{"step": "output", "done": True, "value": volts, "origin": "typed"}] for volts in (3.9, 4.1)]


@dataclass(frozen=True)
class Typed:
    """One edit: of which thing it says something, and whether it makes another thing of it."""

    path: str
    value: Any
    thing: str
    makes_another: bool = False
    readings: bool = False  # taken of whatever the build was made of


EDITS = [
    *(Typed(f"{AT}.cell", pouch, "cell", makes_another=True) for pouch in POUCHES),
    *(Typed(f"{AT}.cell.measured_capacity_ah", ah, "cell") for ah in (1.65, 1.7)),
    Typed(f"{AT}.cell.r_ohm", 0.21, "cell"),
    *(Typed(f"{AT}.boards.charger.charger.k_volts", k, "board") for k in (1150.0, 1210.0)),
    Typed(f"{AT}.boards.charger.name", "another board", "board", makes_another=True),
    *(Typed(f"{AT}.r_prog_ohm", ohm, "resistor", makes_another=True) for ohm in (2200.0, 3300.0)),
    *(Typed(f"{AT}.record.steps", read, "record", readings=True) for read in READS),
    *(Typed("gadget.modes.lit.current_a", a, "lit") for a in (0.1, 0.2)),
    Typed("gadget.modes.lit.name", "flashing", "lit", makes_another=True),
    Typed("gadget.modes.dim.hours_per_day", 5, "dim"),
    Typed(f"{ROOM}.size_mm", [70, 45, 20], "room", makes_another=True),
    Typed(f"{ROOM}.at_mm", [1, 0, 0], "room"),
    Typed("gadget.supply.battery", "LR6", "supply", makes_another=True),
    Typed("gadget.supply.series", 2, "supply"),
    *(Typed("notes", text, "notes") for text in ("one", "other")),
    Typed("tags", ["lamp"], "tags"),
    Typed(f"{AT}.source.volts", 5.1, "source"),
    Typed("gadget.name", "Lamp of the shed", "name"),
]
BUILT_OF = {"cell", "board", "resistor"}


def have_to_be_asked_about(one: Typed, other: Typed) -> bool:
    """What one person would not have typed both of, on purpose, one after the other."""
    if one.path == other.path:
        return one.value != other.value
    if one.thing == other.thing and (one.makes_another or other.makes_another):
        return True
    for swap, read in ((one, other), (other, one)):
        # A reading is judged by the charger's K of then: another K makes another reading of it too.
        if read.readings and swap.thing in BUILT_OF and (swap.makes_another or swap.thing == "board"):
            return True
    return False


@dataclass
class Client:
    """Where it began, and what it has typed since."""

    base: Any = BASE
    seen: int = 0  # of the edits that had arrived by then
    typed: list[Typed] = field(default_factory=list)

    @property
    def document(self):
        return self.base.apply([Edit(path=one.path, value=one.value) for one in self.typed])


def newest(edits):
    """Of several edits of one place the last one counts, and nothing of what was put in another's place."""
    last = {}
    for one in edits:
        last = {path: each for path, each in last.items() if path != one.path and not path.startswith(f"{one.path}.")}
        last[one.path] = one
    return list(last.values())


def changes(document, edits):
    """What is typed over the same again is no change; nor is the cell that is there put in once more."""

    def is_change(one):
        if one.thing == "cell" and one.makes_another:
            return document.builds[0].cell.name != one.value["name"]
        return document.apply([Edit(path=one.path, value=one.value)]) != document

    return [one for one in edits if is_change(one)]


ROUNDS = 20_000 if os.environ.get("POCKETSPARK_FULL") else 500


@pytest.mark.parametrize("part", range(4))
def test_what_is_put_together_could_have_been_typed_on_purpose_or_is_asked_about(part):
    chance = dice(("clients", part))
    put_together = asked = 0
    while put_together + asked < ROUNDS / 4:
        clients = [Client() for _ in range(chance.randint(2, 5))]
        server, arrived = BASE, []
        for _ in range(8):
            client = chance.choice(clients)
            for one in chance.sample(EDITS, chance.randint(1, 3)):
                # Nobody types a reading of what they have just made another of.
                if not any(have_to_be_asked_about(one, other) or one.path == other.path for other in client.typed):
                    client.typed.append(one)
            client.typed = changes(client.base, client.typed)
            mine, others = client.document, changes(client.base, newest(arrived[client.seen :]))
            expected = any(have_to_be_asked_about(one, other) for one in client.typed for other in others)
            if expected:
                with pytest.raises(BothChanged):
                    merged(client.base, mine, server)
                asked += 1
                client.base, client.seen, client.typed = server, len(arrived), []  # theirs is taken
                continue
            together = merged(client.base, mine, server)
            in_turn = server.apply([Edit(path=one.path, value=one.value) for one in client.typed])
            assert together.model_dump() == in_turn.model_dump(), (client.typed, others)
            put_together += others != []
            arrived += client.typed
            server = client.base = together
            client.seen, client.typed = len(arrived), []
    assert put_together > ROUNDS / 40
    assert asked > ROUNDS / 40


@pytest.mark.parametrize("part", range(2))
def test_where_mine_counts_mine_is_there_and_all_else_of_theirs(part):
    chance = dice(("mine counts", part))
    for _ in range(ROUNDS // 8):
        mine, theirs = (chance.sample(EDITS, 4) for _ in range(2))
        mine, theirs = newest(mine), newest(theirs)
        if any(
            have_to_be_asked_about(one, other)
            for side in (mine, theirs)
            for one in side
            for other in side
            if one is not other
        ):
            continue
        one, other = (BASE.apply([Edit(path=each.path, value=each.value) for each in side]) for side in (mine, theirs))
        together = merged(BASE, one, other, mine_counts=True)
        # All that I typed is there, as if it were typed last.
        again = together.apply([Edit(path=each.path, value=each.value) for each in mine])
        assert again.model_dump(exclude={"basis"}) == together.model_dump(exclude={"basis"}), (mine, theirs)
        # And of theirs whatever no edit of mine stands against.
        kept = [each for each in theirs if not any(have_to_be_asked_about(each, my) for my in mine)]
        again = together.apply([Edit(path=each.path, value=each.value) for each in kept])
        assert again.model_dump(exclude={"basis"}) == together.model_dump(exclude={"basis"}), (mine, theirs)
