"""Loads the generic parts. Each is a whole Cell or Board, ready to be copied into a build."""

import json
from collections.abc import Sequence
from functools import cache
from importlib import resources
from typing import Literal

from pydantic import TypeAdapter

from pocketspark.core.models import Board, Cell
from pocketspark.core.models.model import Model, Title

PartKind = Literal["cell", "charger", "protection", "regulator"]


class LibraryPart(Model):
    """One part of the library: exactly one of `cell` and `board` is there, as the kind says."""

    id: Title
    kind: PartKind
    cell: Cell | None = None
    board: Board | None = None


class Library(Model):
    """All parts, in the order a maker would look through them."""

    parts: tuple[LibraryPart, ...]

    def of(self, kind: PartKind) -> list[LibraryPart]:
        return [part for part in self.parts if part.kind == kind]


# What packs have added, for as long as the server runs.
_added: list[LibraryPart] = []


def library() -> Library:
    """The shipped parts, and behind them those of packs."""
    return Library(parts=(*_shipped(), *_added)) if _added else Library(parts=_shipped())


def add_from_packs(parts: Sequence[LibraryPart]) -> None:
    """In the place of what packs had added before."""
    _added[:] = parts


@cache
def _shipped() -> tuple[LibraryPart, ...]:
    """Read and validate the shipped data files once."""
    files: dict[PartKind, str] = {
        "cell": "cells.json",
        "charger": "chargers.json",
        "protection": "protections.json",
        "regulator": "regulators.json",
    }
    return tuple(part for kind, name in files.items() for part in _read(kind, name))


def _read(kind: PartKind, name: str) -> list[LibraryPart]:
    text = resources.files(__package__).joinpath("library", name).read_text("utf-8")
    records = TypeAdapter(dict[str, dict[str, object]]).validate_python(json.loads(text))
    body = "cell" if kind == "cell" else "board"
    return [LibraryPart.model_validate({"id": key, "kind": kind, body: record}) for key, record in records.items()]
