"""Power: who stops what, and in which order."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Charging, Running
from pocketspark.core.circuit import Circuit
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.circuit.corners import Worst
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import _, say
from pocketspark.core.rules.rule import Facts, caution, fine, note, rule, stop
from pocketspark.core.units.figures import amps, fixed, ohms, percent, volts

# Start-up peaks are short and seldom measured whole: the protection's low end should clear them by this much.
PEAK_MARGIN = 1.3

# An overload trips it after some 10 ms (from memory); what is over sooner does not.
OVERLOAD_DELAY_S = 0.010

# Over a class's full voltage by more than this, the over-charge cut comes too late to save the cell (handbooks of such
# circuits give 4.25 to 4.35 V for a 4.20 V cell, from memory).
OVER_CHARGE_SPAN_V = 0.20

# How far under the class's empty voltage a protection may cut: 2.4 V for a lithium cell that is empty at 3.0 V; and
# where the cell is lost (common practice, no source).
CUT_UNDER_EMPTY_V, CUT_LOST_V = 0.6, 0.8


@rule(
    "power.no_protection",
    station="power",
    node="protection",
    source="common practice, no source",
    advice=say("Add a protection board, or choose a cell or charger that has one."),
)
def no_protection(chain: Chain) -> Iterator[Judgement]:
    """Between cell and gadget there must be one protection: on the charger, on its own board, or on the cell."""
    if chain.cell is None and not chain.build.boards:
        return
    first = chain.first_to_trip
    if first is None:
        yield stop(
            say("Nothing stops an over-discharge or a short: this build has no protection."),
            working=say(
                "Choose a charger board with protection, a protection board (also sold as BMS or PCM), or a cell "
                "that carries its own."
            ),
        )
        return
    count = len(chain.protections)
    who = "The protection" if count == 1 else say("The first of {count} protections in series", count=count)
    cut, trip = volts(first.cut_v), amps(first.trip_current_a)
    yield fine(say("{who} opens at {cut}, and at about {trip}.", who=who, cut=cut, trip=trip), figure=cut)


def longest_peak(circuit: Circuit) -> Worst | None:
    """The most that leaves the cell for long enough to be seen by a protection."""
    return circuit.worst("cell_out_a", shortest_s=OVERLOAD_DELAY_S)


_TRIPS = (
    _("The gadget will not start: its {peak} peak trips the protection, which can open at {least}."),
    _("The gadget can fail to start: its cold filament draws {peak}, and the protection can open at {least}."),
)


@rule(
    "power.protection_trips_early",
    station="power",
    node="protection",
    source="common practice, no source",
    formula=say(
        "I_trip = V_trip / (2 R_on), R_on at {empty} V in the cell, low end of the tolerance", empty=fixed(3.0, 1)
    ),
    limits=say("peak x {peak_margin}", peak_margin=fixed(PEAK_MARGIN, 1)),
    advice=say("Choose a protection that trips later, or soften the start."),
    guide="pulses",
)
def trips_early(circuit: Circuit) -> Iterator[Judgement]:
    """The low end of the protection's trip must clear the gadget's peak with a margin, or it cuts on start-up."""
    protection = circuit.chain.first_to_trip
    worst = longest_peak(circuit)
    if protection is None or worst is None:
        return
    peak, least = amps(worst.value), amps(protection.trip_least_a)
    working = say(
        "{v_trip} / (2 x {r_on_ohm}) = {trip_current_a} ± {trip_tolerance}, less with an empty cell, "
        "which drives its transistors less: {least} at least. Peak x {peak_margin} = "
        "{with_margin}. {corner}",
        v_trip=volts(protection.v_trip),
        r_on_ohm=ohms(protection.r_on_ohm),
        trip_current_a=amps(protection.trip_current_a),
        trip_tolerance=percent(protection.trip_tolerance),
        least=least,
        peak_margin=fixed(PEAK_MARGIN, 1),
        with_margin=amps(worst.value * PEAK_MARGIN),
        corner=corner_in_words(worst.corner),
    )
    guessed = worst.corner.use.kind == "cold filament"
    if protection.trip_least_a < worst.value:
        # How much a cold filament draws is a rule of thumb: a start to be tried, and not one that is known to fail.
        level = caution if guessed else stop
        yield level(
            say(_TRIPS[guessed], peak=peak, least=least),
            figure=peak,
            limit=least,
            working=working,
            assumed=True if guessed else None,
        )
    elif protection.trip_least_a < worst.value * PEAK_MARGIN:
        yield caution(
            say("The {peak} peak comes close to the {least} at which the protection can open.", peak=peak, least=least),
            figure=peak,
            limit=least,
            working=working,
        )
    else:
        yield fine(
            say("The {peak} peak passes: the protection opens at {least} or more.", peak=peak, least=least),
            figure=peak,
            limit=least,
            working=working,
        )


@rule(
    "power.protection_trips_late",
    station="power",
    node="protection",
    source="common practice, no source",
    advice=say("Put a fuse of the cell's rating in its lead where a jam or a short is likely."),
)
def trips_late(circuit: Circuit) -> Iterator[Judgement]:
    """A protection that trips above the cell's own maximum will not save it from a moderate overload."""
    running, most_a = circuit.running, circuit.running.chosen.discharge_max_a
    if not running.chain.protections or most_a is None:
        return
    latest = amps(min(protection.trip_most_a for protection in running.chain.protections))
    may_give = amps(most_a)
    if latest.value > may_give.value:
        # Worth a worry only where the gadget can draw a moderate overload: a motor that is held fast.
        overload = may_give.value < circuit.most("cell_out_a", uses=("stalled",)) < latest.value
        level = caution if overload else note
        yield level(
            say("The protection stops a short, not a moderate overload."),
            figure=latest,
            limit=may_give,
            working=say(
                "It opens at {latest} at the latest; the cell can supply {may_give}. A small fuse stops an overload.",
                latest=latest,
                may_give=may_give,
            ),
        )


