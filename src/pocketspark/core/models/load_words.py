"""The words in which makers say a load: currents, times, how often; a line taken apart into what each part says."""

import re
import unicodedata
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import Message, say
from pocketspark.core.units.figures import bare

DAY_S = 86_400.0


class UnreadableLoad(PocketSparkError, ValueError):
    """The line says no load that can be counted with; the message says what to write."""

    def __init__(self, sentence: Message) -> None:
        super().__init__(str(sentence))


@dataclass(frozen=True)
class LoadPart:
    """What one part of the line says. Times in s; None: not said. `hours_a_day`: of pulses, from the part beside."""

    name: str = ""
    current_a: float | None = None
    lasts_s: float | None = None
    period_s: float | None = None
    times: float | None = None
    hours_a_day: float | None = None
    always: bool = False
    asleep: bool = False
    starts: bool = False


def parts_of(text: str) -> list[LoadPart]:
    """What each part of a line says, in its order. Raises UnreadableLoad.

    A bare number is taken as milliamperes, as the field of a current has them.
    """
    cleaned = unicodedata.normalize("NFKC", text).strip()
    if _BARE_NUMBER.fullmatch(cleaned):
        cleaned += " mA"
    return [_Reader(tokens).read() for tokens in _split(list(_tokens(_plain_words(cleaned))))]


# Words ------------------------------------------------------------------------------------------------------------

_BARE_NUMBER = re.compile(r"\d+(?:[.,]\d+)?|[.,]\d+", re.ASCII)
_TOKEN = re.compile(r"(?P<number>[0-9]+(?:[.,][0-9]+)?|[.,][0-9]+)|(?P<word>[^\W\d_]+)|(?P<sign>\S)", re.UNICODE)
# Phrases that are one word of this grammar.
_PHRASES: Sequence[tuple[str, str]] = (
    (r"day and night|(a)?round the clock|24\s*/\s*7|all the time|all day( long)?|the whole day", "always"),
    (r"start[- ]up|switch(ed)?[- ]on|turn[- ]on", "start"),
    (r"stand[- ]by", "standby"),
    (r"in between|between pulses", "asleep"),
    (r"on and off", "pulsing"),
    (r"h/d(ay)?\b", "h a day"),
)
# So many of each make an ampere: 18 mA divided by 1000 is 0.018 A to the last digit.
_AMPS: Mapping[str, float] = {
    **dict.fromkeys(("a", "amp", "amps", "ampere", "amperes"), 1.0),
    **dict.fromkeys(("ma", "milliamp", "milliamps", "milliampere", "milliamperes"), 1e3),
    **dict.fromkeys(("ua", "μa", "microamp", "microamps", "microampere", "microamperes"), 1e6),
    **dict.fromkeys(("na", "nanoamp", "nanoamps"), 1e9),
}
_TIMES: Mapping[str, float] = {
    "ms": 1e-3,
    **dict.fromkeys(("s", "sec", "secs", "second", "seconds"), 1.0),
    **dict.fromkeys(("min", "mins", "minute", "minutes"), 60.0),
    **dict.fromkeys(("h", "hr", "hrs", "hour", "hours"), 3600.0),
    **dict.fromkeys(("d", "day", "days", "evening", "night", "morning", "afternoon", "noon"), DAY_S),
    **dict.fromkeys(("week", "weeks"), 7 * DAY_S),
    **dict.fromkeys(("month", "months"), 30.4 * DAY_S),
    **dict.fromkeys(("year", "years"), 365 * DAY_S),
}
_ADVERBS: Mapping[str, float] = {"daily": DAY_S, "nightly": DAY_S, "hourly": 3600.0, "weekly": 7 * DAY_S}
_NUMBERS: Mapping[str, str] = {
    word: str(n)
    for n, word in enumerate(
        ["one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"], start=1
    )
} | {"half": "0.5"}
_ASLEEP = frozenset(
    ["asleep", "sleep", "sleeps", "sleeping", "off", "standby", "idle", "resting", "quiescent", "otherwise"]
)
_START = frozenset(["start", "starts", "starting", "starter", "inrush", "peak", "peaks", "surge"])
_ALWAYS = frozenset(
    ["always", "continuous", "continuously", "constant", "constantly", "permanently", "steady", "steadily"]
)
_EVERY = frozenset(["every", "each", "per", "a", "an"])
_QUIET = frozenset(
    [
        "of",
        "at",
        "in",
        "the",
        "it",
        "its",
        "is",
        "and",
        "then",
        "draws",
        "drawing",
        "draw",
        "takes",
        "on",
        "about",
        "approximately",
        "ca",
        "up",
        "to",
        "for",
        "lasting",
        "lasts",
        "when",
        "while",
        "day",
        "use",
        "used",
        "pulses",
        "pulse",
        "bursts",
        "burst",
    ]
)
_NAMES_FOLLOW = frozenset({"when", "while"})
_BREAKS = frozenset(",;\n+&")
_SILENT_SIGNS = frozenset("-–—~.()“”\"'")
_MINUS = frozenset("-–—")
_BREAKING_WORDS = frozenset({"with", "plus"})


@dataclass(frozen=True)
class _Token:
    kind: str
    text: str

    @property
    def word(self) -> str:
        return self.text.lower()


def _plain_words(text: str) -> str:
    for pattern, word in _PHRASES:
        text = re.sub(rf"(?<!\w)(?:{pattern})(?!\w)", word, text, flags=re.IGNORECASE)
    return re.sub(r"\b(\d+(?:[.,]\d+)?)\s*[x×](?![\w])", r"\1 times", text)


def _tokens(text: str) -> Iterator[_Token]:
    for match in _TOKEN.finditer(text):
        kind, found = str(match.lastgroup), match.group()
        if kind == "word" and found.lower() in _NUMBERS:
            yield _Token("number", _NUMBERS[found.lower()])
        else:
            yield _Token(kind, found)


