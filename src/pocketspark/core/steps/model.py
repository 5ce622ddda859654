"""A step of the build and its hold point."""

from typing import Literal

from pocketspark.core.models.model import Model

State = Literal["open", "done", "held", "overridden"]
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
    wait_s: int = 0  # a timer that belongs to it
    hold: Hold | None = None
    state: State = "open"
    value: float | None = None
    override: str = ""
    photo_ids: tuple[int, ...] = ()
    says: str = ""  # of a hold that is not passed: what it most likely means


class Procedure(Model):
    """All steps in order; `next_step` is the first that is neither done nor overridden."""

    steps: tuple[Step, ...]
    next_step: str | None
    minutes: int
