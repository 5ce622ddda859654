"""Taking in a used cell: what each reading says of it, the grade that follows, and what to do next.

Figures of the triage are common practice, no source.
"""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.finding import GRAVITY, Judgement, Level
from pocketspark.core.limits import DROP_GOOD_V, DROP_WATCH_V
from pocketspark.core.message import NOTHING, Message, row_of, say
from pocketspark.core.models import Cell
from pocketspark.core.models.intake import Intake
from pocketspark.core.models.model import Model
from pocketspark.core.physics.ageing import MONTHS_A_YEAR, Stress, law_of, losses
from pocketspark.core.units.figures import (
    ShownOhms,
    ShownShare,
    amps,
    days,
    fixed,
    hours,
    millimetres,
    millivolts,
    ohms,
    percent,
    volts,
)

DEAD_V, PRECHARGE_V, START_V = 2.0, 2.5, 3.0
OVER_CHARGED_V = 0.05  # above the class's full voltage
PRECHARGE_C, PRECHARGE_H = 0.1, 0.5
SWOLLEN = 1.15  # thickness over its code
CAPACITY_GOOD, CAPACITY_USABLE = 0.8, 0.6
RESISTANCE_HIGH = 2.0

NO_REVIVAL = say(
    "Some bring such a cell back by putting it on a charger. It often seems to work, and is the classic cause of a "
    "later fire: at so low a voltage copper goes into solution and grows back as a short."
)


class Grade(Model):
    """Where a cell stands: its judgements, gravest first, one word for the box it goes into, and the next step."""

    word: str  # new, untested, good, usable, watch, recycle
    level: Level
    judgements: tuple[Judgement, ...]
    next_step: Message
    r_ohm: ShownOhms | None  # from the two loads
    capacity_share: ShownShare | None  # measured over label
    life_left: Message  # how much longer it serves; empty where its capacity is not measured


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
        life_left=_life_left(cell) if level != "stop" else NOTHING,
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
            headline=say(
                "It is damaged ({damage}). Take it out of the house, to a recycling point.",
                damage=row_of(intake.damage),
            ),
        )


