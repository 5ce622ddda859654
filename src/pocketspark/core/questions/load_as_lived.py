"""The load as it is lived: one line read into the modes of a gadget, and the modes as a day and an hour to look at."""

import math
from collections.abc import Iterator, Sequence
from itertools import zip_longest

from pydantic import ValidationError

from pocketspark.core.message import NOTHING, Message, as_message, say, verbatim
from pocketspark.core.models import Gadget, Mode, Project
from pocketspark.core.models.climate import MONTHS
from pocketspark.core.models.load_line import DrawnCurrent, LoadLine, read_load, written
from pocketspark.core.models.load_words import UnreadableLoad
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import APPENDED, Edit
from pocketspark.core.refusal import refusals
from pocketspark.core.units.figures import ShownAmpHours, ShownAmps, ShownHours, amps, duration, hours

# A strip shows so many pulses and most of the pause after the last: enough to see how often they come.
_PULSES, _PERIODS = 4, 3.85


class DayPart(Model):
    """One use of the gadget in its day. `starts_at` and `share` are of the day."""

    name: str
    current_a: ShownAmps
    hours: ShownHours
    starts_at: float
    share: float
    pulses: Message


class Pulse(Model):
    """One pulse in a strip, from and to a share of it; `at`: how long after the first."""

    starts_at: float
    ends_at: float
    at: Message


class PulseStrip(Model):
    """A few pulses of one use, drawn to scale."""

    name: str
    says: Message
    pulses: tuple[Pulse, ...]


class LoadDay(Model):
    """A day of the gadget: what it is in and for how long, asleep for the rest, and its pulses within an hour."""

    line: Message
    parts: tuple[DayPart, ...]
    asleep_a: ShownAmps
    asleep_hours: ShownHours
    average_a: ShownAmps
    daily_ah: ShownAmpHours
    strip: PulseStrip | None


class LoadUnderstood(Model):
    """What a line was understood as, the edits that put it into the document, and what was taken unasked."""

    day: LoadDay
    edits: tuple[Edit, ...]
    taken: Message


def load_day(gadget: Gadget) -> LoadDay | None:
    """None where nothing is known to draw."""
    modes = [mode for mode in gadget.modes if mode.current_a > 0]
    if not modes and not gadget.off_current_a:
        return None
    pulsing = max((mode for mode in modes if mode.duty < 1), key=lambda mode: mode.hours_per_day, default=None)
    return LoadDay(
        line=written([_drawn(mode) for mode in modes], gadget.off_current_a, gadget.shell.months_used or ()),
        parts=tuple(_parts(modes)),
        asleep_a=gadget.off_current_a,
        asleep_hours=max(24 - gadget.hours_on_per_day, 0.0),
        average_a=gadget.daily_ah / 24,
        daily_ah=gadget.daily_ah,
        strip=_strip(pulsing) if pulsing else None,
    )


def read_load_line(project: Project, text: str) -> LoadUnderstood:
    """A line held against the modes that there are. Raises UnreadableLoad, for a figure that no gadget has too.

    A mode is the one of the same name, else the one in the same place; what the line does not say of it stays. A line
    without months is one of the whole year.
    """
    line = read_load(text)
    edits = tuple(_edits(project.gadget, line))
    try:
        day = load_day(project.apply(edits).gadget)
    except ValidationError as error:
        raise UnreadableLoad(verbatim(refusals(error)[0].sentence)) from None
    assert day is not None  # the line says a current
    taken = any(drawn.hours_per_day is None for drawn in line.drawn) and not project.gadget.modes
    usual = say("{hours} a day is taken, since no time is said.", hours=hours(DrawnCurrent(0.0).on_day_h))
    return LoadUnderstood(day=day, edits=edits, taken=usual if taken else NOTHING)


def _drawn(mode: Mode) -> DrawnCurrent:
    return DrawnCurrent(**{key: getattr(mode, key) for key in DrawnCurrent.__dataclass_fields__})


