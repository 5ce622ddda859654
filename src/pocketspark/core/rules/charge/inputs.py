"""Charge: how 5 V comes in."""

from collections.abc import Iterator

from pocketspark.core.chain import BoardCharging, Chain, Charging
from pocketspark.core.chain.states import FED_FROM_5V
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.models.board import CC_OHM
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, bare_length, farads, fixed, millimetres, ohms, percent, volts, watts

# Chargers of this kind live on 5 V; most stand 6 V and few more (common practice, no source).
INPUT_MOST_V = 6.0

# What a device may put straight across the 5 V of a port (USB 2.0, from memory).
PORT_F = 10e-6


@rule(
    "charge.old_jack",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=say(
        "centre pin measured; 5 V regulated, {input_most_v} V at most unloaded", input_most_v=fixed(INPUT_MOST_V, 0)
    ),
    advice=say("Measure its centre pin and its voltage without load before anything is wired to it."),
    guide="polarity",
)
def old_jack(chain: Chain) -> Iterator[Judgement]:
    """The gadget's old jack as 5 V input: polarity of its centre pin, and an adapter that holds 5 V."""
    way_in = chain.build.input
    # The gadget's own charger has the jack that it always had.
    if "centre" not in way_in.facts.asks or chain.build.who_charges != "board":
        return
    if way_in.centre == "unknown":
        yield caution(
            say("The polarity of the jack has not been measured."),
            working=say(
                "Plug the adapter in and put the meter on centre pin and sleeve. Reversed, it destroys the charger "
                "at once."
            ),
            subjects=(f"{chain.path}.input.centre",),
        )
    else:
        yield fine(say("The centre pin of the old jack is {centre}, as measured.", centre=way_in.centre))
    takes = volts(INPUT_MOST_V)
    if way_in.open_v is not None and way_in.open_v > INPUT_MOST_V:
        gives = volts(way_in.open_v)
        yield stop(
            say(
                "This adapter destroys the charger: it gives {gives} unloaded, and a 5 V charger survives {takes} "
                "at most.",
                gives=gives,
                takes=takes,
            ),
            figure=gives,
            limit=takes,
            working=say("Without load, an unregulated adapter gives far more than its label says."),
        )
    elif not way_in.regulated:
        yield stop(
            say("An unregulated adapter can destroy the charger: without load it gives far more than its label says."),
            limit=takes,
            working=say(
                "An unregulated adapter of {small} V or 6 V can give 8 to 10 V. Use a USB source or a regulated "
                "5 V one.",
                small=fixed(4.5, 1),
            ),
        )


@rule(
    "charge.source_high",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=say("{input_most_v} V", input_most_v=fixed(INPUT_MOST_V, 0)),
    advice=say("Use a source of 5 V."),
    guide="polarity",
)
def source_high(charging: Charging) -> Iterator[Judgement]:
    """Whatever way in: a source over 6 V kills a 5 V charger."""
    gives, takes = volts(charging.build.source.volts), volts(charging.charger.v_in_max)
    if charging.in_the_gadget and gives.value > takes.value:
        yield stop(
            say(
                "This source destroys the charger: it gives {gives}, and this charger survives {takes} at most.",
                gives=gives,
                takes=takes,
            ),
            figure=gives,
            limit=takes,
            working=say("Use a USB source, or a regulated 5 V one."),
            subjects=(f"{charging.chain.path}.source.volts",),
        )


@rule(
    "charge.dock",
    station="charge",
    node="source",
    source="common practice, no source",
    advice=say("Put a diode behind the contacts, so that they are dead when nothing is docked."),
)
def dock(chain: Chain) -> Iterator[Judgement]:
    """Dock contacts carry 5 V in the open: they must be dead when nothing is docked, and not be reversed."""
    if chain.build.input.kind == "dock" and chain.build.who_charges != "external":
        yield note(
            say("The dock's contacts lie open. Recess them, and let only the base carry the 5 V."),
            working=say("From the gadget's side they are dead: the charger leaks back microamps only. Measure it."),
        )


@rule(
    "charge.wireless",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=say("about 70 % efficient"),
    advice=say("Keep the ferrite between receiver and metal, and keep the receiver off the cell."),
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
            say("Without a ferrite sheet the cell's metal disturbs the pad: charging starts and stops."),
            remedy=remedy(say("A ferrite sheet is fitted"), {f"{path}.pad_ferrite": True}),
        )
    if way_in.pad_against_cell:
        yield caution(
            say(
                "The pad's {heat} of heat goes straight into the cell. Charge more slowly, or move the pad.", heat=heat
            ),
            figure=heat,
            working=say(
                "{pad_efficiency} of the power is lost, about half of it inside",
                pad_efficiency=percent(1 - way_in.pad_efficiency),
            ),
        )
    yield note(
        say(
            "{arrives} of the power crosses the pad; {heat} of the loss heats the inside.",
            arrives=arrives,
            heat=heat,
        ),
        figure=arrives,
        working=say(
            "{source_limit_a} left of the source's {limit_a}; a pad adds {least} to {most}",
            source_limit_a=amps(charging.current.source_limit_a),
            limit_a=amps(charging.build.source.limit_a),
            least=bare_length(0.5),
            most=millimetres(1.5),
        ),
        rests_on=(f"{path}.pad_efficiency",),
        assumed=True,
    )


