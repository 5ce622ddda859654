"""Whether builds go in, asked as seldom as can be: what has been found for one build often answers for the next.

Parts of one outline are one question whatever they are called; parts that lie within others that go in go in; parts
that hold others that do not, do not.
"""

from collections.abc import Sequence
from dataclasses import dataclass, field

from pocketspark.core.fit.answer_facts import Setting
from pocketspark.core.fit.blocks import Part
from pocketspark.core.fit.placing import goes_in, setting_of
from pocketspark.core.models import Project

# Of a single question; past it a build counts as not going in, which is on the safe side.
NODES = 20_000

Frame = tuple[object, ...]


@dataclass
class KnownFits:
    """What is known so far. `asked` counts the questions that had to be answered by a search."""

    asked: int = 0
    _goes_in: dict[Frame, list[tuple[Part, ...]]] = field(default_factory=dict)
    _too_big: dict[Frame, list[tuple[Part, ...]]] = field(default_factory=dict)
    _told: dict[tuple[Frame, tuple[Part, ...]], bool] = field(default_factory=dict)  # of the very same parts

    def goes_in(self, project: Project, build: int, spare_mm: float = 0.0) -> bool | None:
        """With so much to spare. None where nothing is known of the room, or there is nothing to place."""
        setting = setting_of(project, build, asks_basis=False)
        if setting is None:
            return None
        known = self.known(setting, spare_mm)
        if known is not None:
            return known
        self.asked += 1
        answer = goes_in(setting, NODES, spare_mm)
        kept = self._goes_in if answer else self._too_big
        kept.setdefault(_frame(setting, spare_mm), []).append(_by_bulk(setting.parts))
        return answer

    def known(self, setting: Setting, spare_mm: float = 0.0) -> bool | None:
        """What follows from the answers so far; None where nothing does."""
        frame, pinned, parts = _frame(setting, spare_mm), bool(setting.pins), _by_bulk(setting.parts)
        if (frame, parts) not in self._told:
            answer = self._follows(frame, parts, pinned)
            if answer is None:
                return None
            self._told[frame, parts] = answer
        return self._told[frame, parts]

    def _follows(self, frame: Frame, parts: tuple[Part, ...], pinned: bool) -> bool | None:
        if any(_inside(parts, larger, pinned) for larger in self._goes_in.get(frame, ())):
            return True
        if any(_inside(smaller, parts, pinned) for smaller in self._too_big.get(frame, ())):
            return False
        return None


def _frame(setting: Setting, spare_mm: float) -> Frame:
    """All that the answer depends on beside the parts."""
    return setting.bay.model_dump_json(), setting.pins, setting.tolerance_mm, spare_mm


def _by_bulk(parts: Sequence[Part]) -> tuple[Part, ...]:
    return tuple(sorted(parts, key=_bulk))


def _inside(small: Sequence[Part], large: Sequence[Part], pinned: bool) -> bool:
    """Whether each part of the one lies within another of the other: then it goes in wherever that one does.

    Both smallest first. The largest first, each into the smallest that holds it; where that finds no pairing there may
    be one all the same.
    """
    if len(small) > len(large):
        return False
    free = list(large)
    for part in reversed(small):
        held = next((other for other in free if _holds(other, part, pinned)), None)
        if held is None:
            return False
        free.remove(held)
    return True


def _bulk(part: Part) -> float:
    return part.size[0] * part.size[1] * part.size[2]


def _holds(large: Part, small: Part, pinned: bool) -> bool:
    """Names count only where something is pinned. What shows in a wall has to show alike."""
    if any(a > b + 1e-9 for a, b in zip(small.size, large.size, strict=True)):
        return False
    alike = (large.form, large.any_way, large.face, large.kind == "cell") == (
        small.form,
        small.any_way,
        small.face,
        small.kind == "cell",
    )
    named = not pinned or large.name == small.name
    return alike and named and small.gap_mm <= large.gap_mm + 1e-9
