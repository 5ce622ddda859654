"""Of placements that are about as roomy, each at rest: pads within reach of wires, no warm face on the cell, nothing
that tips, and short wires."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache

from pocketspark.core.fit.bays import Space, Triple
from pocketspark.core.fit.blocks import Part, Turned, ways_round
from pocketspark.core.fit.branch_and_bound import search, some_of_many
from pocketspark.core.fit.packing import Answer, LinearLength, Packing, Placed
from pocketspark.core.fit.reach import HOOK_UP_WIRE_MM, shut_in
from pocketspark.core.fit.settling import settled
from pocketspark.core.fit.standing import Carrier, carriers, middle_is_carried
from pocketspark.core.models.bay import Side

# Placements this close to the best in clearance may win by what is looked at here.
NEAR_BEST, NEARLY_AS_MUCH_MM = 6, 0.05
# So many are looked at where those tip or cannot be put in, and so long is looked for them.
MANY, NODES_FOR_MORE = 24, 4_000
# More foam than this under a part is a part that stands on nothing (common practice, no source).
FOAM_MM = 1.0
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
    ill_carried: int  # parts whose middle nothing carries, or thick foam alone


def choose(
    space: Space,
    question: Packing,
    answer: Answer,
    parts: Sequence[Part],
    least_mm: float,
    trouble: Callable[[tuple[Placed, ...]], int],
) -> Chosen:
    """Where none of the near-best is sound, the search is asked again: with room for wires, with air between parts, and
    for more placements that are as roomy as is worth having.

    `least_mm`: the clearance that a placement keeps as it comes to rest, if it is there. `trouble`: how many parts of a
    placement have no way in, or are in the way of a plug.
    """
    seen = _at_rest(space, question, answer, parts, least_mm)
    best = _soundest(seen, parts)
    if best.shut_in:
        seen += _asked_again(space, _with_gaps(question, parts, HOOK_UP_WIRE_MM, _any_two), parts, least_mm)
        best = _soundest(seen, parts)
    if best.hot:
        seen += _asked_again(space, _with_gaps(question, parts, HOT_NEAR_MM, _warms), parts, least_mm)
        best = _soundest(seen, parts)
    if best.ill_carried or trouble(best.placed):
        enough = replace(question, most=min(answer.value, least_mm + NEARLY_AS_MUCH_MM))
        seen += _at_rest(space, enough, some_of_many(enough, MANY, NODES_FOR_MORE), parts, least_mm)
    return _least_trouble(seen, parts, trouble)


def _least_trouble(
    seen: Sequence[Chosen], parts: Sequence[Part], trouble: Callable[[tuple[Placed, ...]], int]
) -> Chosen:
    """Of the soundest the first that has none; else the one that has least."""
    best_first = sorted(seen, key=lambda one: _faults(one, parts))
    as_sound = [one for one in best_first if _faults(one, parts)[:2] == _faults(best_first[0], parts)[:2]]
    # Found out one by one: mostly the first has none.
    least, count = best_first[0], trouble(best_first[0].placed)
    for one in as_sound[1:]:
        if not count:
            break
        if (of_this := trouble(one.placed)) < count:
            least, count = one, of_this
    return least


def _asked_again(space: Space, question: Packing, parts: Sequence[Part], least_mm: float) -> list[Chosen]:
    return _at_rest(space, question, search(question, solutions=NEAR_BEST), parts, least_mm)


def _at_rest(space: Space, question: Packing, answer: Answer, parts: Sequence[Part], least_mm: float) -> list[Chosen]:
    """The placements of an answer, come to rest and looked at."""
    air_mm = max(min(answer.value - NEARLY_AS_MUCH_MM, least_mm), 0.0)
    found = (settled(question, placed, air_mm) for placed in (answer.placed, *answer.others) if placed)
    return [_look(space, placed, parts) for placed in found]


def _look(space: Space, placed: tuple[Placed, ...], parts: Sequence[Part]) -> Chosen:
    ways = [way_of(one, parts) for one in placed]
    return Chosen(
        placed, _is_hot(placed, parts), shut_in(space, placed, parts, ways), _ill_carried(space, placed, parts)
    )


def _soundest(seen: Sequence[Chosen], parts: Sequence[Part]) -> Chosen:
    return min(seen, key=lambda one: _faults(one, parts))


def _faults(one: Chosen, parts: Sequence[Part]) -> tuple[int, bool, int, float]:
    """The gravest first."""
    return len(one.shut_in), one.hot, one.ill_carried, _wires_mm(one.placed, parts)


def _ill_carried(space: Space, placed: Sequence[Placed], parts: Sequence[Part]) -> int:
    """How many parts lie with their middle over nothing, or on thick foam though no wall holds them there."""
    solids = [Carrier(solid.name, solid.low, solid.high) for solid in space.solids if not solid.on_lid]
    bodies = [Carrier("", one.low, one.high) for one in placed]
    ill = 0
    for one, body in zip(placed, bodies, strict=True):
        under = carriers(body, [*bodies, *solids])
        foam_mm = body.low[2] - max((other.high[2] for other in under), default=0.0)
        held = space.is_curved or way_of(one, parts).face_side is not None
        ill += not middle_is_carried(body, under) or (foam_mm > FOAM_MM and not held)
    return ill


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
