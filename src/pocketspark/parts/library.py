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

    @property
    def cells(self) -> tuple[Cell, ...]:
        return tuple(part.cell for part in self.parts if part.cell)

    @property
    def boards(self) -> tuple[Board, ...]:
        return tuple(part.board for part in self.parts if part.board)

    def with_packs(self, added: Sequence[LibraryPart]) -> "Library":
        """These parts, and behind them those of packs."""
        return Library(parts=(*self.parts, *added))


@cache
def library() -> Library:
    """The shipped parts: their data files are read and validated once."""
    files: dict[PartKind, str] = {
        "cell": "cells.json",
        "charger": "chargers.json",
        "protection": "protections.json",
        "regulator": "regulators.json",
    }
    return Library(parts=tuple(part for kind, name in files.items() for part in _read(kind, name)))


def _read(kind: PartKind, name: str) -> list[LibraryPart]:
    text = resources.files(__package__).joinpath("library", name).read_text("utf-8")
    records = TypeAdapter(dict[str, dict[str, object]]).validate_python(json.loads(text))
    body = "cell" if kind == "cell" else "board"
    return [LibraryPart.model_validate({"id": key, "kind": kind, body: record}) for key, record in records.items()]
