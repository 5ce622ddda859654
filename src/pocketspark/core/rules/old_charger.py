"""What charges the gadget's batteries today: does it still reach the new cell, and what does it do to the gadget?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.chain.old_charger import in_the_old_jack
from pocketspark.core.chain.states import InState
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.limits import SAME_V
from pocketspark.core.models.gadget import EXISTING_CHARGING
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import Figure, amps, volts

# Where an old charge path would go past, while no cell is chosen: the usual class.
USUAL_FULL_V = 4.20


@rule("survey.existing_charging_live", station="survey", source="common practice, no source")
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
        yield fine(f"The {what} is {existing.treatment}: it no longer reaches the cell.", subjects=about)
    elif existing.treatment == "diode":
        yield note(
            f"A diode blocks the {what}. It takes 0.25 to 0.45 V on the way to the gadget.",
            working="Every figure of the run counts it, as a usual Schottky.",
            subjects=about,
        )
    elif limited and chain.charger_boards and chain.build.who_charges == "board":
        yield stop(
            f"Two chargers on one cell: the gadget's own {what} stays connected beside {chain.charger_boards[0].name}.",
            working="Neither knows when the other has filled it. Let the gadget's own charge and leave the new "
            "board out, or cut the gadget's own.",
            remedy=remedy("Cut the gadget's own", cut),
            subjects=about,
        )
    elif limited and (existing.treatment == "kept" or chain.build.who_charges == "gadget"):
        yield fine(f"The {what} stays and charges the new cell.", working="Its voltage and current are checked.")
    elif limited:
        yield caution(
            f"The gadget's own {what} is still connected: with a charger board there would be two on one cell.",
            working="Let it charge and leave the new board out, or cut it.",
            remedy=remedy("Cut it", cut),
            subjects=about,
        )
    elif existing.treatment == "never_plugged_in":
        yield caution(
            f"Nothing may ever be plugged into the {what} again, and somebody will.",
            working="It has no voltage limit: once with lithium behind it is enough to over-charge the cell. "
            "This is printed on the sheet.",
            remedy=remedy("Cut it instead", cut),
            subjects=about,
        )
    else:
        full = volts(chain.chosen_cell.full_v if chain.chosen_cell else USUAL_FULL_V)
        headline, working = _past_full(chain, full)
        yield stop(
            f"The {what} has no voltage limit{headline}",
            limit=full,
            working=f"{working} Cut it, move it, or block it with a diode.",
            remedy=remedy("Cut it", cut),
            subjects=about,
        )


def _past_full(chain: Chain, full: Figure) -> tuple[str, str]:
    """What an old adapter does to the full cell, as the composed circuit has it."""
    past = f": it would charge the lithium cell past {full}."
    if chain.running is None:
        return past, "It was made for NiMH or NiCd, or for nothing."
    plugged = in_the_old_jack(InState(chain.running), full.value, None)
    if plugged.cell_a < 0:
        return past, f"With its adapter in, {amps(-plugged.cell_a)} flow into the full cell, and nothing ends that."
    kind = kind_of(chain.regulator_in_the_way)
    if kind.lets_back == "not" or chain.running.run_path_diodes:
        between = "diode" if chain.running.run_path_diodes else kind.label
        return ", and still feeds the battery terminals.", (
            f"A {between} lets nothing back to the cell as a rule; nobody has tried it with this one."
        )
    return past, f"An adapter of {volts(plugged.gadget_v or 0.0)} does not; the next one that fits the jack will."


@rule(
    "survey.old_adapter_unclamped",
    station="survey",
    source="Kirchhoff's laws; an unregulated adapter's open volts, common practice",
    formula="V_gadget = V_open - R I_gadget, with the cell out of reach behind the diode",
    limits="the highest volts the gadget bears",
)
def old_adapter_unclamped(running: Running) -> Iterator[Judgement]:
    """Behind a diode no battery holds the old adapter's volts down any more: they all stand at the gadget."""
    chain, existing = running.chain, running.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger") or existing.treatment != "diode":
        return
    path, window = "gadget.existing_charging.adapter_v", chain.window
    if existing.adapter_v is None:
        yield note(
            "Behind the diode no battery holds the old adapter's volts down any more: measure them at the jack.",
            working="Plugged in, nothing on it, meter on volts: the gadget gets all of them.",
            subjects=(path,),
        )
        return
    plugged = in_the_old_jack(InState(running), running.chosen.full_v, None)
    gets, bears = volts(plugged.gadget_v or 0.0), volts(window.v_abs_max)
    facts = {"figure": gets, "limit": bears, "rests_on": ("gadget.window.v_abs_max", path)}
    if gets.value <= bears.value + SAME_V:
        yield fine(f"With the old adapter in, the gadget gets {gets}, and bears {bears}.", **facts)
        return
    judge = caution if window.max_basis == "inferred" else stop
    yield judge(
        f"With the old adapter in, the gadget gets {gets}: it bears {bears}.",
        working="So far the old batteries held it down; behind the diode nothing does.",
        remedy=remedy("Cut it instead", {"gadget.existing_charging.treatment": "cut"}),
        **facts,
    )


@rule("survey.own_lamp", station="survey", source="common practice, no source")
def own_lamp(chain: Chain) -> Iterator[Judgement]:
    """A gadget whose own lamp judged NiMH by its volts shows full at once with lithium behind it."""
    supply, existing = chain.gadget.supply, chain.gadget.existing_charging
    if existing.kind in ("none", "lithium_charger") or existing.treatment in ("cut", "moved"):
        return
    lithium_v = chain.chosen_cell.full_v if chain.chosen_cell else USUAL_FULL_V
    if supply.kind != "lithium" and supply.chemistry == "nimh" and supply.fresh_v < lithium_v - SAME_V:
        full = volts(supply.fresh_v)
        yield note(
            f"Its own charge lamp judged by {full}: with lithium behind it, it may say full at once.",
            figure=full,
            working="Believe the lamp of the charger board only.",
        )
