"""A build tested by a supply and a load, each behind its guard: every setting of a course, read until it is over."""

import threading
import time
from collections.abc import Callable, Iterator

from pocketspark.core.bench_tests.course import Course, DeviceSetting, TestReading
from pocketspark.instruments.guarded_instrument import Guarded

EVERY_S = 0.25
# A load whose leads lie at nothing may show some millivolts the wrong way.
NOTHING_V = -0.2


def read_course(
    supply: Guarded,
    load: Guarded,
    course: Course,
    stop: threading.Event,
    may_go_on: Callable[[], bool] = lambda: True,
    speed_up: float = 1.0,
) -> Iterator[TestReading]:
    """Each reading as it comes. Ends early when `stop` is set, `may_go_on` says no, or the course has told enough.

    `speed_up`: of a stand-in's time. Raises DeviceFault.
    """
    begun, readings = time.monotonic(), list[TestReading]()
    load.order("protect", amps=course.most_load_a, least_v=0.0, sees_least_v=NOTHING_V, sees_most_v=course.most_load_v)
    supply.order("protect", volts=course.limits.volts, amps=course.limits.amps)
    for setting in course.settings:
        supply.order("give", volts=setting.supply_v)
        load.order("draw", amps=setting.load_a)
        for reading in _read_setting(supply, load, setting, begun, speed_up):
            readings.append(reading)
            yield reading
            if stop.is_set() or not may_go_on() or course.ends(readings):
                return


def _read_setting(
    supply: Guarded, load: Guarded, setting: DeviceSetting, begun: float, speed_up: float
) -> Iterator[TestReading]:
    """Twice at least: what is set needs a moment."""
    since, number = time.monotonic(), 0
    while number < 2 or (time.monotonic() - since) * speed_up < setting.lasts_s:
        time.sleep(min(EVERY_S, setting.lasts_s / 2))
        number += 1
        given_a, seen_v = supply.read().amps or 0.0, load.read().volts or 0.0
        yield TestReading(setting, (time.monotonic() - begun) * speed_up, given_a, seen_v)
