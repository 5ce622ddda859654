"""Protection: is there one, does it let the gadget start, and who ends the run?"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.rules.rule import Judgement, caution, note, passed, rule, stop
from pocketspark.core.units.quantity import amps, ohms, percent, volts

# Start-up peaks are short and seldom measured whole: the protection's low end should clear them by this much.
PEAK_MARGIN = 1.3


@rule("power.no_protection", station="power", source="common practice, no source")
def no_protection(chain: Chain) -> Iterator[Judgement]:
    """Somewhere between cell and gadget there must be one protection: on the charger, on its own board, or on the cell."""
    if not chain.has_cell and not chain.build.boards:
        return
    if not chain.protections:
        yield stop(
            "0 protections: nothing stops over-discharge or a short",
            working="Choose a charger board with a protection, a protection board, or a cell that carries its own.",
        )
        return
    protection = min(chain.protections, key=lambda protection: protection.trip_least_a)
    count = "1 protection" if len(chain.protections) == 1 else f"{len(chain.protections)} protections in series"
    yield passed(f"{count}: cuts at {volts(protection.cut_v)}, trips at about {amps(protection.trip_current_a)}")


@rule(
    "power.protection_trips_early",
    station="power",
    source="common practice, no source",
    formula="I_trip = V_trip / (2 R_on), R_on at 3.0 V in the cell, low end of the tolerance",
    limits=f"peak x {PEAK_MARGIN}",
)
def protection_trips_early(chain: Chain) -> Iterator[Judgement]:
    """The low end of the protection's trip must clear the gadget's peak with a margin, or it cuts on start-up."""
    if not chain.protections or not chain.gadget.modes:
        return
    protection = chain.first_to_trip
    peak_a = chain.peak_cell_a
    stall = f", motor stalled {amps(chain.stall_a)}" if chain.stall_a else ""
    working = (
        f"{volts(protection.v_trip)} / (2 x {ohms(protection.r_on_ohm)}) = {amps(protection.trip_current_a)} "
        f"-+ {percent(protection.trip_tolerance)}, less at 3.0 V where R_on is higher: {amps(protection.trip_least_a)} at least; "
        f"peak x {PEAK_MARGIN} = {amps(peak_a * PEAK_MARGIN)}{stall}"
    )
    if protection.trip_least_a < peak_a:
        yield stop(
            f"{amps(peak_a)} at the peak trips a protection that lets {amps(protection.trip_least_a)} by",
            working=working,
        )
    elif protection.trip_least_a < peak_a * PEAK_MARGIN:
        headline = f"{amps(peak_a)} at the peak is close under the protection's {amps(protection.trip_least_a)}"
        yield caution(headline, working=working)
    else:
        yield passed(
            f"{amps(peak_a)} at the peak, the protection trips from {amps(protection.trip_least_a)}", working=working
        )


@rule("power.protection_trips_late", station="power", source="common practice, no source")
def protection_trips_late(chain: Chain) -> Iterator[Judgement]:
    """A protection that trips above the cell's own maximum will not save it from a moderate overload."""
    if not chain.protections or chain.cell.discharge_max_a is None:
        return
    allowed_a = chain.cell.discharge_max_a * chain.build.cell_count
    latest = min(protection.trip_most_a for protection in chain.protections)
    if latest > allowed_a:
        yield caution(
            f"{amps(latest)} may flow before the protection trips; the cell may give {amps(allowed_a)}",
            working="It stops a short, but not a moderate overload. A small fuse would.",
        )


@rule("power.cell_ends_low", station="power", source="common practice, no source")
def cell_ends_low(chain: Chain) -> Iterator[Judgement]:
    """The gadget or regulator should stop before the protection does; the protection is the last line."""
    if not chain.runs or not chain.protections:
        return
    cut_v = chain.cuts["protection"]
    if all(run.run.stopped_by == "gadget" for run in chain.runs) or cut_v >= chain.cell.stop_v:
        return
    yield note(
        f"{volts(cut_v)} is where the protection cuts; this cell is better stopped at {volts(chain.cell.stop_v)}",
        working="Nothing stops the run in between. A cell emptied so deep each time wears sooner: recharge early.",
    )


@rule(
    "power.peak_at_empty",
    station="power",
    source="constant-power input of converters, common practice",
    formula="I_in = V_set I_peak / (eta V) at 3.0 V (2.5 V for LFP) in the cell",
)
def peak_at_empty(chain: Chain) -> Iterator[Judgement]:
    """A step-up draws most when the cell has least: its peak must still be carried, by cell, protection and converter."""
    if chain.regulator.kind not in ("boost", "buck_boost") or not chain.runs:
        return
    empty_v = chain.cell.facts.empty_v
    if not chain.carries_its_peak_when_empty:
        yield stop(
            f"{volts(empty_v)} cannot carry the peak: the converter pulls the cell down, restarts, and loops",
            working=f"{ohms(chain.all_ohm)} in all between cell and converter is too much for its power",
        )
        return
    plain = max(mode.most_a for mode in chain.gadget.modes)
    headline = f"{amps(chain.peak_cell_a)} from an empty cell at the peak, {amps(plain)} at the gadget"
    yield passed(headline, working=f"at {volts(empty_v)}, efficiency {percent(chain.regulator.efficiency)} at best")
