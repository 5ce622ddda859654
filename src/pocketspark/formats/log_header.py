"""The titles of a log's columns: which one holds what, and in which unit, in the languages that meters speak most."""

import re
import unicodedata
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import Message, all_of, row_of, say


class UnreadableLog(PocketSparkError, ValueError):
    """The text is no log; the message says what is missing."""


@dataclass(frozen=True)
class ColumnPlaces:
    """Which column holds what, by its place; None where there is none. `date`: a column of days beside the clock's.

    Without `amps` the current is worked out of `watts`, or of the charge that was `counted`. `samples`: the time column
    counts rows, and how long one takes stands elsewhere.
    """

    time: int
    volts: int
    amps: int | None
    celsius: int | None = None
    date: int | None = None
    watts: int | None = None
    counted: int | None = None
    samples: bool = False

    @property
    def current(self) -> int:
        """The column that tells the current, by itself or worked out."""
        places = (self.amps, self.watts, self.counted)
        return next(place for place in places if place is not None)


# Words of each quantity: English, German, French, Spanish, Dutch, Italian, Polish, without their accents; and symbols.
_WORDS = {
    "date": "date datum fecha data dzien day",
    "time": "time elapsed seconds sec second timestamp datetime zeit uhrzeit temps heure tiempo hora tijd tempo ora "
    "czas godzina laufzeit duration minutes hours t",
    "volts": "voltage volts volt spannung tension voltaje spanning tensione napiecie vbus vbat vcell ubat u v",
    "amps": "current amps amp ampere amperes strom stromstarke courant corriente intensidad stroom corrente prad "
    "natezenie ibus ibat icell i a",
    "watts": "power watts watt leistung puissance potencia vermogen potenza moc w",
    "counted": "capacity capacite kapazitat capacidad capaciteit capacita pojemnosc charge ah mah",
    "samples": "sample samples point index number no nr row record reading n",
    "celsius": "temperature temp temperatur temperatura temperatuur celsius degc temper",
}
WORDS: Mapping[str, frozenset[str]] = {quantity: frozenset(words.split()) for quantity, words in _WORDS.items()}
# A column with one of these is a setting, a record or another quantity, unless no better one is there.
_NOT_READ = (
    "set setpoint limit target cutoff max min maximum minimum avg average mean peak soll sollwert power leistung "
    "puissance energy energie capacity kapazitat ambient room umgebung raum resistance mah wh ah w mw mwh step cycle "
    "discharge hr hrs"
)
NOT_READ = frozenset(_NOT_READ.split())
_UNIT_NAMES = r"mv|v|ma|ua|µa|μa|a|ms|s|sec|min|h|days?|d|mw|w|mah|ah|°?\s*[cf]|volts?|amps?"
_UNIT = re.compile(rf"[\[(/ _,]\s*({_UNIT_NAMES})\.?\s*[\])]?\s*$", re.I)
_SIZES = {
    "mv": 1e-3,
    "v": 1.0,
    "volt": 1.0,
    "volts": 1.0,
    "ma": 1e-3,
    "ua": 1e-6,
    "µa": 1e-6,
    "μa": 1e-6,
    "a": 1.0,
    "amp": 1.0,
    "amps": 1.0,
    "ms": 1e-3,
    "s": 1.0,
    "sec": 1.0,
    "min": 60.0,
    "minute": 60.0,
    "minutes": 60.0,
    "seconds": 1.0,
    "h": 3600.0,
    "hours": 3600.0,
    "d": 86_400.0,
    "days": 86_400.0,
    "w": 1.0,
    "mw": 1e-3,
    "ah": 1.0,
    "mah": 1e-3,
}
# A title that is nothing but a unit says by it what stands below.
_QUANTITY_OF_UNIT: Mapping[str, str] = {
    **dict.fromkeys(("mv", "v", "volt", "volts"), "volts"),
    **dict.fromkeys(("ma", "ua", "µa", "μa", "a", "amp", "amps"), "amps"),
    **dict.fromkeys(("ms", "s", "sec", "seconds", "min", "minutes", "h", "hours"), "time"),
    **dict.fromkeys(("w", "mw"), "watts"),
    **dict.fromkeys(("ah", "mah"), "counted"),
}
UNITS = frozenset({*_SIZES, "c", "f", "°c", "°f", "degc", "degf", "w", "wh", "ah", "mah", "mw", "mwh", "%", "ohm", "-"})


def words_of(title: str) -> tuple[str, ...]:
    """Lower-case words without accents; a word in two cases is two: "BatteryVoltage"."""
    split = re.sub(r"(?<=[a-z])(?=[A-Z])", " ", title)
    plain = unicodedata.normalize("NFKD", split.replace("ł", "l").replace("Ł", "L"))
    return tuple(re.findall(r"[a-z]+|\d+", "".join(c for c in plain if not unicodedata.combining(c)).lower()))


