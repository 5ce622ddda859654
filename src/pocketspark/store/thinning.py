"""Which saved states need not be kept any longer.

Every state of the last day stays, of the week before one an hour, of any time before one a day: always the last of
its hour or day. The first state, the present one and those that redo leads to stay. A side branch, left by an undo
after which something else was saved, goes after a week. The newest three hundred stay whatever the clock says: one that
is a year ahead for a morning takes nothing of that morning away.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

EVERY_ONE_FOR = timedelta(days=1)
ONE_AN_HOUR_FOR = timedelta(days=8)
NEWEST_KEPT = 300


@dataclass(frozen=True)
class RevisionMark:
    """A saved state without its document."""

    id: int
    parent: int | None
    made_at: datetime


def superfluous(revisions: Iterable[RevisionMark], head: int, today: datetime) -> set[int]:
    """Ids of the states that may go by now. `today` and the marks are in one time zone."""
    by_id = {revision.id: revision for revision in revisions}
    if len(by_id) <= NEWEST_KEPT:
        return set()
    line = [*_before(by_id, head), *_after(by_id, head)]
    kept = {line[0].id, head, *(revision.id for revision in _last_of_each_span(line, today))}
    kept |= {revision.id for revision in by_id.values() if today - revision.made_at <= EVERY_ONE_FOR}
    on_line = {revision.id for revision in line}
    kept |= {one.id for one in by_id.values() if one.id not in on_line and today - one.made_at <= ONE_AN_HOUR_FOR}
    return set(by_id) - kept - set(sorted(by_id)[-NEWEST_KEPT:])


def _before(by_id: dict[int, RevisionMark], head: int) -> list[RevisionMark]:
    """From the first state to the present one."""
    line: list[RevisionMark] = []
    now: int | None = head
    while now is not None and now in by_id:
        line.append(by_id[now])
        now = by_id[now].parent
    return line[::-1]


def _after(by_id: dict[int, RevisionMark], head: int) -> list[RevisionMark]:
    """The states that redo leads to."""
    newest_child = {one.parent: one for one in sorted(by_id.values(), key=lambda one: one.id)}
    line: list[RevisionMark] = []
    now = head
    while now in newest_child:
        line.append(newest_child[now])
        now = newest_child[now].id
    return line


def _last_of_each_span(line: list[RevisionMark], today: datetime) -> list[RevisionMark]:
    return list({_span(revision.made_at, today): revision for revision in line}.values())


def _span(made_at: datetime, today: datetime) -> str:
    age = today - made_at
    if age <= EVERY_ONE_FOR:
        return made_at.isoformat()
    return f"{made_at:%Y-%m-%d %H}" if age <= ONE_AN_HOUR_FOR else f"{made_at:%Y-%m-%d}"
