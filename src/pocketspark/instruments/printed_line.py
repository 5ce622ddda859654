"""Lines that a board or meter prints as a reading: figures between separators, or name=value with its unit."""

import re
from collections.abc import Mapping, Sequence

from pocketspark.core.logs.plausible import MOST_A, MOST_V
from pocketspark.core.models.plain_text import on_lines
from pocketspark.core.units.figures import significant
from pocketspark.formats.log_cells import cells_of, figure_of, separator_of
from pocketspark.formats.log_header import NOT_READ, WORDS, UnreadableLog, size_of, unit_of, words_of
from pocketspark.instruments.connection import ColumnNumbers, Connection, MeterReading, Shown

LONGEST_LINE = 500
# The word by which our own stand-ins say what they are.
SIMULATED = "simulated"
_NAME, _FIGURE = r"[A-Za-z_]\w{0,30}", r"[-+]?[\d.,]{1,20}(?:[eE][-+]?\d{1,3})?"
# A letter behind a figure is its unit, unless it is the next one's name.
_UNIT = r"(?:\s?(mV|V|[muµμ]?A|ms|s|min|h|°?[CF])(?!\w)(?!\s{0,3}[=:]))?"
_PAIR = re.compile(rf"({_NAME})\s{{0,3}}[=:]\s{{0,3}}({_FIGURE}){_UNIT}", re.I)
_TIME_SIZES = {"ms": 1e-3, "s": 1.0, "min": 60.0, "h": 3600.0}
_SIZES = {"mv": 1e-3, "ma": 1e-3, "ua": 1e-6, "µa": 1e-6, "μa": 1e-6}


_BARE = {"V": 1.0, "mV": 1e-3, "A": 1.0, "mA": 1e-3}
_FIGURES = ("time_s", "volts", "amps", "celsius")


class PrintedLines:
    """Reads line after line. A header line, wherever it comes, says what the columns after it are."""

    def __init__(self, connection: Connection) -> None:
        places = columns_of(connection)
        self._reads, self._places = connection.reads, places
        self._bare = {"volts": _BARE[connection.volts_in], "amps": _BARE[connection.amps_in]}
        self.header: tuple[str, ...] = ()
        self.places = places  # as the columns of the last line were taken
        self.unread = 0
        self.refused = ""  # why figures that no small cell has were not taken
        self.simulated = False

    def read(self, line: str) -> MeterReading | None:
        """None for a header, a remark, an empty line, and one that cannot be read: that is counted."""
        text = str(on_lines(line)).strip()
        if text.startswith(("#", "//")):
            self.simulated |= SIMULATED in text
            return None
        if not text:
            return None
        try:
            if len(text) > LONGEST_LINE:
                raise UnreadableLog("longer than any meter writes")
            pairs = _PAIR.findall(text)
            figures = _of_pairs(pairs) if pairs else self._of_columns(text)
        except (ValueError, IndexError):
            self.unread += 1
            return None
        wanted = {name: value for name, value in figures.items() if name == "time_s" or name in self._reads}
        if self._is_beyond_a_cell(wanted):
            self.unread += 1
            return None
        return MeterReading(**wanted) if figures else None

    def _is_beyond_a_cell(self, figures: Mapping[str, float]) -> bool:
        """A wrong unit that is kept as measured is worse than no reading."""
        for name, most, sign, small in (("volts", MOST_V, "V", "mV"), ("amps", MOST_A, "A", "mA")):
            if abs(figures.get(name, 0.0)) > most:
                self.refused = (
                    f"It shows {significant(figures[name], 4)} where {name} are expected, and no small cell has "
                    f"so many {sign}: set that its figures are in {small}, or another column."
                )
                return True
        return False

    def _of_columns(self, text: str) -> Mapping[str, float]:
        separator = separator_of(text)
        cells = [cell for cell in cells_of(text, separator) if cell or separator != " "]
        if not any(any(map(str.isdecimal, cell)) for cell in cells):
            if "=" in text or not any(_quantity(cell, unit_of(cell)) for cell in cells):
                raise UnreadableLog("words")
            self.header = tuple(cells)
            return {}
        self.places = self._places or places_of(self.header, len(cells), self._reads)
        named = zip(_FIGURES, self.places, strict=True)
        return {name: self._value(name, cells[place], place) for name, place in named if place is not None}

    def _value(self, name: str, cell: str, place: int) -> float:
        title = self.header[place] if place < len(self.header) else ""
        unit = unit_of(title)
        if unit == "f":
            return (figure_of(cell) - 32) / 1.8
        # A unit in the cell itself has been taken by `figure_of`.
        bare = not unit and not any(map(str.isalpha, cell.lower().replace("e", "")))
        return figure_of(cell) * (self._bare.get(name, 1.0) if bare else size_of(title))


def places_of(header: Sequence[str], width: int, reads: Sequence[Shown]) -> ColumnNumbers:
    """Columns of time, volts, amps, degrees: by the header; without one by their count, the time before the rest."""
    if header:
        quantities = [_quantity(title, unit_of(title)) for title in header]
        time, volts, amps, celsius = (quantities.index(name) if name in quantities else None for name in _FIGURES)
        return (time, volts, amps, celsius)
    by_width: dict[int, list[str]] = {len(reads): [*reads], len(reads) + 1: ["time_s", *reads]}
    names = by_width.get(width, [*_FIGURES])
    time, volts, amps, celsius = (
        names.index(name) if name in names and names.index(name) < width else None for name in _FIGURES
    )
    return (time, volts, amps, celsius)


def columns_of(connection: Connection) -> ColumnNumbers | None:
    """As the maker set them."""
    if connection.places is None:
        return None
    time, volts, amps, celsius = connection.places
    return (time, volts, amps, celsius)


def _of_pairs(pairs: Sequence[tuple[str, str, str]]) -> Mapping[str, float]:
    """By each name's words, as in a log's header: V=3921mV I=0.402 T=24.1."""
    figures: dict[str, float] = {}
    for name, text, unit in pairs:
        quantity = _quantity(name, unit)
        if quantity is None or quantity in figures:
            continue
        value = float(text.replace(",", "."))
        size = (_TIME_SIZES if quantity == "time_s" else _SIZES).get(unit.lower()) or size_of(name)
        figures[quantity] = (value - 32) / 1.8 if quantity == "celsius" and unit.lower() == "f" else value * size
    if not figures:
        raise UnreadableLog("none of its names is known")
    return figures


def _quantity(name: str, unit: str) -> str | None:
    """Which figure of a reading it is. A capital T is degrees, a small one the time."""
    if name == "T" or unit.lower() in ("c", "°c", "f"):
        return "celsius"
    words = set(words_of(name)) or {name.lower()}
    if words & NOT_READ:
        return None
    return next((figure for figure in _FIGURES[::-1] if words & WORDS[figure.removesuffix("_s")]), None)
