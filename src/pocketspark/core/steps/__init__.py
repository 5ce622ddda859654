"""The build procedure: steps made from this build in a safe order, each with how far it has got."""

import math
import re

from pocketspark.core.chain import Chain
from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import any_of, say, verbatim
from pocketspark.core.models import Build, Project
from pocketspark.core.models.project import Edit
from pocketspark.core.models.record import ORIGINS, Moment, StepRecord
from pocketspark.core.steps.fixing import as_fixed
from pocketspark.core.steps.order import ORDER, hours_of_work, steps_of
from pocketspark.core.steps.step import Hold, Lock, Procedure, State, Step
from pocketspark.core.units.quantity import read
from pocketspark.core.units.reading import METRIC


class NoSuchCheckpoint(PocketSparkError, LookupError):
    """The build has no such step, or it takes no reading."""

    status = 404


__all__ = [
    "Hold",
    "Lock",
    "NoSuchCheckpoint",
    "Procedure",
    "Step",
    "counts",
    "learnt_from",
    "inside",
    "procedure",
    "read_value",
]


def procedure(project: Project, build: int = 0) -> Procedure:
    """The steps of this build with their states. Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    chain.required_running()
    records = {record.step: record for record in chain.build.record.steps}
    steps = tuple(
        _with_state(_with_theirs(as_fixed(step, chain.build), chain.build), records.get(step.key), chain.build)
        for step in steps_of(chain)
    )
    first = next((step.key for step in steps if step.state in ("open", "held")), None)
    return Procedure(
        steps=steps,
        next_step=first,
        bench_hours=hours_of_work(steps),
        finished=first is None,
        practice=chain.build.practice,
        fixed_at=chain.build.record.fixed.at if chain.build.record.fixed else "",
    )


SIMULATED = "this was read from the simulated meter, which proves nothing of this gadget: read it again on the bench"


def counts(record: StepRecord, build: Build) -> bool:
    """Whether a step's reading may be believed: a simulated one only in a practice copy."""
    return build.practice or record.origin != "simulated"


def _with_theirs(step: Step, build: Build) -> Step:
    """With what the author of its recipe read at this checkpoint: another's reading, which proves nothing here."""
    read = build.recipe.readings if build.recipe and step.hold else ()
    value = next((one.value for one in read if one.step == step.key), None)
    if value is None or step.hold is None or build.recipe is None:
        return step
    author = build.recipe.author or say("its author")
    theirs = say("{author} read {reading} in another piece.", author=author, reading=step.hold.written(value))
    return step.model_copy(update={"theirs": theirs})


def _with_state(step: Step, record: StepRecord | None, build: Build) -> Step:
    if record is None:
        return step
    said: dict[str, object] = {"photo_ids": record.photo_ids, "at": record.at or ""}
    if step.hold and not counts(record, build):
        return step.model_copy(update={**said, "says": SIMULATED})
    said |= {"value": record.value, "override": record.override, "state": _state(step, record)}
    if step.hold and record.value is not None:
        said |= {
            "reads": say("{reading}", reading=step.hold.written(record.value)),
            "origin": verbatim(ORIGINS[record.origin]),
        }
    if said["state"] == "held" and step.hold:
        said["says"] = any_of(step.hold.likely)
    return step.model_copy(update=said)


def _state(step: Step, record: StepRecord) -> State:
    if step.hold is None or (record.value is not None and inside(step.hold, record.value)):
        return "done" if record.done else "open"
    if record.value is None:
        return "open"
    passed_over = record.override and record.done and step.hold.grade != "stop"
    return "overridden" if passed_over else "held"


def read_value(project: Project, build: int, key: str, text: str) -> float:
    """What was typed at a step's checkpoint, in that checkpoint's own unit: "0.5k", "47k", "90 min", "1,2 V".

    A number alone has the unit that stands in the field, as everywhere.

    Raises NoSuchCheckpoint, and NotAQuantity with a sentence: a wrong unit too.
    """
    step = next((step for step in procedure(project, build).steps if step.key == key), None)
    if step is None or step.hold is None:
        raise NoSuchCheckpoint(say("this build has no checkpoint called '{key}'", key=key))
    if not PLAIN.fullmatch(text.strip()):
        return read(text, step.hold.unit)
    if step.hold.unit == "C":
        return read(f"{text} {step.hold.unit_sign}", "C")
    return read(text, step.hold.unit) * step.hold.scale


PLAIN = re.compile(r"[-+]?\d*[.,]?\d+")


def learnt_from(project: Project, build: int, key: str, value: float, at: Moment | None = None) -> tuple[Edit, ...]:
    """What a reading inside its limits tells the survey or the plan, as measured, and the logbook's line that dates it.

    A practice copy teaches nothing.
    """
    chain = Chain(project, build)
    for kind in ORDER:
        step = kind.step_of(chain)
        if step is not None and step.key == key and step.hold is not None:
            step = as_fixed(step, chain.build)
            assert step.hold is not None
            teaches = inside(step.hold, value) and not chain.build.practice
            edits = kind.learnt_by(chain, value) if teaches else ()
            return (*edits, _dated(step.hold, value, at)) if edits and at else edits
    return ()


def _dated(hold: Hold, value: float, at: Moment) -> Edit:
    text = say(
        "{quantity}: {written}, from its checkpoint into the survey",
        quantity=hold.quantity,
        written=hold.written(value),
    )
    return Edit(
        path="logbook.+", value={"at": at, "kind": "measurement", "station": "build", "text": text.text(METRIC)}
    )


def inside(hold: Hold, value: float) -> bool:
    """Does a reading lie within a hold's limits? At a limit it does, whatever the last bits of its float are."""
    low = -math.inf if hold.low is None else hold.low
    high = math.inf if hold.high is None else hold.high
    return low <= value <= high or math.isclose(value, low) or math.isclose(value, high)
