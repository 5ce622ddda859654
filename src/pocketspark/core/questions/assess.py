"""The one door: assess(project, build) -> Assessment, everything the core can say of one build."""

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.cells.credibility import credible_capacity_ah, energy_density_wh_per_l
from pocketspark.core.cells.grading import grade
from pocketspark.core.chain import BoardCharging, Chain, ChargeCurrent, Charging, Limit, ModeRun, Running
from pocketspark.core.chain.running import bursts_of, loudness
from pocketspark.core.chosen.service import light_share
from pocketspark.core.circuit import circuit_of
from pocketspark.core.finding import worst
from pocketspark.core.fit.outer import outer_margin_mm, room_mm
from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.message import as_message, say
from pocketspark.core.models import Project
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.charge_and_discharge import Discharge
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.physics.whistle import is_heard
from pocketspark.core.questions.assessment import (
    Assessment,
    Caution,
    CellSummary,
    ChargeCurve,
    ChargeSummary,
    ChargingSummary,
    GadgetVolts,
    GaugeSummary,
    LightSummary,
    LimitLine,
    LoudnessSummary,
    ModeSummary,
    ProtectionSummary,
    ResistorChoice,
    ResistorLook,
    RulerBand,
    RunCurve,
    RunSummary,
    SurveySummary,
    WhistleSummary,
    WindowSummary,
)
from pocketspark.core.questions.bases import known_bases
from pocketspark.core.questions.load_as_lived import load_day
from pocketspark.core.questions.payback import payback_of
from pocketspark.core.questions.power_path import power_path
from pocketspark.core.questions.worth_it import worth_it
from pocketspark.core.rules import findings_of
from pocketspark.core.rules.causes import with_their_cause
from pocketspark.core.rules.power.protection import longest_peak
from pocketspark.core.units.figures import amps, fixed, ohms

# Resistors worth showing: from past any board's rating up to a very gentle current.
PICTURE_OHMS = (680.0, 24_000.0)

# Usual cautions, which yield to local rules; on paper all of them, on screen where the work is that they belong to.
CAUTIONS = tuple(
    Caution(text=text, stations=tuple(stations.split()))
    for text, stations in (
        (
            say("Lithium: never puncture, bend, heat, short, or solder on a bare can. Sand or a fire-proof bag near."),
            "cell fit wire build prove",
        ),
        (say("Stay with the first charge, on a surface that does not burn."), "charge build prove"),
        (say("Recycle cells, never household waste."), "survey cell"),
        (say("Alkaline cells hold caustic electrolyte: gloves and goggles, do not open."), "survey"),
        (say("Solder fumes, solvents and etchants: open a window, or better."), "wire build"),
        (
            say("Sent or carried on a flight, a lithium cell falls under transport rules (UN 38.3, carriers' limits)."),
            "cell prove",
        ),
        (say("Leave the mains side of any adapter to licensed people."), "survey charge"),
        (
            say("Do not convert toys for small children, medical, life-safety, aviation or explosion-proof items."),
            "survey",
        ),
        (say("Local rules and the gadget's maker prevail over anything said here."), " ".join(STATIONS)),
    )
)


def assess(project: Project, build: int = 0) -> Assessment:
    """Judge one build of a project. Raises IndexError where the project has no such build."""
    if not 0 <= build < len(project.builds):
        raise IndexError(f"this project has builds 0 to {len(project.builds) - 1}, not {build}")
    chain = Chain(project, build)
    running, charging = chain.running, chain.charging
    findings = with_their_cause(findings_of(chain))
    payback = payback_of(chain, stopped=any(f.level == "stop" for f in findings)) if running else None
    by_station = {station: [f.level for f in findings if f.station == station] for station in STATIONS}
    return Assessment(
        findings=findings,
        worst=worst(finding.level for finding in findings),
        stations={station: worst(levels) for station, levels in by_station.items() if levels},
        path=power_path(chain, findings),
        basis=known_bases(project, build),
        survey=_survey(chain),
        cell=_cell(chain, running) if running else None,
        charge=_charge(charging) if isinstance(charging, BoardCharging) else None,
        charging=_charging(charging) if charging else None,
        run=_run(running) if running else None,
        gadget_v=GadgetVolts(max=running.gadget_v_max, min=running.gadget_v_min) if running else None,
        payback=payback,
        worth=worth_it(chain, findings, payback),
        cautions=CAUTIONS,
    )


