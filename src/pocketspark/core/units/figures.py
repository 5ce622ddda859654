"""Numbers as a maker reads them: "400 mA", "4 h 20", "3 months". Every text of a number in this tool comes from here.

A figure is its own text, and knows the number and the unit that it stands for: a sentence is written with it, and
whoever shows it has no sentence to take apart.
"""

import math
from collections.abc import Callable
from fractions import Fraction
from typing import Annotated, Self

from pydantic import BaseModel, BeforeValidator, ConfigDict, PlainSerializer

from pocketspark.core.units.reading import MM_PER_INCH, reading


def marked(number: str) -> str:
    """The text of a number with the reader's decimal mark."""
    return number.replace(".", ",") if reading().decimals == "comma" else number


def fixed(value: float, decimals: int) -> str:
    """A bare number with so many decimals."""
    return marked(f"{value:.{decimals}f}")


def significant(value: float, digits: int) -> str:
    """A bare number of so many significant digits."""
    return marked(f"{value:.{digits}g}")


def bare(value: float) -> str:
    """A bare number with as many decimals as it has."""
    return significant(value, 6)


class Figure(str):
    """The text of a number. `value` is the number in the base unit, `unit` the base unit."""

    __slots__ = ("unit", "value")
    value: float
    unit: str

    def __new__(cls, text: str, value: float, unit: str) -> Self:
        figure = super().__new__(cls, marked(text))
        figure.value, figure.unit = float(value), unit
        return figure


ENDLESS = 1e12


class ShownFigure(BaseModel):
    """A number with its text, as an answer carries it. What has no end has a value that no chart reaches."""

    model_config = ConfigDict(frozen=True)

    value: float
    unit: str
    text: str


def shown(figure: Figure) -> ShownFigure:
    value = figure.value if math.isfinite(figure.value) else math.copysign(ENDLESS, figure.value)
    return ShownFigure(value=value, unit=figure.unit, text=str(figure))


def engineering(value: float, unit: str, digits: int = 3) -> Figure:
    """With a prefix and this many significant digits: 0.4, "A" -> "400 mA"."""
    return Figure(_engineering(value, "Ω" if unit == "ohm" else unit, digits), value, unit)


def _engineering(value: float, unit: str, digits: int) -> str:
    if value == 0 or not math.isfinite(value):
        return f"{value:g} {unit}"
    exponent = min(max(math.floor(math.log10(abs(float(f"{value:.{digits - 1}e}"))) / 3), -3), 2)
    scaled = value / 1000**exponent
    decimals = max(0, digits - 1 - math.floor(math.log10(abs(scaled)))) if scaled else 0
    text = f"{scaled:.{decimals}f}"
    if "." in text:
        text = text.rstrip("0").rstrip(".")
    return f"{text} {('n', 'μ', 'm', '', 'k', 'M')[exponent + 3]}{unit}"


def volts(value: float) -> Figure:
    """Two decimals: what a bench multimeter shows and the rules need."""
    return Figure(f"{value:.2f} V", value, "V")


def amps(value: float) -> Figure:
    """Three digits from 10 mA up, two below: no meter of a hobbyist tells more."""
    return engineering(value, "A", digits=3 if abs(value) >= 0.00995 else 2)


def amps_apart(first_a: float, second_a: float) -> tuple[Figure, Figure]:
    """Two currents of which one is over the other, written so that this can be seen: never "1 A is over 1 A"."""
    for digits in range(3, 8):
        first, second = engineering(first_a, "A", digits), engineering(second_a, "A", digits)
        if digits == 3:
            first, second = amps(first_a), amps(second_a)
        if first != second:
            break
    return first, second


def amp_hours(value: float) -> Figure:
    if value >= 10:
        return Figure(f"{value:.3g} Ah", value, "Ah")
    return Figure(f"{value * 1000:.0f} mAh" if value >= 0.01 else f"{value * 1000:.3g} mAh", value, "Ah")


def ohms(value: float) -> Figure:
    return engineering(value, "ohm")


def watts(value: float) -> Figure:
    return engineering(value, "W", digits=2)


def watt_hours(value: float) -> Figure:
    return Figure(f"{value:.2g} Wh" if value < 10 else f"{value:.0f} Wh", value, "Wh")


def celsius(value: float, digits: int = 0) -> Figure:
    """A temperature in degrees of whoever reads."""
    degrees = value * 9 / 5 + 32 if reading().temperature == "F" else value
    return Figure(f"{degrees:.{digits}f} {temperature_unit()}", value, "C")


