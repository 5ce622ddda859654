"""The base of every model, and the units their fields are counted in."""

import re
from collections.abc import Sequence
from typing import Annotated, Any

from pydantic import AfterValidator, BaseModel, BeforeValidator, ConfigDict, Field, StringConstraints
from pydantic_core import PydanticCustomError

from pocketspark.core.message import Value, say
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.units.quantity import Quantity

Volts = Annotated[float, Quantity("V", 0, 60)]
Amps = Annotated[float, Quantity("A", 0, 50)]
AmpHours = Annotated[float, Quantity("Ah", 0.001, 100)]
Ohms = Annotated[float, Quantity("ohm", 0, 10e6)]
Farads = Annotated[float, Quantity("F", 0, 0.1)]
Hertz = Annotated[float, Quantity("Hz", 1000, 100e6)]
WireGauge = Annotated[float, Quantity("AWG", 18, 40)]  # the higher, the thinner
ProgOhms = Annotated[float, Quantity("ohm", 100, 1e6)]
Millimetres = Annotated[float, Quantity("mm", 0.1, 1000)]
LongMillimetres = Annotated[float, Quantity("mm", 0.1, 3000)]
Seconds = Annotated[float, Quantity("s", 0, 1e6)]
Watts = Annotated[float, Quantity("W", 0, 1000)]
Celsius = Annotated[float, Quantity("C", -40, 200)]
CelsiusPerWatt = Annotated[float, Quantity("C/W", 1, 1000)]
Hours = Annotated[float, Quantity("h", 0, 24)]
Days = Annotated[float, Quantity("days", 0.01, 3650)]
Years = Annotated[float, Quantity("years", 0, 40)]
Share = Annotated[float, Quantity("%", 0, 1)]
Tolerance = Annotated[float, Quantity("%", 0, 0.5)]  # wider than E3, the widest series: 40 %
Times = Annotated[float, Quantity("", 0, 100_000)]  # how often a day
Plain = Annotated[float, Quantity("", 0, 1e6)]
# The number of a row in the database: what its file can count.
RowNumber = Annotated[int, Field(ge=0, le=2**53)]
Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120), ON_ONE_LINE]
# "mode2": what a path names a row by, so that a path never lands on a neighbour. Made where a document has none.


def _texts_begin_empty(schema: dict[str, Any]) -> None:
    """A message is a text to whoever reads an answer, so its default is one as well."""
    for field in schema.get("properties", {}).values():
        if isinstance(field.get("default"), dict) and "template" in field["default"]:
            field["default"] = ""


class Model(BaseModel):
    """A frozen record of the trade. Unknown keys are refused, so that a slip of the pen is not lost silently."""

    model_config = ConfigDict(
        frozen=True,
        extra="forbid",
        allow_inf_nan=False,
        json_schema_serialization_defaults_required=True,
        json_schema_extra=_texts_begin_empty,
    )


def refusal(template: str, /, **values: Value) -> PydanticCustomError:
    """A validation error whose whole message is a sentence for the maker, of this template as in `say`."""
    return PydanticCustomError("refused", "{sentence}", {"sentence": str(say(template, **values))})


def written_like(pattern: str, sentence: str) -> AfterValidator:
    """A text of this shape; any other is refused with the sentence."""
    shape = re.compile(pattern)

    def check(text: str) -> str:
        if len(text) > 200 or not shape.fullmatch(text):
            raise refusal("{sentence}", sentence=sentence)
        return text

    return AfterValidator(check)


_ROW_ID = re.compile(r"[a-z][a-z0-9_]{0,30}")
RowId = Annotated[str, written_like(rf"({_ROW_ID.pattern})?", "an id is a small letter, then letters and digits")]


class Row(Model):
    """A record that stands in a list. Its `id` is its own within that list, and stays with it."""

    id: RowId = ""


def named_rows(stem: str) -> BeforeValidator:
    """Gives every row of a list an id of its own: "mode1", "mode2" ... where it has none, or a neighbour's."""

    def with_ids(rows: Any) -> Any:
        return _with_ids(rows, stem) if isinstance(rows, list | tuple) else rows

    return BeforeValidator(with_ids)


def _with_ids(rows: Sequence[Any], stem: str) -> list[Any]:
    taken = set(map(row_id, rows))
    free = (name for name in (f"{stem}{n}" for n in range(1, len(rows) * 2 + 2)) if name not in taken)
    given: set[str] = set()
    named = []
    for row in rows:
        name = row_id(row)
        wants_one = isinstance(row, dict | Row) and (not name or name in given)
        named.append(_with_id(row, name := next(free)) if wants_one else row)
        given.add(name)
    return named


def _with_id(row: Any, name: str) -> Any:
    return {**row, "id": name} if isinstance(row, dict) else row.model_copy(update={"id": name})


def row_id(row: Any) -> str:
    """The id of a row, read or not yet read; "" where it has none that could be one."""
    name = row.get("id") if isinstance(row, dict) else getattr(row, "id", "")
    return name if isinstance(name, str) and _ROW_ID.fullmatch(name) else ""
