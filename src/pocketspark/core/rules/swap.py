"""Cell swap: the gadget keeps its own lithium charger, and only the cell behind it changes."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amp_hours, amps, hours, volts


@rule("cell.swap_without_lithium", station="cell", source="how this tool counts")
def swap_without_lithium(chain: Chain) -> Iterator[Judgement]:
    """A cell swap needs a gadget that has lithium, and a charger for it, already."""
    if chain.build.style == "cell_swap" and chain.gadget.supply.kind != "lithium":
        yield stop(
            f"0 lithium chargers in a gadget made for {chain.gadget.supply.label}: a swap has nothing to charge it",
            remedy=remedy("Build it inside instead", {f"{chain.at}.style": "inside"}),
        )


@rule("cell.swap_class", station="cell", source="full voltage of the cell's class (handbooks, from memory)")
def swap_class(chain: Chain) -> Iterator[Judgement]:
    """The full-charge voltage of the new cell must be that of the gadget's own charger."""
    if not chain.is_swap:
        return
    float_v, full_v = chain.full_v, chain.cell.facts.full_v
    if float_v > full_v + 0.005:
        yield stop(f"{volts(float_v)} from its own charger into a cell that is full at {volts(full_v)}")
    elif float_v < full_v - 0.005:
        reached = float(chain.curve.soc_at(float_v))
        yield caution(
            f"{(1 - reached) * 100:.0f} % of the label stays unused: its own charger stops at {volts(float_v)}",
            working=f"a {chain.cell.facts.label} cell is full at {volts(full_v)}; safe",
        )
    else:
        yield passed(f"{volts(float_v)} from its own charger suits this cell")


@rule("cell.swap_charge", station="cell", source="charge along the open-circuit curve; timers, common practice")
def swap_charge(chain: Chain) -> Iterator[Judgement]:
    """More capacity at the gadget's own current: how long it takes, and whether its timer or its rate objects."""
    if not chain.is_swap:
        return
    own, run = chain.gadget.supply.own_charger, chain.swap_charge_run
    if own is None or run is None or own.current_a is None:
        yield note(
            "0 A known of its own charger: measure what flows into the cell",
            working="Multimeter on its current range in the cell's plus lead, cell half empty.",
        )
        return
    limit_a = (chain.cell.charge_max_a or chain.cell.capacity_ah) * chain.build.cell_count
    if own.current_a > limit_a * 1.001:
        yield stop(f"{amps(own.current_a)} from its own charger into a cell that takes {amps(limit_a)}")
    taken_h = float(run.hours.flat[0])
    working = f"{amps(own.current_a)} into {amp_hours(chain.capacity_ah)}"
    if own.timer_h is not None and taken_h > own.timer_h:
        headline = f"{hours(taken_h)} to full, and its timer ends the charge after {hours(own.timer_h)}"
        yield caution(headline, working=working + "; unplug and plug in again for the rest")
    else:
        yield passed(f"{hours(taken_h)} to full at its own {amps(own.current_a)}", working=working)


@rule("cell.swap_gauge", station="cell", source="common practice, no source", limits="10 % in capacity")
def swap_gauge(chain: Chain) -> Iterator[Judgement]:
    """A gauge that counted the old capacity lies until it has relearnt."""
    old_ah = chain.gadget.supply.pack_capacity_ah
    if not chain.is_swap or old_ah is None:
        return
    share = chain.capacity_ah / old_ah
    if abs(share - 1) > 0.1:
        yield note(
            f"{share:.1f} times the old capacity: its gauge will lie until it relearns",
            working="One run from full until it switches off, then a full charge, teaches most gauges.",
        )


@rule("cell.swap_thermistor_lead", station="cell", source="common practice, no source")
def swap_thermistor_lead(chain: Chain) -> Iterator[Judgement]:
    """A charger that reads a thermistor must go on reading one, or its fixed resistor."""
    own = chain.gadget.supply.own_charger
    if not chain.is_swap or own is None or not own.reads_thermistor:
        return
    if chain.cell.thermistor_lead:
        yield passed("3 wires on the cell: its thermistor stays in use")
    else:
        yield caution(
            "2 wires on a cell whose charger reads a third: it will refuse to charge, or charge blind",
            working="Move the old thermistor onto the new cell, or fit the resistor it shows at 25 °C (often 10 kΩ).",
        )


@rule("cell.polarity", station="cell", source="connectors are not standardised; common practice")
def polarity(chain: Chain) -> Iterator[Judgement]:
    """A plug that fits may still be the wrong way round: the meter tells, not the colour of the wire."""
    if not (chain.is_swap or chain.build.style == "outside_pack"):
        return
    if chain.cell.polarity_measured:
        yield passed("1 plug, its polarity measured against the socket")
    else:
        yield caution(
            "1 plug whose polarity nobody has measured: hold the meter on it before it goes in",
            working="Same plug, other way round, is common. Plus and minus at the plug against those at the socket.",
            remedy=remedy("It is measured", {f"{chain.at}.cell.polarity_measured": True}),
        )
