"""Wire: the electrical rule check over the nets as they stand, whoever made them.

The thirteen rules of wiring are common practice, no source, but for wire sizes (ASTM B258, IEC 60028).
"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, ChosenCell
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.models.gadget import EXISTING_CHARGING, TREATMENTS
from pocketspark.core.models.wiring import THERMISTOR_LEADS
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import Figure, amps, millimetres, ohms, volts
from pocketspark.core.wiring.cutlist import DROP_V, cut_list
from pocketspark.core.wiring.wired import WiredBuild

PRACTICE = "wiring rules, common practice, no source"
# More than this for ever is worth a switch before it.
HIGH_IQ_A = 200e-6


def _as_made(chain: Chain) -> Remedy | None:
    """Back to the hook-up that the tool makes, where the maker's own differs."""
    if chain.build.wiring.wires is None:
        return None
    return remedy("Wire it as the tool does", {f"{chain.path}.wiring.wires": None})


def _named(pad: str) -> str:
    return pad.replace(".", " ")


@rule("wire.cell_unprotected", station="wire", source=PRACTICE)
def cell_unprotected(wired: WiredBuild) -> Iterator[Judgement]:
    """Every cell terminal reaches the gadget only through the protection."""
    nets, roles = wired.nets, wired.roles
    if wired.running.cell.protection is not None:
        yield fine("The protection sits on the cell itself: nothing can go round it.")
        return
    protections = [key for key, part in wired.parts.by_key.items() if ("B-" in part.pads and part.through)]
    if not protections:
        return
    for minus in roles.cell_minus:
        if nets.reaches(minus, roles.gadget[1], without=protections):
            yield stop(
                f"A wire leads from {_named(minus)} to the gadget round the protection.",
                working="Everything works until the cell is flat for good. Find the wire that joins them, and move it.",
                remedy=_as_made(wired.chain),
                subjects=(minus, roles.gadget[1]),
            )
            return
    yield fine("From cell to gadget there is no way round the protection.")