@rule(
    "charge.usb_out",
    station="charge",
    source="common practice, no source",
    advice=say("Read what is printed beside each pair of pads. 5 V goes to the input pads."),
)
def usb_out(charging: BoardCharging) -> Iterator[Judgement]:
    """Boards that also give 5 V have two pairs of pads; feeding the wrong pair charges nothing."""
    if charging.board.usb_out_pads:
        yield caution(
            say("This board has two pairs of 5 V pads: the source goes to USB in, never to USB out."),
            working=say("Wired to the output pads, nothing lights and nothing charges."),
            subjects=(charging.board.name,),
        )


@rule(
    "charge.drop_out",
    station="charge",
    source="Ohm's law over cable and connectors",
    formula=say("V_in = V_source - I R_cable; sags where V_in - V_cell falls under the charger's drop-out"),
    advice=say("Use a shorter or thicker cable."),
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
            say(
                "With this cable the current drops from {set_to} to {sags_to} near the end of the charge.",
                set_to=set_to,
                sags_to=sags_to,
            ),
            figure=sags_to,
            limit=set_to,
            working=say(
                "{volts} - {set_to} x {r_cable_ohm} = {volts_2} at the board; a short, thick cable helps",
                volts=volts(source.volts),
                set_to=set_to,
                r_cable_ohm=ohms(source.r_cable_ohm),
                volts_2=volts(source.volts - set_to.value * source.r_cable_ohm),
            ),
        )


@rule(
    "charge.no_socket",
    station="charge",
    node="source",
    source="common practice, no source",
    advice=say("Choose a board with a socket, or add a separate socket."),
)
def no_socket(chain: Chain) -> Iterator[Judgement]:
    """5 V through the board's own socket needs a board that has one."""
    boards = chain.charger_boards
    if chain.build.who_charges != "board" or not boards:
        return
    if not chain.build.input.facts.on_board or boards[0].socket is not None:
        return
    if boards[0].name in chain.build.shell_off:
        return
    yield stop(
        say("No 5 V can come in: {boards} has pads but no socket.", boards=boards[0].name),
        working=say(
            "A separate Type-C socket has {cc} from each CC pin to ground. It needs a hole and a stop behind it.",
            cc=ohms(CC_OHM),
        ),
        remedy=remedy(say("Wire a separate socket to it"), {f"{chain.path}.input.kind": "wired_socket"}),
        subjects=(boards[0].name,),
    )


@rule(
    "charge.coil_under_metal",
    station="charge",
    node="source",
    source="eddy currents: a metal wall keeps the field out (physics)",
    advice=say("Use a socket, or cut a window of plastic over the coil."),
)
def coil_under_metal(chain: Chain) -> Iterator[Judgement]:
    """A wireless pad under a metal shell gets nothing through it, and heats it."""
    if chain.gadget.shell.metal and chain.build.input.facts.over_a_gap and chain.build.who_charges != "external":
        yield stop(
            say("Nothing reaches the coil through a metal shell, and the shell gets hot."),
            remedy=remedy(say("Use the board's socket"), {f"{chain.path}.input.kind": "board_socket"}),
            subjects=("gadget.shell.metal",),
        )


@rule(
    "charge.old_adapter_fits",
    station="charge",
    node="source",
    source="common practice, no source",
    limits=say("the most that the charger's input survives"),
    advice=say("Throw the old adapter away or fit another jack, and print the label for this one."),
    guide="polarity",
)
def old_adapter_fits(charging: BoardCharging) -> Iterator[Judgement]:
    """The old adapter still fits a jack that now feeds a 5 V charger, and somebody will plug it in."""
    existing, way_in = charging.chain.gadget.existing_charging, charging.build.input
    if existing.kind == "none" or not (existing.treatment == "moved" or "centre" in way_in.facts.asks):
        return
    survives = volts(charging.charger.v_in_max)
    if existing.adapter_v is None:
        yield note(
            say("The old adapter still fits this jack, and its volts have not been measured."),
            limit=survives,
            working=say("Over {survives} it destroys the charger.", survives=survives),
            subjects=("gadget.existing_charging.adapter_v",),
        )
    elif existing.adapter_v > charging.charger.v_in_max:
        gives = volts(existing.adapter_v)
        yield caution(
            say(
                "The old adapter still fits this jack: its {gives} destroy a charger that survives {survives}.",
                gives=gives,
                survives=survives,
            ),
            figure=gives,
            limit=survives,
            subjects=("gadget.existing_charging.adapter_v",),
        )
    else:
        gives = volts(existing.adapter_v)
        yield fine(
            say("The old adapter gives {gives}; the charger survives {survives}.", gives=gives, survives=survives),
            figure=gives,
            limit=survives,
        )


@rule(
    "charge.capacitor_at_port",
    station="charge",
    node="source",
    source="10 uF at most across the 5 V of a port, USB 2.0, from memory",
    limits=say("{most}", most=farads(PORT_F)),
    advice=say("Put a regulator with a soft start before it, or switch it off while you plug in."),
)
def capacitor_at_port(chain: Chain) -> Iterator[Judgement]:
    """Fed from the 5 V the gadget's capacitor hangs straight on the port, which may switch off at the first moment."""
    capacitance_f = chain.gadget.capacitance_f
    if capacitance_f is None or chain.build.use_while_charging not in FED_FROM_5V or chain.regulators:
        return
    if capacitance_f > PORT_F:
        yield note(
            say(
                "Plugged in, {capacitor} hangs on the 5 V, and a port allows {most}. Some ports switch off.",
                capacitor=farads(capacitance_f),
                most=farads(PORT_F),
            ),
            figure=farads(capacitance_f),
            limit=farads(PORT_F),
            rests_on=("gadget.capacitance_f",),
        )
