"""A gadget swept by a supply behind its guard, step by step as the plan has it."""

import statistics
import threading
import time
from collections.abc import Callable, Iterator

from pocketspark.core.load_laws.supply_sweep import Seen, SweepPlan, SweptStep, next_step
from pocketspark.instruments.guarded_instrument import Guarded

# A gadget settles within this after a step of its volts; then so many readings are taken at least, of which the middle
# counts.
SETTLES_S, READINGS = 0.4, 3


def swept(
    supply: Guarded,
    plan: SweepPlan,
    stop: threading.Event,
    may_go_on: Callable[[], bool] = lambda: True,
    seen: Callable[[], Seen] = lambda: "",
) -> Iterator[SweptStep]:
    """Each step as it is read. Ends early when `stop` is set, or when `may_go_on` says no.

    `seen`: what whoever watches has said since it was asked last. Raises DeviceFault.
    """
    supply.order("protect", volts=plan.limits.volts, amps=plan.limits.amps)
    done: list[SweptStep] = []
    while (step := next_step(plan, done)) and may_go_on():
        leg, volts = step
        seen()
        supply.order("give", volts=volts)
        readings = list(_watched(supply, plan.step_s if done else plan.first_s, stop))
        if stop.is_set():
            return
        settled = [one for since_s, *one in readings if since_s >= SETTLES_S]
        read_v, read_a = (statistics.median(column) for column in zip(*settled, strict=True))
        one = SweptStep(leg, read_v, max(read_a, 0.0), max(most for _, _, most in readings), seen())
        done.append(one)
        yield one


def _watched(supply: Guarded, lasts_s: float, stop: threading.Event) -> Iterator[tuple[float, float, float]]:
    """Seconds, volts, amperes: from the first moment on, and at least three once it has settled."""
    begun, settled = time.monotonic(), 0
    while not stop.is_set() and (settled < READINGS or time.monotonic() - begun < SETTLES_S + lasts_s):
        reading = supply.read()
        since_s = time.monotonic() - begun
        settled += since_s >= SETTLES_S
        yield since_s, reading.volts or 0.0, reading.amps or 0.0
