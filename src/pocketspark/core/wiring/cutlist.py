"""The cut list: how long, how thick, which colour."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.circuit import circuit_of
from pocketspark.core.fit.blocks import boards_by_name
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.fit.spaces import way_mm
from pocketspark.core.fit.styles import place_of
from pocketspark.core.hookup.hookup import HookUp, hook_up
from pocketspark.core.kinds.wires import gauge, gauge_for, ohm_per_m
from pocketspark.core.models.model import Model
from pocketspark.core.models.wiring import Wire
from pocketspark.core.units.figures import ShownAmps, ShownMillivolts, ShownWholeMillimetres
from pocketspark.core.wiring.drawing import COLOURS, colours_of
from pocketspark.core.wiring.solder_order import goes_to_a_cell, in_order, letters

# A loop to open the case with, and to cut off again; and a length where nobody has placed anything.
SERVICE_MM, UNKNOWN_MM = 25.0, 90.0


# Of a wire that joins nothing to anything.
UNJOINED = COLOURS["other"]
BOARDS = ("charger", "protection", "regulator", "board")
Places = dict[str, tuple[float, ...]]


class CutWire(Model):
    """One wire to cut. Ends are as soldered: stripped 3 mm and tinned.

    `letter`: its name on the drawing. `step`: the step of the build in which it is soldered.
    """

    letter: str
    step: Literal["wires", "cell_last"]
    start: str
    end: str
    length_mm: ShownWholeMillimetres
    awg: int
    gauge: str
    colour: str
    current_a: ShownAmps
    drop_v: ShownMillivolts
    guessed: bool  # nobody has placed these parts yet


@dataclass(frozen=True)
class CutList:
    """The wires of one build, as they are kept with its chain."""

    wires: list[CutWire]


def cut_list(chain: Chain) -> list[CutWire]:
    """Every wire that is not there already, in the order they are soldered.

    Raises MissingPart before a cell is chosen.
    """
    return chain.kept(CutList, lambda: CutList(_cut_list(chain, hook_up(chain)))).wires


def _cut_list(chain: Chain, hookup: HookUp) -> list[CutWire]:
    places, named, colours = _places(chain, hookup), letters(hookup), colours_of(hookup)
    return [_cut(chain, hookup, places, colours, wire, named[wire.start, wire.end]) for wire in in_order(hookup)]


def _cut(chain: Chain, hookup: HookUp, places: Places, colours: Mapping[str, str], wire: Wire, letter: str) -> CutWire:
    start, end = wire.start, wire.end
    here, there = (places.get(pad.split(".")[0]) for pad in (start, end))
    known = here is not None and there is not None
    length = UNKNOWN_MM
    if here is not None and there is not None:
        length = _way_mm(chain, here, there) + SERVICE_MM
    current = _current(chain, start, end)
    awg = gauge_for(current, length / 1000)
    drop = current * ohm_per_m(awg) * length / 1000
    return CutWire(
        letter=letter,
        step="cell_last" if goes_to_a_cell(wire, hookup) else "wires",
        start=start,
        end=end,
        length_mm=round(length / 5) * 5,
        awg=awg,
        gauge=gauge(awg),
        colour=colours.get(start, UNJOINED),
        current_a=current,
        drop_v=drop,
        guessed=not known,
    )


def _way_mm(chain: Chain, here: tuple[float, ...], there: tuple[float, ...]) -> float:
    place = place_of(chain.gadget, chain.build)
    if place is None:
        return sum(abs(a - b) for a, b in zip(here, there, strict=True))
    return way_mm(place.bay, here, there)


def _current(chain: Chain, start: str, end: str) -> float:
    """The peak that this wire carries."""
    running, charging = chain.required_running(), chain.charging
    charge_a = charging.current.spread.most_a if charging else 0.0
    parts = {pad.split(".")[0] for pad in (start, end)}
    if "source" in parts:
        return charge_a + (charging.current.source_load_a if charging else 0.0)
    if "gadget" in parts:
        return max((mode.most_a for mode in chain.gadget.modes), default=0.1)
    # Everything between: before a converter more may flow than the gadget draws, and the charge goes the same way.
    return max(charge_a, circuit_of(running).most("cell_out_a"), 0.05)


def _places(chain: Chain, hookup: HookUp) -> Places:
    """Middles of the placed parts in the bay, by their keys; the gadget's own terminals are taken at its left end."""
    answer = fit_of(chain.project, chain.build_number)
    if answer is None:
        return {}
    found = {
        placement.part: tuple((a + b) / 2 for a, b in zip(placement.min_mm, placement.max_mm, strict=True))
        for placement in answer.placements
    }
    by_key = {key: found[name] for key, name in parts_named(chain, hookup) if name in found}
    return by_key | {"gadget": (0.0, answer.size_mm[1] / 2, answer.size_mm[2] / 2)}


def parts_named(chain: Chain, hookup: HookUp) -> Iterator[tuple[str, str]]:
    """Keys of the hook-up with the names of the fit, where the second of a name has its number."""
    build = chain.build
    if build.cell is not None:
        cells = hookup.parts.cells
        yield from ((key, f"{build.cell.name} #{number}") for number, key in enumerate(cells, 1) if len(cells) > 1)
        yield from ((key, build.cell.name) for key in cells if len(cells) == 1)
    boards = [key for key, part in hookup.parts.by_key.items() if part.kind in BOARDS]
    # A regulator that is no board of its own comes after them.
    yield from zip(boards, (name for name, _ in boards_by_name(build)), strict=False)
