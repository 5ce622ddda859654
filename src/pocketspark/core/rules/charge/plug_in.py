"""Charge: the moment in which the cable is plugged in."""

from collections.abc import Iterator

from pocketspark.core.chain import BoardCharging
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.physics.transients import ring_peak_v
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule
from pocketspark.core.units.figures import as_typed, engineering, fixed, ohms, volts

# Of the two wires of a cable, for each metre (from memory: 0.5 to 1 uH).
HENRY_PER_M = 0.7e-6
# The usual 10 uF of ceramic at a charger's input, of which some 7 uF are left at 5 V, and its resistance (from memory).
CERAMIC_F, CERAMIC_OHM = 7e-6, 0.01
USUAL_CABLE_MM = 1000.0
# A port gives so much over its 5 V at most (USB 2.0, from memory).
HIGH_PORT = 1.05
# The absolute maximum of such chips, 8 to 10 V, by what they work at (from memory of their data sheets).
SPIKE_NOTED, SPIKE_GRAVE = 1.4, 1.6


@rule(
    "charge.hot_plug",
    station="charge",
    node="source",
    source="step response of a series circuit of R, L and C; cable and ceramic, from memory",
    formula=say("V (1 + exp(-pi zeta / sqrt(1 - zeta^2))), zeta = R/2 sqrt(C/L)"),
    limits=say(
        "{noted} times what the charger's input works at; caution at {grave}",
        noted=fixed(SPIKE_NOTED, 1),
        grave=fixed(SPIKE_GRAVE, 1),
    ),
    advice=say("Put an electrolytic capacitor of 47 uF or a 5 V clamp across the 5 V at the board, or a short cable."),
    follows=("charge.source_high", "charge.old_jack"),
)
def hot_plug(charging: BoardCharging) -> Iterator[Judgement]:
    """A long cable plugged into ceramic capacitors rings: for some microseconds up to twice the volts."""
    build, way_in = charging.build, charging.build.input
    if way_in.facts.over_a_gap or not charging.in_the_gadget:
        return
    length_mm = build.source.cable_mm or USUAL_CABLE_MM
    inductance_h = HENRY_PER_M * length_mm / 1000
    damping_ohm = build.source.r_cable_ohm + CERAMIC_OHM
    rings_to = ring_peak_v(build.source.volts * HIGH_PORT, inductance_h, CERAMIC_F, damping_ohm)
    peak, bears = volts(rings_to), volts(SPIKE_NOTED * charging.charger.v_in_max)
    facts: Facts = {
        "figure": peak,
        "limit": bears,
        "rests_on": (f"{charging.chain.path}.source.cable_mm",),
        "assumed": build.source.cable_mm is None,
    }
    if way_in.damped:
        yield fine(say("An electrolytic capacitor or a clamp at its input takes up the ringing of the cable."))
        return
    if rings_to <= bears.value:
        yield fine(say("Plugged in, the cable rings to {peak}, which such a charger survives.", peak=peak), **facts)
        return
    judge = caution if rings_to > SPIKE_GRAVE * charging.charger.v_in_max else note
    yield judge(
        say("Plugged in, {cable} of cable rings to {peak} at the charger.", cable=as_typed(length_mm), peak=peak),
        working=say(
            "{inductance}, {capacitance} of ceramic and {resistance}: little damps it.",
            inductance=engineering(inductance_h, "H", 2),
            capacitance=engineering(CERAMIC_F, "F", 2),
            resistance=ohms(damping_ohm),
        ),
        remedy=remedy(
            say("An electrolytic capacitor of 47 uF lies across its input"),
            {f"{charging.chain.path}.input.damped": True},
        ),
        **facts,
    )
