"""Reading a log: phases, plateau, tail, end, interruptions, fold-back, never-ending tail, over-limits; in words."""

from collections.abc import Iterator, Mapping
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.finding import Level
from pocketspark.core.logs.learnt import Told, capacity_of_charge, capacity_of_run, resistance_of
from pocketspark.core.logs.log import Log
from pocketspark.core.message import Label, Message, _, say, say_of
from pocketspark.core.models.cell_class import CELL_CLASSES
from pocketspark.core.models.model import Model
from pocketspark.core.models.tools import METERS
from pocketspark.core.physics.ocv import Floats, curve_of
from pocketspark.core.units.figures import (
    amp_hours,
    amps,
    celsius,
    hours,
    millivolts,
    ohms,
    percent,
    seconds,
    volts,
    watt_hours,
)

Kind = Literal["charge", "discharge"]

# Limits of a watched charge (common practice, no source; 45 C: IEC 62133-2 as commonly stated, from memory).
OVER_V, HOT_C = 0.03, 45.0
PLAN_OFF = 0.12
# Good cells hold a little over their label; none holds this many times it (common practice, no source).
MORE_THAN_LABEL = 1.25
# Less than this at the far end of a cable is out of the USB 2.0 figures (4.40 V behind a bus-powered hub, from memory).
CABLE_V = 4.40
REST_DROP_V = 0.050  # in an hour; handbook figure of the hold after a full charge
# Below this share of the plateau nothing flows; from this share on it is the plateau.
NOTHING_SHARE, PLATEAU_SHARE = 0.04, 0.93
# A charger draws a few milliamperes for itself: of a small charge that is more than the share above, but never more
# than this one (common practice, no source).
OWN_A, OWN_SHARE = 0.004, 0.15
# A pause longer than this is somebody's hand on the switch; so many pauses as regular as this are the gadget's own way.
SWITCHED_OFF_S, PULSES, REGULAR = 900.0, 5, 0.15
LEAST_INTERRUPTION_S = 3.0
# A current that heat holds back wanders by more than this (our judgement).
STEP_STEADY = 0.02
# Held for so long it is no spike; within this share of it, the flat part.
HELD_S, HELD_SHARE = 15.0, 0.97
# A tail that has not fallen by a twentieth in its last half hour will not end.
TAIL_S, TAIL_FALL = 1800.0, 0.05


class Phase(Model):
    """One stretch of a run."""

    name: Label
    start_s: float
    end_s: float


class Interruption(Model):
    """A while in which nothing flowed."""

    start_s: float
    length_s: float


class LogFinding(Model):
    """One thing that the log shows."""

    code: str
    level: Level
    headline: Message


class LogAnalysis(Model):
    """Everything that one log shows. None: it cannot be read from this log."""

    kind: Kind
    usb_side: bool
    hours: float
    flow_hours: float  # from the first current to the last
    phases: tuple[Phase, ...]
    plateau_a: float
    usual_a: float  # what flows half of the time that anything flows
    end_current_a: float | None
    charge_ah: float
    energy_wh: float
    average_w: float
    most_v: float
    least_v: float
    most_c: float | None
    resistance_ohm: float | None
    resistance_off_ohm: float | None
    capacity_ah: float | None
    capacity_off_ah: float | None
    interruptions: tuple[Interruption, ...]
    findings: tuple[LogFinding, ...]