def _survey(chain: Chain) -> SurveySummary:
    gadget, window = chain.gadget, chain.window
    return SurveySummary(
        window=WindowSummary(
            v_run_min=window.v_run_min,
            v_start_min=window.v_start_min,
            v_abs_max=window.v_abs_max,
            min_basis=window.min_basis,
            max_basis=window.max_basis,
        ),
        supply=gadget.supply.label,
        design_v=gadget.design_v,
        led_v=gadget.led_forward_v,
        ruler=tuple(_ruler(chain)),
        daily_ah=gadget.daily_ah,
        average_a=gadget.daily_ah / 24,
        day=load_day(gadget),
    )


def _ruler(chain: Chain) -> list[RulerBand]:
    supply, running = chain.gadget.supply, chain.running
    bands = [
        RulerBand(
            label=supply.label,
            low_v=supply.empty_v,
            high_v=supply.fresh_v,
            kind="old",
            detail=say(
                "{fresh_v} new, {empty_v} spent", fresh_v=fixed(supply.fresh_v, 2), empty_v=fixed(supply.empty_v, 2)
            ),
        )
    ]
    if running is None:
        return bands
    low_v, high_v = max(running.chosen.cuts.values()), running.chosen.full_v
    detail = say("{high_v} full, {low_v} empty", high_v=fixed(high_v, 2), low_v=fixed(low_v, 2))
    bands.append(RulerBand(label=say("lithium cell"), low_v=low_v, high_v=high_v, kind="lithium", detail=detail))
    if running.runs:
        low_v, high_v = running.gadget_v_min, running.gadget_v_max
        detail = say("{high_v} to {low_v}", high_v=fixed(high_v, 2), low_v=fixed(low_v, 2))
        bands.append(RulerBand(label=say("at the gadget"), low_v=low_v, high_v=high_v, kind="gadget", detail=detail))
    return bands


def _cell(chain: Chain, running: Running) -> CellSummary:
    cell, capacity_ah = running.cell, running.chosen.capacity_ah
    return CellSummary(
        capacity_ah=capacity_ah,
        r_ohm=running.chosen.r_ohm,
        density_wh_per_l=energy_density_wh_per_l(cell),
        credible_capacity_ah=credible_capacity_ah(cell),
        c_rate=chain.charging.current.spread.nominal_a / capacity_ah if chain.charging else None,
        grade=grade(cell),
        outer_margin_mm=outer_margin_mm(cell, room_mm(chain.gadget.supply)),
    )


def _charging(charging: Charging) -> ChargingSummary:
    hours, warmth = float(charging.run.hours.flat[0]), charging.warmth
    ends, (least_h, most_h) = bool(np.isfinite(hours)), charging.hours_band
    return ChargingSummary(
        who=charging.build.who_charges,
        says=charging.board.name,
        current_a=charging.current.spread.nominal_a,
        ends_v=charging.charger.float_v,
        hours=hours if ends else None,
        hours_least=least_h if np.isfinite(least_h) else None,
        hours_most=most_h if np.isfinite(most_h) else None,
        hours_to_80=charging.hours_until(0.8) if ends else None,
        inside_c_most=float(np.max(warmth.inside_c)),
        cell_c_most=float(np.max(warmth.cell_c)),
        curve=_charge_curve(charging),
    )


