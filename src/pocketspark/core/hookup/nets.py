"""Nets: which pads are one piece of metal, and what lies between two nets."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import cached_property

from pocketspark.core.hookup.hookup import HookUp


@dataclass(frozen=True)
class Nets:
    """Pads joined by wires and by what is joined inside parts."""

    hookup: HookUp
    case: str | None = None  # a metal case lies on this pad

    @cached_property
    def _root(self) -> Mapping[str, str]:
        parent = {pad: pad for pad in self.hookup.parts.pads()}

        def find(pad: str) -> str:
            while parent[pad] != pad:
                parent[pad] = parent[parent[pad]]
                pad = parent[pad]
            return pad

        for first, second in self._metal():
            if first in parent and second in parent:
                parent[find(first)] = find(second)
        return {pad: find(pad) for pad in parent}

    def _metal(self) -> Iterable[tuple[str, str]]:
        for wire in self.hookup.wires:
            yield wire.start, wire.end
        for part in self.hookup.parts.by_key.values():
            for first, second in part.joined:
                yield part.pad(first), part.pad(second)

    def same(self, first: str, second: str) -> bool:
        """Are these two pads one net?"""
        root = self._root
        return first in root and second in root and root[first] == root[second]

    def any_same(self, first: Iterable[str], second: Iterable[str]) -> tuple[str, str] | None:
        """The first pair that is one net."""
        others = list(second)
        return next(((a, b) for a in first for b in others if a != b and self.same(a, b)), None)

    def of(self, pad: str) -> frozenset[str]:
        """All pads on this pad's net."""
        root = self._root
        return frozenset(other for other in root if root[other] == root.get(pad))

    def all(self) -> list[frozenset[str]]:
        """Every net of two pads or more, each once, in the order of its first pad."""
        found: dict[str, set[str]] = {}
        for pad, root in self._root.items():
            found.setdefault(root, set()).add(pad)
        return sorted((frozenset(net) for net in found.values() if len(net) > 1), key=min)

    def reaches(self, start: str, end: str, *, without: Iterable[str] = ()) -> bool:
        """Is there a way through nets and parts, without these, whichever way round a diode lies?"""
        ways = self._ways(set(without))
        return end in self._spread(start, [*ways, *((b, a) for a, b in ways)])

    def flows(self, start: str, end: str) -> bool:
        """The same, but through a diode only from its anode to its cathode: can a current run from start to end?"""
        ways = self._ways(set())
        both = [(b, a) for a, b in ways if not (a.endswith(".A") and b.endswith(".K"))]
        return end in self._spread(start, [*ways, *both])

    def _ways(self, barred: set[str]) -> list[tuple[str, str]]:
        return [
            (part.pad(a), part.pad(b))
            for part in self.hookup.parts.by_key.values()
            if part.key not in barred
            for a, b in part.through
        ]

    def _spread(self, start: str, ways: Iterable[tuple[str, str]]) -> set[str]:
        """Every pad that is reached from here."""
        ways, seen, grown = list(ways), set(self.of(start)), True
        while grown:
            grown = False
            for here, there in ways:
                if here in seen and there not in seen:
                    seen |= self.of(there)
                    grown = True
        return seen


def nets_of(hookup: HookUp, case: str | None = None) -> Nets:
    return Nets(hookup, case)
