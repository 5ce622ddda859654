"""Documents as text in the database, each with a sum by which it is known that it is the one that was saved."""

from collections.abc import Iterator
from hashlib import sha256

from pydantic import ValidationError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import Message, _, as_message, say
from pocketspark.core.models import Project
from pocketspark.core.refusal import refusals
from pocketspark.store.tables import RevisionRow


class Unreadable(PocketSparkError, ValueError):
    """What is stored of a project cannot be read. `body` is the text as it stands; nothing was changed.

    `damaged`: it is not the text that was saved, so nothing that stands in it is to be believed.
    """

    def __init__(self, reason: Message, body: str, *, damaged: bool = False) -> None:
        self.body, self.damaged = body, damaged
        template = (
            _("this conversion cannot be read as it is stored ({reason}); save it as it is, or go back to a sound one")
            if damaged
            else _("this conversion cannot be read as it is stored ({reason}); save it as it is, or repair it")
        )
        super().__init__(say(template, reason=reason))


def text_of(project: Project) -> str:
    return project.model_dump_json()


def digest_of(body: str) -> str:
    return sha256(body.encode(errors="surrogateescape")).hexdigest()


def read_state(row: RevisionRow) -> Project:
    """Raises Unreadable."""
    if row.digest is not None and digest_of(row.body) != row.digest:
        raise Unreadable(say("the disk has changed it since it was saved"), row.body, damaged=True)
    try:
        return Project.model_validate_json(row.body)
    except ValidationError as error:
        raise Unreadable(as_message(str(refusals(error)[0])), row.body) from None


def read_or_none(row: RevisionRow) -> Project | None:
    try:
        return read_state(row)
    except Unreadable:
        return None


def own_parts(project: Project) -> Iterator[int]:
    return (part.inventory_id for part in project.parts if part.inventory_id is not None)
