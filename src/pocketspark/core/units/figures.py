"""Numbers as a maker reads them: "400 mA", "4 h 20", "3 months". Every text of a number in this tool comes from here.

A figure is a number, its unit and the form in which it is written. It is text only where somebody reads it.
"""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, GetCoreSchemaHandler, PlainSerializer
from pydantic_core import CoreSchema, core_schema

from pocketspark.core.units.reading import METRIC, MM_PER_INCH, ReadersUnits, reading


@dataclass(frozen=True)
class Figure:
    """A number and the unit it is counted in; `form` says how it is written, to so many `digits`.

    It becomes text in the units of whoever reads: `text(reader)`, or `str()` in the units that are asked for in this
    context.
    """

    value: float
    unit: str
    form: str
    digits: int | None = None

    def text(self, reader: ReadersUnits) -> str:
        # The same number by two ways differs in its last bits, and is not to be rounded up here and down there.
        return FORMS[self.form](replace(self, value=float(f"{self.value:.9g}")), reader)

    def __str__(self) -> str:
        return self.text(reading())

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        """A figure in Python; {value, unit, text} for whoever reads an answer."""
        return core_schema.no_info_plain_validator_function(
            _figure,
            serialization=core_schema.plain_serializer_function_ser_schema(
                shown, return_schema=handler.generate_schema(ShownFigure), when_used="json"
            ),
        )


@dataclass(frozen=True)
class Lengths:
    """Several lengths with one unit after them, "12.8 x 6.9 mm", or none."""

    lengths_mm: tuple[float, ...]
    digits: int | None = 1
    with_unit: bool = True

    def text(self, reader: ReadersUnits) -> str:
        numbers = " x ".join(_length(mm, self.digits, reader) for mm in self.lengths_mm)
        return f"{numbers} {reader.length}" if self.with_unit else numbers

    def __str__(self) -> str:
        return self.text(reading())


@dataclass(frozen=True)
class UnitName:
    """The unit in which whoever reads counts a quantity: "mm", "°F"."""

    quantity: str

    def text(self, reader: ReadersUnits) -> str:
        return reader.length if self.quantity == "length" else f"°{reader.temperature}"

    def __str__(self) -> str:
        return self.text(reading())


ENDLESS = 1e12
# What `model_dump(mode="json", context=FACTS)` is told, so that what is stored holds facts and no reader's text.
FACTS: Mapping[str, bool] = {"facts": True}


class ShownFigure(BaseModel):
    """A number with its text, as an answer carries it. What has no end has a value that no chart reaches."""

    model_config = ConfigDict(frozen=True)

    value: float
    unit: str
    text: str


def shown(figure: Figure) -> ShownFigure:
    """As whoever asks in this context reads it."""
    value = figure.value if math.isfinite(figure.value) else math.copysign(ENDLESS, figure.value)
    return ShownFigure(value=value, unit=figure.unit, text=str(figure))


def _figure(value: Any) -> Figure:
    if isinstance(value, Figure):
        return value
    raise ValueError("a figure belongs here")


# How numbers are written ------------------------------------------------------------------------------------------


def _marked(number: str, reader: ReadersUnits) -> str:
    """With the reader's decimal mark."""
    return number.replace(".", ",") if reader.decimals == "comma" else number


def _engineering(value: float, unit: str, digits: int) -> str:
    if value == 0 or not math.isfinite(value):
        return f"{value:g} {unit}"
    # Whole numbers are written out: 997 μA stays so with two digits, 999.6 μA is 1 mA.
    exponent = min(max(math.floor(math.log10(abs(float(f"{value:.{max(digits, 3) - 1}e}"))) / 3), -3), 2)
    scaled = value / 1000**exponent
    decimals = max(0, digits - 1 - math.floor(math.log10(abs(scaled)))) if scaled else 0
    return f"{_trimmed(f'{scaled:.{decimals}f}')} {('n', 'μ', 'm', '', 'k', 'M')[exponent + 3]}{unit}"


def _amp_hours(value: float) -> str:
    if value >= 10:
        return f"{value:.3g} Ah"
    return f"{value * 1000:.0f} mAh" if value >= 0.01 else f"{value * 1000:.3g} mAh"


def _degrees(figure: Figure, reader: ReadersUnits, zero: float) -> str:
    value = min(figure.value, _PARTS_ARE_GONE_C)
    degrees = value * 9 / 5 + zero if reader.temperature == "F" else value
    text = f"{degrees:.{figure.digits or 0}f} °{reader.temperature}"
    return text if figure.value <= _PARTS_ARE_GONE_C else reader.translate("over {degrees}").format(degrees=text)


