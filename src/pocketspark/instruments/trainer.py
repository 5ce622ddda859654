"""Six faulty benches to find out by measuring. What is wrong comes from the trade's list of mistakes; each is graded.

A bench is a situation in numbers; every probe reads it through the same physics, so its readings fit together.
"""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import Label, say
from pocketspark.core.models.model import Model
from pocketspark.core.physics.charge_and_discharge import CellGroup, ChargerSetting, charge
from pocketspark.core.physics.ocv import curve_of
from pocketspark.core.units.figures import Figure, amp_hours, amps, millivolts, ohms, volts
from pocketspark.instruments.meter import Meter

Conclusion = Literal[
    "load_left_on", "wrong_resistor", "worn_cell", "self_discharge", "protection_trips", "swapped_leads", "thin_cable",
    "off_drain",
]  # fmt: skip
ProbeName = Literal[
    "lead_v", "r_prog_ohm", "rest_v", "charge_a", "charger_v", "late_a", "day_drop_v", "off_a", "capacity_ah",
    "two_loads_ohm", "peak_a", "trip_a",
]  # fmt: skip

K_VOLTS, LABEL_AH, PLAN_OHM = 1200.0, 0.9, 3000.0
NEW_OHM = 0.12
_CURVE = curve_of("li_4v20")

CONCLUSIONS: Mapping[Conclusion, str] = {
    "load_left_on": "Something draws from the cell while it charges",
    "wrong_resistor": "Another charge-current resistor is fitted than planned",
    "worn_cell": "The cell is worn, or holds less than its label",
    "self_discharge": "The cell discharges itself",
    "protection_trips": "The protection trips at the gadget's peak",
    "swapped_leads": "The cell's plug is wired the other way round",
    "thin_cable": "The cable is too thin for the current",
    "off_drain": "The gadget, or a regulator, draws while switched off",
}


@dataclass(frozen=True)
class Situation:
    """What is on a bench, in numbers. Sound unless said otherwise."""

    capacity_ah: float = LABEL_AH
    r_ohm: float = NEW_OHM
    r_prog_ohm: float = PLAN_OHM
    cable_ohm: float = 0.15
    load_a: float = 0.0  # on the cell while it charges
    off_a: float = 18e-6
    sinks_v_per_day: float = 0.004
    peak_a: float = 0.45
    trip_a: float = 2.6
    lead_sign: int = 1

    @property
    def charge_a(self) -> float:
        """At half charge, as much as program, cable and source let through."""
        left_v = 5.0 - float(_CURVE.at(0.5))
        return min(K_VOLTS / self.r_prog_ohm, left_v / (self.cable_ohm + 0.35 + self.r_ohm))

    @property
    def late_a(self) -> float:
        """What the meter shows an hour after a sound charge would have ended."""
        setting = ChargerSetting(K_VOLTS / self.r_prog_ohm, cable_ohm=self.cable_ohm)
        hours = float(charge(CellGroup(_CURVE, self.capacity_ah, self.r_ohm), setting).hours.flat[0])
        return self.load_a if math.isfinite(hours) else 0.0


@dataclass(frozen=True)
class Probe:
    """One measurement that may be made: with what, how long it takes, and what it reads."""

    label: str
    instrument: str
    minutes: int
    reads: Callable[[Situation], float]
    write: Callable[[float], Figure]
    powers: bool = False  # connects the cell or USB


