"""Cell: a new cell for a charger that the gadget has already."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, ChosenCell, ChosenParts, GivenCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import SAME_V
from pocketspark.core.message import say
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amp_hours, amps, amps_apart, celsius, hours, percent, times, volts

# A gauge that counts charge is told apart from the truth from here on (common practice, no source).
GAUGE_OFF = 0.10


@rule(
    "cell.swap_without_lithium",
    station="cell",
    source="how this tool counts",
    advice=say("Fit a charger board, or choose another style of conversion."),
)
def swap_without_lithium(chain: Chain) -> Iterator[Judgement]:
    """A gadget's own charger can only be kept where it has one, for lithium."""
    if chain.build.who_charges == "gadget" and not chain.gadget.has_lithium_charger:
        yield stop(
            say(
                "Nothing would charge the cell. This gadget runs on {supply} and has no lithium charger to keep.",
                supply=chain.gadget.supply.label,
            ),
            remedy=remedy(say("Let a board of ours charge"), {f"{chain.path}.who_charges": "board"}),
        )


@rule(
    "cell.swap_class",
    station="cell",
    source="full voltage of the cell's class (handbooks, from memory)",
    advice=say("Choose a cell of the class that its charger is made for."),
)
def swap_class(chosen: ChosenCell) -> Iterator[Judgement]:
    """The full-charge voltage of the cell must be that of the charger that is there."""
    ends_v, charger = chosen.chain.charge_ends_v, _called(chosen.chain)
    if not charger or ends_v is None:
        return
    facts = chosen.cell.facts
    ends, full = volts(ends_v), volts(facts.full_v)
    if ends.value > full.value + SAME_V:
        yield stop(
            say(
                "The {charger} over-charges this cell: it stops at {ends}, but the cell is full at {full}.",
                charger=charger,
                ends=ends,
                full=full,
            ),
            figure=ends,
            limit=full,
        )
    elif ends.value < full.value - SAME_V:
        unused = percent(1 - float(chosen.curve.soc_at(ends.value)))
        yield caution(
            say(
                "{unused} of the label stays unused: the {charger} stops at {ends}.",
                unused=unused,
                charger=charger,
                ends=ends,
            ),
            figure=unused,
            limit=full,
            working=say("a {facts} cell is full at {full}; safe", facts=facts.label, full=full),
        )
    else:
        yield fine(
            say("The {charger} stops at {ends}, where this cell is full.", charger=charger, ends=ends), figure=ends
        )


def _called(chain: ChosenParts) -> str:
    """What the charger that is there is called in a sentence; "" where a board of ours charges."""
    if chain.build.who_charges == "external":
        return "external charger"
    return "gadget's own charger" if chain.keeps_own_charger else ""


@rule(
    "cell.swap_charge",
    station="cell",
    source="charge along the open-circuit curve; timers, common practice",
    advice=say("Choose a cell that can take the charger's current and is full before its timer ends."),
)
def swap_charge(charging: GivenCharging) -> Iterator[Judgement]:
    """The charger's own current into this cell: how long it takes, and whether its timer or the cell objects."""
    cell, charger = charging.cell, charging.board.name
    limit_a = charging.chosen.charge_max_a or cell.capacity_ah * charging.chosen.count
    gives, takes = amps_apart(charging.charger.rated_a, limit_a)
    if charging.charger.rated_a > limit_a * 1.001:
        yield stop(
            say(
                "The {charger} supplies {gives} to a cell rated for {takes}.", charger=charger, gives=gives, takes=takes
            ),
            figure=gives,
            limit=takes,
        )
    taken = hours(float(charging.run.hours.flat[0]))
    working = say(
        "{rated_a} into {capacity_ah}",
        rated_a=amps(charging.charger.rated_a),
        capacity_ah=amp_hours(charging.chosen.capacity_ah),
    )
    own = charging.chain.gadget.supply.own_charger if charging.chain.keeps_own_charger else None
    if own is not None and own.timer_h is not None and taken.value > own.timer_h:
        timer = hours(own.timer_h)
        yield caution(
            say(
                "The gadget's own timer ends the charge after {timer}, and a full one takes {taken}.",
                timer=timer,
                taken=taken,
            ),
            figure=taken,
            limit=timer,
            working=say("{working}; unplug it and plug it in again for the rest", working=working),
        )
    elif charging.run.hours.flat[0] < float("inf"):
        yield fine(
            say("A full charge takes {taken} on the {charger}.", taken=taken, charger=charger),
            figure=taken,
            working=working,
        )


@rule(
    "cell.swap_gauge",
    station="cell",
    source="common practice, no source",
    limits=say("{gauge_off} in capacity", gauge_off=percent(GAUGE_OFF)),
    advice=say("Run it empty and charge it full once or twice. It then learns the new capacity."),
)
def swap_gauge(chosen: ChosenCell) -> Iterator[Judgement]:
    """A gauge that counted the old capacity lies until it has relearnt."""
    old_ah = chosen.chain.gadget.supply.pack_capacity_ah
    if not chosen.chain.keeps_own_charger or old_ah is None:
        return
    share = times(chosen.capacity_ah / old_ah)
    if abs(share.value - 1) > GAUGE_OFF:
        yield note(
            say(
                "Its battery gauge will read wrong until it relearns: the new cell holds {share} what the old one did.",
                share=share,
            ),
            figure=share,
            working=say("One run from full until it switches off, then a full charge, teaches most gauges."),
        )


@rule(
    "cell.swap_thermistor_lead",
    station="cell",
    source="common practice, no source",
    advice=say("Connect the new cell's thermistor to the old contact, or the resistor that replaces it."),
)
def swap_thermistor_lead(chosen: ChosenCell) -> Iterator[Judgement]:
    """A charger that reads a thermistor must go on reading one, or its fixed resistor."""
    own = chosen.chain.gadget.supply.own_charger
    if not chosen.chain.keeps_own_charger or own is None or not own.reads_thermistor:
        return
    if chosen.cell.thermistor_lead:
        yield fine(say("The cell has a temperature wire, which the gadget's charger goes on reading."))
    else:
        yield caution(
            say(
                "The gadget's charger reads a temperature wire, which this cell lacks: it will refuse to charge, or "
                "charge blind."
            ),
            working=say(
                "Move the old thermistor onto the new cell, or fit a resistor of its value at {room} (often 10 kΩ).",
                room=celsius(25),
            ),
        )


@rule(
    "cell.polarity",
    station="cell",
    source="connectors are not standardised; common practice",
    advice=say("Measure which contact is plus on both sides of the plug before you push it in."),
    guide="polarity",
)
def polarity(chosen: ChosenCell) -> Iterator[Judgement]:
    """A plug that fits may still be the wrong way round: the meter tells, not the colour of the wire."""
    if not (chosen.chain.build.who_charges != "board" or chosen.chain.build.style == "outside_pack"):
        return
    if chosen.cell.polarity_measured:
        yield fine(say("The polarity of its plug was measured against the socket."))
    else:
        yield caution(
            say("The polarity of its plug has not been measured. Check it with the meter before you plug it in."),
            working=say(
                "Same plug, other way round, is common. Plus and minus at the plug against those at the socket."
            ),
            remedy=remedy(say("It is measured"), {f"{chosen.path}.polarity_measured": True}),
        )