def unit_of(title: str) -> str:
    """The unit at its end: "ma", "min", "f"; empty where it has none."""
    if is_bare_unit(title):
        return title.strip().lower()
    match = _UNIT.search(title.strip())
    return match[1].lower().replace(" ", "").replace("°", "") if match else ""


def is_bare_unit(title: str) -> bool:
    """Nothing but a unit: "mV"."""
    return title.strip().lower() in _QUANTITY_OF_UNIT


def size_of(title: str) -> float:
    """How many volts, amperes or seconds one of its units is."""
    return _SIZES.get(unit_of(title), 1.0)


def is_units_row(cells: Sequence[str]) -> bool:
    """A row of nothing but units, as some programs write below their titles."""
    plain = [cell.strip().strip("[]()").lower() for cell in cells]
    known = [cell for cell in plain if cell]
    return len(known) >= 2 and all(cell in UNITS or cell in {"hh:mm:ss", "mm:ss", "hh:mm"} for cell in known)


def places_by(header: Sequence[str], width: int) -> tuple[ColumnPlaces, tuple[Message, ...]]:
    """Which column holds what, and remarks; without a header time, volts, amps in this order. Raises UnreadableLog."""
    if not header:
        if width < 3:
            raise UnreadableLog(say("without a header three columns are needed: time, volts, amps"))
        return ColumnPlaces(0, 1, 2, 3 if width > 3 else None), ()
    ranked = {quantity: _ranked(header, quantity) for quantity in WORDS}
    time, date, samples = _times(header, ranked)
    taken = {place for place in (time, date) if place is not None}
    volts = _first([place for place in ranked["volts"] if place not in taken])
    amps_places = [place for place in ranked["amps"] if place not in {*taken, volts}]
    amps = _of_the_same_channel(header, volts, amps_places)
    celsius = _of_the_same_channel(header, volts, [p for p in ranked["celsius"] if p not in {*taken, volts, amps}])
    watts, counted = (
        _first([place for place in ranked[other] if amps is None and place not in {*taken, volts}])
        for other in ("watts", "counted")
    )
    has_current = any(place is not None for place in (amps, watts, counted))
    missing = [
        name
        for name, is_there in (("time", time is not None), ("volts", volts is not None), ("amps", has_current))
        if not is_there
    ]
    if missing or time is None or volts is None:
        raise UnreadableLog(
            say("no column for {missing} among: {header}", missing=all_of(missing), header=row_of(header))
        )
    remarks = []
    if amps is None and watts is not None:
        remarks.append(say("It has no current: that is worked out of its watts and volts."))
    elif amps is None:
        remarks.append(say("It has no current: that is worked out of the charge that it counted."))
    if amps is not None and len(ranked["volts"]) > 1 and len(amps_places) > 1:
        remarks.append(
            say("It has several channels; “{volts}” and “{amps}” are used.", volts=header[volts], amps=header[amps])
        )
    return ColumnPlaces(time, volts, amps, celsius, date, watts, counted, samples), tuple(remarks)


def _times(header: Sequence[str], ranked: Mapping[str, Sequence[int]]) -> tuple[int | None, int | None, bool]:
    """The column of the time, one of days beside its clock, and whether it only counts the rows.

    A time in a unit counts by itself: a date beside it says nothing more.
    """
    time = _first(ranked["time"])
    days = [place for place in ranked["date"] if place != time and place not in ranked["samples"]]
    if time is None:
        numbers = ranked["samples"]
        return (days[0], None, False) if days else (_first(numbers), None, bool(numbers))
    beside = [place for place in days if "time" not in words_of(header[place])]
    return time, None if unit_of(header[time]) else _first(beside), False  # the clock, and its days


def _first(places: Sequence[int]) -> int | None:
    return places[0] if places else None


def _ranked(header: Sequence[str], quantity: str) -> list[int]:
    """Columns that may hold it, likeliest first: one word alone before many, readings before settings."""
    found = []
    for place, title in enumerate(header):
        if is_bare_unit(title):
            found += [(False, place)] if _QUANTITY_OF_UNIT[title.strip().lower()] == quantity else []
            continue
        bare = _UNIT.sub("", title.strip()) if unit_of(title) else title
        words = words_of(bare) or words_of(title)
        named = [word for word in words if word in WORDS[quantity] and (len(word) > 1 or len(_letters(words)) == 1)]
        if named:
            aside = NOT_READ - WORDS[quantity] - {"mah", "ah", "w"}
            found.append((any(word in aside for word in words), place))
    return [place for _, place in sorted(found)]


def _letters(words: Sequence[str]) -> list[str]:
    return [word for word in words if not word.isdigit()]


def _of_the_same_channel(header: Sequence[str], volts: int | None, places: Sequence[int]) -> int | None:
    """Of several the one whose other words are those of the volts' column."""
    if volts is None or not places:
        return _first(places)
    channel = set(words_of(header[volts])) - WORDS["volts"]
    return max(places, key=lambda place: (len(channel & set(words_of(header[place]))), -places.index(place)))
