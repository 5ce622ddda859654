"""Whether builds go in, asked as seldom as can be: what has been found for one build often answers for the next.

Parts of one outline are one question whatever they are called; a cell inside one that goes in goes in; a cell round one
that does not, does not.
"""

from dataclasses import dataclass, field, replace

from pocketspark.core.fit.parts import Part
from pocketspark.core.fit.placing import Setting, goes_in, setting_of
from pocketspark.core.models import Project

# Of a single question; past it a build counts as not going in, which is on the safe side.
NODES = 4000

Rest = tuple[object, ...]


@dataclass
class KnownFits:
    """What is known so far. `asked` counts the questions that had to be answered by a search."""

    asked: int = 0
    _goes_in: dict[Rest, list[Part]] = field(default_factory=dict)
    _too_big: dict[Rest, list[Part]] = field(default_factory=dict)

    def goes_in(self, project: Project, build: int) -> bool | None:
        """None where nothing is known of the room, or there is nothing to place."""
        setting = setting_of(project, build)
        if setting is None:
            return None
        known = self.known(setting)
        if known is not None:
            return known
        self.asked += 1
        answer = goes_in(setting, NODES)
        cell, rest = _apart(setting)
        (self._goes_in if answer else self._too_big).setdefault(rest, []).append(cell)
        return answer

    def known(self, setting: Setting) -> bool | None:
        """What follows from the answers so far; None where nothing does."""
        cell, rest = _apart(setting)
        if any(_inside(cell, larger) for larger in self._goes_in.get(rest, ())):
            return True
        if any(_inside(smaller, cell) for smaller in self._too_big.get(rest, ())):
            return False
        return None


_NO_CELL = Part("", "none", (0, 0, 0), 0)


def _apart(setting: Setting) -> tuple[Part, Rest]:
    """One of the like cells, and all else that the answer depends on. Names count only where something is pinned."""
    cells = [part for part in setting.parts if part.kind == "cell"]
    others = [part for part in setting.parts if part.kind != "cell"]
    if not setting.pins:
        others = [replace(part, name="", hot=False) for part in others]
    alike = (cells[0].form, cells[0].any_way, cells[0].name if setting.pins else "") if cells else ()
    bay = (setting.bay.model_dump_json(), setting.pins, setting.tolerance_mm)
    return (cells[0] if cells else _NO_CELL), (*bay, len(cells), alike, tuple(sorted(map(repr, others))))


def _inside(small: Part, large: Part) -> bool:
    return all(a <= b + 1e-9 for a, b in zip(small.size, large.size, strict=True))
