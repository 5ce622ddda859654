"""Cell swap: the gadget keeps its own lithium charger, and only the cell behind it changes."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenCell, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amp_hours, amps, amps_apart, hours, percent, times, volts

# Closer than this two voltages are the same.
SAME_V = 0.005
# A gauge that counts charge is told apart from the truth from here on (common practice, no source).
GAUGE_OFF = 0.10


@rule("cell.swap_without_lithium", station="cell", source="how this tool counts")
def swap_without_lithium(chosen: ChosenCell) -> Iterator[Judgement]:
    """A cell swap needs a gadget that has lithium, and a charger for it, already."""
    build, supply = chosen.chain.build, chosen.chain.gadget.supply
    if build.style == "cell_swap" and supply.kind != "lithium":
        yield stop(
            f"Nothing would charge the cell: this gadget takes {supply.label}, and has no lithium charger to keep.",
            remedy=remedy("Build it inside instead", {f"{chosen.chain.path}.style": "inside"}),
        )


@rule("cell.swap_class", station="cell", source="full voltage of the cell's class (handbooks, from memory)")
def swap_class(chosen: ChosenCell) -> Iterator[Judgement]:
    """The full-charge voltage of the new cell must be that of the gadget's own charger."""
    if not chosen.chain.is_swap:
        return
    facts = chosen.cell.facts
    ends, full = volts(chosen.full_v), volts(facts.full_v)
    if ends.value > full.value + SAME_V:
        yield stop(
            f"The gadget's own charger over-charges this cell: it stops at {ends}, and the cell is full at {full}.",
            figure=ends,
            limit=full,
        )
    elif ends.value < full.value - SAME_V:
        unused = percent(1 - float(chosen.curve.soc_at(ends.value)))
        yield caution(
            f"{unused} of the label stays unused: the gadget's own charger stops at {ends}.",
            figure=unused,
            limit=full,
            working=f"a {facts.label} cell is full at {full}; safe",
        )
    else:
        yield fine(f"The gadget's own charger stops at {ends}, where this cell is full.", figure=ends)


@rule("cell.swap_charge", station="cell", source="charge along the open-circuit curve; timers, common practice")
def swap_charge(running: Running) -> Iterator[Judgement]:
    """More capacity at the gadget's own current: how long it takes, and whether its timer or its rate objects."""
    if not running.chain.is_swap:
        return
    own, run = running.gadget.supply.own_charger, running.swap_charge_run
    if own is None or run is None or own.current_a is None:
        yield note(
            "Nobody has measured what the gadget's own charger gives, so no charge time can be said.",
            working="Multimeter on its current range in the cell's plus lead, cell half empty.",
            subjects=("gadget.supply.own_charger.current_a",),
        )
        return
    limit_a = (running.cell.charge_max_a or running.cell.capacity_ah) * running.chosen.count
    gives, takes = amps_apart(own.current_a, limit_a)
    if own.current_a > limit_a * 1.001:
        yield stop(f"The gadget's own charger gives {gives} to a cell that takes {takes}.", figure=gives, limit=takes)
    taken = hours(float(run.hours.flat[0]))
    working = f"{amps(own.current_a)} into {amp_hours(running.chosen.capacity_ah)}"
    if own.timer_h is not None and taken.value > own.timer_h:
        timer = hours(own.timer_h)
        yield caution(
            f"The gadget's own timer ends the charge after {timer}, and a full one takes {taken}.",
            figure=taken,
            limit=timer,
            working=f"{working}; unplug and plug in again for the rest",
        )
    else:
        yield fine(f"A full charge takes {taken} on the gadget's own charger.", figure=taken, working=working)


@rule(
    "cell.swap_gauge", station="cell", source="common practice, no source", limits=f"{percent(GAUGE_OFF)} in capacity"
)
def swap_gauge(chosen: ChosenCell) -> Iterator[Judgement]:
    """A gauge that counted the old capacity lies until it has relearnt."""
    old_ah = chosen.chain.gadget.supply.pack_capacity_ah
    if not chosen.chain.is_swap or old_ah is None:
        return
    share = times(chosen.capacity_ah / old_ah)
    if abs(share.value - 1) > GAUGE_OFF:
        yield note(
            f"Its battery gauge will lie until it relearns: the new cell holds {share} what the old one did.",
            figure=share,
            working="One run from full until it switches off, then a full charge, teaches most gauges.",
        )


@rule("cell.swap_thermistor_lead", station="cell", source="common practice, no source")
def swap_thermistor_lead(chosen: ChosenCell) -> Iterator[Judgement]:
    """A charger that reads a thermistor must go on reading one, or its fixed resistor."""
    own = chosen.chain.gadget.supply.own_charger
    if not chosen.chain.is_swap or own is None or not own.reads_thermistor:
        return
    if chosen.cell.thermistor_lead:
        yield fine("The cell has a temperature wire, which the gadget's charger goes on reading.")
    else:
        yield caution(
            "The gadget's charger reads a temperature wire, which this cell lacks: it will refuse to charge, or "
            "charge blind.",
            working="Move the old thermistor onto the new cell, or fit the resistor it shows at 25 °C (often 10 kΩ).",
        )


@rule("cell.polarity", station="cell", source="connectors are not standardised; common practice")
def polarity(chosen: ChosenCell) -> Iterator[Judgement]:
    """A plug that fits may still be the wrong way round: the meter tells, not the colour of the wire."""
    if not (chosen.chain.is_swap or chosen.chain.build.style == "outside_pack"):
        return
    if chosen.cell.polarity_measured:
        yield fine("The polarity of its plug was measured against the socket.")
    else:
        yield caution(
            "Nobody has measured which way round its plug is: hold the meter on it before it goes in.",
            working="Same plug, other way round, is common. Plus and minus at the plug against those at the socket.",
            remedy=remedy("It is measured", {f"{chosen.path}.polarity_measured": True}),
        )
