"""Reads a maker's own wires for what they make of the circuit that is computed with."""

from functools import lru_cache

from pocketspark.core.chain import Chain
from pocketspark.core.chain.as_wired import READERS, AsWired
from pocketspark.core.models import Build, Gadget, Project
from pocketspark.core.wiring.hookup import HookUp, hook_up
from pocketspark.core.wiring.nets import Nets, nets_of


def as_wired(chain: Chain) -> AsWired:
    """Of a build whose maker changed its wires. Raises MissingPart before a cell is chosen."""
    return _read(chain.gadget, chain.build)


@lru_cache(maxsize=64)
def _read(gadget: Gadget, build: Build) -> AsWired:
    hookup = hook_up(Chain(Project(gadget=gadget, builds=(build,)), 0))
    nets, parts = nets_of(hookup), hookup.parts
    plus, minus = parts.roles.gadget
    cell_plus, cell_minus = parts.roles.cell_plus[0], parts.roles.cell_minus[0]
    if not (nets.flows(cell_plus, plus) and nets.reaches(cell_minus, minus)):
        return AsWired(diodes=0, joined=False)
    return AsWired(
        diodes=sum(_must_pass(nets, cell_plus, plus, key) for key in _of_kind(hookup, "diode")),
        through_regulator=all(_must_pass(nets, cell_plus, plus, key) for key in _of_kind(hookup, "regulator")),
        through_protection=_goes_through_one(nets, hookup, cell_minus, minus),
    )


def _of_kind(hookup: HookUp, kind: str) -> list[str]:
    return [key for key, part in hookup.parts.by_key.items() if part.kind == kind]


def _must_pass(nets: Nets, start: str, end: str, key: str) -> bool:
    return not nets.reaches(start, end, without=[key])


def _goes_through_one(nets: Nets, hookup: HookUp, start: str, end: str) -> bool:
    """Through the board's transistors, wherever a board has some."""
    protections = [key for key, part in hookup.parts.by_key.items() if "B-" in part.pads and part.through]
    return not protections or not nets.reaches(start, end, without=protections)


READERS.append(as_wired)
