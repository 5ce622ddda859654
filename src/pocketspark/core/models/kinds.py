"""Kinds: tables whose entries know all about one kind of thing. A field that names a kind takes the keys of its table.

A table is a plain mapping from key to entry. One more entry is one more kind, everywhere: in the models, in the API's
schema, on the screen. Nothing else in the tree names it.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, core_schema

from pocketspark.core.models.model import refusal


@dataclass(frozen=True, eq=False)  # so that it may stand in a union: its table cannot be hashed
class KeyOf:
    """Marks a text field as a key of this table: `Annotated[str, KeyOf(INPUTS)]`."""

    table: Mapping[str, Any]

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(
            self._accept, serialization=core_schema.plain_serializer_function_ser_schema(str)
        )

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        return {"type": "string", "enum": list(self.table)}

    def _accept(self, value: object) -> str:
        if isinstance(value, str) and value in self.table:
            return value
        one_of = ", ".join(f"'{key}'" for key in self.table)
        raise refusal("Enter one of {one_of}", one_of=one_of)
