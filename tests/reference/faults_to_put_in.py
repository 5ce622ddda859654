"""Faults that are put into sound builds, each by its physical meaning: a part that is rated for too little, and a
change of the build that asks too much of its parts.

A kind of fault says what of the simulator's states decides it, in its own unit, and where the document says what the
part can take. Whether it is passed the simulator says, and no figure of the core's; where parts are described by other
figures (a protection by the volts at its transistors), those of the part are used as they are described.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.core.physics.heat import surroundings_of

CELL, BOARD, WINDOW = "builds.0.cell", "builds.0.boards.0", "gadget.window"


@dataclass(frozen=True)
class Kind:
    """`measured`: the most that is asked of the part, or None where this build has no such part; with `least`, what it
    gets at most. `codes`: whose finding tells it, at this level or a graver one. `margin`: what an expert asks besides.
    """

    name: str
    codes: tuple[str, ...]
    level: str
    measured: Callable
    limited: Callable  # project, limit: the same with a part that can take this
    least: bool = False
    margin: float = 1.0


def at(path):
    return lambda project, limit: project.with_value(path, limit)


def most(what, *, peaks=True, fed=None):
    """The most of this over the states; `fed`: in these alone."""

    def measured(chain, states):
        seen = [
            what(chain, state)
            for state in states
            if (peaks or state.use != "peak") and (fed is None or state.fed in fed)
        ]
        return max((one for one in seen if not math.isnan(one)), default=None)

    return measured


# What is asked of a part ------------------------------------------------------------------------------------------


def _of_one_cell(chain, state):
    return state.cell_a / chain.build.cell_count


def _charging(chain, states):
    """With the gadget off, where it takes nothing of it."""
    seen = [-state.cell_a for state in states if state.plugged_in and state.use == "asleep"]
    return max(seen, default=0.0) / chain.build.cell_count or None


def _trip(project, limit):
    protection = Chain(project, 0).first_to_trip
    return project.with_value(f"{BOARD}.protection.v_trip", protection.v_trip * limit / protection.trip_least_a)


def _whole_charge(chain, states):
    each = _charging(chain, states)
    return each and each * chain.build.cell_count


def _switch(chain, states):
    """Of the change-over switch, one before the regulator, or the gadget's own."""
    place, found = chain.build.switch_place, []
    if chain.build.use_while_charging == "change_over" or (place == "before_regulator" and chain.regulators):
        found.append(most(lambda _, state: state.before_regulator_a)(chain, states))
    if place == "gadget":
        found.append(most(lambda _, state: state.gadget_a)(chain, states))
    return max(found, default=None)


def _seen_by_the_gadget(chain, states):
    """Asleep too, unless nothing flows then: its own switch is open, and nothing gets behind it. What an old adapter
    has stored up reaches it as it is switched on."""
    asleep = chain.gadget.off_current_a and chain.gadget.off_path == "after_regulator"
    seen = (state for state in states if asleep or state.use != "asleep" or state.fed == "old adapter")
    return max((state.gadget_v for state in seen), default=None)


def _of_the_only(kinds, what):
    """Of the regulator that is on no board, where it is the only one and of these kinds."""

    def measured(chain, states):
        alone = len(chain.regulators) == 1 and chain.build.regulator
        return what(chain, states) if alone and alone.kind in kinds else None

    return measured


_REGULATED = ("ldo", "buck", "boost", "buck_boost")


def _burnt(_, states):
    """Watts in less watts out, in its mode."""
    seen = [
        state.before_regulator_v * state.before_regulator_a - state.gadget_v * state.gadget_a
        for state in states
        if state.use == "mode" and not math.isnan(state.before_regulator_v)
    ]
    return max(seen, default=None)


def _package(project, limit):
    """One that brings the junction to 125 C, where such parts shut down, with these watts."""
    shell = project.gadget.shell
    theta = (125 - shell.room_c) / limit - surroundings_of(shell).rise_c_per_w
    if theta < 10:
        raise ValueError("there is no such package")
    return project.with_value("builds.0.regulator.theta_ja_c_per_w", theta)


def _runs_up_to(chain, states):
    """The most that the gadget gets in its mode from the cell: needing more it never runs."""
    return most(lambda _, state: state.gadget_v if state.use == "mode" else math.nan, fed=("cell",))(chain, states)


def _converter_gets(chain, states):
    return most(lambda _, state: state.before_regulator_v if state.use == "mode" else math.nan, fed=("cell",))(
        chain, states
    )


