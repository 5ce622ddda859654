"""Cells in parallel: which of a maker's own go together, what flows as they join, and what spoils a match.

Limits are common practice, no source.
"""

from collections.abc import Sequence

from pocketspark.core.cells.grading import grade, resistance_from_loads
from pocketspark.core.message import Message, say
from pocketspark.core.models import Cell
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import amp_hours, amps, millivolts, percent, volts

WITHIN_CAPACITY = 0.10
WITHIN_V = 0.050


class Match(Model):
    """Two cells side by side. `spoilers` empty: they go together."""

    first: int
    second: int
    spoilers: tuple[Message, ...]
    joining_a: float | None  # current at the moment of joining, from the larger resting voltage into the smaller
    joined: Message


def matches(cells: Sequence[Cell]) -> list[Match]:
    """Every pair of these cells, the ones that go together first, closest capacities first."""
    pairs = [(i, j) for i in range(len(cells)) for j in range(i + 1, len(cells))]
    found = [(_match(cells[i], cells[j], i, j), _apart(cells[i], cells[j])) for i, j in pairs]
    return [match for match, _ in sorted(found, key=lambda f: (len(f[0].spoilers), f[1]))]


def _apart(first: Cell, second: Cell) -> float:
    a, b = first.planning_capacity_ah, second.planning_capacity_ah
    return abs(a - b) / max(a, b)


def _match(first: Cell, second: Cell, i: int, j: int) -> Match:
    joining = joining_a(first, second)
    total = amp_hours(first.planning_capacity_ah + second.planning_capacity_ah)
    words = (
        say("{total} together", total=total)
        if joining is None
        else say("{total} together; {joining} flows when they are joined", total=total, joining=amps(joining))
    )
    return Match(first=i, second=j, spoilers=tuple(_spoilers(first, second)), joining_a=joining, joined=words)


def joining_a(first: Cell, second: Cell) -> float | None:
    """dV / (R1 + R2), A; None where a resting voltage is not known."""
    rest = [cell.intake.rest_v if cell.intake else None for cell in (first, second)]
    if rest[0] is None or rest[1] is None:
        return None
    return abs(rest[0] - rest[1]) / (_ohm(first) + _ohm(second))


def _ohm(cell: Cell) -> float:
    measured = resistance_from_loads(cell.intake) if cell.intake else None
    return measured if measured and measured > 0 else cell.resistance_ohm


def _spoilers(first: Cell, second: Cell) -> list[Message]:
    spoilers = []
    for cell in (first, second):
        if (word := grade(cell).word) in ("recycle", "watch"):
            spoilers.append(say("{cell}: {word}", cell=cell.name, word=word))
    if first.cell_class != second.cell_class:
        spoilers.append(say("{facts} beside {facts_2}", facts=first.facts.label, facts_2=second.facts.label))
    if (apart := _apart(first, second)) > WITHIN_CAPACITY + 1e-9:
        spoilers.append(
            say(
                "capacities differ by {apart}, over {within_capacity}",
                apart=percent(apart),
                within_capacity=percent(WITHIN_CAPACITY),
            )
        )
    if first.form != second.form or first.size_mm != second.size_mm:
        spoilers.append(say("not the same type: form or size differs"))
    if first.origin == "salvaged" and any(cell.measured_capacity_ah is None for cell in (first, second)):
        spoilers.append(say("capacity not measured yet"))
    rest = [cell.intake.rest_v for cell in (first, second) if cell.intake and cell.intake.rest_v is not None]
    if len(rest) == 2 and (gap := abs(rest[0] - rest[1])) > WITHIN_V + 1e-9:
        spoilers.append(
            say(
                "resting voltages differ by {gap}: bring them within {within} of each other first",
                gap=volts(gap),
                within=millivolts(WITHIN_V),
            )
        )
    return spoilers
