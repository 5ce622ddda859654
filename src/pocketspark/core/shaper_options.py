"""Every shaper of a library tried in one build: what the gadget would see, how long it would run, and the verdict."""

from collections.abc import Iterable, Mapping

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.finding import GRAVITY, Finding, Level, worst
from pocketspark.core.nouns import Board, Project
from pocketspark.core.nouns.board import ShaperKind
from pocketspark.core.nouns.noun import Noun
from pocketspark.core.physics.shaping import efficiency_at
from pocketspark.core.quantity import days, hours, volts
from pocketspark.core.rules import findings_of

# Points of the small curve, from full to empty.
CURVE_POINTS = 24
STRAIGHT = "none, straight through"
# What a shaper can mend or spoil; the other findings stay the same whichever is chosen.
ABOUT_SHAPERS = (
    "cell.over_discharge_rating",
    "power.guard_trips_early",
    "power.off_drain",
    "power.over_window",
    "power.cut_out",
    "power.peak_at_empty",
    "power.shaper_overloaded",
    "power.stress_converter",
    "power.stress_heater",
    "power.stress_lamp",
    "power.stress_led",
    "power.stress_motor",
    "power.stress_regulator",
    "power.under_window",
)


# How much of its run time counts for each kind when they are ranked (our judgement, no source).
PLAINNESS: Mapping[ShaperKind, float] = {
    "none": 1.0,
    "diode": 0.95,
    "ldo": 0.9,
    "buck": 0.75,
    "boost": 0.75,
    "buck_boost": 0.75,
}


class ShaperOption(Noun):
    """One shaper in this build. `curve` is gadget volts at evenly spread charge left, from full to empty."""

    name: str
    level: Level
    reason: str
    run_hours: float | None
    days: float | None
    standby_days: float
    gadget_v_max: float
    gadget_v_min: float
    stranded: float
    heat_w: float  # burnt in the shaper with a full cell, in the heaviest mode
    efficiency: float | None  # in the heaviest mode at half charge; None where it has none worth the name
    price: float | None
    curve: tuple[float, ...]


def shaper_options(project: Project, build: int, boards: Iterable[Board]) -> list[ShaperOption]:
    """Straight through and each board, best first: gravest verdict last, then by how long it runs.

    A shaper has to earn its place: what is one more part to fit, and may hum, must run longer to come first.
    """
    tried = [(board, _option(project, build, board)) for board in (None, *boards)]
    return [option for _, option in sorted(tried, key=lambda pair: _rank(*pair))]


def _rank(board: Board | None, option: ShaperOption) -> tuple[int, float]:
    kind = board.shaper.kind if board and board.shaper else "none"
    return GRAVITY[option.level], -(option.days or option.run_hours or 0.0) * PLAINNESS[kind]


def _option(project: Project, build: int, board: Board | None) -> ShaperOption:
    chain = Chain(_with_shaper(project, build, board), build)
    findings = findings_of(chain, ABOUT_SHAPERS)
    most_used = chain.most_used
    level = worst(findings)
    return ShaperOption(
        name=board.name if board else STRAIGHT,
        level=level,
        reason=_reason(chain, findings, most_used.hours if most_used else None),
        run_hours=most_used.hours if most_used else None,
        days=chain.days,
        standby_days=chain.standby_days,
        gadget_v_max=chain.gadget_v_max,
        gadget_v_min=chain.gadget_v_min,
        stranded=max((run.stranded for run in chain.runs), default=0.0),
        heat_w=_heat_w(chain),
        efficiency=_efficiency(chain),
        price=board.price if board else None,
        curve=_curve(chain),
    )


def _with_shaper(project: Project, build: int, board: Board | None) -> Project:
    """The build with this shaper instead of whatever shaper-only board it has."""
    old = project.builds[build]
    brings_charger = board is not None and board.charger is not None
    others = [b for b in old.boards if _stays(b) and not (brings_charger and b.charger)]
    chosen = old.model_copy(update={"boards": (*others, *([board] if board else [])), "shaper": None})
    return project.model_copy(update={"builds": (*project.builds[:build], chosen, *project.builds[build + 1 :])})


def _stays(board: Board) -> bool:
    """A board with nothing on it but a shaper makes way for another; a combined one stays."""
    return not board.shaper or board.charger is not None or board.guard is not None


def _reason(chain: Chain, findings: list[Finding], run_hours: float | None) -> str:
    """What decides, in one sentence."""
    gravest = next((finding for finding in findings if finding.level in ("stop", "caution")), None)
    if gravest:
        return gravest.headline
    span = f"{volts(chain.gadget_v_max)} to {volts(chain.gadget_v_min)} at the gadget"
    lasts = f"; {days(chain.days)} as used" if chain.days else f"; {hours(run_hours)}" if run_hours else ""
    return span + lasts


def _heat_w(chain: Chain) -> float:
    """What goes in at a full cell less what reaches the gadget."""
    if not chain.runs or chain.shaper.kind == "none":
        return 0.0
    load = max(chain.runs, key=lambda run: run.mode.current_a).load
    settled = chain.shaping.settle(chain.full_v, chain.all_ohm, load)
    cell_a, gadget_v = float(settled.cell_a), float(settled.gadget_v)
    heat = (chain.full_v - chain.all_ohm * cell_a) * cell_a - gadget_v * float(load.current(gadget_v))
    return max(heat, 0.0) if np.isfinite(heat) else 0.0


def _efficiency(chain: Chain) -> float | None:
    if chain.shaper.kind == "none" or not chain.gadget.modes:
        return None
    return efficiency_at(chain.shaper, float(chain.curve.at(0.5)), chain.heaviest.current_a)


def _curve(chain: Chain) -> tuple[float, ...]:
    if not chain.runs:
        return ()
    load = max(chain.runs, key=lambda run: run.mode.current_a).load
    emf = chain.curve.at(np.linspace(1, 0, CURVE_POINTS))
    gadget_v = chain.shaping.settle(emf, chain.all_ohm, load).gadget_v
    return tuple(np.nan_to_num(np.broadcast_to(gadget_v, emf.shape)).round(3).tolist())
