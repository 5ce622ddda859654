"""A project as one JSON file, its parts inside. Described in docs/formats.md and docs/project.schema.json."""

import json
from typing import Any

from pydantic import ValidationError

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models import Project
from pocketspark.core.models.upgrade import UnknownFormat, upgraded
from pocketspark.core.refusal import Refusal, refusals

# A project with a dozen builds is some 60 kB.
LARGEST_BYTES = 1_000_000


class UnreadableProject(PocketSparkError, ValueError):
    """The text is no valid project. `refusals` names every field; the message is one sentence."""

    def __init__(self, found: list[Refusal]) -> None:
        self.refusals = found
        more = f" (and {len(found) - 1} more)" if len(found) > 1 else ""
        super().__init__(f"{found[0]}{more}")


def loads(text: str | bytes) -> Project:
    """Read a project. Raises UnreadableProject."""
    if len(text) > LARGEST_BYTES:
        raise UnreadableProject([Refusal("", f"the file is over {LARGEST_BYTES // 1_000_000} MB: that is no project")])
    try:
        document = json.loads(text)
    except (ValueError, RecursionError) as error:
        where = f" (line {error.lineno})" if isinstance(error, json.JSONDecodeError) else ""
        raise UnreadableProject([Refusal("", f"the file is not JSON{where}")]) from None
    return read(document if isinstance(document, dict) else {})


def read(document: dict[str, Any]) -> Project:
    """Read a project of any format from its parsed JSON. Raises UnreadableProject."""
    try:
        return Project.model_validate(upgraded(document))
    except UnknownFormat as error:
        raise UnreadableProject([Refusal("format", str(error))]) from None
    except ValidationError as error:
        raise UnreadableProject(refusals(error)) from None


def dumps(project: Project) -> str:
    """Write a project, self-contained, in the order of the models."""
    return json.dumps(project.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"
