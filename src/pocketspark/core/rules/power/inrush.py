"""Power: the moment in which a gadget is switched on."""

import math
from collections.abc import Iterator
from dataclasses import dataclass

from pocketspark.core.chain import Running
from pocketspark.core.finding import Judgement
from pocketspark.core.kinds.regulators import SCHOTTKY
from pocketspark.core.message import say
from pocketspark.core.rules.rule import Facts, caution, fine, rule
from pocketspark.core.units.figures import amps, engineering, farads

# How long a protection waits before it opens: on an overload, and on a short, which it takes anything over so many
# times its trip for (from memory).
OVERLOAD_S, SHORT_S, SHORT_TIMES = 0.010, 0.0003, 3.0


@dataclass(frozen=True)
class Inrush:
    """The current into an empty capacitor, from a full cell: what it begins with, and how fast it falls."""

    first_a: float
    tau_s: float

    def over_s(self, amps_: float) -> float:
        """How long it is over so much: tau ln(I0 / I)."""
        return self.tau_s * math.log(self.first_a / amps_) if self.first_a > amps_ else 0.0


def inrush_of(running: Running) -> Inrush | None:
    """None where nobody has found a capacitor, or a regulator lets it fill at its own pace."""
    capacitance_f = running.gadget.capacitance_f
    through = running.chosen.regulators_in_the_way
    if not capacitance_f or any(regulator.kind not in ("resistor", "diode") for regulator in through):
        return None
    diodes = running.chosen.run_path_diodes + sum(regulator.kind == "diode" for regulator in through)
    series_ohm = sum(regulator.series_ohm or 0.0 for regulator in through) + diodes * SCHOTTKY.rs_ohm
    all_ohm = running.chosen.all_ohm + series_ohm
    return Inrush(running.chosen.full_v / all_ohm, all_ohm * capacitance_f)


@rule(
    "power.capacitor_inrush",
    station="power",
    node="protection",
    source="charge of a capacitor through a resistance; delays of protections, from memory",
    formula=say("I = V / R exp(-t / (R C)), over the trip current for R C ln(V / (R I_trip))"),
    limits=say(
        "{overload} over the trip current; {short} over {times} times that",
        overload=engineering(OVERLOAD_S, "s", 2),
        short=engineering(SHORT_S, "s", 2),
        times=f"{SHORT_TIMES:.0f}",
    ),
    advice=say("Put a few ohms or a soft start before the capacitor, or choose a protection that trips later."),
    follows=("power.protection_trips_early",),
)
def capacitor_inrush(running: Running) -> Iterator[Judgement]:
    """An empty capacitor is a short for a moment: a protection may take it for one and stay open."""
    inrush, protection = inrush_of(running), running.chain.first_to_trip
    if inrush is None or protection is None:
        return
    trip_a = protection.trip_least_a
    overload_s, short_s = inrush.over_s(trip_a), inrush.over_s(SHORT_TIMES * trip_a)
    first, trips, lasts = amps(inrush.first_a), amps(trip_a), engineering(overload_s, "s", 2)
    facts: Facts = {
        "figure": first,
        "limit": trips,
        "rests_on": ("gadget.capacitance_f",),
        "working": say(
            "{capacitor} from a full cell, over {trips} for {lasts}.",
            capacitor=farads(running.gadget.capacitance_f or 0.0),
            trips=trips,
            lasts=lasts,
        ),
    }
    if overload_s > OVERLOAD_S or short_s > SHORT_S:
        yield caution(
            say(
                "Switched on, the gadget's capacitor draws {first} at first. The protection can open, and stay open "
                "until it is plugged in.",
                first=first,
            ),
            **facts,
        )
    else:
        yield fine(
            say("The gadget's capacitor fills before the protection opens: {first} at first.", first=first), **facts
        )
