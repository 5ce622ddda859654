"""Every step that a build may have, in the order that is safe, and when each belongs to a build.

The order is common practice, no source. The cell comes last. A new step is one function and one entry here.
"""

from collections.abc import Iterable, Iterator, Sequence

from pocketspark.core.chain import Chain, Charging
from pocketspark.core.fit.build_in_bay import FittedBuild
from pocketspark.core.fit.styles import places_to_bridge
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.models.climate import CLIMATES
from pocketspark.core.steps import before, building, proving
from pocketspark.core.steps.making import StepKind
from pocketspark.core.steps.prediction import first_prediction
from pocketspark.core.steps.step import Step
from pocketspark.core.units.figures import amp_hours, amps, hours, ohms, volts


def steps_of(chain: Chain) -> Iterator[Step]:
    """The steps of this build. One about a part that is still to be chosen is left out."""
    opened = False
    for kind in ORDER:
        opened = opened or kind.opens
        step = kind.step_of(chain)
        if step is not None:
            yield step.model_copy(update={"opens": opened})


def _has_modes(chain: Chain) -> bool:
    return any(mode.current_a > 0 for mode in chain.gadget.modes)


def _may_be_heard(chain: Chain) -> bool:
    return chain.gadget.sound in ("speaker", "radio") and kind_of(chain.regulator).switches


def _has_old_path(chain: Chain) -> bool:
    existing = chain.gadget.existing_charging
    return existing.kind not in ("none", "lithium_charger") and existing.treatment != "never_plugged_in"


def _has_another_way_in(charging: Charging) -> bool:
    return charging.in_the_gadget and not charging.build.input.facts.on_board


def _has_a_bridge(chain: Chain) -> bool:
    return any(extra.kind in building.BRIDGES for extra in chain.build.wiring.extra)


def _opens_a_wall(fitted: FittedBuild) -> bool:
    return bool(fitted.answer.openings)


def _has_a_past(chain: Chain) -> bool:
    return chain.build.cell is not None and chain.build.cell.origin == "salvaged"


def _has_to_be_tested(chain: Chain) -> bool:
    """A used cell with a label, not one whose capacity is guessed by its size; not where the cut is made already."""
    fixed = chain.build.record.fixed
    was_asked = fixed is None or any(limit.step == "cell_capacity" for limit in fixed.limits)
    return _has_a_past(chain) and was_asked and not chain.is_assumed(f"{chain.path}.cell.capacity_ah")


def _goes_into_the_gadget(chain: Chain) -> bool:
    return chain.build.facts_of_style.in_the_gadget


def _lives_in_frost(charging: Charging) -> bool:
    return charging.in_the_gadget and bool(charging.chain.gadget.shell.frozen_months)


def _lives_wet(chain: Chain) -> bool:
    climate = chain.gadget.shell.climate
    return climate is not None and CLIMATES[climate].wet


ORDER: Sequence[StepKind] = (
    StepKind(before.photograph),
    StepKind(before.prove_old),
    StepKind(
        before.measure_current,
        _has_modes,
        "gadget's current",
        lambda chain: first_prediction(chain).gadget_current_a,
        amps,
        teaches=lambda chain: f"gadget.modes.{chain.heaviest.id}.current_a" if chain.heaviest else None,
    ),
    StepKind(before.polarity),
    StepKind(before.second_supply, lambda chain: chain.gadget.second_supply is not None),
    StepKind(
        before.cell_capacity,
        _has_to_be_tested,
        "cell's capacity",
        lambda chain: first_prediction(chain).capacity_ah,
        amp_hours,
        teaches=lambda chain: f"{chain.path}.cell.measured_capacity_ah",
    ),
    StepKind(before.terminals, _goes_into_the_gadget, opens=True),
    StepKind(before.cut_path, _has_old_path),
    StepKind(
        before.resistor,
        measures="charge-current resistor",
        planned=lambda charging: charging.build.r_prog_ohm or charging.current.suggested_r_ohm,
        write=ohms,
        teaches=lambda charging: f"{charging.chain.path}.record.r_measured_ohm",
    ),
    StepKind(
        before.board_alone, measures="board alone", planned=lambda charging: charging.charger.float_v, write=volts
    ),
    StepKind(
        before.set_regulator,
        lambda chain: bool(chain.regulator.v_set),
        "regulator's volts",
        before.on_the_bench_v,
        volts,
    ),
    StepKind(before.five_volts_in, _has_another_way_in),
    StepKind(before.cells_apart, lambda chain: len(chain.build.cells) > 1),
    StepKind(building.dry_fit, _goes_into_the_gadget),
    StepKind(building.open_wall, _opens_a_wall),
    StepKind(building.plug_in, _opens_a_wall),
    StepKind(building.mount),
    StepKind(building.dummies, lambda chain: places_to_bridge(chain.gadget, chain.build) > 0),
    StepKind(building.comes_out, lambda chain: chain.build.cell_comes_out),
    StepKind(building.wires),
    StepKind(building.bridged, _has_a_bridge),
    StepKind(building.sleeves, lambda chain: chain.build.wiring.sleeved),
    StepKind(building.short_check),
    StepKind(building.case_check, lambda chain: chain.gadget.shell.metal),
    StepKind(building.cell_volts),
    StepKind(building.fuse, lambda chain: chain.build.fuse_a is not None),
    StepKind(building.cell_last),
    StepKind(proving.output_volts, _has_modes),
    StepKind(proving.listen, _may_be_heard),
    StepKind(
        proving.first_charge,
        measures="charge current",
        planned=lambda charging: first_prediction(charging.chain).charge_current_a,
        write=amps,
    ),
    StepKind(proving.warmth),
    StepKind(proving.full, measures="full cell", planned=lambda charging: charging.charger.float_v, write=volts),
    StepKind(proving.rest),
    StepKind(proving.day, _has_a_past),
    StepKind(building.seal, _lives_wet),
    StepKind(proving.no_frost, _lives_in_frost),
    StepKind(proving.close),
    StepKind(
        proving.discharge,
        lambda running: running.heaviest_in_use is not None,
        "run time",
        lambda running: first_prediction(running.chain).heaviest_hours,
        hours,
    ),
)


def hours_of_work(steps: Iterable[Step]) -> float:
    """What these steps add up to at the bench, waiting aside."""
    return sum(step.minutes for step in steps) / 60
