"""How a supply feeds a gadget so that it tells its law, its lowest volts, its peaks or its sleep: volts and limits.

Down from fresh volts in large steps; where it gives up, up in small ones until it starts again, and down in small ones
until it stops. Whoever watches may say that it has stopped or started; a current that collapses says so too.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from pocketspark.core.models import Gadget, Mode

# Steps of a sweep, from the top down.
STEPS = 12
# Under this share of the volts at which the gadget gives up nothing new is seen (our judgement).
LOWEST_SHARE = 0.7
# The supply's own protection stands so far over the highest step.
OVER_V = 0.3
# A gadget whose current is known may take so many times that when it starts; of another a supply gives so much at most.
STARTS_TIMES, UNKNOWN_A = 5.0, 0.5
LEAST_A = 0.05
# Small steps, in which its lowest volts are looked for.
FINE_V = 0.05
# From one step to the next a load that still works does not fall to under this share of its current.
COLLAPSES_TO = 0.3
# Needs it so much more to start than to run, it says so; less is a step's width.
APART_V = 1.5 * FINE_V
# A highest reading that stands out by so much is a peak.
PEAK_TIMES = 1.2
# How long it is watched: at the first step, for its start and its peaks; asleep, for what wakes now and then; at each
# other step, for a look at whether it still does what it should.
FIRST_S, ASLEEP_S, STEP_S = 4.0, 15.0, 1.5


@dataclass(frozen=True)
class SupplyLimits:
    """What the supply may give at most."""

    volts: float
    amps: float

    @property
    def watts(self) -> float:
        return self.volts * self.amps


Leg = Literal["down", "up", "fine"]
LEGS: tuple[Leg, ...] = ("down", "up", "fine")
Seen = Literal["", "stopped", "started"]


@dataclass(frozen=True)
class SweepPlan:
    """The volts one after the other, from the top down, and the limits. `tries_lowest`: goes on to where it starts."""

    volts: tuple[float, ...]
    limits: SupplyLimits
    first_s: float = 0.0
    step_s: float = 0.0
    tries_lowest: bool = False


@dataclass(frozen=True)
class SweptStep:
    """Read at one step: its usual current, the highest that was seen, and what whoever watches said during it."""

    leg: Leg
    volts: float
    current_a: float
    most_a: float
    seen: Seen = ""


@dataclass(frozen=True)
class SweepTold:
    """What a sweep told; None: it did not come to that."""

    ran: tuple[SweptStep, ...]
    v_run_min: float | None
    v_start_min: float | None
    peak_a: float | None


def sweep_plan(gadget: Gadget, mode: Mode, step_s: float = STEP_S) -> SweepPlan:
    """From the fresh volts of its batteries, or what it survives if that is less, down to where it has given up."""
    top_v = _top_v(gadget)
    bottom_v = min(LOWEST_SHARE * gadget.supply.empty_v, 0.6 * top_v)
    most_a = max(STARTS_TIMES * mode.most_a, LEAST_A) if mode.most_a else UNKNOWN_A
    volts = tuple(round(float(one), 2) for one in np.linspace(top_v, bottom_v, STEPS))
    return SweepPlan(volts, _limits(top_v, most_a), FIRST_S * step_s / STEP_S, step_s, tries_lowest=True)


def sleep_plan(gadget: Gadget, step_s: float = STEP_S) -> SweepPlan:
    """At the volts of its old batteries, for a while."""
    at_v = round(min(gadget.supply.working_v, _top_v(gadget)), 2)
    most_a = max((STARTS_TIMES * mode.most_a for mode in gadget.modes), default=0.0) or UNKNOWN_A
    return SweepPlan((at_v,), _limits(at_v, max(most_a, LEAST_A)), ASLEEP_S * step_s / STEP_S, step_s)


def _top_v(gadget: Gadget) -> float:
    known_v = gadget.window.v_abs_max if gadget.window else None
    return min(gadget.supply.fresh_v, known_v) if known_v else gadget.supply.fresh_v


def _limits(top_v: float, most_a: float) -> SupplyLimits:
    return SupplyLimits(round(top_v + OVER_V, 2), round(most_a, 3))


def next_step(plan: SweepPlan, done: Sequence[SweptStep]) -> tuple[Leg, float] | None:
    """Which leg, and its volts; None: it is through."""
    if not done:
        return "down", plan.volts[0]
    last = done[-1]
    if last.leg == "down" and not _gave_up(done):
        return ("down", plan.volts[len(done)]) if len(done) < len(plan.volts) else None
    if last.leg == "down":
        return _within(plan, "up", last.volts + FINE_V) if plan.tries_lowest else None
    if last.leg == "up":
        woke = _woke(done)
        return _within(plan, "fine" if woke else "up", last.volts + (-FINE_V if woke else FINE_V))
    return None if _gave_up(done) else _within(plan, "fine", last.volts - FINE_V)


def _within(plan: SweepPlan, leg: Leg, volts: float) -> tuple[Leg, float] | None:
    return (leg, round(volts, 3)) if plan.volts[-1] <= volts <= plan.volts[0] else None


def _gave_up(done: Sequence[SweptStep]) -> bool:
    """In large steps its current falls from one to the next; in small ones, to so little of what it drew running."""
    last = done[-1]
    if last.seen:
        return last.seen == "stopped"
    if last.leg == "down":
        return len(done) > 1 and last.current_a < COLLAPSES_TO * done[-2].current_a
    return last.current_a < COLLAPSES_TO * _running_a(done)


def _woke(done: Sequence[SweptStep]) -> bool:
    last = done[-1]
    return last.seen == "started" if last.seen else last.current_a > 2 * COLLAPSES_TO * _running_a(done)


def _running_a(done: Sequence[SweptStep]) -> float:
    """What it drew in the last large step before it gave up."""
    down = [step.current_a for step in done if step.leg == "down"]
    return down[-2] if len(down) > 1 else down[-1]


def told_by(done: Sequence[SweptStep]) -> SweepTold:
    """From its steps. Where it gave up the last volts at which it ran are its lowest."""
    down, up, fine = ([step for step in done if step.leg == leg] for leg in LEGS)
    gave_up = bool(down) and _gave_up(down)
    started_v = up[-1].volts if up and _woke([*down, *up]) else None
    fine_ran = fine[:-1] if fine and _gave_up(done) else fine
    ran_at_v = [step.volts for step in (*down[:-1], *fine_ran)] + ([started_v] if started_v else [])
    lowest_v = min(ran_at_v, default=None) if gave_up else None
    apart = lowest_v is not None and started_v is not None and started_v - lowest_v > APART_V
    said = bool(down) and down[-1].seen == "stopped"
    return SweepTold(
        ran=tuple(down[:-1] if gave_up and (apart or said) else down),
        v_run_min=lowest_v,
        v_start_min=started_v if apart else None,
        peak_a=_peak(down),
    )


def _peak(down: Sequence[SweptStep]) -> float | None:
    peaks = [step.most_a for step in down if step.most_a > PEAK_TIMES * step.current_a]
    return max(peaks, default=None)