def warmer(by_c: float) -> Figure:
    """A difference of temperatures: 5 °C more are 9 °F more."""
    degrees = by_c * 9 / 5 if reading().temperature == "F" else by_c
    return Figure(f"{degrees:.1f} {temperature_unit()}", by_c, "C")


def temperature_unit() -> str:
    return f"°{reading().temperature}"


def percent(share: float) -> Figure:
    return Figure(f"{share * 100:.0f} %" if abs(share) >= 0.095 else f"{share * 100:.2g} %", share, "%")


def times(ratio: float) -> Figure:
    return Figure(f"{ratio:.1f} times", ratio, "")


# The finest marks that all rulers have, and as close as calipers tell: only what is such a fraction is written as one.
_MARKS = 16
_IS_A_FRACTION_MM = 0.02


def millimetres(value: float, digits: int | None = 1) -> Figure:
    """A length to so many decimals of a mm, a half rounded up; None: as many as it has. Or in inches."""
    return Figure(f"{bare_length(value, digits)} {length_unit()}", value, "mm")


def as_typed(mm: float) -> Figure:
    """A length with every decimal that was typed."""
    return millimetres(mm, None)


def sizes(*lengths_mm: float, digits: int | None = 1) -> str:
    """Several, with one unit after them: "12.8 x 6.9 mm"."""
    return f"{' x '.join(bare_length(mm, digits) for mm in lengths_mm)} {length_unit()}"


def length_unit() -> str:
    return reading().length


def bare_length(mm: float, digits: int | None = 1) -> str:
    """Without its unit. Inches as a fraction where they are one (2 7/16), else to a thousandth."""
    if reading().length == "in":
        return _inches(mm)
    return marked(f"{mm:g}" if digits is None else f"{mm + 1e-9:.{digits}f}")


def _inches(mm: float) -> str:
    marks = round(mm / MM_PER_INCH * _MARKS)
    if marks <= 0 or abs(marks * MM_PER_INCH / _MARKS - mm) > _IS_A_FRACTION_MM:
        return fixed(mm / MM_PER_INCH, 3)
    whole, rest = divmod(Fraction(marks, _MARKS), 1)
    return " ".join(filter(None, (f"{whole}" if whole else "", f"{rest}" if rest else "")))


def decibels(value: float) -> Figure:
    """To a whole one, the least that an ear tells apart; with its sign."""
    return Figure(f"{round(value) or 0:+d} dB" if round(value) else "0 dB", value, "dB")


def hertz(value: float) -> Figure:
    """Two digits: how often a converter works in bursts is known no better."""
    return engineering(value, "Hz", digits=2)


def hours(value: float) -> Figure:
    """A duration rounded to what such a prediction deserves: "50 min", "4 h 20", "3 days"."""
    return Figure(_hours(value), value, "h")


def _hours(value: float) -> str:
    if not math.isfinite(value):
        return "never"
    if value < 1:
        return f"{value * 60:.0f} min"
    if value >= 72:
        return f"{value / 24:.0f} days"
    step = 5 if value < 5 else 10 if value < 24 else 60
    minutes = round(value * 60 / step) * step
    return f"{minutes // 60} h {minutes % 60:02d}" if minutes % 60 else f"{minutes // 60} h"


def days(value: float) -> Figure:
    return Figure(_days(value), value, "d")


def _days(value: float) -> str:
    if not math.isfinite(value):
        return "for ever"
    if value >= 730:
        return f"{value / 365:.0f} years"
    if value >= 90:
        return f"{value / 30.4:.0f} months"
    return f"{value:.0f} days" if value >= 10 else f"{value:.1f} days"


def plain(value: float, digits: int = 3) -> Figure:
    """A bare number of so many significant digits, never with an exponent."""
    return Figure(
        _engineering(value, "", digits).strip() if 1 <= abs(value) < 1000 else f"{value:.{digits}g}", value, ""
    )


# As fields of answers: a number in Python, {value, unit, text} for whoever reads the answer -----------------------


def _serialised(write: Callable[[float], Figure]) -> PlainSerializer:
    def serialise(value: float | None) -> ShownFigure | None:
        return None if value is None else shown(write(value))

    return PlainSerializer(serialise, return_type=ShownFigure)


# An answer that was stored is read again with its figures as they were written.
_PLAIN_AGAIN = BeforeValidator(lambda value: value.get("value") if isinstance(value, dict) else value)

ShownVolts = Annotated[float, _PLAIN_AGAIN, _serialised(volts)]
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
