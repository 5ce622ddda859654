"""What a maker's own wires make of the circuit between cell and gadget, as far as it can be computed with."""

from dataclasses import dataclass
from functools import lru_cache

from pocketspark.core.chosen.chosen_parts import ChosenParts
from pocketspark.core.hookup.hookup import HookUp, hook_up
from pocketspark.core.hookup.nets import Nets, nets_of
from pocketspark.core.models import Build, Gadget, Project


@dataclass(frozen=True)
class AsWired:
    """`diodes`: how many stand in every way from the cell to the gadget's plus."""

    diodes: int
    through_regulator: bool = True
    through_protection: bool = True


def as_wired(chosen: ChosenParts) -> AsWired | None:
    """None where the tool made the wires, or they lead nowhere."""
    if chosen.build.wiring.wires is None or chosen.build.cell is None:
        return None
    return _read(chosen.gadget, chosen.build)


@lru_cache(maxsize=64)
def _read(gadget: Gadget, build: Build) -> AsWired | None:
    hookup = hook_up(ChosenParts(Project(gadget=gadget, builds=(build,)), 0))
    nets, parts = nets_of(hookup), hookup.parts
    plus, minus = parts.roles.gadget
    cell_plus, cell_minus = parts.roles.cell_plus[0], parts.roles.cell_minus[0]
    if not (nets.flows(cell_plus, plus) and nets.reaches(cell_minus, minus)):
        return None
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
