"""Of placements that are about as roomy: pads within reach of wires, no warm face on the cell, and short wires."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from pocketspark.core.fit.bays import Space, Triple
from pocketspark.core.fit.blocks import Part, Turned, ways_round
from pocketspark.core.fit.branch_and_bound import search
from pocketspark.core.fit.packing import Answer, LinearLength, Packing, Placed
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM, shut_in
from pocketspark.core.models.bay import Side

# Placements this close to the best in clearance may win by what is looked at here.
NEAR_BEST = 6
# A warm face this near to the cell heats it.
HOT_NEAR_MM = 3.0

AXIS_AND_END: dict[Side, tuple[int, int]] = {
    "left": (0, 0),
    "right": (0, 1),
    "front": (1, 0),
    "back": (1, 1),
    "floor": (2, 0),
    "lid": (2, 1),
}


@dataclass(frozen=True)
class Chosen:
    """The placement taken, and what could not be had in any."""

    placed: tuple[Placed, ...]
    hot: bool  # a warm face looks at a cell close by
    shut_in: tuple[str, ...]  # parts whose pads no wire can reach


def choose(space: Space, question: Packing, answer: Answer, parts: Sequence[Part]) -> Chosen:
    """Where none of the near-best is sound, the search is asked again with room for wires, or air, between parts."""
    seen = [_look(space, placed, parts) for placed in (answer.placed, *answer.others)]
    best = _soundest(seen, parts)
    if best.shut_in:
        seen += _asked_again(space, _with_gaps(question, parts, HOOK_UP_WIRE_MM, _any_two), parts)
        best = _soundest(seen, parts)
    if best.hot:
        seen += _asked_again(space, _with_gaps(question, parts, HOT_NEAR_MM, _warms), parts)
        best = _soundest(seen, parts)
    return best


def _look(space: Space, placed: tuple[Placed, ...], parts: Sequence[Part]) -> Chosen:
    ways = [way_of(one, parts) for one in placed]
    return Chosen(placed, _is_hot(placed, parts), shut_in(space, placed, parts, ways))


def _soundest(seen: Sequence[Chosen], parts: Sequence[Part]) -> Chosen:
    return min(seen, key=lambda one: (len(one.shut_in), one.hot, _wires_mm(one.placed, parts)))


def _asked_again(space: Space, question: Packing, parts: Sequence[Part]) -> list[Chosen]:
    answer = search(question, solutions=NEAR_BEST)
    return [_look(space, placed, parts) for placed in (answer.placed, *answer.others) if placed]


def _any_two(one: Part, other: Part) -> bool:
    return one is not other


def _warms(one: Part, other: Part) -> bool:
    return {one.kind, other.kind} == {"cell", "board"} and (one.hot or other.hot)


def _with_gaps(question: Packing, parts: Sequence[Part], mm: float, between: Callable[[Part, Part], bool]) -> Packing:
    """The same with at least `mm` between the parts that `between` says so of."""

    def gap(i: int, j: int) -> LinearLength:
        now = question.item_gap[i][j]
        return LinearLength(max(now.at, mm), now.slope) if between(parts[i], parts[j]) else now

    n = range(len(parts))
    return replace(question, item_gap=tuple(tuple(gap(i, j) for j in n) for i in n))


def _is_hot(placed: Sequence[Placed], parts: Sequence[Part]) -> bool:
    """Does a warm face look at a cell close by?"""
    cells = [one for one in placed if parts[one.item].kind == "cell"]
    for one in placed:
        side = way_of(one, parts).hot_side
        if side is None or not parts[one.item].hot:
            continue
        axis, up = AXIS_AND_END[side]
        for cell in cells:
            away = cell.low[axis] - one.high[axis] if up else one.low[axis] - cell.high[axis]
            beside = all(one.low[a] < cell.high[a] and cell.low[a] < one.high[a] for a in range(3) if a != axis)
            if beside and -1e-6 <= away < HOT_NEAR_MM:
                return True
    return False


def _wires_mm(placed: Sequence[Placed], parts: Sequence[Part]) -> float:
    """Middle to middle from everything to the cell, along the axes as wires run."""
    cell = next((one for one in placed if parts[one.item].kind == "cell"), None)
    if cell is None:
        return 0.0
    return sum(sum(abs(middle(one, a) - middle(cell, a)) for a in range(3)) for one in placed)


def middle(one: Placed, axis: int) -> float:
    return (one.low[axis] + one.high[axis]) / 2


def way_of(one: Placed, parts: Sequence[Part]) -> Turned:
    """The way round that a pose stands for."""
    return _way(parts[one.item], one.pose.name, one.size)


@lru_cache(maxsize=4096)
def _way(part: Part, name: str, size: Triple) -> Turned:
    ways = ways_round(part)
    return next((way for way in ways if way.name == name and _close(way.size, size)), ways[0])


def _close(first: Triple, second: Triple) -> bool:
    return all(abs(a - b) < 1e-6 for a, b in zip(first, second, strict=True))
