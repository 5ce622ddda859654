"""By which law a gadget draws, told from what it drew at several volts, and what to read next."""

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

import numpy as np

from pocketspark.core.load_laws.fitting import FittedLaw, apart, fitted, race
from pocketspark.core.load_laws.forms import FORMS, FormKey
from pocketspark.core.load_laws.next_reading import widest_gap
from pocketspark.core.message import NOTHING, Message, _, any_of, say
from pocketspark.core.models import FRONT_ENDS, Gadget, Mode, Project
from pocketspark.core.models.gadget import DrawnReading
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps, engineering, ohms, percent, volts, watts

# Readings that tell one law from another as a rule (common practice, no source).
ENOUGH = 4
# Points of a drawn curve.
DRAWN = 60
# A silicon diode in one lead takes about so much away (from memory).
DIODE_V = 0.7

_CALLED: Mapping[FormKey, str] = {
    "resistor": _("a resistor or heater"),
    "leds": _("LEDs and their resistor"),
    "filament": _("a filament lamp"),
    "motor": _("a motor"),
    "same_current": _("electronics straight on the battery"),
    "same_power": _("a switching converter"),
    "own_regulator": _("its own linear regulator"),
}


class LawCurve(Model):
    """One law through the readings. `says`: its figures, each with its give-or-take; `missed`: at its worst reading."""

    key: FormKey
    called: Message
    says: Message
    is_best: bool
    missed: Message
    volts: tuple[float, ...]
    current_a: tuple[float, ...]


class PointRead(Model):
    """One reading, as it is drawn."""

    volts: ShownVolts
    current_a: ShownAmps


class LawsOfReadings(Model):
    """What the readings of one mode tell. `edits`: what they put into the survey; empty while nothing is clear."""

    headline: Message
    detail: Message
    wanted: Message
    points: tuple[PointRead, ...]
    curves: tuple[LawCurve, ...]
    edits: tuple[Edit, ...]


def laws_of_readings(project: Project, mode_id: str) -> LawsOfReadings | None:
    """Of this mode by its id, else of the first; None where there is none."""
    gadget = project.gadget
    mode = next((one for one in gadget.modes if one.id == mode_id), next(iter(gadget.modes), None))
    if mode is None:
        return None
    read = _whole(mode.readings)
    laws = fitted([one.volts for one in read], [one.current_a for one in read])
    low_v, high_v = _span(gadget, read)
    left = race(laws, low_v, high_v)
    best = left[0] if left else None
    others = left[1:]
    return LawsOfReadings(
        headline=_headline(read, laws, left),
        detail=_told(best, read, project.meter_share) if best else NOTHING,
        wanted=_wanted(gadget, read, best, others, low_v, high_v),
        points=tuple(PointRead(volts=one.volts, current_a=one.current_a) for one in read),
        curves=tuple(_curve(one, read, low_v, high_v, project.meter_share, is_best=one is best) for one in left[:3]),
        edits=tuple(_edits(gadget, mode, read, best)) if best else (),
    )


class _Point(NamedTuple):
    volts: float
    current_a: float


def _whole(readings: Sequence[DrawnReading]) -> list[_Point]:
    """Those of which both are read, by their volts."""
    both = ((one.volts, one.current_a) for one in readings)
    return sorted(_Point(at_v, drawn_a) for at_v, drawn_a in both if at_v is not None and drawn_a is not None)


def _span(gadget: Gadget, read: Sequence[_Point]) -> tuple[float, float]:
    """From the spent old batteries to the fresh ones, or as far as somebody has gone: never over what it has borne."""
    seen = [one.volts for one in read]
    return min([gadget.supply.empty_v, *seen]), max([gadget.supply.fresh_v, *seen])


def _headline(read: Sequence[_Point], laws: Sequence[FittedLaw], left: Sequence[FittedLaw]) -> Message:
    if not laws:
        return say("Two readings at different volts say something, four say it for sure.")
    if not left:
        return say("These readings follow no law we know. Read them again, with the gadget in one mode throughout.")
    called = any_of(say(_CALLED[one.key]) for one in left)
    if len(left) > 1 or len(read) < ENOUGH:
        return say("It draws like {called}, as far as these readings go.", called=called)
    return say("It draws like {called}.", called=called)


