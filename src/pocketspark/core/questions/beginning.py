"""A conversion begun by pictures: from a handful of answers, and as many "I do not know", to a survey."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from pocketspark.core.message import Label, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.gadget import ExistingChargingKind, FrontEnd, Purpose, Sound
from pocketspark.core.models.load_line import read_load
from pocketspark.core.models.load_words import UnreadableLoad
from pocketspark.core.models.model import Model, Title, Tolerance, refusal
from pocketspark.core.models.project import Basis, Costs
from pocketspark.core.models.supply import BatteryName
from pocketspark.core.models.tools import METERS

Thing = Literal["led_lamp", "bulb", "motor", "meter", "sound", "chip", "heater"]


@dataclass(frozen=True)
class ThingFacts:
    """What a maker sees of a gadget, and what that most likely means behind its terminals.

    `usual_a`: what such a thing often draws, for where nobody has measured it; common practice, no source.
    """

    label: Label
    detail: Message
    front_end: FrontEnd
    usual_a: float
    sound: Sound = "none"


THINGS: Mapping[Thing, ThingFacts] = {
    "led_lamp": ThingFacts("LED lamp", say("torch, string, night light"), "led_resistor", 0.06),
    "bulb": ThingFacts("Bulb", say("a filament that glows"), "lamp", 0.3),
    "motor": ThingFacts("Motor", say("turns, pumps, blows, shakes"), "motor", 0.3),
    "meter": ThingFacts("Meter or sensor", say("shows or logs a figure"), "logic", 0.01),
    "sound": ThingFacts("Sound or radio", say("plays, listens, receives"), "logic", 0.05, "speaker"),
    "chip": ThingFacts("Something with a chip", say("buttons, a display, a remote"), "logic", 0.02),
    "heater": ThingFacts("Heater", say("warms or melts"), "heater", 0.8),
}

# What is taken where nobody knows, and what that costs. The strictest reading that still lets the maker go on.
UNKNOWN: Mapping[str, str] = {
    "thing": "It is judged as if chips hung straight on the batteries: the narrowest voltages there are.",
    "charging": "It counts as charged by a jack until you have looked: the findings stop there.",
    "load": (
        "A usual current and one hour a day are taken. Hours of use can be off by a factor of three until you measure."
    ),
}
_CHIP = THINGS["chip"]


def _draws_something(line: str) -> str:
    try:
        drawn = read_load(line).drawn
    except UnreadableLoad as error:
        raise refusal("{why}", why=str(error)) from None
    if not drawn or any(one.current_a == 0 for one in drawn):
        raise refusal("something that is on draws a current: measure it, or say that you do not know")
    return line


class Beginning(Model):
    """The answers. None: "I do not know"."""

    name: Title
    purpose: Purpose
    battery: BatteryName
    series: Annotated[int, Field(ge=1, le=12)]
    thing: Thing | None = None
    charging: ExistingChargingKind | None = None
    load: Annotated[str, AfterValidator(_draws_something)] | None = None  # one line, "62 mA, 3 h each evening"
    meter_share: Tolerance = METERS["usual"].right_to
    costs: Costs = Costs()


def begin(answers: Beginning) -> Project:
    """The survey that these answers make; every guess in it says that it is one."""
    facts = THINGS[answers.thing] if answers.thing else _CHIP
    gadget = {
        "name": answers.name,
        "purpose": answers.purpose,
        "supply": {"battery": answers.battery, "series": answers.series},
        "front_end": facts.front_end,
        "sound": facts.sound if answers.thing else None,
        "existing_charging": {"kind": answers.charging or "jack"},
    }
    usual = {"modes": [{"id": "mode1", "current_a": facts.usual_a}]}
    load = usual if answers.load is None else {"load": answers.load}
    own = {"meter_share": answers.meter_share, "costs": answers.costs}
    return Project.model_validate({"gadget": {**gadget, **load}, "basis": _bases(answers)} | own)


def _bases(answers: Beginning) -> dict[str, Basis]:
    drawn = read_load(answers.load).drawn if answers.load else ()
    load: dict[str, Basis] = {f"gadget.modes.mode{n}.current_a": "measured" for n, _ in enumerate(drawn, start=1)}
    load |= {
        f"gadget.modes.mode{n}.hours_per_day": "default" if one.hours_per_day is None else "label"
        for n, one in enumerate(drawn, start=1)
    }
    return (load or _USUAL_LOAD) | {
        "gadget.supply.battery": "label",
        "gadget.supply.series": "label",
        "gadget.front_end": "inferred" if answers.thing else "default",
        "gadget.existing_charging.kind": "default" if answers.charging is None else "measured",
    }


_USUAL_LOAD: dict[str, Basis] = {
    "gadget.modes.mode1.current_a": "default",
    "gadget.modes.mode1.hours_per_day": "default",
}
