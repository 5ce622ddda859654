"""A simulated multimeter (with a probe for degrees): what each hold of a build would read, from this very build."""

from collections.abc import Callable, Mapping

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.steps.before import on_the_bench_v
from pocketspark.instruments.bench import Fault
from pocketspark.instruments.meter import Meter

# What a sound bench shows where the build says nothing of it (common practice, no source).
OPEN_OHM, SOUND_RAIL_OHM = 2e6, 47_000.0
TRAVELS_SOC, RESTED_DROP_V = 0.4, 0.012
CROSSED_RAIL_OHM = 1.8
APART_V, JOINED_OHM, PAD_V = 0.008, 0.06, 5.05


def step_reading(chain: Chain, step: str, meter: Meter, fault: Fault | None = None) -> float:
    """Reading at one step's checkpoint. Raises KeyError for a step without one, MissingPart where it needs a part."""
    true = _READS[step](chain)
    if fault is not None and (step, fault) in _WITH_FAULT:
        true = _WITH_FAULT[step, fault](true)
    return meter.reads(true, key=sorted(_READS).index(step), volts=step in _IN_VOLTS)


def _output_v(chain: Chain) -> float:
    """The heaviest mode at half charge."""
    running = chain.required_running()
    if chain.heaviest is None:
        return running.chosen.full_v
    return running.gadget_v_at(float(running.chosen.curve.at(0.5)), chain.load_of(chain.heaviest))


def _run_hours(chain: Chain) -> float:
    run = chain.required_running().heaviest_in_use
    return float(run.hours) if run else 0.0


def _resistor_ohm(chain: Chain) -> float:
    build = chain.build
    return build.record.r_measured_ohm or build.r_prog_ohm or chain.required_charging().current.suggested_r_ohm


_READS: Mapping[str, Callable[[Chain], float]] = {
    "current": lambda chain: chain.heaviest.current_a if chain.heaviest else 0.0,
    "old_path": lambda _chain: OPEN_OHM,
    "resistor": _resistor_ohm,
    "board_alone": lambda chain: chain.required_charging().charger.float_v,
    "regulator": on_the_bench_v,
    "five_volts_in": lambda chain: PAD_V if chain.build.input.facts.over_a_gap else chain.build.source.volts,
    "cells_apart": lambda _chain: APART_V,
    "bridged": lambda _chain: JOINED_OHM,
    "short_check": lambda _chain: SOUND_RAIL_OHM,
    "cell_volts": lambda chain: float(chain.required_running().chosen.curve.at(TRAVELS_SOC)),
    "output": _output_v,
    "first_charge": lambda chain: chain.required_charging().current.spread.nominal_a,
    "warmth": lambda chain: float(np.max(chain.required_charging().warmth.cell_c)),
    "full": lambda chain: chain.required_charging().charger.float_v - 0.005,
    "rest": lambda _chain: RESTED_DROP_V,
    "discharge": _run_hours,
}
_IN_VOLTS = frozenset({"board_alone", "regulator", "five_volts_in", "cells_apart", "cell_volts", "output", "full"})
_WITH_FAULT: Mapping[tuple[str, Fault], Callable[[float], float]] = {
    ("resistor", "wrong_resistor"): lambda sound: sound / 0.6,
    ("first_charge", "wrong_resistor"): lambda sound: sound * 0.6,
    ("first_charge", "hot_box"): lambda sound: sound * 0.7,
    ("short_check", "load_left_on"): lambda _sound: CROSSED_RAIL_OHM,
    ("cell_volts", "swapped_leads"): lambda sound: -sound,
    ("full", "over_charge"): lambda sound: sound + 0.08,
    ("warmth", "warm_cell"): lambda sound: sound + 24,
    ("rest", "self_discharge"): lambda _sound: 0.14,
    ("discharge", "worn_cell"): lambda sound: sound * 0.5,
}
