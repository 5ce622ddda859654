"""Power: what the gadget sees, who ends the run, and what flows while it is off."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.nouns import FRONT_ENDS
from pocketspark.core.quantity import amp_hours, amps, days, hours, ohms, percent, volts
from pocketspark.core.rules.rule import Verdict, caution, note, passed, rule, stop

# Absolute maximum of ordinary 3.3 V logic (common practice; the parts' own figures prevail).
LOGIC_ABS_MAX_V = 3.6
# Start-up peaks are short and seldom measured whole: the guard's low end should clear them by this much.
PEAK_MARGIN = 1.3
STRANDED_NOTE, STRANDED_CAUTION = 0.05, 0.40
DRAWER_DAYS = 60


@rule("power.no_guard", station="power", source="common practice, no source")
def no_guard(chain: Chain) -> Iterator[Verdict]:
    """Somewhere between cell and gadget there must be one guard: on the charger, on its own board, or on the cell."""
    if not chain.has_cell and not chain.build.boards:
        return
    if not chain.guards:
        yield stop(
            "0 guards: nothing stops over-discharge or a short",
            working="Choose a charger board with a guard, a guard board, or a cell that carries its own.",
        )
        return
    guard = min(chain.guards, key=lambda guard: guard.trip_least_a)
    count = "1 guard" if len(chain.guards) == 1 else f"{len(chain.guards)} guards in series"
    yield passed(f"{count}: cuts at {volts(guard.cut_v)}, trips at about {amps(guard.trip_current_a)}")


@rule("power.guard_trips_early", station="power", source="I = V_trip / (2 R_on); common practice, no source")
def guard_trips_early(chain: Chain) -> Iterator[Verdict]:
    """The low end of the guard's trip must clear the gadget's peak with a margin, or it cuts on start-up."""
    if not chain.guards or not chain.gadget.modes:
        return
    guard = min(chain.guards, key=lambda guard: guard.trip_least_a)
    peak_a = chain.peak_cell_a
    working = (
        f"{volts(guard.v_trip)} / (2 x {ohms(guard.r_on_ohm)}) = {amps(guard.trip_current_a)} "
        f"-+ {percent(guard.trip_tolerance)}: {amps(guard.trip_least_a)} at least; peak x {PEAK_MARGIN} "
        f"= {amps(peak_a * PEAK_MARGIN)}"
    )
    if guard.trip_least_a < peak_a:
        yield stop(f"{amps(peak_a)} at the peak trips a guard that lets {amps(guard.trip_least_a)} by", working=working)
    elif guard.trip_least_a < peak_a * PEAK_MARGIN:
        headline = f"{amps(peak_a)} at the peak is close under the guard's {amps(guard.trip_least_a)}"
        yield caution(headline, working=working)
    else:
        yield passed(f"{amps(peak_a)} at the peak, the guard trips from {amps(guard.trip_least_a)}", working=working)


@rule("power.guard_trips_late", station="power", source="common practice, no source")
def guard_trips_late(chain: Chain) -> Iterator[Verdict]:
    """A guard that trips above the cell's own maximum will not save it from a moderate overload."""
    if not chain.guards or chain.cell.discharge_max_a is None:
        return
    allowed_a = chain.cell.discharge_max_a * chain.build.cell_count
    latest = min(guard.trip_most_a for guard in chain.guards)
    if latest > allowed_a:
        yield caution(
            f"{amps(latest)} may flow before the guard trips; the cell may give {amps(allowed_a)}",
            working="It stops a short, but not a moderate overload. A small fuse would.",
        )


@rule("power.over_window", station="power", source="the gadget's window; lithium full voltage by class")
def over_window(chain: Chain) -> Iterator[Verdict]:
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
    bare_logic = chain.gadget.front_end == "logic" and most_v > max(window.v_abs_max, LOGIC_ABS_MAX_V)
    if soft and not bare_logic:
        advice = " It was made for fresh batteries; a bench supply tells whether it takes more."
        yield caution(headline, working=working + "." + advice, rests_on=rests_on, assumed=True)
    else:
        yield stop(headline, working=working, rests_on=rests_on, assumed=soft)


