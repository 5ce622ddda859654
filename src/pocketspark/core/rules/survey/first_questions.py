"""Survey: what has to be known of the gadget first."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.message import capitalised, say, verbatim
from pocketspark.core.models.gadget import PURPOSES
from pocketspark.core.rules.rule import fine, note, remedy, rule, stop
from pocketspark.core.units.figures import volts


@rule(
    "survey.no_modes",
    station="survey",
    source="common practice, no source",
    advice=say("Put a meter in series with the old batteries and read one current."),
    guide="current",
)
def no_modes(chain: Chain) -> Iterator[Judgement]:
    """Without a measured current there is no run time, no smallest voltage and no check of the protection."""
    if any(mode.current_a > 0 for mode in chain.gadget.modes):
        return
    yield note(
        say("Its current is not measured, so its run time is unknown."),
        working=say("Put a multimeter on its current range in series with the old batteries and switch the gadget on."),
        subjects=("gadget.modes",),
    )


@rule(
    "survey.window_inferred",
    station="survey",
    source="IEC 60086-2 sizes; voltages from memory",
    advice=say("Lower the supply until the gadget gives up, and note the volts. Use a bench supply, or diodes."),
    guide="lowest_volts_diodes",
)
def window_inferred(chain: Chain) -> Iterator[Judgement]:
    """A window inferred from the old batteries is soft; a bench supply turns it into a measured one."""
    window, supply = chain.window, chain.gadget.supply
    low, high = volts(window.v_run_min), volts(window.v_abs_max)
    guessed = [end for end in (window.min_basis, window.max_basis) if end == "inferred"]
    if not guessed:
        yield fine(
            say("It works from {low} to {high}, as measured or printed.", low=low, high=high), figure=low, limit=high
        )
        return
    what = (
        "both are guessed" if len(guessed) == 2 else ("the lowest" if window.min_basis == "inferred" else "the highest")
    )
    text = what if len(guessed) == 2 else say("{what} is guessed", what=what)
    yield note(
        say("It works from {low} to {high}, as far as its old batteries show; {text}.", low=low, high=high, text=text),
        figure=low,
        limit=high,
        working=(
            say(
                "{supply}: a gadget made for them gives up at about {empty_v}, and they give {fresh_v} when fresh. "
                "To measure it, turn a bench supply down slowly until the gadget stops; the most it survives "
                "stands in its data sheet.",
                supply=supply.label,
                empty_v=volts(supply.empty_v),
                fresh_v=volts(supply.fresh_v),
            )
        ),
        rests_on=("gadget.window.v_run_min", "gadget.window.v_abs_max"),
        assumed=True,
    )


@rule(
    "survey.not_to_be_converted",
    station="survey",
    source="common practice; local rules and the maker prevail",
    advice=say("Leave it as its maker built it, and use fresh batteries."),
)
def not_to_be_converted(chain: Chain) -> Iterator[Judgement]:
    """Some things are not converted at all: life safety, medical, small children, explosive air, aviation."""
    purpose = chain.gadget.purpose
    if purpose is None:
        yield note(
            say("Say first what it is for: some things must never be converted."),
            working=say("Alarms, medical devices, toys for small children, explosive air and aviation."),
            remedy=remedy(say("It is an ordinary gadget"), {"gadget.purpose": "ordinary"}),
            subjects=("gadget.purpose",),
        )
    elif purpose != "ordinary":
        label, why = PURPOSES[purpose]
        yield stop(
            say("Do not convert this: {purpose}.", purpose=f"{label[0].lower()}{label[1:]}"),
            working=say("{why}.", why=capitalised(verbatim(why))),
            subjects=("gadget.purpose",),
        )
    else:
        yield fine(say("It is an ordinary gadget: nobody gets hurt if it fails."))


@rule(
    "survey.second_supply", station="survey", source="common practice, no source", advice=say("Leave that battery in.")
)
def second_supply(chain: Chain) -> Iterator[Judgement]:
    """A second battery that keeps a clock or a memory is noted and left alone."""
    second = chain.gadget.second_supply
    if second is not None:
        yield note(
            say(
                "Its {battery} keeps {keeps}. It stays as it is, and nothing of this build reaches it.",
                battery=second.battery,
                keeps=second.keeps,
            ),
            working=say(
                "With both in, measure between the two plus terminals. If they are joined, one would charge the other."
            ),
        )
