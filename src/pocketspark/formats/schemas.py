"""The published JSON Schemas: files that are taken in, and what `assess`, `fit` and `analyse` print with --json."""

from collections.abc import Mapping
from typing import Any

from pydantic import BaseModel

from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.models import Project
from pocketspark.core.questions.assessment import Assessment
from pocketspark.formats.log_csv import AnalysedLog
from pocketspark.parts.packs import PartsPack

FILES: Mapping[str, type[BaseModel]] = {"project": Project, "pack": PartsPack}
DRAFT = "https://json-schema.org/draft/2020-12/schema"
# Name of the file to what is in it. From format 2 on nothing is taken out of them, only added.
ANSWERS: Mapping[str, type[BaseModel]] = {"assessment": Assessment, "fit": FitAnswer, "analysis": AnalysedLog}


def schemas() -> dict[str, dict[str, Any]]:
    """Every schema by the name of its file, without the ending."""
    taken_in = {
        name: _with_bounds_of_lists(model.model_json_schema(mode="validation")) for name, model in FILES.items()
    }
    given_out = {name: model.model_json_schema(mode="serialization") for name, model in ANSWERS.items()}
    return {
        name: {"$schema": DRAFT, **schema, "title": f"Pocket Spark {name}"}
        for name, schema in (taken_in | given_out).items()
    }


# What the models' library writes for a list behind a validator, and the word that JSON Schema has for lists.
_WORDS_OF_LISTS = {"maxLength": "maxItems", "minLength": "minItems"}


def _with_bounds_of_lists(schema: Any) -> Any:
    if isinstance(schema, list):
        return [_with_bounds_of_lists(one) for one in schema]
    if not isinstance(schema, dict):
        return schema
    words = _WORDS_OF_LISTS if schema.get("type") == "array" else {}
    return {words.get(word, word): _with_bounds_of_lists(value) for word, value in schema.items()}