def _end_of_charge(chain, states):
    """What the charger gives a full cell's circuit, as a share of what it is set to: its end current must be more."""
    if chain.build.use_while_charging != "on_cell":
        return None
    loads = [state.charger_a for state in states if state.plugged_in and state.use == "mode" and state.rest_v == 4.2]
    return loads[0] / chain.charging.current.spread.nominal_a if loads and loads[0] > 1e-3 else None


def _gets(front_end, of):
    """Of the volts that the gadget gets in its mode, in any state."""

    def measured(chain, states):
        if chain.gadget.front_end != front_end:
            return None
        seen = [state.gadget_v for state in states if state.use == "mode"]
        return of(chain, max(seen)) if seen and max(seen) > 0.5 else None

    return measured


def _set_to(_, states):
    seen = [state.charger_a for state in states if state.plugged_in]
    return max(seen, default=None)


KINDS = (
    Kind(
        "cell rated for less than is drawn",
        ("cell.over_discharge_rating",),
        "stop",
        most(_of_one_cell),
        at(f"{CELL}.discharge_max_a"),
    ),
    Kind("cell rated for less than charges it", ("charge.over_cell",), "stop", _charging, at(f"{CELL}.charge_max_a")),
    Kind(
        "protection trips at the peak",
        ("power.protection_trips_early",),
        "stop",
        most(lambda _, state: state.cell_a),
        _trip,
        margin=1.31,
    ),
    Kind("protection trips at charging", ("charge.protection_trips",), "stop", _whole_charge, _trip, margin=1.16),
    Kind(
        "fuse opens in use",
        ("wire.fuse_opens",),
        "caution",
        most(lambda _, state: abs(state.cell_a), peaks=False),
        at("builds.0.fuse_a"),
    ),
    Kind("switch wears", ("wire.switch_rating",), "caution", _switch, at("builds.0.switch_a")),
    Kind(
        "port gives less",
        ("charge.over_source",),
        "caution",
        most(lambda _, state: state.source_a, peaks=False, fed=("5 V",)),
        at("builds.0.source.limit_a"),
    ),
    Kind(
        "regulator's input over its most",
        ("power.regulator_overloaded",),
        "stop",
        _of_the_only((*_REGULATED, "diode"), most(lambda _, state: state.before_regulator_v)),
        at("builds.0.regulator.v_in_max"),
    ),
    Kind(
        "regulator gives less than is drawn",
        ("power.regulator_overloaded",),
        "stop",
        # The old adapter feeds the gadget past the regulator.
        _of_the_only((*_REGULATED, "diode"), most(lambda _, state: state.gadget_a, fed=("cell", "5 V"))),
        at("builds.0.regulator.rated_a"),
    ),
    Kind(
        "regulator too hot",
        ("power.regulator_hot",),
        "stop",
        _of_the_only((*_REGULATED, "diode"), _burnt),
        _package,
        margin=2.0,
    ),
    Kind(
        "switch of a step-up",
        ("power.regulator_switch",),
        "stop",
        _of_the_only(("boost",), most(lambda _, state: state.before_regulator_a)),
        at("builds.0.regulator.switch_a"),
    ),
    Kind(
        "converter never starts",
        ("power.regulator_starved",),
        "stop",
        _of_the_only(("buck", "boost", "buck_boost"), _converter_gets),
        at("builds.0.regulator.v_in_min"),
        least=True,
    ),
    Kind(
        "gadget gets more than it survives",
        ("power.over_window", "charge.shared_window", "survey.old_adapter_unclamped"),
        "stop",
        _seen_by_the_gadget,
        at(f"{WINDOW}.v_abs_max"),
    ),
    Kind("gadget never runs", ("power.under_window",), "stop", _runs_up_to, at(f"{WINDOW}.v_run_min"), least=True),
    Kind(
        "what is behind the terminals is rated for less",
        ("power.stress_regulator",),
        "stop",
        lambda chain, states: _seen_by_the_gadget(chain, states) if chain.gadget.front_end == "regulator" else None,
        at("gadget.behind.input_max_v"),
    ),
    Kind(
        "motor too fast",
        ("power.stress_motor",),
        "caution",
        _gets("motor", lambda _, volts: volts / 1.35),
        at("gadget.behind.design_v"),
    ),
    Kind(
        "heater too hot",
        ("power.stress_heater",),
        "caution",
        _gets("heater", lambda _, volts: volts / math.sqrt(1.4)),
        at("gadget.behind.design_v"),
    ),
    Kind(
        "lamp lives half as long",
        ("power.stress_lamp",),
        "caution",
        _gets("lamp", lambda _, volts: volts / 2 ** (1 / 13)),
        at("gadget.behind.design_v"),
    ),
    Kind(
        "LEDs run hot",
        ("power.stress_led",),
        "caution",
        _gets("led_resistor", lambda chain, volts: (volts - chain.gadget.led_forward_v) / 1.3 or None),
        lambda project, limit: project.with_value("gadget.behind.design_v", project.gadget.led_forward_v + limit),
    ),
    Kind("board set past its rating", ("charge.over_board",), "caution", _set_to, at(f"{BOARD}.charger.rated_a")),
    Kind(
        "charge never ends",
        ("charge.never_ends",),
        "caution",
        _end_of_charge,
        at(f"{BOARD}.charger.termination_share"),
    ),
)


