"""A bay of several spaces: which room a place is in, and how far it is from one to another through the gaps between."""

from collections.abc import Iterator, Sequence

from pocketspark.core.fit.bays import Triple, origin_of
from pocketspark.core.models.bay import Bay, Passage, Room, joined


def spaces_of(bay: Bay) -> list[set[int]]:
    """The rooms, by their places in the list, in groups that are one space each."""
    import networkx as nx  # type: ignore[import-untyped]

    touching = nx.Graph()
    touching.add_nodes_from(range(len(bay.rooms)))
    touching.add_edges_from(
        (one, other)
        for one in range(len(bay.rooms))
        for other in range(one)
        if joined(bay.rooms[one], bay.rooms[other])
    )
    return [set(space) for space in nx.connected_components(touching)]


def way_mm(bay: Bay, start: Sequence[float], end: Sequence[float]) -> float:
    """How far a wire runs along the walls between two places of the fit; through named gaps where they lie apart."""
    straight = _along_the_walls(start, end)
    if not bay.passages or bay.tube is not None:
        return straight
    spaces = spaces_of(bay)
    first, last = _space_at(bay, spaces, start), _space_at(bay, spaces, end)
    if first == last:
        return straight
    import networkx as nx

    origin = origin_of(bay)
    middles = {passage.id: _middle(passage, origin) for passage in bay.passages}
    joins = {passage.id: set(_joined_by(bay, spaces, passage)) for passage in bay.passages}
    ways = nx.Graph()
    for name, middle in middles.items():
        if first in joins[name]:
            ways.add_edge("start", name, weight=_along_the_walls(start, middle))
        if last in joins[name]:
            ways.add_edge(name, "end", weight=_along_the_walls(middle, end))
        for other, farther in middles.items():
            if other != name and joins[name] & joins[other]:
                ways.add_edge(name, other, weight=_along_the_walls(middle, farther))
    try:
        return float(nx.shortest_path_length(ways, "start", "end", weight="weight"))
    except (nx.NetworkXNoPath, nx.NodeNotFound):
        return straight


def _joined_by(bay: Bay, spaces: Sequence[set[int]], passage: Passage) -> Iterator[int]:
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
