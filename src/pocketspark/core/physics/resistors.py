"""The charge-current resistor: current from ohms, preferred values, and how to recognise the part on the bench.

Preferred values: IEC 60063. Colour and letter codes: IEC 60062. Chip codes as common practice has them.
"""

import math
from collections.abc import Mapping, Sequence
from typing import Literal, NamedTuple

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say

Series = Literal["E12", "E24", "E96"]

_E24 = (10, 11, 12, 13, 15, 16, 18, 20, 22, 24, 27, 30, 33, 36, 39, 43, 47, 51, 56, 62, 68, 75, 82, 91)  # IEC 60063
DECADE: dict[Series, tuple[float, ...]] = {
    "E12": tuple(value / 10 for value in _E24[::2]),
    "E24": tuple(value / 10 for value in _E24),
    "E96": tuple(round(10 ** (step / 96), 2) for step in range(96)),  # IEC 60063: the rounded geometric series
}

COLOURS = ("black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white")
_TOLERANCE_COLOURS = {
    0.01: "brown",
    0.02: "red",
    0.005: "green",
    0.0025: "blue",
    0.001: "violet",
    0.05: "gold",
    0.10: "silver",
}
_EIA96_MULTIPLIERS = {"Z": -3, "Y": -2, "X": -1, "A": 0, "B": 1, "C": 2, "D": 3, "E": 4, "F": 5}


class NotACode(PocketSparkError, ValueError):
    """The text is no resistor code; the message says what would be."""


# Current -------------------------------------------------------------------------------------------------------


class CurrentSpread(NamedTuple):
    """Nominal, least and most current that a resistor may give, A."""

    nominal_a: float
    least_a: float
    most_a: float


def prog_current(k_volts: float, r_ohm: float) -> float:
    """Constant charge current of a linear charger, A.

    I = K / R, with K the board's own constant (1000 or 1200 V are common).
    Source: common practice of program-resistor chargers, no published standard.
    """
    return k_volts / r_ohm


def current_spread(k_volts: float, k_tolerance: float, r_ohm: float, r_tolerance: float) -> CurrentSpread:
    """What the tolerances of board and resistor allow: K (1 -+ tK) / (R (1 +- tR))."""
    return CurrentSpread(
        prog_current(k_volts, r_ohm),
        prog_current(k_volts * (1 - k_tolerance), r_ohm * (1 + r_tolerance)),
        prog_current(k_volts * (1 + k_tolerance), r_ohm * (1 - r_tolerance)),
    )


def current_at(k_volts: float, table: Sequence[tuple[float, float]], r_ohm: float) -> float:
    """Current by the board's own measured table, log-log between its rows; by K / R outside it."""
    if not table or not table[0][0] <= r_ohm <= table[-1][0]:
        return prog_current(k_volts, r_ohm)
    return _between(table, r_ohm)


def ohms_for(k_volts: float, table: Sequence[tuple[float, float]], current_a: float) -> float:
    """The other way round: the resistor that gives this current."""
    if table and table[-1][1] <= current_a <= table[0][1]:
        return _between([(current, ohm) for ohm, current in reversed(table)], current_a)
    return k_volts / current_a


def _between(rows: Sequence[tuple[float, float]], at: float) -> float:
    """Straight between the logarithms of the rows, whose first column rises."""
    above = next(i for i in range(1, len(rows)) if rows[i][0] >= at)
    (x0, y0), (x1, y1) = rows[above - 1], rows[above]
    share = math.log(at / x0) / math.log(x1 / x0)
    return y0 * math.exp(share * math.log(y1 / y0))


def least_ohms(k_volts: float, k_tolerance: float, target_a: float, r_tolerance: float) -> float:
    """The smallest marked value whose highest possible current stays within the target."""
    return k_volts * (1 + k_tolerance) / target_a / (1 - r_tolerance)


# Preferred values ----------------------------------------------------------------------------------------------


def preferred_at_or_above(ohm: float, series: Series = "E24") -> float:
    """The next value of the series, in any decade. A hair of rounding below a value counts as that value."""
    decade = math.floor(math.log10(ohm * (1 - 1e-9)))
    for exponent in (decade, decade + 1):
        for value in DECADE[series]:
            candidate = float(f"{value * 10**exponent:.6g}")
            if candidate >= ohm * (1 - 1e-9):
                return candidate
    raise AssertionError("one of two decades holds it")


def preferred_between(low: float, high: float, series: Series = "E24") -> list[float]:
    """All values of the series from low to high, rising."""
    values = [preferred_at_or_above(low, series)]
    while values[-1] <= high:
        values.append(preferred_at_or_above(values[-1] * 1.005, series))
    return values[:-1]


# From the inventory -----------------------------------------------------------------------------------------------


class Combination(NamedTuple):
    """One resistor, or two in series or in parallel, and what they come to."""

    how: Literal["single", "series", "parallel"]
    parts: tuple[float, ...]
    r_ohm: float


