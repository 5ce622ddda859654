"""A cell's history: what changed between two states of its record, as dated lines."""

from pocketspark.core.message import Value, row_of, say
from pocketspark.core.models import Cell
from pocketspark.core.models.intake import CellEvent, Intake
from pocketspark.core.units.figures import amp_hours, amps, millimetres, millivolts, ohms, plain, volts
from pocketspark.core.units.reading import METRIC

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
    """As lines of the document, which are the same for every reader."""
    old, new = _readings(before), _readings(after)
    lines = []
    for what, now in new.items():
        was = old.get(what)
        if now != was:
            line = (
                say("{what} {now}", what=what, now=now)
                if was is None
                else say("{what} {now}, was {was}", what=what, now=now, was=was)
            )
            lines.append(line.text(METRIC))
    return lines


def _readings(cell: Cell) -> dict[str, Value]:
    """Every reading that is known."""
    intake = cell.intake or Intake()
    loads = row_of(
        (say("{volts} at {current}", volts=volts(load.volts), current=amps(load.current_a)) for load in intake.loads),
        ";",
    )
    known = {
        "capacity": cell.measured_capacity_ah and amp_hours(cell.measured_capacity_ah),
        "resistance": cell.r_ohm and ohms(cell.r_ohm),
        "full charges": intake.cycles and plain(intake.cycles),
        "at rest": intake.rest_v and volts(intake.rest_v),
        "thickness": intake.thickness_mm and millimetres(intake.thickness_mm),
        "lost in a day": None if intake.drop_24h_v is None else millivolts(intake.drop_24h_v),
        "under load": loads,
        "damage": row_of(intake.damage),
    }
    return {what: reading for what, reading in known.items() if reading}
