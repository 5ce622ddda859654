"""Power: what the gadget gets, and whether it works with it."""

from collections.abc import Iterator

from pocketspark.core.chain import ModeRun, Running
from pocketspark.core.circuit import TOLERANCES, Circuit
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import row_of, say, verbatim
from pocketspark.core.models import FRONT_ENDS
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import percent, volts

# Absolute maximum of ordinary 3.3 V logic (common practice; the parts' own figures prevail).
LOGIC_ABS_MAX_V = 3.6

# Charge left in the cell, as a share, that is worth a note, and that is worth a caution (our judgement, no source).
UNUSED_NOTE, UNUSED_CAUTION = 0.05, 0.40

# Closer than this to a limit is on it: a meter of two decimals shows no difference.
SAME_V = 0.005


@rule(
    "power.over_window",
    station="power",
    node="gadget",
    source="the gadget's window; full voltage of the cell's class",
    advice=say("Put a regulator before the gadget, or find out how much it really survives."),
)
def over_window(running: Running) -> Iterator[Judgement]:
    """The most the gadget ever sees (full cell, lightest load) against the most it may be given."""
    gadget, window = running.gadget, running.chain.window
    most, takes = volts(running.gadget_v_max), volts(window.v_abs_max)
    over_v = most.value - window.v_abs_max
    guessed = window.max_basis == "inferred"
    working = say(
        "full cell {full_v}, lightest load: {most} at the gadget; its limit is {takes}",
        full_v=volts(running.chosen.full_v),
        most=most,
        takes=takes,
    )
    facts: Facts = {"figure": most, "limit": takes, "rests_on": ("gadget.window.v_abs_max",)}
    if over_v <= SAME_V:
        yield fine(
            say("The gadget gets {most} at most; it survives {takes}.", most=most, takes=takes),
            working=working,
            **facts,
        )
        return
    front_end = FRONT_ENDS[gadget.front_end]
    logic_max_v = gadget.behind.logic_max_v or LOGIC_ABS_MAX_V
    bare_logic = gadget.front_end == "logic" and most.value > max(window.v_abs_max, logic_max_v)
    sentence = say(
        "With a full cell the gadget gets {most}, over its limit of {takes}: {too_much}.",
        most=most,
        takes=takes,
        too_much=front_end.too_much,
    )
    if guessed and not bare_logic:
        advice = say(
            "{working}. It was made for fresh batteries; a bench supply shows whether it survives more.",
            working=working,
        )
        yield caution(sentence, working=advice, assumed=True, **facts)
    else:
        yield stop(sentence, working=working, assumed=guessed, **facts)


@rule(
    "power.under_window",
    station="power",
    node="gadget",
    source="discharge along the open-circuit curve, one series resistance",
    advice=say("Put a step-up converter before the gadget, or find out how low it really works."),
    guide="lowest_volts_worn",
)
def under_window(running: Running) -> Iterator[Judgement]:
    """Where the gadget gives up before the cell is empty, charge stays in it; at worst it never runs."""
    if not running.runs:
        return
    worst = max(running.runs, key=lambda run: run.unused)
    window = running.chain.window
    guessed = window.min_basis == "inferred"
    needs, unused = volts(window.v_run_min), percent(worst.unused)
    facts: Facts = {"rests_on": ("gadget.window.v_run_min",), "subjects": (worst.mode.name,)}
    if worst.hours <= 0:
        yield _never_runs(running, worst, guessed)
        return
    low = volts(float(worst.run.gadget_v[..., -1].flat[0]))
    working = say(
        "“{mode}” ends with {low} at the gadget, ended by the {stopped_by}",
        mode=worst.mode.name,
        low=low,
        stopped_by=worst.stopped_by,
    )
    if worst.stopped_by != "gadget" or worst.unused < UNUSED_NOTE:
        used = percent(1 - worst.unused)
        yield fine(say("{used} of the charge is used.", used=used), figure=used, working=working, **facts)
        return
    level = caution if worst.unused > UNUSED_CAUTION else note
    yield level(
        say(
            "{unused} stays in the cell: in “{mode}” the gadget stops at {needs}.",
            unused=unused,
            mode=worst.mode.name,
            needs=needs,
        ),
        figure=unused,
        limit=needs,
        working=working,
        assumed=guessed,
        **facts,
    )


