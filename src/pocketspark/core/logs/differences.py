"""Measured against predicted: where a run differs by more than meters err, and what that most likely means.

The limits are common practice, no source.
"""

from collections.abc import Iterator

from pocketspark.core.logs.analysis import LogAnalysis, LogFinding
from pocketspark.core.logs.predicted_run import PredictedRun
from pocketspark.core.message import Message, say
from pocketspark.core.units.figures import amp_hours, hours, percent

# Less than this is the meter's, the curve's, or where the cell stood at the start.
CHARGE_OFF, TIME_OFF = 0.10, 0.15


def differences(seen: LogAnalysis, predicted: PredictedRun | None) -> tuple[LogFinding, ...]:
    """What the prediction did not know. Empty where nothing was predicted, or all went as it was."""
    if predicted is None:
        return ()
    return tuple(_charge(seen, predicted) if seen.kind == "charge" else _discharge(seen, predicted))


def _charge(seen: LogAnalysis, predicted: PredictedRun) -> Iterator[LogFinding]:
    ended = seen.end_current_a is not None and any(phase.name == "ended" for phase in seen.phases)
    off = seen.charge_ah / predicted.charge_ah - 1 if predicted.charge_ah > 0 else 0.0
    if ended and off < -CHARGE_OFF:
        yield _finding(
            "log.took_less",
            say(
                "{charge} went in where {predicted} was predicted. It was not empty, or it holds less than planned; a "
                "run-down shows which.",
                charge=amp_hours(seen.charge_ah),
                predicted=amp_hours(predicted.charge_ah),
            ),
        )
    if ended and off > CHARGE_OFF:
        yield _finding(
            "log.took_more",
            say(
                "{charge} went in where {predicted} was predicted. Something else drew current while it charged, "
                "or the cell holds more than planned.",
                charge=amp_hours(seen.charge_ah),
                predicted=amp_hours(predicted.charge_ah),
            ),
        )
    slow = _time_off(seen, predicted)
    if ended and slow is not None and slow - off > TIME_OFF:
        yield _finding(
            "log.slower",
            say(
                "It took {flow_hours} instead of {total_hours}: less current than planned, or a long tail through "
                "resistance.",
                flow_hours=hours(seen.flow_hours),
                total_hours=hours(predicted.total_hours or 0),
            ),
        )


def _discharge(seen: LogAnalysis, predicted: PredictedRun) -> Iterator[LogFinding]:
    off = _time_off(seen, predicted)
    if off is None or abs(off) <= TIME_OFF:
        return
    charge_off = seen.charge_ah / predicted.charge_ah - 1 if predicted.charge_ah > 0 else 0.0
    figures = {"off": percent(abs(off)), "ran": hours(seen.flow_hours)}
    if off < 0 and charge_off < -CHARGE_OFF:
        yield _finding(
            "log.holds_less",
            say(
                "It ran {ran}, {off} shorter than predicted, and only {charge} came out. The cell holds less than "
                "planned.",
                charge=amp_hours(seen.charge_ah),
                **figures,
            ),
        )
    elif off < 0:
        yield _finding(
            "log.draws_more",
            say(
                "It ran {ran}, {off} shorter than predicted, although the whole charge came out. The gadget draws more "
                "than surveyed.",
                **figures,
            ),
        )
    else:
        yield _finding(
            "log.draws_less",
            say(
                "It ran {ran}, {off} longer than predicted. The gadget draws less than surveyed, or the cell holds "
                "more.",
                **figures,
            ),
        )


def _time_off(seen: LogAnalysis, predicted: PredictedRun) -> float | None:
    return seen.flow_hours / predicted.total_hours - 1 if predicted.total_hours else None


def _finding(code: str, headline: Message) -> LogFinding:
    return LogFinding(code=code, level="note", headline=headline)
