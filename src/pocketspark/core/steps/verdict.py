"""What a record proves of a build: readings against fixed limits, a watched first charge, hours that were run."""

from collections.abc import Iterator, Sequence

from pocketspark.core.chain import Chain
from pocketspark.core.logs.watch import Alarm, Reading, alarms
from pocketspark.core.message import Message, row_of, say, verbatim
from pocketspark.core.models.record import ChargeWatch
from pocketspark.core.moments import hours_between
from pocketspark.core.steps.fixing import changed_parts, watch_limits
from pocketspark.core.steps.step import Procedure, Step, Verdict
from pocketspark.core.units.figures import hours

# A cell comes half full, and its first charge is the shorter for it; under this share of a whole one it has been
# broken off (our judgement, no source).
LEAST_SHARE = 0.2
HOURS_STEP = "discharge"
# Hours over so many times those that were predicted are no proof of them (our judgement, no source).
LONGER_THAN_MEANT = 1.5


def verdict_of(chain: Chain, procedure: Procedure) -> Verdict:
    """Proven, finished with reservations, or unproven; each reason for not being proven in a sentence."""
    if chain.build.practice:
        return Verdict(kind="unproven", because=(say("A practice copy proves nothing of a gadget."),))
    missing = tuple(_missing(chain, procedure))
    reservations = tuple(_reservations(chain, procedure.steps))
    if missing:
        return Verdict(kind="unproven", because=(*missing, *reservations))
    return Verdict(kind="reserved" if reservations else "proven", because=reservations)


def charge_alarms(chain: Chain) -> tuple[Alarm, ...]:
    """Every limit that was passed while a first charge was watched, real readings only, and those struck out since.

    Raises MissingPart.
    """
    record = chain.build.record
    kept = record.fixed.passed if record.fixed else ()
    readings = [
        Reading(minutes=one.minutes, volts=one.volts, amps=one.current_a, celsius=one.celsius)
        for one in (*kept, *record.first_charge.readings)
        if chain.build.practice or one.origin != "simulated"
    ]
    return alarms(watch_limits(chain), sorted(readings, key=lambda reading: reading.minutes))


def watched_h(watch: ChargeWatch) -> float | None:
    """Hours from its start to its end; None where one of them is missing, or the clock ran backwards."""
    if watch.started_at is None or watch.ended_at is None:
        return None
    lasted_h = hours_between(watch.started_at, watch.ended_at)
    return lasted_h if lasted_h >= 0 else None


def least_h(chain: Chain) -> float | None:
    """Hours that a first charge takes at least; None where nothing was predicted."""
    fixed = chain.build.record.fixed
    whole_h = fixed.prediction.charge_hours if fixed else None
    return whole_h * LEAST_SHARE if whole_h else None


def was_broken_off(chain: Chain) -> bool:
    """Did the first charge end before any could have ended by itself?"""
    lasted_h, needed_h = watched_h(chain.build.record.first_charge), least_h(chain)
    return lasted_h is not None and needed_h is not None and lasted_h < needed_h


# What is missing ---------------------------------------------------------------------------------------------------


def _missing(chain: Chain, procedure: Procedure) -> Iterator[Message]:
    if not procedure.finished:
        yield say("Not every step is done.")
    if chain.build.record.fixed is None:
        yield say("No plan was fixed at the first cut, so there is nothing that its readings were held against.")
    if chain.charging is not None:
        yield from _missing_of_the_charge(chain)
    run_down = next((step for step in procedure.steps if step.key == HOURS_STEP), None)
    if run_down is not None and run_down.state != "done":
        yield say("Its hours are not confirmed: no whole run lies within what was predicted.")


def _missing_of_the_charge(chain: Chain) -> Iterator[Message]:
    watch = chain.build.record.first_charge
    if watch.started_at is None:
        yield say("Its first charge was not watched.")
    elif watched_h(watch) is None:
        yield say("Its first charge was not watched to its end.")
    elif was_broken_off(chain):
        yield say(
            "Its first charge was broken off after {lasted}.",
            lasted=hours(watched_h(watch) or 0.0),
        )
    elif not any(reading.origin != "simulated" for reading in watch.readings):
        yield say("Nothing was read while its first charge was watched.")


# What it is finished in spite of -------------------------------------------------------------------------------------


def _reservations(chain: Chain, steps: Sequence[Step]) -> Iterator[Message]:
    record = chain.build.record
    if record.from_file_at:
        yield say(
            "What was done came here in a file on {day}. Nobody here has seen it being done.",
            day=verbatim(record.from_file_at[:10]),
        )
    if record.built_although:
        yield say("It was built in spite of what stood against it: {reason}", reason=verbatim(record.built_although))
    for step in steps:
        if step.state == "overridden" and step.hold:
            yield say(
                "{step}: {reads}, where {limits} was wanted. Passed over because: {reason}",
                step=step.title,
                reads=step.reads,
                limits=step.hold.limits,
                reason=verbatim(step.override),
            )
    if chain.charging is not None:
        for alarm in charge_alarms(chain):
            yield say("{after} into the first charge: {alarm}", after=hours(alarm.minutes / 60), alarm=alarm.says)
    yield from _too_long(chain, steps)
    if changed := changed_parts(chain.build):
        yield say(
            "The plan was changed after the first cut: {parts}. What was checked before is to be checked again.",
            parts=row_of(verbatim(part) for part in changed),
        )


def _too_long(chain: Chain, steps: Sequence[Step]) -> Iterator[Message]:
    """A charge or a run that took far longer than was predicted is no better one: something is not as it was taken."""
    fixed = chain.build.record.fixed
    lasted_h, longest_h = watched_h(chain.build.record.first_charge), fixed.longest_h if fixed else None
    if chain.charging is not None and lasted_h and longest_h and lasted_h > longest_h:
        yield say(
            "Its first charge took {lasted}; {longest} was the longest wanted.",
            lasted=hours(lasted_h),
            longest=hours(longest_h),
        )
    ran_h = next((step.value for step in steps if step.key == HOURS_STEP and step.state == "done"), None)
    predicted_h = fixed.prediction.heaviest_hours if fixed else None
    if ran_h and predicted_h and ran_h > predicted_h * LONGER_THAN_MEANT:
        yield say(
            "It ran for {ran}, and {predicted} was predicted: something draws less than surveyed, or was read wrong.",
            ran=hours(ran_h),
            predicted=hours(predicted_h),
        )
