"""Power: what flows while it is off, and what switches itself off."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.message import row_of, say
from pocketspark.core.models import Mode
from pocketspark.core.rules.rule import caution, fine, remedy, rule
from pocketspark.core.units.figures import amp_hours, amps, days, fixed

# Switched off, a charge should last so many days (common practice, no source).
STANDBY_DAYS = 60
# After so long under its threshold a power-bank board switches itself off, s (common practice, no source).
QUIET_S = 30.0


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


def _falls_quiet(mode: Mode, least_a: float) -> bool:
    """Does so little flow for so long that such a board takes the gadget for gone?"""
    pause_s = mode.every_s - mode.on_s if mode.every_s is not None and mode.on_s is not None else 0.0
    return mode.most_a > 0 and (mode.current_a < least_a or pause_s > QUIET_S)


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
    quiet = [mode for mode in chain.gadget.modes if _falls_quiet(mode, least_a)]
    if quiet:
        lightest = min(quiet, key=lambda mode: mode.current_a)
        drawn, least = amps(lightest.current_a), amps(least_a)
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
                "It does so when less flows for {quiet_s} s. For a small gadget use a plain step-up converter, which "
                "stays on.",
                quiet_s=fixed(QUIET_S, 0),
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