PROBES: Mapping[ProbeName, Probe] = {
    "lead_v": Probe(
        "Volts at the cell's plug, red probe where the board's plus comes", "multimeter", 1,
        lambda s: s.lead_sign * float(_CURVE.at(0.6)), volts,
    ),
    "r_prog_ohm": Probe(
        "Ohms from the PROG pin to ground, nothing connected", "multimeter", 3, lambda s: s.r_prog_ohm, ohms
    ),
    "rest_v": Probe(
        "Volts of the cell, at rest since an hour", "multimeter", 60, lambda _s: float(_CURVE.at(0.98)), volts
    ),
    "charge_a": Probe("Amps from USB, cell half full", "USB meter", 15, lambda s: s.charge_a, amps, powers=True),
    "charger_v": Probe(
        "Volts at the board's 5 V pads while it charges", "multimeter", 5,
        lambda s: 5.0 - s.charge_a * s.cable_ohm, volts, powers=True,
    ),
    "late_a": Probe(
        "Amps from USB, an hour after it should have ended", "USB meter", 30, lambda s: s.late_a, amps, powers=True
    ),
    "day_drop_v": Probe(
        "Drop in a day, the cell by itself", "multimeter, 24 h later", 40, lambda s: s.sinks_v_per_day,
        millivolts,
    ),
    "off_a": Probe(
        "Amps from the cell, gadget switched off", "multimeter", 5, lambda s: s.off_a, amps, powers=True
    ),
    "capacity_ah": Probe(
        "Charge from full to 3.0 V", "cell tester", 45, lambda s: s.capacity_ah, amp_hours, powers=True
    ),
    "two_loads_ohm": Probe(
        "Resistance of the cell by two loads", "bench load", 10, lambda s: s.r_ohm, ohms, powers=True
    ),
    "peak_a": Probe(
        "Most amps as the gadget starts", "multimeter, largest value kept", 5, lambda s: s.peak_a, amps, powers=True
    ),
    "trip_a": Probe(
        "Load raised until the protection cuts", "bench load", 10, lambda s: s.trip_a, amps, powers=True
    ),
}  # fmt: skip


@dataclass(frozen=True)
class _Case:
    """A bench as the maker meets it, its truth, and which probes prove it."""

    complaint: Label
    truth: Conclusion
    make: Callable[[np.random.Generator], Situation]
    proofs: Sequence[frozenset[ProbeName]]  # any one of these sets is proof
    explanation: str


def _off(rng: np.random.Generator, low: float, high: float) -> float:
    return float(rng.uniform(low, high))


_CASES: Mapping[str, _Case] = {
    "lamp": _Case(
        "A garden weather post with a 900 mAh cell. “The charge lamp has been on since last night and never changes.”",
        "load_left_on",
        lambda rng: Situation(load_a=_off(rng, 0.06, 0.14)),
        (frozenset({"late_a"}),),
        "The charger ends when its current falls below a tenth of what is programmed. Whatever the gadget draws flows "
        "on, so it never falls that far, and the cell is kept at 4.20 V for ever. Off while it charges, or a board "
        "with load sharing.",
    ),
    "warm": _Case(
        "A bat-call recorder with a 900 mAh cell, 3.0 kΩ planned. “Full in an hour, but the cell gets warm.”",
        "wrong_resistor",
        lambda rng: Situation(r_prog_ohm=_off(rng, 1150, 1300)),
        (frozenset({"r_prog_ohm"}), frozenset({"charge_a"})),
        "The board still has the resistor it came with: 1.2 kΩ gives 1 A, more than 1C for this cell. I = K / R, and "
        "the ohms at the PROG pin show it with no power on.",
    ),
    "short": _Case(
        "A reading lamp with a salvaged 900 mAh cell. “Charges, ends, works: half as long as it should.”",
        "worn_cell",
        lambda rng: Situation(capacity_ah=_off(rng, 0.40, 0.52), r_ohm=_off(rng, 0.35, 0.6)),
        (frozenset({"capacity_ah"}),),
        "Only a measured capacity shows it: the label is years old. Resistance went up with it, which is a "
        "hint and no proof.",
    ),
    "lying": _Case(
        "A soil probe, used once a month. “Full when I put it away, flat when I came back.”",
        "self_discharge",
        lambda rng: Situation(sinks_v_per_day=_off(rng, 0.045, 0.09)),
        (frozenset({"day_drop_v", "off_a"}),),
        "Two things empty a cell that lies unused: what the gadget draws while off, and the cell itself. The off "
        "current was microamps, so it is the cell: over 30 mV in a day by itself, and it goes to recycling.",
    ),
    "resets": _Case(
        "A pump timer. “The cell is full, the pump twitches, everything goes dead, and after a moment again.”",
        "protection_trips",
        lambda rng: Situation(peak_a=_off(rng, 2.2, 2.6), trip_a=_off(rng, 1.5, 1.8)),
        (frozenset({"peak_a", "trip_a"}),),
        "A motor that starts draws several times its running current. Where that is more than the protection's trip "
        "current, it cuts, lets go, and cuts again. Both figures are needed: the peak, and what the protection bears.",
    ),
    "new": _Case(
        "A freshly wired headlamp, nothing plugged in yet. “The plug fits, shall I?”",
        "swapped_leads",
        lambda _rng: Situation(lead_sign=-1),
        (frozenset({"lead_v"}),),
        "Connectors that look alike are wired both ways. The meter says minus, so the pins are swapped in the plug "
        "before anything is joined; a board that has seen it once the wrong way round is dead.",
    ),
}  # fmt: skip


