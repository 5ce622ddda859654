"""A charger that is there already, the gadget's own or one outside: does it suit the cell, how long does it take?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, ChosenCell, GivenCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import SAME_V
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amp_hours, amps, amps_apart, hours, percent, times, volts

# A gauge that counts charge is told apart from the truth from here on (common practice, no source).
GAUGE_OFF = 0.10


@rule("cell.swap_without_lithium", station="cell", source="how this tool counts")
def swap_without_lithium(chain: Chain) -> Iterator[Judgement]:
    """A gadget's own charger can only be kept where it has one, for lithium."""
    if chain.build.who_charges == "gadget" and not chain.gadget.has_lithium_charger:
        yield stop(
            f"Nothing would charge the cell: this gadget takes {chain.gadget.supply.label}, and has no lithium charger "
            "to keep.",
            remedy=remedy("Let a board of ours charge", {f"{chain.path}.who_charges": "board"}),
        )


@rule("charge.given_unknown", station="charge", node="charger", source="common practice, no source")
def given_unknown(chain: Chain) -> Iterator[Judgement]:
    """Without its current nobody can say how long a charger takes, or whether the cell bears it."""
    if chain.cell is None or chain.charging_board is not None:
        return
    if chain.build.who_charges == "external":
        yield note(
            "Nobody has said what the external charger gives, so no charge time can be told.",
            working="It stands on its label, in mA, beside its end voltage.",
            subjects=(f"{chain.path}.external_charger.current_a",),
        )
    elif chain.keeps_own_charger:
        yield note(
            "Nobody has measured what the gadget's own charger gives, so no charge time can be told.",
            working="Multimeter on its current range in the cell's plus lead, cell half empty.",
            subjects=("gadget.supply.own_charger.current_a",),
        )


@rule("cell.swap_class", station="cell", source="full voltage of the cell's class (handbooks, from memory)")
def swap_class(chosen: ChosenCell) -> Iterator[Judgement]:
    """The full-charge voltage of the cell must be that of the charger that is there."""
    ends_v, charger = chosen.chain.charge_ends_v, _called(chosen.chain)
    if not charger or ends_v is None:
        return
    facts = chosen.cell.facts
    ends, full = volts(ends_v), volts(facts.full_v)
    if ends.value > full.value + SAME_V:
        yield stop(
            f"The {charger} over-charges this cell: it stops at {ends}, and the cell is full at {full}.",
            figure=ends,
            limit=full,
        )
    elif ends.value < full.value - SAME_V:
        unused = percent(1 - float(chosen.curve.soc_at(ends.value)))
        yield caution(
            f"{unused} of the label stays unused: the {charger} stops at {ends}.",
            figure=unused,
            limit=full,
            working=f"a {facts.label} cell is full at {full}; safe",
        )
    else:
        yield fine(f"The {charger} stops at {ends}, where this cell is full.", figure=ends)


def _called(chain: Chain) -> str:
    """What the charger that is there is called in a sentence; "" where a board of ours charges."""
    if chain.build.who_charges == "external":
        return "external charger"
    return "gadget's own charger" if chain.keeps_own_charger else ""


@rule("cell.swap_charge", station="cell", source="charge along the open-circuit curve; timers, common practice")
def swap_charge(charging: GivenCharging) -> Iterator[Judgement]:
    """The charger's own current into this cell: how long it takes, and whether its timer or the cell objects."""
    cell, charger = charging.cell, charging.board.name
    limit_a = charging.chosen.charge_max_a or cell.capacity_ah * charging.chosen.count
    gives, takes = amps_apart(charging.charger.rated_a, limit_a)
    if charging.charger.rated_a > limit_a * 1.001:
        yield stop(f"The {charger} gives {gives} to a cell that takes {takes}.", figure=gives, limit=takes)
    taken = hours(float(charging.run.hours.flat[0]))
    working = f"{amps(charging.charger.rated_a)} into {amp_hours(charging.chosen.capacity_ah)}"
    own = charging.chain.gadget.supply.own_charger if charging.chain.keeps_own_charger else None
    if own is not None and own.timer_h is not None and taken.value > own.timer_h:
        timer = hours(own.timer_h)
        yield caution(
            f"The gadget's own timer ends the charge after {timer}, and a full one takes {taken}.",
            figure=taken,
            limit=timer,
            working=f"{working}; unplug and plug in again for the rest",
        )
    elif charging.run.hours.flat[0] < float("inf"):
        yield fine(f"A full charge takes {taken} on the {charger}.", figure=taken, working=working)


@rule(
    "cell.swap_gauge", station="cell", source="common practice, no source", limits=f"{percent(GAUGE_OFF)} in capacity"
)
def swap_gauge(chosen: ChosenCell) -> Iterator[Judgement]:
    """A gauge that counted the old capacity lies until it has relearnt."""
    old_ah = chosen.chain.gadget.supply.pack_capacity_ah
    if not chosen.chain.keeps_own_charger or old_ah is None:
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
    if not chosen.chain.keeps_own_charger or own is None or not own.reads_thermistor:
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
    if not (chosen.chain.build.who_charges != "board" or chosen.chain.build.style == "outside_pack"):
        return
    if chosen.cell.polarity_measured:
        yield fine("The polarity of its plug was measured against the socket.")
    else:
        yield caution(
            "Nobody has measured which way round its plug is: hold the meter on it before it goes in.",
            working="Same plug, other way round, is common. Plus and minus at the plug against those at the socket.",
            remedy=remedy("It is measured", {f"{chosen.path}.polarity_measured": True}),
        )
