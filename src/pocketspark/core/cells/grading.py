"""Taking in a used cell: what each reading says of it, the grade that follows, and what to do next.

Figures of the triage are common practice, no source.
"""

from collections.abc import Iterator

from pocketspark.core.finding import GRAVITY, Judgement, Level
from pocketspark.core.limits import DROP_GOOD_V, DROP_WATCH_V
from pocketspark.core.models import Cell
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.model import Model
from pocketspark.core.units.figures import ShownOhms, ShownShare, amps, fixed, hours, millimetres, ohms, percent, volts

DEAD_V, PRECHARGE_V, START_V = 2.0, 2.5, 3.0
OVER_CHARGED_V = 0.05  # above the class's full voltage
PRECHARGE_C, PRECHARGE_H = 0.1, 0.5
SWOLLEN = 1.15  # thickness over its code
CAPACITY_GOOD, CAPACITY_USABLE = 0.8, 0.6
RESISTANCE_HIGH = 2.0

NO_REVIVAL = (
    "Some bring such a cell back by putting it on a charger. It often seems to work, and is the classic cause of a "
    "later fire: at so low a voltage copper goes into solution and grows back as a short."
)


class Grade(Model):
    """Where a cell stands: its judgements, gravest first, one word for the box it goes into, and the next step."""

    word: str  # new, untested, good, usable, watch, recycle
    level: Level
    judgements: tuple[Judgement, ...]
    next_step: str
    r_ohm: ShownOhms | None  # from the two loads
    capacity_share: ShownShare | None  # measured over label


def resistance_from_loads(intake: Intake) -> float | None:
    """R = (V1 - V2) / (I2 - I1), ohm. None without two different loads."""
    if len(intake.loads) != 2:
        return None
    first, second = intake.loads
    if abs(second.current_a - first.current_a) < 1e-6:
        return None
    return (first.volts - second.volts) / (second.current_a - first.current_a)


def grade(cell: Cell) -> Grade:
    """Judge a cell by its intake record. A new cell without one is taken as new."""
    intake = cell.intake or Intake()
    judgements = sorted(_judgements(cell, intake), key=lambda judgement: -GRAVITY[judgement.level])
    level = judgements[0].level if judgements else "pass"
    r_ohm = resistance_from_loads(intake)
    return Grade(
        word=_word(cell, intake, level),
        level=level,
        judgements=tuple(judgements),
        next_step=_next_step(cell, intake, level),
        r_ohm=r_ohm,
        capacity_share=_capacity_share(cell),
    )


