"""Wire: the electrical rule check over the nets as they stand, whoever made them.

The thirteen rules of wiring are common practice, no source, but for wire sizes (ASTM B258, IEC 60028).
"""

from collections.abc import Iterator
from functools import lru_cache

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Remedy
from pocketspark.core.models import Build, Gadget, Project
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amps, ohms, volts
from pocketspark.core.wiring.cutlist import DROP_V, cut_list
from pocketspark.core.wiring.hookup import hook_up
from pocketspark.core.wiring.nets import Nets, nets_of

PRACTICE = "wiring rules, common practice, no source"
# More than this for ever is worth a switch before it.
HIGH_IQ_A = 200e-6


def wired(chain: Chain) -> Nets:
    """The nets of this build. Raises MissingPart before a cell is chosen."""
    chain.require_cell()
    return _nets(chain.gadget, chain.build)


@lru_cache(maxsize=64)
def _nets(gadget: Gadget, build: Build) -> Nets:
    """A dozen rules look at the same nets, which hang on nothing but gadget and build."""
    chain = Chain(Project(gadget=gadget, builds=(build,)), 0)
    return nets_of(hook_up(chain), build.wiring.case_touches)


def _as_made(chain: Chain) -> Remedy | None:
    """Back to the hook-up that the tool makes, where the maker's own differs."""
    if chain.build.wiring.wires is None:
        return None
    return remedy("Wire it as the tool does", {f"{chain.at}.wiring.wires": None})


def _named(pad: str) -> str:
    return pad.replace(".", " ")


@rule("wire.cell_unprotected", station="wire", source=PRACTICE)
def cell_unprotected(chain: Chain) -> Iterator[Judgement]:
    """Every cell terminal reaches the gadget only through the protection."""
    nets = wired(chain)
    parts = nets.hookup.parts
    if chain.cell.protection is not None:
        yield passed("1 protection on the cell itself: nothing can go round it")
        return
    protections = [key for key, part in parts.by_key.items() if ("B-" in part.pads and part.through)]
    if not protections:
        return
    for minus in parts.roles.cell_minus:
        if nets.reaches(minus, parts.roles.gadget[1], without=protections):
            yield stop(
                f"1 way from {_named(minus)} to the gadget that goes round the protection",
                working="Everything works until the cell is flat for good. Find the wire that joins them, and move it.",
                remedy=_as_made(chain),
            )
            return
    yield passed("0 ways round the protection, from cell to gadget")


@rule("wire.protection_bypassed", station="wire", source=PRACTICE)
def protection_bypassed(chain: Chain) -> Iterator[Judgement]:
    """B- never meets OUT-, P- or a metal case: joining them takes the protection out."""
    nets = wired(chain)
    roles, case = nets.hookup.parts.roles, nets.case
    protected = [part for part in nets.hookup.parts.by_key.values() if part.through and "B-" in part.pads]
    if not protected:
        return
    pair = nets.any_same([p.pad("B-") for p in protected], [*roles.load_side, roles.gadget[1]])
    if pair:
        yield stop(
            f"1 net joins {_named(pair[0])} and {_named(pair[1])}: the protection is bypassed",
            working="A shared ground wire, a metal case, or the gadget's own board joins them. Part them.",
            remedy=_as_made(chain),
        )
        return
    if case and nets.any_same([case], [p.pad("B-") for p in protected]):
        yield stop(
            f"1 metal case on {_named(case)}: anything that touches it and the gadget's minus bypasses the protection",
            working="Keep the case on the load side's minus, or away from both.",
        )
        return
    yield passed("2 nets, cell minus and load minus, joined by the protection alone")


@rule("wire.charger_before_protection", station="wire", source=PRACTICE)
def charger_before_protection(chain: Chain) -> Iterator[Judgement]:
    """A charger beside a separate protection belongs on its load side, or the over-charge cut does nothing."""
    nets = wired(chain)
    parts = nets.hookup.parts
    if parts.protection is None or parts.charger is None:
        return
    wrong = nets.same(f"{parts.charger}.B-", f"{parts.protection}.B-")
    if wrong:
        yield stop(
            f"1 charger on the cell's side of the protection: {_named(parts.charger)} B- goes to P-, not to B-",
            working="So wired, the protection cannot stop an over-charge.",
            remedy=_as_made(chain),
        )
    else:
        yield passed("1 charger on the load side of its protection")


@rule("wire.load_on_cell_pads", station="wire", source=PRACTICE)
def load_on_cell_pads(chain: Chain) -> Iterator[Judgement]:
    """The load goes to OUT, never to B: there it hangs on the bare cell."""
    nets = wired(chain)
    parts = nets.hookup.parts
    charger = parts.by_key.get(parts.charger or "")
    if charger is None or "OUT-" not in charger.pads:
        return
    ground = parts.roles.gadget[1]
    if nets.same(ground, charger.pad("B-")) and not nets.same(ground, charger.pad("OUT-")):
        yield stop(
            f"1 load on the cell's pads: the gadget's minus is on {_named(charger.pad('B-'))}, not on OUT-",
            remedy=_as_made(chain),
        )
    else:
        yield passed("1 load on the OUT pads")


