"""Reading a document that is still being typed: what is sound is read, what is refused is named and left out."""

import copy
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from pocketspark.core.models import paths
from pocketspark.core.models.project import Project
from pocketspark.core.models.upgrade import upgraded
from pocketspark.core.refusal import Refusal, refusals

# A document with more faults than this is no slip of the pen.
MOST_ROUNDS = 40


@dataclass(frozen=True)
class ReadDocument:
    """The sound part of a document, and every place of it that was refused, rows named by their ids."""

    project: Project
    refused: tuple[Refusal, ...]


def read_leniently(document: Mapping[str, Any], stored: Project | None = None) -> ReadDocument:
    """Read what can be read.

    A refused place counts as it was last stored; where nothing was, as not filled in, or its row as not there.
    Raises UnknownFormat, and ValidationError where nothing sound remains.
    """
    draft = copy.deepcopy(upgraded(document))
    fallback = None if stored is None else stored.model_dump(mode="json")
    refused: dict[str, Refusal] = {}
    first: ValidationError | None = None
    for _ in range(MOST_ROUNDS):
        try:
            return ReadDocument(Project.model_validate(draft), tuple(refused.values()))
        except ValidationError as error:
            first = first or error
            if not _left_out(draft, fallback, refusals(error), refused):
                raise first from None
    return ReadDocument(Project.model_validate(draft), tuple(refused.values()))


def _left_out(
    draft: dict[str, Any], fallback: dict[str, Any] | None, found: list[Refusal], refused: dict[str, Refusal]
) -> bool:
    """Take each refused place out of the draft. False where none could be: it would go on for ever."""
    places = [(paths.canonical(draft, refusal.field), refusal.sentence) for refusal in found if refusal.field]
    progress = False
    for place, sentence in places:
        named = Refusal(place, sentence)
        if place not in refused:
            refused[place] = named
            progress |= _restore(draft, fallback, _whole(place))
        else:
            # What was stored is refused too, or what remained is: then it goes, and after that what holds it.
            progress |= _remove(draft, _whole(place)) or _remove_holder(draft, place)
    return progress


def _whole(path: str) -> str:
    """What is put back together: of a measured triple ("size_mm.1") all its figures, else the place itself."""
    holder, _, last = path.rpartition(".")
    return holder if holder.endswith("_mm") and last.isdigit() else path


def _restore(draft: dict[str, Any], fallback: dict[str, Any] | None, place: str) -> bool:
    """The place as it was last stored, else not filled in."""
    if fallback is None or paths.value_at(fallback, place.rpartition(".")[0] or place) is None:
        return _remove(draft, place) or _remove_holder(draft, place)
    holder, key = _holder(draft, place)
    if holder is None:
        return False
    value = copy.deepcopy(paths.value_at(fallback, place))
    if isinstance(holder, list):
        number = paths.row_number(holder, key)
        if number is None:
            return False
        if value is None:
            del holder[number]
        else:
            holder[number] = value
    else:
        holder[key] = value
    return True


def _remove(draft: dict[str, Any], place: str) -> bool:
    holder, key = _holder(draft, place)
    if isinstance(holder, list):
        number = paths.row_number(holder, key)
        if number is None:
            return False
        del holder[number]
        return True
    if isinstance(holder, dict) and key in holder:
        del holder[key]
        return True
    return False


def _remove_holder(draft: dict[str, Any], place: str) -> bool:
    """What cannot stand without this place: the row or group that holds it."""
    holder = place.rpartition(".")[0]
    return bool(holder) and (_remove(draft, holder) or _remove_holder(draft, holder))


def _holder(draft: dict[str, Any], place: str) -> tuple[Any, str]:
    holder, _, key = place.rpartition(".")
    return (paths.value_at(draft, holder) if holder else draft), key
