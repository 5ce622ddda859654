"""Measure next: which number nobody has measured would change a verdict, or the run time, most.

Each soft number is moved to both ends of its plausible range, as if it had been measured there, and the whole build is
judged again. What changes is what a quarter of an hour with an instrument would buy.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from pocketspark.core.chain import BoardCharging, Chain, ChosenCell
from pocketspark.core.finding import GRAVITY, Finding, Level, worst
from pocketspark.core.kinds.stations import station_of
from pocketspark.core.message import Message, Value, capitalised, say
from pocketspark.core.models import Project, Protection
from pocketspark.core.models.gadget import FrontEnd
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import SOFT
from pocketspark.core.rules import RULES, findings_of
from pocketspark.core.units.figures import amp_hours, amps, celsius, fixed, hours, ohms, volts, whole_volts

# A start-up peak nobody has measured may be this many times the current; a stalled motor's as many (common practice).
PEAK_TIMES, STALL_TIMES = 3.0, 6.0
# What may go on drawing when it is switched off (common practice, no source).
STAYS_AWAKE: frozenset[FrontEnd] = frozenset({"logic", "regulator", "converter"})
# Transistors of such protections are rarely what a listing says (common practice, no source).
R_ON_OFF = 0.4
# Below this share of the run time a number is not worth an instrument.
LEAST_SPAN = 0.05


class NextReading(Model):
    """One number worth measuring: what it is taken as, what it could be, and what that would change."""

    path: str
    station: str
    headline: Message
    how: Message
    changes: tuple[Message, ...]  # what would be said otherwise at one end or the other
    level_changes: bool  # the gravest level of the build would move
    worst: Level  # the gravest that would be said newly at one end or the other; a pass where nothing would
    run_span: float  # difference of the run times at both ends, as a share of the one now


@dataclass(frozen=True)
class Unknown:
    """A number that is taken, not known: its plausible ends, and how to read it."""

    path: str
    what: Message
    now: float
    low: float
    high: float
    write: Callable[[float], Value]
    how: Message


@dataclass(frozen=True)
class Outcome:
    """What the build comes to with one number changed."""

    findings: dict[str, Finding]  # the gravest of each code, passes left out
    gravity: int
    run_hours: float | None


# None of what may be unknown here is a length, so whether it fits stays as it is.
_CAN_CHANGE = tuple(code for code, rule in RULES.items() if rule.station != "fit")


def next_readings(project: Project, build: int = 0) -> list[NextReading]:
    """Every soft number that would change something: by the worst that could come out, then by its share of the run."""
    chain = Chain(project, build, advises=False)
    now = _outcome(chain)
    readings = [reading for unknown in _unknowns(chain) if (reading := _reading(project, build, unknown, now))]
    return sorted(readings, key=lambda reading: (-GRAVITY[reading.worst], -reading.run_span, -len(reading.changes)))


def _reading(project: Project, build: int, unknown: Unknown, now: Outcome) -> NextReading | None:
    ends = [
        _outcome(Chain(_as_measured(project, unknown.path, end), build, advises=False))
        for end in (unknown.low, unknown.high)
    ]
    changes = tuple(
        change
        for end, value in zip(ends, (unknown.low, unknown.high), strict=True)
        for change in _changes(now, end, say("At {write}", write=unknown.write(value)))
    )
    spans = [end.run_hours for end in ends if end.run_hours is not None]
    span = (max(spans) - min(spans)) / now.run_hours if len(spans) == 2 and now.run_hours else 0.0
    if not changes and span < LEAST_SPAN:
        return None
    taken = {
        "what": capitalised(unknown.what),
        "now": unknown.write(unknown.now),
        "low": unknown.write(unknown.low),
        "high": unknown.write(unknown.high),
    }
    headline = say("{what} is taken as {now} and could be {low} to {high}.", **taken)
    if span >= LEAST_SPAN:
        headline = say(
            "{what} is taken as {now} and could be {low} to {high}. That moves the run time from {shortest} to "
            "{longest}.",
            shortest=hours(min(spans)),
            longest=hours(max(spans)),
            **taken,
        )
    return NextReading(
        path=unknown.path,
        station=station_of(unknown.path),
        headline=headline,
        how=unknown.how,
        changes=changes,
        level_changes=any(end.gravity != now.gravity for end in ends),
        worst=worst(level for end in ends for level in _said_newly(now, end)),
        run_span=span,
    )


def _said_newly(now: Outcome, then: Outcome) -> Iterator[Level]:
    """Levels of the stops and cautions that were not, or not so grave."""
    for code, finding in then.findings.items():
        before = now.findings.get(code)
        if before is None or GRAVITY[finding.level] > GRAVITY[before.level]:
            yield finding.level


def _changes(now: Outcome, then: Outcome, where: Message) -> Iterator[Message]:
    """Stops and cautions that come or go."""
    for code in sorted(now.findings.keys() | then.findings.keys()):
        before, after = now.findings.get(code), then.findings.get(code)
        grave_before = before is not None and GRAVITY[before.level] >= GRAVITY["caution"]
        grave_after = after is not None and GRAVITY[after.level] >= GRAVITY["caution"]
        if grave_after and after and (not before or after.level != before.level):
            yield say("{where}, a {level}: {headline}", where=where, level=after.level, headline=after.headline)
        elif grave_before and not grave_after and before:
            yield say(
                "{where}, no longer a {level}: {headline}", where=where, level=before.level, headline=before.headline
            )


def _outcome(chain: Chain) -> Outcome:
    findings = findings_of(chain, _CAN_CHANGE)
    first = {finding.code: finding for finding in reversed(findings) if finding.level != "pass"}
    most_used = chain.running.most_used if chain.running else None
    gravity = GRAVITY[worst(finding.level for finding in findings)]
    return Outcome(first, gravity, most_used.hours if most_used else None)


def _as_measured(project: Project, path: str, value: float) -> Project:
    changed = project.with_value(path, value)
    if path.endswith(".k_volts"):
        # A board that was measured is no longer taken with the tolerance of all such boards.
        changed = changed.with_value(f"{path.removesuffix('k_volts')}k_tolerance", project.meter_share)
    return changed.model_copy(update={"basis": {**changed.basis, project.canonical(path): "measured"}})


# What may be unknown, with the range in which it plausibly lies. Ranges are common practice, no source. ---------


def _unknowns(chain: Chain) -> Iterator[Unknown]:
    yield from _unknown_window(chain)
    yield from _unknown_currents(chain)
    yield from _unknown_front_end(chain)
    if chain.chosen_cell:
        yield from _unknown_cell(chain.chosen_cell)
    yield from _unknown_protection(chain)
    if chain.board_charging:
        yield from _unknown_charging(chain)
        yield from _unknown_board(chain.board_charging)


def _unknown_window(chain: Chain) -> Iterator[Unknown]:
    window, supply = chain.window, chain.gadget.supply
    cells = supply.cells_in_series
    if window.min_basis in SOFT:
        yield Unknown(
            "gadget.window.v_run_min",
            say("the lowest volts the gadget works at"),
            window.v_run_min,
            cells * supply.facts.empty_v * 0.9,
            min(cells * supply.facts.gadget_empty_v * 1.15, window.v_abs_max * 0.98),
            volts,
            say(
                "Bench supply in place of the old batteries, turned down slowly in its heaviest mode until it gives up."
            ),
        )
    if window.max_basis in SOFT:
        yield Unknown(
            "gadget.window.v_abs_max",
            say("the highest volts the gadget stands"),
            window.v_abs_max,
            max(window.v_abs_max, window.v_run_min * 1.02),
            window.v_abs_max * 1.4,
            volts,
            say("Look up the parts behind the terminals: the lowest absolute maximum among them counts."),
        )


def _unknown_currents(chain: Chain) -> Iterator[Unknown]:
    for mode in chain.gadget.modes:
        path = f"gadget.modes.{mode.id}.current_a"
        if chain.basis_of(path) in SOFT and mode.current_a > 0:
            yield Unknown(
                path,
                say("the current in “{mode}”", mode=mode.name),
                mode.current_a,
                mode.current_a * 0.6,
                mode.current_a * 1.7,
                amps,
                say("Multimeter on its current range, in series with the old batteries."),
            )
        if chain.basis_of(f"{path.removesuffix('current_a')}peak_a") in SOFT and mode.current_a > 0:
            yield Unknown(
                f"gadget.modes.{mode.id}.peak_a",
                say("the peak in “{mode}”", mode=mode.name),
                mode.most_a,
                mode.most_a,
                max(mode.current_a * PEAK_TIMES, mode.most_a),
                amps,
                say(
                    "Oscilloscope over a {shunt} Ω resistor in the supply, or a meter that holds its maximum, at "
                    "switch-on.",
                    shunt=fixed(0.1, 1),
                ),
            )
    # A lamp or a motor behind a plain switch draws nothing when it is off.
    if chain.basis_of("gadget.off_current_a") in SOFT and chain.gadget.front_end in STAYS_AWAKE:
        yield Unknown(
            "gadget.off_current_a",
            say("the current when off"),
            chain.gadget.off_current_a,
            chain.gadget.off_current_a,
            max(chain.gadget.off_current_a * 5, 1e-3),
            amps,
            say("Multimeter on its microamp range, in series with the old batteries, gadget switched off."),
        )


def _unknown_front_end(chain: Chain) -> Iterator[Unknown]:
    behind = chain.gadget.behind
    if chain.gadget.front_end == "led_resistor" and chain.basis_of("gadget.behind.led_v") in SOFT:
        now = behind.led_v or chain.gadget.led_forward_v
        yield Unknown(
            "gadget.behind.led_v",
            say("the LEDs' forward voltage"),
            now,
            now * 0.85,
            min(now * 1.12, chain.gadget.design_v - 0.1),
            volts,
            say("Multimeter over one lit LED, at its own legs."),
        )
    if chain.gadget.front_end == "motor" and chain.basis_of("gadget.behind.winding_ohm") in SOFT:
        running = max((mode.current_a for mode in chain.gadget.modes), default=0.1) or 0.1
        now = behind.winding_ohm or chain.gadget.design_v / (running * STALL_TIMES)
        yield Unknown(
            "gadget.behind.winding_ohm",
            say("the motor's winding"),
            now,
            now * 0.5,
            now * 2,
            ohms,
            say("Multimeter over the motor's own tabs, gadget off, shaft turned to a few places: the lowest counts."),
        )


def _unknown_charging(chain: Chain) -> Iterator[Unknown]:
    path = f"{chain.path}.source.r_cable_ohm"
    if chain.basis_of(path) in SOFT:
        yield Unknown(
            path,
            say("cable and connectors"),
            chain.build.source.r_cable_ohm,
            0.05,
            0.8,
            ohms,
            say("Volts at the source less volts at the board, over the charge current."),
        )
    if chain.gadget.shell.closed and chain.basis_of("gadget.shell.room_c") in SOFT:
        yield Unknown(
            "gadget.shell.room_c",
            say("the room it charges in"),
            chain.gadget.shell.room_c,
            10.0,
            38.0,
            celsius,
            say("Thermometer where it will be charged: a shed in summer counts."),
        )


def _unknown_protection(chain: Chain) -> Iterator[Unknown]:
    """Where it trips hangs on its transistors, which nobody's listing states."""
    for place, protection in _protections(chain):
        path = f"{place}.r_on_ohm"
        if chain.basis_of(path) != "measured":
            yield Unknown(
                path,
                say("a transistor of the protection"),
                protection.r_on_ohm,
                protection.r_on_ohm * (1 - R_ON_OFF),
                protection.r_on_ohm * (1 + R_ON_OFF),
                ohms,
                say(
                    "Millivolts from B- to OUT- over the amperes that flow there, halved: two transistors stand in "
                    "series."
                ),
            )


