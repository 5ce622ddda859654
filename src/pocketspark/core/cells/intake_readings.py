"""What a meter shows of a cell that came in, put where triage looks for it, with day and origin in its history."""

from collections.abc import Mapping
from typing import Literal

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.models import Project
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.project import Edit
from pocketspark.core.models.record import ORIGINS, Moment, Origin
from pocketspark.core.units.figures import engineering, read_volts
from pocketspark.core.units.reading import METRIC

IntakeReading = Literal["rest", "light_load", "heavy_load", "day"]
INTAKE_READINGS: Mapping[IntakeReading, str] = {
    "rest": "at rest",
    "light_load": "under the light load",
    "heavy_load": "under the heavy load",
    "day": "a day after it was read at rest",
}
_LOADS: Mapping[IntakeReading, int] = {"light_load": 0, "heavy_load": 1}


class NotInThisOrder(PocketSparkError, ValueError):
    """The reading needs another one first, or more than the meter shows."""

    status = 409


def intake_edits(
    project: Project,
    build: int,
    what: IntakeReading,
    volts: float | None,
    current_a: float | None,
    *,
    origin: Origin,
    at: Moment,
) -> tuple[Edit, ...]:
    """Edits that put a reading of this build's cell into its intake. Raises NotInThisOrder."""
    cell = project.builds[build].cell
    if cell is None:
        raise NotInThisOrder(say("choose a cell first"))
    if volts is None:
        raise NotInThisOrder(say("this meter shows no volts"))
    path = f"builds.{project.builds[build].id}.cell.intake"
    intake = cell.intake or Intake()
    changed = intake.model_dump(mode="json") | _read(intake, what, volts, current_a)
    flowing = say(" at {current_a}", current_a=engineering(current_a, "A", 4)) if what in _LOADS and current_a else ""
    text = say(
        "{volts}{flowing} {intake_readings}, {origins}",
        volts=read_volts(volts),
        flowing=flowing,
        intake_readings=INTAKE_READINGS[what],
        origins=ORIGINS[origin],
    )
    event = {"day": at[:10], "text": text.text(METRIC)}
    changed["history"] = [*changed["history"], event]
    return (Edit(path=path, value=changed),)


def _read(intake: Intake, what: IntakeReading, volts: float, current_a: float | None) -> dict[str, object]:
    if what == "rest":
        return {"rest_v": volts}
    if what == "day":
        if intake.rest_v is None:
            raise NotInThisOrder(say("read it at rest first: the drop is counted from there"))
        return {"drop_24h_v": max(intake.rest_v - volts, 0.0)}
    if current_a is None:
        raise NotInThisOrder(say("a reading under load needs amps as well: let this meter give both"))
    loads = [load.model_dump(mode="json") for load in intake.loads]
    place = _LOADS[what]
    if place > len(loads):
        raise NotInThisOrder(say("read it under the light load first"))
    loads[place : place + 1] = [{"current_a": abs(current_a), "volts": volts}]
    return {"loads": loads}