def _never_runs(running: Running, worst: ModeRun, guessed: bool) -> Judgement:
    """It does not even start: for want of volts at the gadget, or because its current pulls the cell down."""
    full, needs = volts(running.gadget_v_at(running.chosen.full_v, worst.load)), volts(running.chain.window.v_run_min)
    through = kind_of(running.chain.regulator).label
    facts: Facts = {
        "working": say("“{mode}”, full cell, regulator: {through}", mode=worst.mode.name, through=through),
        "rests_on": ("gadget.window.v_run_min",),
        "subjects": (worst.mode.name,),
        "assumed": guessed,
    }
    if worst.stopped_by == "gadget" and full.value >= needs.value:
        sentence = say(
            "It will not run: “{mode}” asks for more power than a full cell can give through this regulator.",
            mode=worst.mode.name,
        )
        return stop(sentence, **facts)
    if worst.stopped_by == "gadget":
        sentence = say("It will not run: the gadget needs {needs} and gets {full} at best.", needs=needs, full=full)
        return stop(sentence, figure=full, limit=needs, **facts)
    cut = volts(running.chosen.cuts[worst.stopped_by])
    sentence = say(
        "It will not run: “{mode}” pulls even a full cell below {cut}, where the {stopped_by} cuts off.",
        mode=worst.mode.name,
        cut=cut,
        stopped_by=worst.stopped_by,
    )
    return stop(sentence, figure=cut, **facts)


@rule(
    "power.two_regulators",
    station="power",
    source="the parts' own laws, one after the other",
    advice=say("Take one of them out if one alone gives what the gadget needs: each burns its share."),
)
def two_regulators(running: Running) -> Iterator[Judgement]:
    """Regulators in a row are computed as they stand: the last sets the gadget's volts, and each burns its share."""
    regulators = running.chosen.regulators_in_the_way
    if len(regulators) < 2 or not running.gadget.modes:
        return
    gets = volts(running.gadget_v_max)
    yield note(
        say(
            "The gadget gets {gets} through {count} regulators in a row.",
            gets=gets,
            count=len(regulators),
        ),
        figure=gets,
        working=say(
            "From the cell: {regulators}. Every figure counts all of them. Each loses its share.",
            regulators=row_of(verbatim(one.name) for one in regulators),
        ),
    )


@rule(
    "power.regulator_starved",
    station="power",
    source="the part's own input range",
    limits=say("its least input"),
    advice=say("Choose a converter that works from less, or a cell and a source that give more."),
)
def regulator_starved(circuit: Circuit) -> Iterator[Judgement]:
    """A converter needs its least input volts: from a full cell to work at all, and plugged in too."""
    for number, regulator in enumerate(circuit.running.chosen.regulators_in_the_way):
        if not kind_of(regulator).switches:
            continue
        needs, quantity = volts(regulator.v_in_min), f"regulator{number}_in_v"
        at_best = circuit.worst(quantity, uses=("mode",), feeds=("unplugged",))
        at_worst = circuit.worst(quantity, least=True, uses=("mode",), feeds=("plugged in",), tolerances=TOLERANCES)
        if at_best is not None and at_best.value < needs.value:
            gets = volts(at_best.value)
            yield stop(
                say(
                    "The {regulator} never starts: it needs {needs}, and a full cell brings it {gets}.",
                    regulator=regulator.name,
                    needs=needs,
                    gets=gets,
                ),
                figure=gets,
                limit=needs,
                working=corner_in_words(at_best.corner),
            )
        elif at_worst is not None and at_worst.value < needs.value:
            gets = volts(at_worst.value)
            yield caution(
                say(
                    "Plugged in, the {regulator} can get {gets}, and it needs {needs}.",
                    regulator=regulator.name,
                    gets=gets,
                    needs=needs,
                ),
                figure=gets,
                limit=needs,
                working=corner_in_words(at_worst.corner),
            )