def from_inventory(values: Sequence[float], least_ohm: float) -> list[Combination]:
    """The closest to `least_ohm` from above: best single, best pair in series, best pair in parallel.

    Never below it, so that the highest possible current stays under the target. Best first; kinds that cannot are
    left out. The same value may be taken twice.
    """
    rising = sorted(set(values))
    pairs = [(a, b) for i, a in enumerate(rising) for b in rising[i:]]
    found = [
        *(Combination("single", (value,), value) for value in rising),
        *(Combination("series", pair, pair[0] + pair[1]) for pair in pairs),
        *(Combination("parallel", pair, pair[0] * pair[1] / (pair[0] + pair[1])) for pair in pairs),
    ]
    enough = [combination for combination in found if combination.r_ohm >= least_ohm * (1 - 1e-9)]
    best: dict[str, Combination] = {}
    for combination in sorted(enough, key=lambda c: (c.r_ohm, len(c.parts))):
        best.setdefault(combination.how, combination)
    return list(best.values())


# Codes ---------------------------------------------------------------------------------------------------------


# As a drawing has the colours, the same in every theme.
BAND_PAINTS: Mapping[str, str] = {
    "black": "#1c1c1c",
    "brown": "#6d3b1f",
    "red": "#c22a22",
    "orange": "#ee8a1d",
    "yellow": "#edd02e",
    "green": "#2d7d46",
    "blue": "#2b58a8",
    "violet": "#7a3f98",
    "grey": "#8a8d90",
    "white": "#f7f7f5",
    "gold": "#b8902f",
    "silver": "#c3c7ca",
}


def colour_bands(ohm: float, tolerance: float = 0.01) -> list[str]:
    """Bands of a leaded resistor (IEC 60062): five for 2 % and closer, else four."""
    figures = 3 if tolerance <= 0.02 else 2
    digits, exponent = _figures(ohm, figures)
    multiplier = COLOURS[exponent] if exponent >= 0 else ("gold" if exponent == -1 else "silver")
    return [*(COLOURS[int(d)] for d in digits), multiplier, _tolerance_colour(tolerance)]


def read_colour_bands(bands: Sequence[str]) -> float:
    """Ohms of four or five bands."""
    if len(bands) not in (4, 5):
        raise NotACode(say("four or five bands are read, the tolerance last"))
    powers = {**{colour: power for power, colour in enumerate(COLOURS)}, "gold": -1, "silver": -2}
    *digits, multiplier, _tolerance = bands
    if any(colour not in COLOURS for colour in digits) or multiplier not in powers:
        raise NotACode(say("'{bands}' holds a colour that stands for no figure", bands=" ".join(bands)))
    return float(f"{int(''.join(str(COLOURS.index(colour)) for colour in digits)) * 10.0 ** powers[multiplier]:.6g}")


def chip_code(ohm: float, figures: Literal[2, 3] = 2) -> str:
    """Three- or four-digit chip code: 3 kohm is 302 or 3001. An R stands for the point below that."""
    digits, exponent = _figures(ohm, figures)
    if exponent >= 0:
        return f"{digits}{exponent}"
    return f"{digits[:exponent]}R{digits[exponent:]}"


def read_chip_code(code: str) -> float:
    """Ohms of a three- or four-digit, R, or EIA-96 chip code."""
    text = code.strip().upper()
    if "R" in text and text.replace("R", "", 1).isdigit():
        return float(text.replace("R", "."))
    if text.isdigit() and len(text) in (3, 4):
        return float(int(text[:-1]) * 10 ** int(text[-1]))
    if len(text) == 3 and text[:2].isdigit() and 1 <= int(text[:2]) <= 96 and text[2] in _EIA96_MULTIPLIERS:
        value = DECADE["E96"][int(text[:2]) - 1] * 100 * 10.0 ** _EIA96_MULTIPLIERS[text[2]]
        return float(f"{value:.6g}")
    raise NotACode(say("'{code}' is no chip code; 302, 3001, 4R7 and 47B are of the kinds that are", code=code))


def eia96_code(ohm: float) -> str | None:
    """EIA-96 chip code, or None where the value is not in E96."""
    digits, exponent = _figures(ohm, 3)
    value = int(digits) / 100
    if value not in DECADE["E96"]:
        return None
    letter = next((letter for letter, power in _EIA96_MULTIPLIERS.items() if power == exponent), None)
    return f"{DECADE['E96'].index(value) + 1:02d}{letter}" if letter else None


def rkm_code(ohm: float) -> str:
    """Letter code of IEC 60062, the letter in place of the point: 1200 is 1K2, 4.7 is 4R7."""
    letter, size = next(
        (letter, size) for letter, size in (("M", 1e6), ("K", 1e3), ("R", 1.0)) if ohm >= size or size == 1
    )
    whole, _, rest = f"{ohm / size:.4g}".partition(".")
    return f"{whole}{letter}{rest}"


def _figures(ohm: float, figures: int) -> tuple[str, int]:
    """Leading figures and the power of ten that scales them: 3000, 2 -> ("30", 2)."""
    mantissa, exponent = f"{ohm:.{figures - 1}e}".split("e")
    return mantissa.replace(".", ""), int(exponent) - figures + 1


def _tolerance_colour(tolerance: float) -> str:
    return next((colour for limit, colour in sorted(_TOLERANCE_COLOURS.items()) if tolerance <= limit), "silver")
