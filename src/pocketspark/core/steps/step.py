"""A step of the build and its hold point."""

import math
from collections.abc import Callable, Mapping
from typing import Literal

from pydantic import computed_field

from pocketspark.core.guide import GuideDrawing
from pocketspark.core.message import NOTHING, Label, Message, as_message, say, verbatim
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import (
    Figure,
    ShownHours,
    bare,
    celsius,
    engineering,
    exact_hours,
    read_volts,
    temperature_unit,
    volts,
)

UNIT_SIGNS = {"ohm": "Ω"}
# Limits that are written as everywhere else; those of currents and resistors have the unit of their field.
WRITTEN: dict[str, Callable[[float], Figure]] = {"C": celsius, "h": exact_hours, "V": volts}

# Below this, two decimals of a volt say nothing.
_SMALL_V = 0.1
PREFIXES = {-2: "μ", -1: "m", 0: "", 1: "k", 2: "M"}

State = Literal["open", "done", "held", "overridden", "locked"]
Grade = Literal["stop", "caution"]


class Hold(Model):
    """A reading that must lie inside its limits before the next step. A stop-grade hold has no override."""

    quantity: Message
    unit: str
    low: float | None
    high: float | None
    probes: Message
    grade: Grade
    likely: tuple[Message, ...]  # what an outlier most likely means, likeliest first
    picture: GuideDrawing | None = None  # where the probes go; None where a clock is read

    @computed_field  # type: ignore[prop-decorator]
    @property
    def limits(self) -> Message:
        """In words, in the unit of the field: "2.94 kΩ to 3.06 kΩ", "at least 1000 Ω"."""
        low, high = self._in_the_field(self.low), self._in_the_field(self.high)
        if low and high:
            return say("{low} to {high}", low=low, high=high)
        return say("at least {low}", low=low) if low else say("at most {high}", high=high)

    @computed_field  # type: ignore[prop-decorator]
    @property
    def unit_sign(self) -> Message:
        """The unit in which its field is read: with a prefix only where both limits bound it, so that a short in ohms
        is never taken for as many kilohms."""
        if self.unit == "C":
            return say("{degrees}", degrees=temperature_unit())
        return verbatim(f"{PREFIXES[self._exponent]}{UNIT_SIGNS.get(self.unit, self.unit)}")

    @property
    def scale(self) -> float:
        """How many of the base unit one unit of the field is."""
        return float(1000.0**self._exponent)

    @property
    def _exponent(self) -> int:
        if not self.low or not self.high or self.unit in WRITTEN:
            return 0
        return min(max(math.floor(math.log10(abs(self.low)) / 3), min(PREFIXES)), max(PREFIXES))

    def _in_the_field(self, value: float | None) -> Message:
        if value is None:
            return NOTHING
        if self.unit in WRITTEN:
            return as_message(WRITTEN[self.unit](value))
        return say("{number} {unit}", number=bare(float(f"{value / self.scale:.4g}")), unit=self.unit_sign)

    def written(self, value: float) -> Figure:
        """A reading of this hold, as a maker writes it."""
        write = WRITTEN.get(self.unit)
        if self.unit == "V" and abs(value) < _SMALL_V:
            return read_volts(value)
        return write(value) if write else engineering(value, self.unit)


class Step(Model):
    """One step, and how far it has got."""

    key: str
    title: Message
    why: Message
    tools: tuple[Message, ...] = ()
    materials: tuple[Message, ...] = ()
    how: tuple[Message, ...] = ()  # one thing after the other, where it needs saying
    caution: Message = NOTHING
    minutes: int  # of work, waiting aside
    opens: bool = False  # from here on the gadget is no longer as it was
    wait_s: int = 0  # it is due so long after the step before it was done
    attended: bool = False  # somebody stays near meanwhile
    hold: Hold | None = None
    state: State = "open"
    value: float | None = None
    reads: Message = NOTHING  # the value, as a maker writes it
    origin: Message = NOTHING  # where the reading comes from, in words; empty where there is none
    at: str = ""  # when it was done
    override: str = ""
    theirs: Message = NOTHING  # what the author of a recipe read here
    photo_ids: tuple[int, ...] = ()
    says: Message = NOTHING  # of a hold that is not passed: what it most likely means


class Lock(Model):
    """Why a build may not go on, from which step. `final`: no reason unlocks it."""

    from_step: str
    because: tuple[Message, ...]
    final: bool


VerdictKind = Literal["proven", "reserved", "unproven"]
VERDICTS: Mapping[VerdictKind, tuple[str, str]] = {
    "proven": ("Finished and proven", "every reading within its limits, first charge and hours included"),
    "reserved": ("Finished, with reservations", "each with its reading, its limit and its reason"),
    "unproven": ("Unproven", "something that would prove it is missing"),
}


class Verdict(Model):
    """What a record proves, and each reason why it proves no more."""

    kind: VerdictKind
    because: tuple[Message, ...] = ()

    @computed_field  # type: ignore[prop-decorator]
    @property
    def label(self) -> Label:
        return VERDICTS[self.kind][0]


class Procedure(Model):
    """All steps in order; `next_step` is the first that is neither done nor overridden.

    `finished`: every step is done. `practice`: of a practice copy, whose readings may be simulated.
    """

    steps: tuple[Step, ...]
    next_step: str | None
    bench_hours: ShownHours  # of work, waiting aside
    finished: bool = False
    practice: bool = False
    lock: Lock | None = None
    verdict: Verdict | None = None  # None before a cell is chosen
    fixed_at: str = ""  # when the plan was fixed, by the first cut; empty before that
