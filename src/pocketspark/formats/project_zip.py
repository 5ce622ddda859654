"""A conversion with its photographs in one zip: project.spark.json, photographs.json, and photographs/ID.jpg each."""

import io
import json
import zipfile
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from pydantic import TypeAdapter, ValidationError

from pocketspark.core.models import Project
from pocketspark.core.models.model import Model, Title
from pocketspark.core.photo import PhotoMarks, Picture
from pocketspark.core.refusal import Refusal
from pocketspark.formats import photograph, project_json
from pocketspark.formats.project_json import UnreadableProject

PROJECT, INDEX = "project.spark.json", "photographs.json"
MOST_PHOTOS = 60
# Sixty photographs as they are kept come to some 40 MB.
LARGEST_BYTES = 150_000_000
BEGINS_WITH = b"PK\x03\x04"


class PhotoLine(Model):
    """One photograph in the index. `id` is what steps and logbook call it by within the file."""

    id: int
    caption: Title
    marks: PhotoMarks = PhotoMarks()


@dataclass(frozen=True)
class PackedPhoto:
    """One photograph as it goes into a file, or comes out of one."""

    line: PhotoLine
    picture: Picture


@dataclass(frozen=True)
class Packed:
    """A project and its photographs."""

    project: Project
    photos: tuple[PackedPhoto, ...]


_LINES = TypeAdapter(list[PhotoLine])


def dumps(project: Project, photos: Iterable[tuple[PhotoLine, bytes]]) -> bytes:
    """Write the zip; `photos` are index lines with their JPEGs, which are stored as they are."""
    out = io.BytesIO()
    lines = []
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        packed.writestr(PROJECT, project_json.dumps(project))
        for line, jpeg in photos:
            lines.append(line.model_dump(mode="json"))
            packed.writestr(_name(line), jpeg, zipfile.ZIP_STORED)
        packed.writestr(INDEX, json.dumps(lines, indent=2, ensure_ascii=False) + "\n")
    return out.getvalue()


def loads(data: bytes) -> Packed:
    """Read the zip; every picture is checked and written anew. Raises UnreadableProject, UnreadablePhotograph."""
    if len(data) > LARGEST_BYTES:
        raise _unreadable(f"the file is over {LARGEST_BYTES // 1_000_000} MB")
    try:
        with zipfile.ZipFile(io.BytesIO(data)) as packed:
            project = project_json.loads(_member(packed, PROJECT, project_json.LARGEST_BYTES))
            lines = _index(_member(packed, INDEX, project_json.LARGEST_BYTES))
            photos = tuple(PackedPhoto(line, _picture(packed, line)) for line in lines)
    except (zipfile.BadZipFile, NotImplementedError, EOFError, OSError) as error:
        raise _unreadable(f"the zip is damaged: {error}") from None
    return Packed(project, photos)


def _index(text: bytes) -> Sequence[PhotoLine]:
    try:
        lines = _LINES.validate_json(text)
    except ValidationError:
        raise _unreadable(f"{INDEX} is not the list of photographs that it should be") from None
    if len(lines) > MOST_PHOTOS:
        raise _unreadable(f"{len(lines)} photographs in one file: {MOST_PHOTOS} are the most that are kept")
    if len({line.id for line in lines}) < len(lines):
        raise _unreadable(f"two photographs of {INDEX} have the same id")
    return lines


def _picture(packed: zipfile.ZipFile, line: PhotoLine) -> Picture:
    return photograph.read_picture(_member(packed, _name(line), photograph.LARGEST_BYTES))


def _member(packed: zipfile.ZipFile, name: str, largest: int) -> bytes:
    """One file of the zip, by its size as it unpacks: a small zip may hold a large nothing."""
    try:
        if packed.getinfo(name).file_size > largest:
            raise _unreadable(f"{name} is over {largest // 1_000_000} MB")
        with packed.open(name) as member:
            return member.read(largest + 1)
    except KeyError:
        raise _unreadable(f"there is no {name} in the zip") from None


def _name(line: PhotoLine) -> str:
    return f"photographs/{line.id}.jpg"


def _unreadable(sentence: str) -> UnreadableProject:
    return UnreadableProject([Refusal("", sentence)])
