"""What if one thing goes wrong: every single fault of the build as it is wired, what it reaches and what stops it."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.circuit.fuse import fuse_for
from pocketspark.core.faults.fault import Fault, faults_of
from pocketspark.core.faults.fault_in_words import (
    CHANCES,
    GRAVITIES,
    SITUATIONS,
    Chance,
    Names,
    chance_of,
    opened_of,
    reaches_of,
    shows_of,
    title_of,
)
from pocketspark.core.faults.outcome import FaultOutcome, solve
from pocketspark.core.faults.reach_of_fault import HOT_SHARE, ORDER, Gravity, Seen, seen_in
from pocketspark.core.faults.situation import FaultSituation, SituationKey, situations_of
from pocketspark.core.faults.soldered_circuit import Soldered, wire_name
from pocketspark.core.finding import Level, Remedy
from pocketspark.core.life.unused import LOST_V
from pocketspark.core.message import Message, say, say_of
from pocketspark.core.models import Build, Gadget, Project
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.rules import findings_of
from pocketspark.core.steps import procedure
from pocketspark.core.units.figures import ShownAmps, ShownVolts, amps
from pocketspark.core.wiring.drawing import Drawing, draw

# Less than this in a wire is not told.
TOLD_A = 1e-6


class SingleFault(Model):
    """One fault. `pads` are what it is about, for the drawing; `reaches` says what comes of it; `seen_when`, where."""

    key: str
    title: Message
    gravity: Gravity
    chance: Chance
    why: Message
    reaches: tuple[Message, ...]
    stopped_by: Message
    shows: Message
    pads: tuple[str, ...]
    seen_when: SituationKey


class PadVolts(Model):
    """Volts of a pad against the cell's minus."""

    pad: str
    volts: ShownVolts


class WireAmps(Model):
    """What a wire carries. `flows`: enough to tell. `share` of the most in any wire; `over`: more than it bears."""

    start: str
    end: str
    amps: ShownAmps
    flows: bool
    share: float
    over: bool


class FaultCircuit(Model):
    """The whole circuit with one fault, or with none, in one situation, once everything has opened that will.

    `bridge`: what flows between two pads that meet.
    """

    situation: SituationKey
    bridge: ShownAmps | None
    settled: bool
    opened: Message
    pads: tuple[PadVolts, ...]
    wires: tuple[WireAmps, ...]


class SituationName(Model):
    """A situation as it is picked."""

    key: SituationKey
    label: Message


class FaultGroup(Model):
    """Faults that come to the same: how it is called, and how it is marked."""

    gravity: Gravity
    label: Message
    level: Level


class FaultRemedy(Model):
    """A change of the plan that makes faults milder, and how many."""

    remedy: Remedy
    says: Message


class WhatIf(Model):
    """All of it. `circuits`: of the fault that was picked, in each situation."""

    headline: Message
    groups: tuple[FaultGroup, ...]
    faults: tuple[SingleFault, ...]
    situations: tuple[SituationName, ...]
    picked: str
    circuits: tuple[FaultCircuit, ...]
    drawing: Drawing
    remedies: tuple[FaultRemedy, ...]


def what_if(project: Project, build: int, picked: str = "", *, tries_remedies: bool = True) -> WhatIf:
    """Every single fault, gravest and likeliest first. `picked`: the key of one to be drawn; none: as it is sound.

    `tries_remedies`: each is done, and every fault gone through again. Raises MissingPart before a cell is chosen.
    """
    study = _study(project.gadget, project.builds[build])
    seen = study.in_order
    chosen = next((one.fault for one in seen if one.fault.key == picked), None)
    return WhatIf(
        headline=_headline(seen),
        groups=tuple(
            FaultGroup(gravity=gravity, label=say(label), level=level)
            for gravity, (label, level) in GRAVITIES.items()
            if any(one.gravity == gravity for one in seen)
        ),
        faults=tuple(study.told(one) for one in seen),
        situations=tuple(
            SituationName(key=one.key, label=say(SITUATIONS[one.key])) for one in study.situations if not one.probe
        ),
        picked=chosen.key if chosen else "",
        circuits=study.circuits(chosen),
        drawing=draw(study.soldered.hookup),
        remedies=tuple(study.remedies) if tries_remedies else (),
    )