def _judgements(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    yield from _damage(intake)
    yield from _thickness(cell, intake)
    yield from _rest_voltage(cell, intake)
    yield from _drop(intake)
    yield from _capacity(cell)
    yield from _resistance(cell, intake)


def _damage(intake: Intake) -> Iterator[Judgement]:
    if intake.damage:
        yield Judgement(
            level="stop",
            headline=f"It is damaged ({', '.join(intake.damage)}): out of the house, to the recycling point.",
        )


def _thickness(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    if intake.thickness_mm is None or cell.size_mm is None or cell.form == "round":
        return
    share = intake.thickness_mm / cell.size_mm[0]
    working = f"{millimetres(intake.thickness_mm)} over a nominal {millimetres(cell.size_mm[0])}"
    if share >= SWOLLEN - 1e-9:
        headline = f"It is {percent(share - 1)} thicker than its code says: it is at its end."
        yield Judgement(level="stop", headline=headline, working=working)
    elif share > 1.05:
        yield Judgement(
            level="note", headline=f"It is {percent(share - 1)} thicker than its code says.", working=working
        )
    else:
        yield Judgement(level="pass", headline=f"It is {millimetres(intake.thickness_mm)} thick, as its code says.")


def _rest_voltage(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    if intake.rest_v is None:
        return
    rest_v, full_v = intake.rest_v, cell.facts.full_v
    if rest_v < DEAD_V:
        yield Judgement(
            level="stop",
            headline=f"It rests at {volts(rest_v)}, too low ever to be safe again: recycle it.",
            figure=volts(rest_v),
            working=NO_REVIVAL,
        )
    elif rest_v < PRECHARGE_V:
        current = amps(cell.capacity_ah * PRECHARGE_C)
        yield Judgement(
            level="caution",
            headline=f"It rests at {volts(rest_v)}: one watched pre-charge, or recycle it.",
            figure=volts(rest_v),
            working=f"At most {current} (C/10), at most {hours(PRECHARGE_H)}, to reach {volts(START_V)}; then the "
            "whole test. If it does not get there, recycle it.",
        )
    elif rest_v > full_v + OVER_CHARGED_V:
        yield Judgement(
            level="stop",
            headline=f"It rests at {volts(rest_v)}: it has been over-charged, recycle it.",
            figure=volts(rest_v),
        )
    else:
        yield Judgement(
            level="pass", headline=f"It rests at {volts(rest_v)}: go on with the test.", figure=volts(rest_v)
        )


def _drop(intake: Intake) -> Iterator[Judgement]:
    if intake.drop_24h_v is None:
        return
    drop = f"{intake.drop_24h_v * 1000:.0f} mV"
    working = "24 h after the first hour of rest that follows a full charge; that first hour is relaxation"
    if intake.drop_24h_v > DROP_WATCH_V:
        headline = f"It loses {drop} in a day: it discharges itself, recycle it."
        yield Judgement(level="stop", headline=headline, working=working)
    elif intake.drop_24h_v > DROP_GOOD_V:
        yield Judgement(
            level="caution", headline=f"It loses {drop} in a day: watch it, measure again.", working=working
        )
    else:
        yield Judgement(level="pass", headline=f"It loses {drop} in a day: that is good.", working=working)


def _capacity_share(cell: Cell) -> float | None:
    return None if cell.measured_capacity_ah is None else cell.measured_capacity_ah / cell.capacity_ah


def _capacity(cell: Cell) -> Iterator[Judgement]:
    share = _capacity_share(cell)
    if share is None:
        return
    working = f"{percent(CAPACITY_GOOD)} and more is good, under {percent(CAPACITY_USABLE)} is spent"
    if share < CAPACITY_USABLE:
        yield Judgement(
            level="stop", headline=f"{percent(share)} of its label is left: it is spent, recycle it.", working=working
        )
    elif share < CAPACITY_GOOD:
        yield Judgement(level="note", headline=f"{percent(share)} of its label is left: it is usable.", working=working)
    else:
        yield Judgement(level="pass", headline=f"{percent(share)} of its label is left: that is good.", working=working)


def _resistance(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    r_ohm = resistance_from_loads(intake)
    if r_ohm is None:
        return
    first, second = intake.loads
    working = (
        f"({volts(first.volts)} - {volts(second.volts)}) / ({amps(second.current_a)} - {amps(first.current_a)}); "
        f"a new cell of its size has about {ohms(cell.typical_ohm)}"
    )
    if r_ohm <= 0:
        yield Judgement(
            level="note",
            headline="The two readings do not belong together: with more current the volts rose.",
            working=working,
        )
    elif r_ohm > RESISTANCE_HIGH * cell.typical_ohm:
        headline = (
            f"Its {ohms(r_ohm)} is {r_ohm / cell.typical_ohm:.1f} times what a new one has: it will sag and warm."
        )
        yield Judgement(level="caution", headline=headline, working=working)
    else:
        yield Judgement(level="pass", headline=f"It has {ohms(r_ohm)}, by two loads.", working=working)


def _word(cell: Cell, intake: Intake, level: Level) -> str:
    if level == "stop":
        return "recycle"
    if cell.origin == "new" and cell.measured_capacity_ah is None and intake.rest_v is None:
        return "new"
    if level == "caution":
        return "watch"
    if cell.measured_capacity_ah is None or intake.drop_24h_v is None:
        return "untested"
    return "usable" if level == "note" else "good"


def _next_step(cell: Cell, intake: Intake, level: Level) -> str:
    """The next reading of the triage, in the order that keeps the bench safe."""
    rest_v, untouched = intake.rest_v, intake.rest_v is None and cell.measured_capacity_ah is None
    steps = (
        (level == "stop", "Tape its terminals, put it in sand or a metal box outside, take it to a recycling point."),
        (
            cell.origin == "new" and untouched,
            f"Measure its resting voltage as it comes: {fixed(3.6, 1)} to {fixed(3.9, 1)} V is how new ones travel.",
        ),
        (rest_v is None, "Look it over and smell it, then measure its resting voltage after minutes without load."),
        (
            rest_v is not None and rest_v < PRECHARGE_V,
            f"Pre-charge at {amps(cell.capacity_ah * PRECHARGE_C)} or less, watched, for 30 min at most.",
        ),
        (
            intake.thickness_mm is None and cell.form != "round",
            "Calipers over the flat of it: 15 % more than its code says and it is at its end.",
        ),
        (
            cell.measured_capacity_ah is None,
            f"Charge it gently at {amps(cell.capacity_ah * 0.5)}, then discharge it on a tester to 3.0 V.",
        ),
        (len(intake.loads) < 2, "Two loads at its own tabs, some seconds each: the difference gives its resistance."),
        (intake.drop_24h_v is None, "Charge it full, let it rest an hour, note the volts, and again after 24 h."),
        (level == "caution", "Keep it apart and measure again."),
    )
    return next((step for due, step in steps if due), "Ready: charge to about 3.8 V for storing.")
