"""A bay of several spaces: which room a place is in, and how far it is from one to another through the gaps between."""

from collections.abc import Iterator, Sequence
from itertools import permutations
from math import inf, isfinite

from pocketspark.core.fit.bays import Triple, origin_of
from pocketspark.core.models.bay import Bay, Passage, Room, joined


def spaces_of(bay: Bay) -> list[set[int]]:
    """The rooms, by their places in the list, in groups that are one space each."""
    spaces: list[set[int]] = []
    for number, room in enumerate(bay.rooms):
        joins = [space for space in spaces if any(joined(room, bay.rooms[other]) for other in space)]
        spaces = [space for space in spaces if space not in joins] + [{number}.union(*joins)]
    return sorted(spaces, key=min)


def way_mm(bay: Bay, start: Sequence[float], end: Sequence[float]) -> float:
    """How far a wire runs along the walls between two places of the fit; through named gaps where they lie apart."""
    straight = _along_the_walls(start, end)
    if not bay.passages or bay.tube is not None:
        return straight
    spaces = spaces_of(bay)
    first, last = _space_at(bay, spaces, start), _space_at(bay, spaces, end)
    if first == last:
        return straight
    origin = origin_of(bay)
    middles = [_middle(passage, origin) for passage in bay.passages]
    joins = [set(_spaces_joined_by(bay, spaces, passage)) for passage in bay.passages]
    # From gap to gap, each time one farther, until no way becomes shorter.
    reached_mm = [
        _along_the_walls(start, middle) if first in spaces_joined else inf
        for middle, spaces_joined in zip(middles, joins, strict=True)
    ]
    for _ in middles:
        for one, other in permutations(range(len(middles)), 2):
            if joins[one] & joins[other]:
                farther = reached_mm[one] + _along_the_walls(middles[one], middles[other])
                reached_mm[other] = min(reached_mm[other], farther)
    ways = [
        mm + _along_the_walls(middle, end)
        for mm, middle, spaces_joined in zip(reached_mm, middles, joins, strict=True)
        if last in spaces_joined
    ]
    shortest = min(ways, default=inf)
    return shortest if isfinite(shortest) else straight


def _spaces_joined_by(bay: Bay, spaces: Sequence[set[int]], passage: Passage) -> Iterator[int]:
    for number, space in enumerate(spaces):
        if any(joined(passage, bay.rooms[room]) for room in space):
            yield number


def _space_at(bay: Bay, spaces: Sequence[set[int]], place: Sequence[float]) -> int:
    """The space whose room is nearest."""
    origin = origin_of(bay)

    def away(space: set[int]) -> float:
        return min(_away_from(bay.rooms[room], origin, place) for room in space)

    return min(range(len(spaces)), key=lambda number: away(spaces[number]))


def _away_from(room: Room, origin: Triple, place: Sequence[float]) -> float:
    low = [at - start for at, start in zip(room.at_mm, origin, strict=True)]
    return sum(max(a - at, at - a - size, 0.0) for at, a, size in zip(place, low, room.inside_mm, strict=True))


def _middle(passage: Passage, origin: Triple) -> Triple:
    x, y, z = (at - start + size / 2 for at, start, size in zip(passage.at_mm, origin, passage.size_mm, strict=True))
    return (x, y, z)


def _along_the_walls(one: Sequence[float], other: Sequence[float]) -> float:
    return sum(abs(a - b) for a, b in zip(one, other, strict=True))
