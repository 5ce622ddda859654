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

# A document with more faults than this, or one that is still not sound after so many rounds, is no slip of the pen.
MOST_FAULTS, MOST_ROUNDS = 300, 60


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
    draft = _Draft(copy.deepcopy(upgraded(document)), None if stored is None else stored.model_dump(mode="json"))
    refused: dict[str, Refusal] = {}
    first: ValidationError | None = None
    for _ in range(MOST_ROUNDS):
        try:
            return ReadDocument(Project.model_validate(draft.document), tuple(refused.values()))
        except ValidationError as error:
            first = first or error
            if error.error_count() > MOST_FAULTS:
                break
            found = [
                Refusal(paths.canonical(draft.document, refusal.field), refusal.sentence)
                for refusal in refusals(error)
                if refusal.field
            ]
            refused = {refusal.field: refusal for refusal in found} | refused
            if not draft.leave_out([refusal.field for refusal in found]):
                break
    assert first is not None
    raise first


class _Draft:
    """A document that is made sound, place by place."""

    def __init__(self, document: dict[str, Any], stored: dict[str, Any] | None) -> None:
        self.document = document
        self.stored = stored
        self._tried: set[str] = set()

    def leave_out(self, places: list[str]) -> bool:
        """Take these places out. False where none could be: it would go on for ever.

        Rows move up where one goes, and places named by number with them: so the last rows come first, and what else
        is said of a row that went is passed over.
        """
        done, gone = False, ""
        wholes = sorted({_whole(place) for place in places}, key=_last_rows_first)
        held = {whole for whole in wholes if self._holder(whole) is not None}
        for whole in wholes:
            if gone and f"{whole}.".startswith(gone):
                continue
            if whole in held and self._holder(whole) is None:
                continue  # what held it went with another of its places: nothing above that is to go as well
            rows_before = self._rows_above(whole)
            done |= self._leave_out(whole)
            rows = self._rows_above(whole)
            fewer = (depth for depth, count in rows_before.items() if rows.get(depth) != count)
            depth = next(fewer, None)
            gone = "" if depth is None else ".".join(whole.split(".")[: depth + 1]) + "."
        return done

    def _leave_out(self, place: str) -> bool:
        if place in self._tried:
            # What was stored is refused too, or what remained is: then it goes, and after that what holds it.
            return self._remove(place) or self._remove_holder(place)
        self._tried.add(place)
        return self._restore(place) or self._remove(place) or self._remove_holder(place)

    def _restore(self, place: str) -> bool:
        """The place as it was last stored."""
        holder_path, _, key = place.rpartition(".")
        was = paths.value_at(self.stored, holder_path) if holder_path else self.stored
        holder = self._holder(place)
        value = copy.deepcopy(paths.value_at(self.stored, place))
        if was is None or holder is None or value is None:
            return False
        if isinstance(holder, list):
            number = paths.row_number(holder, key)
            if number is None:
                return False
            holder[number] = value
        else:
            holder[key] = value
        return True

    def _remove(self, place: str) -> bool:
        holder, key = self._holder(place), place.rpartition(".")[2]
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

    def _remove_holder(self, place: str) -> bool:
        """What cannot stand without this place: the row or group that holds it."""
        holder = place.rpartition(".")[0]
        return bool(holder) and (self._remove(holder) or self._remove_holder(holder))

    def _holder(self, place: str) -> Any:
        holder = place.rpartition(".")[0]
        return paths.value_at(self.document, holder) if holder else self.document

    def _rows_above(self, place: str) -> dict[int, int]:
        """How many rows each list on the way to this place has, by how many steps lead to it."""
        steps = place.split(".")
        above = {n: paths.value_at(self.document, ".".join(steps[:n])) for n in range(1, len(steps) + 1)}
        return {n: len(branch) for n, branch in above.items() if isinstance(branch, list)}


def _last_rows_first(place: str) -> tuple[tuple[int, str], ...]:
    """Of rows that are named by number; what is named otherwise in the order of its names."""
    return tuple((-int(step), "") if step.isdecimal() else (1, step) for step in place.split("."))


def _whole(path: str) -> str:
    """What is put back together: of a measured triple ("size_mm.1") all its figures, else the place itself."""
    holder, _, last = path.rpartition(".")
    return holder if holder.endswith("_mm") and last.isdigit() else path
