"""Stress: what the volts that reach the gadget do to the kind of thing behind its terminals.

Two schools (common practice, no source): "its own electronics forgive a few tenths, alkalines wander too", and "never
without a regulator". No side is taken by taste: the stress is computed for the surveyed front end and shown.
"""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.physics import stress
from pocketspark.core.rules.rule import Judgement, caution, note, passed, rule, stop
from pocketspark.core.units.quantity import amps, engineering, percent, volts

# Where a share of the design value is worth a caution (common practice, no source).
LED_BRIGHT, LED_HARSH = 1.3, 2.0
LAMP_LIFE_SHORT = 0.5
MOTOR_FAST = 1.35
HEATER_HOT = 1.4
REGULATOR_WARM_W = 0.3


def _figures(chain: Chain) -> str:
    design_v = chain.gadget.design_v
    return f"{volts(chain.gadget_v_max)} at most against the {volts(design_v)} it was made for"


def led_forward_v(chain: Chain) -> float:
    """As known; else 3.0 V (white, blue, ultraviolet) where the design leaves room for it, 2.0 V below."""
    return chain.gadget.behind.led_v or (3.0 if chain.gadget.design_v >= 3.6 else 2.0)


@rule(
    "power.stress_led",
    station="power",
    source="Ohm's law over the series resistor",
    formula="I / I0 = (V - Vf) / (V0 - Vf)",
    limits=f"{LED_BRIGHT} caution, {LED_HARSH} stop",
)
def led(chain: Chain) -> Iterator[Judgement]:
    """LEDs behind a resistor: how much brighter and hotter with a full cell, how dim at the end."""
    if chain.gadget.front_end != "led_resistor" or not chain.runs:
        return
    led_v, design_v = led_forward_v(chain), chain.gadget.design_v
    most, least = (stress.led_share(v, design_v, led_v) for v in (chain.gadget_v_max, chain.gadget_v_min))
    working = f"({volts(chain.gadget_v_max)} - {volts(led_v)}) / ({volts(design_v)} - {volts(led_v)}) = {most:.2f}"
    rests_on = ("gadget.behind.led_v",)
    headline = f"{percent(most)} of the design current through the LEDs when full, {percent(least)} at the end"
    if most > LED_HARSH:
        yield stop(headline, working=working, rests_on=rests_on)
    elif most > LED_BRIGHT:
        yield caution(headline, working=working, rests_on=rests_on)
    else:
        yield passed(headline, working=working, rests_on=rests_on)


@rule(
    "power.stress_lamp",
    station="power",
    source="lamp re-rating relations of the lighting handbooks, from memory",
    formula="life ~ V^-13, light ~ V^3.4, current ~ V^0.55",
    limits=f"life under {percent(LAMP_LIFE_SHORT)}",
)
def lamp(chain: Chain) -> Iterator[Judgement]:
    """A filament lamp: how long it lives and how bright it is."""
    if chain.gadget.front_end != "lamp" or not chain.runs:
        return
    most_v, design_v = chain.gadget_v_at(chain.full_v, chain.runs[0].load), chain.gadget.design_v
    life, light = stress.lamp_life_share(most_v, design_v), stress.lamp_light_share(most_v, design_v)
    dim = stress.lamp_light_share(chain.gadget_v_min, design_v)
    headline = f"{percent(life)} of the lamp's life, {percent(light)} of its light when full, {percent(dim)} at the end"
    say = caution if life < LAMP_LIFE_SHORT else passed
    yield say(headline, working=f"{volts(most_v)} lit against the {volts(design_v)} it was made for")


