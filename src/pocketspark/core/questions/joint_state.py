"""What two devices have made of one conversion at once, put together and judged: no stop of both may get lost in it."""

from pocketspark.core.chain import Chain
from pocketspark.core.merging import BothChanged, merged
from pocketspark.core.models import Project
from pocketspark.core.rules import findings_of


def joint_state(base: Project, mine: Project, theirs: Project, *, mine_counts: bool = False) -> Project:
    """All of both. Raises BothChanged where they cannot be put together, or where that would hide a stop of both.

    `mine_counts`: of what both changed mine is taken; where even that comes to nothing sound, all of mine.
    """
    try:
        return _put_together(base, mine, theirs, mine_counts=mine_counts)
    except BothChanged:
        if mine_counts:
            return mine
        raise


def _put_together(base: Project, mine: Project, theirs: Project, *, mine_counts: bool) -> Project:
    together = merged(base, mine, theirs, mine_counts=mine_counts)
    numbers = {build.id: number for number, build in enumerate(together.builds)}
    hidden = [
        f"builds.{build.id}"
        for build in mine.builds
        if build.id in numbers and (_stops(mine, build.id) & _stops(theirs, build.id)) - _stops(together, build.id)
    ]
    if hidden:
        raise BothChanged(hidden, theirs.model_dump(mode="json"))
    return together


def _stops(project: Project, build_id: str) -> set[str]:
    """Codes of what stops this build; nothing where it is not there."""
    number = next((number for number, build in enumerate(project.builds) if build.id == build_id), None)
    if number is None:
        return set()
    findings = findings_of(Chain(project, number, advises=False))
    return {finding.code for finding in findings if finding.level == "stop"}
