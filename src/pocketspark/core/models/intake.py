"""What was seen and measured when a used cell came in, and what has happened to it since."""

from typing import Annotated, Literal

from pydantic import Field

from pocketspark.core.models.model import Amps, Millimetres, Model, Plain, Title, Volts, written_like

Damage = Literal["dent", "puncture", "smell", "electrolyte", "swelling"]

Day = Annotated[str, written_like(r"\d{4}-\d{2}-\d{2}", "a day is written like 2026-11-25")]


class LoadReading(Model):
    """Volts at the cell's own tabs under one load."""

    current_a: Amps
    volts: Volts


class CellEvent(Model):
    """One line of a cell's history."""

    day: Day
    text: Title


class Intake(Model):
    """Everything a triage needs. None: not done yet."""

    found_in: Title | None = None
    rest_v: Volts | None = None
    thickness_mm: Millimetres | None = None
    damage: Annotated[tuple[Damage, ...], Field(max_length=10)] = ()
    cycles: Plain | None = None  # full charges it is known to have had, noted or counted since
    drop_24h_v: Volts | None = None  # over the 24 h that follow the first hour after a full charge
    loads: Annotated[tuple[LoadReading, ...], Field(max_length=2)] = ()
    history: Annotated[tuple[CellEvent, ...], Field(max_length=200)] = ()
