"""Power: converters that are heard, by ear or by a receiver beside them."""

import math
from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.chain.running import bursts_of
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import kind_of
from pocketspark.core.message import all_of, say
from pocketspark.core.models.band import BANDS
from pocketspark.core.physics.whistle import is_heard
from pocketspark.core.rules.rule import caution, fine, note, remedy, rule
from pocketspark.core.units.figures import hertz, millimetres

# Small converters switch about so often, and drift from it by as much with load and heat (from memory).
USUAL_SWITCHING_HZ, SWITCHING_DRIFTS = 1.2e6, 0.20
# Aerial and converter: so far apart for what it switches at itself (common practice, no source). Its n-th harmonic has
# 1/n of that, and near a coil a field falls with the third power of the distance.
CLEAR_MM = 300.0
# Up to this harmonic it is heard in most places of such a gadget (our judgement).
LOUD_HARMONIC = 10


@rule(
    "power.hum",
    station="power",
    source="common practice, no source",
    formula=say("bursts a second: I / (C dV), with C 22 μF and dV 1 % of its volts"),
    advice=say("Try it on the bench and listen. A coil and a capacitor behind it help, and so does distance."),
)
def hum(chain: Chain) -> Iterator[Judgement]:
    """Switching converters can be heard in audio and radio gadgets, and nowhere else."""
    sound = chain.gadget.sound
    if not kind_of(chain.regulator).switches or sound == "none":
        return
    helps = say("Keep its wires short, put a capacitor at its output, and keep it away from any coil or aerial.")
    if sound is None:
        yield note(
            say("Say whether it has any sound or radio: a switching converter can be heard there."),
            working=helps,
            remedy=remedy(say("No sound comes from it"), {"gadget.sound": "none"}),
            subjects=("gadget.sound",),
        )
    else:
        bursts = [
            (run.mode.name, bursts_of(chain.regulator, run.load) or 0.0)
            for run in (chain.running.runs if chain.running else ())
        ]
        whistles = [
            say("about {rate} in “{name}”", rate=hertz(rate), name=name) for name, rate in bursts if is_heard(rate)
        ]
        silent = say("{helps} A linear regulator is silent.", helps=helps)
        if whistles:
            silent = say(
                "It works in bursts that people hear: {whistles}. {helps}", whistles=all_of(whistles), helps=silent
            )
        yield caution(
            say("Its converter switches and can be heard. Listen before you close the case."),
            working=silent,
            subjects=("gadget.sound",),
        )


@rule(
    "power.in_band",
    station="power",
    source="harmonics of a square wave; near field of a coil; distances are common practice, no source",
    formula=say("harmonics n f; distance falls as n^(-1/3)"),
    advice=say("Keep its coil away from the aerial, shield it, or take a linear regulator."),
    follows=("power.hum",),
)
def in_band(chain: Chain) -> Iterator[Judgement]:
    """A converter beside an aerial puts its frequency, or a harmonic of it, into the band that is received."""
    received = chain.gadget.receives
    if received is None or chain.gadget.sound != "radio" or not kind_of(chain.regulator).switches:
        return
    band, works_hz = BANDS[received], chain.regulator.switching_hz or USUAL_SWITCHING_HZ
    harmonic = max(1, math.ceil(band.low_hz / (works_hz * (1 + SWITCHING_DRIFTS))))
    at = hertz(works_hz)
    if harmonic * works_hz * (1 - SWITCHING_DRIFTS) > band.high_hz:
        yield fine(say("Its converter works at {at}, outside the band that it receives.", at=at), figure=at)
        return
    apart = millimetres(CLEAR_MM * harmonic ** (-1 / 3), 0)
    judge = caution if harmonic <= LOUD_HARMONIC else note
    yield judge(
        say("Its converter works at {at}, in the band that it receives.", at=at)
        if harmonic == 1
        else say(
            "Its converter works at {at}; from harmonic {harmonic} on it lies in the band that it receives.",
            at=at,
            harmonic=harmonic,
        ),
        figure=at,
        working=say("Keep its coil {apart} from the aerial; a linear regulator makes none of it.", apart=apart),
        subjects=("gadget.receives",),
        assumed=chain.regulator.switching_hz is None,
    )
