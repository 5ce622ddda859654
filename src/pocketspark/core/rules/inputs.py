"""Input: how the 5 V gets in, what it meets on the way, and how warm it all gets."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amps, engineering, percent, volts

# Chargers of this kind live on 5 V; most stand 6 V and few more (common practice, no source).
INPUT_MOST_V = 6.0
# Cells while charging: 0 to 45 C (IEC 62133-2 as commonly stated, from memory), better 10 to 40.
CELL_HOT_C, CELL_WARM_C = 45.0, 40.0


@rule(
    "charge.old_jack",
    station="charge",
    source="common practice, no source",
    limits=f"centre pin measured; 5 V regulated, {INPUT_MOST_V:.0f} V at most unloaded",
)
def old_jack(chain: Chain) -> Iterator[Judgement]:
    """The gadget's old jack as 5 V input: polarity of its centre pin, and an adapter that holds 5 V."""
    way_in = chain.build.input
    if way_in.kind != "old_jack":
        return
    if way_in.centre == "unknown":
        yield caution(
            "0 V known at the centre pin: measure which way round it is before it meets the board",
            working="Adapter plugged in, meter on centre pin and sleeve. Reversed, it kills the charger at once.",
        )
    else:
        yield passed(f"1 old jack, centre {way_in.centre}, as measured")
    open_v = way_in.open_v
    if open_v is not None and open_v > INPUT_MOST_V:
        yield stop(
            f"{volts(open_v)} unloaded from this adapter: a 5 V charger takes {volts(INPUT_MOST_V)} at most",
            working="An unregulated adapter reads far higher without load than its label says.",
        )
    elif not way_in.regulated:
        yield stop(
            "5 V regulated is needed: an unregulated adapter reads far higher unloaded",
            working="A 4.5 V or 6 V unregulated adapter may show 8 to 10 V. Use a USB source or a regulated 5 V one.",
        )


@rule("charge.dock", station="charge", source="common practice, no source")
def dock(chain: Chain) -> Iterator[Judgement]:
    """Dock contacts carry 5 V in the open: they must be dead when nothing is docked, and not be reversed."""
    if chain.build.input.kind == "dock":
        yield note(
            "2 bare contacts at 5 V: recess them, and let only the base carry the 5 V",
            working="From the gadget's side they are dead: the charger leaks back microamps only. Measure it.",
        )


@rule("charge.wireless", station="charge", source="common practice, no source", limits="about 70 % efficient")
def wireless(chain: Chain) -> Iterator[Judgement]:
    """A wireless receiver pad: what it loses, the heat it brings inside, and the ferrite it needs."""
    way_in = chain.build.input
    if way_in.kind != "wireless":
        return
    if not way_in.pad_ferrite:
        yield stop(
            "0 ferrite sheets between coil and cell: the cell's metal stops the pad, charging starts and stops",
            remedy=remedy("A ferrite sheet is fitted", {f"{chain.at}.input.pad_ferrite": True}),
        )
    if way_in.pad_against_cell:
        yield caution(
            f"{engineering(chain.receiver_heat_w, 'W')} of pad heat against the cell: charge slower, or move the pad",
            working=f"{percent(1 - way_in.pad_efficiency)} of the power is lost, about half of it inside",
        )
    yield note(
        f"{percent(way_in.pad_efficiency)} of the power arrives, {engineering(chain.receiver_heat_w, 'W')} "
        "of it turns to heat inside",
        working=f"{amps(chain.source_limit_a)} left of the source's {amps(chain.build.source.limit_a)}; "
        "a pad adds 0.5 to 1.5 mm",
        assumed=True,
    )


@rule("charge.usb_out", station="charge", source="common practice, no source")
def usb_out(chain: Chain) -> Iterator[Judgement]:
    """Boards that also give 5 V have two pairs of pads; feeding the wrong pair charges nothing."""
    if chain.charger_board.usb_out_pads:
        yield caution(
            "2 pairs of 5 V pads on this board: the source goes to USB in, never to USB out",
            working="Wired to the out pads nothing lights and nothing charges.",
        )


@rule(
    "charge.cell_warm",
    station="charge",
    source="0 to 45 C while charging: IEC 62133-2 range as commonly stated, from memory",
    formula="T_inside = T_room + P / (h A), h 10 W/m2K, A the gadget's outer surface",
    limits=f"{CELL_WARM_C:.0f} C caution, {CELL_HOT_C:.0f} C stop",
)
def cell_warm(chain: Chain) -> Iterator[Judgement]:
    """How warm the cell gets while it charges in this case."""
    hottest = float(np.max(chain.warmth.cell_c))
    inside = float(np.max(chain.warmth.inside_c))
    around = chain.surroundings
    each_w = f"{around.rise_c_per_w:.1f} °C for each watt inside"
    working = f"room {around.room_c:.0f} °C, {each_w}; air {inside:.0f} °C at most"
    rests_on = ("gadget.shell.outer_mm",)
    if hottest > CELL_HOT_C:
        yield stop(f"{hottest:.0f} °C at the cell while it charges", working=working, rests_on=rests_on)
    elif hottest > CELL_WARM_C:
        yield caution(f"{hottest:.0f} °C at the cell while it charges", working=working, rests_on=rests_on)
    else:
        yield passed(f"{hottest:.0f} °C at the cell at most", working=working, rests_on=rests_on)


@rule(
    "charge.drop_out",
    station="charge",
    source="Ohm's law over cable and connectors",
    formula="V_in = V_source - I R_cable; sags where V_in - V_cell falls under the charger's drop-out",
)
def drop_out(chain: Chain) -> Iterator[Judgement]:
    """A thin cable leaves the charger too little to hold its current."""
    limit_a = chain.cable_limit_a
    if limit_a is None:
        return
    nominal_a, source = chain.spread.nominal_a, chain.build.source
    if nominal_a > limit_a:
        at_board_v = source.volts - nominal_a * source.r_cable_ohm
        yield note(
            f"{amps(nominal_a)} sags to {amps(max(limit_a, 0))} near the end: {volts(at_board_v)} at the board",
            working=f"{volts(source.volts)} - {amps(nominal_a)} x {source.r_cable_ohm * 1000:.0f} mΩ; a short thick "
            "cable helps",
        )


@rule("charge.change_over", station="charge", source="common practice, no source")
def change_over(chain: Chain) -> Iterator[Judgement]:
    """A change-over switch interrupts the gadget for a moment, and somebody has to throw it."""
    if chain.build.use_while_charging == "change_over":
        yield note("1 switch to throw: the gadget restarts when it changes from cell to 5 V and back")