def _split(tokens: list[_Token]) -> list[list[_Token]]:
    """Part by part: at a comma, a semicolon, a plus, and at an "and" that a number follows."""
    parts: list[list[_Token]] = [[]]
    for place, token in enumerate(tokens):
        following = tokens[place + 1].kind if place + 1 < len(tokens) else ""
        breaks = token.text in _BREAKS or token.word in _BREAKING_WORDS
        if breaks or (token.word == "and" and following == "number"):
            parts.append([])
        else:
            parts[-1].append(token)
    return [part for part in parts if part]


_PLAIN_NAME = re.compile(r"[^\W\d_][^\W\d_ ]*( [^\W\d_]+)*")


def is_plain_name(name: str) -> bool:
    """Would be read as a name, and as nothing else. "on" is what a mode is called that nobody has named."""
    words = name.lower().split()
    known = _AMPS.keys() | _TIMES.keys() | _ADVERBS.keys() | _NUMBERS.keys() | _EVERY | _QUIET
    known |= _ASLEEP | _START | _ALWAYS | {"once", "twice", "times", "time", "x"}
    plain = _PLAIN_NAME.fullmatch(name) is not None and _plain_words(name) == name
    return plain and not known.intersection(words)


# One part ----------------------------------------------------------------------------------------------------------


class _Reader:
    """Reads the tokens of one part from left to right."""

    def __init__(self, tokens: list[_Token]) -> None:
        self.tokens, self.place = tokens, 0
        self.said: dict[str, Any] = {}
        self.names: list[str] = []
        self.names_follow = True  # before the current, and after "when"
        self.of_each = False  # the time that comes is how often, and not how long

    def read(self) -> LoadPart:
        while self.place < len(self.tokens):
            token = self.tokens[self.place]
            self.place += 1
            if token.kind == "number":
                self._number(float(token.text.replace(",", ".")))
            elif token.kind == "word":
                self._word(token)
            elif token.text == "/":
                self.of_each = "lasts_s" in self.said or "times" in self.said
            elif token.text == ":":
                self.names_follow = True
            elif token.text not in _SILENT_SIGNS or (token.text in _MINUS and self._next()[:1].isdigit()):
                raise _not_understood(token.text)
        return LoadPart(name=" ".join(self.names)[:120], **self.said)

    def _number(self, number: float) -> None:
        if self._next() in ("a", "an") and self._after_next() in _TIMES:  # half an hour
            self.place += 1
        unit = self._next()
        self.place += 1
        if unit in _AMPS:
            self._set("current_a", number / _AMPS[unit])
            self.names_follow = False
        elif unit in _TIMES:
            self._time(number * _TIMES[unit])
        elif unit in ("times", "time"):
            self._set("times", number)
        else:
            raise UnreadableLoad(
                say("{number} of what? Write its unit: mA, s, min, h or times a day.", number=bare(number))
            )

    def _time(self, seconds: float) -> None:
        if self.of_each:
            self._set("period_s", seconds)
        elif "lasts_s" in self.said and self._is_next_to_a_time():
            self.said["lasts_s"] += seconds  # 1 h 30 min
        else:
            self._set("lasts_s", seconds)
        self.of_each = False

    def _is_next_to_a_time(self) -> bool:
        """Number and unit stand right behind another unit of time."""
        before = self.place - 3
        return before >= 0 and self.tokens[before].word in _TIMES

    def _word(self, token: _Token) -> None:
        word = token.word
        if word in _EVERY:
            self._every()
        elif word in _TIMES and self.of_each:
            self._time(_TIMES[word])
        elif word in _ADVERBS:
            self._set("period_s", _ADVERBS[word])
        elif word in ("once", "twice"):
            self._set("times", 1.0 if word == "once" else 2.0)
        elif word in _ASLEEP or word in _START or word in _ALWAYS:
            self.said["asleep" if word in _ASLEEP else "starts" if word in _START else "always"] = True
        elif word in _QUIET:
            self._quiet(word)
        elif self.names_follow:
            self.names.append(token.text)
        else:
            raise _not_understood(token.text)

    def _every(self) -> None:
        """ "every minute", "a day", "each 30 s"; but "for a second" says how long."""
        before = self.tokens[self.place - 2].word if self.place > 1 else ""
        if before in ("for", "lasting", "lasts") and self._next() in _TIMES:
            self._time(_TIMES[self._next()])
            self.place += 1
        else:
            self.of_each = True

    def _quiet(self, word: str) -> None:
        if word in _NAMES_FOLLOW:
            self.names_follow = True
        # 2 s of every minute, 2 s in 60 s
        if word in ("of", "in") and "lasts_s" in self.said:
            self.of_each = True

    def _next(self) -> str:
        return self.tokens[self.place].word if self.place < len(self.tokens) else ""

    def _after_next(self) -> str:
        return self.tokens[self.place + 1].word if self.place + 1 < len(self.tokens) else ""

    def _set(self, key: str, value: float) -> None:
        if key in self.said:
            raise UnreadableLoad(SAID_TWICE[key])
        self.said[key] = value


SAID_TWICE: Mapping[str, Message] = {
    "current_a": say("Two currents stand in one part. Put a comma between them, and say when each flows."),
    "lasts_s": say("Two times stand in one part. Write one as “every”: “2 s every minute”."),
    "period_s": say("It says twice how often. Keep one of them."),
    "times": say("It says twice how many times. Keep one of them."),
}


def _not_understood(word: str) -> UnreadableLoad:
    return UnreadableLoad(
        say("“{word}” is not understood here. Write it like “18 mA for 2 s every minute, 60 μA asleep”.", word=word)
    )
