"""Input: how the 5 V gets in, what it meets on the way, and how warm it all gets."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import BoardCharging, Chain, Charging, GivenCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import CELL_HOT_C, CELL_WARM_C
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, celsius, ohms, percent, volts, warmer, watts

# Chargers of this kind live on 5 V; most stand 6 V and few more (common practice, no source).
INPUT_MOST_V = 6.0


@rule(
    "charge.old_jack",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=f"centre pin measured; 5 V regulated, {INPUT_MOST_V:.0f} V at most unloaded",
)
def old_jack(chain: Chain) -> Iterator[Judgement]:
    """The gadget's old jack as 5 V input: polarity of its centre pin, and an adapter that holds 5 V."""
    way_in = chain.build.input
    # The gadget's own charger has the jack that it always had.
    if "centre" not in way_in.facts.asks or chain.build.who_charges != "board":
        return
    if way_in.centre == "unknown":
        yield caution(
            "Nobody has measured which way round the jack is.",
            working="Adapter plugged in, meter on centre pin and sleeve. Reversed, it kills the charger at once.",
            subjects=(f"{chain.path}.input.centre",),
        )
    else:
        yield fine(f"The centre pin of the old jack is {way_in.centre}, as measured.")
    takes = volts(INPUT_MOST_V)
    if way_in.open_v is not None and way_in.open_v > INPUT_MOST_V:
        gives = volts(way_in.open_v)
        yield stop(
            f"This adapter kills the charger: it gives {gives} unloaded, and a 5 V charger takes {takes} at most.",
            figure=gives,
            limit=takes,
            working="An unregulated adapter reads far higher without load than its label says.",
        )
    elif not way_in.regulated:
        yield stop(
            "An unregulated adapter may kill the charger: it reads far higher unloaded than its label says.",
            limit=takes,
            working="A 4.5 V or 6 V unregulated adapter may show 8 to 10 V. Use a USB source or a regulated 5 V one.",
        )


@rule(
    "charge.source_high",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=f"{INPUT_MOST_V:.0f} V",
)
def source_high(charging: Charging) -> Iterator[Judgement]:
    """Whatever way in: a source over 6 V kills a 5 V charger."""
    gives, takes = volts(charging.build.source.volts), volts(INPUT_MOST_V)
    if charging.in_the_gadget and gives.value > takes.value:
        yield stop(
            f"This source kills the charger: it gives {gives}, and a 5 V charger takes {takes} at most.",
            figure=gives,
            limit=takes,
            working="Use a USB source, or a regulated 5 V one.",
            subjects=(f"{charging.chain.path}.source.volts",),
        )


@rule("charge.dock", station="charge", node="source", source="common practice, no source")
def dock(chain: Chain) -> Iterator[Judgement]:
    """Dock contacts carry 5 V in the open: they must be dead when nothing is docked, and not be reversed."""
    if chain.build.input.kind == "dock" and chain.build.who_charges != "external":
        yield note(
            "The dock's contacts lie open: recess them, and let only the base carry the 5 V.",
            working="From the gadget's side they are dead: the charger leaks back microamps only. Measure it.",
        )


@rule(
    "charge.wireless",
    station="charge",
    node="source",
    source="common practice, no source",
    limits="about 70 % efficient",
)
def wireless(charging: Charging) -> Iterator[Judgement]:
    """A wireless receiver pad: what it loses, the heat it brings inside, and the ferrite it needs."""
    way_in = charging.build.input
    if not way_in.facts.over_a_gap or not charging.in_the_gadget:
        return
    path = f"{charging.chain.path}.input"
    arrives, heat = percent(way_in.pad_efficiency), watts(charging.receiver_heat_w)
    if not way_in.pad_ferrite:
        yield stop(
            "Without a ferrite sheet the cell's metal stops the pad: charging starts and stops.",
            remedy=remedy("A ferrite sheet is fitted", {f"{path}.pad_ferrite": True}),
        )
    if way_in.pad_against_cell:
        yield caution(
            f"The pad's {heat} of heat goes straight into the cell: charge slower, or move the pad.",
            figure=heat,
            working=f"{percent(1 - way_in.pad_efficiency)} of the power is lost, about half of it inside",
        )
    yield note(
        f"{arrives} of the power comes over the pad; {heat} of what is lost warms the inside.",
        figure=arrives,
        working=f"{amps(charging.current.source_limit_a)} left of the source's {amps(charging.build.source.limit_a)}; "
        "a pad adds 0.5 to 1.5 mm",
        rests_on=(f"{path}.pad_efficiency",),
        assumed=True,
    )


