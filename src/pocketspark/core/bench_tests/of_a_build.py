"""Which checkpoints of a build a supply and a load can answer, and how: one entry is one test.

A bench supply in the place of the cell, or of the port, is common practice: nothing can be harmed that its current
limit does not let through.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass

import numpy as np

from pocketspark.core.bench_tests.course import Course, DeviceSetting, Readings, TestReading, at_end_of
from pocketspark.core.chain import BoardCharging, Chain
from pocketspark.core.limits import FIVE_V
from pocketspark.core.load_laws.supply_sweep import SupplyLimits
from pocketspark.core.message import Message, say
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.physics.load import Load, or_zero
from pocketspark.core.steps.before import BENCH_V
from pocketspark.core.units.figures import amps, volts

# Over the most that is expected a supply gives so much more, and no supply is set under this.
SPARE, LEAST_A = 1.3, 0.05
OVER_V, BEFORE_END_V = 0.3, 0.1
# What a port and its cable may leave, and what a charger is made for.
PORT_V = (4.5, 4.75, 5.0, 5.25)
# A ramp goes from under the least trip to over the most, in steps of so much; open, a protection leaves no more.
RAMP_FROM, RAMP_TO, RAMP_STEP, OPEN_V = 0.6, 1.4, 1.025, 1.0
# The end of a charge: so near its end current, a chip's own included, in so many readings.
ENDED_TIMES, CHIP_A, ENDED_READINGS, ENDS_AFTER_S = 1.2, 0.003, 3, 60.0
LONGEST_S = 12 * 3600.0


class BuildTest(Model):
    """One test as it is offered at a checkpoint. `connect`: what is on which terminals; `lasts_s`: at most."""

    key: str
    title: Message
    connect: Message
    lasts_s: float


class TestTold(Model):
    """What a test has told. `value`: the reading of its checkpoint, in its base unit; None: it did not come to that."""

    __test__ = False

    value: float | None
    says: Message
    edits: tuple[Edit, ...] = ()


@dataclass(frozen=True)
class TestKind:
    """`step`: the checkpoint whose reading it takes, in `unit`. `course`: None where this build has nothing for it."""

    __test__ = False

    step: str
    title: Message
    connect: Message
    course: Callable[[Chain], Course | None]
    concludes: Callable[[Chain, Readings], TestTold]
    unit: str = "V"


def tests_of(chain: Chain, step: str) -> Iterator[BuildTest]:
    """Those that answer this checkpoint of this build. Raises MissingPart."""
    for key, kind in KINDS.items():
        course = kind.course(chain) if kind.step == step else None
        if course:
            lasts_s = sum(setting.lasts_s for setting in course.settings)
            yield BuildTest(key=key, title=kind.title, connect=kind.connect, lasts_s=lasts_s)


# The regulator -----------------------------------------------------------------------------------------------------

_AS_SET = DeviceSetting(BENCH_V)


def _regulator_course(chain: Chain) -> Course | None:
    if not chain.regulators:
        return None
    return Course((_AS_SET,), SupplyLimits(BENCH_V + OVER_V, 0.2), 0.0, _most_v(chain))


def _regulator_told(_chain: Chain, readings: Readings) -> TestTold:
    read = at_end_of(readings, _AS_SET)
    if read is None:
        return _nothing()
    return TestTold(value=read.load_v, says=say("It gives {volts}.", volts=volts(read.load_v)))


# The whole way to the gadget -----------------------------------------------------------------------------------------


def _output_settings(chain: Chain) -> list[DeviceSetting]:
    """Full, usual and nearly empty, each with nothing, the heaviest mode and the highest peak."""
    running, modes = chain.required_running(), chain.gadget.modes
    chosen = running.chosen
    run = running.heaviest_run
    ends_v = float(run.run.cell_v.flat[-1]) if run else max(float(np.max(cut)) for cut in chosen.cuts.values())
    # A little before the run ends: there it stops, as planned.
    empty_v = ends_v + BEFORE_END_V
    heaviest = chain.heaviest.current_a if chain.heaviest else 0.0
    drawn = sorted({0.0, heaviest, max((mode.most_a for mode in modes), default=0.0)})
    return [DeviceSetting(round(at_v, 2), amps_) for at_v in (chosen.full_v, BENCH_V, empty_v) for amps_ in drawn]


def _output_course(chain: Chain) -> Course | None:
    if chain.heaviest is None:
        return None
    settings = _output_settings(chain)
    law, path_ohm = chain.required_running().chosen.regulator_law, chain.required_running().chosen.path_ohm
    drawn = [or_zero(law.operating_point(one.supply_v, path_ohm, Load(steady_a=one.load_a)).cell_a) for one in settings]
    most_v = max(one.supply_v for one in settings)
    limits = SupplyLimits(most_v + OVER_V, round(max(SPARE * float(np.max(drawn)), LEAST_A), 3))
    return Course(tuple(settings), limits, max(one.load_a for one in settings), _most_v(chain))


def _output_told(chain: Chain, readings: Readings) -> TestTold:
    heaviest = chain.heaviest.current_a if chain.heaviest else 0.0
    read = at_end_of(readings, DeviceSetting(BENCH_V, heaviest))
    ends = [one for setting in _output_settings(chain) if (one := at_end_of(readings, setting))]
    if read is None or not ends:
        return _nothing()
    low, high, window = min(ends, key=_seen), max(ends, key=_seen), chain.window
    figures = {
        "low": volts(low.load_v),
        "low_a": amps(low.setting.load_a),
        "low_from": volts(low.setting.supply_v),
        "high": volts(high.load_v),
    }
    if low.load_v < window.v_run_min:
        says = say(
            "Too low: {low} with {low_a} from {low_from}; the gadget needs {needs}.",
            needs=volts(window.v_run_min),
            **figures,
        )
    elif high.load_v > window.v_abs_max:
        says = say("Too high: {high}, where the gadget takes {most}.", most=volts(window.v_abs_max), **figures)
    else:
        says = say("From {low} with {low_a} up to {high}: inside the window everywhere.", **figures)
    return TestTold(value=read.load_v, says=says)


def _seen(reading: TestReading) -> float:
    return reading.load_v


# The protection ------------------------------------------------------------------------------------------------------


def _ramp(chain: Chain) -> list[DeviceSetting]:
    protection = next((board.protection for board in chain.build.boards if board.protection), None)
    if protection is None:
        return []
    low_a = protection.trip_current_a * (1 - protection.trip_tolerance) * RAMP_FROM
    high_a = protection.trip_current_a * (1 + protection.trip_tolerance) * RAMP_TO
    count = int(np.ceil(np.log(high_a / low_a) / np.log(RAMP_STEP))) + 1
    return [DeviceSetting(BENCH_V, round(float(one), 3), 0.3) for one in np.geomspace(low_a, high_a, count)]


def _trip_course(chain: Chain) -> Course | None:
    ramp = _ramp(chain)
    if not ramp:
        return None
    most_a = ramp[-1].load_a
    return Course(
        tuple(ramp),
        SupplyLimits(BENCH_V + OVER_V, round(SPARE * most_a, 2)),
        most_a,
        BENCH_V + OVER_V,
        ends=lambda readings: bool(readings) and readings[-1].load_v < OPEN_V,
    )


def _trip_told(chain: Chain, readings: Readings) -> TestTold:
    at = next((n for n, board in enumerate(chain.build.boards) if board.protection), None)
    protection = chain.build.boards[at].protection if at is not None else None
    if at is None or protection is None or not readings:
        return _nothing()
    opened = next((one for one in readings if one.load_v < OPEN_V), None)
    if opened is None:
        most = amps(readings[-1].setting.load_a)
        says = say("It did not open up to {most}: it protects nothing. Take it off.", most=most)
        return TestTold(value=None, says=says)
    held = [one.setting.load_a for one in readings if one.load_v >= OPEN_V]
    trip_a = float(np.sqrt(opened.setting.load_a * (held[-1] if held else opened.setting.load_a)))
    planned_a, share = protection.trip_current_a, protection.trip_tolerance
    inside = planned_a * (1 - share) <= trip_a <= planned_a * (1 + share)
    figures = {"trip": amps(trip_a), "low": amps(planned_a * (1 - share)), "high": amps(planned_a * (1 + share))}
    says = (
        say("It opens at {trip}, within {low} to {high}.", **figures)
        if inside
        else say("It opens at {trip}; {low} to {high} was planned. Put what it does into the plan.", **figures)
    )
    v_trip = float(f"{trip_a * 2 * protection.r_on_ohm:.3g}")
    edits = (
        Edit(path=f"{chain.path}.boards.{at}.protection.v_trip", value=v_trip),
        Edit(path=f"{chain.path}.boards.{at}.protection.trip_tolerance", value=0.05),
    )
    return TestTold(value=None, says=says, edits=edits)


# Charging ------------------------------------------------------------------------------------------------------------


def _current_settings(chain: Chain) -> list[DeviceSetting]:
    most_v = min(chain.required_charging().charger.v_in_max, FIVE_V[1])
    return [DeviceSetting(at_v) for at_v in PORT_V if at_v <= most_v]


def _current_course(chain: Chain) -> Course | None:
    charging = chain.charging
    if not isinstance(charging, BoardCharging) or charging.charger.float_v > min(PORT_V):
        return None
    settings = _current_settings(chain)
    limits = SupplyLimits(settings[-1].supply_v + OVER_V, _most_charge_a(charging))
    return Course(tuple(settings), limits, 0.0, charging.charger.float_v + OVER_V)


def _most_charge_a(charging: BoardCharging) -> float:
    return round(max(SPARE * charging.current.spread.most_a, LEAST_A), 3)


def _current_told(_chain: Chain, readings: Readings) -> TestTold:
    ends = [one for at_v in PORT_V if (one := at_end_of(readings, DeviceSetting(at_v)))]
    read = next((one for one in ends if one.setting.supply_v == 5.0), None)
    if read is None:
        return _nothing()
    least = min(ends, key=lambda one: one.supply_a)
    says = say(
        "{current} at {volts}; {least} at {least_v}.",
        current=amps(read.supply_a),
        volts=volts(5.0),
        least=amps(least.supply_a),
        least_v=volts(least.setting.supply_v),
    )
    return TestTold(value=read.supply_a, says=says)


_UNTIL_FULL = DeviceSetting(5.0, 0.0, LONGEST_S)


def _end_course(chain: Chain) -> Course | None:
    charging = chain.charging
    if not isinstance(charging, BoardCharging):
        return None
    ended_a = ENDED_TIMES * charging.current.termination_a + CHIP_A

    def ends(readings: Readings) -> bool:
        last = readings[-ENDED_READINGS:]
        return (
            len(last) == ENDED_READINGS
            and last[-1].time_s > ENDS_AFTER_S
            and all(one.supply_a < ended_a for one in last)
        )

    limits = SupplyLimits(_UNTIL_FULL.supply_v + OVER_V, _most_charge_a(charging))
    return Course((_UNTIL_FULL,), limits, 0.0, charging.charger.float_v + OVER_V, ends)


def _end_told(_chain: Chain, readings: Readings) -> TestTold:
    if not readings:
        return _nothing()
    last = readings[-1]
    says = say("It ended at {volts}, with {amps} still flowing.", volts=volts(last.load_v), amps=amps(last.supply_a))
    return TestTold(value=last.load_v, says=says)


def _nothing() -> TestTold:
    return TestTold(value=None, says=say("It did not come to a reading."))


def _most_v(chain: Chain) -> float:
    """What a load may see at the gadget's terminals; more is a wrong lead, or an instrument that lies."""
    running = chain.required_running()
    return max(running.gadget_v_max, running.chosen.full_v, chain.window.v_abs_max) + 1.0


KINDS: Mapping[str, TestKind] = {
    "regulator": TestKind(
        "regulator",
        say("The regulator alone"),
        say("Supply at its input, the load's leads at its output: they only read."),
        _regulator_course,
        _regulator_told,
    ),
    "output": TestKind(
        "output",
        say("Full to empty, idle to its peak"),
        say("Cell off, gadget off. Supply in the place of the cell, plus to plus; load at the gadget's terminals."),
        _output_course,
        _output_told,
    ),
    "protection": TestKind(
        "board_alone",
        say("Where the protection opens"),
        say("No cell. Supply at the board's B pads, plus to plus; load at its OUT pads, before any regulator."),
        _trip_course,
        _trip_told,
    ),
    "charge_current": TestKind(
        "first_charge",
        say("Charge current over the volts of the port"),
        say("Cell on, about half full. Supply at the board's 5 V pads; the load's leads at the cell: they only read."),
        _current_course,
        _current_told,
        unit="A",
    ),
    "end_of_charge": TestKind(
        "full",
        say("Until the charge ends"),
        say("Supply at the board's 5 V pads; the load's leads at the cell: they only read. Somebody stays near."),
        _end_course,
        _end_told,
    ),
}
