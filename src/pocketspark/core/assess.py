"""The one door: assess(project, build) -> Assessment, everything the core can say of one build."""

from collections.abc import Callable
from typing import TypeVar

import numpy as np
from numpy.typing import NDArray
from pydantic import Field

from pocketspark.core.chain import Chain, MissingPart, ModeRun
from pocketspark.core.finding import STATIONS, Finding, Level, Station, worst
from pocketspark.core.nouns import Basis, Project
from pocketspark.core.nouns.noun import Noun
from pocketspark.core.path import PowerPath, power_path
from pocketspark.core.physics import heat, resistors
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.quantity import ohms
from pocketspark.core.rules import findings_of
from pocketspark.core.rules.cell import credible_capacity_ah, energy_density_wh_per_l

# Against a full electrochemical model the series resistance charges a few percent too fast.
CHARGE_TIME_BAND = (0.95, 1.15)
# Resistors worth showing: from past any board's rating up to a very gentle current.
PICTURE_OHMS = (680.0, 24_000.0)

T = TypeVar("T")


class WindowSummary(Noun):
    """The window in force, with the basis of each end."""

    v_run_min: float
    v_abs_max: float
    min_basis: Basis
    max_basis: Basis


class RulerBand(Noun):
    """One bar of the voltage ruler, V."""

    label: str
    low_v: float
    high_v: float
    kind: str  # old, lithium, gadget
    detail: str


class SurveySummary(Noun):
    """What the survey adds up to."""

    window: WindowSummary
    ruler: tuple[RulerBand, ...]
    daily_ah: float
    average_a: float


class LimitLine(Noun):
    """One ceiling on the charge current."""

    name: str
    label: str
    current_a: float


class ResistorChoice(Noun):
    """One value that could be fitted, and the current it gives with board and resistor tolerance."""

    r_ohm: float
    current_a: float
    least_a: float
    most_a: float
    within: bool  # its highest possible current stays under every limit


class ResistorLook(Noun):
    """How to recognise a resistor on the bench."""

    r_ohm: float
    text: str
    rkm: str
    chip_code: str
    chip_code_4: str
    eia96: str | None
    bands: tuple[str, ...]


class ChargeCurve(Noun):
    """The charge run, column by column."""

    hours: tuple[float, ...]
    cell_v: tuple[float, ...]
    charger_a: tuple[float, ...]


class ChargeSummary(Noun):
    """The charge as set. `hours` is None where it never ends. `cc_share` is a share of the time."""

    r_program_ohm: float
    r_origin: str
    current_a: float
    current_least_a: float
    current_most_a: float
    hours: float | None
    hours_least: float | None
    hours_most: float | None
    cc_share: float
    cc_charge_share: float
    terminates: bool
    end_current_a: float
    heat_w: float
    fitted: ResistorLook
    suggested: ResistorLook
    choices: tuple[ResistorChoice, ...]
    limits: tuple[LimitLine, ...]
    curve: ChargeCurve


class RunCurve(Noun):
    """A run, column by column: charge left (1 down to 0), and volts at cell and gadget."""

    hours: tuple[float, ...]
    soc: tuple[float, ...]
    cell_v: tuple[float, ...]
    gadget_v: tuple[float, ...]


class ModeSummary(Noun):
    """One mode run from full to its end. `original_hours` is what the old batteries gave."""

    name: str
    hours: float
    stopped_by: str
    charge_ah: float
    stranded: float
    original_hours: float
    gadget_v_end: float
    curve: RunCurve


class RunSummary(Noun):
    """Run time by mode, at the surveyed daily use, and switched off."""

    modes: tuple[ModeSummary, ...]
    days: float | None
    standby_days: float
    standby_a: float


class GadgetVolts(Noun):
    """The most and least the gadget sees."""

    max: float
    min: float


class CellSummary(Noun):
    """The chosen cell or group."""

    capacity_ah: float
    r_ohm: float
    density_wh_per_l: float | None
    credible_capacity_ah: float | None
    c_rate: float | None