# Solder has run and cells have vented long before: how much hotter it would get says nothing.
_PARTS_ARE_GONE_C = 300.0


# The finest marks that all rulers have, and as close as calipers tell: only what is such a fraction is written as one.
_MARKS = 16
_IS_A_FRACTION_MM = 0.02


def _length(mm: float, digits: int | None, reader: ReadersUnits) -> str:
    """At most so many decimals, a half rounded up; inches as a fraction where they are one (2 7/16), else to 0.001."""
    if reader.length == "in":
        return _inches(mm, reader)
    return _marked(f"{mm:g}" if digits is None else _trimmed(f"{mm + 1e-9:.{digits}f}"), reader)


def _trimmed(number: str) -> str:
    return number.rstrip("0").rstrip(".") if "." in number else number


def _two_decimals(value: float) -> str:
    """Two at least, four at most."""
    number = f"{value:.4f}"
    return number[:-2] + number[-2:].rstrip("0")


def _inches(mm: float, reader: ReadersUnits) -> str:
    marks = round(mm / MM_PER_INCH * _MARKS)
    if marks <= 0 or abs(marks * MM_PER_INCH / _MARKS - mm) > _IS_A_FRACTION_MM:
        return _marked(f"{mm / MM_PER_INCH:.3f}", reader)
    whole, rest = divmod(Fraction(marks, _MARKS), 1)
    return " ".join(filter(None, (f"{whole}" if whole else "", f"{rest}" if rest else "")))


def _hours(value: float, reader: ReadersUnits) -> str:
    if not math.isfinite(value):
        return reader.translate("never")
    if value < 1:
        return f"{value * 60:.0f} min"
    if value >= 72:
        return _days(value / 24, reader)
    step = 5 if value < 5 else 10 if value < 24 else 60
    minutes = round(value * 60 / step) * step
    return f"{minutes // 60} h {minutes % 60:02d}" if minutes % 60 else f"{minutes // 60} h"


def _duration(seconds: float, reader: ReadersUnits) -> str:
    """As it was said, in the largest unit of which there is a whole one."""
    if seconds >= 2 * 86_400:
        return _days(seconds / 86_400, reader)
    for unit, size in (("h", 3600.0), ("min", 60.0), ("s", 1.0)):
        if seconds >= size:
            return f"{seconds / size:.3g} {unit}"
    return f"{seconds * 1000:.3g} ms"


def _days(value: float, reader: ReadersUnits) -> str:
    if not math.isfinite(value):
        return reader.translate("for ever")
    if value >= 730:
        return reader.translate("{count} years").format(count=f"{value / 365:.0f}")
    if value >= 90:
        return reader.translate("{count} months").format(count=f"{value / 30.4:.0f}")
    # Whole ones from what is written as 10: never "10.0 days".
    return reader.translate("{count} days").format(count=f"{value:.0f}" if value >= 9.95 else f"{value:.1f}")


def _significant(value: float, digits: int) -> str:
    """No maker writes 1e+09: a large number has its noughts."""
    return f"{value:.0f}" if 10**digits <= abs(value) < 1e15 else f"{value:.{digits}g}"


def _plain(value: float, digits: int) -> str:
    return _engineering(value, "", digits).strip() if 1 <= abs(value) < 1000 else f"{value:.{digits}g}"


def _percent(share: float) -> str:
    return f"{share * 100:.0f} %" if abs(share) >= 0.095 else f"{share * 100:.2g} %"


def _decibels(value: float) -> str:
    return f"{round(value):+d} dB" if round(value) else "0 dB"


def _with(write: Callable[[float, int], str]) -> Callable[[Figure, ReadersUnits], str]:
    """A form that knows no units of the reader's, only the decimal mark."""
    return lambda figure, reader: _marked(write(figure.value, figure.digits or 0), reader)