def kind_of(log: Log) -> Kind:
    """A run-down ends well below where it began; all else is a charge."""
    if log.is_usb_side:
        return "charge"
    flowing = np.flatnonzero(log.amps > 0.1 * log.amps.max())
    volts_ = log.volts[flowing]
    begin, end = np.median(volts_[: max(len(volts_) // 20, 1)]), np.median(volts_[-max(len(volts_) // 20, 1) :])
    return "discharge" if begin - end > 0.15 else "charge"


def analyse(
    log: Log,
    *,
    cell_class: str = "li_4v20",
    plan_a: float | None = None,
    kind: Kind | None = None,
    unseen_s: float = 0.0,
    label_ah: float | None = None,
    meter_share: float = METERS["usual"].right_to,
) -> LogAnalysis:
    """Read one log. `plan_a`: the planned charge current, to hold the plateau against; `unseen_s`: gaps in its rows;
    `label_ah`: what the cell is said to hold; `meter_share`: what the meter that wrote it is right to."""
    kind = kind or kind_of(log)
    plateau = _plateau(log, kind)
    breaks = _interruptions(log, plateau)
    phases = _charge_phases(log, plateau) if kind == "charge" else _run_phases(log, plateau)
    end_a = _end_current(log, plateau) if kind == "charge" else None
    findings = [
        *_swapped(log),
        *_more_than_it_holds(log, label_ah),
        *(
            _charge_findings(log, plateau, plan_a, cell_class, breaks)
            if kind == "charge"
            else _run_findings(log, plateau, breaks)
        ),
    ]
    resistance = resistance_of(log, plateau)
    known = (log, kind, cell_class, plateau, resistance, end_a, unseen_s, meter_share)
    capacity = None if log.is_usb_side else _capacity(*known)
    return LogAnalysis(
        kind=kind,
        usb_side=log.is_usb_side,
        hours=float(log.hours[-1]),
        flow_hours=_flow_hours(log, plateau),
        phases=tuple(phases),
        plateau_a=plateau,
        usual_a=_usual(log, plateau),
        end_current_a=end_a,
        charge_ah=float(log.charge_ah[-1]),
        energy_wh=log.energy_wh,
        average_w=log.energy_wh / max(float(log.hours[-1]), 1e-9),
        most_v=float(np.quantile(log.volts, 0.9995)),
        least_v=float(np.quantile(log.volts, 0.0005)),
        most_c=None if log.celsius is None else float(np.nanmax(log.celsius)),
        resistance_ohm=resistance.value if resistance else None,
        resistance_off_ohm=resistance.off if resistance else None,
        capacity_ah=capacity.value if capacity else None,
        capacity_off_ah=capacity.off if capacity else None,
        interruptions=tuple(breaks),
        findings=tuple(findings),
    )


def nothing_a(plateau: float) -> float:
    """Amperes below which nothing flows that matters."""
    return max(NOTHING_SHARE * plateau, min(OWN_A, OWN_SHARE * plateau))


def _flow_hours(log: Log, plateau: float) -> float:
    flowing = np.flatnonzero(log.amps > nothing_a(plateau))
    return float(log.hours[flowing[-1]] - log.hours[flowing[0]]) if len(flowing) else 0.0


def _capacity(
    log: Log,
    kind: Kind,
    cell_class: str,
    plateau: float,
    resistance: Told | None,
    end_a: float | None,
    unseen_s: float,
    meter_share: float,
) -> Told | None:
    curve = curve_of(cell_class)
    if kind == "discharge":
        return capacity_of_run(log, curve, resistance, unseen_s, meter_share)
    # With a load on the cell not all of the current went into it.
    if _never_ends(log, plateau):
        return None
    return capacity_of_charge(log, curve, plateau, end_a, unseen_s, meter_share)


# Charge --------------------------------------------------------------------------------------------------------


def _plateau(log: Log, kind: Kind) -> float:
    """The current of the flat part: in a charge the highest that was held, in a run what flows most of the time.

    Worn cells and thin wires end the flat part of a charge within minutes, so that most of the log is tail.
    """
    high = _highest_held(log) if kind == "charge" else float(np.quantile(log.amps, 0.98))
    near = log.amps[log.amps > high * (HELD_SHARE if kind == "charge" else 0.7)]
    return float(np.median(near)) if len(near) else high


def _highest_held(log: Log) -> float:
    """The highest median of a quarter of a minute, three rows at the least: no spike is that long."""
    step_s = float(np.median(np.diff(log.time_s)))
    rows = min(max(3, round(HELD_S / max(step_s, 1e-3))), len(log.amps))
    whole = len(log.amps) // rows * rows
    return float(np.median(log.amps[:whole].reshape(-1, rows), axis=1).max())


def _usual(log: Log, plateau: float) -> float:
    flowing = log.amps[log.amps > nothing_a(plateau)]
    return float(np.median(flowing)) if len(flowing) else 0.0


def _smooth(values: Floats, width: int) -> Floats:
    if width < 3:
        return values
    kernel = np.ones(width) / width
    padded = np.pad(values, (width // 2, width - 1 - width // 2), mode="edge")
    return np.convolve(padded, kernel, mode="valid")


def _charge_phases(log: Log, plateau: float) -> Iterator[Phase]:
    """Precharge, constant current, constant voltage, end: each from the first moment of its kind to the next one's."""
    current = _smooth(log.amps, max(3, len(log.amps) // 400))
    flowing = np.flatnonzero(current > nothing_a(plateau))
    if len(flowing) == 0:
        return
    strong = np.flatnonzero(current >= min(PLATEAU_SHARE * plateau, float(current.max())))
    first, last = int(strong[0]), int(strong[-1])
    begin, end = int(flowing[0]), int(flowing[-1])
    time = log.time_s
    if time[first] - time[begin] > max(60.0, 0.002 * time[-1]):
        yield Phase(name="precharge", start_s=float(time[begin]), end_s=float(time[first]))
    yield Phase(name="constant current", start_s=float(time[first]), end_s=float(time[last]))
    if time[end] - time[last] > 30:
        yield Phase(name="constant voltage", start_s=float(time[last]), end_s=float(time[end]))
    if time[-1] - time[end] > 30:
        yield Phase(name="ended", start_s=float(time[end]), end_s=float(time[-1]))


def _end_current(log: Log, plateau: float) -> float | None:
    """What flowed just before it stopped; None where it never stopped within the log."""
    flowing = np.flatnonzero(log.amps > nothing_a(plateau))
    if len(flowing) == 0:
        return None
    last = int(flowing[-1])
    return float(np.median(log.amps[max(last - 1, 0) : last + 1]))


def _interruptions(log: Log, plateau: float) -> list[Interruption]:
    """Whiles with nothing flowing, with current both before and after."""
    off = log.amps < nothing_a(plateau)
    flowing = np.flatnonzero(~off)
    if len(flowing) == 0:
        return []
    inner = off[flowing[0] : flowing[-1] + 1]
    found = []
    for start, stop in _stretches(inner):
        begin, end = log.time_s[flowing[0] + start], log.time_s[min(flowing[0] + stop, len(log.time_s) - 1)]
        if end - begin >= LEAST_INTERRUPTION_S:
            found.append(Interruption(start_s=float(begin), length_s=float(end - begin)))
    return found


def _stretches(mask: NDArray[np.bool_]) -> list[tuple[int, int]]:
    edges = np.flatnonzero(np.diff(np.concatenate([[False], mask, [False]]).astype(int)))
    return list(zip(edges[::2].tolist(), edges[1::2].tolist(), strict=True))


def _swapped(log: Log) -> Iterator[LogFinding]:
    if log.swapped:
        text = say(
            "The meter shows -{reading}: plus and minus are swapped. Connect nothing yet.",
            reading=volts(float(np.median(log.volts))),
        )
        yield _finding("log.swapped", "stop", text)


def _more_than_it_holds(log: Log, label_ah: float | None) -> Iterator[LogFinding]:
    """More charge than any cell of that label takes went somewhere else, or the meter's unit is another."""
    moved_ah = float(log.charge_ah[-1])
    if label_ah and moved_ah > MORE_THAN_LABEL * label_ah:
        text = say(
            "The meter counted {moved_ah}, and the cell is rated {label_ah}. Look for a load on it, a wrong unit, or "
            "another cell.",
            moved_ah=amp_hours(moved_ah),
            label_ah=amp_hours(label_ah),
        )
        yield _finding("log.more_than_it_holds", "caution", text)


def _charge_findings(
    log: Log, plateau: float, plan_a: float | None, cell_class: str, breaks: list[Interruption]
) -> Iterator[LogFinding]:
    full_v = CELL_CLASSES[cell_class].full_v
    if plan_a and abs(plateau / plan_a - 1) > PLAN_OFF:
        yield _finding(
            "log.plateau_off",
            "caution",
            say(
                "The plateau is {plateau} where {plan_a} is expected. Which charge-current resistor is fitted?",
                plateau=amps(plateau),
                plan_a=amps(plan_a),
            ),
        )
    breaks = _by_chance(breaks)
    if breaks:
        longest = max(one.length_s for one in breaks)
        yield _finding(
            "log.interrupted",
            "caution",
            say_of(
                len(breaks),
                "The charge was interrupted once, for {longest}. Suspect a weak joint or a loose pad.",
                "The charge was interrupted {count} times, for {longest} at the longest. Suspect a weak joint or a "
                "loose pad.",
                longest=seconds(longest),
            ),
        )
    if (share := _folded_share(log, plateau)) > 0.05:
        yield _finding(
            "log.folds_back",
            "caution",
            say("For {share} of the time before the tail the charger was held back, by heat.", share=percent(share)),
        )
    if _never_ends(log, plateau):
        held = float(np.median(log.amps[log.time_s > log.time_s[-1] - TAIL_S]))
        yield _finding(
            "log.never_ends",
            "stop",
            say("{held} still flows at the end and does not fall: something loads the cell.", held=amps(held)),
        )
    yield from _limits(log, full_v)
    yield from _cable(log)
    yield from _rest(log, plateau)
    if not log.is_usb_side and (share := _tail_share(log, plateau)) > 0.5:
        text = say("The tail takes {share} of the time: a worn cell, or thin wires.", share=percent(share))
        yield _finding("log.long_tail", "note", text)


def _folded_share(log: Log, plateau: float) -> float:
    """Share of the time before the tail in which less than the plateau flowed, interruptions and precharge left out."""
    strong = np.flatnonzero(log.amps >= PLATEAU_SHARE * plateau)
    if len(strong) == 0:
        return 0.0
    before = slice(0, int(strong[-1]) + 1)
    flows = log.amps[before] > nothing_a(plateau)
    current = _smooth(log.amps[before][flows], max(3, len(log.amps) // 400))
    precharge = (log.volts[before][flows] < 2.95) & (not log.is_usb_side)
    held = (current < PLATEAU_SHARE * plateau) & (current > 0.25 * plateau) & ~precharge
    # Another current that is as steady as the first is a step of the tester's, and no heat.
    steady = held.any() and float(np.std(current[held])) < STEP_STEADY * float(np.mean(current[held]))
    return 0.0 if steady else float(np.mean(held)) if len(held) else 0.0


def _never_ends(log: Log, plateau: float) -> bool:
    if log.time_s[-1] < 2 * TAIL_S or log.amps[-1] < nothing_a(plateau):
        return False
    tail = log.time_s > log.time_s[-1] - TAIL_S
    half = log.time_s[tail] < log.time_s[-1] - TAIL_S / 2
    if not half.any():
        return False  # a gap where it would show
    early, late = float(np.mean(log.amps[tail][half])), float(np.mean(log.amps[tail][~half]))
    if early > 0.8 * plateau:
        return False  # still on the plateau
    return late > (1 - TAIL_FALL) * early


def _tail_share(log: Log, plateau: float) -> float:
    flowing = log.amps > nothing_a(plateau)
    tail = flowing & (log.amps < PLATEAU_SHARE * plateau)
    strong = np.flatnonzero(log.amps >= PLATEAU_SHARE * plateau)
    after = np.arange(len(log.amps)) > (strong[-1] if len(strong) else 0)
    spans = np.diff(log.time_s, prepend=log.time_s[0])
    return float(spans[tail & after].sum() / max(spans[flowing].sum(), 1e-9))


def _limits(log: Log, full_v: float) -> Iterator[LogFinding]:
    most_v = float(np.quantile(log.volts, 0.9995))
    if not log.is_usb_side and most_v > full_v + OVER_V:
        yield _finding(
            "log.over_voltage",
            "stop",
            say("The cell reached {most_v}; it is full at {full_v}.", most_v=volts(most_v), full_v=volts(full_v)),
        )
    if log.celsius is not None and (most_c := float(np.nanmax(log.celsius))) > HOT_C:
        yield _finding(
            "log.too_warm",
            "stop",
            say(
                "The cell reached {most_c} while charging, over {hot_c}.", most_c=celsius(most_c), hot_c=celsius(HOT_C)
            ),
        )


def _cable(log: Log) -> Iterator[LogFinding]:
    """Only a meter at the charger's end of the cable can tell."""
    if not log.is_usb_side:
        return
    least_v = float(np.quantile(log.volts[log.amps > 0.5 * log.amps.max()], 0.02))
    if least_v < CABLE_V:
        text = say(
            "Only {least_v} reaches the charger. The cable is thin or long, or the source weak.", least_v=volts(least_v)
        )
        yield _finding("log.cable_sags", "caution", text)


def _rest(log: Log, plateau: float) -> Iterator[LogFinding]:
    """After the end: a sound cell settles in a quarter of an hour and then stands."""
    flowing = np.flatnonzero(log.amps > nothing_a(plateau))
    if log.is_usb_side or len(flowing) == 0:
        return
    since_s = log.time_s - log.time_s[flowing[-1]]
    early, late = (since_s > 900) & (since_s < 1200), since_s > max(1800.0, since_s[-1] - 300)
    if since_s[-1] < 2700 or not early.any():
        return
    span_h = float(np.mean(since_s[late]) - np.mean(since_s[early])) / 3600
    drop_v = float(np.mean(log.volts[early]) - np.mean(log.volts[late])) / span_h
    if drop_v > REST_DROP_V:
        text = say(
            "At rest it loses {drop} an hour. The cell discharges itself, or something still draws current.",
            drop=millivolts(drop_v),
        )
        yield _finding("log.sinks_at_rest", "stop", text)


# Run-down ------------------------------------------------------------------------------------------------------


def _run_phases(log: Log, plateau: float) -> Iterator[Phase]:
    flowing = np.flatnonzero(log.amps > nothing_a(plateau))
    if len(flowing) == 0:
        return
    begin, end = float(log.time_s[flowing[0]]), float(log.time_s[flowing[-1]])
    yield Phase(name="running", start_s=begin, end_s=end)
    if log.time_s[-1] - end > 30:
        yield Phase(name="cut", start_s=end, end_s=float(log.time_s[-1]))


def _run_findings(log: Log, plateau: float, breaks: list[Interruption]) -> Iterator[LogFinding]:
    at_peaks = bool(breaks) and _after_peaks(log, plateau, breaks)
    if not at_peaks:
        breaks = _by_chance(breaks)
    if at_peaks:
        text = say_of(
            len(breaks),
            "It stopped once, at a peak of current: the protection trips.",
            "It stopped {count} times, each time at a peak of current: the protection trips.",
        )
        yield _finding("log.trips_at_peak", "caution", text)
    elif breaks:
        text = say_of(
            len(breaks),
            "The run was interrupted once. Suspect a weak joint, or a protection that trips.",
            "The run was interrupted {count} times. Suspect a weak joint, or a protection that trips.",
        )
        yield _finding("log.interrupted", "caution", text)
    least_v = float(np.quantile(log.volts[log.amps > 0.1 * log.amps.max()], 0.002))
    if least_v < 2.4:
        yield _finding(
            "log.too_deep",
            "caution",
            say("It ran down to {least}. Discharge that deep wears any cell out.", least=volts(least_v)),
        )


def _by_chance(breaks: list[Interruption]) -> list[Interruption]:
    """Those that nobody meant: neither a hand at the switch, nor the regular pauses of a gadget or a tester."""
    short = [one for one in breaks if one.length_s < SWITCHED_OFF_S]
    return [] if _is_regular(short) else short


def _is_regular(breaks: list[Interruption]) -> bool:
    """A gadget that sleeps between pulses: many pauses, all but equal."""
    lengths = np.array([one.length_s for one in breaks])
    return len(lengths) >= PULSES and float(np.std(lengths)) < REGULAR * float(np.mean(lengths))


def _after_peaks(log: Log, plateau: float, breaks: list[Interruption]) -> bool:
    """Did most stops begin right after far more than the usual current?"""
    usual = _usual(log, plateau)
    before = [log.amps[max(int(np.searchsorted(log.time_s, one.start_s)) - 1, 0)] for one in breaks]
    return bool(np.mean(np.array(before) > 1.2 * usual) > 0.5)


def _finding(code: str, level: Level, headline: Message) -> LogFinding:
    return LogFinding(code=code, level=level, headline=headline)


def in_words(seen: LogAnalysis) -> list[Message]:
    """The analysis as a maker reads it, line by line; its findings are told apart."""
    lines = [
        say(
            _HEADINGS[seen.kind, seen.usb_side],
            hours=hours(seen.flow_hours),
            charge=amp_hours(seen.charge_ah),
            energy=watt_hours(seen.energy_wh),
        )
    ]
    for phase in seen.phases:
        lines.append(say("  {phase}: {hours}", phase=phase.name, hours=hours((phase.end_s - phase.start_s) / 3600)))
    figures = {"plateau": amps(seen.plateau_a), "most": volts(seen.most_v), "least": volts(seen.least_v)}
    if seen.end_current_a is None:
        lines.append(say("  {plateau} on the plateau; {most} at most, {least} at least", **figures))
    else:
        ended = amps(seen.end_current_a)
        lines.append(
            say(
                "  {plateau} on the plateau, ended at {ended}; {most} at most, {least} at least", ended=ended, **figures
            )
        )
    if seen.resistance_ohm is not None:
        lines.append(say("  about {resistance} in series", resistance=ohms(seen.resistance_ohm)))
    if seen.capacity_ah is not None and seen.capacity_off_ah is not None:
        holds, off = amp_hours(seen.capacity_ah), amp_hours(seen.capacity_off_ah)
        lines.append(say("  the cell holds {capacity}, give or take {off}", capacity=holds, off=off))
    return lines


_HEADINGS: Mapping[tuple[str, bool], str] = {
    ("charge", False): _("Charge: {hours}, {charge}, {energy}"),
    ("charge", True): _("Charge, measured on the USB side: {hours}, {charge}, {energy}"),
    ("discharge", False): _("Run-down: {hours}, {charge}, {energy}"),
    ("discharge", True): _("Run-down, measured on the USB side: {hours}, {charge}, {energy}"),
}
