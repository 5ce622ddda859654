"""Power: what other volts do to what is behind the terminals."""

from collections.abc import Iterator, Mapping

import numpy as np

from pocketspark.core.chain import Running
from pocketspark.core.circuit import Circuit, Corner, Feed
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.finding import Judgement, Remedy
from pocketspark.core.limits import DIM, RESISTOR_W
from pocketspark.core.message import NOTHING, Message, _, say
from pocketspark.core.physics import resistors, stress
from pocketspark.core.rules.rule import Facts, caution, fine, helps, note, remedy, rule, stop
from pocketspark.core.units.figures import amps, fixed, ohms, percent, significant, volts, watts
from pocketspark.core.units.reading import METRIC

# Where a share of the design value is worth a caution (common practice, no source).
LED_BRIGHT, LED_HARSH = 1.3, 2.0

LAMP_LIFE_SHORT = 0.5

MOTOR_FAST = 1.35

HEATER_HOT = 1.4

REGULATOR_WARM_W = 0.3


@rule(
    "power.stress_led",
    station="power",
    node="gadget",
    source="Ohm's law over the series resistor",
    formula=say("I / I0 = (V - Vf) / (V0 - Vf)"),
    limits=say(
        "{led_bright} caution, {led_harsh} stop",
        led_bright=significant(LED_BRIGHT, 2),
        led_harsh=significant(LED_HARSH, 2),
    ),
    advice=say("Put in the resistor that protects them, or a regulator."),
    follows=("power.over_window",),
)
def led(circuit: Circuit) -> Iterator[Judgement]:
    """LEDs behind a resistor: how much brighter and hotter in the worst state, how dim at the end."""
    running = circuit.running
    gadget = running.gadget
    if gadget.front_end != "led_resistor" or not running.runs:
        return
    led_v, design_v = gadget.led_forward_v, gadget.design_v
    lit_v, corner = _most_v(circuit)
    fed = corner.feed if corner and corner.feed in _HOT else "plugged in"
    most, least = (percent(float(stress.led_share(v, design_v, led_v))) for v in (lit_v, running.gadget_v_min))
    seen = volts(lit_v)
    working = say(
        "({seen} - {led_v}) / ({design_v} - {led_v}) = {most}",
        seen=seen,
        led_v=volts(led_v),
        design_v=volts(design_v),
        most=fixed(most.value, 2),
    )
    facts: Facts = {"figure": most, "working": working, "rests_on": ("gadget.behind.led_v",)}
    shares = {"most": most, "least": least}
    if most.value > LED_HARSH:
        yield stop(say(_BURN[fed], **shares), remedy=_dropping_resistor(running), **facts)
    elif most.value > LED_BRIGHT:
        yield caution(say(_HOT[fed], **shares), remedy=_dropping_resistor(running), **facts)
    else:
        yield fine(say(_LIT[least.value > 0], **shares), **facts)


def _most_v(circuit: Circuit) -> tuple[float, Corner | None]:
    """The most that the gadget gets while it works, from the cell or plugged in, and in which state; 0 for none."""
    worst = circuit.worst("gadget_v", uses=("mode",))
    return (worst.value, worst.corner) if worst else (0.0, None)


def _where(corner: Corner | None) -> Message:
    return corner_in_words(corner) if corner else NOTHING


def _input_over(circuit: Circuit, sentence: str) -> Iterator[Judgement]:
    """What the gadget holds of its own is never given more than it is rated for, asleep or awake, fed in any way."""
    rated_v, worst = circuit.running.gadget.behind.input_max_v, circuit.worst("gadget_v")
    if rated_v is not None and worst is not None and worst.value > rated_v:
        most, rated = volts(worst.value), volts(rated_v)
        yield stop(
            say(sentence, rated=rated, most=most), figure=most, limit=rated, working=corner_in_words(worst.corner)
        )


_BURN: Mapping[Feed, str] = {
    "unplugged": _("With a full cell the LEDs get {most} of the current they were designed for. They burn out."),
    "plugged in": _("Plugged in, the LEDs get {most} of the current they were designed for. They burn out."),
    "old adapter": _(
        "With the old adapter in its jack the LEDs get {most} of the current they were designed for. They burn out."
    ),
}
_HOT: Mapping[Feed, str] = {
    "unplugged": _("With a full cell the LEDs run hot: they get {most} of the current they were designed for."),
    "plugged in": _("Plugged in, the LEDs run hot: they get {most} of the current they were designed for."),
    "old adapter": _(
        "With the old adapter in its jack the LEDs run hot: they get {most} of the current they were designed for."
    ),
}
# Dark at the end of the charge, or not.
_LIT = (
    _("The LEDs get {most} of the current they were designed for at first, and go dark at the end."),
    _("The LEDs get {most} of the current they were designed for at first, and {least} at the end."),
)