def _headline(seen: Sequence[Seen]) -> Message:
    dangers = sum(one.gravity == "danger" for one in seen)
    hidden = sum(one.gravity == "hidden" for one in seen)
    harm = sum(one.gravity == "harm" for one in seen)
    if dangers:
        return say_of(dangers, "One single fault is dangerous", "{count} single faults are dangerous")
    if hidden:
        return say_of(
            hidden,
            "No single fault is dangerous; one takes a safeguard away unseen",
            "No single fault is dangerous; {count} take a safeguard away unseen",
        )
    if harm:
        return say_of(
            harm,
            "No single fault is dangerous; one harms a part",
            "No single fault is dangerous; {count} harm a part",
        )
    return say("No single fault is dangerous, and none harms a part")


@lru_cache(maxsize=4)
def _study(gadget: Gadget, build: Build) -> "_Study":
    """A page asks again for each fault that is picked, and for what would help."""
    chain = Chain(Project(gadget=gadget, builds=(build,)), 0)
    chain.required_running()
    return _Study(chain)


@dataclass(frozen=True)
class _Study:
    """One build with all its faults."""

    chain: Chain

    @cached_property
    def soldered(self) -> Soldered:
        return Soldered(self.chain)

    @cached_property
    def situations(self) -> tuple[FaultSituation, ...]:
        return situations_of(self.chain)

    @cached_property
    def sound(self) -> FaultOutcome:
        return solve(self.soldered, [(None, one) for one in self.situations])

    @cached_property
    def faults(self) -> tuple[Fault, ...]:
        return faults_of(self.chain, self.soldered.hookup)

    @cached_property
    def found(self) -> FaultOutcome:
        """Situations innermost."""
        cases = [(fault, one) for fault in self.faults for one in self.situations]
        return solve(self.soldered, cases, np.tile(self.sound.first.volts, (len(self.faults), 1)))

    @cached_property
    def seen(self) -> list[Seen]:
        return seen_in(self.faults, self.situations, self.sound, self.found)

    @cached_property
    def names(self) -> Names:
        return Names(self.soldered.hookup)

    @cached_property
    def _probed(self) -> frozenset[str]:
        """Pads at which a checkpoint is read with the cell connected."""
        holds = any(step.hold for step in procedure(self.chain.project, self.chain.build_number).steps)
        return frozenset(("gadget.+", "gadget.-")) if holds else frozenset()

    @property
    def in_order(self) -> list[Seen]:
        return sorted(self.seen, key=lambda one: (ORDER.index(one.gravity), CHANCES.index(self._chance(one)[0])))

    def _chance(self, seen: Seen) -> tuple[Chance, Message]:
        return chance_of(self.chain, seen.fault, self._probed)

    @cached_property
    def remedies(self) -> "list[FaultRemedy]":
        return _remedies(self)

    def told(self, seen: Seen) -> SingleFault:
        chance, why = self._chance(seen)
        return SingleFault(
            key=seen.fault.key,
            title=title_of(seen.fault, self.names),
            gravity=seen.gravity,
            chance=chance,
            why=why,
            reaches=reaches_of(seen, self.names, LOST_V),
            stopped_by=opened_of(seen, self.names),
            shows=shows_of(seen),
            seen_when=seen.worst_in or self.situations[0].key,
            pads=tuple(pad for at in seen.fault.at for pad in self._pads_at(at)),
        )

    def _pads_at(self, at: str) -> list[str]:
        part = self.soldered.hookup.parts.by_key.get(at)
        return [part.pad(pad) for pad in part.pads] if part else [at]

    def circuits(self, fault: Fault | None) -> tuple[FaultCircuit, ...]:
        outcome, first = self.sound, 0
        if fault is not None:
            outcome, first = self.found, self.faults.index(fault) * len(self.situations)
        return tuple(self._circuit(outcome, first + at, one) for at, one in enumerate(self.situations) if not one.probe)

    def _circuit(self, outcome: FaultOutcome, case: int, situation: FaultSituation) -> FaultCircuit:
        volts, nodes = outcome.last.volts[case], self.soldered.nodes
        bears = self.soldered.wire_bears_a
        opened = Seen(Fault("old_adapter"), (), 0.0, tuple((situation.key, one) for one in outcome.opened[case]))
        wires = [
            (wire, float(outcome.amps(wire_name(wire))[case]), bears.get(wire_name(wire)))
            for wire in self.soldered.hookup.wires
        ]
        fault = outcome.cases[case][0]
        bridge_a = abs(float(outcome.amps(fault.key)[case])) if fault and fault.kind == "pads_joined" else None
        highest_a = max([abs(current) for _, current, _ in wires], default=0.0) or 1.0
        return FaultCircuit(
            situation=situation.key,
            bridge=bridge_a,
            settled=bool(outcome.last.settled[case]),
            opened=opened_of(opened, self.names),
            pads=tuple(
                PadVolts(pad=pad, volts=float(volts[nodes.of(pad)]))
                for pad in sorted(self.soldered.hookup.parts.pads())
            ),
            wires=tuple(
                WireAmps(
                    start=wire.start,
                    end=wire.end,
                    amps=abs(current),
                    flows=abs(current) > TOLD_A,
                    share=abs(current) / highest_a,
                    over=bears_a is not None and abs(current) > HOT_SHARE * bears_a,
                )
                for wire, current, bears_a in wires
            ),
        )


