"""Whose build a plan follows: what its author read at each checkpoint, and what went wrong there."""

from typing import Annotated

from pydantic import Field, StringConstraints

from pocketspark.core.models.model import Model, Plain
from pocketspark.core.models.plain_text import ON_LINES, ON_ONE_LINE
from pocketspark.core.models.record import Moment

Author = Annotated[str, StringConstraints(strip_whitespace=True, max_length=80), ON_ONE_LINE]


class TheirReading(Model):
    """What the author read at a checkpoint, in that checkpoint's base unit."""

    step: Annotated[str, Field(max_length=40), ON_ONE_LINE]
    value: float


class RecipeOrigin(Model):
    """The recipe that a plan came from. `author`: empty where nobody is named; `signed_by`: the fingerprint of a key.

    `unchanged`: it came as its author wrote it, by its content hash.
    """

    author: Author = ""
    made_at: Moment | None = None
    digest: Annotated[str, Field(max_length=64), ON_ONE_LINE] = ""
    signed_by: Annotated[str, Field(max_length=32), ON_ONE_LINE] = ""
    unchanged: bool = True
    proven: bool = False
    bench_hours: Plain | None = None
    readings: Annotated[tuple[TheirReading, ...], Field(max_length=60)] = ()
    went_wrong: Annotated[
        tuple[Annotated[str, StringConstraints(max_length=1000), ON_LINES], ...], Field(max_length=60)
    ] = ()
