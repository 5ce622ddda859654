"""Undo and redo on several devices: each takes back its own changes, and says whose it would take otherwise."""

from collections.abc import Iterator

from pocketspark.core.error import PocketSparkError
from pocketspark.core.merging import BothChanged
from pocketspark.core.message import say
from pocketspark.core.questions.joint_state import joint_state
from pocketspark.store import Projects, StateMark, Stored
from pocketspark.store.devices import THIS_COMPUTER, Devices


class NothingOfYours(PocketSparkError, RuntimeError):
    """Whatever could be taken back is of another device, or others have built on it."""

    status = 422


def undo_own(projects: Projects, devices: Devices, project_id: int, *, based_on: int, device: int) -> Stored:
    """Take back this device's newest change; what others changed after it stays. Raises Conflict, NothingOfYours."""
    line = projects.line(project_id)
    head = line[0]
    if head.parent is None or (head.device == device and head.undoes is None):
        return projects.undo(project_id, based_on=based_on)
    own = next(_own_changes(line, device), None)
    if own is None or own.parent is None:
        raise NothingOfYours(
            say("the last change is of {named}, and none here is yours to undo", named=_named(devices, head.device))
        )
    changed, before = projects.state(project_id, own.id), projects.state(project_id, own.parent)
    if changed is None or before is None:
        raise NothingOfYours(say("your last change is no longer kept apart from those that came after it"))
    try:
        without = joint_state(changed, before, projects.get(project_id).project)
    except BothChanged as both:
        others = dict.fromkeys(_named(devices, one.device) for one in line if one.id > own.id and one.device != device)
        raise NothingOfYours(
            say("undoing yours would undo what {names} did since: {both}", names=", ".join(others), both=str(both))
        ) from None
    return projects.save(project_id, without, based_on=based_on, device=device, undoes=own.id)


def redo_own(projects: Projects, devices: Devices, project_id: int, *, based_on: int, device: int) -> Stored:
    """Take back this device's newest undo. Raises Conflict, NothingOfYours where it was another one's."""
    undone = projects.next_on_redo(project_id)
    if undone is not None and undone.device != device:
        raise NothingOfYours(
            say("what was undone last is of {named}: it is done again there", named=_named(devices, undone.device))
        )
    return projects.redo(project_id, based_on=based_on)


def _own_changes(line: list[StateMark], device: int) -> Iterator[StateMark]:
    """The newest first, without those that were taken back already."""
    undone = {one.undoes for one in line}
    return (one for one in line if one.device == device and one.undoes is None and one.id not in undone)


def _named(devices: Devices, device: int) -> str:
    if device == THIS_COMPUTER:
        return "the computer on which Pocket Spark runs"
    return next((f"“{one.name}”" for one in devices.all() if one.id == device), "a device that is paired no more")
