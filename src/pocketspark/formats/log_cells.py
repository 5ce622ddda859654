"""One line of a log or of a serial line, cut into its cells, and a cell as a figure."""

import csv
import re

_SIZES = {"mv": 1e-3, "ma": 1e-3, "ua": 1e-6, "µa": 1e-6}
_FIGURE = re.compile(r"([-+]?\d*\.?\d+(?:e[-+]?\d+)?)\s*(mv|v|ma|ua|µa|a|°?c)?", re.I)


def separator_of(line: str) -> str:
    """Tab and semicolon are unmistakable; a comma may be a decimal one."""
    for separator in ("\t", ";", "|"):
        if separator in line:
            return separator
    return "," if "," in line else " "


def cells_of(line: str, separator: str) -> list[str]:
    return [cell.strip() for cell in next(csv.reader([line], delimiter=separator), [])]


def number_of(text: str) -> float:
    """A plain number. Of two marks the last is the decimal one: 1,234.5 and 1.234,5. Raises ValueError."""
    plain = text.strip().replace("\u00a0", "").replace("\u202f", "").replace("'", "")
    if "," in plain and "." in plain:
        thousands = "," if plain.rindex(".") > plain.rindex(",") else "."
        plain = plain.replace(thousands, "")
    return float(plain.replace(",", "."))


def figure_of(text: str) -> float:
    """A number with point or comma, and perhaps its unit behind it."""
    try:
        return number_of(text)
    except ValueError:
        match = _FIGURE.fullmatch(text.strip().replace(",", "."))
        if not match:
            raise
        return float(match[1]) * _SIZES.get((match[2] or "v").lower(), 1.0)
