"""The build procedure: steps made from this build in a safe order, each with how far it has got."""

from pocketspark.core.chain import Chain
from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Project
from pocketspark.core.models.record import StepRecord
from pocketspark.core.steps.model import Hold, Procedure, Step
from pocketspark.core.steps.order import steps_of
from pocketspark.core.units.quantity import read


class NoSuchCheckpoint(PocketSparkError, LookupError):
    """The build has no such step, or it takes no reading."""

    status = 404


__all__ = ["Hold", "Procedure", "Step", "NoSuchCheckpoint", "inside", "procedure", "read_value"]


def procedure(project: Project, build: int = 0) -> Procedure:
    """The steps of this build with their states. Raises MissingPart before a cell is chosen."""
    chain = Chain(project, build)
    chain.required_running()
    records = {record.step: record for record in chain.build.record.steps}
    steps = tuple(_with_state(step, records.get(step.key)) for step in steps_of(chain))
    first = next((step.key for step in steps if step.state in ("open", "held")), None)
    return Procedure(steps=steps, next_step=first, minutes=sum(step.minutes for step in steps))


def _with_state(step: Step, record: StepRecord | None) -> Step:
    if record is None:
        return step
    said: dict[str, object] = {"value": record.value, "override": record.override, "photo_ids": record.photo_ids}
    if step.hold and record.value is not None:
        said["reads"] = str(step.hold.written(record.value))
    if step.hold is None:
        return step.model_copy(update={**said, "state": "done" if record.done else "open"})
    if record.value is None:
        return step.model_copy(update=said)
    if inside(step.hold, record.value):
        return step.model_copy(update={**said, "state": "done" if record.done else "open"})
    if record.override and record.done and step.hold.grade != "stop":
        return step.model_copy(update={**said, "state": "overridden"})
    return step.model_copy(update={**said, "state": "held", "says": "; or ".join(step.hold.likely)})


def read_value(project: Project, build: int, key: str, text: str) -> float:
    """What was typed at a step's checkpoint, in that checkpoint's own unit: "0.5k", "47k", "90 min", "1,2 V".

    Raises NoSuchCheckpoint, and NotAQuantity with a sentence: a wrong unit too.
    """
    step = next((step for step in procedure(project, build).steps if step.key == key), None)
    if step is None or step.hold is None:
        raise NoSuchCheckpoint(f"this build has no checkpoint called '{key}'")
    return read(text, step.hold.unit)


def inside(hold: Hold, value: float) -> bool:
    """Does a reading lie within a hold's limits?"""
    return (hold.low is None or value >= hold.low) and (hold.high is None or value <= hold.high)
