"""The base of every noun, and the units their fields are counted in."""

from typing import Annotated

from pydantic import BaseModel, ConfigDict, StringConstraints
from pydantic_core import PydanticCustomError

from pocketspark.core.quantity import Quantity

Volts = Annotated[float, Quantity("V", 0, 60)]
Amps = Annotated[float, Quantity("A", 0, 50)]
AmpHours = Annotated[float, Quantity("Ah", 0.001, 100)]
Ohms = Annotated[float, Quantity("ohm", 0, 10e6)]
ProgramOhms = Annotated[float, Quantity("ohm", 100, 1e6)]
Millimetres = Annotated[float, Quantity("mm", 0.1, 1000)]
LongMillimetres = Annotated[float, Quantity("mm", 0.1, 3000)]
Seconds = Annotated[float, Quantity("s", 0, 1e6)]
Watts = Annotated[float, Quantity("W", 0, 1000)]
Celsius = Annotated[float, Quantity("C", -40, 200)]
CelsiusPerWatt = Annotated[float, Quantity("C/W", 1, 1000)]
Hours = Annotated[float, Quantity("h", 0, 24)]
Share = Annotated[float, Quantity("%", 0, 1)]
Plain = Annotated[float, Quantity("", 0, 1e6)]
Title = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class Noun(BaseModel):
    """A frozen record of the trade. Unknown keys are refused, so that a slip of the pen is not lost silently."""

    model_config = ConfigDict(
        frozen=True, extra="forbid", allow_inf_nan=False, json_schema_serialization_defaults_required=True
    )


def refusal(sentence: str) -> PydanticCustomError:
    """A validation error whose whole message is a sentence for the maker."""
    return PydanticCustomError("refused", "{sentence}", {"sentence": sentence})
