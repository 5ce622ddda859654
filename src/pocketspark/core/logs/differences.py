"""Measured against foretold: where a run differs by more than meters err, and what that most likely means.

The limits are common practice, no source.
"""

from collections.abc import Iterator

from pocketspark.core.logs.analysis import LogAnalysis, LogFinding
from pocketspark.core.logs.predicted import Predicted
from pocketspark.core.quantity import amp_hours, hours, percent

# Less than this is the meter's, the curve's, or where the cell stood at the start.
CHARGE_OFF, TIME_OFF = 0.10, 0.15


def differences(seen: LogAnalysis, foretold: Predicted | None) -> tuple[LogFinding, ...]:
    """What the forecast did not know. Empty where nothing was foretold, or all went as it was."""
    if foretold is None:
        return ()
    return tuple(_charge(seen, foretold) if seen.kind == "charge" else _run_down(seen, foretold))


def _charge(seen: LogAnalysis, foretold: Predicted) -> Iterator[LogFinding]:
    ended = seen.end_current_a is not None and any(phase.name == "ended" for phase in seen.phases)
    off = seen.charge_ah / foretold.charge_ah - 1 if foretold.charge_ah > 0 else 0.0
    if ended and off < -CHARGE_OFF:
        yield _told(
            "log.took_less",
            f"{amp_hours(seen.charge_ah)} went in, {amp_hours(foretold.charge_ah)} foretold: it was not empty, or it "
            "holds less than planned. A run-down tells which",
        )
    if ended and off > CHARGE_OFF:
        yield _told(
            "log.took_more",
            f"{amp_hours(seen.charge_ah)} went in, {amp_hours(foretold.charge_ah)} foretold: something else drew "
            "while it charged, or the cell holds more than planned",
        )
    slow = _time_off(seen, foretold)
    if ended and slow is not None and slow - off > TIME_OFF:
        yield _told(
            "log.slower",
            f"{hours(seen.flow_hours)} for what was foretold to take {hours(foretold.total_hours or 0)}: less current "
            "than planned, or a long tail through resistance",
        )


def _run_down(seen: LogAnalysis, foretold: Predicted) -> Iterator[LogFinding]:
    off = _time_off(seen, foretold)
    if off is None or abs(off) <= TIME_OFF:
        return
    charge_off = seen.charge_ah / foretold.charge_ah - 1 if foretold.charge_ah > 0 else 0.0
    ran = f"{percent(abs(off))} {'longer' if off > 0 else 'shorter'} than foretold: {hours(seen.flow_hours)}"
    if off < 0 and charge_off < -CHARGE_OFF:
        yield _told("log.holds_less", f"{ran}, and {amp_hours(seen.charge_ah)} came out: it holds less than planned")
    elif off < 0:
        yield _told("log.draws_more", f"{ran}, though the charge came out: the gadget draws more than surveyed")
    else:
        yield _told("log.draws_less", f"{ran}: the gadget draws less than surveyed, or the cell holds more")


def _time_off(seen: LogAnalysis, foretold: Predicted) -> float | None:
    return seen.flow_hours / foretold.total_hours - 1 if foretold.total_hours else None


def _told(code: str, headline: str) -> LogFinding:
    return LogFinding(code=code, level="note", headline=headline)
