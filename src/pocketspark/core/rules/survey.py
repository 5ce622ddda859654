"""Survey: is enough known about the gadget to judge anything?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import SAME_V
from pocketspark.core.models.gadget import EXISTING_CHARGING, PURPOSES
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import volts

# Where an old charge path would go past, while no cell is chosen: the usual class.
USUAL_FULL_V = 4.20


@rule("survey.no_modes", station="survey", source="common practice, no source")
def no_modes(chain: Chain) -> Iterator[Judgement]:
    """Without a measured current there is no run time, no smallest voltage and no check of the protection."""
    if any(mode.current_a > 0 for mode in chain.gadget.modes):
        return
    yield note(
        "Nobody has measured what it draws, so no run time can be said yet.",
        working="Put a multimeter on its current range in series with the old batteries and switch the gadget on.",
        subjects=("gadget.modes",),
    )


@rule("survey.window_inferred", station="survey", source="IEC 60086-2 sizes; voltages from memory")
def window_inferred(chain: Chain) -> Iterator[Judgement]:
    """A window inferred from the old batteries is soft; a bench supply turns it into a measured one."""
    window, supply = chain.window, chain.gadget.supply
    low, high = volts(window.v_run_min), volts(window.v_abs_max)
    guessed = [end for end in (window.min_basis, window.max_basis) if end == "inferred"]
    if not guessed:
        yield fine(f"It works from {low} to {high}, as measured or printed.", figure=low, limit=high)
        return
    what = (
        "both are guessed" if len(guessed) == 2 else ("the lowest" if window.min_basis == "inferred" else "the highest")
    )
    text = what if len(guessed) == 2 else f"{what} is guessed"
    yield note(
        f"It works from {low} to {high}, as far as its old batteries show; {text}.",
        figure=low,
        limit=high,
        working=(
            f"{supply.label}: a gadget made for them gives up at about {volts(supply.empty_v)}, and they are "
            f"{volts(supply.fresh_v)} when fresh. A bench supply turned down slowly, then up no further than you "
            "dare, makes it measured."
        ),
        rests_on=("gadget.window.v_run_min", "gadget.window.v_abs_max"),
        assumed=True,
    )


@rule("survey.not_to_be_converted", station="survey", source="common practice; local rules and the maker prevail")
def not_to_be_converted(chain: Chain) -> Iterator[Judgement]:
    """Some things are not converted at all: life safety, medical, small children, explosive air, aviation."""
    purpose = chain.gadget.purpose
    if purpose is None:
        yield note(
            "Say first what it is for: some things must never be converted.",
            working="Alarms, medical things, toys for small children, explosive air and aviation.",
            remedy=remedy("It is an ordinary gadget", {"gadget.purpose": "ordinary"}),
            subjects=("gadget.purpose",),
        )
    elif purpose != "ordinary":
        label, why = PURPOSES[purpose]
        yield stop(
            f"Do not convert this: {label[0].lower()}{label[1:]}.",
            working=f"{why[0].upper()}{why[1:]}.",
            subjects=("gadget.purpose",),
        )
    else:
        yield fine("It is an ordinary gadget: nobody is hurt when it fails.")


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
        yield stop(
            f"The {what} has no voltage limit: it would charge the lithium cell past {full}.",
            limit=full,
            working="It was made for NiMH or NiCd, or for nothing. Cut it, move it, or block it with a diode.",
            remedy=remedy("Cut it", cut),
            subjects=about,
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


@rule("survey.second_supply", station="survey", source="common practice, no source")
def second_supply(chain: Chain) -> Iterator[Judgement]:
    """A second battery that keeps a clock or a memory is noted and left alone."""
    second = chain.gadget.second_supply
    if second is not None:
        yield note(
            f"Its {second.battery} keeps {second.keeps}: it stays as it is, and nothing of this build reaches it.",
            working="Hold the meter between the two plus terminals with both in: joined, one would charge the other.",
        )