@rule("wire.regulator_bypassed", station="wire", source=PRACTICE)
def regulator_bypassed(chain: Chain) -> Iterator[Judgement]:
    """The gadget's plus is fed through the regulator alone, or it sees the cell's own voltage."""
    nets = wired(chain)
    parts = nets.hookup.parts
    if parts.regulator is None:
        return
    if nets.reaches(parts.roles.cell_plus[0], parts.roles.gadget[0], without=[parts.regulator]):
        yield stop(
            f"1 way from the cell to the gadget's plus that goes round the {chain.regulator.name}",
            working=f"The gadget sees up to {volts(chain.full_v)} there, whatever the regulator is set to.",
            remedy=_as_made(chain),
        )
    else:
        yield passed(f"0 ways round the {chain.regulator.name}")


@rule("wire.five_on_battery", station="wire", source=PRACTICE)
def five_on_battery(chain: Chain) -> Iterator[Judgement]:
    """5 V never meets the battery rail without a diode or load sharing."""
    nets = wired(chain)
    roles = nets.hookup.parts.roles
    rails = [*roles.cell_plus, *roles.battery_plus, *roles.load_plus]
    pair = nets.any_same(roles.five_volts, rails)
    if pair:
        yield stop(
            f"5 V straight on the battery rail: {_named(pair[0])} and {_named(pair[1])} are one net",
            working="The cell is charged with no limit at all. A diode or a load-sharing board belongs between them.",
            remedy=_as_made(chain),
        )
        return
    straight = nets.any_same(roles.five_volts, [roles.gadget[0]])
    if straight:
        yield caution(f"5 V straight on the gadget: {_named(straight[0])} and {_named(straight[1])} are one net")
        return
    yield passed("5 V and the battery rail are apart")


@rule("wire.old_path", station="wire", source=PRACTICE)
def old_path(chain: Chain) -> Iterator[Judgement]:
    """The old charge path is cut, moved or blocked before a wire goes in."""
    chain.require_cell()
    existing_charging = chain.gadget.existing_charging
    if existing_charging.kind in ("none", "lithium_charger"):
        return
    if existing_charging.treatment in ("untouched", "kept"):
        yield stop(
            "1 old charge path still joins the battery terminals",
            working="Cut its track or wire before anything is soldered.",
            remedy=remedy("Cut it", {"gadget.existing_charging.treatment": "cut"}),
        )
    else:
        yield passed(f"1 old charge path: {existing_charging.treatment.replace('_', ' ')}")


@rule("wire.switch_place", station="wire", source=PRACTICE, limits=f"{HIGH_IQ_A * 1e6:.0f} uA")
def switch_place(chain: Chain) -> Iterator[Judgement]:
    """The main switch interrupts the gadget and not the charger, and stands before a regulator that drains for ever."""
    nets = wired(chain)
    parts = nets.hookup.parts
    switches = [key for key, part in parts.by_key.items() if part.kind == "switch" and key != "change_over"]
    charger = parts.charger
    for key in switches:
        if charger and not nets.reaches(parts.roles.cell_plus[0], f"{charger}.B+", without=[key]):
            yield stop(
                f"1 switch between charger and cell: with {_named(key)} off it never charges",
                working="It belongs between the protected output and the gadget.",
                remedy=_as_made(chain),
            )
            return
    if chain.regulator.iq_a > HIGH_IQ_A and chain.build.switch_place == "gadget":
        yield caution(
            f"{amps(chain.regulator.iq_a)} through the regulator for ever: the switch belongs before it",
            remedy=remedy("Put the switch before it", {f"{chain.at}.switch_place": "before_regulator"}),
        )
    else:
        yield passed("1 main switch where it interrupts the gadget and not the charger")


@rule("wire.polarity", station="wire", source=PRACTICE)
def polarity(chain: Chain) -> Iterator[Judgement]:
    """Plus meets plus, by the meter and not by the colour of the wire."""
    nets = wired(chain)
    roles = nets.hookup.parts.roles
    crossed = nets.any_same(
        roles.cell_plus, [*roles.battery_side, *roles.load_side, roles.gadget[1], *roles.cell_minus]
    )
    crossed = crossed or nets.any_same(roles.cell_minus, [*roles.battery_plus, *roles.load_plus, roles.gadget[0]])
    crossed = crossed or nets.any_same([roles.gadget[0]], [*roles.load_side, *roles.charger_minus])
    if crossed:
        yield stop(
            f"1 crossed pair: {_named(crossed[0])} meets {_named(crossed[1])}",
            working="Reversed, the chip is hot at once and the board dead.",
            remedy=_as_made(chain),
        )
        return
    yield passed("0 crossed pairs; connectors are not standardised, so hold the meter on each before it goes in")