def _thickness(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    if intake.thickness_mm is None or cell.size_mm is None or cell.form == "round":
        return
    share = intake.thickness_mm / cell.size_mm[0]
    working = say(
        "{thickness_mm} over a nominal {size_mm}",
        thickness_mm=millimetres(intake.thickness_mm),
        size_mm=millimetres(cell.size_mm[0]),
    )
    if share >= SWOLLEN - 1e-9:
        headline = say(
            "It is {share} thicker than its size code says. It is at the end of its life.", share=percent(share - 1)
        )
        yield Judgement(level="stop", headline=headline, working=working)
    elif share > 1.05:
        yield Judgement(
            level="note",
            headline=say("It is {share} thicker than its size code says.", share=percent(share - 1)),
            working=working,
        )
    else:
        yield Judgement(
            level="pass",
            headline=say(
                "It is {thickness_mm} thick, as its size code says.", thickness_mm=millimetres(intake.thickness_mm)
            ),
        )


def _rest_voltage(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    if intake.rest_v is None:
        return
    rest_v, full_v = intake.rest_v, cell.facts.full_v
    if rest_v < DEAD_V:
        yield Judgement(
            level="stop",
            headline=say("It rests at {rest_v}, too low ever to be safe again. Recycle it.", rest_v=volts(rest_v)),
            figure=volts(rest_v),
            working=NO_REVIVAL,
        )
    elif rest_v < PRECHARGE_V:
        current = amps(cell.capacity_ah * PRECHARGE_C)
        yield Judgement(
            level="caution",
            headline=say("It rests at {rest_v}. Try one watched pre-charge, or recycle it.", rest_v=volts(rest_v)),
            figure=volts(rest_v),
            working=say(
                "Charge it with {current} (C/10) or less for {precharge_h} at most, up to {start_v}. Then do the "
                "whole test. If it does not get there, recycle it.",
                current=current,
                precharge_h=hours(PRECHARGE_H),
                start_v=volts(START_V),
            ),
        )
    elif rest_v > full_v + OVER_CHARGED_V:
        yield Judgement(
            level="stop",
            headline=say("It rests at {rest_v}: it has been over-charged. Recycle it.", rest_v=volts(rest_v)),
            figure=volts(rest_v),
        )
    else:
        yield Judgement(
            level="pass",
            headline=say("It rests at {rest_v}. Go on with the test.", rest_v=volts(rest_v)),
            figure=volts(rest_v),
        )


def _drop(intake: Intake) -> Iterator[Judgement]:
    if intake.drop_24h_v is None:
        return
    drop = millivolts(intake.drop_24h_v)
    working = say("24 h after the first hour of rest that follows a full charge; that first hour is relaxation")
    if intake.drop_24h_v > DROP_WATCH_V:
        headline = say("It loses {drop} in a day: it discharges itself. Recycle it.", drop=drop)
        yield Judgement(level="stop", headline=headline, working=working)
    elif intake.drop_24h_v > DROP_GOOD_V:
        yield Judgement(
            level="caution",
            headline=say("It loses {drop} in a day. Watch it and measure again.", drop=drop),
            working=working,
        )
    else:
        yield Judgement(
            level="pass", headline=say("It loses {drop} in a day, which is good.", drop=drop), working=working
        )


# A gentle life: in a room, charged fully every week, taken off when full. A cell is at its end with half of its label.
_GENTLE_C, _CYCLES_A_MONTH, _LONGEST_YEARS = 22.0, 4.0, 15
END_SHARE = 0.5


def _life_left(cell: Cell) -> Message:
    """Until it holds half of its label, as cells of its class age that are treated gently; for weak ones too.

    It is taken to begin anew: old cells can fall faster than the law has it for them.
    """
    share = _capacity_share(cell)
    if share is None or not share > END_SHARE:
        return NOTHING
    months = _LONGEST_YEARS * MONTHS_A_YEAR
    gentle = Stress(np.full(months, _GENTLE_C), 1.0, 0.1, 0.02, np.full(months, _CYCLES_A_MONTH))
    law = law_of(cell.cell_class)
    lost = losses(law, gentle)
    likely, least = (
        int(np.searchsorted(lost, (share - END_SHARE) / times)) / MONTHS_A_YEAR for times in (1.0, np.exp(law.spread))
    )
    if likely >= _LONGEST_YEARS:
        return say("Treated gently it serves for many years more.")
    return say(
        "Treated gently it holds half of its label for some {likely} more, a weak one for {least}.",
        likely=days(likely * 365),
        least=days(least * 365),
    )


def _capacity_share(cell: Cell) -> float | None:
    return None if cell.measured_capacity_ah is None else cell.measured_capacity_ah / cell.capacity_ah


def _capacity(cell: Cell) -> Iterator[Judgement]:
    share = _capacity_share(cell)
    if share is None:
        return
    working = say(
        "{capacity_good} and more is good, under {capacity_usable} is worn out",
        capacity_good=percent(CAPACITY_GOOD),
        capacity_usable=percent(CAPACITY_USABLE),
    )
    if share < CAPACITY_USABLE:
        yield Judgement(
            level="stop",
            headline=say("{share} of its capacity is left. It is worn out: recycle it.", share=percent(share)),
            working=working,
        )
    elif share < CAPACITY_GOOD:
        yield Judgement(
            level="note",
            headline=say("{share} of its capacity is left. It is usable.", share=percent(share)),
            working=working,
        )
    else:
        yield Judgement(
            level="pass",
            headline=say("{share} of its capacity is left, which is good.", share=percent(share)),
            working=working,
        )


def _resistance(cell: Cell, intake: Intake) -> Iterator[Judgement]:
    r_ohm = resistance_from_loads(intake)
    if r_ohm is None:
        return
    first, second = intake.loads
    working = say(
        "({volts} - {volts_2}) / ({current_a} - {current_a_2}); a new cell of its size has about {typical_ohm}",
        volts=volts(first.volts),
        volts_2=volts(second.volts),
        current_a=amps(second.current_a),
        current_a_2=amps(first.current_a),
        typical_ohm=ohms(cell.typical_ohm),
    )
    if r_ohm <= 0:
        yield Judgement(
            level="note",
            headline=say("The two readings do not belong together: the voltage rose with more current."),
            working=working,
        )
    elif r_ohm > RESISTANCE_HIGH * cell.typical_ohm:
        headline = say(
            "Its {r_ohm} is {r_ohm_2} times that of a new cell. Its voltage will sag and it will get warm.",
            r_ohm=ohms(r_ohm),
            r_ohm_2=fixed(r_ohm / cell.typical_ohm, 1),
        )
        yield Judgement(level="caution", headline=headline, working=working)
    else:
        yield Judgement(
            level="pass", headline=say("It has {r_ohm}, measured with two loads.", r_ohm=ohms(r_ohm)), working=working
        )


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


def _next_step(cell: Cell, intake: Intake, level: Level) -> Message:
    """The next reading of the triage, in the order that keeps the bench safe."""
    rest_v, untouched = intake.rest_v, intake.rest_v is None and cell.measured_capacity_ah is None
    steps = (
        (
            level == "stop",
            say("Tape its terminals, put it in sand or a metal box outdoors, and take it to a recycling point."),
        ),
        (
            cell.origin == "new" and untouched,
            say(
                "Measure its resting voltage as it arrives. New cells are shipped at {least} to {most} V.",
                least=fixed(3.6, 1),
                most=fixed(3.9, 1),
            ),
        ),
        (
            rest_v is None,
            say("Look it over and smell it. Then measure its resting voltage after some minutes without load."),
        ),
        (
            rest_v is not None and rest_v < PRECHARGE_V,
            say(
                "Pre-charge at {capacity_ah} or less, watched, for 30 min at most.",
                capacity_ah=amps(cell.capacity_ah * PRECHARGE_C),
            ),
        ),
        (
            intake.thickness_mm is None and cell.form != "round",
            say("Put the calipers over its flat side. At 15 % over its size code it is at the end of its life."),
        ),
        (
            cell.measured_capacity_ah is None,
            say(
                "Charge it gently at {gentle_a}, then discharge it on a tester to {empty} V.",
                gentle_a=amps(cell.capacity_ah * 0.5),
                empty=fixed(3.0, 1),
            ),
        ),
        (
            len(intake.loads) < 2,
            say("Load it twice at its own tabs, some seconds each. The difference gives its resistance."),
        ),
        (
            intake.drop_24h_v is None,
            say("Charge it full, let it rest an hour, note its voltage, and note it again after 24 h."),
        ),
        (level == "caution", say("Keep it apart and measure again.")),
    )
    return next(
        (step for due, step in steps if due),
        say("Ready. To store it, charge it to about {store} V.", store=fixed(3.8, 1)),
    )