@rule(
    "power.stress_motor",
    station="power",
    source="speed of a brushed motor follows its volts; common practice",
    formula="speed ~ V; stall current = V / R_winding",
    limits=f"{percent(MOTOR_FAST)}",
)
def motor(chain: Chain) -> Iterator[Judgement]:
    """A brushed motor: how fast when full, how slow at the end, and what it takes when it stands still."""
    if chain.gadget.front_end != "motor" or not chain.runs:
        return
    design_v = chain.gadget.design_v
    most = stress.motor_speed_share(chain.gadget_v_at(chain.full_v, chain.runs[0].load), design_v)
    least = stress.motor_speed_share(chain.gadget_v_min, design_v)
    stalled = f"; stalled {amps(chain.stall_a)}" if chain.stall_a else "; measure the winding to know its stall current"
    headline = f"{percent(most)} of its speed when full, {percent(least)} at the end"
    say = caution if most > MOTOR_FAST else passed
    yield say(headline, working=_figures(chain) + stalled)


@rule(
    "power.stress_heater",
    station="power",
    source="P = V^2 / R",
    formula="P / P0 = (V / V0)^2",
    limits=f"{percent(HEATER_HOT)}",
)
def heater(chain: Chain) -> Iterator[Judgement]:
    """A resistive heater: its power grows with the square of the volts."""
    if chain.gadget.front_end != "heater" or not chain.runs:
        return
    design_v = chain.gadget.design_v
    most_v = chain.gadget_v_at(chain.full_v, chain.runs[0].load)
    most, least = (stress.heater_power_share(v, design_v) for v in (most_v, chain.gadget_v_min))
    headline = f"{percent(most)} of its power when full, {percent(least)} at the end"
    say = caution if most > HEATER_HOT else passed
    yield say(headline, working=f"({volts(most_v)} / {volts(design_v)})^2; what it heats may not take that")


@rule(
    "power.stress_regulator",
    station="power",
    source="the parts' own figures; P = (V - V_out) I",
    formula="P = (V - V_out) I",
    limits=f"its stated input maximum; {REGULATOR_WARM_W} W",
)
def regulator(chain: Chain) -> Iterator[Judgement]:
    """The gadget's own linear regulator: its input maximum, and the excess it turns to heat."""
    if chain.gadget.front_end != "regulator" or not chain.runs:
        return
    behind, most_v = chain.gadget.behind, chain.gadget_v_max
    if behind.input_max_v is not None and most_v > behind.input_max_v:
        yield stop(f"{volts(most_v)} into its own regulator, which takes {volts(behind.input_max_v)}")
    if behind.regulated_v is not None:
        loaded_v = chain.gadget_v_at(chain.full_v, chain.load_of(chain.heaviest))
        burnt = stress.regulator_heat_w(loaded_v, behind.regulated_v, chain.heaviest.current_a)
        working = f"({volts(loaded_v)} - {volts(behind.regulated_v)}) x {amps(chain.heaviest.current_a)}"
        say = caution if burnt > REGULATOR_WARM_W else passed
        yield say(f"{engineering(burnt, 'W')} burnt in its own regulator with a full cell", working=working)


@rule(
    "power.stress_converter",
    station="power",
    source="constant-power input of converters, common practice",
    formula="I = P / V",
    limits="its stated input range",
)
def converter(chain: Chain) -> Iterator[Judgement]:
    """The gadget's own switching converter: its input range, and the current it draws as the volts fall."""
    if chain.gadget.front_end != "converter" or not chain.runs:
        return
    behind = chain.gadget.behind
    if behind.input_max_v is not None and chain.gadget_v_max > behind.input_max_v:
        yield stop(f"{volts(chain.gadget_v_max)} into its own converter, which takes {volts(behind.input_max_v)}")
    if behind.input_min_v is not None and chain.gadget_v_min < behind.input_min_v:
        yield note(f"{volts(chain.gadget_v_min)} at the end; its own converter wants {volts(behind.input_min_v)}")
    mode, low_v = chain.heaviest, chain.gadget_v_min
    if low_v > 0:
        drawn = float(chain.load_of(mode).current(low_v))
        at_v = volts(chain.gadget.volts_of(mode))
        headline = f"{amps(drawn)} {mode.name} at the end, {amps(mode.current_a)} at {at_v}"
        yield passed(headline, working="the same power from fewer volts")