# What would help ---------------------------------------------------------------------------------------------------

_GRAVE: tuple[Gravity, ...] = ("danger", "hidden", "harm")


def _remedies(study: _Study) -> list[FaultRemedy]:
    """Each is done, and every fault gone through again; one that helps with none, or makes a stop, is not offered."""
    grave = {one.fault.key: one.gravity for one in study.seen if one.gravity in _GRAVE}
    if not grave:
        return []
    stops = _stops(study.chain)
    found = []
    for remedy in _offers(study.chain):
        chain = Chain(study.chain.project.apply(remedy.edits), study.chain.build_number)
        then = {one.fault.key: one.gravity for one in _Study(chain).seen}
        better = [key for key, was in grave.items() if ORDER.index(then.get(key, "none")) > ORDER.index(was)]
        worse = [key for key, now in then.items() if now in _GRAVE and grave.get(key) not in (*_GRAVE,)]
        if better and len(worse) < len(better) and _stops(chain) <= stops:
            says = say_of(len(better), "One of them is milder then.", "{count} of them are milder then.")
            found.append(FaultRemedy(remedy=remedy, says=says))
    return found


def _stops(chain: Chain) -> set[str]:
    return {finding.code for finding in findings_of(chain) if finding.level == "stop"}


def _offers(chain: Chain) -> list[Remedy]:
    build, path, found = chain.build, chain.path, []
    holds_a = fuse_for(chain.required_running())
    if build.fuse_a is None and holds_a is not None:
        label = say("Put a polyfuse of {holds} into the cell's lead", holds=amps(holds_a))
        found.append(Remedy(label=label, edits=(Edit(path=f"{path}.fuse_a", value=holds_a),)))
    if build.cell is not None and build.cell.protection is None:
        edit = Edit(path=f"{path}.cell.own_protection", value={"name": "protection on the cell"})
        found.append(Remedy(label=say("Take a cell with its own protection"), edits=(edit,)))
    if not build.wiring.sleeved:
        edit = Edit(path=f"{path}.wiring.sleeved", value=True)
        found.append(Remedy(label=say("Put a sleeve over every bare joint"), edits=(edit,)))
    return found
