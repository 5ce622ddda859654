"""A step of the build and its hold point."""

from collections.abc import Callable
from typing import Literal

from pydantic import computed_field

from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import Figure, celsius, engineering

UNIT_SIGNS = {"ohm": "Ω", "C": "°C"}
WRITTEN: dict[str, Callable[[float], Figure]] = {"C": celsius, "h": lambda value: Figure(f"{value:.3g} h", value, "h")}

State = Literal["open", "done", "held", "overridden", "locked"]
Grade = Literal["stop", "caution"]


class Hold(Model):
    """A reading that must lie inside its limits before the next step. A stop-grade hold has no override."""

    quantity: str
    unit: str
    low: float | None
    high: float | None
    probes: str
    grade: Grade
    likely: tuple[str, ...]  # what an outlier most likely means, likeliest first

    @computed_field  # type: ignore[prop-decorator]
    @property
    def limits(self) -> str:
        """In words: "2.94 kΩ to 3.06 kΩ", "at least 1 kΩ"."""
        if self.low is None or self.high is None:
            return (
                f"at least {self.written(self.low)}"
                if self.low is not None
                else f"at most {self.written(self.high or 0)}"
            )
        return f"{self.written(self.low)} to {self.written(self.high)}"

    @computed_field  # type: ignore[prop-decorator]
    @property
    def unit_sign(self) -> str:
        return UNIT_SIGNS.get(self.unit, self.unit)

    def written(self, value: float) -> Figure:
        """A reading of this hold, as a maker writes it."""
        write = WRITTEN.get(self.unit)
        return write(value) if write else engineering(value, self.unit)


class Step(Model):
    """One step, and how far it has got."""

    key: str
    title: str
    why: str
    tools: str = ""
    materials: str = ""
    how: tuple[str, ...] = ()  # one thing after the other, where it needs saying
    caution: str = ""
    minutes: int
    opens: bool = False  # from here on the gadget is no longer as it was
    wait_s: int = 0  # a timer that belongs to it
    hold: Hold | None = None
    state: State = "open"
    value: float | None = None
    reads: str = ""  # the value, as a maker writes it
    origin: str = ""  # where the reading comes from, in words; empty where there is none
    at: str = ""  # when it was done
    override: str = ""
    photo_ids: tuple[int, ...] = ()
    says: str = ""  # of a hold that is not passed: what it most likely means


class Lock(Model):
    """Why a build may not go on, from which step. `final`: no reason unlocks it."""

    from_step: str
    because: tuple[str, ...]
    final: bool


class Procedure(Model):
    """All steps in order; `next_step` is the first that is neither done nor overridden.

    `finished`: every step is done. `practice`: of a practice copy, whose readings may be simulated.
    """

    steps: tuple[Step, ...]
    next_step: str | None
    minutes: int
    finished: bool = False
    practice: bool = False
    lock: Lock | None = None
