"""Wire: the electrical rule check over the nets as they stand, whoever made them.

The thirteen rules of wiring are common practice, no source, but for wire sizes (ASTM B258, IEC 60028)."""

from collections.abc import Iterator, Mapping

from pocketspark.core.chain import Chain, ChosenCell, Running
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.message import NOTHING, row_of, say, say_of
from pocketspark.core.models.build import CellLead
from pocketspark.core.models.gadget import EXISTING_CHARGING, TREATMENTS
from pocketspark.core.models.wiring import THERMISTOR_LEADS
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, amps_apart, fixed, millimetres, millivolts, ohms, volts
from pocketspark.core.wiring.cutlist import DROP_V, cut_list
from pocketspark.core.wiring.wired import WiredBuild

# Contacts of plugs on cells' leads, A, from memory of such connectors' drawings.
PLUG_A: Mapping[CellLead, float] = {"small_plug": 1.0, "common_plug": 2.0}

PRACTICE = "wiring rules, common practice, no source"

# More than this for ever is worth a switch before it.
HIGH_IQ_A = 200e-6


@rule(
    "wire.plug_rating",
    station="wire",
    node="cell",
    source="drawings of such connectors, from memory",
    advice=say("Solder the lead instead, or choose a larger plug."),
)
def plug_rating(running: Running) -> Iterator[Judgement]:
    """A plug on the cell's lead has contacts of an ampere or two; all that goes in or out of the cell flows there."""
    rated_a = PLUG_A.get(running.build.cell_lead)
    if rated_a is None or not running.runs:
        return
    charging = running.chain.charging
    charged_a = charging.current.spread.most_a if charging and charging.in_the_gadget else 0.0
    flows, rated = amps_apart(max(running.peak_cell_a, charged_a), rated_a)
    facts: Facts = {
        "figure": flows,
        "limit": rated,
        "working": say("while it charges") if charged_a > running.peak_cell_a else say("at the gadget's peak"),
    }
    if flows.value > rated.value:
        yield caution(
            say(
                "The cell's plug is rated for {rated}, but {flows} can flow. Its contacts get hot.",
                rated=rated,
                flows=flows,
            ),
            remedy=remedy(say("Solder the cell's leads"), {f"{running.chain.path}.cell_lead": "soldered"}),
            **facts,
        )
    else:
        yield fine(
            say("The cell's plug is rated for {rated}; {flows} flows at most.", rated=rated, flows=flows), **facts
        )


def _as_made(chain: Chain) -> Remedy | None:
    """Back to the hook-up that the tool makes, where the maker's own differs."""
    if chain.build.wiring.wires is None:
        return None
    return remedy(say("Wire it as the tool does"), {f"{chain.path}.wiring.wires": None})


def _named(pad: str) -> str:
    return pad.replace(".", " ")


@rule(
    "wire.cell_unprotected",
    station="wire",
    source=PRACTICE,
    advice=say("Connect both cell wires to the protection, and nothing else to them."),
)
def cell_unprotected(wired: WiredBuild) -> Iterator[Judgement]:
    """Every cell terminal reaches the gadget only through the protection."""
    nets, roles = wired.nets, wired.roles
    if wired.running.cell.protection is not None:
        yield fine(say("The protection is on the cell itself, so nothing can bypass it."))
        return
    protections = [key for key, part in wired.parts.by_key.items() if ("B-" in part.pads and part.through)]
    if not protections:
        return
    for minus in roles.cell_minus:
        if nets.reaches(minus, roles.gadget[1], without=protections):
            yield stop(
                say("A wire leads from {named} to the gadget round the protection.", named=_named(minus)),
                working=say(
                    "Everything works until the cell is flat for good. Find the wire that joins them, and move it."
                ),
                remedy=_as_made(wired.chain),
                subjects=(minus, roles.gadget[1]),
            )
            return
    yield fine(say("There is no path from cell to gadget around the protection."))


