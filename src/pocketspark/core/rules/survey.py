"""Survey: is enough known about the gadget to judge anything?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.models.gadget import PURPOSES
from pocketspark.core.rules.rule import fine, note, remedy, rule, stop
from pocketspark.core.units.figures import volts


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


@rule("survey.second_supply", station="survey", source="common practice, no source")
def second_supply(chain: Chain) -> Iterator[Judgement]:
    """A second battery that keeps a clock or a memory is noted and left alone."""
    second = chain.gadget.second_supply
    if second is not None:
        yield note(
            f"Its {second.battery} keeps {second.keeps}: it stays as it is, and nothing of this build reaches it.",
            working="Hold the meter between the two plus terminals with both in: joined, one would charge the other.",
        )