def _told(law: FittedLaw, read: Sequence[_Point], meter_share: float) -> Message:
    """The law's figures. What the meter itself is wrong by adds to what the readings scatter."""
    first, first_off = law.parameters[0], _off(law, 0, meter_share)
    at_v = float(np.median([one.volts for one in read]))
    at_a = float(law.current(np.array([at_v]))[0])
    if law.key == "resistor":
        return say("{ohm}, give or take {off}.", ohm=ohms(first), off=engineering(first_off, "ohm", 2))
    if law.key == "leds":
        return say(
            "Its LEDs take {forward}, give or take {off}, and {ohm} lie in series, give or take {off_ohm}.",
            forward=volts(first),
            off=volts(law.off[0]),
            ohm=ohms(law.parameters[1]),
            off_ohm=engineering(_off(law, 1, meter_share), "ohm", 2),
        )
    if law.key == "same_power":
        return say("{power} at any volts, give or take {off}.", power=watts(first), off=watts(first_off))
    if law.key == "own_regulator":
        return say("{current} from {needs} on, and less below.", current=amps(first), needs=volts(law.parameters[1]))
    return say("{current} at {volts}.", current=amps(at_a), volts=volts(at_v))


def _off(law: FittedLaw, number: int, meter_share: float) -> float:
    """To one digit: how sure one is is known no better."""
    return float(f"{np.hypot(law.off[number], meter_share * law.parameters[number]):.1g}")


def _wanted(
    gadget: Gadget,
    read: Sequence[_Point],
    best: FittedLaw | None,
    others: Sequence[FittedLaw],
    low_v: float,
    high_v: float,
) -> Message:
    if best and others and len(read) >= ENOUGH:
        where = apart(best, others[0], low_v, high_v)
        return say(
            "Read it at {volts}: {first} is {one}, {second} is {other}.",
            volts=volts(where.volts),
            first=amps(where.first_a),
            one=say(_CALLED[best.key]),
            second=amps(where.second_a),
            other=say(_CALLED[others[0].key]),
        )
    wanted_v = widest_gap([one.volts for one in read], low_v, high_v) if len(read) < ENOUGH else None
    if wanted_v is None:
        return NOTHING
    return say("Read it next at about {volts}: {how}", volts=volts(wanted_v), how=_how(gadget, wanted_v))


def _how(gadget: Gadget, wanted_v: float) -> Message:
    """With what a maker has: batteries in all states of wear, a piece of wire, a diode."""
    supply = gadget.supply
    if wanted_v >= supply.fresh_v - 0.05:
        return say("a fresh set, the meter's volts across the terminals, its amps in one lead.")
    if supply.cells_in_series > 1 and abs(wanted_v - supply.fresh_v * (1 - 1 / supply.cells_in_series)) < 0.3:
        return say("a fresh set with one battery bridged by a wire.")
    if abs(wanted_v - (supply.fresh_v - DIODE_V)) < 0.3:
        return say("a fresh set with a silicon diode in one lead.")
    return say("a worn set, or a supply that is set to it.")


def _curve(
    law: FittedLaw, read: Sequence[_Point], low_v: float, high_v: float, meter_share: float, *, is_best: bool
) -> LawCurve:
    at = np.linspace(low_v, high_v, DRAWN)
    drawn = law.current(at)
    there = np.array([one.current_a for one in read])
    missed = float(np.max(np.abs(law.current(np.array([one.volts for one in read])) - there)) / np.max(there))
    return LawCurve(
        key=law.key,
        called=say(_CALLED[law.key]),
        says=_told(law, read, meter_share),
        is_best=is_best,
        missed=say("It misses a reading by {share} at most.", share=percent(missed)),
        volts=tuple(round(float(one), 4) for one in at),
        current_a=tuple(round(float(one), 7) for one in drawn),
    )


def _edits(gadget: Gadget, mode: Mode, read: Sequence[_Point], law: FittedLaw) -> Iterator[Edit]:
    """The mode's current at the reading nearest to the old batteries' working volts, and its law."""
    form, path = FORMS[law.key], f"gadget.modes.{mode.id}"
    nearest = min(read, key=lambda one: abs(one.volts - gadget.supply.working_v))
    yield from _measured(f"{path}.at_v", nearest.volts)
    current_a = float(law.current(np.array([nearest.volts]))[0])
    yield from _measured(f"{path}.current_a", float(f"{current_a:.3g}"))
    front_end = gadget.front_end
    if FRONT_ENDS[front_end].law != form.law and len(gadget.modes) == 1:
        front_end = form.front_end
        yield Edit(path="gadget.front_end", value=front_end)
    yield Edit(path=f"{path}.law", value=None if FRONT_ENDS[front_end].law == form.law else form.law)
    if law.key == "leds":
        yield from _measured("gadget.behind.led_v", float(f"{law.parameters[0]:.3g}"))


def _measured(path: str, value: float) -> Iterator[Edit]:
    yield Edit(path=path, value=value)
    yield Edit(path=f"basis.{path}", value="measured")
