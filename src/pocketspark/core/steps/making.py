"""How a step is made: what it needs of a build, when it belongs to it, and what its reading was planned to be."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from pocketspark.core.chain import Chain
from pocketspark.core.guide import GuideDrawing
from pocketspark.core.message import Message
from pocketspark.core.models.project import Edit
from pocketspark.core.steps.step import Grade, Hold, Step
from pocketspark.core.units.figures import Figure
from pocketspark.core.views import view_for


@dataclass(frozen=True)
class StepKind:
    """One step that a build may have.

    `make` takes a view of the build (Chain, Running, Charging, FittedBuild ...) and is asked only where that is there;
    `when` says of the same view whether the step belongs to it. `measures`, `planned` and `write`: what its reading
    is of, what the plan said, and how it is written, where as built is held beside as planned. `opens`: from here on
    the gadget is no longer as it was. `teaches`: the field of the document that its reading is the measured value of.
    """

    make: Callable[[Any], Step]
    when: Callable[[Any], bool] = lambda _view: True
    measures: str = ""
    planned: Callable[[Any], float | None] | None = None
    write: Callable[[float], Figure] | None = None
    opens: bool = False
    teaches: Callable[[Any], str | None] | None = None

    def step_of(self, chain: Chain) -> Step | None:
        """The step of this build; None where it does not belong to it."""
        view = view_for(self.make, chain)
        return self.make(view) if view is not None and self.when(view) else None

    def learnt_by(self, chain: Chain, value: float) -> tuple[Edit, ...]:
        """The reading put into its field, as measured; nothing for a step that teaches none."""
        view = view_for(self.make, chain)
        path = self.teaches(view) if view is not None and self.teaches else None
        if path is None:
            return ()
        return Edit(path=path, value=value), Edit(path=f"basis.{path}", value="measured")

    def planned_for(self, chain: Chain) -> float | None:
        view = view_for(self.make, chain)
        return self.planned(view) if view is not None and self.planned else None


def seconds(hours: float) -> int:
    """A wait as a step has it; none where it never ends, which is a finding of its own."""
    return round(hours * 3600) if math.isfinite(hours) else 0


def step(key: str, title: Message, why: Message, minutes: int, **more: object) -> Step:
    """`more`: any other field of a step."""
    return Step.model_validate({"key": key, "title": title, "why": why, "minutes": minutes, **more})


def hold(
    quantity: Message,
    unit: str,
    low: float | None,
    high: float | None,
    probes: Message,
    grade: Grade,
    *likely: Message,
    picture: GuideDrawing | None = None,
) -> Hold:
    """`likely`: what a reading outside most likely means, likeliest first. `picture`: where the probes go.

    Limits are moved outwards to what is read of them: "at least 644 h" takes 644 h."""
    return Hold(
        quantity=quantity,
        unit=unit,
        low=None if low is None else _as_read(low, unit, math.floor),
        high=None if high is None else _as_read(high, unit, math.ceil),
        probes=probes,
        grade=grade,
        likely=likely,
        picture=picture,
    )


def _as_read(value: float, unit: str, outwards: Callable[[float], int]) -> float:
    """To 10 mV, 1 mAh or a whole degree, else to three digits."""
    finest = {"V": 0.01, "Ah": 0.001, "C": 1.0}.get(unit) or 10.0 ** (math.floor(math.log10(abs(value) or 1.0)) - 2)
    # What is such a number but for the last bits of a float stays it.
    steps = round(value / finest) if math.isclose(value / finest, round(value / finest)) else outwards(value / finest)
    return float(f"{steps * finest:.12g}")