FORMS: Mapping[str, Callable[[Figure, ReadersUnits], str]] = {
    "engineering": lambda figure, reader: _marked(
        _engineering(figure.value, "Ω" if figure.unit == "ohm" else figure.unit, figure.digits or 3), reader
    ),
    "volts": _with(lambda value, _: f"{value:.2f} V"),
    "amp_hours": _with(lambda value, _: _amp_hours(value)),
    "watt_hours": _with(lambda value, _: f"{value:.2g} Wh" if value < 10 else f"{value:.0f} Wh"),
    "density": _with(lambda value, _: f"{value:.0f} Wh/l"),
    "read_volts": _with(lambda value, _: f"{_two_decimals(value)} V"),
    "whole_volts": _with(lambda value, _: f"{value:.0f} V"),
    "millivolts": _with(lambda value, digits: f"{value * 1000:.{digits}f} mV"),
    "seconds": _with(lambda value, _: f"{value:.0f} s"),
    "percent": _with(lambda share, _: _percent(share)),
    "exact_percent": _with(lambda share, _: f"{share * 100:g} %"),
    "signed_percent": _with(lambda share, _: f"{share * 100:+.0f} %"),
    "times": lambda figure, reader: reader.translate("{count} times").format(
        count=_marked(f"{figure.value:.1f}", reader)
    ),
    "decibels": _with(lambda value, _: _decibels(value)),
    "plain": _with(_plain),
    "fixed": _with(lambda value, digits: f"{value:.{digits}f}"),
    "significant": _with(_significant),
    "celsius": lambda figure, reader: _marked(_degrees(figure, reader, 32), reader),
    "warmer": lambda figure, reader: _marked(_degrees(figure, reader, 0), reader),
    "millimetres": lambda figure, reader: f"{_length(figure.value, figure.digits, reader)} {reader.length}",
    "bare_length": lambda figure, reader: _length(figure.value, figure.digits, reader),
    "hours": lambda figure, reader: _marked(_hours(figure.value, reader), reader),
    "duration": lambda figure, reader: _marked(_duration(figure.value, reader), reader),
    "exact_hours": _with(lambda value, _: f"{value:.3g} h"),
    "days": lambda figure, reader: _marked(_days(figure.value, reader), reader),
}


# The figures of the trade -----------------------------------------------------------------------------------------


def fixed(value: float, decimals: int) -> Figure:
    """A bare number with so many decimals."""
    return Figure(value, "", "fixed", decimals)


def significant(value: float, digits: int) -> Figure:
    """A bare number of so many significant digits."""
    return Figure(value, "", "significant", digits)


def bare(value: float) -> Figure:
    """A bare number with as many decimals as it has."""
    return significant(value, 6)


def engineering(value: float, unit: str, digits: int = 3) -> Figure:
    """With a prefix and this many significant digits: 0.4, "A" -> "400 mA"."""
    return Figure(float(value), unit, "engineering", digits)


def volts(value: float) -> Figure:
    """Two decimals: what a bench multimeter shows and the rules need."""
    return Figure(float(value), "V", "volts")


def read_volts(value: float) -> Figure:
    """As a meter showed them, with all its decimals: a cell at rest is judged by single millivolts."""
    return Figure(float(value), "V", "read_volts")


def whole_volts(value: float) -> Figure:
    """The constant K of a charger, which nobody knows to a volt."""
    return Figure(float(value), "V", "whole_volts")


def millivolts(value_v: float, decimals: int = 0) -> Figure:
    """A small difference of volts."""
    return Figure(float(value_v), "V", "millivolts", decimals)


def amps(value: float) -> Figure:
    """Three digits from 10 mA up, two below: no meter of a hobbyist tells more."""
    return engineering(value, "A", digits=3 if abs(value) >= 0.00995 else 2)


def amps_apart(first_a: float, second_a: float) -> tuple[Figure, Figure]:
    """Two currents of which one is over the other, written so that this can be seen: never "1 A is over 1 A"."""
    first, second = amps(first_a), amps(second_a)
    for digits in range(4, 8):
        if first.text(METRIC) != second.text(METRIC):
            break
        first, second = engineering(first_a, "A", digits), engineering(second_a, "A", digits)
    return first, second


def amp_hours(value: float) -> Figure:
    return Figure(float(value), "Ah", "amp_hours")


def ohms(value: float) -> Figure:
    return engineering(value, "ohm")


def watts(value: float) -> Figure:
    return engineering(value, "W", digits=2)


def farads(value: float) -> Figure:
    return engineering(value, "F", digits=2)


def watt_hours(value: float) -> Figure:
    return Figure(float(value), "Wh", "watt_hours")


def density(wh_per_l: float) -> Figure:
    """Energy in a volume, Wh/l."""
    return Figure(float(wh_per_l), "Wh/l", "density")


def celsius(value: float, digits: int = 0) -> Figure:
    """A temperature in degrees of whoever reads."""
    return Figure(float(value), "C", "celsius", digits)


def warmer(by_c: float) -> Figure:
    """A difference of temperatures: 5 °C more are 9 °F more."""
    return Figure(float(by_c), "C", "warmer", 1)


def temperature_unit() -> UnitName:
    return UnitName("temperature")


def percent(share: float) -> Figure:
    return Figure(float(share), "%", "percent")


def exact_percent(share: float) -> Figure:
    """With every decimal it has: a tolerance as it is printed on the part."""
    return Figure(float(share), "%", "exact_percent")


