"""How a step and its hold are made, and the limits that holds have (common practice, no source)."""

from collections.abc import Callable
from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.steps.model import Grade, Hold, Step

RESISTOR_OFF, REGULATOR_OFF, CURRENT_OFF = 0.02, 0.03, 0.12
RAIL_OHM, JOINED_OHM = 1000.0, 1.0
FULL_V = (4.15, 4.22)
FIVE_V = (4.75, 5.5)  # USB 2.0 at the port, from memory, and what chargers of this kind stand
JOINING_V = 0.050
WARM_C = 45.0
REST_DROP_V = 0.050


@dataclass(frozen=True)
class Maker:
    """A step, and when it belongs to a build."""

    when: Callable[[Chain], bool]
    make: Callable[[Chain], Step]


def step(key: str, title: str, why: str, minutes: int, **more: object) -> Step:
    """`more`: any other field of a step."""
    return Step.model_validate({"key": key, "title": title, "why": why, "minutes": minutes, **more})


def hold(
    quantity: str, unit: str, low: float | None, high: float | None, probes: str, grade: Grade, *likely: str
) -> Hold:
    """`likely`: what a reading outside most likely means, likeliest first."""
    return Hold(quantity=quantity, unit=unit, low=low, high=high, probes=probes, grade=grade, likely=likely)