@rule(
    "power.over_charge_cut",
    station="power",
    node="protection",
    source="common practice, no source",
    limits=say(
        "between the charger's end voltage and {over_charge_span_v} over the class's full voltage",
        over_charge_span_v=volts(OVER_CHARGE_SPAN_V),
    ),
    advice=say("Choose a protection made for this class of cell."),
)
def over_charge_cut(charging: Charging) -> Iterator[Judgement]:
    """The over-charge cut lies above the charger's end voltage, and not so far above it that the cell is lost first."""
    protections = charging.chain.protections
    if not protections:
        return
    float_v, facts = volts(charging.charger.float_v), charging.cell.facts
    first = volts(min(protection.over_charge_v for protection in protections))
    too_high = volts(facts.full_v + OVER_CHARGE_SPAN_V)
    if first.value < float_v.value:
        yield caution(
            say(
                "The protection opens at {first}, before the charger finishes at {float_v}. The cell never gets full.",
                first=first,
                float_v=float_v,
            ),
            figure=first,
            limit=float_v,
            working=say("The lamp can then show full at once, or blink."),
        )
    elif first.value > too_high.value:
        yield caution(
            say(
                "The protection stops an over-charge only at {first}, too late for a cell that is full at {full_v}.",
                first=first,
                full_v=volts(facts.full_v),
            ),
            figure=first,
            limit=too_high,
            working=say(
                "A {facts} cell needs a protection of its own class. Here only the charger limits its voltage.",
                facts=facts.label,
            ),
        )
    else:
        yield fine(say("If the charger fails, the protection opens at {first}.", first=first), figure=first)


@rule(
    "power.cut_low",
    station="power",
    node="protection",
    source="over-discharge cuts of 2.4 to 3.0 V, common practice; copper dissolves at deep discharge, from memory",
    limits=say(
        "{least} under the class's empty voltage: a cell lost early; {lost}: never",
        least=volts(CUT_UNDER_EMPTY_V),
        lost=volts(CUT_LOST_V),
    ),
    advice=say("Choose a protection made for this class of cell."),
)
def cut_low(running: Running) -> Iterator[Judgement]:
    """The over-discharge cut must suit the class: a cell that is emptied far below it is damaged for good."""
    protections = running.chain.protections
    if not protections:
        return
    empty_v = running.cell.facts.empty_v
    cut, least = volts(max(one.cut_v for one in protections)), volts(empty_v - CUT_UNDER_EMPTY_V)
    facts: Facts = {"figure": cut, "limit": least}
    if cut.value < empty_v - CUT_LOST_V:
        yield stop(
            say(
                "The protection lets the cell run down to {cut}. A {cell} cell is damaged below {least}.",
                cut=cut,
                cell=running.cell.facts.label,
                least=least,
            ),
            working=say("Copper dissolves at deep discharge and can short the cell when it is charged again."),
            **facts,
        )
    elif cut.value < least.value:
        yield caution(
            say("The protection cuts off only at {cut}. Below {least} this cell wears out fast.", cut=cut, least=least),
            **facts,
        )
    else:
        yield fine(say("The protection cuts off at {cut}.", cut=cut), **facts)