class Assessment(Noun):
    """All that can be said of one build. A part still to be chosen leaves its summary None."""

    findings: tuple[Finding, ...]
    worst: Level
    stations: dict[Station, Level]
    path: PowerPath
    survey: SurveySummary
    cell: CellSummary | None = None
    charge: ChargeSummary | None = None
    run: RunSummary | None = None
    gadget_v: GadgetVolts | None = None
    cautions: tuple[str, ...] = Field(default=())


# Shown wherever a build is worked on: usual cautions, which yield to local rules.
CAUTIONS = (
    "Lithium: never puncture, bend, heat, short, or solder on a bare can. Sand or a fire-proof bag within reach.",
    "Stay with the first charge, on a surface that does not burn. Recycle cells, never household waste.",
    "Alkaline cells hold caustic electrolyte: gloves and goggles, do not open.",
    "Leave the mains side of any adapter to licensed people.",
    "Do not convert toys for small children, medical, life-safety, aviation or explosion-proof items.",
    "Local rules and the gadget's maker prevail over anything said here.",
)


def assess(project: Project, build: int = 0) -> Assessment:
    """Judge one build of a project. Raises IndexError where the project has no such build."""
    if not 0 <= build < len(project.builds):
        raise IndexError(f"this project has builds 0 to {len(project.builds) - 1}, not {build}")
    chain = Chain(project, build)
    findings = findings_of(chain)
    by_station = {station: [f for f in findings if f.station == station] for station in STATIONS}
    return Assessment(
        findings=tuple(findings),
        worst=worst(findings),
        stations={station: worst(found) for station, found in by_station.items() if found},
        path=power_path(chain, findings),
        survey=_survey(chain),
        cell=_if_chosen(_cell, chain),
        charge=_if_chosen(_charge, chain),
        run=_if_chosen(_run, chain),
        gadget_v=_if_chosen(_gadget_v, chain),
        cautions=CAUTIONS,
    )


def _if_chosen(summarise: Callable[[Chain], T], chain: Chain) -> T | None:
    try:
        return summarise(chain)
    except MissingPart:
        return None


def _survey(chain: Chain) -> SurveySummary:
    gadget, window = chain.gadget, chain.window
    daily_ah = sum(mode.current_a * mode.hours_per_day for mode in gadget.modes)
    daily_ah += gadget.off_current_a * (24 - chain.hours_on_per_day)
    return SurveySummary(
        window=WindowSummary(
            v_run_min=window.v_run_min,
            v_abs_max=window.v_abs_max,
            min_basis=window.min_basis,
            max_basis=window.max_basis,
        ),
        ruler=tuple(_ruler(chain)),
        daily_ah=daily_ah,
        average_a=daily_ah / 24,
    )


def _ruler(chain: Chain) -> list[RulerBand]:
    supply = chain.gadget.supply
    count = supply.series * supply.parallel
    bands = [
        RulerBand(
            label=f"{count} x {supply.size.common}, {supply.facts.label}",
            low_v=supply.empty_v,
            high_v=supply.fresh_v,
            kind="old",
            detail=f"{supply.fresh_v:.2f} new, {supply.empty_v:.2f} spent",
        )
    ]
    if not chain.has_cell:
        return bands
    low_v = max(chain.cuts.values())
    detail = f"{chain.full_v:.2f} full, {low_v:.2f} empty"
    bands.append(RulerBand(label="lithium cell", low_v=low_v, high_v=chain.full_v, kind="lithium", detail=detail))
    if chain.runs:
        low_v, high_v = chain.gadget_v_min, chain.gadget_v_max
        detail = f"{high_v:.2f} to {low_v:.2f}"
        bands.append(RulerBand(label="at the gadget", low_v=low_v, high_v=high_v, kind="gadget", detail=detail))
    return bands