def _dropping_resistor(running: Running) -> Remedy | None:
    """The preferred value that brings the LEDs to their own current with a full cell; None where something regulates
    already, where it would be no common part, or where they would be dark before the cell is half empty."""
    gadget, brightest = running.gadget, max(running.runs, key=lambda run: run.mode.current_a)
    led_v, design_v, own_siemens = gadget.led_forward_v, gadget.design_v, float(np.asarray(brightest.load.siemens))
    if running.chain.regulators or own_siemens == 0 or design_v <= led_v:
        return None
    design_a = float(brightest.load.current(design_v))
    all_ohm = (running.chosen.full_v - led_v) / design_a
    ohm = resistors.preferred_at_or_above(max(all_ohm - 1 / own_siemens - running.chosen.all_ohm, 1.0))
    half_a = (float(running.chosen.curve.at(0.5)) - led_v) / (all_ohm + running.chosen.all_ohm)
    seen_v = led_v + half_a / own_siemens
    if design_a**2 * ohm > RESISTOR_W / 2 or seen_v < running.chain.window.v_run_min:
        return None
    regulator = {"kind": "resistor", "name": f"dropping resistor {ohms(ohm).text(METRIC)}", "series_ohm": ohm}
    given = remedy(say("A dropping resistor of {ohm}", ohm=ohms(ohm)), {f"{running.chain.path}.regulator": regulator})
    # Asleep next to nothing flows, and a resistor drops nothing: what stands over the window then is not remedied.
    return given if helps(running.chain, given, ("power.over_window", "power.stress_led")) else None


@rule(
    "power.stress_lamp",
    station="power",
    node="gadget",
    source="lamp re-rating relations of the lighting handbooks, from memory",
    formula=say("life ~ V^-13, light ~ V^{light}, current ~ V^{current}", light=fixed(3.4, 1), current=fixed(0.55, 2)),
    limits=say("life under {lamp_life_short}", lamp_life_short=percent(LAMP_LIFE_SHORT)),
    advice=say("Put a diode or a regulator before it, or keep a spare lamp."),
    follows=("power.over_window",),
)
def lamp(circuit: Circuit) -> Iterator[Judgement]:
    """A filament lamp: how long it lives and how bright it is."""
    running = circuit.running
    if running.gadget.front_end != "lamp" or not running.runs:
        return
    (most_v, corner), design_v = _most_v(circuit), running.gadget.design_v
    life, light = (
        percent(stress.lamp_life_share(most_v, design_v)),
        percent(float(stress.lamp_light_share(most_v, design_v))),
    )
    dim = percent(float(stress.lamp_light_share(running.gadget_v_min, design_v)))
    working = say(
        "{most_v} when lit; it was designed for {design_v}. {corner}",
        most_v=volts(most_v),
        design_v=volts(design_v),
        corner=_where(corner),
    )
    light_words = say("{light} of its light at most, {dim} at the end", light=light, dim=dim)
    if life.value < LAMP_LIFE_SHORT:
        yield caution(
            say("The lamp lasts only {life} of its life; it gives {light_words}.", life=life, light_words=light_words),
            figure=life,
            working=working,
        )
    else:
        yield fine(
            say("The lamp gives {light_words}.", light_words=light_words),
            figure=light,
            working=say("{working}; life {life}", working=working, life=life),
        )


@rule(
    "power.stress_motor",
    station="power",
    node="gadget",
    source="speed of a brushed motor follows its volts; common practice",
    formula=say("speed ~ V; stall current = V / R_winding"),
    limits=say("{most}", most=percent(MOTOR_FAST)),
    advice=say("Put a diode or a regulator before it."),
    follows=("power.over_window",),
)
def motor(circuit: Circuit) -> Iterator[Judgement]:
    """A brushed motor: how fast at most, how slow at the end, and what it takes when it stands still."""
    running = circuit.running
    if running.gadget.front_end != "motor" or not running.runs:
        return
    design_v = running.gadget.design_v
    most_v, corner = _most_v(circuit)
    most = percent(float(stress.motor_speed_share(most_v, design_v)))
    least = percent(float(stress.motor_speed_share(running.gadget_v_min, design_v)))
    stall_a = circuit.most("gadget_a", uses=("stalled",))
    stalled = (
        say("stalled, it draws {stall_a}", stall_a=amps(stall_a))
        if stall_a
        else say("measure its winding to know what it draws when it stalls")
    )
    working = say(
        "{most_v} at most; it was designed for {design_v}; {stalled}. {corner}",
        most_v=volts(most_v),
        design_v=volts(design_v),
        stalled=stalled,
        corner=_where(corner),
    )
    speeds = say("{most} of its speed at most, {least} at the end", most=most, least=least)
    if most.value > MOTOR_FAST:
        yield caution(
            say("The motor runs fast and wears its brushes: {speeds}.", speeds=speeds), figure=most, working=working
        )
    else:
        yield fine(say("The motor runs at {speeds}.", speeds=speeds), figure=most, working=working)


