"""Wire: the wires themselves, their plug, their thickness, and whether all of them are there."""

from collections.abc import Iterator

from pocketspark.core.chain import ChosenCell
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.wires import DROP_V
from pocketspark.core.message import NOTHING, row_of, say, say_of
from pocketspark.core.models.wiring import THERMISTOR_LEADS
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.rules.wire.net_rules import PRACTICE, as_made
from pocketspark.core.units.figures import amps, celsius, millimetres, millivolts, ohms
from pocketspark.core.wiring.build_in_nets import WiredBuild
from pocketspark.core.wiring.cutlist import cut_list


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
        yield stop(say("Still to be wired: {missing}.", missing=row_of(missing)), remedy=as_made(wired.chain))
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
            working=say(
                "Kept on the charger's sense pin, replaced by the resistor it shows at {room}, or insulated.",
                room=celsius(25),
            ),
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
    wires = cut_list(wired.chain)
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
    "wire.own_computed",
    station="wire",
    node="gadget",
    source="how this tool counts",
    advice=say("Check that the wires are drawn as you intend them."),
)
def own_computed(wired: WiredBuild) -> Iterator[Judgement]:
    """The numbers follow the maker's own wires where those differ, and say so where they cannot."""
    chain, own = wired.chain, wired.running.chosen.as_wired
    if chain.build.wiring.wires is None:
        return
    if own is None:
        yield caution(
            say("Your wires do not lead from the cell to the gadget. Every figure is for the tool's own hook-up."),
            remedy=as_made(chain),
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