def _edits(gadget: Gadget, line: LoadLine) -> Iterator[Edit]:
    """Field by field, so that what is known of where the others came from stays."""
    matched = _matched(gadget.modes, line.drawn)
    for mode, drawn in matched:
        if mode is None and drawn is not None:
            name = "on" if len(matched) == 1 else f"mode {len(gadget.modes) + 1}"
            yield Edit(path=f"gadget.modes.{APPENDED}", value={"name": name} | drawn.fields())
        elif mode is not None and drawn is not None:
            yield from _changes(mode, drawn)
    # Rows go last, so that none moves up under a path.
    for mode, drawn in matched:
        if mode is not None and drawn is None:
            yield Edit(path=f"gadget.modes.{mode.id}", value=None)
    if line.asleep_a is not None and not _is_same(line.asleep_a, gadget.off_current_a):
        yield Edit(path="gadget.off_current_a", value=line.asleep_a)
    months = None if line.months is None or len(line.months) == len(MONTHS) else line.months
    if months != gadget.shell.months_used:
        yield Edit(path="gadget.shell.months_used", value=None if months is None else list(months))


def _matched(modes: Sequence[Mode], drawn: Sequence[DrawnCurrent]) -> list[tuple[Mode | None, DrawnCurrent | None]]:
    """By name; what has no name in the line by its place among those that are left. Another name is another mode."""
    left = {mode.name.lower(): mode for mode in modes}
    matched: list[tuple[Mode | None, DrawnCurrent | None]] = [
        (left.pop(one.name.lower()), one) for one in drawn if one.name.lower() in left
    ]
    taken = [one for _, one in matched]
    matched += zip_longest(left.values(), (one for one in drawn if not one.name and one not in taken))
    return [*matched, *((None, one) for one in drawn if one.name and one not in taken)]


def _changes(mode: Mode, drawn: DrawnCurrent) -> Iterator[Edit]:
    """What the line says otherwise. A peak and a time of which it says nothing stay, but not a pulse."""
    said = {key: of for key, of in vars(drawn).items() if of is not None and of != ""}
    for key in ("on_s", "every_s"):
        said.setdefault(key, None)
    # Both at once: on its own the first may be longer than the period that there was.
    if (said["on_s"], said["every_s"]) != (mode.on_s, mode.every_s):
        yield Edit(path=f"gadget.modes.{mode.id}.on_s", value=said["on_s"])
        yield Edit(path=f"gadget.modes.{mode.id}.every_s", value=said["every_s"])
    for key, value in said.items():
        if key not in ("on_s", "every_s") and not _is_same(value, getattr(mode, key)):
            yield Edit(path=f"gadget.modes.{mode.id}.{key}", value=value)


def _is_same(value: object, other: object) -> bool:
    """To more digits than anybody types."""
    if isinstance(value, float) and isinstance(other, float):
        return math.isclose(value, other, rel_tol=1e-9)
    return value == other


# To look at ----------------------------------------------------------------------------------------------------------


def _parts(modes: Sequence[Mode]) -> Iterator[DayPart]:
    starts_at = 0.0
    for mode in modes:
        share = mode.hours_per_day / 24
        yield DayPart(
            name=mode.name,
            current_a=mode.current_a,
            hours=mode.hours_per_day,
            starts_at=starts_at,
            share=share,
            pulses=_pulses_in_words(mode),
        )
        starts_at += share


def _pulses_in_words(mode: Mode) -> Message:
    if mode.on_s is None or mode.every_s is None:
        return NOTHING
    return say("{on} of every {every}", on=duration(mode.on_s), every=duration(mode.every_s))


def _strip(mode: Mode) -> PulseStrip:
    assert mode.on_s is not None
    assert mode.every_s is not None  # its duty is under 1
    on, every = mode.on_s / mode.every_s / _PERIODS, 1 / _PERIODS
    return PulseStrip(
        name=mode.name,
        says=say("{current} for {on}", current=amps(mode.current_a), on=duration(mode.on_s)),
        pulses=tuple(
            Pulse(
                starts_at=number * every,
                ends_at=min(number * every + on, 1.0),
                at=as_message(duration(number * mode.every_s)) if number else say("0"),
            )
            for number in range(_PULSES)
        ),
    )