@rule(
    "power.stress_heater",
    station="power",
    node="gadget",
    source="P = V^2 / R",
    formula=say("P / P0 = (V / V0)^2"),
    limits=say("{most}", most=percent(HEATER_HOT)),
    advice=say("Put a regulator before it, or raise its resistance."),
    follows=("power.over_window",),
)
def heater(circuit: Circuit) -> Iterator[Judgement]:
    """A resistive heater: its power grows with the square of the volts."""
    running = circuit.running
    if running.gadget.front_end != "heater" or not running.runs:
        return
    design_v = running.gadget.design_v
    most_v, corner = _most_v(circuit)
    most, least = (percent(float(stress.heater_power_share(v, design_v))) for v in (most_v, running.gadget_v_min))
    working = say(
        "({most_v} / {design_v})² of the power it was designed for. {corner}",
        most_v=volts(most_v),
        design_v=volts(design_v),
        corner=_where(corner),
    )
    powers = say("{most} of its power at most, {least} at the end", most=most, least=least)
    if most.value > HEATER_HOT:
        yield caution(
            say("The heater runs too hot: {powers}.", powers=powers),
            figure=most,
            working=say("{working} What it heats can suffer.", working=working),
        )
    else:
        yield fine(say("The heater gives {powers}.", powers=powers), figure=most, working=working)


@rule(
    "power.stress_regulator",
    station="power",
    node="gadget",
    source="the parts' own figures; P = (V - V_out) I",
    formula=say("P = (V - V_out) I"),
    limits=say("its stated input maximum; {regulator_warm_w}", regulator_warm_w=watts(REGULATOR_WARM_W)),
    advice=say("Lower the voltage before it, or bypass it with one that is rated for it."),
)
def regulator_inside(circuit: Circuit) -> Iterator[Judgement]:
    """The gadget's own linear regulator: its input maximum, and the excess it turns to heat."""
    running = circuit.running
    heaviest = running.chain.heaviest
    if running.gadget.front_end != "regulator" or not running.runs or heaviest is None:
        return
    behind = running.gadget.behind
    yield from _input_over(
        circuit, _("The regulator inside the gadget is rated for {rated}, and up to {most} reaches it.")
    )
    if behind.regulated_v is not None:
        most_v, corner = _most_v(circuit)
        loaded = volts(most_v)
        burnt = watts(stress.regulator_heat_w(loaded.value, behind.regulated_v, heaviest.current_a))
        working = say(
            "({loaded} - {regulated_v}) x {current_a}. {corner}",
            loaded=loaded,
            regulated_v=volts(behind.regulated_v),
            current_a=amps(heaviest.current_a),
            corner=_where(corner),
        )
        warm = burnt.value > REGULATOR_WARM_W
        how = "gets warm" if warm else "stays cool"
        level = caution if warm else fine
        yield level(
            say("The regulator inside the gadget {how}: it burns {burnt} at most.", how=how, burnt=burnt),
            figure=burnt,
            working=working,
        )


@rule(
    "power.stress_converter",
    station="power",
    node="gadget",
    source="constant-power input of converters, common practice",
    formula=say("I = P / V"),
    limits=say("its stated input range"),
    advice=say("Read the range in the chip's data sheet before a cell is connected."),
)
def converter_inside(circuit: Circuit) -> Iterator[Judgement]:
    """The gadget's own switching converter: its input range, and the current it draws as the volts fall."""
    running = circuit.running
    heaviest = running.chain.heaviest
    if running.gadget.front_end != "converter" or not running.runs or heaviest is None:
        return
    behind, least = running.gadget.behind, volts(running.gadget_v_min)
    yield from _input_over(
        circuit, _("The converter inside the gadget is rated for {rated}, and up to {most} reaches it.")
    )
    if behind.input_min_v is not None and least.value < behind.input_min_v:
        wants = volts(behind.input_min_v)
        yield note(
            say("The run ends at {least}, but the converter inside needs {wants}.", least=least, wants=wants),
            figure=least,
            limit=wants,
        )
    if least.value > 0:
        drawn = amps(float(running.chain.load_of(heaviest).current(least.value)))
        at = volts(running.gadget.volts_of(heaviest))
        yield fine(
            say(
                "As the cell empties, “{heaviest}” draws up to {drawn}, up from {current_a} at {at}.",
                heaviest=heaviest.name,
                drawn=drawn,
                current_a=amps(heaviest.current_a),
                at=at,
            ),
            figure=drawn,
            working=say("the same power from fewer volts"),
        )


@rule(
    "power.dim",
    station="power",
    node="gadget",
    source="light of LEDs by their current, of a filament by V^3.4",
    limits=say("{dim} of its light at half charge", dim=percent(DIM)),
    advice=say("Choose a step-up converter, or go by the hours in which it is bright enough."),
)
def dim(running: Running) -> Iterator[Judgement]:
    """Hours in the dark are no hours: a lamp straight on a cell may glow for days, and hardly."""
    share = running.light_half
    if share is None or share >= DIM:
        return
    brightest = max(running.runs, key=lambda run: run.mode.current_a)
    half_v = running.gadget_v_at(float(running.chosen.curve.at(0.5)), brightest.load)
    light = percent(share)
    yield note(
        say(
            "Halfway through the charge it gives {light} of its light: many of the hours are dim.",
            light=light,
        ),
        figure=light,
        limit=percent(DIM),
        working=say(
            "{half_v} at the gadget, made for {design_v}. A step-up to those volts holds it bright, for fewer hours.",
            half_v=volts(half_v),
            design_v=volts(running.gadget.design_v),
        ),
    )
