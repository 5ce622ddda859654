"""What has been done: steps with their readings, and the logbook."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from pocketspark.core.models.bay import Attempt
from pocketspark.core.models.model import (
    AmpHours,
    Amps,
    Celsius,
    Model,
    Ohms,
    ProgOhms,
    Row,
    RowNumber,
    Volts,
    named_rows,
    written_like,
)
from pocketspark.core.models.plain_text import ON_LINES, ON_ONE_LINE
from pocketspark.core.units.quantity import Quantity

Moment = Annotated[
    str, written_like(r"\d{4}-\d{2}-\d{2}(T\d{2}:\d{2}(:\d{2})?Z?)?", "a moment is written like 2026-11-25T18:30Z")
]
ShownVolts = Annotated[float, Quantity("V", -60, 60)]  # a meter may show minus
Minutes = Annotated[float, Quantity("", 0, 10_000)]
Span = Annotated[float, Quantity("", 0, 1e7)]  # hours or days of a prediction
Reading = Annotated[float, Quantity("", -1000, 1e7)]
# Where a reading comes from. What was kept before readings said so has an unknown origin.
Origin = Literal["typed", "log", "instrument", "simulated", "unknown"]
ORIGINS: dict[Origin, str] = {
    "typed": "typed in",
    "log": "from a log",
    "instrument": "from an instrument",
    "simulated": "simulated",
    "unknown": "origin unknown",
}
EntryKind = Literal["measurement", "note", "fault", "remedy", "change"]

ENTRY_KINDS: dict[EntryKind, str] = {
    "measurement": "Measurement",
    "note": "Note",
    "fault": "Fault",
    "remedy": "Remedy",
    "change": "Change of plan",
}


class StepRecord(Model):
    """One step as it was done. `override`: why a hold was passed though its reading lay outside the limits."""

    step: Annotated[str, Field(max_length=40), ON_ONE_LINE]
    done: bool = False
    value: Reading | None = None
    origin: Origin = "unknown"  # of the reading
    override: Annotated[str, Field(max_length=300), ON_ONE_LINE] = ""
    at: Moment | None = None
    photo_ids: Annotated[
        tuple[int, ...], Field(max_length=12)
    ] = ()  # of the list of projects, or of the zip it came in


class ChargeReading(Row):
    """What was read during the first charge, so many minutes after its start. None: not read."""

    minutes: Minutes
    origin: Origin = "unknown"
    volts: ShownVolts | None = None
    current_a: Amps | None = None
    celsius: Celsius | None = None


class ChargeWatch(Model):
    """The first charge as it was attended, and the hour of rest after it."""

    started_at: Moment | None = None
    readings: Annotated[tuple[ChargeReading, ...], named_rows("reading"), Field(max_length=200)] = ()
    ended_at: Moment | None = None
    full_v: Volts | None = None  # right after its end
    rested_v: Volts | None = None  # an hour later


class Prediction(Model):
    """The figures of one prediction. None: could not be told then."""

    gadget_current_a: Amps | None = None
    charge_current_a: Amps | None = None
    charge_hours: Span | None = None
    run_hours: Span | None = None
    heaviest_hours: Span | None = None  # in the heaviest mode in use, which is run down at the end
    days: Span | None = None
    capacity_ah: AmpHours | None = None
    r_ohm: Ohms | None = None


class FixedLimit(Model):
    """What one checkpoint's reading was to lie within."""

    step: Annotated[str, Field(max_length=40), ON_ONE_LINE]
    low: Reading | None = None
    high: Reading | None = None


class FixedPart(Model):
    """One part of the plan by its words, and a digest of it: another digest is another part."""

    part: Annotated[str, Field(max_length=40), ON_ONE_LINE]
    digest: Annotated[str, Field(max_length=64), ON_ONE_LINE]


class FixedPlan(Model):
    """The plan as it stood when the first cut was made: limits and predictions come from it for good.

    `most_v` to `longest_h`: what must not be passed in the first charge; None where nothing charges it here.
    """

    at: Moment
    limits: tuple[FixedLimit, ...] = Field((), max_length=60)
    prediction: Prediction = Prediction()
    most_v: Volts | None = None
    most_a: Amps | None = None
    most_c: Celsius | None = None
    longest_h: Span | None = None
    parts: tuple[FixedPart, ...] = Field((), max_length=12)
    # Readings of a first charge that passed a limit: they stay, whatever is struck out or watched again.
    passed: Annotated[tuple[ChargeReading, ...], named_rows("passed"), Field(max_length=200)] = ()


class PredictionRecord(Row):
    """What was predicted before a measurement was adopted, and which one it was."""

    at: Moment
    adopted: Annotated[str, Field(max_length=300), ON_ONE_LINE]
    before: Prediction


class Entry(Row):
    """One line of the logbook."""

    at: Moment
    kind: EntryKind = "note"
    station: Annotated[str, Field(max_length=20), ON_ONE_LINE] = ""
    photo_id: RowNumber | None = None  # of the list of projects, or of the zip it came in
    text: Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=1000), ON_LINES]


class Record(Model):
    """What was done to one build and measured on it. It is never copied into another plan."""

    # Why it is built though something stops it; what is forbidden cannot be unlocked.
    built_although: Annotated[str, StringConstraints(strip_whitespace=True, max_length=300), ON_ONE_LINE] = ""
    r_measured_ohm: ProgOhms | None = None  # charge-current resistor as read on the board; replaces the marking
    first_charge: ChargeWatch = ChargeWatch()
    charged_at: Moment | None = None  # when it was last charged full, of the charges after the first
    steps: tuple[StepRecord, ...] = Field((), max_length=60)
    fixed: FixedPlan | None = None  # when the first cut was made; None: not cut yet
    from_file_at: Moment | None = None  # when what had been done came here in a file; None: it was done here
    predictions: Annotated[tuple[PredictionRecord, ...], named_rows("prediction"), Field(max_length=60)] = ()
    soldered: Annotated[
        tuple[Annotated[str, Field(max_length=90), ON_ONE_LINE], ...], Field(max_length=60)
    ] = ()  # wires that are on, each as "one end to other end"
    attempts: Annotated[tuple[Attempt, ...], named_rows("attempt"), Field(max_length=100)] = ()