def _charge(charging: BoardCharging) -> ChargeSummary:
    run, current = charging.run, charging.current
    spread = current.spread
    hours = float(run.hours.flat[0])
    ends, (least_h, most_h) = bool(np.isfinite(hours)), charging.hours_band
    source, warmth = charging.build.source, charging.warmth
    drawn_a = spread.nominal_a + current.source_load_a
    return ChargeSummary(
        r_prog_ohm=current.r_prog_ohm,
        r_origin=current.r_origin,
        current_a=spread.nominal_a,
        current_least_a=spread.least_a,
        current_most_a=spread.most_a,
        hours=hours if ends else None,
        hours_least=least_h if np.isfinite(least_h) else None,
        hours_most=most_h if np.isfinite(most_h) else None,
        hours_to_80=charging.hours_until(0.8) if ends else None,
        cc_share=float(run.cc_share.flat[0]),
        cc_charge_share=float(run.cc_charge_share.flat[0]),
        terminates=ends,
        termination_a=current.termination_a,
        heat_w=float(heat.charger_heat_w(source.volts, float(charging.chosen.curve.at(0.05)), spread.nominal_a)),
        inside_c_most=float(np.max(warmth.inside_c)),
        junction_c_most=None if warmth.junction_c is None else float(np.max(warmth.junction_c)),
        cell_c_most=float(np.max(warmth.cell_c)),
        at_board_v=source.volts - drawn_a * source.r_cable_ohm,
        plugged_v=charging.plugged_gadget_v(),
        fitted=resistor_look(current, current.r_marked_ohm),
        suggested=resistor_look(current, current.suggested_r_ohm),
        choices=tuple(_choice(current, r_ohm) for r_ohm in resistors.preferred_between(*_picture_range(current))),
        limits=tuple(_limit_line(limit) for limit in current.limits),
        curve=_charge_curve(charging),
    )


def _limit_line(limit: Limit) -> LimitLine:
    words = say("{limit} {current_a}", limit=limit.label, current_a=amps(limit.current_a))
    return LimitLine(name=limit.name, label=limit.label, current_a=limit.current_a, words=words)


def _picture_range(current: ChargeCurrent) -> tuple[float, float]:
    """The usual range, widened so that the fitted and the suggested resistor are always inside."""
    shown = (current.r_prog_ohm, current.suggested_r_ohm)
    return min(PICTURE_OHMS[0], *shown), max(PICTURE_OHMS[1], *shown)


def _choice(current: ChargeCurrent, r_ohm: float) -> ResistorChoice:
    spread = current.spread_at(r_ohm)
    return ResistorChoice(
        r_ohm=r_ohm,
        current_a=spread.nominal_a,
        least_a=spread.least_a,
        most_a=spread.most_a,
        within=spread.most_a <= current.target_a * 1.001,
    )


def resistor_look(current: ChargeCurrent, r_ohm: float) -> ResistorLook:
    """How one knows this resistor on the bench."""
    bands = tuple(resistors.colour_bands(r_ohm, current.build.r_tolerance))
    return ResistorLook(
        r_ohm=r_ohm,
        text=as_message(ohms(r_ohm)),
        rkm=resistors.rkm_code(r_ohm),
        chip_code=resistors.chip_code(r_ohm),
        chip_code_4=resistors.chip_code(r_ohm, 3),
        eia96=resistors.eia96_code(r_ohm),
        bands=bands,
        paints=tuple(resistors.BAND_PAINTS[band] for band in bands),
    )


def _charge_curve(charging: Charging) -> ChargeCurve:
    run = charging.run
    kept = _distinct(run.time_h)
    warmth = charging.warmth
    return ChargeCurve(
        hours=_column(run.time_h, kept),
        cell_v=_column(run.cell_v, kept),
        charger_a=_column(run.charger_a, kept),
        charge_ah=_column((run.soc - run.soc.flat[0]) * charging.chosen.capacity_ah, kept),
        inside_c=_column(warmth.inside_c, kept),
        junction_c=() if warmth.junction_c is None else _column(warmth.junction_c, kept),
        cell_c=_column(warmth.cell_c, kept),
    )


def _run(running: Running) -> RunSummary:
    return RunSummary(
        modes=tuple(_mode(running, run) for run in running.runs),
        days=running.days,
        served_days=running.served_days,
        standby_days=running.standby_days,
        standby_a=running.standby_a,
        drains=running.off_drains,
        gauge=_gauge(running),
        protection=_protection(running),
    )