# Changes of a whole build: each asks more, or other things, of the parts that it has -----------------------------


def _scaled(path, factor):
    def change(project):
        value = project
        for name in path.split("."):
            value = value[int(name)] if name.isdigit() else getattr(value, name)
        return project.with_value(path, value * factor)

    return change


def set_to(path, value):
    def change(project):
        document = project.model_dump(mode="json")
        place, names = document, path.split(".")
        for name in names[:-1]:
            place = place[int(name)] if isinstance(place, list) else place[name]
        place[names[-1]] = value
        return Project.model_validate(document)

    return change


def _both(*changes):
    def change(project):
        for one in changes:
            project = one(project)
        return project

    return change


def _step_up_before(project):
    size = {"outline_mm": [26, 17, 4.2]}
    board = {"name": "5 V step-up", "regulator": {"kind": "boost", "v_set": 5.0}} | size
    boards = [one.model_dump(mode="json") for one in project.builds[0].boards]
    return set_to("builds.0.boards", [*boards, board])(project)


_LOAD, _PEAK = "gadget.modes.0.current_a", "gadget.modes.0.peak_a"
JACK = {"kind": "dock", "treatment": "diode", "adapter_v": 7.5}
CHANGES = {
    "nothing": lambda project: project,
    "a peak of three times": _scaled(_PEAK, 3),
    "three times the load": _both(_scaled(_PEAK, 3), _scaled(_LOAD, 3)),
    "a third of the load": _both(_scaled(_LOAD, 1 / 3), _scaled(_PEAK, 1 / 3)),
    "one cell": set_to("builds.0.cell_count", 1),
    "a cell of three times the resistance": _scaled(f"{CELL}.r_ohm", 3),
    "an old cell": set_to("builds.0.aged", True),
    "judged at freezing": set_to("builds.0.cold", True),
    "the regulator left out": set_to("builds.0.regulator", {"kind": "none"}),
    "a step-up of 12 V": set_to("builds.0.regulator", {"kind": "boost", "v_set": 12.0}),
    "a step-down of 3.3 V": set_to("builds.0.regulator", {"kind": "buck", "v_set": 3.3}),
    "a linear regulator of 3.3 V": set_to("builds.0.regulator", {"kind": "ldo", "v_set": 3.3, "drop_ohm": 1.0}),
    "a step-up board before it": _step_up_before,
    "a cable of half an ohm": set_to("builds.0.source.r_cable_ohm", 0.5),
    "a third of the resistor": _scaled("builds.0.r_prog_ohm", 1 / 3),
    "used on the cell": set_to("builds.0.use_while_charging", "on_cell"),
    "used through two diodes": set_to("builds.0.use_while_charging", "two_diodes"),
    "used through a change-over switch": set_to("builds.0.use_while_charging", "change_over"),
    "used with the load shared": set_to("builds.0.use_while_charging", "load_sharing"),
    "a diode against the old jack": set_to(
        "gadget.existing_charging", {"kind": "dock", "treatment": "diode", "adapter_v": 7.5}
    ),
    "transistors of 100 mohm": _both(
        set_to(f"{BOARD}.protection.r_on_ohm", 0.1), set_to(f"{BOARD}.protection.v_trip", 0.6)
    ),
    "40 mA asleep": set_to("gadget.off_current_a", 0.04),
    "a source of 6 V": set_to("builds.0.source.volts", 6.0),
}
