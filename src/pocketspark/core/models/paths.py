"""Places in a document by dotted path: "gadget.modes.mode1.current_a", "builds.build2.cell.r_ohm".

A row of a list is named by its id; its number is understood as well, and turned into the id where a path is stored.
Works on read models and on documents not read yet alike.
"""

import re
from collections.abc import Iterator, Mapping, Sequence
from typing import Any

from pocketspark.core.error import PocketSparkError
from pocketspark.core.models.model import row_id

NUMBER = re.compile(r"\d{1,4}")


class NoSuchPlace(PocketSparkError, LookupError):
    """The path leads nowhere in this document."""

    def __init__(self, path: str) -> None:
        super().__init__(f"there is no place called '{path}' in this document")


def canonical(document: Any, path: str) -> str:
    """The same path with every row named by its id. What leads nowhere is left as it is."""
    branch, steps = document, []
    for step in path.split("."):
        if isinstance(branch, Sequence) and not isinstance(branch, str):
            number = row_number(branch, step)
            row = None if number is None else branch[number]
            steps.append(row_id(row) or step)
            branch = row
        else:
            steps.append(step)
            branch = child(branch, step)
    return ".".join(steps)


def row_number(rows: Sequence[Any], step: str) -> int | None:
    """Where in a list a step of a path leads, by id or by number; None where it leads nowhere."""
    if NUMBER.fullmatch(step):
        return int(step) if int(step) < len(rows) else None
    return next((number for number, row in enumerate(rows) if row_id(row) == step), None)


def child(branch: Any, step: str) -> Any:
    """One step down from a group of fields; None where there is nothing."""
    if isinstance(branch, Mapping):
        return branch.get(step)
    fields = getattr(type(branch), "model_fields", {})
    return getattr(branch, step) if step in fields else None


def value_at(document: Any, path: str) -> Any:
    """What stands at a path; None where it leads nowhere."""
    branch = document
    for step in path.split("."):
        if isinstance(branch, Sequence) and not isinstance(branch, str):
            number = row_number(branch, step)
            branch = None if number is None else branch[number]
        else:
            branch = child(branch, step)
    return branch


def groups_of(path: str) -> Iterator[str]:
    """The place itself, then every group that it lies in, innermost first."""
    while path:
        yield path
        path = path.rpartition(".")[0]


def within(path: str, group: str) -> bool:
    """Is this place the group itself, or inside it?"""
    return path == group or path.startswith(f"{group}.")
