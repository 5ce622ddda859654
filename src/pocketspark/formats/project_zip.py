"""A conversion with its photographs in one zip, and on wish with its history, own parts, live runs and logs.

project.spark.json, photographs.json with photographs/ID.jpg each, history.jsonl, parts.json, runs.jsonl, logs.json with
logs/ID.csv each, byte for byte.
"""

import io
import json
import zipfile
import zlib
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import IO, Annotated, Any, TypeVar

from pydantic import Field, TypeAdapter, ValidationError

from pocketspark.core.message import Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.inventory_item import INVENTORY_MODELS, InventoryKind, InventoryModel
from pocketspark.core.models.model import Model, Title
from pocketspark.core.photographs.marks import PhotoMarks, Picture
from pocketspark.core.refusal import Refusal
from pocketspark.formats import photograph, project_json
from pocketspark.formats.project_json import UnreadableProject

PROJECT, INDEX = "project.spark.json", "photographs.json"
HISTORY, PARTS, RUNS, LOGS = "history.jsonl", "parts.json", "runs.jsonl", "logs.json"
MOST_PHOTOS = 60
# Sixty photographs as they are kept come to some 40 MB; of a noisy picture each may be 5.
LARGEST_BYTES = 400_000_000
LARGEST_HISTORY = 60_000_000
LARGEST_RUNS = 60_000_000
LARGEST_PARTS = 5_000_000
# As they unpack; a zip of larger ones is not taken in.
LARGEST_LOGS, PIECE_BYTES = 400_000_000, 1_000_000
MOST_STATES, MOST_PARTS, MOST_RUNS, MOST_LOGS = 5_000, 200, 200, 40
BEGINS_WITH = b"PK\x03\x04"


class PhotoLine(Model):
    """One photograph in the index. `id` is what steps and logbook call it by within the file."""

    id: int
    caption: Title
    marks: PhotoMarks = PhotoMarks()


class HistoryLine(Model):
    """An earlier state: a line of history.jsonl, the newest first."""

    made_at: datetime
    document: dict[str, Any]


class OwnPartLine(Model):
    """One of the maker's own parts in parts.json. `id` is what the document's `inventory_id` names."""

    id: int
    kind: InventoryKind
    stock: Annotated[int, Field(ge=0, le=10_000)]
    body: dict[str, Any]


Reading = tuple[float, float, float, float | None]


class RunLine(Model):
    """A run that an instrument wrote: a line of runs.jsonl. Rows are (s, V, A, degrees or null)."""

    name: Annotated[str, Field(max_length=200)]
    limits: dict[str, Any] | None = None
    failure: Annotated[str, Field(max_length=1000)] = ""
    simulated: bool = True
    remarks: Annotated[tuple[Annotated[str, Field(max_length=1000)], ...], Field(max_length=1000)] = ()
    rows: Annotated[tuple[Reading, ...], Field(max_length=1_000_000)]


class LogLine(Model):
    """A log in the index logs.json."""

    id: int
    name: Title


@dataclass(frozen=True)
class PackedLog:
    """One log as it goes into a file: its name, and its bytes piece by piece."""

    line: LogLine
    content: Iterable[bytes]


@dataclass(frozen=True)
class PackedPhoto:
    """One photograph as it goes into a file, or comes out of one."""

    line: PhotoLine
    picture: Picture


@dataclass(frozen=True)
class PackedPart:
    """One own part that came out of a file."""

    line: OwnPartLine
    body: InventoryModel


@dataclass(frozen=True)
class Packed:
    """A project and all that came with it. `history` is the oldest first."""

    project: Project
    photos: tuple[PackedPhoto, ...]
    history: tuple[tuple[datetime, Project], ...] = ()
    parts: tuple[PackedPart, ...] = ()
    runs: tuple[RunLine, ...] = ()
    logs: tuple[PackedLog, ...] = ()


@dataclass(frozen=True)
class Extras:
    """What goes along on wish. `history` is the newest first: (when, the document as JSON)."""

    history: Iterable[tuple[datetime, str]] = ()
    parts: Sequence[OwnPartLine] = ()
    runs: Iterable[RunLine] = field(default_factory=tuple)
    logs: Iterable[PackedLog] = ()


L = TypeVar("L", bound=Model)
_LINES = TypeAdapter(list[PhotoLine])
_PARTS = TypeAdapter(list[OwnPartLine])
_LOG_LINES = TypeAdapter(list[LogLine])


