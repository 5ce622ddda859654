"""Two devices on one conversion: what each has changed since the state that both began from, put together.

Figures are merged one by one, rows by their id, what was only added on both sides is kept from both. Where both have
changed the same figure nobody is overruled: there is no merged state, and the places are named.

Some figures only mean something together. A capacity that was measured is of the cell that was there then: where one
side has put in another cell meanwhile, it is not merged but asked about.
"""

from collections.abc import Collection, Iterator, Mapping, Sequence
from typing import Any, cast

from pydantic import ValidationError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Project

# What tells the rows of a list apart: most have an id, steps of the record are called by their name.
_ROW_KEYS = ("id", "step")
_GONE = object()
Json = dict[str, Any]


class BothChanged(PocketSparkError, ValueError):
    """`places`: the paths of what both sides changed, each its own way; the message has them in words."""

    def __init__(self, places: Sequence[str], document: Json) -> None:
        super().__init__(say("both changed {places}", places=", ".join(in_words(document, place) for place in places)))
        self.places = tuple(places)


# The ends of field names that tell a unit, and the stems that are no word.
_UNITS = frozenset(("a", "v", "mm", "ohm", "ah", "c", "s", "w", "h", "g", "f", "awg"))
_WORDS = {
    "r_prog": "charge-current resistor",
    "v_run_min": "lowest volts",
    "v_start_min": "starting volts",
    "v_abs_max": "highest volts",
    "at": "place",
}
_BRANCHES = frozenset(("gadget", "builds", "record"))


def in_words(document: Json, place: str) -> str:
    """A place as a maker finds it: rows by their names, fields without units: "modes “lit” current"."""
    words, here = [], cast(Any, document)
    for step in place.split("."):
        is_row = isinstance(here, list)
        here = _inside(here, step)
        name = here.get("name") if is_row and isinstance(here, Mapping) else None
        stem, _, unit = step.rpartition("_")
        field = stem if unit in _UNITS and stem else step
        if isinstance(name, str) and name:
            words.append(f"“{name}”")
        elif step not in _BRANCHES and not step.isdigit():
            words.append(_WORDS.get(field, " ".join(field.split("_"))))
    return " ".join(words)


def _inside(branch: Any, step: str) -> Any:
    """Of lists the row of this id; None where there is nothing of this name."""
    if isinstance(branch, Mapping):
        return branch.get(step)
    rows = branch if isinstance(branch, list) else []
    return next((row for row in rows if isinstance(row, Mapping) and step in (row.get(key) for key in _ROW_KEYS)), None)


def merged(base: Project, mine: Project, theirs: Project, *, mine_counts: bool = False) -> Project:
    """All of both. Raises BothChanged, also where what each did is sound and the two together are not.

    `mine_counts`: of what both changed mine is taken, and all else of theirs is kept.
    """
    merging = _Merging((*mine.basis, *theirs.basis), mine_counts=mine_counts)
    before, one, other = (project.model_dump(mode="json") for project in (base, mine, theirs))
    document = merging.objects(before, one, other, "")
    torn = [*_torn_apart(before, one, other)]
    collisions = merging.collisions or torn
    if collisions and not mine_counts:
        raise BothChanged(collisions, other)
    for place in torn:
        _take(document, before, one, other, place)
    try:
        return Project.model_validate(document)
    except ValidationError as error:
        first = error.errors()[0]["loc"]
        raise BothChanged([".".join(map(str, first))], other) from None


# What makes a thing this one and no other, in its own fields; its other figures are of just that thing.
_IDENTITY: Mapping[str, tuple[str, ...]] = {
    "cell": ("name", "cell_class", "form", "size_mm", "capacity_ah", "origin", "inventory_id"),
    "boards": ("name", "outline_mm", "charger", "protection", "regulator", "inventory_id"),
    "modes": ("name", "job"),
    "rooms": ("size_mm",),
    "wires": ("start", "end"),
    "supply": ("kind", "battery", "series"),
}
# Of a build, what its readings were taken of, and where those stand in its record.
_BUILT_OF = ("cell", "cell_count", "unlike_cells", "boards", "regulator", "who_charges", "r_prog_ohm")
_READINGS = ("r_measured_ohm", "first_charge", "attempts", "soldered")


def _torn_apart(base: Json, mine: Json, theirs: Json) -> Iterator[str]:
    """Places of which one side has changed what they are, and the other what is known of them."""
    for changed, other in ((mine, theirs), (theirs, mine)):
        yield from (side[0] for side in _things(base, changed, other) if _is_another(*side))
        for path, before, one, two in _each((base, changed, other), "builds"):
            swapped = any(_differs(before, one, field, _IDENTITY.get(field)) for field in _BUILT_OF)
            if swapped and _readings_of(before) != _readings_of(two):
                yield f"{path}.record"


def _take(document: Json, base: Json, mine: Json, theirs: Json, place: str) -> None:
    """A thing as mine has it, whole; readings together with what they were taken of."""
    *way, last = place.split(".")
    into, before, source, other = (cast(Any, side) for side in (document, base, mine, theirs))
    for step in way:
        into, before, source, other = (_inside(side, step) for side in (into, before, source, other))
    if isinstance(into, list):
        into[:] = [_inside(source, last) if row is _inside(into, last) else row for row in into]
        return
    into[last] = source[last]
    for field in _BUILT_OF if last == "record" else ():
        if any(_differs(before, side, field, _IDENTITY.get(field)) for side in (source, other)):
            into[field] = source[field]


