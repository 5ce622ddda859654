"""Power: what flows while it is off, and what switches itself off."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.message import row_of, say
from pocketspark.core.rules.rule import caution, fine, remedy, rule
from pocketspark.core.units.figures import amp_hours, amps, days

# Switched off, a charge should last so many days (common practice, no source).
STANDBY_DAYS = 60


def _really_off(running: Running) -> Remedy | None:
    """Where the regulator is what drains the cell, let the switch stand before it."""
    regulator, build = running.chain.regulator, running.build
    if regulator.kind == "none" or build.switch_place != "gadget":
        return None
    if running.off_drains["regulator"] < running.standby_a / 2:
        return None
    if regulator.has_enable:
        return remedy(say("Switch its enable pin"), {f"{running.chain.path}.switch_place": "enable"})
    return remedy(say("Put the switch before it"), {f"{running.chain.path}.switch_place": "before_regulator"})


@rule(
    "power.off_drain",
    station="power",
    source="sum of quiescent currents; self-discharge 2.5 % a month from memory",
    limits=say("{standby_days} days", standby_days=STANDBY_DAYS),
    advice=say("Put the switch between cell and regulator, or use its enable pin."),
)
def off_drain(running: Running) -> Iterator[Judgement]:
    """Off current counts: a regulator in front of the switch empties a small cell in weeks."""
    lasts, drawn = days(running.standby_days), amps(running.standby_a)
    takers = row_of(
        say("{who} {taken}", who=who, taken=amps(taken)) for who, taken in running.off_drains.items() if taken > 0
    )
    working = say(
        "{drawn} in all: {takers}; from {usable_ah}", drawn=drawn, takers=takers, usable_ah=amp_hours(running.usable_ah)
    )
    rests_on = ("gadget.off_current_a",)
    if lasts.value < STANDBY_DAYS:
        yield caution(
            say("Switched off, a full cell is flat after {lasts}.", lasts=lasts),
            figure=lasts,
            limit=days(STANDBY_DAYS),
            working=working,
            rests_on=rests_on,
            remedy=_really_off(running),
        )
    else:
        yield fine(
            say("Switched off, a charge lasts {lasts}.", lasts=lasts), figure=lasts, working=working, rests_on=rests_on
        )


@rule(
    "power.auto_off",
    station="power",
    source="power-bank boards, common practice, no source",
    limits=say("50 to 100 mA"),
    advice=say("Choose a step-up converter that does not switch itself off."),
)
def auto_off(chain: Chain) -> Iterator[Judgement]:
    """Charger-with-boost boards of the power-bank kind switch themselves off under a light load."""
    least_a = chain.regulator.auto_off_a
    if least_a is None or not chain.gadget.modes:
        return
    lightest = min(chain.gadget.modes, key=lambda mode: mode.average_a)
    if lightest.average_a < least_a:
        drawn, least = amps(lightest.average_a), amps(least_a)
        yield caution(
            say(
                "This board switches itself off in use: it needs {least}, but “{lightest}” draws {drawn}.",
                least=least,
                lightest=lightest.name,
                drawn=drawn,
            ),
            figure=drawn,
            limit=least,
            working=say(
                "It does so after about half a minute. For a small gadget use a plain step-up converter, which "
                "stays on."
            ),
            subjects=(lightest.name,),
        )


@rule(
    "power.no_enable_pin",
    station="power",
    source="common practice, no source",
    advice=say("Choose a regulator with an enable pin, or switch its input."),
)
def enable_without_pin(chain: Chain) -> Iterator[Judgement]:
    """Switching by the enable pin needs a regulator that has one."""
    if chain.build.switch_place == "enable" and not chain.regulator.has_enable:
        yield caution(
            say(
                "The switch is planned at the enable pin, but this {regulator} has none.",
                regulator=chain.regulator.name,
            ),
            remedy=remedy(say("Put the switch before it"), {f"{chain.path}.switch_place": "before_regulator"}),
        )