# Writing ---------------------------------------------------------------------------------------------------------


def dumps(project: Project, photos: Iterable[tuple[PhotoLine, bytes]], extras: Extras = Extras()) -> bytes:
    """Write the zip; `photos` are index lines with their JPEGs, which are stored as they are."""
    out = io.BytesIO()
    lines = []
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(PROJECT, project_json.dumps(project))
        for line, jpeg in photos:
            lines.append(line.model_dump(mode="json"))
            packed.writestr(_name(line), jpeg, zipfile.ZIP_STORED)
        packed.writestr(INDEX, json.dumps(lines, indent=2, ensure_ascii=False) + "\n")
        _write_lines(packed, HISTORY, _history_lines(extras.history), LARGEST_HISTORY)
        _write_lines(packed, RUNS, (run.model_dump_json() for run in extras.runs), LARGEST_RUNS)
        _write_logs(packed, extras.logs)
        if extras.parts:
            parts = [part.model_dump(mode="json") for part in extras.parts]
            packed.writestr(PARTS, json.dumps(parts, indent=2, ensure_ascii=False) + "\n")
    return out.getvalue()


def _write_logs(packed: zipfile.ZipFile, logs: Iterable[PackedLog]) -> None:
    lines = []
    for log in logs:
        lines.append(log.line.model_dump(mode="json"))
        with packed.open(_log_name(log.line), "w", force_zip64=True) as member:
            for piece in log.content:
                member.write(piece)
    if lines:
        packed.writestr(LOGS, json.dumps(lines, indent=2, ensure_ascii=False) + "\n")


def _log_name(line: LogLine) -> str:
    return f"logs/{line.id}.csv"


def _history_lines(history: Iterable[tuple[datetime, str]]) -> Iterator[str]:
    for made_at, body in history:
        try:
            yield json.dumps({"made_at": made_at.isoformat(), "document": json.loads(body)}, ensure_ascii=False)
        except ValueError:
            continue  # a state that was damaged is of no use elsewhere


def _write_lines(packed: zipfile.ZipFile, name: str, lines: Iterable[str], largest: int) -> None:
    """No more of them than are taken in again."""
    written = bytearray()
    for number, line in enumerate(lines):
        data = f"{line}\n".encode()
        if len(written) + len(data) > largest or number >= MOST_STATES:
            break
        written += data
    if written:
        packed.writestr(name, bytes(written))


# Reading ---------------------------------------------------------------------------------------------------------


def loads(data: bytes) -> Packed:
    """Read the zip from memory. Raises UnreadableProject, UnreadablePhotograph."""
    return load(io.BytesIO(data), len(data))


