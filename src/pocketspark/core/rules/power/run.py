"""Power: how long it runs, when it warns, and what is heard of it."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenCell, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.message import _, all_of, say
from pocketspark.core.models.gadget import JOBS
from pocketspark.core.rules.rule import Facts, caution, note, rule
from pocketspark.core.units.figures import amp_hours, celsius, fixed, hours, ohms, percent, volts


@rule(
    "power.run_time",
    station="power",
    node="gadget",
    source="discharge along the open-circuit curve; old capacities from memory",
    advice=say("Nothing to do: this is what a charge gives."),
)
def run_time(running: Running) -> Iterator[Judgement]:
    """Hours on a charge beside what a set of the old batteries gave."""
    run = running.most_used
    if run is None:
        return
    supply = running.gadget.supply
    new, old = hours(run.hours), hours(running.original_hours(run.mode))
    working = say(
        "{charge_ah} out of {capacity_ah}; the old set holds {capacity_ah_2} at light drain and less at "
        "heavy drain (drain curve from memory)",
        charge_ah=amp_hours(run.charge_ah),
        capacity_ah=amp_hours(running.chosen.capacity_ah),
        capacity_ah_2=amp_hours(supply.capacity_ah),
    )
    facts: Facts = {"figure": new, "limit": old, "working": working, "assumed": True, "subjects": (run.mode.name,)}
    if new.value < old.value * 0.1:
        yield caution(
            say(
                "A charge gives {new} of “{mode}”. The old set ({supply}) gave over ten times as much, about {old}.",
                new=new,
                mode=run.mode.name,
                supply=supply.label,
                old=old,
            ),
            **facts,
        )
    elif run.service_share < 1:
        yield note(
            say(
                "A charge gives {new} of “{mode}”, {served} of them with enough {job}. The old set ({supply}) gave "
                "about {old}.",
                new=new,
                served=hours(run.service_hours),
                job=JOBS[running.gadget.job_of(run.mode)][0],
                mode=run.mode.name,
                supply=supply.label,
                old=old,
            )
            if run.service_share > 0
            else say(
                "A charge gives {new} of “{mode}”, never with enough {job}. The old set ({supply}) gave about {old}.",
                new=new,
                job=JOBS[running.gadget.job_of(run.mode)][0],
                mode=run.mode.name,
                supply=supply.label,
                old=old,
            ),
            **facts,
        )
    else:
        yield note(
            say(
                "A charge gives {new} of “{mode}”. The old set ({supply}) gave about {old}.",
                new=new,
                mode=run.mode.name,
                supply=supply.label,
                old=old,
            ),
            **facts,
        )


_FULL_TO_THE_END = (
    _("Its battery gauge shows full until the end: nothing is left when it warns."),
    _("Its battery gauge shows full until the end: only {at_warning} is left when it warns."),
)


@rule(
    "power.gauge",
    station="power",
    node="gadget",
    source="the gadget's own thresholds; where not known, 1.2 V an alkaline cell, common practice",
    formula=say("charge left where the gadget's volts pass the threshold, in the heaviest mode"),
    advice=say("Go by the hours, or by a meter at the cell."),
    follows=("power.under_window",),
)
def gauge(running: Running) -> Iterator[Judgement]:
    """A gadget judges its battery by volts that were alkaline: when it warns, and what is left when it stops."""
    warn_v, stop_v = running.gauge_warn_v, running.gauge_stop_v
    if warn_v is None or stop_v is None or not running.runs:
        return
    known = running.gadget.gauge
    guessed = known is None or known.warn_v is None
    at_warning, at_stop = (percent(running.left_when_gadget_at(v)) for v in (warn_v, stop_v))
    working = say(
        "warns at {warn_v}, stops at {stop_v}; {gadget_v_min} at the end of the run",
        warn_v=volts(warn_v),
        stop_v=volts(stop_v),
        gadget_v_min=volts(running.gadget_v_min),
    )
    if at_warning.value >= 0.98:
        sentence = say(
            "Its battery gauge warns from the start: it never gets more than {warn_v}.", warn_v=volts(warn_v)
        )
    elif at_warning.value <= 0.02:
        sentence = say(_FULL_TO_THE_END[at_warning.value >= 0.005], at_warning=at_warning)
    else:
        sentence = say(
            "Its battery gauge warns with {at_warning} of the charge left and stops with {at_stop} left.",
            at_warning=at_warning,
            at_stop=at_stop,
        )
    yield note(sentence, figure=at_warning, working=working, assumed=guessed, rests_on=("gadget.gauge.warn_v",))


@rule(
    "power.conditions",
    station="power",
    node="cell",
    source="usual data-sheet end of life and cold, from memory",
    limits=say("300 cycles: 80 % capacity, {it} x resistance; {it_2}: 85 %, 2 x", it=fixed(1.5, 1), it_2=celsius(0)),
    advice=say("Nothing to do. Switch the option off to see the new cell in a warm room."),
)
def conditions(chosen: ChosenCell) -> Iterator[Judgement]:
    """Says so where the build is judged as an old cell, or in the cold."""
    build = chosen.chain.build
    how = [
        words
        for on, words in ((build.aged, say("after 300 cycles")), (build.cold, say("at {it}", it=celsius(0.0))))
        if on
    ]
    if how:
        holds = amp_hours(chosen.capacity_ah)
        yield note(
            say(
                "Judged {how}: the cell holds {holds} and has {r_ohm}.",
                how=all_of(how),
                holds=holds,
                r_ohm=ohms(chosen.r_ohm),
            ),
            figure=holds,
            working=say("all figures of this build, until the option is switched off"),
            assumed=True,
        )
