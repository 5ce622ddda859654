"""Wires as they lie in the bay seen from above: from the pads' end of one part to that of another.

A board whose pads are known has them at their places, as it lies. Of another, the end that has them
follows from its socket, or looks at the rest, and they are told side by side in the order in which they are soldered.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.fit.allowances import CRADLE_SLACK_MM, WIRE_ROOM_MM
from pocketspark.core.fit.answer import FitAnswer, Placement
from pocketspark.core.hookup.hookup import HookUp
from pocketspark.core.hookup.wired_parts import WiredPart
from pocketspark.core.models.bay import Side
from pocketspark.core.wiring.cutlist import CutWire, cut_list, parts_named

Spot = tuple[float, float]
_AS_LARGE_MM = 0.2
_ENDS: Mapping[Side, tuple[int, bool]] = {
    "left": (0, False),
    "right": (0, True),
    "front": (1, False),
    "back": (1, True),
}


@dataclass(frozen=True)
class LaidWire:
    """One wire of the cut list with where it begins and ends, mm from the bay's left and front."""

    wire: CutWire
    start: Spot
    end: Spot


def laid_wires(chain: Chain, hookup: HookUp, answer: FitAnswer) -> list[LaidWire]:
    """Those between parts that are placed; the gadget's own terminals are taken at the bay's left end."""
    wires = cut_list(chain)
    placed = {one.part: one for one in answer.placements}
    spots: dict[str, Spot] = {}
    for key, name in parts_named(chain, hookup):
        if name in placed:
            one, part = placed[name], hookup.parts.by_key[key]
            axis, far = _pads_end(one, answer)
            spots |= _at_places(part, one, axis, far) or _in_a_row(_pads_of(key, wires), one, axis, far)
    gadget = _pads_of("gadget", wires)
    width = answer.size_mm[1]
    spots |= {pad: (0.0, width * (number + 0.5) / len(gadget)) for number, pad in enumerate(gadget)}
    known = [wire for wire in wires if wire.start in spots and wire.end in spots]
    return [LaidWire(wire, spots[wire.start], spots[wire.end]) for wire in known]


def _at_places(part: WiredPart, one: Placement, axis: int, far: bool) -> dict[str, Spot]:
    """Of a board that lies flat; none where it stands, lies without its shell, or its pads are not known.

    `far`: its end with the pads is at the higher end of the axis, so that its socket, or its input, is at the lower.
    """
    length, width = part.size_mm
    over = one.max_mm[axis] - one.min_mm[axis] - length - WIRE_ROOM_MM - one.stop_mm
    beside = one.max_mm[1 - axis] - one.min_mm[1 - axis] - width
    if abs(over) > _AS_LARGE_MM or not -_AS_LARGE_MM < beside < 2 * (one.cradle_mm + CRADLE_SLACK_MM) + _AS_LARGE_MM:
        return {}
    # Quarter turns, never a mirror: from the left its socket goes to the front, the right, the back. Upside down it
    # lies as if turned over about its own length.
    runs_up = (far == (axis == 0)) != one.upside_down
    start = one.min_mm[axis] if far else one.max_mm[axis]
    middle = (one.min_mm[1 - axis] + one.max_mm[1 - axis]) / 2
    spots: dict[str, Spot] = {}
    for pad, (along, across) in part.places.items():
        a = start + (length if far else -length) * along
        b = middle + (width if runs_up else -width) * (across - 0.5)
        spots[part.pad(pad)] = (a, b) if axis == 0 else (b, a)
    return spots


def _pads_of(key: str, wires: Sequence[CutWire]) -> list[str]:
    """Those that are soldered to, in that order."""
    return list(dict.fromkeys(pad for wire in wires for pad in (wire.start, wire.end) if pad.split(".")[0] == key))


def _in_a_row(pads: Sequence[str], one: Placement, axis: int, far: bool) -> dict[str, Spot]:
    """Side by side amid the strip that is kept for a part's wires."""
    along = one.max_mm[axis] - WIRE_ROOM_MM / 2 if far else one.min_mm[axis] + WIRE_ROOM_MM / 2
    across, width = one.min_mm[1 - axis], one.max_mm[1 - axis] - one.min_mm[1 - axis]
    besides = [across + width * (number + 0.5) / len(pads) for number in range(len(pads))]
    return {pad: (along, at) if axis == 0 else (at, along) for pad, at in zip(pads, besides, strict=True)}


def _pads_end(one: Placement, answer: FitAnswer) -> tuple[int, bool]:
    """Along which axis, and whether at its far end."""
    if one.face_side is not None and one.face_side in _ENDS:
        axis, at_far_wall = _ENDS[one.face_side]
        return axis, not at_far_wall
    axis = max((0, 1), key=lambda a: one.max_mm[a] - one.min_mm[a])
    others = [other for other in answer.placements if other is not one]
    rest = sum(other.min_mm[axis] + other.max_mm[axis] for other in others) / (2 * len(others)) if others else 0.0
    return axis, rest > (one.min_mm[axis] + one.max_mm[axis]) / 2