def load(file: IO[bytes], size: int) -> Packed:
    """Read the zip from an open file; every picture is checked. Raises UnreadableProject, UnreadablePhotograph."""
    if size > LARGEST_BYTES:
        raise _unreadable(say("the file is over {most} MB", most=LARGEST_BYTES // 1000000))
    try:
        with zipfile.ZipFile(file) as packed:
            return _unpacked(packed)
    except (zipfile.BadZipFile, NotImplementedError, EOFError, OSError, zlib.error, RuntimeError, ValueError) as error:
        if isinstance(error, UnreadableProject | photograph.UnreadablePhotograph):
            raise
        raise _unreadable(say("the zip is damaged, or locked with a password")) from None


def _unpacked(packed: zipfile.ZipFile) -> Packed:
    project = project_json.loads(_member(packed, PROJECT, project_json.LARGEST_BYTES))
    lines = _index(_member(packed, INDEX, project_json.LARGEST_BYTES))
    names = set(packed.namelist())
    return Packed(
        project,
        tuple(PackedPhoto(line, _picture(packed, line)) for line in lines),
        tuple(_history(packed)) if HISTORY in names else (),
        tuple(_parts(packed)) if PARTS in names else (),
        tuple(_runs(packed)) if RUNS in names else (),
        tuple(_logs(packed)) if LOGS in names else (),
    )


def _history(packed: zipfile.ZipFile) -> list[tuple[datetime, Project]]:
    states = []
    for text in _lines_of(packed, HISTORY, LARGEST_HISTORY, MOST_STATES):
        line = _line(HistoryLine, text, HISTORY)
        states.append((line.made_at, project_json.read(line.document)))
    return states[::-1]


def _runs(packed: zipfile.ZipFile) -> Iterator[RunLine]:
    for text in _lines_of(packed, RUNS, LARGEST_RUNS, MOST_RUNS):
        yield _line(RunLine, text, RUNS)


def _logs(packed: zipfile.ZipFile) -> Iterator[PackedLog]:
    """Read through at once, since the zip is closed afterwards, and held compressed meanwhile."""
    try:
        lines = _LOG_LINES.validate_json(_member(packed, LOGS, LARGEST_PARTS))
    except ValidationError:
        raise _unreadable(say("{logs} is not the list of logs that it should be", logs=LOGS)) from None
    if len(lines) > MOST_LOGS:
        raise _unreadable(
            say(
                "{count} logs in one file: {most_logs} are the most that are taken",
                count=len(lines),
                most_logs=MOST_LOGS,
            )
        )
    left = LARGEST_LOGS
    for line in lines:
        pieces = []
        try:
            with packed.open(_log_name(line)) as member:
                while piece := member.read(PIECE_BYTES):
                    left -= len(piece)
                    if left < 0:
                        raise _unreadable(say("its logs are over {most} MB", most=LARGEST_LOGS // 1000000))
                    pieces.append(zlib.compress(piece, 1))
        except KeyError:
            raise _unreadable(say("there is no {log_name} in the zip", log_name=_log_name(line))) from None
        yield PackedLog(line, _Compressed(tuple(pieces)))


@dataclass(frozen=True)
class _Compressed:
    """Bytes in compressed pieces, read as they were."""

    pieces: tuple[bytes, ...]

    def __iter__(self) -> Iterator[bytes]:
        return map(zlib.decompress, self.pieces)


def _parts(packed: zipfile.ZipFile) -> Iterator[PackedPart]:
    try:
        lines = _PARTS.validate_json(_member(packed, PARTS, LARGEST_PARTS))
        if len(lines) > MOST_PARTS:
            raise _unreadable(
                say(
                    "{count} parts in one file: {most_parts} are the most that are taken",
                    count=len(lines),
                    most_parts=MOST_PARTS,
                )
            )
        for line in lines:
            body: InventoryModel = INVENTORY_MODELS[line.kind].model_validate(line.body)
            yield PackedPart(line, body)
    except ValidationError:
        raise _unreadable(say("{parts} is not the list of own parts that it should be", parts=PARTS)) from None


def _lines_of(packed: zipfile.ZipFile, name: str, largest: int, most: int) -> list[bytes]:
    lines = _member(packed, name, largest).splitlines()
    if len(lines) > most:
        raise _unreadable(
            say(
                "{name} has {count} lines: {most} are the most that are taken",
                name=str(name),
                count=len(lines),
                most=most,
            )
        )
    return lines


def _line(kind: type[L], text: bytes, name: str) -> L:
    try:
        return kind.model_validate_json(text)
    except ValidationError:
        raise _unreadable(say("a line of {name} is not what it should be", name=str(name))) from None


def _index(text: bytes) -> Sequence[PhotoLine]:
    try:
        lines = _LINES.validate_json(text)
    except ValidationError:
        raise _unreadable(say("{index} is not the list of photographs that it should be", index=INDEX)) from None
    if len(lines) > MOST_PHOTOS:
        raise _unreadable(
            say(
                "{count} photographs in one file: {most_photos} are the most that are kept",
                count=len(lines),
                most_photos=MOST_PHOTOS,
            )
        )
    if len({line.id for line in lines}) < len(lines):
        raise _unreadable(say("two photographs of {index} have the same id", index=INDEX))
    return lines


def _picture(packed: zipfile.ZipFile, line: PhotoLine) -> Picture:
    return photograph.read_picture(_member(packed, _name(line), photograph.LARGEST_BYTES))


def _member(packed: zipfile.ZipFile, name: str, largest: int) -> bytes:
    """One file of the zip, by its size as it unpacks: a small zip may hold a large nothing."""
    try:
        if packed.getinfo(name).file_size > largest:
            raise _unreadable(say("{name} is over {most} MB", name=str(name), most=largest // 1000000))
        with packed.open(name) as member:
            content = member.read(largest + 1)
    except KeyError:
        raise _unreadable(say("there is no {name} in the zip", name=str(name))) from None
    if len(content) > largest:
        raise _unreadable(say("{name} is larger than the zip says", name=str(name)))
    return content


def _name(line: PhotoLine) -> str:
    return f"photographs/{line.id}.jpg"


def _unreadable(why: Message) -> UnreadableProject:
    return UnreadableProject([Refusal("", str(why))])