@rule("charge.usb_out", station="charge", source="common practice, no source")
def usb_out(charging: BoardCharging) -> Iterator[Judgement]:
    """Boards that also give 5 V have two pairs of pads; feeding the wrong pair charges nothing."""
    if charging.board.usb_out_pads:
        yield caution(
            "This board has two pairs of 5 V pads: the source goes to USB in, never to USB out.",
            working="Wired to the out pads nothing lights and nothing charges.",
            subjects=(charging.board.name,),
        )


@rule(
    "charge.cell_warm",
    station="charge",
    node="cell",
    source="0 to 45 C while charging: IEC 62133-2 range as commonly stated, from memory",
    formula="T_inside = T_room + P / (h A), h 10 W/m2K, A the gadget's outer surface",
    limits=lambda: f"{celsius(CELL_WARM_C)} caution, {celsius(CELL_HOT_C)} stop",
)
def cell_warm(charging: Charging) -> Iterator[Judgement]:
    """How warm the cell gets while it charges in this case."""
    hottest, inside = celsius(float(np.max(charging.warmth.cell_c))), celsius(float(np.max(charging.warmth.inside_c)))
    around = charging.current.surroundings
    working = f"room {celsius(around.room_c)}, {warmer(around.rise_c_per_w)} for each watt inside; air {inside} at most"
    facts: dict[str, object] = {"figure": hottest, "working": working, "rests_on": ("gadget.shell.outer_mm",)}
    if isinstance(charging, GivenCharging):
        # As if that charger burnt what a linear one does: a switching one burns less.
        facts |= {"working": f"{working}; the {charging.board.name} taken as linear", "assumed": True}
    if hottest.value > CELL_HOT_C:
        yield stop(
            f"The cell gets {hottest} warm while it charges: over {celsius(CELL_HOT_C)} it ages fast, and may vent.",
            limit=celsius(CELL_HOT_C),
            **facts,
        )
    elif hottest.value > CELL_WARM_C:
        yield caution(
            f"The cell gets {hottest} warm while it charges; under {celsius(CELL_WARM_C)} it lasts longer.",
            limit=celsius(CELL_WARM_C),
            **facts,
        )
    else:
        yield fine(f"The cell stays at {hottest} or less while it charges.", **facts)


@rule(
    "charge.drop_out",
    station="charge",
    source="Ohm's law over cable and connectors",
    formula="V_in = V_source - I R_cable; sags where V_in - V_cell falls under the charger's drop-out",
)
def drop_out(charging: BoardCharging) -> Iterator[Judgement]:
    """A thin cable leaves the charger too little to hold its current."""
    limit_a = charging.current.cable_limit_a
    if limit_a is None:
        return
    set_to, source = amps(charging.current.spread.nominal_a), charging.build.source
    if set_to.value > limit_a:
        sags_to = amps(max(limit_a, 0.0))
        yield note(
            f"Through this cable the current sags from {set_to} to {sags_to} near the end of the charge.",
            figure=sags_to,
            limit=set_to,
            working=f"{volts(source.volts)} - {set_to} x {ohms(source.r_cable_ohm)} = "
            f"{volts(source.volts - set_to.value * source.r_cable_ohm)} at the board; a short thick cable helps",
        )


@rule("charge.change_over", station="charge", node="gadget", source="common practice, no source")
def change_over(chain: Chain) -> Iterator[Judgement]:
    """A change-over switch interrupts the gadget for a moment, and somebody has to throw it."""
    if chain.build.use_while_charging == "change_over":
        yield note("The gadget restarts whenever the change-over switch is thrown, from cell to 5 V and back.")