_Side = tuple[str, Json, Json, Json]


def _things(base: Json, changed: Json, other: Json) -> Iterator[_Side]:
    """Everything with an identity of its own, that is there on all three sides."""
    gadgets = [side["gadget"] for side in (base, changed, other)]
    supply, changed_supply, other_supply = (gadget["supply"] for gadget in gadgets)
    yield "gadget.supply", supply, changed_supply, other_supply
    yield from _each(gadgets, "modes", "gadget.")
    if all(gadget.get("bay") for gadget in gadgets):
        yield from _each([gadget["bay"] for gadget in gadgets], "rooms", "gadget.bay.")
    for path, *builds in _each((base, changed, other), "builds"):
        if all(build.get("cell") for build in builds):
            cell, changed_cell, other_cell = (build["cell"] for build in builds)
            yield f"{path}.cell", cell, changed_cell, other_cell
        yield from _each(builds, "boards", f"{path}.")
        if all(build["wiring"].get("wires") for build in builds):
            yield from _each([build["wiring"] for build in builds], "wires", f"{path}.wiring.")


def _each(sides: Sequence[Json], rows: str, before: str = "") -> Iterator[_Side]:
    """The rows of a list that all three sides have, with their path."""
    first, *others = (side[rows] for side in sides)
    one, two = ({row["id"]: row for row in side} for side in others)
    for row in first:
        if row["id"] in one and row["id"] in two:
            yield f"{before}{rows}.{row['id']}", row, one[row["id"]], two[row["id"]]


def _is_another(path: str, before: Json, changed: Json, other: Json) -> bool:
    """The one side has made another thing of it, and the other side has changed what is known of the first."""
    steps = path.split(".")
    identity = _IDENTITY.get(steps[-1]) or _IDENTITY[steps[-2]]
    return any(before.get(field) != changed.get(field) for field in identity) and before != other != changed


def _differs(before: Json, after: Json, field: str, identity: Sequence[str] | None) -> bool:
    """Of a cell or board by what makes it this one: what was measured on it does not make it another."""
    was, now = before.get(field), after.get(field)
    if identity is None or was == now:
        return was != now
    rows = [[row] if isinstance(row, Mapping) else row or [] for row in (was, now)]
    marks = [[[row.get(key) for key in ("id", *identity)] for row in side] for side in rows]
    return marks[0] != marks[1]


def _readings_of(build: Json) -> list[Any]:
    record = build["record"]
    read = [step for step in record["steps"] if step["value"] is not None or step["override"]]
    return [*(record[field] for field in _READINGS), read]


class _Merging:
    """`collisions`: the places that both changed. `basis`: the paths of which it is noted where a figure is from."""

    def __init__(self, basis: Collection[str], *, mine_counts: bool = False) -> None:
        self.basis, self.mine_counts = basis, mine_counts
        self.collisions: list[str] = []

    def value(self, base: Any, mine: Any, theirs: Any, path: str) -> Any:
        if theirs in (mine, base):
            return mine
        if mine == base:
            return theirs
        if all(isinstance(value, Mapping) for value in (base, mine, theirs)):
            return self.objects(base, mine, theirs, path)
        if base is None and isinstance(mine, Mapping) and isinstance(theirs, Mapping):
            # Nothing was said of it before: of neither side is it a change that the other's figures are empty.
            return self.objects(dict.fromkeys((*mine, *theirs)), {**mine}, {**theirs}, path)
        if all(isinstance(value, list) for value in (base, mine, theirs)):
            return self.lists(base, mine, theirs, path)
        return self._both_changed(mine, theirs, path)

    def _both_changed(self, mine: Any, theirs: Any, path: str) -> Any:
        self.collisions.append(path)
        return mine if self.mine_counts else theirs

    def objects(self, base: Json, mine: Json, theirs: Json, path: str) -> Json:
        found = {}
        for key in dict.fromkeys((*theirs, *mine)):
            inside = f"{path}.{key}" if path else key
            before, one, other = (side.get(key, _GONE) for side in (base, mine, theirs))
            found[key] = self.value(before, one, other, inside)
        return {key: value for key, value in found.items() if value is not _GONE}

    def lists(self, base: list[Any], mine: list[Any], theirs: list[Any], path: str) -> list[Any]:
        key = next((key for key in _ROW_KEYS if _rows_of(key, (*base, *mine, *theirs))), None)
        if key is not None:
            before, one, other = ({row[key]: row for row in side} for side in (base, mine, theirs))
            return list(self.objects(before, self._named_apart(one, before, other, path), other, path).values())
        # Readings, tries: lines that are only ever added.
        if mine[: len(base)] == base == theirs[: len(base)]:
            return [*theirs, *mine[len(base) :]]
        return cast(list[Any], self._both_changed(mine, theirs, path))

    def _named_apart(self, mine: Json, base: Json, theirs: Json, path: str) -> Json:
        """Rows that both have added under one id are two rows, and mine gets an id of its own as it is read.

        Not where it is noted of that id where a figure is from: it would be told of the other row.
        """
        rows = {}
        for name, row in mine.items():
            is_new = name in theirs and name not in base and theirs[name] != row and "id" in row
            if is_new and not any(each.startswith(f"{path}.{name}") for each in self.basis):
                rows[f"{name} too"] = {**row, "id": ""}
            else:
                rows[name] = row
        return rows


def _rows_of(key: str, rows: Sequence[Any]) -> bool:
    return bool(rows) and all(isinstance(row, Mapping) and row.get(key) for row in rows)