@rule("wire.protection_bypassed", station="wire", source=PRACTICE)
def protection_bypassed(wired: WiredBuild) -> Iterator[Judgement]:
    """B- never meets OUT-, P- or a metal case: joining them takes the protection out."""
    nets, roles = wired.nets, wired.roles
    on_cell = [part.pad("B-") for part in wired.parts.by_key.values() if part.through and "B-" in part.pads]
    if not on_cell:
        return
    pair = nets.any_same(on_cell, [*roles.load_side, roles.gadget[1]])
    if pair:
        yield stop(
            f"The protection is bypassed: {_named(pair[0])} and {_named(pair[1])} are joined.",
            working="A shared ground wire, a metal case, or the gadget's own board joins them. Part them.",
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
        return
    if nets.case and (nets.case in on_cell or nets.any_same([nets.case], on_cell)):
        yield stop(
            f"The metal case lies on {_named(nets.case)}: whatever touches it and the gadget's minus bypasses the "
            "protection.",
            working="Let the case touch the load side's minus, or nothing.",
            subjects=(nets.case,),
        )
        return
    yield fine("The cell's minus and the load's minus meet in the protection alone.")


@rule("wire.charger_before_protection", station="wire", source=PRACTICE)
def charger_before_protection(wired: WiredBuild) -> Iterator[Judgement]:
    """A charger beside a separate protection belongs on its load side, or the over-charge cut does nothing."""
    charger, protection = wired.parts.charger, wired.parts.protection
    if protection is None or charger is None:
        return
    pads = (f"{charger}.B-", f"{protection}.B-")
    if wired.nets.same(*pads):
        yield stop(
            f"The protection cannot stop an over-charge: {_named(pads[0])} belongs on P-, not on B-.",
            working="So wired, the charger feeds the cell past the protection's own transistors.",
            remedy=_as_made(wired.chain),
            subjects=pads,
        )
    else:
        yield fine("The charger sits on the load side of the protection.")


@rule("wire.load_on_cell_pads", station="wire", source=PRACTICE)
def load_on_cell_pads(wired: WiredBuild) -> Iterator[Judgement]:
    """The load goes to OUT, never to B: there it hangs on the bare cell."""
    charger = wired.parts.by_key.get(wired.parts.charger or "")
    if charger is None or "OUT-" not in charger.pads:
        return
    ground = wired.roles.gadget[1]
    if wired.nets.same(ground, charger.pad("B-")) and not wired.nets.same(ground, charger.pad("OUT-")):
        yield stop(
            f"The gadget hangs on the bare cell: its minus is on {_named(charger.pad('B-'))}, not on OUT-.",
            remedy=_as_made(wired.chain),
            subjects=(ground, charger.pad("B-")),
        )
    else:
        yield fine("The gadget hangs on the OUT pads.")


@rule("wire.regulator_bypassed", station="wire", node="regulator", source=PRACTICE)
def regulator_bypassed(wired: WiredBuild) -> Iterator[Judgement]:
    """The gadget's plus is fed through the regulator alone, or it sees the cell's own voltage."""
    regulator, roles = wired.parts.regulator, wired.roles
    if regulator is None:
        return
    name = wired.chain.regulator.name
    if wired.nets.reaches(roles.cell_plus[0], roles.gadget[0], without=[regulator]):
        full = volts(wired.running.chosen.full_v)
        yield stop(
            f"A wire leads from the cell to the gadget round the {name}: it sees up to {full}.",
            figure=full,
            working="Whatever the regulator is set to.",
            remedy=_as_made(wired.chain),
            subjects=(roles.cell_plus[0], roles.gadget[0]),
        )
    else:
        yield fine(f"The gadget is fed through the {name} alone.")


@rule("wire.five_on_battery", station="wire", node="cell", source=PRACTICE)
def five_on_battery(wired: WiredBuild) -> Iterator[Judgement]:
    """5 V never meets the battery rail without a diode or load sharing."""
    nets, roles = wired.nets, wired.roles
    pair = nets.any_same(roles.five_volts, [*roles.cell_plus, *roles.battery_plus, *roles.load_plus])
    if pair:
        yield stop(
            f"5 V goes straight into the cell: {_named(pair[0])} and {_named(pair[1])} are joined.",
            working="It is charged with no limit at all. A diode or a load-sharing board belongs between them.",
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
        return
    straight = nets.any_same(roles.five_volts, [roles.gadget[0]])
    if straight:
        yield caution(
            f"5 V goes straight into the gadget: {_named(straight[0])} and {_named(straight[1])} are joined.",
            subjects=straight,
        )
        return
    yield fine("5 V and the battery's plus are apart.")


@rule("wire.old_path", station="wire", node="gadget", source=PRACTICE)
def old_path(chosen: ChosenCell) -> Iterator[Judgement]:
    """The old charge path is cut, moved or blocked before a wire goes in."""
    existing = chosen.chain.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger"):
        return
    what = EXISTING_CHARGING[existing.kind].called
    if existing.treatment in ("untouched", "kept"):
        yield stop(
            f"The {what} still reaches the battery terminals: cut its track or wire before anything is soldered.",
            remedy=remedy("Cut it", {"gadget.existing_charging.treatment": "cut"}),
        )
    else:
        how = TREATMENTS[existing.treatment][0]
        yield fine(f"The {what}: {how[0].lower()}{how[1:]}.")


@rule("wire.switch_place", station="wire", node="gadget", source=PRACTICE, limits=f"{HIGH_IQ_A * 1e6:.0f} μA")
def switch_place(wired: WiredBuild) -> Iterator[Judgement]:
    """The main switch interrupts the gadget and not the charger, and stands before a regulator that always drains."""
    parts, chain = wired.parts, wired.chain
    switches = [key for key, part in parts.by_key.items() if part.kind == "switch" and key != "change_over"]
    for key in switches:
        if parts.charger and not wired.nets.reaches(wired.roles.cell_plus[0], f"{parts.charger}.B+", without=[key]):
            yield stop(
                f"With {_named(key)} off it never charges: the switch stands between charger and cell.",
                working="It belongs between the protected output and the gadget.",
                remedy=_as_made(chain),
                subjects=(key,),
            )
            return
    drain = amps(chain.regulator.iq_a)
    if drain.value > HIGH_IQ_A and chain.build.switch_place == "gadget":
        yield caution(
            f"The regulator draws {drain} for ever: the switch belongs before it.",
            figure=drain,
            limit=amps(HIGH_IQ_A),
            remedy=remedy("Put the switch before it", {f"{chain.path}.switch_place": "before_regulator"}),
        )
    else:
        yield fine("The main switch interrupts the gadget and not the charger.")


@rule("wire.polarity", station="wire", source=PRACTICE)
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
            f"Plus meets minus: {_named(crossed[0])} and {_named(crossed[1])} are joined.",
            working="Reversed, the chip is hot at once and the board dead.",
            remedy=_as_made(wired.chain),
            subjects=crossed,
        )
        return
    yield fine(
        "Plus meets plus everywhere; connectors are not standardised, so hold the meter on each before it goes in."
    )


@rule("wire.open", station="wire", node="gadget", source=PRACTICE)
def left_open(wired: WiredBuild) -> Iterator[Judgement]:
    """Charger, cell and gadget are all reached; a removed fuse or link is bridged by what replaces it."""
    missing = [f"{start} to {end}" for start, end, is_there in _ways(wired) if not is_there]
    if missing:
        yield stop(f"Still to be wired: {', '.join(missing)}.", remedy=_as_made(wired.chain))
    else:
        yield fine("Every part is wired.")


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


@rule("wire.thermistor_lead", station="wire", node="cell", source=PRACTICE)
def thermistor_lead(chosen: ChosenCell) -> Iterator[Judgement]:
    """A temperature wire (thermistor) is kept, replaced by its fixed resistor, or known to be unneeded."""
    if not chosen.cell.thermistor_lead:
        return
    becomes = chosen.chain.build.wiring.thermistor_lead
    if becomes is None:
        yield caution(
            "Nobody has said what becomes of the cell's temperature wire.",
            working="Kept on the charger's sense pin, replaced by the resistor it shows at 25 °C, or insulated.",
            remedy=remedy(
                "It is not needed here, insulate it", {f"{chosen.chain.path}.wiring.thermistor_lead": "unneeded"}
            ),
        )
    else:
        yield fine(f"The cell's temperature wire is {THERMISTOR_LEADS[becomes]}.")


@rule(
    "wire.thin",
    station="wire",
    node="gadget",
    source="ASTM B258 gauges, from memory; copper 1.7241e-8 ohm m, IEC 60028",
    formula="drop = I_peak x rho L / A",
    limits=f"{DROP_V * 1000:.0f} mV over a pair",
)
def thin(wired: WiredBuild) -> Iterator[Judgement]:
    """The wire carries the peak with under 50 mV of drop."""
    wires = cut_list(wired.chain, wired.nets.hookup)
    if not wires:
        return
    worst = max(wires, key=lambda wire: wire.drop_v)
    pair_v = 2 * worst.drop_v
    lost = Figure(f"{pair_v * 1000:.0f} mV", pair_v, "V")
    length, resistance = millimetres(worst.length_mm, 0), ohms(pair_v / worst.current_a / 2)
    working = f"{length} of {worst.gauge} at {amps(worst.current_a)}, {resistance}"
    if pair_v > DROP_V:
        yield note(
            f"The longest pair of wires takes {lost}.", figure=lost, working=working, subjects=(worst.start, worst.end)
        )
    else:
        yield fine(f"No pair of wires takes more than {lost}.", figure=lost, working=working)


@rule("wire.usb_out_fed", station="wire", node="charger", source=PRACTICE)
def usb_out_fed(wired: WiredBuild) -> Iterator[Judgement]:
    """Pads that give 5 V are left open: feeding them charges nothing."""
    fed = wired.roles.usb_out
    if not fed:
        return
    pair = wired.nets.any_same(["source.5V"], fed)
    if pair:
        yield stop(
            "5 V goes into the USB out pads: no lamp, no current.",
            working="The source goes to the in pads; the out pads stay open.",
            remedy=_as_made(wired.chain),
            subjects=pair,
        )
    else:
        yield fine("The USB out pads are left open.")


@rule("wire.unmatched", station="wire", node="cell", source=PRACTICE)
def unmatched(chosen: ChosenCell) -> Iterator[Judgement]:
    """Paralleled cells are joined only after matching."""
    if chosen.count < 2 or chosen.chain.build.unlike_cells:
        return
    if chosen.chain.build.wiring.matched:
        yield fine(f"The {chosen.count} cells are matched before they are joined.")
    else:
        yield caution(
            f"Nobody has matched the {chosen.count} cells that are to be joined.",
            working="Same class and type, capacities within 10 %, volts within 50 mV: see Your parts.",
            remedy=remedy("They are matched", {f"{chosen.chain.path}.wiring.matched": True}),
        )


@rule("wire.own_computed", station="wire", node="gadget", source="how this tool counts")
def own_computed(wired: WiredBuild) -> Iterator[Judgement]:
    """The numbers follow the maker's own wires where those differ, and say so where they cannot."""
    chain, own = wired.chain, wired.chain.as_wired
    if chain.build.wiring.wires is None:
        return
    if own is None:
        yield caution(
            "Your wires do not lead from the cell to the gadget: every number is that of the tool's own hook-up.",
            remedy=_as_made(chain),
            subjects=(wired.roles.cell_plus[0], wired.roles.gadget[0]),
        )
        return
    differs = [
        "" if own.through_regulator else "no regulator in the way",
        "" if own.through_protection else "no protection board in the way",
        f"{own.diodes} {'diode' if own.diodes == 1 else 'diodes'} in series" if own.diodes else "",
    ]
    counted = ", ".join(one for one in differs if one)
    if counted:
        yield note(
            f"The numbers follow your own wires: {counted}.", working="A diode is taken as a usual Schottky, 1 A."
        )
    else:
        yield fine("Your own wires lead through what the plan counts on.")
