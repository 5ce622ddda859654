"""A cell's history: what changed between two states of its record, as dated lines."""

from pocketspark.core.models import Cell
from pocketspark.core.models.intake import CellEvent, Intake
from pocketspark.core.units.figures import amp_hours, millimetres, ohms, volts

# Of the oldest lines, no more are kept than the record may hold.
LONGEST = 200


def with_changes_noted(before: Cell, after: Cell, day: str) -> Cell:
    """`after`, with one line for every reading that is new or other than `before`. `day`: YYYY-MM-DD."""
    fresh = [CellEvent(day=day, text=text) for text in _changes(before, after)]
    if not fresh:
        return after
    intake = after.intake or Intake()
    history = (*intake.history, *fresh)[-LONGEST:]
    return after.model_copy(update={"intake": intake.model_copy(update={"history": history})})


def _changes(before: Cell, after: Cell) -> list[str]:
    old, new = _readings(before), _readings(after)
    lines = []
    for what, now in new.items():
        was = old.get(what)
        if now != was:
            lines.append(f"{what} {now}" if was is None else f"{what} {now}, was {was}")
    return lines


def _readings(cell: Cell) -> dict[str, str]:
    """Every reading that is known, in words."""
    intake = cell.intake or Intake()
    loads = "; ".join(f"{volts(load.volts)} at {load.current_a * 1000:.0f} mA" for load in intake.loads)
    known = {
        "capacity": cell.measured_capacity_ah and amp_hours(cell.measured_capacity_ah),
        "resistance": cell.r_ohm and ohms(cell.r_ohm),
        "at rest": intake.rest_v and volts(intake.rest_v),
        "thickness": intake.thickness_mm and millimetres(intake.thickness_mm),
        "lost in a day": None if intake.drop_24h_v is None else f"{intake.drop_24h_v * 1000:.0f} mV",
        "under load": loads,
        "damage": ", ".join(intake.damage),
    }
    return {what: text for what, text in known.items() if text}
