"""Quantities as makers write them, read: "1k2", "400 mAh", "2/3", "5.0x37x59"."""

import re
import sys
import unicodedata
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import GetCoreSchemaHandler, GetJsonSchemaHandler
from pydantic_core import CoreSchema, PydanticCustomError, core_schema

from pocketspark.core.error import PocketSparkError
from pocketspark.core.units.reading import MM_PER_INCH, reading

PREFIXES: Mapping[str, float] = {
    "p": 1e-12,
    "n": 1e-9,
    "u": 1e-6,
    "μ": 1e-6,
    "m": 1e-3,
    "": 1.0,
    "k": 1e3,
    "K": 1e3,
    "M": 1e6,
}

# Every spelling of a base unit that takes the prefixes above.
PREFIXED: Mapping[str, tuple[str, ...]] = {
    "V": ("V", "v", "volt", "volts"),
    "A": ("A", "a", "amp", "amps"),
    "Ah": ("Ah", "ah", "AH"),
    "ohm": ("ohm", "Ohm", "ohms", "Ω", "R", "r"),
    "W": ("W", "w", "watt", "watts"),
    "F": ("F", "f", "farad", "farads"),
    "Hz": ("Hz", "hz"),
}

# Units with a fixed set of spellings, each with its size in the base unit.
PLAIN: Mapping[str, Mapping[str, float]] = {
    "mm": {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": MM_PER_INCH, '"': MM_PER_INCH},
    "g": {"g": 1.0, "kg": 1000.0},
    "h": {"h": 1.0, "hours": 1.0, "h/day": 1.0, "min": 1 / 60, "s": 1 / 3600, "d": 24.0, "days": 24.0},
    "days": {"d": 1.0, "day": 1.0, "days": 1.0, "weeks": 7.0, "months": 30.4, "years": 365.0},
    "years": {"y": 1.0, "year": 1.0, "years": 1.0, "months": 1 / 12, "days": 1 / 365},
    "s": {"s": 1.0, "sec": 1.0, "min": 60.0, "h": 3600.0},
    "C": {"C": 1.0, "°C": 1.0},
    "C/W": {"C/W": 1.0, "°C/W": 1.0},
    "%": {"%": 0.01},
    "AWG": {"AWG": 1.0, "awg": 1.0},
    "": {},
}

# Nobody writes a number longer than this; the patterns below take their time on one.
LONGEST = 80
_DIGITS = r"(?:\d+[.,]?\d*|[.,]\d+)"
_FRACTION = re.compile(rf"([+-]?{_DIGITS})\s*/\s*({_DIGITS})\s*(.*)", re.ASCII)
_WHOLE_AND_FRACTION = re.compile(r"(\d+)[ -](\d+)\s*/\s*(\d+)\s*(.*)", re.ASCII)
_PLAIN_NUMBER = re.compile(rf"([+-]?{_DIGITS}(?:[eE][+-]?\d+)?)\s*(.*)", re.ASCII)
_LETTER_AS_POINT = re.compile(r"([+-]?\d+)([a-df-zA-DF-ZμΩ])(\d+)\s*(.*)", re.ASCII)


class NotAQuantity(PocketSparkError, ValueError):
    """The text cannot be read as a quantity of the wanted unit; the message says what would be."""


def spellings(unit: str) -> dict[str, float]:
    """Every suffix that may follow a number of this base unit, with its size in the base unit.

    A bare prefix counts ("400m" is 400 milli of whatever the field holds); a bare number is the base unit.
    """
    if unit in PLAIN:
        return {"": 1.0, **PLAIN[unit]}
    names = ("", *PREFIXED[unit])
    return {prefix + name: size for prefix, size in PREFIXES.items() for name in names}


def read(text: str, unit: str) -> float:
    """Read a quantity in its base unit.

    Takes decimal point or comma, fractions ("2/3", "2 7/16 in"), Fahrenheit where Celsius is meant, a prefix or unit in
    place of the point ("1k2", "4V2"), spaces, and any spelling of the unit. Raises NotAQuantity with a sentence for the
    maker.
    """
    if len(text) > LONGEST:
        raise _refused(_("'{text} …' is too long for a number"), text[:12], unit)
    cleaned = unicodedata.normalize("NFKC", text).strip()  # one micro sign, one ohm sign, plain spaces
    sizes = spellings(unit)
    if found := _WHOLE_AND_FRACTION.fullmatch(cleaned):
        below = _number(found[3])
        if below == 0:
            raise _refused(_("'{text}' divides by zero"), text)
        return _sized(_number(found[1]) + _number(found[2]) / below, found[4], sizes, text, unit)
    if found := _FRACTION.fullmatch(cleaned):
        below = _number(found[2])
        if below == 0:
            raise _refused(_("'{text}' divides by zero"), text)
        return _sized(_number(found[1]) / below, found[3], sizes, text, unit)
    if found := _LETTER_AS_POINT.fullmatch(cleaned):
        letter, rest = found[2], found[4]
        suffix = letter + rest if letter + rest in sizes else letter
        return _sized(_number(f"{found[1]}.{found[3]}"), suffix, sizes, text, unit)
    if found := _PLAIN_NUMBER.fullmatch(cleaned):
        return _sized(_number(found[1]), found[2], sizes, text, unit)
    raise _refused(_("'{text}' is not a number"), text, unit)


def read_size(text: str) -> tuple[float, ...]:
    """Read "5.0x37x59" or "18.4 x 65 mm" into millimetres, in the order written."""
    body = text.strip().lower().removesuffix("mm").replace("×", "x").replace("*", "x")
    return tuple(read(part, "mm") for part in body.split("x"))


def _number(text: str) -> float:
    return float(text.replace(",", "."))


def _sized(value: float, suffix: str, sizes: Mapping[str, float], text: str, unit: str) -> float:
    suffix = suffix.strip()
    if unit == "C" and suffix in ("F", "°F"):
        return (value - 32) * 5 / 9
    if suffix not in sizes:
        template = _("'{text}' is not in {unit}") if unit else _("'{text}' is not in plain numbers")
        raise _refused(template, text, unit)
    return value * sizes[suffix]


def _(template: str) -> str:
    """Marks a template for the catalogues."""
    return template


def _refused(template: str, text: str, unit: str = "") -> NotAQuantity:
    """With an example of how it is written where the unit has one, in the language of whoever typed it."""
    translate = reading().translate
    said = translate(template).format(text=text, unit=_named(unit))
    examples = {
        "V": ("3.3", "3V3"),
        "A": ("400 mA", "0.4"),
        "Ah": ("900 mAh", "0.9"),
        "ohm": ("1k2", "1200"),
        "F": ("470 µF", "470u"),
        "Hz": ("1.2 MHz", "1200k"),
        "mm": ("2 7/16", "0.5") if reading().length == "in" else ("5.0",),
    }
    match examples.get(unit, ()):
        case (one, other):
            return NotAQuantity(said + translate(_("; write it like {one} or {other}")).format(one=one, other=other))
        case (one,):
            return NotAQuantity(said + translate(_("; write it like {one}")).format(one=one))
    return NotAQuantity(said)


def _named(unit: str) -> str:
    """The unit in which whoever types thinks: a refusal speaks of what stands in the field."""
    inches = {"mm": "inches"} if reading().length == "in" else {}
    return ({"C": f"°{reading().temperature}"} | inches).get(unit, unit)


def _in_named(value: float, unit: str) -> float:
    """A value in base units as a number of that unit."""
    if unit == "mm" and reading().length == "in":
        return value / MM_PER_INCH
    if unit == "C" and reading().temperature == "F":
        return value * 9 / 5 + 32
    return value * 100 if unit == "%" else value


# As a model field ---------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Quantity:
    """Marks a model's float as a quantity: read from number or text, kept within what can be meant.

    Used as `Annotated[float, Quantity("A", 0, 20)]`. A refusal is a sentence with the unit in it.
    """

    unit: str
    low: float
    high: float

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_plain_validator_function(
            self._accept, serialization=core_schema.plain_serializer_function_ser_schema(float)
        )

    def __get_pydantic_json_schema__(self, schema: CoreSchema, handler: GetJsonSchemaHandler) -> dict[str, Any]:
        number = {"type": "number", "minimum": self.low, "maximum": self.high}
        if handler.mode == "serialization":
            return number
        return {"anyOf": [number, {"type": "string"}], "description": f"in {self.unit or 'plain numbers'}"}

    def _accept(self, value: object) -> float:
        if isinstance(value, str):
            try:
                value = read(value, self.unit)
            except NotAQuantity as refusal:
                raise PydanticCustomError("not_a_quantity", "{sentence}", {"sentence": str(refusal)}) from None
        if isinstance(value, bool) or not isinstance(value, int | float):
            raise PydanticCustomError(
                "not_a_quantity",
                "{sentence}",
                {"sentence": self._a_number()},
            )
        if not self.low <= value <= self.high:  # also refuses NaN
            raise PydanticCustomError("out_of_range", "{sentence}", {"sentence": self._out_of_range(value)})
        return float(value)

    def _a_number(self) -> str:
        template = _("Enter a number in {unit}") if self.unit else _("Enter a number")
        return reading().translate(template).format(unit=_named(self.unit))

    def _out_of_range(self, value: float) -> str:
        # Bounds are round in their own unit; in another three figures of them are enough.
        digits = 6 if _in_named(1.0, self.unit) in (1.0, 100.0) else 3
        low, high = (f"{_in_named(bound, self.unit):.{digits}g}" for bound in (self.low, self.high))
        template = _("Enter a value from {low} to {high}, not {value}")
        ends = f"{high} {_named(self.unit)}".strip()
        return reading().translate(template).format(low=low, high=ends, value=self._said(value))

    def _said(self, value: float) -> str:
        if abs(value) > sys.float_info.max:
            return reading().translate(_("a number of that many digits"))
        said = f"{_in_named(value, self.unit):g}"
        return f"{said} %" if self.unit == "%" else said
