"""The build procedure: steps made from this build in a safe order, each with how far it has got."""

from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.core.models.record import StepRecord
from pocketspark.core.steps.model import Hold, Procedure, Step
from pocketspark.core.steps.order import steps_of

__all__ = ["Hold", "Procedure", "Step", "inside", "procedure"]


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
    said = {"value": record.value, "override": record.override, "photo_ids": record.photo_ids}
    if step.hold is None:
        return step.model_copy(update={**said, "state": "done" if record.done else "open"})
    if record.value is None:
        return step.model_copy(update=said)
    if inside(step.hold, record.value):
        return step.model_copy(update={**said, "state": "done" if record.done else "open"})
    if record.override and record.done and step.hold.grade != "stop":
        return step.model_copy(update={**said, "state": "overridden"})
    return step.model_copy(update={**said, "state": "held", "says": "; or ".join(step.hold.likely)})


def inside(hold: Hold, value: float) -> bool:
    """Does a reading lie within a hold's limits?"""
    return (hold.low is None or value >= hold.low) and (hold.high is None or value <= hold.high)
