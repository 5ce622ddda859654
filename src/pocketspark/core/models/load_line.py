"""The load as it is lived, in one line: "18 mA for 2 s every minute, 60 uA asleep", read and written.

A line is read part by part. Each part says a current, when it flows, or both; a part with no current of its own says
more of the one before it.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Any

from pocketspark.core.message import Message, Value, row_of, say
from pocketspark.core.models.load_translated import in_english
from pocketspark.core.models.load_words import DAY_S, SAID_TWICE, LoadPart, UnreadableLoad, is_plain_name, parts_of
from pocketspark.core.models.month_words import months_in_words, parted_from_months
from pocketspark.core.units.figures import bare, exact_hours, significant

# What is taken of a current of which no time is said (common practice, no source).
USUAL_HOURS = 1.0
# Nobody's day takes more words.
LONGEST = 400
# As a line is written: the first of which there is a whole one.
_CURRENTS = (("A", 1.0), ("mA", 1e3), ("μA", 1e6), ("nA", 1e9))


@dataclass(frozen=True)
class DrawnCurrent:
    """One current and when it flows, as a mode of the gadget has it. None: not said.

    `hours_per_day` are those in this mode, while a line is read inf for whatever the other parts leave of the day;
    within them the current flows for `on_s` out of every `every_s`.
    """

    current_a: float
    name: str = ""
    hours_per_day: float | None = None
    on_s: float | None = None
    every_s: float | None = None
    peak_a: float | None = None
    peak_s: float | None = None
    starts_per_day: float | None = None

    @property
    def on_day_h(self) -> float:
        """Hours a day in this mode, a usual number where none is said."""
        return USUAL_HOURS if self.hours_per_day is None else self.hours_per_day

    def fields(self) -> dict[str, Any]:
        """Of a mode in a document, without what was not said."""
        said = {"name": self.name or None, **{key: of for key, of in vars(self).items() if key != "name"}}
        return {key: of for key, of in said.items() if of is not None} | {"hours_per_day": self.on_day_h}


@dataclass(frozen=True)
class LoadLine:
    """What a line says: the currents while it is used, the one while it sleeps, the months in which it is used (None:
    not said)."""

    drawn: tuple[DrawnCurrent, ...]
    asleep_a: float | None = None
    months: tuple[int, ...] | None = None


def read_load(text: str) -> LoadLine:
    """Read a line. Raises UnreadableLoad with a sentence that says what to write in its place.

    A bare number is taken as milliamperes, as the field of a current has them. Pulses of which no hours are said go on
    for whatever the other parts leave of the day.
    """
    if not text.strip():
        raise UnreadableLoad(say("Enter what it draws and when, like “62 mA, 3 h each evening”."))
    if len(text) > LONGEST:
        raise UnreadableLoad(say("Enter {longest} characters at most.", longest=LONGEST))
    text, months = parted_from_months(in_english(text))
    joined = _joined(parts_of(text))
    drawn = [_drawn(part) for part in joined if not part.asleep]
    return LoadLine(_within_a_day(_starts_with_what_runs(drawn, joined)), _asleep(joined), months)


# What the parts come to ----------------------------------------------------------------------------------------------


def _asleep(parts: Sequence[LoadPart]) -> float | None:
    asleep = [part.current_a for part in parts if part.asleep and part.current_a is not None]
    if len(asleep) > 1:
        raise UnreadableLoad(say("Two currents are said to flow while it is asleep. Keep one of them."))
    return asleep[0] if asleep else None


def _drawn(part: LoadPart) -> DrawnCurrent:
    assert part.current_a is not None  # only such parts are joined
    drawn = DrawnCurrent(part.current_a, part.name)
    lasts_s, period_s, times = part.lasts_s, part.period_s, part.times
    if part.always and lasts_s is None:
        return replace(drawn, hours_per_day=math.inf)
    if lasts_s is not None and period_s is not None and _is_pulse(part):
        return _pulsing(drawn, lasts_s, period_s, part.hours_a_day)
    if times is not None:
        return _counted(drawn, part, times)
    if period_s is not None and lasts_s is None:
        raise UnreadableLoad(say("For how long each time? Write “for 2 s every minute”."))
    if lasts_s is None:
        return drawn
    if period_s is None and lasts_s < 3600 and not part.starts:
        raise UnreadableLoad(say("How often does that happen? Write “every minute”, or “20 times a day”."))
    if period_s is None and part.starts:
        return replace(drawn, on_s=lasts_s)
    return replace(drawn, hours_per_day=_hours_a_day(lasts_s, period_s or DAY_S))


def _counted(drawn: DrawnCurrent, part: LoadPart, times: float) -> DrawnCurrent:
    """So many times in a period, each so long."""
    if part.period_s is None:
        raise UnreadableLoad(say("How often is that? Write “{times} times a day”, or an hour.", times=bare(times)))
    if part.lasts_s is None:
        raise UnreadableLoad(
            say("How long does it last each time? Write “for 2 s, {times} times a day”.", times=bare(times))
        )
    if times <= 0:
        raise UnreadableLoad(say("Enter how many times a day, more than none."))
    return _pulsing(drawn, part.lasts_s, part.period_s / times)


def _pulsing(drawn: DrawnCurrent, on_s: float, every_s: float, hours_a_day: float | None = None) -> DrawnCurrent:
    if on_s > every_s * (1 + 1e-9):
        raise UnreadableLoad(
            say("{on} s do not go into every {every} s. Shorten the first.", on=bare(on_s), every=bare(every_s))
        )
    if on_s <= 0:
        raise UnreadableLoad(say("Enter how long it lasts each time, more than no time at all."))
    return replace(drawn, on_s=on_s, every_s=every_s, hours_per_day=math.inf if hours_a_day is None else hours_a_day)


def _hours_a_day(lasts_s: float, period_s: float) -> float:
    hours = lasts_s / period_s * 24
    if hours > 24 * (1 + 1e-9):
        raise UnreadableLoad(say("A day has 24 h, not {hours}. Enter fewer.", hours=exact_hours(hours)))
    return hours


def _starts_with_what_runs(drawn: Sequence[DrawnCurrent], parts: Sequence[LoadPart]) -> list[DrawnCurrent]:
    """A start belongs to the current that runs after it; where none is said, it stands for itself."""
    found: list[DrawnCurrent] = []
    for one, part in zip(drawn, [part for part in parts if not part.asleep], strict=True):
        runs = found[-1] if found and part.starts else None
        if runs is None or runs.peak_a is not None:
            found.append(_by_itself(one, part))
        elif one.current_a <= runs.current_a:
            raise UnreadableLoad(say("The start draws no more than what runs after it. Leave it out."))
        else:
            times = None if one.every_s is None else DAY_S / one.every_s
            found[-1] = replace(runs, peak_a=one.current_a, peak_s=one.on_s, starts_per_day=times)
    return found


def _by_itself(drawn: DrawnCurrent, part: LoadPart) -> DrawnCurrent:
    if part.starts and drawn.every_s is None and drawn.hours_per_day is None:
        raise UnreadableLoad(
            say("Write what it draws after it has started, too: “120 mA, 20 s a day, 900 mA for 1 s at start”.")
        )
    return drawn


def _within_a_day(drawn: Sequence[DrawnCurrent]) -> tuple[DrawnCurrent, ...]:
    """What goes on all day fills what the others leave of it: a steady current, else the quickest of the pulses."""
    all_day = sorted((one for one in drawn if one.hours_per_day == math.inf), key=_period_s)
    if len(all_day) > 1 and not all_day[1].every_s:
        raise UnreadableLoad(say("Two steady currents flow all day. Add them up, or say how many hours each flows."))
    base = all_day[0] if all_day else None
    settled = {id(one): replace(one, hours_per_day=_on_h(one), on_s=None, every_s=None) for one in all_day[1:]}
    taken = sum(settled.get(id(one), one).on_day_h for one in drawn if one is not base)
    if taken > 24 * (1 + 1e-6) or (base and taken >= 24):
        raise UnreadableLoad(
            say("They add up to {taken} a day, and a day has 24 h. Shorten one.", taken=exact_hours(taken))
        )
    if base:
        settled[id(base)] = replace(base, hours_per_day=24 - taken)
    return tuple(settled.get(id(one), one) for one in drawn)


def _period_s(drawn: DrawnCurrent) -> float:
    return drawn.every_s or 0.0


def _on_h(drawn: DrawnCurrent) -> float:
    """Hours a day in which a pulse really draws."""
    return 24 * drawn.on_s / drawn.every_s if drawn.on_s and drawn.every_s else 0.0


def _joined(parts: Sequence[LoadPart]) -> list[LoadPart]:
    """Parts that say a current, each with what the parts beside it say of when it flows."""
    joined: list[LoadPart] = []
    waiting: LoadPart | None = None  # a time before the first current: "20 s a day, 900 mA"
    for part in parts:
        if part.current_a is None and joined:
            # Hours a day are those of what runs, and not of its start.
            last = -2 if len(joined) > 1 and joined[-1].starts and _is_daily(part) else -1
            joined[last] = _both(joined[last], part)
        elif part.current_a is None:
            waiting = part if waiting is None else _both(waiting, part)
        else:
            joined.append(part if waiting is None else _both(waiting, part))
            waiting = None
    if not joined:
        raise UnreadableLoad(say("No current stands in it. Write one with its unit, like “62 mA”."))
    return joined


def _both(first: LoadPart, second: LoadPart) -> LoadPart:
    """Two parts that speak of one current. What a pulse says, and hours a day beside it, do not clash."""
    for pulse, daily in ((first, second), (second, first)):
        if _is_pulse(pulse) and _is_daily(daily):
            hours_a_day = None if daily.lasts_s is None else _hours_a_day(daily.lasts_s, daily.period_s or DAY_S)
            current_a = first.current_a if first.current_a is not None else second.current_a
            return replace(
                pulse, current_a=current_a, name=first.name or second.name, always=daily.always, hours_a_day=hours_a_day
            )
    for key in ("current_a", "lasts_s", "period_s", "times"):
        if getattr(first, key) is not None and getattr(second, key) is not None:
            raise UnreadableLoad(SAID_TWICE[key])
    return replace(first, **{key: of for key, of in vars(second).items() if not _is_unsaid(of)})


def _is_unsaid(value: object) -> bool:
    """No current is one that was said."""
    return value is None or value is False or value == ""


def _is_pulse(part: LoadPart) -> bool:
    return part.lasts_s is not None and part.period_s is not None and part.period_s < DAY_S and part.times is None


def _is_daily(part: LoadPart) -> bool:
    """Only how many hours of the day: "8 h a day", "always"."""
    by_hours = part.lasts_s is not None and part.times is None and (part.period_s is None or part.period_s >= DAY_S)
    return by_hours or (part.always and part.lasts_s is None)


# Written again -------------------------------------------------------------------------------------------------------


def written(drawn: Sequence[DrawnCurrent], asleep_a: float, months: Sequence[int] = ()) -> Message:
    """The line that says this load; `read_load` makes the same of it, but for names that would be read as words.

    In the words and with the decimal mark of whoever reads, who may type it again so.
    """
    whole_day = abs(sum(one.on_day_h for one in drawn) - 24) < 1e-9
    longest = max(drawn, key=lambda one: one.on_day_h) if whole_day else None
    parts = [row_of(_written(one, one is longest)) for one in drawn]
    asleep = [row_of([_current(asleep_a), "asleep"], " ")] if asleep_a else []
    return row_of([*parts, *asleep, *months_in_words(months)], ";")


def _written(drawn: DrawnCurrent, fills_the_day: bool) -> Iterator[Message]:
    name: list[Value] = [f"{drawn.name}:"] if is_plain_name(drawn.name) else []
    pulse: list[Value] = []
    if drawn.on_s and drawn.every_s:
        pulse = ["for", _time(drawn.on_s), "every", _time(drawn.every_s)]
    yield row_of([*name, _current(drawn.current_a), *pulse], " ")
    yield row_of(["all day"] if fills_the_day else [_time(drawn.on_day_h * 3600), "a day"], " ")
    if drawn.peak_a is None or drawn.peak_a <= drawn.current_a:
        return
    lasts: list[Value] = [] if drawn.peak_s is None else ["for", _time(drawn.peak_s)]
    yield row_of([_current(drawn.peak_a), "at start", *lasts], " ")
    if drawn.starts_per_day is not None:
        yield row_of([significant(drawn.starts_per_day, 9), "times a day"], " ")


def _current(current_a: float) -> Message:
    unit, per_amp = next((one for one in _CURRENTS if current_a * one[1] >= 1), _CURRENTS[-1])
    return row_of([significant(current_a * per_amp, 9), unit], " ")


def _time(seconds: float) -> Message:
    """In the largest unit in which it is a short number."""
    for unit, size in (("h", 3600.0), ("min", 60.0)):
        if seconds >= size and abs(seconds / size - round(seconds / size, 2)) < 1e-9:
            return row_of([significant(seconds / size, 9), unit], " ")
    unit, per_s = ("s", 1.0) if seconds >= 1 else ("ms", 1e3)
    return row_of([significant(seconds * per_s, 12), unit], " ")
