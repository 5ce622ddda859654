"""Power: a gadget that needs more volts to start than to go on running."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import ModeRun, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import percent, volts

# Of the charge, in which it runs on but does not start again: from here a note, from there a caution (our judgement).
LEFT_NOTE, LEFT_CAUTION = 0.05, 0.25


@rule(
    "power.starts_again",
    station="power",
    node="gadget",
    source="discharge along the open-circuit curve, against the volts at which it starts",
    limits=say(
        "note from {note} of the charge, caution from {caution}", note=percent(LEFT_NOTE), caution=percent(LEFT_CAUTION)
    ),
    advice=say("Put a step-up converter before the gadget, or leave it switched on until the cell is charged."),
    guide="lowest_volts_worn",
    follows=("power.under_window",),
)
def starts_again(running: Running) -> Iterator[Judgement]:
    """Switched off near the end of a charge it may stay off, though it would have run on for hours."""
    window = running.chain.window
    runs = [run for run in running.runs if run.hours > 0]
    if window.v_start_min <= window.v_run_min or not runs:
        return
    worst = max(runs, key=lambda run: _left_where_it_starts_no_more(run, window.v_start_min))
    share = _left_where_it_starts_no_more(worst, window.v_start_min)
    starts, needs, left = volts(window.v_start_min), volts(window.v_run_min), percent(share)
    facts: Facts = {
        "figure": left,
        "limit": starts,
        "subjects": (worst.mode.name,),
        "working": say(
            "“{mode}” starts at {starts} and goes on down to {needs}", mode=worst.mode.name, starts=starts, needs=needs
        ),
        "rests_on": ("gadget.window.v_start_min", "gadget.window.v_run_min"),
    }
    if share >= 1:
        yield stop(
            say("It will not start: it needs {starts} for that, more than a full cell gives.", starts=starts), **facts
        )
    elif share >= LEFT_NOTE:
        level = caution if share >= LEFT_CAUTION else note
        yield level(
            say(
                "Switched off in the last {left} of a charge, it does not start again in “{mode}”.",
                left=left,
                mode=worst.mode.name,
            ),
            **facts,
        )
    else:
        yield fine(say("It starts again until the charge is nearly used up."), **facts)


def _left_where_it_starts_no_more(run: ModeRun, starts_v: float) -> float:
    """Share of its run's charge that is left where the gadget has sunk to these volts; 1: it never starts."""
    soc, gadget_v = run.run.soc.ravel(), run.run.gadget_v.ravel()
    if gadget_v[0] < starts_v:
        return 1.0
    if gadget_v[-1] >= starts_v:
        return 0.0
    # Volts fall along the run.
    at = float(np.interp(-starts_v, -np.minimum.accumulate(gadget_v), soc))
    return (at - float(soc[-1])) / float(soc[0] - soc[-1])
