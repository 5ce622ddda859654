"""A fit in small: the bay from above with its parts where they lie."""

from typing import Annotated

from pydantic import Field

from pocketspark.core.fit.answer import NOWHERE, FitAnswer
from pocketspark.core.models.model import Model

Place = Annotated[tuple[float, ...], Field(min_length=2, max_length=2)]


class PartOutline(Model):
    """One part seen from above, mm from the bay's left front corner."""

    kind: str
    min_mm: Place
    max_mm: Place


class BayPicture(Model):
    """The bay from above with its parts where they lie. `tube`: a round one, lying on its side."""

    size_mm: Place
    tube: bool
    parts: tuple[PartOutline, ...]


def picture_of(answer: FitAnswer | None) -> BayPicture | None:
    if answer is None:
        return None
    lying = answer.placements if answer.fits not in NOWHERE else ()
    parts = [PartOutline(kind=part.kind, min_mm=part.min_mm[:2], max_mm=part.max_mm[:2]) for part in lying]
    return BayPicture(size_mm=answer.size_mm[:2], tube=answer.tube_mm is not None, parts=tuple(parts))
