"""Survey: what charges the terminals already."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.chain.old_charger import in_the_old_jack
from pocketspark.core.chain.states import InState
from pocketspark.core.circuit import Circuit
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import back_through, kind_of
from pocketspark.core.limits import SAME_V
from pocketspark.core.message import Message, _, say
from pocketspark.core.models.gadget import EXISTING_CHARGING
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import Figure, amps, fixed, volts

# Where an old charge path would go past, while no cell is chosen: the usual class.
USUAL_FULL_V = 4.20


@rule(
    "survey.existing_charging_live",
    station="survey",
    source="common practice, no source",
    advice=say("Cut the old path, or move it to the new charger's input."),
)
def existing_charging_live(chain: Chain) -> Iterator[Judgement]:
    """An old jack, dock or contact that feeds the battery terminals has no voltage limit for lithium."""
    existing = chain.gadget.existing_charging
    if existing.kind == "none":
        return
    what = EXISTING_CHARGING[existing.kind].called
    limited = existing.kind == "lithium_charger"
    about = ("gadget.existing_charging",)
    cut = {"gadget.existing_charging.treatment": "cut"}
    if existing.treatment in ("cut", "moved"):
        yield fine(
            say(
                "The {what} is {treatment}, so it no longer reaches the cell.", what=what, treatment=existing.treatment
            ),
            subjects=about,
        )
    elif existing.treatment == "diode":
        yield note(
            say(
                "A diode blocks the {what}. It takes {least} to {most} V on the way to the gadget.",
                what=what,
                least=fixed(0.25, 2),
                most=fixed(0.45, 2),
            ),
            working=say("Every figure of the run counts it as a usual Schottky diode."),
            subjects=about,
        )
    elif limited and chain.charger_boards and chain.build.who_charges == "board":
        yield stop(
            say(
                "Two chargers on one cell: the gadget's own {what} stays connected beside {charger_boards}.",
                what=what,
                charger_boards=chain.charger_boards[0].name,
            ),
            working=say(
                "Neither knows when the other has filled it. Let the gadget's own charge and leave the new "
                "board out, or cut the gadget's own."
            ),
            remedy=remedy(say("Cut the gadget's own"), cut),
            subjects=about,
        )
    elif limited and (existing.treatment == "kept" or chain.build.who_charges == "gadget"):
        yield fine(
            say("The {what} stays and charges the new cell.", what=what),
            working=say("Its voltage and current are checked."),
        )
    elif limited:
        yield caution(
            say(
                "The gadget's own {what} is still connected: with a charger board there would be two on one cell.",
                what=what,
            ),
            working=say("Let it charge and leave the new board out, or cut it."),
            remedy=remedy(say("Cut it"), cut),
            subjects=about,
        )
    elif existing.treatment == "never_plugged_in":
        yield caution(
            say("Nobody must ever plug anything into the {what} again, but sooner or later somebody will.", what=what),
            working=say(
                "It has no voltage limit: using it once is enough to over-charge the lithium cell. The build sheet "
                "says so."
            ),
            remedy=remedy(say("Cut it instead"), cut),
            subjects=about,
        )
    else:
        full = volts(chain.chosen_cell.full_v if chain.chosen_cell else USUAL_FULL_V)
        headline, working = _past_full(chain, full)
        yield stop(
            say(headline, what=what, full=full),
            limit=full,
            working=say("{working} Cut it, move it, or block it with a diode.", working=working),
            remedy=remedy(say("Cut it"), cut),
            subjects=about,
        )


PAST_FULL = _("The {what} has no voltage limit: it would charge the lithium cell past {full}.")
STILL_FEEDS = _("The {what} has no voltage limit, and still feeds the battery terminals.")


def _past_full(chain: Chain, full: Figure) -> tuple[str, Message]:
    """What an old adapter does to the full cell, as the composed circuit has it: the template, and how that comes."""
    if chain.running is None:
        return PAST_FULL, say("It was made for NiMH or NiCd cells, or for none.")
    plugged = in_the_old_jack(InState(chain.running.chosen), full.value, None)
    if plugged.cell_a < 0:
        return PAST_FULL, say(
            "With its adapter plugged in, {cell_a} flows into the full cell, and nothing stops it.",
            cell_a=amps(-plugged.cell_a),
        )
    kind = kind_of(chain.running.chosen.regulator_in_the_way)
    if back_through(chain.running.chosen.regulators_in_the_way) == "not" or chain.running.chosen.run_path_diodes:
        return STILL_FEEDS, say(
            "A {between} lets nothing back to the cell as a rule. It has not been tried with this one.",
            between="diode" if chain.running.chosen.run_path_diodes else kind.label,
        )
    return PAST_FULL, say(
        "An adapter of {gadget_v} does not, but the next one that fits the jack will.",
        gadget_v=volts(plugged.gadget_v or 0.0),
    )


@rule(
    "survey.old_adapter_unclamped",
    station="survey",
    source="Kirchhoff's laws; an unregulated adapter's open volts, common practice",
    formula=say("V_gadget = V_open - R I_gadget, with the cell out of reach behind the diode"),
    limits=say("the highest voltage the gadget survives"),
    advice=say("Use a regulated adapter of lower voltage, or cut the old path."),
)
def old_adapter_unclamped(circuit: Circuit) -> Iterator[Judgement]:
    """Behind a diode no battery holds the old adapter's volts down any more: they all stand at the gadget."""
    chain, existing = circuit.chain, circuit.chain.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger") or existing.treatment != "diode":
        return
    path, window = "gadget.existing_charging.adapter_v", chain.window
    if existing.adapter_v is None:
        yield note(
            say("Behind the diode no battery holds the old adapter's voltage down any more. Measure it at the jack."),
            working=say("Plugged in, nothing on it, meter on volts: the gadget gets all of them."),
            subjects=(path,),
        )
        return
    worst = circuit.worst("gadget_v", feeds=("old adapter",))
    gets, bears = volts(worst.value if worst else 0.0), volts(window.v_abs_max)
    facts: Facts = {"figure": gets, "limit": bears, "rests_on": ("gadget.window.v_abs_max", path)}
    if gets.value <= bears.value + SAME_V:
        yield fine(
            say(
                "With the old adapter plugged in, the gadget gets {gets}; it survives {limit}.",
                gets=gets,
                limit=bears,
            ),
            **facts,
        )
        return
    judge = caution if window.max_basis == "inferred" else stop
    yield judge(
        say("With the old adapter plugged in, the gadget gets {gets}; its limit is {limit}.", gets=gets, limit=bears),
        working=say("Until now the old batteries held it down. Behind the diode nothing does."),
        remedy=remedy(say("Cut it instead"), {"gadget.existing_charging.treatment": "cut"}),
        **facts,
    )


@rule(
    "survey.own_lamp",
    station="survey",
    source="common practice, no source",
    advice=say("Go by the new board's lamp, and cover the old one."),
)
def own_lamp(chain: Chain) -> Iterator[Judgement]:
    """A gadget whose own lamp judged NiMH by its volts shows full at once with lithium behind it."""
    supply, existing = chain.gadget.supply, chain.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger") or existing.treatment in ("cut", "moved"):
        return
    lithium_v = chain.chosen_cell.full_v if chain.chosen_cell else USUAL_FULL_V
    if supply.kind != "lithium" and supply.chemistry == "nimh" and supply.fresh_v < lithium_v - SAME_V:
        full = volts(supply.fresh_v)
        yield note(
            say("Its own charge lamp judges by {full}. With lithium behind it, it can show full at once.", full=full),
            figure=full,
            working=say("Go by the lamp of the charger board only."),
        )