def signed_percent(share: float) -> Figure:
    """With its sign: how far something is off."""
    return Figure(float(share), "%", "signed_percent")


def times(ratio: float) -> Figure:
    """How many times as much: "2.0 times"."""
    return Figure(float(ratio), "", "times")


def millimetres(value: float, digits: int | None = 1) -> Figure:
    """A length to so many decimals of a mm at most, a half rounded up; None: as many as it has. Or in inches."""
    return Figure(float(value), "mm", "millimetres", digits)


def as_typed(mm: float) -> Figure:
    """A length with every decimal that was typed."""
    return millimetres(mm, None)


def sizes(*lengths_mm: float, digits: int | None = 1) -> Lengths:
    """Several, with one unit after them: "12.8 x 6.9 mm"."""
    return Lengths(lengths_mm, digits)


def bare_sizes(*lengths_mm: float, digits: int | None = 1) -> Lengths:
    """The same without the unit."""
    return Lengths(lengths_mm, digits, with_unit=False)


def length_unit() -> UnitName:
    return UnitName("length")


def bare_length(mm: float, digits: int | None = 1) -> Figure:
    """A length without its unit. Inches as a fraction where they are one (2 7/16), else to a thousandth."""
    return Figure(float(mm), "mm", "bare_length", digits)


def decibels(value: float) -> Figure:
    """To a whole one, the least that an ear tells apart; with its sign."""
    return Figure(float(value), "dB", "decibels")


def hertz(value: float) -> Figure:
    """Two digits: how often a converter works in bursts is known no better."""
    return engineering(value, "Hz", digits=2)


def seconds(value: float) -> Figure:
    """Whole seconds."""
    return Figure(float(value), "s", "seconds")


def hours(value: float) -> Figure:
    """A duration rounded to what such a prediction deserves: "50 min", "4 h 20", "3.3 days"."""
    return Figure(float(value), "h", "hours")


def duration(value_s: float) -> Figure:
    """A stretch of time of any length: "2 s", "1.5 min", "4 h"."""
    return Figure(float(value_s), "s", "duration")


def exact_hours(value: float) -> Figure:
    """A duration in hours alone, to three digits: as a checkpoint holds it."""
    return Figure(float(value), "h", "exact_hours")


def days(value: float) -> Figure:
    return Figure(float(value), "d", "days")


def plain(value: float, digits: int = 3) -> Figure:
    """A bare number of so many significant digits, never with an exponent."""
    return Figure(float(value), "", "plain", digits)


# As fields of answers: a number in Python, {value, unit, text} for whoever reads the answer -----------------------


def _serialised(write: Callable[[float], Figure]) -> PlainSerializer:
    def serialise(value: float | None) -> ShownFigure | None:
        return None if value is None else shown(write(value))

    return PlainSerializer(serialise, return_type=ShownFigure)


# An answer that was stored is read again with its figures as they were written.
_PLAIN_AGAIN = BeforeValidator(lambda value: value.get("value") if isinstance(value, dict) else value)

ShownVolts = Annotated[float, _PLAIN_AGAIN, _serialised(volts)]
ShownMillivolts = Annotated[float, _PLAIN_AGAIN, _serialised(millivolts)]
ShownAmps = Annotated[float, _PLAIN_AGAIN, _serialised(amps)]
ShownAmpHours = Annotated[float, _PLAIN_AGAIN, _serialised(amp_hours)]
ShownOhms = Annotated[float, _PLAIN_AGAIN, _serialised(ohms)]
ShownWatts = Annotated[float, _PLAIN_AGAIN, _serialised(watts)]
ShownWattHours = Annotated[float, _PLAIN_AGAIN, _serialised(watt_hours)]
ShownCelsius = Annotated[float, _PLAIN_AGAIN, _serialised(celsius)]
ShownHertz = Annotated[float, _PLAIN_AGAIN, _serialised(hertz)]
ShownDecibels = Annotated[float, _PLAIN_AGAIN, _serialised(decibels)]
ShownShare = Annotated[float, _PLAIN_AGAIN, _serialised(percent)]
ShownMillimetres = Annotated[float, _PLAIN_AGAIN, _serialised(millimetres)]
ShownWholeMillimetres = Annotated[float, _PLAIN_AGAIN, _serialised(lambda mm: millimetres(mm, 0))]
ShownHours = Annotated[float, _PLAIN_AGAIN, _serialised(hours)]
ShownDays = Annotated[float, _PLAIN_AGAIN, _serialised(days)]
ShownPlain = Annotated[float, _PLAIN_AGAIN, _serialised(plain)]