@rule(
    "wire.protection_bypassed",
    station="wire",
    source=PRACTICE,
    advice=say("Remove that wire, and keep the metal case off the cell's minus."),
    follows=("wire.cell_unprotected",),
)
def protection_bypassed(wired: WiredBuild) -> Iterator[Judgement]:
    """B- never meets OUT-, P- or a metal case: joining them takes the protection out."""
    nets, roles = wired.nets, wired.roles
    on_cell = [part.pad("B-") for part in wired.parts.by_key.values() if part.through and "B-" in part.pads]
    if not on_cell:
        return
    pair = nets.any_same(on_cell, [*roles.load_side, roles.gadget[1]])
    if pair:
        yield stop(
            say(
                "The protection is bypassed: {named} and {named_2} are joined.",
                named=_named(pair[0]),
                named_2=_named(pair[1]),
            ),
            working=say("A shared ground wire, a metal case, or the gadget's own board joins them. Part them."),
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
        return
    if nets.case and (nets.case in on_cell or nets.any_same([nets.case], on_cell)):
        yield stop(
            say(
                "The metal case lies on {named}: whatever touches it and the gadget's minus bypasses the protection.",
                named=_named(nets.case),
            ),
            working=say("Let the case touch the load side's minus, or nothing at all."),
            subjects=(nets.case,),
        )
        return
    yield fine(say("The cell's minus and the load's minus meet only in the protection."))


@rule(
    "wire.charger_before_protection",
    station="wire",
    source=PRACTICE,
    advice=say("Move the charger's battery wires to the protection's output."),
)
def charger_before_protection(wired: WiredBuild) -> Iterator[Judgement]:
    """A charger beside a separate protection belongs on its load side, or the over-charge cut does nothing."""
    charger, protection = wired.parts.charger, wired.parts.protection
    if protection is None or charger is None:
        return
    pads = (f"{charger}.B-", f"{protection}.B-")
    if wired.nets.same(*pads):
        yield stop(
            say("The protection cannot stop an over-charge: {named} belongs on P-, not on B-.", named=_named(pads[0])),
            working=say("Wired this way, the charger bypasses the protection's transistors."),
            remedy=_as_made(wired.chain),
            subjects=pads,
        )
    else:
        yield fine(say("The charger sits on the load side of the protection."))


@rule(
    "wire.load_on_cell_pads",
    station="wire",
    source=PRACTICE,
    advice=say("Move the gadget's wires to the output pads."),
    follows=("wire.cell_unprotected", "wire.protection_bypassed"),
)
def load_on_cell_pads(wired: WiredBuild) -> Iterator[Judgement]:
    """The load goes to OUT, never to B: there it hangs on the bare cell."""
    charger = wired.parts.by_key.get(wired.parts.charger or "")
    if charger is None or "OUT-" not in charger.pads:
        return
    ground = wired.roles.gadget[1]
    if wired.nets.same(ground, charger.pad("B-")) and not wired.nets.same(ground, charger.pad("OUT-")):
        yield stop(
            say(
                "The gadget is wired to the bare cell: its minus is on {named}, not on OUT-.",
                named=_named(charger.pad("B-")),
            ),
            remedy=_as_made(wired.chain),
            subjects=(ground, charger.pad("B-")),
        )
    else:
        yield fine(say("The gadget hangs on the OUT pads."))


@rule(
    "wire.regulator_bypassed",
    station="wire",
    node="regulator",
    source=PRACTICE,
    advice=say("Remove the wire around the regulator."),
)
def regulator_bypassed(wired: WiredBuild) -> Iterator[Judgement]:
    """The gadget's plus is fed through the regulator alone, or it sees the cell's own voltage."""
    regulator, roles = wired.parts.regulator, wired.roles
    if regulator is None:
        return
    name = wired.chain.regulator.name
    if wired.nets.reaches(roles.cell_plus[0], roles.gadget[0], without=[regulator]):
        full = volts(wired.running.chosen.full_v)
        yield stop(
            say(
                "A wire leads from the cell to the gadget around the {name}: the gadget gets up to {full}.",
                name=name,
                full=full,
            ),
            figure=full,
            working=say("That is so whatever the regulator is set to."),
            remedy=_as_made(wired.chain),
            subjects=(roles.cell_plus[0], roles.gadget[0]),
        )
    else:
        yield fine(say("The gadget is fed through the {name} alone.", name=name))


@rule(
    "wire.five_on_battery",
    station="wire",
    node="cell",
    source=PRACTICE,
    advice=say("Remove that wire, or put a diode or load sharing in between."),
)
def five_on_battery(wired: WiredBuild) -> Iterator[Judgement]:
    """5 V never meets the battery rail without a diode or load sharing."""
    nets, roles = wired.nets, wired.roles
    pair = nets.any_same(roles.five_volts, [*roles.cell_plus, *roles.battery_plus, *roles.load_plus])
    if pair:
        yield stop(
            say(
                "5 V goes straight into the cell: {named} and {named_2} are joined.",
                named=_named(pair[0]),
                named_2=_named(pair[1]),
            ),
            working=say("It is charged with no limit at all. A diode or a load-sharing board belongs between them."),
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
        return
    straight = nets.any_same(roles.five_volts, [roles.gadget[0]])
    if straight:
        yield caution(
            say(
                "5 V goes straight into the gadget: {named} and {named_2} are joined.",
                named=_named(straight[0]),
                named_2=_named(straight[1]),
            ),
            subjects=straight,
        )
        return
    yield fine(say("5 V and the battery's plus are apart."))


@rule(
    "wire.old_path",
    station="wire",
    node="gadget",
    source=PRACTICE,
    advice=say("Cut, move or block it, and check with the meter that it is dead."),
)
def old_path(chosen: ChosenCell) -> Iterator[Judgement]:
    """The old charge path is cut, moved or blocked before a wire goes in."""
    existing = chosen.chain.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger"):
        return
    what = EXISTING_CHARGING[existing.kind].called
    if existing.treatment in ("untouched", "kept"):
        yield stop(
            say(
                "The {what} still reaches the battery terminals. Cut its track or wire before you solder anything.",
                what=what,
            ),
            remedy=remedy(say("Cut it"), {"gadget.existing_charging.treatment": "cut"}),
        )
    else:
        how = TREATMENTS[existing.treatment][0]
        yield fine(say("The {what}: {how}.", what=what, how=f"{how[0].lower()}{how[1:]}"))


@rule(
    "wire.switch_place",
    station="wire",
    node="gadget",
    source=PRACTICE,
    limits=say("{high_iq_a} μA", high_iq_a=fixed(HIGH_IQ_A * 1e6, 0)),
    advice=say("Move the switch to where it is drawn."),
    follows=("power.off_drain",),
)
def switch_place(wired: WiredBuild) -> Iterator[Judgement]:
    """The main switch interrupts the gadget and not the charger, and stands before a regulator that always drains."""
    parts, chain = wired.parts, wired.chain
    switches = [key for key, part in parts.by_key.items() if part.kind == "switch" and key != "change_over"]
    for key in switches:
        if parts.charger and not wired.nets.reaches(wired.roles.cell_plus[0], f"{parts.charger}.B+", without=[key]):
            yield stop(
                say("With {named} off it never charges: the switch is between charger and cell.", named=_named(key)),
                working=say("It belongs between the protected output and the gadget."),
                remedy=_as_made(chain),
                subjects=(key,),
            )
            return
    drain = amps(chain.regulator.iq_a)
    if drain.value > HIGH_IQ_A and chain.build.switch_place == "gadget":
        yield caution(
            say("The regulator draws {drain} all the time. Put the switch before it.", drain=drain),
            figure=drain,
            limit=amps(HIGH_IQ_A),
            remedy=remedy(say("Put the switch before it"), {f"{chain.path}.switch_place": "before_regulator"}),
        )
    else:
        yield fine(say("The main switch interrupts the gadget and not the charger."))


@rule(
    "wire.polarity",
    station="wire",
    source=PRACTICE,
    advice=say("Swap the two wires, and check with the meter before the cell is connected."),
    guide="polarity",
)
def polarity(wired: WiredBuild) -> Iterator[Judgement]:
    """Plus meets plus, by the meter and not by the colour of the wire."""
    nets, roles = wired.nets, wired.roles
    crossed = nets.any_same(
        roles.cell_plus, [*roles.battery_side, *roles.load_side, roles.gadget[1], *roles.cell_minus]
    )
    crossed = crossed or nets.any_same(roles.cell_minus, [*roles.battery_plus, *roles.load_plus, roles.gadget[0]])
    crossed = crossed or nets.any_same([roles.gadget[0]], [*roles.load_side, *roles.charger_minus])
    if crossed:
        yield stop(
            say(
                "Plus meets minus: {named} and {named_2} are joined.",
                named=_named(crossed[0]),
                named_2=_named(crossed[1]),
            ),
            working=say("Reversed, the chip gets hot at once and the board is destroyed."),
            remedy=_as_made(wired.chain),
            subjects=crossed,
        )
        return
    yield fine(
        say(
            "Plus meets plus everywhere. Connectors are not standardised, so check each with the meter before "
            "you plug it in."
        )
    )


@rule(
    "wire.open",
    station="wire",
    node="gadget",
    source=PRACTICE,
    advice=say("Add the missing wire, or bridge what was taken out."),
)
def left_open(wired: WiredBuild) -> Iterator[Judgement]:
    """Charger, cell and gadget are all reached; a removed fuse or link is bridged by what replaces it."""
    missing = [say("{start} to {end}", start=start, end=end) for start, end, is_there in _ways(wired) if not is_there]
    if missing:
        yield stop(say("Still to be wired: {missing}.", missing=row_of(missing)), remedy=_as_made(wired.chain))
    else:
        yield fine(say("Every part is wired."))


def _ways(wired: WiredBuild) -> Iterator[tuple[str, str, bool]]:
    """Every way that has to be there: from what, to what, and whether it is."""
    nets, roles, charger = wired.nets, wired.roles, wired.parts.charger
    if charger:
        yield "charger plus", "cell plus", nets.flows(f"{charger}.B+", roles.cell_plus[0])
        yield "charger minus", "cell minus", nets.reaches(f"{charger}.B-", roles.cell_minus[0])
    yield "cell plus", "gadget plus", nets.flows(roles.cell_plus[0], roles.gadget[0])
    yield "cell minus", "gadget minus", nets.reaches(roles.cell_minus[0], roles.gadget[1])
    if charger:
        yield "5 V", "charger", nets.same("source.5V", f"{charger}.IN+")
        yield "the source's ground", "charger", nets.same("source.GND", f"{charger}.IN-")


@rule(
    "wire.thermistor_lead",
    station="wire",
    node="cell",
    source=PRACTICE,
    advice=say("Keep it on its contact, or replace it by its resistor."),
)
def thermistor_lead(chosen: ChosenCell) -> Iterator[Judgement]:
    """A temperature wire (thermistor) is kept, replaced by its fixed resistor, or known to be unneeded."""
    if not chosen.cell.thermistor_lead:
        return
    becomes = chosen.chain.build.wiring.thermistor_lead
    if becomes is None:
        yield caution(
            say("Nobody has said what becomes of the cell's temperature wire."),
            working=say("Kept on the charger's sense pin, replaced by the resistor it shows at 25 °C, or insulated."),
            remedy=remedy(
                say("It is not needed here, insulate it"), {f"{chosen.chain.path}.wiring.thermistor_lead": "unneeded"}
            ),
        )
    else:
        yield fine(
            say("The cell's temperature wire is {thermistor_leads}.", thermistor_leads=THERMISTOR_LEADS[becomes])
        )


@rule(
    "wire.thin",
    station="wire",
    node="gadget",
    source="ASTM B258 gauges, from memory; copper 1.7241e-8 ohm m, IEC 60028",
    formula=say("drop = I_peak x rho L / A"),
    limits=say("{drop} over a pair", drop=millivolts(DROP_V)),
    advice=say("Use the next thicker wire, or a shorter route."),
)
def thin(wired: WiredBuild) -> Iterator[Judgement]:
    """The wire carries the peak with under 50 mV of drop."""
    wires = cut_list(wired.chain, wired.nets.hookup)
    if not wires:
        return
    worst = max(wires, key=lambda wire: wire.drop_v)
    pair_v = 2 * worst.drop_v
    lost = millivolts(pair_v)
    length, resistance = millimetres(worst.length_mm, 0), ohms(pair_v / worst.current_a / 2)
    working = say(
        "{length} of {gauge} at {current_a}, {resistance}",
        length=length,
        gauge=worst.gauge,
        current_a=amps(worst.current_a),
        resistance=resistance,
    )
    if pair_v > DROP_V:
        yield note(
            say("The longest pair of wires drops {lost}.", lost=lost),
            figure=lost,
            working=working,
            subjects=(worst.start, worst.end),
        )
    else:
        yield fine(say("No pair of wires drops more than {lost}.", lost=lost), figure=lost, working=working)


@rule(
    "wire.usb_out_fed", station="wire", node="charger", source=PRACTICE, advice=say("Move that wire to the input pads.")
)
def usb_out_fed(wired: WiredBuild) -> Iterator[Judgement]:
    """Pads that give 5 V are left open: feeding them charges nothing."""
    fed = wired.roles.usb_out
    if not fed:
        return
    pair = wired.nets.any_same(["source.5V"], fed)
    if pair:
        yield stop(
            say("5 V is wired to the USB output pads: no lamp, no current."),
            working=say("The source goes to the in pads; the out pads stay open."),
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
    else:
        yield fine(say("The USB out pads are left open."))


@rule(
    "wire.unmatched",
    station="wire",
    node="cell",
    source=PRACTICE,
    advice=say("Bring the cells to the same voltage first."),
    follows=("cell.parallel", "cell.unlike_joining"),
)
def unmatched(chosen: ChosenCell) -> Iterator[Judgement]:
    """Paralleled cells are joined only after matching."""
    if chosen.count < 2 or chosen.chain.build.unlike_cells:
        return
    if chosen.chain.build.wiring.matched:
        yield fine(say("The {count} cells are matched before they are joined.", count=chosen.count))
    else:
        yield caution(
            say("Nobody has matched the {count} cells that are to be joined.", count=chosen.count),
            working=say("Same class and type, capacities within 10 %, volts within 50 mV: see Your parts."),
            remedy=remedy(say("They are matched"), {f"{chosen.chain.path}.wiring.matched": True}),
        )


@rule(
    "wire.own_computed",
    station="wire",
    node="gadget",
    source="how this tool counts",
    advice=say("Check that the wires are drawn as you intend them."),
)
def own_computed(wired: WiredBuild) -> Iterator[Judgement]:
    """The numbers follow the maker's own wires where those differ, and say so where they cannot."""
    chain, own = wired.chain, wired.chain.as_wired
    if chain.build.wiring.wires is None:
        return
    if own is None:
        yield caution(
            say("Your wires do not lead from the cell to the gadget. Every figure is for the tool's own hook-up."),
            remedy=_as_made(chain),
            subjects=(wired.roles.cell_plus[0], wired.roles.gadget[0]),
        )
        return
    differs = [
        NOTHING if own.through_regulator else say("no regulator in between"),
        NOTHING if own.through_protection else say("no protection board in between"),
        say_of(own.diodes, "one diode in series", "{count} diodes in series") if own.diodes else NOTHING,
    ]
    if counted := row_of(differs):
        yield note(
            say("The numbers follow your own wires: {counted}.", counted=counted),
            working=say("A diode counts as a usual Schottky, 1 A."),
        )
    else:
        yield fine(say("Your own wires lead through everything the plan counts on."))
