"""Protection: is there one, does it let the gadget start, when does it open, and who ends the run?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Charging, Running
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.rules.rule import caution, fine, note, rule, stop
from pocketspark.core.units.figures import amps, fixed, ohms, percent, volts

# Start-up peaks are short and seldom measured whole: the protection's low end should clear them by this much.
PEAK_MARGIN = 1.3
# Over a class's full voltage by more than this, the over-charge cut comes too late to save the cell (handbooks of such
# circuits give 4.25 to 4.35 V for a 4.20 V cell, from memory).
OVER_CHARGE_SPAN_V = 0.20


@rule("power.no_protection", station="power", node="protection", source="common practice, no source")
def no_protection(chain: Chain) -> Iterator[Judgement]:
    """Between cell and gadget there must be one protection: on the charger, on its own board, or on the cell."""
    if chain.cell is None and not chain.build.boards:
        return
    first = chain.first_to_trip
    if first is None:
        yield stop(
            "Nothing stops over-discharge or a short: this build has no protection.",
            working="Choose a charger board with protection, a protection board (also sold as BMS or PCM), or a cell "
            "that carries its own.",
        )
        return
    count = len(chain.protections)
    who = "The protection" if count == 1 else f"The first of {count} protections in series"
    cut, trip = volts(first.cut_v), amps(first.trip_current_a)
    yield fine(f"{who} opens at {cut}, and at about {trip}.", figure=cut)


@rule(
    "power.protection_trips_early",
    station="power",
    node="protection",
    source="common practice, no source",
    formula="I_trip = V_trip / (2 R_on), R_on at 3.0 V in the cell, low end of the tolerance",
    limits=lambda: f"peak x {fixed(PEAK_MARGIN, 1)}",
)
def trips_early(running: Running) -> Iterator[Judgement]:
    """The low end of the protection's trip must clear the gadget's peak with a margin, or it cuts on start-up."""
    protection = running.chain.first_to_trip
    if protection is None or not running.gadget.modes:
        return
    peak, least = amps(running.peak_cell_a), amps(protection.trip_least_a)
    stalled = f"; a stalled motor takes {amps(running.stall_a)}" if running.stall_a else ""
    working = (
        f"{volts(protection.v_trip)} / (2 x {ohms(protection.r_on_ohm)}) = {amps(protection.trip_current_a)} "
        f"± {percent(protection.trip_tolerance)}, less with an empty cell, which drives its transistors less: {least} "
        f"at least. Peak x {fixed(PEAK_MARGIN, 1)} = {amps(running.peak_cell_a * PEAK_MARGIN)}{stalled}"
    )
    if protection.trip_least_a < running.peak_cell_a:
        yield stop(
            f"The gadget will not start: its {peak} peak trips the protection, which may open at {least}.",
            figure=peak,
            limit=least,
            working=working,
        )
    elif protection.trip_least_a < running.peak_cell_a * PEAK_MARGIN:
        yield caution(
            f"The {peak} peak comes close to the {least} at which the protection may open.",
            figure=peak,
            limit=least,
            working=working,
        )
    else:
        yield fine(
            f"The {peak} peak passes: the protection opens from {least}.", figure=peak, limit=least, working=working
        )


@rule("power.protection_trips_late", station="power", node="protection", source="common practice, no source")
def trips_late(running: Running) -> Iterator[Judgement]:
    """A protection that trips above the cell's own maximum will not save it from a moderate overload."""
    most_a = running.chosen.discharge_max_a
    if not running.chain.protections or most_a is None:
        return
    latest = amps(min(protection.trip_most_a for protection in running.chain.protections))
    may_give = amps(most_a)
    if latest.value > may_give.value:
        # Worth a worry only where the gadget can draw a moderate overload: a motor that is held fast.
        overload = may_give.value < running.stall_a < latest.value
        say = caution if overload else note
        yield say(
            "The protection stops a short, not a moderate overload.",
            figure=latest,
            limit=may_give,
            working=f"It opens at {latest} at the latest; the cell may give {may_give}. A small fuse would stop it.",
        )


