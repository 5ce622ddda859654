"""A project: the gadget, the builds considered for it, and where each number came from."""

import re
from collections.abc import Mapping
from typing import Annotated, Any, Literal, Self

from pydantic import Field

from pocketspark.core.nouns.build import Build
from pocketspark.core.nouns.gadget import Gadget, Gauge, Window
from pocketspark.core.nouns.noun import Noun, Plain
from pocketspark.core.nouns.record import Entry, StepRecord
from pocketspark.core.quantity import Quantity

Basis = Literal["measured", "label", "inferred", "default"]
FORMAT: Literal["pocket-spark/1"] = "pocket-spark/1"
SOFT: frozenset[Basis] = frozenset({"inferred", "default"})


class Costs(Noun):
    """What the maker's time and batteries cost, in the money of the parts' prices. None: a rough usual price."""

    bench_hours: Annotated[float, Quantity("h", 0, 200)] = 2.5
    hourly_rate: Plain = 0.0  # a hobby hour costs nothing unless the maker says so
    battery_price: Plain | None = None  # one old battery


class Project(Noun):
    """The whole document, as saved and exported.

    `basis` maps a field's path ("gadget.modes.0.current_a", "builds.1.cell.capacity_ah") to where its value came
    from. A field without an entry counts as *label* where it holds a value of its own, *default* where it does not.
    """

    format: Literal["pocket-spark/1"] = FORMAT
    gadget: Gadget
    builds: tuple[Build, ...] = Field((Build(),), min_length=1, max_length=12)
    basis: dict[str, Basis] = Field(default_factory=dict, max_length=400)
    costs: Costs = Costs()
    logbook: tuple[Entry, ...] = Field((), max_length=1000)
    notes: str = Field("", max_length=10_000)

    def basis_of(self, path: str) -> Basis:
        """Where the value at this path came from; *default* for a path that leads nowhere."""
        if path in self.basis:
            return self.basis[path]
        value, default = self._value_and_default(path)
        return "default" if value is None or value == default else "label"

    def with_value(self, path: str, value: object) -> Self:
        """The same project with the value at this path replaced. The path must lead somewhere; nothing is judged."""
        changed = _replaced(self, path.split("."), value)
        assert isinstance(changed, type(self))
        return changed

    def with_photo_ids(self, ids: Mapping[int, int]) -> Self:
        """The same project, its references to photographs renumbered; one that is not among `ids` is dropped."""
        builds = tuple(
            build.model_copy(update={"steps": tuple(_step_with(step, ids) for step in build.steps)})
            for build in self.builds
        )
        logbook = tuple(
            entry.model_copy(update={"photo_id": None if entry.photo_id is None else ids.get(entry.photo_id)})
            for entry in self.logbook
        )
        return self.model_copy(update={"builds": builds, "logbook": logbook})

    def _value_and_default(self, path: str) -> tuple[Any, Any]:
        value: Any = self
        default: Any = None
        for step in path.split("."):
            if isinstance(value, tuple):
                value = value[int(step)] if re.fullmatch(r"\d+", step) and int(step) < len(value) else None
                default = None
            elif isinstance(value, Noun) and step in type(value).model_fields:
                default = type(value).model_fields[step].default
                value = getattr(value, step)
            else:
                return None, None
        return value, default


def _step_with(step: StepRecord, ids: Mapping[int, int]) -> StepRecord:
    return step.model_copy(update={"photo_ids": tuple(ids[one] for one in step.photo_ids if one in ids)})


# Groups that may be absent, and what stands in their place once one of their fields is set.
_WHEN_ABSENT: dict[str, Noun] = {"window": Window(), "gauge": Gauge()}


def _replaced(branch: Any, steps: list[str], value: object) -> Any:
    """The branch with the value at the end of these steps replaced; everything beside it is shared."""
    if not steps:
        return value
    step, rest = steps[0], steps[1:]
    if isinstance(branch, tuple):
        at = int(step)
        return (*branch[:at], _replaced(branch[at], rest, value), *branch[at + 1 :])
    child = getattr(branch, step)
    if child is None and rest:
        child = _WHEN_ABSENT[step]
    return branch.model_copy(update={step: _replaced(child, rest, value)})
