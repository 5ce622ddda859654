"""The plan is fixed when the first cut is made: its limits and predictions hold from then on, whatever is learnt."""

import hashlib
import json
from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.logs.watch import Limits, Reading, alarms, limits_of
from pocketspark.core.models import Build, Project
from pocketspark.core.models.record import ChargeReading, FixedLimit, FixedPart, FixedPlan, Moment
from pocketspark.core.steps.order import steps_of
from pocketspark.core.steps.prediction import first_prediction
from pocketspark.core.steps.step import Step

# So many readings that passed a limit are kept.
MOST_PASSED = 200
# What a maker reads off the cell that is there, and what it cost: no change of the plan.
_READ_OFF = {"measured_capacity_ah", "r_ohm", "intake", "price", "inventory_id", "polarity_measured", "name"}
# The parts of a plan by the words of the page, and where they stand in the document.
PARTS = {
    "cell": ("cell", "cell_count", "unlike_cells", "cells_in_series"),
    "boards": ("boards",),
    "regulator": ("regulator",),
    "charge-current resistor": ("r_prog_ohm", "r_tolerance"),
    "way in": ("input", "source", "who_charges", "external_charger"),
    "use while it charges": ("use_while_charging", "switch_place"),
}


def with_plans_fixed(project: Project, at: Moment, before: Project | None = None) -> Project:
    """The same with the plan of each build fixed whose first cut has been made.

    `before`: as it was kept. What was fixed there stays as it is, whatever this project says of it: neither a page nor
    another device moves it. Without it what the project itself brings along counts, as in a file.
    """
    kept = {build.id: build.record.fixed for build in before.builds} if before else {}
    came = {build.id: build.record.from_file_at for build in before.builds} if before else {}
    builds = list(project.builds)
    for number, build in enumerate(builds):
        own = None if before else build.record.fixed
        fixed = kept.get(build.id) or own or (_fixed_now(project, number, at) if _is_cut(project, number) else None)
        if fixed is not None:
            fixed = fixed.model_copy(update={"passed": tuple(_passed(Chain(project, number), fixed))[:MOST_PASSED]})
        from_file_at = came.get(build.id) if before else build.record.from_file_at
        if (fixed, from_file_at) != (build.record.fixed, build.record.from_file_at):
            record = build.record.model_copy(update={"fixed": fixed, "from_file_at": from_file_at})
            builds[number] = build.model_copy(update={"record": record})
    return project.model_copy(update={"builds": tuple(builds)})


def as_read_from_file(project: Project, at: Moment) -> Project:
    """What had been done to it was done elsewhere, and its plan fixed there: from now on its record says so."""
    builds = []
    for build in with_plans_fixed(project, at).builds:
        done = any(step.done for step in build.record.steps)
        came = build.record.from_file_at or (at if done else None)
        builds.append(build.model_copy(update={"record": build.record.model_copy(update={"from_file_at": came})}))
    return project.model_copy(update={"builds": tuple(builds)})


def _passed(chain: Chain, fixed: FixedPlan) -> Iterator[ChargeReading]:
    """Readings that passed a limit of the first charge, those that were kept before first, each once."""
    yield from fixed.passed
    if chain.charging is None:
        return
    limits, seen = limits_by(chain, fixed), {_read(reading) for reading in fixed.passed}
    for reading in chain.build.record.first_charge.readings:
        if reading.origin == "simulated" or _read(reading) in seen:
            continue
        if alarms(limits, [_read(reading)]):
            seen.add(_read(reading))
            yield reading.model_copy(update={"id": ""})


def _read(reading: ChargeReading) -> Reading:
    return Reading(minutes=reading.minutes, volts=reading.volts, amps=reading.current_a, celsius=reading.celsius)


def _is_cut(project: Project, number: int) -> bool:
    """Has a step been done that the gadget is not the same after?"""
    done = {step.step for step in project.builds[number].record.steps if step.done}
    chain = Chain(project, number)
    return bool(done) and chain.cell is not None and any(step.opens and step.key in done for step in steps_of(chain))


def _fixed_now(project: Project, number: int, at: Moment) -> FixedPlan:
    chain = Chain(project, number)
    watch = limits_of(chain) if chain.charging else None
    return FixedPlan(
        at=at,
        limits=tuple(
            FixedLimit(step=step.key, low=step.hold.low, high=step.hold.high) for step in steps_of(chain) if step.hold
        ),
        prediction=first_prediction(chain),
        most_v=watch.most_v if watch else None,
        most_a=watch.most_a if watch else None,
        most_c=watch.most_c if watch else None,
        longest_h=watch.longest_h if watch else None,
        parts=tuple(FixedPart(part=part, digest=digest) for part, digest in _digests(chain.build)),
    )


def as_fixed(step: Step, build: Build) -> Step:
    """The step held to the limits of the plan that was cut for; a step that this plan had not has its own."""
    fixed = build.record.fixed
    limit = next((one for one in fixed.limits if one.step == step.key), None) if fixed else None
    if limit is None or step.hold is None:
        return step
    return step.model_copy(update={"hold": step.hold.model_copy(update={"low": limit.low, "high": limit.high})})


def watch_limits(chain: Chain) -> Limits:
    """What must not be passed in the first charge: by the fixed plan, else by the plan as it is. Raises MissingPart."""
    return limits_by(chain, chain.build.record.fixed)


def limits_by(chain: Chain, fixed: FixedPlan | None) -> Limits:
    """The same by this plan. Raises MissingPart."""
    if fixed is None or fixed.most_v is None or fixed.most_a is None or fixed.most_c is None or not fixed.longest_h:
        return limits_of(chain)
    return Limits(most_v=fixed.most_v, most_a=fixed.most_a, most_c=fixed.most_c, longest_h=fixed.longest_h)


def changed_parts(build: Build) -> tuple[str, ...]:
    """Parts of the plan that are others than those it was cut for."""
    fixed = build.record.fixed
    if fixed is None:
        return ()
    now = dict(_digests(build))
    return tuple(part.part for part in fixed.parts if now.get(part.part) != part.digest)


def _digests(build: Build) -> Iterator[tuple[str, str]]:
    document = build.model_dump(mode="json", exclude={"record"})
    for part, fields in PARTS.items():
        text = json.dumps([_without_readings(document[field]) for field in fields], sort_keys=True)
        yield part, hashlib.sha256(text.encode()).hexdigest()[:16]


def _without_readings(value: object) -> object:
    if isinstance(value, dict):
        return {key: _without_readings(inner) for key, inner in value.items() if key not in _READ_OFF}
    return [_without_readings(inner) for inner in value] if isinstance(value, list) else value
