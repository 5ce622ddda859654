"""Every regulator of a library tried in one build: what the gadget would see, its run time, and the verdict."""

from collections.abc import Iterable

import numpy as np

from pocketspark.core.chain import Chain, Running
from pocketspark.core.finding import GRAVITY, Finding, Level, worst
from pocketspark.core.kinds.regulators import efficiency_at, kind_of
from pocketspark.core.message import Label, Message, say
from pocketspark.core.models import Board, Gadget, Project, Regulator
from pocketspark.core.models.model import Model
from pocketspark.core.rules import findings_of
from pocketspark.core.units.figures import ShownDays, ShownHours, ShownShare, ShownVolts, ShownWatts, days, hours, volts

# Points of the small curve, from full to empty.
CURVE_POINTS = 24
STRAIGHT = "none: straight from the cell"
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


class RegulatorOption(Model):
    """One regulator in this build. `curve` is gadget volts at evenly spread charge left, from full to empty."""

    name: str
    called: Label  # the same, to whoever reads
    level: Level
    reason: Message
    run_hours: ShownHours | None
    service_hours: ShownHours | None = None  # those in which the gadget does its job
    days: ShownDays | None
    served_days: ShownDays | None = None  # likewise
    standby_days: ShownDays
    gadget_v_max: ShownVolts
    gadget_v_min: ShownVolts
    unused: ShownShare
    heat_w: ShownWatts  # burnt in the regulator with a full cell, in the heaviest mode
    efficiency: ShownShare | None  # in the heaviest mode at half charge; None where it has none worth the name
    price: float | None
    curve: tuple[float, ...]
    light: tuple[float, ...]  # share of its design light at the same points; empty where nothing glows
    light_half: ShownShare | None  # of it, at half charge
    makes_sense: bool = False  # the best of its kind, and nothing stops it


def suits(board: Board, gadget: Gadget) -> bool:
    """Whether it has a regulator that is made for such a gadget: drivers that hold a current are for LEDs alone."""
    regulator = board.regulator
    return regulator is not None and (regulator.i_set_a is None or gadget.front_end == "led_resistor")


def regulator_options(project: Project, build: int, boards: Iterable[Board]) -> list[RegulatorOption]:
    """Straight through and each board, best first: gravest verdict last, then by how long it runs.

    A regulator has to earn its place: what is one more part to fit, and may hum, must serve longer to come first. Hours
    of too little light, speed, heat or sound are none, as everywhere.
    """
    tried = [(board, _option(project, build, board)) for board in (None, *boards)]
    best_first = sorted(tried, key=lambda pair: _rank(*pair))
    sensible = set(_sensible(best_first))
    return [option.model_copy(update={"makes_sense": option.name in sensible}) for _, option in best_first]


# Ways that are shown before the table of all.
FEW = 3


def _sensible(best_first: Iterable[tuple[Board | None, RegulatorOption]]) -> list[str]:
    """Of each kind the best that nothing stops and that serves for something, the first few of them."""
    by_kind: dict[str, str] = {}
    for board, option in best_first:
        kind = board.regulator.kind if board and board.regulator else "none"
        served = option.served_days if option.served_days is not None else option.service_hours
        if option.level != "stop" and served:
            by_kind.setdefault(kind, option.name)
    return list(by_kind.values())[:FEW]


def _rank(board: Board | None, option: RegulatorOption) -> tuple[int, bool, float]:
    kind = kind_of(board.regulator if board and board.regulator else Regulator())
    served = option.served_days if option.served_days is not None else option.service_hours
    return GRAVITY[option.level], not served, -(served or 0.0) * kind.plainness


def _option(project: Project, build: int, board: Board | None) -> RegulatorOption:
    # What would help against a verdict is not asked here.
    chain = Chain(_with_regulator(project, build, board), build, advises=False)
    running = chain.required_running()
    findings = findings_of(chain, ABOUT_REGULATORS)
    most_used = running.most_used
    level = worst(finding.level for finding in findings)
    curve = _curve(running)
    light = tuple(round(share, 3) for volts_ in curve if (share := running.light_at(volts_)) is not None)
    return RegulatorOption(
        name=board.name if board else STRAIGHT,
        called=board.name if board else STRAIGHT,
        level=level,
        reason=_reason(running, findings, most_used.service_hours if most_used else None),
        run_hours=most_used.hours if most_used else None,
        service_hours=most_used.service_hours if most_used else None,
        days=running.days,
        served_days=running.served_days,
        standby_days=running.standby_days,
        gadget_v_max=running.gadget_v_max,
        gadget_v_min=running.gadget_v_min,
        unused=max((run.unused for run in running.runs), default=0.0),
        heat_w=_heat_w(running),
        efficiency=_efficiency(running),
        price=board.price if board else None,
        curve=curve,
        light=light,
        light_half=light[len(light) // 2] if light else None,
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


def _reason(running: Running, findings: list[Finding], run_hours: float | None) -> Message:
    """What decides, in one sentence."""
    gravest = next((finding for finding in findings if finding.level in ("stop", "caution")), None)
    if gravest:
        return gravest.headline
    span = {"most": volts(running.gadget_v_max), "least": volts(running.gadget_v_min)}
    if running.served_days:
        return say("The gadget gets {most} to {least}, for {days} as used.", days=days(running.served_days), **span)
    if run_hours:
        return say("The gadget gets {most} to {least}, for {hours}.", hours=hours(run_hours), **span)
    return say("The gadget gets {most} to {least}.", **span)


def _heat_w(running: Running) -> float:
    """What goes in at a full cell less what reaches the gadget."""
    heaviest, chosen = running.heaviest_run, running.chosen
    if heaviest is None or running.chain.regulator.kind == "none":
        return 0.0
    load = heaviest.load
    point = running.chosen.regulator_law.operating_point(chosen.full_v, chosen.all_ohm, load)
    cell_a, gadget_v = float(point.cell_a), float(point.gadget_v)
    heat = (chosen.full_v - chosen.all_ohm * cell_a) * cell_a - gadget_v * float(load.current(gadget_v))
    return max(heat, 0.0) if np.isfinite(heat) else 0.0


def _efficiency(running: Running) -> float | None:
    regulator, heaviest = running.chain.regulator, running.chain.heaviest
    if regulator.kind == "none" or heaviest is None:
        return None
    return efficiency_at(regulator, float(running.chosen.curve.at(0.5)), heaviest.current_a)


def _curve(running: Running) -> tuple[float, ...]:
    if running.heaviest_run is None:
        return ()
    ocv_v = running.chosen.curve.at(np.linspace(1, 0, CURVE_POINTS))
    point = running.chosen.regulator_law.operating_point(
        ocv_v, running.chosen.all_ohm_at(ocv_v), running.heaviest_run.load
    )
    gadget_v = point.gadget_v
    return tuple(np.nan_to_num(np.broadcast_to(gadget_v, ocv_v.shape)).round(3).tolist())
