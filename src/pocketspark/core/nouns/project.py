"""A project: the gadget, the builds considered for it, and where each number came from."""

import re
from typing import Any, Literal

from pydantic import Field

from pocketspark.core.nouns.build import Build
from pocketspark.core.nouns.gadget import Gadget
from pocketspark.core.nouns.noun import Noun

Basis = Literal["measured", "label", "inferred", "default"]
FORMAT: Literal["pocket-spark/1"] = "pocket-spark/1"
SOFT: frozenset[Basis] = frozenset({"inferred", "default"})


class Project(Noun):
    """The whole document, as saved and exported.

    `basis` maps a field's path ("gadget.modes.0.current_a", "builds.1.cell.capacity_ah") to where its value came
    from. A field without an entry counts as *label* where it holds a value of its own, *default* where it does not.
    """

    format: Literal["pocket-spark/1"] = FORMAT
    gadget: Gadget
    builds: tuple[Build, ...] = Field((Build(),), min_length=1, max_length=12)
    basis: dict[str, Basis] = Field(default_factory=dict, max_length=400)
    notes: str = Field("", max_length=10_000)

    def basis_of(self, path: str) -> Basis:
        """Where the value at this path came from; *default* for a path that leads nowhere."""
        if path in self.basis:
            return self.basis[path]
        value, default = self._value_and_default(path)
        return "default" if value is None or value == default else "label"

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