@rule(
    "power.over_charge_cut",
    station="power",
    node="protection",
    source="common practice, no source",
    limits=lambda: f"between the charger's end voltage and {volts(OVER_CHARGE_SPAN_V)} over the class's full voltage",
)
def over_charge_cut(charging: Charging) -> Iterator[Judgement]:
    """The over-charge cut lies above the charger's end voltage, and not so far above it that the cell is lost first."""
    protections = charging.chain.protections
    if not protections:
        return
    float_v, facts = volts(charging.charger.float_v), charging.cell.facts
    first = volts(min(protection.over_charge_v for protection in protections))
    too_high = volts(facts.full_v + OVER_CHARGE_SPAN_V)
    if first.value < float_v.value:
        yield caution(
            f"The protection opens at {first}, before the charger has finished at {float_v}: the cell is never full.",
            figure=first,
            limit=float_v,
            working="The lamp may then say full at once, or blink.",
        )
    elif first.value > too_high.value:
        yield caution(
            f"The protection would stop an over-charge only at {first}: too late for a cell that is full at "
            f"{volts(facts.full_v)}.",
            figure=first,
            limit=too_high,
            working=f"A {facts.label} cell needs a protection of its own class; only the charger guards its top here.",
        )
    else:
        yield fine(f"Should the charger fail, the protection opens at {first}.", figure=first)


@rule("power.needs_waking", station="power", node="protection", source="common practice, no source")
def needs_waking(running: Running) -> Iterator[Judgement]:
    """A protection that has opened closes again where the cell recovers to its release voltage, else on a charger."""
    heaviest = running.heaviest_run
    if heaviest is None or not running.chain.protections or heaviest.stopped_by != "protection":
        return
    protection = max(running.chain.protections, key=lambda protection: protection.cut_v)
    recovered = volts(float(running.chosen.curve.at(heaviest.unused)))
    release = volts(protection.release_v)
    if recovered.value < release.value:
        yield note(
            f"Run flat, it stays dead until it is plugged in: the cell recovers to {recovered}, and the protection "
            f"closes again at {release}.",
            figure=recovered,
            limit=release,
            working="Most wake as soon as a charger is connected. Blinking on the charger at first is usual.",
        )


@rule("power.cell_ends_low", station="power", node="protection", source="common practice, no source")
def cell_ends_low(running: Running) -> Iterator[Judgement]:
    """The gadget or regulator should stop before the protection does; the protection is the last line."""
    if not running.runs or not running.chosen.protections_in_the_way:
        return
    cut, better = volts(running.chosen.cuts["protection"]), volts(running.cell.stop_v)
    if all(run.stopped_by == "gadget" for run in running.runs) or cut.value >= better.value:
        return
    yield note(
        f"Left on, the gadget empties the cell to {cut}, where the protection opens; {better} would be kinder to it.",
        figure=cut,
        limit=better,
        working="Nothing stops the run in between. A cell emptied so deep each time wears sooner: recharge early.",
    )


@rule(
    "power.peak_at_empty",
    station="power",
    source="constant-power input of converters, common practice",
    formula="I_in = V_set I_peak / (eta V) at 3.0 V (2.5 V for LFP) in the cell",
)
def peak_at_empty(running: Running) -> Iterator[Judgement]:
    """A step-up draws most when the cell has least: its peak must still be carried, by cell, protection, converter."""
    regulator = running.chain.regulator
    if not kind_of(regulator).steps_up or not running.runs:
        return
    empty = volts(running.cell.facts.empty_v)
    if not running.carries_its_peak_when_empty:
        yield stop(
            f"With {empty} left in the cell the {regulator.name} cannot carry the peak: it restarts in a loop.",
            figure=empty,
            working=f"{ohms(running.chosen.all_ohm)} in all between cell and converter is too much for its power",
        )
        return
    plain, drawn = amps(max(mode.most_a for mode in running.gadget.modes)), amps(running.peak_cell_a)
    yield fine(
        f"Nearly empty, the cell gives {drawn} for the gadget's {plain} peak.",
        figure=drawn,
        working=f"at {empty}, efficiency {percent(regulator.efficiency)} at best",
    )
