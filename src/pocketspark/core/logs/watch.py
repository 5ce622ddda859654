"""Watching a charge while it goes on: limits of this very build, and what is said when one is passed."""

from collections.abc import Iterable, Iterator

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.logs.analysis import HOT_C, OVER_V, PLAN_OFF
from pocketspark.core.message import Message, say
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownAmps, ShownCelsius, ShownHours, ShownVolts, amps, celsius, hours, volts

# A charge that goes on for this much longer than predicted does not end by itself (common practice, no source).
LONGER = 1.5
# Above this a meter in line sees the cable, not the cell.
USB_SIDE_V = 4.6


class Limits(Model):
    """What may not be passed during the first charge."""

    most_v: ShownVolts
    most_a: ShownAmps
    most_c: ShownCelsius
    longest_h: ShownHours


class Reading(Model):
    """What was seen at one moment, from a meter or by hand. None: not read."""

    minutes: float
    volts: float | None = None
    amps: float | None = None
    celsius: float | None = None


class Alarm(Model):
    """A limit passed: when first, and what to do at once."""

    code: str
    minutes: float
    says: Message


def limits_of(chain: Chain) -> Limits:
    """Raises MissingPart without a cell and a charger."""
    charging = chain.required_charging()
    predicted_h = float(charging.run.hours.flat[0])
    return Limits(
        most_v=charging.charger.float_v + OVER_V,
        most_a=charging.current.spread.nominal_a * (1 + PLAN_OFF),
        most_c=HOT_C,
        longest_h=predicted_h * LONGER if np.isfinite(predicted_h) else 12.0,
    )


def alarms(limits: Limits, readings: Iterable[Reading]) -> tuple[Alarm, ...]:
    """Each limit that was passed, once, at its first moment."""
    first: dict[str, Alarm] = {}
    for reading in readings:
        for code, says in _passed(limits, reading):
            first.setdefault(code, Alarm(code=code, minutes=reading.minutes, says=says))
    return tuple(first.values())


def _passed(limits: Limits, reading: Reading) -> Iterator[tuple[str, Message]]:
    if reading.volts is not None:
        if reading.volts < 0:
            yield (
                "watch.swapped",
                say(
                    "The meter shows {volts}: plus and minus are swapped. Unplug, and connect nothing.",
                    volts=volts(reading.volts),
                ),
            )
        elif limits.most_v < reading.volts < USB_SIDE_V:
            yield (
                "watch.over_voltage",
                say(
                    "The cell is at {volts}, over its limit of {most_v}. Unplug.",
                    volts=volts(reading.volts),
                    most_v=volts(limits.most_v),
                ),
            )
    if reading.amps is not None and reading.amps > limits.most_a:
        yield (
            "watch.over_current",
            say(
                "{amps} flows, over the limit of {most_a}. Unplug.", amps=amps(reading.amps), most_a=amps(limits.most_a)
            ),
        )
    if reading.celsius is not None and reading.celsius > limits.most_c:
        yield (
            "watch.too_warm",
            say(
                "The cell is at {celsius}, over its limit of {most_c}. Unplug, and take it outside.",
                celsius=celsius(reading.celsius, digits=0 if reading.celsius >= limits.most_c + 1 else 1),
                most_c=celsius(limits.most_c),
            ),
        )
    flows = reading.amps is None or reading.amps > 0
    if reading.minutes > limits.longest_h * 60 and flows:
        yield (
            "watch.too_long",
            say("still charging after {minutes}. Unplug, find what draws", minutes=hours(reading.minutes / 60)),
        )
