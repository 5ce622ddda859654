"""Every regulator of a library tried in one build: what the gadget would see, how long it would run, and the verdict."""

from collections.abc import Iterable, Mapping

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.finding import GRAVITY, Finding, Level, worst
from pocketspark.core.models import Board, Project
from pocketspark.core.models.board import RegulatorKind
from pocketspark.core.models.model import Model
from pocketspark.core.physics.regulators import efficiency_at
from pocketspark.core.rules import findings_of
from pocketspark.core.units.quantity import days, hours, volts

# Points of the small curve, from full to empty.
CURVE_POINTS = 24
STRAIGHT = "none, straight through"
# What a regulator can mend or spoil; the other findings stay the same whichever is chosen.
ABOUT_REGULATORS = (
    "cell.over_discharge_rating",
    "power.protection_trips_early",
    "power.off_drain",
    "power.over_window",
    "power.auto_off",
    "power.peak_at_empty",
    "power.regulator_overloaded",
    "power.stress_converter",
    "power.stress_heater",
    "power.stress_lamp",
    "power.stress_led",
    "power.stress_motor",
    "power.stress_regulator",
    "power.under_window",
)


# How much of its run time counts for each kind when they are ranked (our judgement, no source).
PLAINNESS: Mapping[RegulatorKind, float] = {
    "none": 1.0,
    "diode": 0.95,
    "ldo": 0.9,
    "buck": 0.75,
    "boost": 0.75,
    "buck_boost": 0.75,
}


class RegulatorOption(Model):
    """One regulator in this build. `curve` is gadget volts at evenly spread charge left, from full to empty."""

    name: str
    level: Level
    reason: str
    run_hours: float | None
    days: float | None
    standby_days: float
    gadget_v_max: float
    gadget_v_min: float
    unused: float
    heat_w: float  # burnt in the regulator with a full cell, in the heaviest mode
    efficiency: float | None  # in the heaviest mode at half charge; None where it has none worth the name
    price: float | None
    curve: tuple[float, ...]


def regulator_options(project: Project, build: int, boards: Iterable[Board]) -> list[RegulatorOption]:
    """Straight through and each board, best first: gravest verdict last, then by how long it runs.

    A regulator has to earn its place: what is one more part to fit, and may hum, must run longer to come first.
    """
    tried = [(board, _option(project, build, board)) for board in (None, *boards)]
    return [option for _, option in sorted(tried, key=lambda pair: _rank(*pair))]


def _rank(board: Board | None, option: RegulatorOption) -> tuple[int, float]:
    kind = board.regulator.kind if board and board.regulator else "none"
    return GRAVITY[option.level], -(option.days or option.run_hours or 0.0) * PLAINNESS[kind]


def _option(project: Project, build: int, board: Board | None) -> RegulatorOption:
    chain = Chain(_with_regulator(project, build, board), build)
    findings = findings_of(chain, ABOUT_REGULATORS)
    most_used = chain.most_used
    level = worst(findings)
    return RegulatorOption(
        name=board.name if board else STRAIGHT,
        level=level,
        reason=_reason(chain, findings, most_used.hours if most_used else None),
        run_hours=most_used.hours if most_used else None,
        days=chain.days,
        standby_days=chain.standby_days,
        gadget_v_max=chain.gadget_v_max,
        gadget_v_min=chain.gadget_v_min,
        unused=max((run.unused for run in chain.runs), default=0.0),
        heat_w=_heat_w(chain),
        efficiency=_efficiency(chain),
        price=board.price if board else None,
        curve=_curve(chain),
    )


def _with_regulator(project: Project, build: int, board: Board | None) -> Project:
    """The build with this regulator instead of whatever regulator-only board it has."""
    old = project.builds[build]
    brings_charger = board is not None and board.charger is not None
    others = [b for b in old.boards if _stays(b) and not (brings_charger and b.charger)]
    chosen = old.model_copy(update={"boards": (*others, *([board] if board else [])), "regulator": None})
    return project.model_copy(update={"builds": (*project.builds[:build], chosen, *project.builds[build + 1 :])})


def _stays(board: Board) -> bool:
    """A board with nothing on it but a regulator makes way for another; a combined one stays."""
    return not board.regulator or board.charger is not None or board.protection is not None


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
    if not chain.runs or chain.regulator.kind == "none":
        return 0.0
    load = max(chain.runs, key=lambda run: run.mode.current_a).load
    point = chain.regulator_law.operating_point(chain.full_v, chain.all_ohm, load)
    cell_a, gadget_v = float(point.cell_a), float(point.gadget_v)
    heat = (chain.full_v - chain.all_ohm * cell_a) * cell_a - gadget_v * float(load.current(gadget_v))
    return max(heat, 0.0) if np.isfinite(heat) else 0.0


def _efficiency(chain: Chain) -> float | None:
    if chain.regulator.kind == "none" or not chain.gadget.modes:
        return None
    return efficiency_at(chain.regulator, float(chain.curve.at(0.5)), chain.heaviest.current_a)


def _curve(chain: Chain) -> tuple[float, ...]:
    if not chain.runs:
        return ()
    load = max(chain.runs, key=lambda run: run.mode.current_a).load
    ocv_v = chain.curve.at(np.linspace(1, 0, CURVE_POINTS))
    gadget_v = chain.regulator_law.operating_point(ocv_v, chain.all_ohm, load).gadget_v
    return tuple(np.nan_to_num(np.broadcast_to(gadget_v, ocv_v.shape)).round(3).tolist())
