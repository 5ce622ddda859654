"""What has been done: steps with their readings, and the logbook."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from pocketspark.core.nouns.noun import Noun
from pocketspark.core.quantity import Quantity

Moment = Annotated[str, StringConstraints(pattern=r"^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2})?Z?)?$")]
Reading = Annotated[float, Quantity("", -1000, 1e7)]
EntryKind = Literal["measurement", "note", "fault", "remedy", "change"]

ENTRY_KINDS: dict[EntryKind, str] = {
    "measurement": "Measurement",
    "note": "Note",
    "fault": "Fault",
    "remedy": "Remedy",
    "change": "Change of plan",
}


class StepRecord(Noun):
    """One step as it was done. `override`: why a hold was passed though its reading lay outside the limits."""

    step: Annotated[str, Field(max_length=40)]
    done: bool = False
    value: Reading | None = None
    override: Annotated[str, Field(max_length=300)] = ""
    at: Moment | None = None


class Entry(Noun):
    """One line of the logbook."""

    at: Moment
    kind: EntryKind = "note"
    station: Annotated[str, Field(max_length=20)] = ""
    text: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=1000)]