@rule("wire.open", station="wire", source=PRACTICE)
def left_open(chain: Chain) -> Iterator[Judgement]:
    """Charger, cell and gadget are all reached; a removed fuse or link is bridged by what replaces it."""
    nets = wired(chain)
    parts = nets.hookup.parts
    roles = parts.roles
    missing = []
    if parts.charger and not nets.flows(f"{parts.charger}.B+", roles.cell_plus[0]):
        missing.append("charger plus to cell plus")
    if parts.charger and not nets.reaches(f"{parts.charger}.B-", roles.cell_minus[0]):
        missing.append("charger minus to cell minus")
    if not nets.flows(roles.cell_plus[0], roles.gadget[0]):
        missing.append("cell plus to gadget plus")
    if not nets.reaches(roles.cell_minus[0], roles.gadget[1]):
        missing.append("cell minus to gadget minus")
    if parts.charger and not nets.same("source.5V", f"{parts.charger}.IN+"):
        missing.append("5 V to charger")
    if parts.charger and not nets.same("source.GND", f"{parts.charger}.IN-"):
        missing.append("the source's ground to charger")
    if missing:
        count = f"{len(missing)} way{'s' if len(missing) > 1 else ''} left open"
        yield stop(f"{count}: {', '.join(missing)}", remedy=_as_made(chain))
    else:
        yield passed("0 ways left open")


@rule("wire.thermistor_lead", station="wire", source=PRACTICE)
def thermistor_lead(chain: Chain) -> Iterator[Judgement]:
    """A temperature wire (thermistor) is kept, replaced by its fixed resistor, or known to be unneeded."""
    if not chain.cell.thermistor_lead:
        return
    treatment = chain.build.wiring.thermistor_lead
    if treatment is None:
        yield caution(
            "1 temperature wire on the cell, and nobody has said what becomes of it",
            working="Stored on the charger's sense pin, replaced by the resistor it shows at 25 °C, or insulated.",
            remedy=remedy("It is not needed here, insulate it", {f"{chain.at}.wiring.thermistor_lead": "unneeded"}),
        )
    else:
        yield passed(f"1 temperature wire: {treatment}")


@rule(
    "wire.thin",
    station="wire",
    source="ASTM B258 gauges, from memory; copper 1.7241e-8 ohm m, IEC 60028",
    formula="drop = I_peak x rho L / A",
    limits=f"{DROP_V * 1000:.0f} mV over a pair",
)
def thin(chain: Chain) -> Iterator[Judgement]:
    """The wire carries the peak with under 50 mV of drop."""
    wires = cut_list(chain, wired(chain).hookup)
    if not wires:
        return
    worst = max(wires, key=lambda wire: wire.drop_v)
    pair_v = 2 * worst.drop_v
    drop_ohm = worst.drop_v / worst.current_a
    told = f"{worst.length_mm:.0f} mm of {worst.awg} AWG at {amps(worst.current_a)}, {ohms(drop_ohm)}"
    if pair_v > DROP_V:
        yield note(f"{pair_v * 1000:.0f} mV is lost in the longest pair of wires", working=told)
    else:
        yield passed(f"{pair_v * 1000:.0f} mV at most in any pair of wires", working=told)


@rule("wire.usb_out_fed", station="wire", source=PRACTICE)
def usb_out_fed(chain: Chain) -> Iterator[Judgement]:
    """Pads that give 5 V are left open: feeding them charges nothing."""
    nets = wired(chain)
    roles = nets.hookup.parts.roles
    if not roles.usb_out:
        return
    if nets.any_same(["source.5V"], roles.usb_out):
        yield stop(
            "5 V into the USB out pads: no lamp, no current",
            working="The source goes to the in pads; the out pads stay open.",
            remedy=_as_made(chain),
        )
    else:
        yield passed("2 USB out pads left open")


@rule("wire.unmatched", station="wire", source=PRACTICE)
def unmatched(chain: Chain) -> Iterator[Judgement]:
    """Paralleled cells are joined only after matching."""
    count = chain.build.cell_count
    if count < 2:
        return
    if chain.build.wiring.matched:
        yield passed(f"{count} cells, matched before they are joined")
    else:
        yield caution(
            f"{count} cells to be joined that nobody has matched",
            working="Same class and type, capacities within 10 %, volts within 50 mV: see your inventory.",
            remedy=remedy("They are matched", {f"{chain.at}.wiring.matched": True}),
        )
