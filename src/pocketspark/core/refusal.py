"""Turns what a model refuses into sentences a maker understands, one to a field."""

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.units.reading import reading


@dataclass(frozen=True)
class Refusal:
    """One refused field: its dotted path ("gadget.modes.0.current_a") and what is wrong with it."""

    field: str
    sentence: str

    def __str__(self) -> str:
        return f"{self.field}: {self.sentence}" if self.field else self.sentence


class UnfitPart(PocketSparkError, ValueError):
    """The part is not what its kind says, or one of its fields is refused."""

    def __init__(self, found: list[Refusal]) -> None:
        self.refusals = found
        super().__init__(str(found[0]))


SENTENCES: Mapping[str, str] = {
    "missing": "This is required",
    "extra_forbidden": "This key is unknown; check its spelling",
    "string_too_short": "Enter a name",
    "string_too_long": "Enter {max_length} characters at most",
    "too_short": "Enter at least {min_length}",
    "too_long": "Enter {max_length} at most",
    "literal_error": "Enter one of {expected}",
    "greater_than_equal": "Enter {ge} or more",
    "less_than_equal": "Enter {le} or less",
    "int_parsing": "Enter a whole number",
    "int_type": "Enter a whole number",
    "int_from_float": "Enter a whole number",
    "string_type": "Enter a text",
    "bool_parsing": "Enter yes or no (true or false)",
    "bool_type": "Enter yes or no (true or false)",
    "tuple_type": "Enter a list",
    "dict_type": "Enter a group of named values",
    "model_type": "Enter a group of named values",
    "model_attributes_type": "Enter a group of named values",
    "list_type": "Enter a list",
    "float_type": "Enter a number",
    "float_parsing": "Enter a number",
    "finite_number": "Enter a finite number",
    "enum": "Enter one of {expected}",
    "greater_than": "Enter more than {gt}",
    "less_than": "Enter less than {lt}",
    "json_invalid": "This is not JSON",
    "int_parsing_size": "Enter a whole number with fewer digits",
    "string_unicode": "This text has broken characters",
}
# Errors whose message is a sentence of ours already.
_OURS = frozenset({"refused", "not_a_quantity", "out_of_range"})
UNKNOWN = "This value cannot be read"
# What the models' library puts between the steps of a path: names of validators, classes and choices.
_STEP = re.compile(r"[a-z][a-z0-9_]*\Z|[a-z0-9_.+]+\Z")


def refusals(error: ValidationError) -> list[Refusal]:
    """Every refusal of a model, in the order of the fields."""
    return refusals_from(error.errors(include_url=False, include_input=False))


def refusals_from(errors: Sequence[Mapping[str, Any]]) -> list[Refusal]:
    """The same from the error records that web frameworks pass on.

    A list is also called too short where one of its rows is refused, since only sound rows are counted: that is left
    out, or the whole list would seem to be at fault for one figure in it.
    """
    places = [tuple(error["loc"]) for error in errors]
    return [
        Refusal(_field(place), _sentence(error))
        for place, error in zip(places, errors, strict=True)
        if error["type"] != "too_short" or not any(_within(other, place) for other in places)
    ]


def _within(place: tuple[str | int, ...], other: tuple[str | int, ...]) -> bool:
    return len(place) > len(other) and place[: len(other)] == other


def _field(location: Sequence[str | int]) -> str:
    """The place as the document names it, without what the models' library puts in between."""
    return ".".join(str(step) for step in location if isinstance(step, int) or _STEP.match(step))


def _sentence(error: Mapping[str, Any]) -> str:
    if error["type"] in _OURS:
        return str(error["msg"])
    template = reading().translate(SENTENCES.get(error["type"], UNKNOWN))
    bounds = error.get("ctx", {})
    return template.format(**{name: f"{at:g}" if isinstance(at, float) else at for name, at in bounds.items()})
