"""Power: a motor that is switched off."""

from collections.abc import Iterator

from pocketspark.core.chain import Running
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.physics.transients import kick_v
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule
from pocketspark.core.startup.loads import stalled_ohm
from pocketspark.core.units.figures import amps, engineering, farads, volts

# A small motor's coil: its inductance by its resistance (from memory: 0.1 to 0.5 ms).
WINDING_S = 0.3e-3
# At a regulator's output, where nobody has looked (common practice, no source).
OUTPUT_F = 22e-6


@rule(
    "power.motor_kick",
    station="power",
    source="energy of a coil into a capacitor (physics); a small motor's coil, from memory",
    formula=say("V = sqrt(V0^2 + L I^2 / C)"),
    limits=say("what the gadget survives"),
    advice=say("Solder a Schottky diode across the motor, its ring to plus."),
)
def motor_kick(running: Running) -> Iterator[Judgement]:
    """Switched off before its motor, a regulator takes what the coil held; switched off behind it, the switch does."""
    gadget, build = running.gadget, running.build
    mode = running.heaviest_in_use
    if gadget.front_end != "motor" or mode is None or not running.chosen.regulators_in_the_way:
        return
    if gadget.behind.kick_diode:
        yield fine(say("A diode across the motor takes what its coil holds when it is switched off."))
        return
    kick_diode = remedy(say("A diode lies across the motor"), {"gadget.behind.kick_diode": True})
    if build.switch_place == "gadget":
        yield note(
            say("Switched off, the motor's coil sparks at the switch, and the regulator hears it."),
            working=say("A diode across the motor spares both."),
            remedy=kick_diode,
        )
        return
    current_a = mode.mode.most_a
    inductance_h = WINDING_S * stalled_ohm(gadget, mode.mode)
    capacitance_f = gadget.capacitance_f or OUTPUT_F
    goes_to_v = kick_v(gadget.volts_of(mode.mode), inductance_h, current_a, capacitance_f)
    goes_to, bears = volts(goes_to_v), volts(running.chain.window.v_abs_max)
    facts: Facts = {
        "figure": goes_to,
        "limit": bears,
        "working": say(
            "{current} in about {inductance} go into {capacitance}.",
            current=amps(current_a),
            inductance=engineering(inductance_h, "H", 2),
            capacitance=farads(capacitance_f),
        ),
        "rests_on": ("gadget.behind.winding_ohm", "gadget.capacitance_f"),
        "assumed": gadget.behind.winding_ohm is None or gadget.capacitance_f is None,
    }
    if goes_to.value > bears.value:
        yield caution(
            say("Switched off, the motor's coil lifts its volts to {goes_to}.", goes_to=goes_to),
            remedy=kick_diode,
            **facts,
        )
    else:
        yield fine(say("Switched off, the motor's coil lifts its volts to {goes_to} only.", goes_to=goes_to), **facts)