class TrainerBench(Model):
    """A bench as it is shown."""

    key: str
    complaint: Label


class TrainerReading(Model):
    """What one probe read."""

    probe: ProbeName
    text: str


class TrainerGrade(Model):
    """How a diagnosis went: at most 10 points, each lost one explained."""

    points: int
    right: bool
    proven: bool
    minutes: int
    said: tuple[str, ...]
    explanation: str


class NoSuchBench(PocketSparkError, LookupError):
    """There is no bench of that name."""

    status = 404


def trainer_benches() -> tuple[TrainerBench, ...]:
    return tuple(TrainerBench(key=key, complaint=case.complaint) for key, case in _CASES.items())


def read_probe(key: str, probe: ProbeName, seed: int) -> TrainerReading:
    """What this probe reads on this bench; the same seed is the same bench. Raises NoSuchBench."""
    situation = _case(key).make(np.random.default_rng(seed))
    if situation.lead_sign < 0 and PROBES[probe].powers:
        # The board died as the cell was joined: nothing flows any more.
        situation = replace(situation, r_prog_ohm=1e9, load_a=0.0, off_a=0.0, peak_a=0.0, trip_a=0.0)
    value = Meter(seed=seed, gain_off=0.005).reads(PROBES[probe].reads(situation), key=list(PROBES).index(probe))
    return TrainerReading(probe=probe, text=str(PROBES[probe].write(value)))


def grade_diagnosis(key: str, measured: Sequence[ProbeName], conclusion: Conclusion) -> TrainerGrade:
    """Five points for being right, three for having measured what proves it, two for not measuring around it.

    Powering a board before its polarity is known costs all but the five. Raises NoSuchBench.
    """
    case = _case(key)
    right = conclusion == case.truth
    proven = any(proof <= set(measured) for proof in case.proofs)
    minutes = sum(PROBES[probe].minutes for probe in measured)
    needed = min(sum(PROBES[probe].minutes for probe in proof) for proof in case.proofs)
    burnt = case.truth == "swapped_leads" and _powered_first(measured)
    said = []
    if not right:
        said.append(f"It was something else: {CONCLUSIONS[case.truth].lower()}.")
    if burnt:
        said.append("It was powered before its polarity was known: the board is dead. Polarity first, always.")
    if not proven:
        proof = " and ".join(f"“{PROBES[probe].label}”" for probe in sorted(case.proofs[0]))
        said.append(f"Not proven: {proof} would have shown it.")
    spare = max(0, minutes - needed)
    thrift = 2 if spare <= 15 else 1 if spare <= 60 else 0
    if thrift < 2:
        said.append(f"{minutes} min at the bench, where {needed} are enough.")
    earned = 0 if burnt else 3 * proven + thrift * proven
    return TrainerGrade(
        points=5 * right + earned,
        right=right,
        proven=proven,
        minutes=minutes,
        said=tuple(said) or ("Right, proven, and nothing measured in vain.",),
        explanation=case.explanation,
    )


def _powered_first(measured: Sequence[ProbeName]) -> bool:
    before = measured[: measured.index("lead_v")] if "lead_v" in measured else measured
    return any(PROBES[probe].powers for probe in before)


def _case(key: str) -> _Case:
    if key not in _CASES:
        raise NoSuchBench(say("there is no bench '{key}': {names}", key=key, names=", ".join(_CASES)))
    return _CASES[key]
