"""What a supply and a load are set to in one test, what is read meanwhile, and when it is over."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from pocketspark.core.load_laws.supply_sweep import SupplyLimits


@dataclass(frozen=True)
class DeviceSetting:
    """The supply gives so many volts and the load draws so many amperes (0: it only reads), for so long."""

    supply_v: float
    load_a: float = 0.0
    lasts_s: float = 1.5


@dataclass(frozen=True)
class TestReading:
    """Read at one setting: what the supply gives, and what the load sees at its own leads."""

    __test__ = False  # no test of pytest's

    setting: DeviceSetting
    time_s: float
    supply_a: float
    load_v: float


Readings = Sequence[TestReading]


@dataclass(frozen=True)
class Course:
    """The settings in their order, and what neither may pass. `ends`: nothing more is to be learnt."""

    settings: tuple[DeviceSetting, ...]
    limits: SupplyLimits
    most_load_a: float
    most_load_v: float
    ends: Callable[[Readings], bool] = lambda _readings: False


def at_end_of(readings: Readings, setting: DeviceSetting) -> TestReading | None:
    """The last reading of one setting; None where it was not reached."""
    return next((one for one in reversed(readings) if one.setting == setting), None)