def _gauge(running: Running) -> GaugeSummary | None:
    warn_v, stop_v = running.gauge_warn_v, running.gauge_stop_v
    if warn_v is None or stop_v is None or not running.runs:
        return None
    return GaugeSummary(
        warn_v=warn_v,
        stop_v=stop_v,
        left_at_warning=running.left_when_gadget_at(warn_v),
        left_at_stop=running.left_when_gadget_at(stop_v),
    )


def _protection(running: Running) -> ProtectionSummary | None:
    protection = running.chain.first_to_trip
    if protection is None:
        return None
    heaviest = running.heaviest_run
    return ProtectionSummary(
        name=protection.name,
        cut_v=running.chosen.cuts.get("protection", protection.cut_v),
        trip_least_a=protection.trip_least_a,
        trip_most_a=min(each.trip_most_a for each in running.chain.protections),
        peak_a=peak.value if (peak := longest_peak(circuit_of(running))) else 0.0,
        drain_a=sum(each.drain_a for each in running.chain.protections),
        ends_the_run=heaviest.stopped_by if heaviest else "",
    )


def _mode(running: Running, run: ModeRun) -> ModeSummary:
    return ModeSummary(
        name=run.mode.name,
        hours_per_day=run.mode.hours_per_day,
        hours=run.hours,
        service_hours=run.service_hours if run.service_share < 1 else None,
        hours_least=running.hours_least(run),
        stopped_by=run.stopped_by,
        charge_ah=run.charge_ah,
        used=1 - run.unused,
        original_hours=running.original_hours(run.mode),
        gadget_v_end=float(np.nan_to_num(run.run.gadget_v[..., -1].flat[0])),
        curve=_run_curve(run),
        light=_light(running, run),
        loudness=_loudness(running, run),
        whistle=_whistle(running, run),
    )


def _light(running: Running, run: ModeRun) -> LightSummary | None:
    down = run.run
    share = light_share(running.gadget, np.nan_to_num(down.gadget_v))
    if share is None:
        return None
    first, half, last = _three_of(down, share)
    return LightSummary(shares=_column(share, _distinct(down.soc)), at_first=first, half_way=half, at_the_end=last)


def _loudness(running: Running, run: ModeRun) -> LoudnessSummary | None:
    down = run.run
    loud = loudness(running.gadget, np.nan_to_num(down.gadget_v))
    if loud is None:
        return None
    first, half, last = _three_of(down, loud)
    return LoudnessSummary(decibels=_column(loud, _distinct(down.soc)), at_first=first, half_way=half, at_the_end=last)


def _whistle(running: Running, run: ModeRun) -> WhistleSummary | None:
    bursts = bursts_of(running.chosen.regulator_in_the_way, run.load)
    if bursts is None or running.gadget.sound in (None, "none"):
        return None
    return WhistleSummary(bursts=bursts, is_heard=is_heard(bursts))


def _three_of(down: Discharge, values: Floats) -> tuple[float, float, float]:
    """At first, half way through the charge, which falls along the run, and at the end."""
    half = float(np.interp(-0.5, -down.soc.reshape(-1), values.reshape(-1)))
    return float(values[..., 0].flat[0]), half, float(values[..., -1].flat[0])


def _run_curve(run: ModeRun) -> RunCurve:
    down = run.run
    kept = _distinct(down.soc)
    return RunCurve(
        hours=_column(down.time_h, kept),
        soc=_column(down.soc, kept),
        cell_v=_column(down.cell_v, kept),
        gadget_v=_column(down.gadget_v, kept),
    )


def _distinct(along: Floats) -> NDArray[np.bool_]:
    """Mask that drops points which coincide with their neighbour: collapsed knots."""
    return np.concatenate([[True], np.abs(np.diff(along)) > 1e-6])


def _column(values: Floats, kept: NDArray[np.bool_]) -> tuple[float, ...]:
    """Plain numbers for the chart, in the five digits it can show."""
    return tuple(np.nan_to_num(values[kept], posinf=0.0).round(5).tolist())
