"""Wire: what may meet what, on the nets of the build as it is wired."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, ChosenCell
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.message import say
from pocketspark.core.models.gadget import EXISTING_CHARGING, TREATMENTS
from pocketspark.core.rules.rule import caution, fine, remedy, rule, stop
from pocketspark.core.units.figures import amps, fixed, volts
from pocketspark.core.wiring.build_in_nets import WiredBuild

PRACTICE = "wiring rules, common practice, no source"

# More than this for ever is worth a switch before it.
HIGH_IQ_A = 200e-6


def as_made(chain: Chain) -> Remedy | None:
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
                remedy=as_made(wired.chain),
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
            remedy=as_made(wired.chain),
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
            remedy=as_made(wired.chain),
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
            remedy=as_made(wired.chain),
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
    roles = wired.roles
    for regulator in wired.parts.regulators:
        name = wired.parts.by_key[regulator].name
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
                remedy=as_made(wired.chain),
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
            remedy=as_made(wired.chain),
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
                remedy=as_made(chain),
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
            remedy=as_made(wired.chain),
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
            remedy=as_made(wired.chain),
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
