"""Power: heat of the regulator, peaks that reset the gadget, motors that nobody measured."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain, Running
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.circuit.regulator_heat import RegulatorHeat, regulator_heats
from pocketspark.core.circuit.resets import first_peak_reset
from pocketspark.core.finding import Judgement
from pocketspark.core.limits import RESISTOR_W
from pocketspark.core.message import _, say
from pocketspark.core.rules.rule import Facts, caution, note, rule, stop
from pocketspark.core.units.figures import amps, celsius, ohms, percent, volts, watts

# A small regulator in a closed case: warm enough to soften print and glue, and where its chip shuts down (common
# practice, no source).
REGULATOR_WARM_C, REGULATOR_DEAD_C = 85.0, 125.0
# Less than this warms nothing.
LEAST_W = 0.005

# Charge left where a peak resets the gadget, as a share, that is worth a caution (our judgement, no source).
RESET_NOTE, RESET_CAUTION = 0.10, 0.30


@rule(
    "power.regulator_hot",
    station="power",
    node="regulator",
    source="P = V_in I_in - V_out I_out; theta of small packages, from memory",
    formula=say("T = T_air + P (theta + 1 / (h A)), in the state that burns most"),
    limits=say(
        "warm {regulator_warm_c}, shuts down {regulator_dead_c}; resistor {resistor_w}",
        regulator_warm_c=celsius(REGULATOR_WARM_C),
        regulator_dead_c=celsius(REGULATOR_DEAD_C),
        resistor_w=watts(RESISTOR_W),
    ),
    advice=say("Choose a switching regulator, a larger package, or mount it on metal."),
)
def regulator_hot(running: Running) -> Iterator[Judgement]:
    """What a regulator, a diode or a dropping resistor turns to heat, by its package, whatever feeds it."""
    for heat in regulator_heats(running):
        if heat.worst.value >= LEAST_W:
            yield from _resistor_hot(heat) if heat.regulator.kind == "resistor" else _package_hot(heat)


def _about(heat: RegulatorHeat) -> Facts:
    mode = heat.worst.corner.use.mode
    return {"figure": watts(heat.worst.value), "subjects": (mode.name,) if mode else ()}


def _resistor_hot(heat: RegulatorHeat) -> Iterator[Judgement]:
    burnt, rated = watts(heat.worst.value), watts(RESISTOR_W)
    if heat.worst.value > RESISTOR_W:
        yield stop(
            say("The dropping resistor burns {burnt}; a usual one is rated for {rated}.", burnt=burnt, rated=rated),
            limit=rated,
            working=say("Use one of twice that rating, in free air, or two in series."),
            **_about(heat),
        )
    elif heat.worst.value > RESISTOR_W / 2:
        yield caution(
            say("The dropping resistor burns {burnt}. Use one rated for twice as much.", burnt=burnt),
            working=corner_in_words(heat.worst.corner),
            **_about(heat),
        )


_PACKAGES = (_("{corner} By a usual package of its kind."), _("{corner} By its own package."))


def _package_hot(heat: RegulatorHeat) -> Iterator[Judgement]:
    own = heat.regulator.theta_ja_c_per_w is not None
    burnt, hot, corner = watts(heat.worst.value), celsius(heat.hottest_c), corner_in_words(heat.worst.corner)
    working = say(_PACKAGES[own], corner=corner)
    if heat.hottest_c > REGULATOR_DEAD_C:
        yield stop(
            say(
                "The {regulator} shuts down or burns out: {burnt} would heat it to {hot}.",
                regulator=heat.regulator.name,
                burnt=burnt,
                hot=hot,
            ),
            limit=celsius(REGULATOR_DEAD_C),
            working=say(
                "{working} A step-down converter burns a fraction of that. A larger package on a patch of copper stays "
                "cooler.",
                working=working,
            ),
            assumed=not own,
            **_about(heat),
        )
    elif heat.hottest_c > REGULATOR_WARM_C:
        yield caution(
            say(
                "The {regulator} gets hot: {burnt} heats it to about {hot}. Keep it away from cell and printed parts.",
                regulator=heat.regulator.name,
                burnt=burnt,
                hot=hot,
            ),
            limit=celsius(REGULATOR_WARM_C),
            working=working,
            assumed=not own,
            **_about(heat),
        )


@rule(
    "power.resets_on_peak",
    station="power",
    node="gadget",
    source="the gadget's window and peak; open-circuit curve and resistances",
    limits=say(
        "note from {reset_note} of the charge left, caution from {reset_caution}",
        reset_note=percent(RESET_NOTE),
        reset_caution=percent(RESET_CAUTION),
    ),
    advice=say("Put a capacitor beside the gadget, or choose a cell with less resistance."),
    guide="pulses",
    follows=("power.under_window",),
)
def resets_on_peak(running: Running) -> Iterator[Judgement]:
    """A peak may pull the gadget under its lowest volts long before the cell is empty."""
    reset = first_peak_reset(running)
    if reset is None or reset.left < RESET_NOTE:
        return
    needs, peak, left = volts(running.chain.window.v_run_min), amps(reset.mode.most_a), percent(reset.left)
    facts: Facts = {
        "figure": left,
        "limit": needs,
        "subjects": (reset.mode.name,),
        "working": say(
            "“{mode}”: {cell_v} in the cell, through {all_ohm}, at {peak} leave the gadget {needs}",
            mode=reset.mode.name,
            cell_v=volts(reset.cell_v),
            all_ohm=ohms(running.chosen.all_ohm),
            peak=peak,
            needs=needs,
        ),
        "rests_on": ("gadget.window.v_run_min",),
        "assumed": running.chain.window.min_basis == "inferred",
    }
    if reset.left >= 0.98:
        yield stop(
            say(
                "The gadget resets at once: its {peak} peak pulls even a full cell below the {needs} it needs.",
                peak=peak,
                needs=needs,
            ),
            **facts,
        )
        return
    level = caution if reset.left >= RESET_CAUTION else note
    yield level(
        say(
            "The gadget resets with {left} of the charge left: its {peak} peak then pulls it below the {needs} "
            "it needs.",
            left=left,
            peak=peak,
            needs=needs,
        ),
        **facts,
    )


@rule(
    "power.motor_unknown",
    station="power",
    node="gadget",
    source="stall current V / R, common practice",
    advice=say("Measure the winding with the battery out and the meter on ohms, turning the shaft slowly."),
)
def motor_unknown(chain: Chain) -> Iterator[Judgement]:
    """A stalled motor takes V / R; without its winding nobody knows whether protection and cell bear that."""
    if chain.gadget.front_end == "motor" and not chain.gadget.behind.winding_ohm:
        yield note(
            say("The motor's winding is not measured, so its stall current is unknown."),
            working=say("Unhook the motor, turn its shaft a little between readings, and take the lowest ohms."),
            subjects=("gadget.behind.winding_ohm",),
        )