@rule("power.under_window", station="power", source="discharge along the open-circuit curve, one series resistance")
def under_window(chain: Chain) -> Iterator[Verdict]:
    """Where the gadget gives up before the cell is empty, charge is stranded; at worst it never runs."""
    if not chain.runs:
        return
    worst = max(chain.runs, key=lambda run: run.stranded)
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
            working=f"{worst.mode.name}, full cell, through {chain.shaper.kind}",
            rests_on=rests_on,
            assumed=soft,
        )
        return
    low_v = float(worst.run.gadget_v[..., -1].flat[0])
    working = f"{worst.mode.name} ends with {volts(low_v)} at the gadget, ended by the {worst.run.stopped_by}"
    if worst.run.stopped_by != "gadget" or worst.stranded < STRANDED_NOTE:
        yield passed(f"{percent(1 - worst.stranded)} of the charge is used", working=working, rests_on=rests_on)
        return
    headline = (
        f"{percent(worst.stranded)} of the charge is stranded: {worst.mode.name} gives up at {volts(window.v_run_min)}"
    )
    say = caution if worst.stranded > STRANDED_CAUTION else note
    yield say(headline, working=working, rests_on=rests_on, assumed=soft)


@rule("power.cell_ends_low", station="power", source="common practice, no source")
def cell_ends_low(chain: Chain) -> Iterator[Verdict]:
    """The gadget or shaper should stop before the guard does; the guard is the last line."""
    if not chain.runs or not chain.guards:
        return
    cut_v = chain.cuts["guard"]
    if all(run.run.stopped_by == "gadget" for run in chain.runs) or cut_v >= chain.cell.stop_v:
        return
    yield note(
        f"{volts(cut_v)} is where the guard cuts; this cell is better stopped at {volts(chain.cell.stop_v)}",
        working="Nothing stops the run in between. A cell emptied so deep each time wears sooner: recharge early.",
    )


@rule("power.shaper_overloaded", station="power", source="the part's own rating")
def shaper_overloaded(chain: Chain) -> Iterator[Verdict]:
    """The gadget's peak against the shaper's current rating, and the full cell against its input rating."""
    shaper = chain.shaper
    if shaper.kind == "none" or not chain.gadget.modes:
        return
    peak_a = max(mode.most_a for mode in chain.gadget.modes)
    if shaper.rated_a is not None and peak_a > shaper.rated_a:
        yield stop(f"{amps(peak_a)} through a {shaper.name} made for {amps(shaper.rated_a)}")
    if shaper.v_in_max is not None and chain.full_v > shaper.v_in_max:
        yield stop(f"{volts(chain.full_v)} into a {shaper.name} that takes {volts(shaper.v_in_max)}")


@rule("power.two_shapers", station="power", source="how this tool counts")
def two_shapers(chain: Chain) -> Iterator[Verdict]:
    """Only one shaper is reckoned with."""
    if (count := len(chain.shapers)) > 1:
        yield caution(f"{count} shapers in this build: only {chain.shaper.name} is reckoned with")


@rule("power.off_drain", station="power", source="sum of quiescent currents; self-discharge 2.5 % a month from memory")
def off_drain(chain: Chain) -> Iterator[Verdict]:
    """Off current counts: a regulator in front of the switch empties a small cell in weeks."""
    chain.require_cell()
    lasts = chain.standby_days
    rests_on = ("gadget.off_current_a",)
    working = (
        f"{amps(chain.standby_a)} in all: gadget {amps(chain.gadget.off_current_a)}, shaper {amps(chain.shaper.iq_a)}, "
        f"guards, charger, and the cell's own 2.5 % a month, from {amp_hours(chain.usable_ah)}"
    )
    if lasts < DRAWER_DAYS:
        yield caution(f"{days(lasts)} switched off and it is flat", working=working, rests_on=rests_on)
    else:
        yield passed(f"{days(lasts)} in the drawer on a charge", working=working, rests_on=rests_on)


@rule("power.run_time", station="power", source="discharge along the open-circuit curve; old capacities from memory")
def run_time(chain: Chain) -> Iterator[Verdict]:
    """Hours on a charge beside what a set of the old batteries gave."""
    lasting = [run for run in chain.runs if run.hours > 0]
    if not lasting:
        return
    run = max(lasting, key=lambda run: run.mode.hours_per_day)
    old_h, supply = chain.original_hours(run.mode), chain.gadget.supply
    share = run.hours / old_h
    old_set = f"{supply.series * supply.parallel} x {supply.battery}"
    headline = f"{hours(run.hours)} {run.mode.name} on a charge; {old_set} gave about {hours(old_h)}"
    working = (
        f"{amp_hours(run.charge_ah)} out of {amp_hours(chain.capacity_ah)}; "
        f"the old set holds {amp_hours(supply.capacity_ah)} at light drain"
    )
    if share < 0.1:
        yield caution(headline + ", over ten times as long", working=working, assumed=True)
    else:
        yield note(headline, working=working, assumed=True)