def _cell(chain: Chain) -> CellSummary:
    return CellSummary(
        capacity_ah=chain.capacity_ah,
        r_ohm=float(np.asarray(chain.group.r_ohm)),
        density_wh_per_l=energy_density_wh_per_l(chain.cell),
        credible_capacity_ah=credible_capacity_ah(chain.cell),
        c_rate=chain.spread.nominal_a / chain.capacity_ah if chain.chargers else None,
    )


def _charge(chain: Chain) -> ChargeSummary:
    run, spread = chain.charge_run, chain.spread
    hours = float(run.hours.flat[0])
    ends = bool(np.isfinite(hours))
    return ChargeSummary(
        r_program_ohm=chain.r_program_ohm,
        r_origin=chain.r_origin,
        current_a=spread.nominal_a,
        current_least_a=spread.least_a,
        current_most_a=spread.most_a,
        hours=hours if ends else None,
        hours_least=hours * CHARGE_TIME_BAND[0] if ends else None,
        hours_most=hours * CHARGE_TIME_BAND[1] if ends else None,
        cc_share=float(run.cc_share.flat[0]),
        cc_charge_share=float(run.cc_charge_share.flat[0]),
        terminates=ends,
        end_current_a=chain.end_current_a,
        heat_w=heat.charger_heat_w(chain.build.source.volts, float(chain.curve.at(0.05)), spread.nominal_a),
        fitted=_look(chain, chain.r_marked_ohm),
        suggested=_look(chain, chain.suggested_r_ohm),
        choices=tuple(_choice(chain, r_ohm) for r_ohm in resistors.preferred_between(*_picture_range(chain))),
        limits=tuple(LimitLine(name=x.name, label=x.label, current_a=x.current_a) for x in chain.limits),
        curve=_charge_curve(chain),
    )


def _picture_range(chain: Chain) -> tuple[float, float]:
    """The usual range, widened so that the fitted and the suggested resistor are always inside."""
    shown = (chain.r_program_ohm, chain.suggested_r_ohm)
    return min(PICTURE_OHMS[0], *shown), max(PICTURE_OHMS[1], *shown)


def _choice(chain: Chain, r_ohm: float) -> ResistorChoice:
    spread = chain.spread_at(r_ohm)
    return ResistorChoice(
        r_ohm=r_ohm,
        current_a=spread.nominal_a,
        least_a=spread.least_a,
        most_a=spread.most_a,
        within=spread.most_a <= chain.target_a * 1.001,
    )


def _look(chain: Chain, r_ohm: float) -> ResistorLook:
    return ResistorLook(
        r_ohm=r_ohm,
        text=ohms(r_ohm),
        rkm=resistors.rkm_code(r_ohm),
        chip_code=resistors.chip_code(r_ohm),
        chip_code_4=resistors.chip_code(r_ohm, 3),
        eia96=resistors.eia96_code(r_ohm),
        bands=tuple(resistors.colour_bands(r_ohm, chain.build.r_tolerance)),
    )


def _charge_curve(chain: Chain) -> ChargeCurve:
    run = chain.charge_run
    kept = _distinct(run.time_h)
    return ChargeCurve(
        hours=_column(run.time_h, kept), cell_v=_column(run.cell_v, kept), charger_a=_column(run.charger_a, kept)
    )


def _run(chain: Chain) -> RunSummary:
    return RunSummary(
        modes=tuple(_mode(chain, run) for run in chain.runs),
        days=chain.days,
        standby_days=chain.standby_days,
        standby_a=chain.standby_a,
    )


def _mode(chain: Chain, run: ModeRun) -> ModeSummary:
    return ModeSummary(
        name=run.mode.name,
        hours=run.hours,
        stopped_by=run.run.stopped_by,
        charge_ah=run.charge_ah,
        stranded=run.stranded,
        original_hours=chain.original_hours(run.mode),
        gadget_v_end=float(np.nan_to_num(run.run.gadget_v[..., -1].flat[0])),
        curve=_run_curve(run),
    )


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


def _gadget_v(chain: Chain) -> GadgetVolts:
    return GadgetVolts(max=chain.gadget_v_max, min=chain.gadget_v_min)