@rule(
    "power.needs_waking",
    station="power",
    node="protection",
    source="common practice, no source",
    advice=say("Plug the charger in for a moment after it has cut off."),
)
def needs_waking(running: Running) -> Iterator[Judgement]:
    """A protection that has opened closes again where the cell recovers to its release voltage, else on a charger."""
    heaviest = running.heaviest_run
    if heaviest is None or not running.chain.protections or heaviest.stopped_by != "protection":
        return
    protection = max(running.chain.protections, key=lambda protection: protection.cut_v)
    recovered = volts(float(running.chosen.curve.at(heaviest.unused)))
    release = volts(protection.release_v)
    if recovered.value < release.value:
        yield note(
            say(
                "Once run flat, it stays dead until it is plugged in: the cell recovers to {recovered}, but the "
                "protection closes again only at {release}.",
                recovered=recovered,
                release=release,
            ),
            figure=recovered,
            limit=release,
            working=say("Most wake as soon as a charger is connected. Blinking on the charger at first is usual."),
        )


@rule(
    "power.cell_ends_low",
    station="power",
    node="protection",
    source="common practice, no source",
    advice=say("Switch it off when it weakens, or choose a regulator that stops earlier."),
)
def cell_ends_low(running: Running) -> Iterator[Judgement]:
    """The gadget or regulator should stop before the protection does; the protection is the last line."""
    if not running.runs or not running.chosen.protections_in_the_way:
        return
    cut, better = volts(running.chosen.cuts["protection"]), volts(running.cell.stop_v)
    if all(run.stopped_by == "gadget" for run in running.runs) or cut.value >= better.value:
        return
    yield note(
        say(
            "Left on, the gadget empties the cell to {cut}, where the protection opens. Stopping at {better} "
            "would spare it.",
            cut=cut,
            better=better,
        ),
        figure=cut,
        limit=better,
        working=say(
            "Nothing stops the run before that. A cell emptied so deep each time wears out sooner, so recharge early."
        ),
    )


@rule(
    "power.peak_at_empty",
    station="power",
    source="constant-power input of converters, common practice",
    formula=say(
        "I_in = V_set I_peak / (eta V) at {empty} V ({lfp} V for LFP) in the cell",
        empty=fixed(3.0, 1),
        lfp=fixed(2.5, 1),
    ),
    advice=say("Choose a larger cell or converter, or put a capacitor beside the gadget."),
    guide="pulses",
)
def peak_at_empty(circuit: Circuit) -> Iterator[Judgement]:
    """A step-up draws most when the cell has least: its peak must still be carried, by cell, protection, converter."""
    running = circuit.running
    regulator = running.chain.regulator
    if not kind_of(regulator).steps_up or not running.runs:
        return
    empty = volts(running.cell.facts.empty_v)
    if circuit.is_overwhelmed:
        yield stop(
            say(
                "At {empty} in the cell the {regulator} cannot supply the peak: the gadget restarts in a loop.",
                empty=empty,
                regulator=regulator.name,
            ),
            figure=empty,
            working=say(
                "{all_ohm} in all between cell and converter is too much for that power",
                all_ohm=ohms(running.chosen.all_ohm),
            ),
        )
        return
    plain, drawn = (
        amps(max(mode.most_a for mode in running.gadget.modes)),
        amps(circuit.most("cell_out_a", uses=("mode", "peak"), feeds=("unplugged",))),
    )
    yield fine(
        say("Nearly empty, the cell gives {drawn} for the gadget's {plain} peak.", drawn=drawn, plain=plain),
        figure=drawn,
        working=say(
            "at {empty}, efficiency {efficiency} at best", empty=empty, efficiency=percent(regulator.efficiency)
        ),
    )
