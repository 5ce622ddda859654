"""Power: what the gadget sees, who ends the run, and what flows while it is off."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Remedy
from pocketspark.core.models import FRONT_ENDS
from pocketspark.core.rules.rule import Judgement, caution, note, passed, remedy, rule, stop
from pocketspark.core.units.quantity import amp_hours, amps, days, hours, ohms, percent, volts

# Absolute maximum of ordinary 3.3 V logic (common practice; the parts' own figures prevail).
LOGIC_ABS_MAX_V = 3.6
UNUSED_NOTE, UNUSED_CAUTION = 0.05, 0.40
STANDBY_DAYS = 60


@rule("power.over_window", station="power", source="the gadget's window; lithium full voltage by class")
def over_window(chain: Chain) -> Iterator[Judgement]:
    """The most the gadget ever sees (full cell, lightest load) against the most it may be given."""
    chain.require_cell()
    window, most_v = chain.window, chain.gadget_v_max
    over_v = most_v - window.v_abs_max
    front_end = FRONT_ENDS[chain.gadget.front_end]
    soft = window.max_basis == "inferred"
    rests_on = ("gadget.window.v_abs_max",)
    takes = volts(window.v_abs_max)
    working = f"full cell {volts(chain.full_v)}, lightest load: {volts(most_v)} at the gadget; it takes {takes}"
    if over_v <= 0.005:
        yield passed(
            f"{volts(most_v)} at most, {volts(-over_v)} inside what it takes", working=working, rests_on=rests_on
        )
        return
    headline = f"{volts(most_v)} full: {volts(over_v)} over what this {front_end.label} takes, {front_end.too_much}"
    logic_max_v = chain.gadget.behind.logic_max_v or LOGIC_ABS_MAX_V
    bare_logic = chain.gadget.front_end == "logic" and most_v > max(window.v_abs_max, logic_max_v)
    if soft and not bare_logic:
        advice = " It was made for fresh batteries; a bench supply tells whether it takes more."
        yield caution(headline, working=working + "." + advice, rests_on=rests_on, assumed=True)
    else:
        yield stop(headline, working=working, rests_on=rests_on, assumed=soft)


@rule("power.under_window", station="power", source="discharge along the open-circuit curve, one series resistance")
def under_window(chain: Chain) -> Iterator[Judgement]:
    """Where the gadget gives up before the cell is empty, charge is unused; at worst it never runs."""
    if not chain.runs:
        return
    worst = max(chain.runs, key=lambda run: run.unused)
    window = chain.window
    rests_on = ("gadget.window.v_run_min",)
    soft = window.min_basis == "inferred"
    if worst.hours <= 0:
        full_v = chain.gadget_v_at(chain.full_v, worst.load)
        if worst.run.stopped_by == "gadget":
            headline = f"{volts(full_v)} at best: this gadget needs {volts(window.v_run_min)} and never runs"
        else:
            headline = f"0 h: {worst.mode.name} pulls a full cell under its cut at once"
        yield stop(
            headline,
            working=f"{worst.mode.name}, full cell, through {chain.regulator.kind}",
            rests_on=rests_on,
            assumed=soft,
        )
        return
    low_v = float(worst.run.gadget_v[..., -1].flat[0])
    working = f"{worst.mode.name} ends with {volts(low_v)} at the gadget, ended by the {worst.run.stopped_by}"
    if worst.run.stopped_by != "gadget" or worst.unused < UNUSED_NOTE:
        yield passed(f"{percent(1 - worst.unused)} of the charge is used", working=working, rests_on=rests_on)
        return
    headline = (
        f"{percent(worst.unused)} of the charge is unused: {worst.mode.name} gives up at {volts(window.v_run_min)}"
    )
    say = caution if worst.unused > UNUSED_CAUTION else note
    yield say(headline, working=working, rests_on=rests_on, assumed=soft)


@rule("power.regulator_overloaded", station="power", source="the part's own rating")
def regulator_overloaded(chain: Chain) -> Iterator[Judgement]:
    """The gadget's peak against the regulator's current rating, and the full cell against its input rating."""
    regulator = chain.regulator
    if regulator.kind == "none" or not chain.gadget.modes:
        return
    peak_a = max(mode.most_a for mode in chain.gadget.modes)
    if regulator.rated_a is not None and peak_a > regulator.rated_a:
        yield stop(f"{amps(peak_a)} through a {regulator.name} made for {amps(regulator.rated_a)}")
    if regulator.v_in_max is not None and chain.full_v > regulator.v_in_max:
        yield stop(f"{volts(chain.full_v)} into a {regulator.name} that takes {volts(regulator.v_in_max)}")


@rule("power.two_regulators", station="power", source="how this tool counts")
def two_regulators(chain: Chain) -> Iterator[Judgement]:
    """Only one regulator is reckoned with."""
    if (count := len(chain.regulators)) > 1:
        yield caution(f"{count} regulators in this build: only {chain.regulator.name} is reckoned with")


def _really_off(chain: Chain) -> Remedy | None:
    """Where the regulator is what drains the cell, let the switch stand before it."""
    if chain.regulator.kind == "none" or chain.build.switch_place != "gadget":
        return None
    drains = chain.off_drains
    if drains["regulator"] < sum(drains.values()) / 2:
        return None
    if chain.regulator.has_enable:
        return remedy("Switch its enable pin", {f"{chain.at}.switch_place": "enable"})
    return remedy("Put the switch before it", {f"{chain.at}.switch_place": "before_regulator"})


@rule("power.off_drain", station="power", source="sum of quiescent currents; self-discharge 2.5 % a month from memory")
def off_drain(chain: Chain) -> Iterator[Judgement]:
    """Off current counts: a regulator in front of the switch empties a small cell in weeks."""
    chain.require_cell()
    lasts = chain.standby_days
    rests_on = ("gadget.off_current_a",)
    takers = ", ".join(f"{who} {amps(taken)}" for who, taken in chain.off_drains.items() if taken > 0)
    working = f"{amps(chain.standby_a)} in all: {takers}; from {amp_hours(chain.usable_ah)}"
    if lasts < STANDBY_DAYS:
        headline = f"{days(lasts)} switched off and it is flat"
        yield caution(headline, working=working, rests_on=rests_on, remedy=_really_off(chain))
    else:
        yield passed(f"{days(lasts)} in your parts on a charge", working=working, rests_on=rests_on)


@rule("power.run_time", station="power", source="discharge along the open-circuit curve; old capacities from memory")
def run_time(chain: Chain) -> Iterator[Judgement]:
    """Hours on a charge beside what a set of the old batteries gave."""
    run = chain.most_used
    if run is None:
        return
    supply = chain.gadget.supply
    old_h = chain.original_hours(run.mode)
    headline = f"{hours(run.hours)} {run.mode.name} on a charge; {supply.label} gave about {hours(old_h)}"
    working = (
        f"{amp_hours(run.charge_ah)} out of {amp_hours(chain.capacity_ah)}; the old set holds "
        f"{amp_hours(supply.capacity_ah)} at light drain and gives less when pressed (drain curve from memory)"
    )
    if run.hours < old_h * 0.1:
        yield caution(headline + ", over ten times as long", working=working, assumed=True)
    else:
        yield note(headline, working=working, assumed=True)


@rule("power.auto_off", station="power", source="power-bank boards, common practice, no source", limits="50 to 100 mA")
def auto_off(chain: Chain) -> Iterator[Judgement]:
    """Charger-with-boost boards of the power-bank kind switch themselves off under a light load."""
    least_a = chain.regulator.auto_off_a
    if least_a is None or not chain.gadget.modes:
        return
    lightest = min(chain.gadget.modes, key=lambda mode: mode.average_a)
    if lightest.average_a < least_a:
        yield caution(
            f"{amps(lightest.average_a)} {lightest.name}: this board switches off below {amps(least_a)}",
            working="After about half a minute. Useless for a small gadget; a plain step-up stays on.",
        )


@rule("power.no_enable_pin", station="power", source="common practice, no source")
def enable_without_pin(chain: Chain) -> Iterator[Judgement]:
    """Switching by the enable pin needs a regulator that has one."""
    if chain.build.switch_place == "enable" and not chain.regulator.has_enable:
        yield caution(
            f"0 enable pins on this {chain.regulator.name}: the switch has nothing to pull",
            remedy=remedy("Put the switch before it", {f"{chain.at}.switch_place": "before_regulator"}),
        )


@rule("power.hum", station="power", source="common practice, no source")
def hum(chain: Chain) -> Iterator[Judgement]:
    """Switching converters can be heard in audio and radio gadgets."""
    if chain.regulator.kind in ("boost", "buck", "buck_boost"):
        yield note(
            "1 switching converter in the way: audio and radio gadgets may hear it",
            working="Short wires, a capacitor at its output, the converter away from any coil or aerial.",
        )


@rule(
    "power.gauge",
    station="power",
    source="the gadget's own thresholds; where not known, 1.2 V an alkaline cell, common practice",
    formula="charge left where the gadget's volts pass the threshold, in the heaviest mode",
)
def gauge(chain: Chain) -> Iterator[Judgement]:
    """A gadget judges its battery by volts that were alkaline: when it warns, and what is unused when it stops."""
    warn_v, stop_v = chain.gauge_warn_v, chain.gauge_stop_v
    if warn_v is None or stop_v is None or not chain.runs:
        return
    known = chain.gadget.gauge
    assumed = known is None or known.warn_v is None
    at_warning, at_stop = chain.left_when_gadget_at(warn_v), chain.left_when_gadget_at(stop_v)
    working = f"warns at {volts(warn_v)}, stops at {volts(stop_v)}; {chain.gadget_v_min:.2f} V at the end of the run"
    if at_warning >= 0.98:
        headline = f"100 % full and its gauge warns already: it is never above {volts(warn_v)}"
        yield note(headline, working=working, assumed=assumed)
    elif at_warning <= 0.02:
        headline = f"{percent(at_warning)} left when the gauge warns: it shows full until the end"
        yield note(headline, working=working, assumed=assumed)
    else:
        headline = f"{percent(at_warning)} of the charge is left when its gauge warns, {percent(at_stop)} when it stops"
        yield note(headline, working=working, assumed=assumed)


@rule(
    "power.conditions",
    station="power",
    source="usual data-sheet end of life and cold, from memory",
    limits="300 cycles: 80 % capacity, 1.5 x resistance; 0 C: 85 %, 2 x",
)
def conditions(chain: Chain) -> Iterator[Judgement]:
    """Says so where the build is judged as an old cell, or in the cold."""
    chain.require_cell()
    how = [words for on, words in ((chain.build.aged, "after 300 cycles"), (chain.build.cold, "at 0 °C")) if on]
    if how:
        headline = f"{amp_hours(chain.capacity_ah)} and {ohms(float(chain.group.r_ohm))}: judged {' and '.join(how)}"
        yield note(headline, working="all figures of this build, until the option is taken off", assumed=True)
