"""Single faults of a build as it is wired: one joint that is open, two neighbours that meet, one part that failed."""

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import combinations, pairwise
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.chain.old_charger import old_charger
from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.hookup.nets import nets_of
from pocketspark.core.hookup.wired_parts import WiredPart

FaultKind = Literal[
    "joint_open",
    "pads_joined",
    "wire_on_case",
    "part_shorted",
    "part_open",
    "cannot_stop_discharge",
    "cannot_stop_charge",
    "does_not_wake",
    "charger_stuck_on",
    "resistor_open",
    "resistor_shorted",
    "cell_reversed",
    "cells_unlike",
    "old_adapter",
]
# Pads whose middles are no farther apart than this are bridged by one slip of solder or of a probe, and under this by
# hardly anything at all (common practice, no source).
NEIGHBOURS_MM, CLOSE_MM = 6.0, 2.5


@dataclass(frozen=True)
class Fault:
    """`at`: the pads of a joint or of a pair, or the part that failed, by their names in the hook-up."""

    kind: FaultKind
    at: tuple[str, ...] = ()
    apart_mm: float | None = None  # of two pads whose places are known

    @property
    def key(self) -> str:
        return ":".join((self.kind, *self.at))


def faults_of(chain: Chain, hookup: HookUp) -> tuple[Fault, ...]:
    """Every one that is looked at, in the order of the circuit."""
    found = [
        *_joints(hookup),
        *(fault for part in hookup.parts.by_key.values() if not _sleeved(chain, part) for fault in _bridges(part)),
        *_on_case(chain, hookup),
        *(fault for part in hookup.parts.by_key.values() for fault in _failures(part)),
        *_of_the_cells(chain, hookup),
        *_by_somebody(chain),
    ]
    return tuple(dict.fromkeys(found))


def _joints(hookup: HookUp) -> Iterator[Fault]:
    """Either end of a wire that is soldered: open, they are the same."""
    for wire in hookup.wires:
        if not wire.present:
            yield Fault("joint_open", (wire.start, wire.end))


# What is soldered to leads, and not to pads of a board: a sleeve goes over each joint.
_ON_LEADS = ("cell", "diode", "switch", "fuse")


def _sleeved(chain: Chain, part: WiredPart) -> bool:
    return chain.build.wiring.sleeved and part.kind in _ON_LEADS


def _bridges(part: WiredPart) -> Iterator[Fault]:
    """Pads that are near each other by their places, else in the order in which boards have them, and each plus with
    its own minus. Two that are one net anyway are no pair."""
    inside = {frozenset(pair) for pair in part.joined}
    for first, second, apart_mm in _near(part):
        if frozenset((first, second)) not in inside:
            yield Fault("pads_joined", (part.pad(first), part.pad(second)), apart_mm)


def _near(part: WiredPart) -> Iterator[tuple[str, str, float | None]]:
    if part.places:
        length, width = part.size_mm
        for first, second in combinations(part.pads, 2):
            (x, y), (u, v) = part.places[first], part.places[second]
            apart_mm = ((x - u) ** 2 * length**2 + (y - v) ** 2 * width**2) ** 0.5
            if apart_mm <= NEIGHBOURS_MM:
                yield first, second, round(apart_mm, 1)
        return
    minus = [pad for pad in part.pads if pad.endswith("-") or pad == "GND"]
    plus = [pad for pad in part.pads if pad not in minus]
    for first, second in (*pairwise(plus), *pairwise(minus)):
        yield first, second, None
    for pad in plus:
        partner = f"{pad[:-1]}-" if pad.endswith("+") else "GND"
        if partner in minus:
            yield pad, partner, None


def _on_case(chain: Chain, hookup: HookUp) -> Iterator[Fault]:
    """One wire of each net; of a metal case that is known to lie on a net."""
    case = chain.build.wiring.case_touches
    if not chain.gadget.shell.metal or case is None or chain.build.wiring.sleeved:
        return
    nets = nets_of(hookup)
    for net in nets.all():
        soldered = [wire for wire in hookup.wires if wire.start in net and not wire.present]
        if soldered and not nets.same(case, soldered[0].start):
            yield Fault("wire_on_case", (soldered[0].start,))


def _failures(part: WiredPart) -> Iterator[Fault]:
    if part.kind in ("diode", "regulator"):
        yield Fault("part_shorted", (part.key,))
        yield Fault("part_open", (part.key,))
    if ("B+", "OUT+") in part.through:
        yield Fault("part_shorted", (part.key,))
    if "B-" in part.pads and any("B-" in pair for pair in part.through):
        yield from (Fault(kind, (part.key,)) for kind in _OF_A_PROTECTION)
    if part.kind == "charger":
        yield Fault("charger_stuck_on", (part.key,))
        yield Fault("resistor_open", (part.key,))
        yield Fault("resistor_shorted", (part.key,))


_OF_A_PROTECTION: tuple[FaultKind, ...] = ("cannot_stop_discharge", "cannot_stop_charge", "does_not_wake")


def _of_the_cells(chain: Chain, hookup: HookUp) -> Iterator[Fault]:
    for key in hookup.parts.cells:
        yield Fault("cell_reversed", (key,))
    if len(hookup.parts.cells) > 1:
        yield Fault("cells_unlike", hookup.parts.cells[:2])
    if chain.cell is not None and chain.cell.protection is not None:
        yield from (Fault(kind, (hookup.parts.cells[0],)) for kind in _OF_A_PROTECTION)


def _by_somebody(chain: Chain) -> Iterator[Fault]:
    """Somebody plugs in what fits: the adapter of before."""
    if old_charger(chain.gadget) is not None and chain.gadget.existing_charging.treatment != "cut":
        yield Fault("old_adapter")
