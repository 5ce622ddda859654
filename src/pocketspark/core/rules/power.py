"""Power: what the gadget sees, who ends the run, and what flows while it is off."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, ChosenCell, ModeRun, Running
from pocketspark.core.chain.running import bursts_of
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.models import FRONT_ENDS
from pocketspark.core.physics.whistle import is_heard
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule, stop
from pocketspark.core.units.figures import amp_hours, amps, celsius, days, fixed, hertz, hours, ohms, percent, volts

# Absolute maximum of ordinary 3.3 V logic (common practice; the parts' own figures prevail).
LOGIC_ABS_MAX_V = 3.6
# Charge left in the cell, as a share, that is worth a note, and that is worth a caution (our judgement, no source).
UNUSED_NOTE, UNUSED_CAUTION = 0.05, 0.40
# Switched off, a charge should last so many days (common practice, no source).
STANDBY_DAYS = 60
# Closer than this to a limit is on it: a meter of two decimals shows no difference.
SAME_V = 0.005


@rule(
    "power.over_window", station="power", node="gadget", source="the gadget's window; full voltage of the cell's class"
)
def over_window(running: Running) -> Iterator[Judgement]:
    """The most the gadget ever sees (full cell, lightest load) against the most it may be given."""
    gadget, window = running.gadget, running.chain.window
    most, takes = volts(running.gadget_v_max), volts(window.v_abs_max)
    over_v = most.value - window.v_abs_max
    guessed = window.max_basis == "inferred"
    working = f"full cell {volts(running.chosen.full_v)}, lightest load: {most} at the gadget; it takes {takes}"
    facts = {"figure": most, "limit": takes, "rests_on": ("gadget.window.v_abs_max",)}
    if over_v <= SAME_V:
        yield fine(f"The gadget sees {most} at most; it takes {takes}.", working=working, **facts)
        return
    front_end = FRONT_ENDS[gadget.front_end]
    logic_max_v = gadget.behind.logic_max_v or LOGIC_ABS_MAX_V
    bare_logic = gadget.front_end == "logic" and most.value > max(window.v_abs_max, logic_max_v)
    sentence = f"With a full cell the gadget sees {most}, and takes {takes}: {front_end.too_much}."
    if guessed and not bare_logic:
        advice = " It was made for fresh batteries; a bench supply shows whether it takes more."
        yield caution(sentence, working=f"{working}.{advice}", assumed=True, **facts)
    else:
        yield stop(sentence, working=working, assumed=guessed, **facts)


@rule(
    "power.under_window",
    station="power",
    node="gadget",
    source="discharge along the open-circuit curve, one series resistance",
)
def under_window(running: Running) -> Iterator[Judgement]:
    """Where the gadget gives up before the cell is empty, charge stays in it; at worst it never runs."""
    if not running.runs:
        return
    worst = max(running.runs, key=lambda run: run.unused)
    window = running.chain.window
    guessed = window.min_basis == "inferred"
    needs, unused = volts(window.v_run_min), percent(worst.unused)
    facts = {"rests_on": ("gadget.window.v_run_min",), "subjects": (worst.mode.name,)}
    if worst.hours <= 0:
        yield _never_runs(running, worst, guessed)
        return
    low = volts(float(worst.run.gadget_v[..., -1].flat[0]))
    working = f"“{worst.mode.name}” ends with {low} at the gadget, ended by the {worst.stopped_by}"
    if worst.stopped_by != "gadget" or worst.unused < UNUSED_NOTE:
        used = percent(1 - worst.unused)
        yield fine(f"{used} of the charge is used.", figure=used, working=working, **facts)
        return
    say = caution if worst.unused > UNUSED_CAUTION else note
    yield say(
        f"{unused} stays in the cell: in “{worst.mode.name}” the gadget stops at {needs}.",
        figure=unused,
        limit=needs,
        working=working,
        assumed=guessed,
        **facts,
    )


def _never_runs(running: Running, worst: ModeRun, guessed: bool) -> Judgement:
    """It does not even start: for want of volts at the gadget, or because its current pulls the cell down."""
    full, needs = volts(running.gadget_v_at(running.chosen.full_v, worst.load)), volts(running.chain.window.v_run_min)
    through = kind_of(running.chain.regulator).label
    facts = {
        "working": f"“{worst.mode.name}”, full cell, regulator: {through}",
        "rests_on": ("gadget.window.v_run_min",),
        "subjects": (worst.mode.name,),
        "assumed": guessed,
    }
    if worst.stopped_by == "gadget":
        sentence = f"It will not run: the gadget needs {needs} and gets {full} at best."
        return stop(sentence, figure=full, limit=needs, **facts)
    cut = volts(running.chosen.cuts[worst.stopped_by])
    sentence = (
        f"It will not run: “{worst.mode.name}” pulls even a full cell below {cut}, where the {worst.stopped_by} stops."
    )
    return stop(sentence, figure=cut, **facts)


@rule("power.regulator_overloaded", station="power", source="the part's own rating")
def regulator_overloaded(running: Running) -> Iterator[Judgement]:
    """The gadget's peak against the regulator's current rating, and the full cell against its input rating."""
    regulator = running.chain.regulator
    if regulator.kind == "none" or not running.gadget.modes:
        return
    peak, full = amps(max(mode.most_a for mode in running.gadget.modes)), volts(running.chosen.full_v)
    if regulator.rated_a is not None and peak.value > regulator.rated_a:
        rated = amps(regulator.rated_a)
        yield stop(
            f"The gadget's {peak} peak goes through a {regulator.name} made for {rated}.", figure=peak, limit=rated
        )
    if regulator.v_in_max is not None and full.value > regulator.v_in_max:
        takes = volts(regulator.v_in_max)
        yield stop(f"A full cell gives {full}; the {regulator.name} takes {takes}.", figure=full, limit=takes)


@rule("power.two_regulators", station="power", source="how this tool counts")
def two_regulators(chain: Chain) -> Iterator[Judgement]:
    """Only one regulator is computed with."""
    if len(chain.regulators) > 1:
        yield caution(
            f"Only the {chain.regulator.name} is computed with; this build has {len(chain.regulators)} regulators."
        )


def _really_off(running: Running) -> Remedy | None:
    """Where the regulator is what drains the cell, let the switch stand before it."""
    regulator, build = running.chain.regulator, running.build
    if regulator.kind == "none" or build.switch_place != "gadget":
        return None
    if running.off_drains["regulator"] < running.standby_a / 2:
        return None
    if regulator.has_enable:
        return remedy("Switch its enable pin", {f"{running.chain.path}.switch_place": "enable"})
    return remedy("Put the switch before it", {f"{running.chain.path}.switch_place": "before_regulator"})


@rule(
    "power.off_drain",
    station="power",
    source="sum of quiescent currents; self-discharge 2.5 % a month from memory",
    limits=f"{STANDBY_DAYS} days",
)
def off_drain(running: Running) -> Iterator[Judgement]:
    """Off current counts: a regulator in front of the switch empties a small cell in weeks."""
    lasts, drawn = days(running.standby_days), amps(running.standby_a)
    takers = ", ".join(f"{who} {amps(taken)}" for who, taken in running.off_drains.items() if taken > 0)
    working = f"{drawn} in all: {takers}; from {amp_hours(running.usable_ah)}"
    rests_on = ("gadget.off_current_a",)
    if lasts.value < STANDBY_DAYS:
        yield caution(
            f"Switched off, a full cell is flat after {lasts}.",
            figure=lasts,
            limit=days(STANDBY_DAYS),
            working=working,
            rests_on=rests_on,
            remedy=_really_off(running),
        )
    else:
        yield fine(f"Switched off, a charge lasts {lasts}.", figure=lasts, working=working, rests_on=rests_on)


@rule(
    "power.run_time",
    station="power",
    node="gadget",
    source="discharge along the open-circuit curve; old capacities from memory",
)
def run_time(running: Running) -> Iterator[Judgement]:
    """Hours on a charge beside what a set of the old batteries gave."""
    run = running.most_used
    if run is None:
        return
    supply = running.gadget.supply
    new, old = hours(run.hours), hours(running.original_hours(run.mode))
    working = (
        f"{amp_hours(run.charge_ah)} out of {amp_hours(running.chosen.capacity_ah)}; the old set holds "
        f"{amp_hours(supply.capacity_ah)} at light drain and gives less when pressed (drain curve from memory)"
    )
    facts = {"figure": new, "limit": old, "working": working, "assumed": True, "subjects": (run.mode.name,)}
    if new.value < old.value * 0.1:
        yield caution(
            f"A charge gives {new} of “{run.mode.name}”; {supply.label} gave over ten times as much, about {old}.",
            **facts,
        )
    else:
        yield note(f"A charge gives {new} of “{run.mode.name}”; {supply.label} gave about {old}.", **facts)


@rule("power.auto_off", station="power", source="power-bank boards, common practice, no source", limits="50 to 100 mA")
def auto_off(chain: Chain) -> Iterator[Judgement]:
    """Charger-with-boost boards of the power-bank kind switch themselves off under a light load."""
    least_a = chain.regulator.auto_off_a
    if least_a is None or not chain.gadget.modes:
        return
    lightest = min(chain.gadget.modes, key=lambda mode: mode.average_a)
    if lightest.average_a < least_a:
        drawn, least = amps(lightest.average_a), amps(least_a)
        yield caution(
            f"This board switches itself off in use: it wants {least}, and “{lightest.name}” draws {drawn}.",
            figure=drawn,
            limit=least,
            working="After about half a minute. Useless for a small gadget; a plain step-up stays on.",
            subjects=(lightest.name,),
        )


@rule("power.no_enable_pin", station="power", source="common practice, no source")
def enable_without_pin(chain: Chain) -> Iterator[Judgement]:
    """Switching by the enable pin needs a regulator that has one."""
    if chain.build.switch_place == "enable" and not chain.regulator.has_enable:
        yield caution(
            f"The switch is to pull an enable pin, which this {chain.regulator.name} does not have.",
            remedy=remedy("Put the switch before it", {f"{chain.path}.switch_place": "before_regulator"}),
        )


@rule(
    "power.hum",
    station="power",
    source="common practice, no source",
    formula="bursts a second: I / (C dV), with C 22 μF and dV 1 % of its volts",
)
def hum(chain: Chain) -> Iterator[Judgement]:
    """Switching converters can be heard in audio and radio gadgets, and nowhere else."""
    sound = chain.gadget.sound
    if not kind_of(chain.regulator).switches or sound == "none":
        return
    helps = "Short wires, a capacitor at its output, the converter away from any coil or aerial"
    if sound is None:
        yield note(
            "Say whether any sound or radio is in it: a switching converter may be heard there.",
            working=f"{helps}.",
            remedy=remedy("No sound comes from it", {"gadget.sound": "none"}),
            subjects=("gadget.sound",),
        )
    else:
        bursts = [
            (run.mode.name, bursts_of(chain.regulator, run.load) or 0.0)
            for run in (chain.running.runs if chain.running else ())
        ]
        whistles = [f"about {hertz(rate)} in “{name}”" for name, rate in bursts if is_heard(rate)]
        said = f"It works in bursts, {' and '.join(whistles)}, which people hear. " if whistles else ""
        yield caution(
            "Its converter switches, and may be heard: listen before the case is closed.",
            working=f"{said}{helps}; or a linear regulator, which is silent.",
            subjects=("gadget.sound",),
        )


@rule(
    "power.gauge",
    station="power",
    node="gadget",
    source="the gadget's own thresholds; where not known, 1.2 V an alkaline cell, common practice",
    formula="charge left where the gadget's volts pass the threshold, in the heaviest mode",
)
def gauge(running: Running) -> Iterator[Judgement]:
    """A gadget judges its battery by volts that were alkaline: when it warns, and what is left when it stops."""
    warn_v, stop_v = running.gauge_warn_v, running.gauge_stop_v
    if warn_v is None or stop_v is None or not running.runs:
        return
    known = running.gadget.gauge
    guessed = known is None or known.warn_v is None
    at_warning, at_stop = (percent(running.left_when_gadget_at(v)) for v in (warn_v, stop_v))
    working = f"warns at {volts(warn_v)}, stops at {volts(stop_v)}; {volts(running.gadget_v_min)} at the end of the run"
    if at_warning.value >= 0.98:
        sentence = f"Its battery gauge warns from the start: it never sees more than {volts(warn_v)}."
    elif at_warning.value <= 0.02:
        sentence = f"Its battery gauge shows full until the end: {at_warning} is left when it warns."
    else:
        sentence = f"Its battery gauge warns with {at_warning} of the charge left, and it stops with {at_stop} left."
    yield note(sentence, figure=at_warning, working=working, assumed=guessed, rests_on=("gadget.gauge.warn_v",))


@rule(
    "power.conditions",
    station="power",
    node="cell",
    source="usual data-sheet end of life and cold, from memory",
    limits=lambda: f"300 cycles: 80 % capacity, {fixed(1.5, 1)} x resistance; {celsius(0)}: 85 %, 2 x",
)
def conditions(chosen: ChosenCell) -> Iterator[Judgement]:
    """Says so where the build is judged as an old cell, or in the cold."""
    build = chosen.chain.build
    how = [words for on, words in ((build.aged, "after 300 cycles"), (build.cold, f"at {celsius(0.0)}")) if on]
    if how:
        holds = amp_hours(chosen.capacity_ah)
        yield note(
            f"Judged {' and '.join(how)}: the cell holds {holds}, with {ohms(chosen.r_ohm)}.",
            figure=holds,
            working="all figures of this build, until the option is taken off",
            assumed=True,
        )
