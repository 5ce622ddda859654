"""A conversion begun by pictures: from a handful of answers, and as many "I do not know", to a survey."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field, field_validator

from pocketspark.core.message import Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.gadget import ExistingChargingKind, FrontEnd, Purpose, Sound
from pocketspark.core.models.model import Amps, Hours, Model, Title, Tolerance, refusal
from pocketspark.core.models.project import Basis, Costs
from pocketspark.core.models.supply import BatteryName
from pocketspark.core.models.tools import METERS

Thing = Literal["led_lamp", "bulb", "motor", "meter", "sound", "chip", "heater"]


@dataclass(frozen=True)
class ThingFacts:
    """What a maker sees of a gadget, and what that most likely means behind its terminals.

    `usual_a`: what such a thing often draws, for where nobody has measured it; common practice, no source.
    """

    label: str
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
    "current_a": "A usual current is taken. Hours of use may be off by a factor of three until you measure.",
    "hours_per_day": "One hour a day is taken: days of use are a guess, hours of use are not.",
}
_CHIP = THINGS["chip"]


class Beginning(Model):
    """The answers. None: "I do not know"."""

    name: Title
    purpose: Purpose
    battery: BatteryName
    series: Annotated[int, Field(ge=1, le=12)]
    thing: Thing | None = None
    charging: ExistingChargingKind | None = None
    current_a: Amps | None = None
    hours_per_day: Hours | None = None
    meter_share: Tolerance = METERS["usual"].right_to
    costs: Costs = Costs()

    @field_validator("current_a")
    @classmethod
    def _draws_something(cls, value: float | None) -> float | None:
        if value == 0:
            raise refusal("something that is on draws a current: measure it, or say that you do not know")
        return value


def begin(answers: Beginning) -> Project:
    """The survey that these answers make; every guess in it says that it is one."""
    facts = THINGS[answers.thing] if answers.thing else _CHIP
    mode = {
        "id": "mode1",
        "current_a": facts.usual_a if answers.current_a is None else answers.current_a,
        "hours_per_day": 1.0 if answers.hours_per_day is None else answers.hours_per_day,
    }
    gadget = {
        "name": answers.name,
        "purpose": answers.purpose,
        "supply": {"battery": answers.battery, "series": answers.series},
        "front_end": facts.front_end,
        "sound": facts.sound if answers.thing else None,
        "existing_charging": {"kind": answers.charging or "jack"},
        "modes": [mode],
    }
    own = {"meter_share": answers.meter_share, "costs": answers.costs}
    return Project.model_validate({"gadget": gadget, "basis": _bases(answers)} | own)


def _bases(answers: Beginning) -> dict[str, Basis]:
    return {
        "gadget.supply.battery": "label",
        "gadget.supply.series": "label",
        "gadget.front_end": "inferred" if answers.thing else "default",
        "gadget.existing_charging.kind": "default" if answers.charging is None else "measured",
        "gadget.modes.mode1.current_a": "default" if answers.current_a is None else "measured",
        "gadget.modes.mode1.hours_per_day": "default" if answers.hours_per_day is None else "label",
    }