def _protections(chain: Chain) -> Iterator[tuple[str, Protection]]:
    if chain.cell and chain.cell.own_protection:
        yield f"{chain.path}.cell.own_protection", chain.cell.own_protection
    for board in chain.build.boards:
        if board.protection:
            yield f"{chain.path}.boards.{board.id}.protection", board.protection


def _unknown_board(charging: BoardCharging) -> Iterator[Unknown]:
    """Its constant, within the tolerance that it is taken with."""
    charger, path = charging.charger, f"{charging.charger_path}.k_volts"
    if charging.chain.basis_of(path) != "measured" and not charger.r_table:
        yield Unknown(
            path,
            say("K of the charger board"),
            charger.k_volts,
            charger.k_volts * (1 - charger.k_tolerance),
            charger.k_volts * (1 + charger.k_tolerance),
            whole_volts,
            say("The charge current at half charge times the resistor that is fitted."),
        )


def _unknown_cell(chosen: ChosenCell) -> Iterator[Unknown]:
    cell, path, chain = chosen.cell, chosen.path, chosen.chain
    worn = 0.5 if cell.origin == "salvaged" else 0.8
    if chain.basis_of(f"{path}.measured_capacity_ah") in SOFT:
        yield Unknown(
            f"{path}.measured_capacity_ah",
            say("what the cell holds"),
            cell.planning_capacity_ah,
            cell.capacity_ah * worn,
            cell.capacity_ah * 1.05,
            amp_hours,
            say(
                "Cell tester: charge full, let it rest, discharge to {it} at a fifth of its capacity an hour.",
                it=volts(3.0),
            ),
        )
    if chain.basis_of(f"{path}.r_ohm") in SOFT:
        yield Unknown(
            f"{path}.r_ohm",
            say("the cell's resistance"),
            cell.resistance_ohm,
            cell.resistance_ohm * 0.6,
            cell.resistance_ohm * 3,
            ohms,
            say("Two loads at the cell's own tabs: (V1 - V2) / (I2 - I1)."),
        )
    for field, what, low, high in (
        ("charge_max_a", say("the most current the cell can be charged with"), 0.5, 1.0),
        ("discharge_max_a", say("the most current the cell can supply"), 0.5, 2.0),
    ):
        if getattr(cell, field) is None:
            yield Unknown(
                f"{path}.{field}",
                what,
                cell.capacity_ah,
                cell.capacity_ah * low,
                cell.capacity_ah * high,
                amps,
                say("The cell's data sheet, by the type printed on it."),
            )
