"""Packs of parts that others have measured: files in one folder, read at the start, shown with their origin."""

import json
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Annotated, Literal, Self

from pydantic import Field, StringConstraints, ValidationError, model_validator

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Board, Cell
from pocketspark.core.models.model import Model, Title, refusal
from pocketspark.core.models.plain_text import ON_ONE_LINE
from pocketspark.core.refusal import refusals
from pocketspark.parts.library import LibraryPart, PartKind

FORMAT: Literal["pocket-spark-pack/1"] = "pocket-spark-pack/1"
LARGEST_BYTES, MOST_PARTS, MOST_PACKS = 2_000_000, 500, 40
PackId = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]
Told = Annotated[str, StringConstraints(strip_whitespace=True, max_length=300), ON_ONE_LINE]


class PartInPack(Model):
    """One part: a `cell`, or a `board` that is what the kind says. `measured`: by whom and how, in a few words."""

    id: PackId
    kind: PartKind
    cell: Cell | None = None
    board: Board | None = None
    measured: Told = ""

    @model_validator(mode="after")
    def _is_what_it_says(self) -> Self:
        if self.kind == "cell":
            if self.cell is None or self.board is not None:
                raise refusal("a cell is written under cell, and nothing under board")
        elif self.board is None or self.cell is not None or getattr(self.board, self.kind) is None:
            raise refusal("a {kind} is a board with a {kind} on it, and nothing under cell", kind=self.kind)
        return self


class PartsPack(Model):
    """A pack. `name` is what it is told from others by; `licence` as its maker says it."""

    format: Literal["pocket-spark-pack/1"]
    name: PackId
    title: Title
    version: Annotated[str, StringConstraints(pattern=r"^\d{1,6}(\.\d{1,6}){0,2}$")]
    origin: Told
    licence: Told
    parts: Annotated[tuple[PartInPack, ...], Field(min_length=1, max_length=MOST_PARTS)]

    @model_validator(mode="after")
    def _ids_are_its_own(self) -> Self:
        twice = [part for part, count in Counter(part.id for part in self.parts).items() if count > 1]
        if twice:
            raise refusal("two parts are called {part}", part=twice[0])
        return self

    @property
    def as_library(self) -> list[LibraryPart]:
        """Its parts as they stand beside those that are shipped, each under the name of the pack."""
        return [
            LibraryPart(
                id=f"{self.name}/{part.id}", kind=part.kind, cell=_nobodys(part.cell), board=_no_ones(part.board)
            )
            for part in self.parts
        ]


def _nobodys(cell: Cell | None) -> Cell | None:
    """Of the maker's own drawer no file from outside knows anything."""
    return cell.model_copy(update={"inventory_id": None}) if cell else None


def _no_ones(board: Board | None) -> Board | None:
    return board.model_copy(update={"inventory_id": None}) if board else None


class UnreadablePack(PocketSparkError, ValueError):
    """The file is no pack; the message is one sentence, and names the first field that is wrong."""


def read_pack(text: bytes) -> PartsPack:
    """Raises UnreadablePack."""
    if len(text) > LARGEST_BYTES:
        raise UnreadablePack(say("the file is over {most} MB: that is no pack of parts", most=LARGEST_BYTES // 1000000))
    try:
        document = json.loads(text)
    except (ValueError, RecursionError):
        raise UnreadablePack(say("the file is not JSON")) from None
    if not isinstance(document, dict) or document.get("format") != FORMAT:
        raise UnreadablePack(say("a pack begins with format {format}", format=FORMAT))
    try:
        return PartsPack.model_validate(document)
    except ValidationError as error:
        found = refusals(error)
        more = f" (and {len(found) - 1} more)" if len(found) > 1 else ""
        raise UnreadablePack(f"{found[0]}{more}") from None


@dataclass(frozen=True)
class PackFile:
    """One file of the folder: the pack in it, or why it is not used."""

    file: str
    pack: PartsPack | None
    why_not: str = ""


def packs_in(folder: Path) -> list[PackFile]:
    """By name of the file. Of two packs of one name neither is used: which is meant, their owner has to say."""
    if not folder.is_dir():
        return []
    files = sorted(file for file in folder.iterdir() if file.suffix == ".json" and file.is_file())
    found = [_read(file) for file in files[:MOST_PACKS]]
    times = Counter(one.pack.name for one in found if one.pack)
    return [
        PackFile(one.file, None, f"there is another pack “{one.pack.name}” here: take one of the two away")
        if one.pack and times[one.pack.name] > 1
        else one
        for one in found
    ]


def _read(file: Path) -> PackFile:
    try:
        if file.stat().st_size > LARGEST_BYTES:
            raise UnreadablePack(
                say("the file is over {most} MB: that is no pack of parts", most=LARGEST_BYTES // 1000000)
            )
        return PackFile(file.name, read_pack(file.read_bytes()))
    except (UnreadablePack, OSError) as error:
        return PackFile(file.name, None, str(error))


def parts_of(packs: Sequence[PackFile]) -> list[LibraryPart]:
    return [part for one in packs if one.pack for part in one.pack.as_library]
