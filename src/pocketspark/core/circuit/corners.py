"""Every quantity of a build in every one of its states, as arrays with named axes, to be asked for its worst corner."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

import numpy as np

from pocketspark.core.chain import ChosenParts, Running
from pocketspark.core.circuit.uses import Use, UseKind
from pocketspark.core.physics.ocv import Floats

Feed = Literal["unplugged", "plugged in", "plugged in, flat cell", "plugged in, no cell", "old adapter"]
# The source and the charger as they are made for, or both at the high or the low end of what they may be; or the cell
# worn.
Tolerance = Literal["nominal", "high", "low", "worn"]
OF_THE_SOURCE: tuple[Tolerance, ...] = ("nominal", "high", "low")
OF_THE_CELL: tuple[Tolerance, ...] = ("nominal", "worn")
TOLERANCES: tuple[Tolerance, ...] = ("nominal", "high", "low", "worn")
EVERY_USE: tuple[UseKind, ...] = ("asleep", "mode", "peak", "cold filament", "stalled")
# A cold filament is warm before anything else gets warm.
BUT_COLD: tuple[UseKind, ...] = ("asleep", "mode", "peak", "stalled")
EVERY_FEED: tuple[Feed, ...] = (
    "unplugged",
    "plugged in",
    "plugged in, flat cell",
    "plugged in, no cell",
    "old adapter",
)


@dataclass(frozen=True)
class Corner:
    """One state of a build. `rest_v`: the cell's open-circuit voltage; None where there is no cell."""

    feed: Feed
    use: Use
    rest_v: float | None
    tolerance: Tolerance


@dataclass(frozen=True)
class Worst:
    """The most, or the least, of one quantity over all states, and the state in which it is that."""

    value: float
    corner: Corner


@dataclass(frozen=True)
class Solved:
    """All states with the build fed in one way. Each quantity has the axes (use, charge, tolerance).

    `quantities` by name: volts at the nodes `board_v`, `cell_v`, `gadget_v`; amperes in the branches `source_a`,
    `charger_a`, `gadget_a`, and of the cell `cell_out_a`, `cell_in_a` and the larger of both, `cell_a`; and of each
    regulator in the row, the first being `regulator0`, its `_in_v`, `_in_a`, `_out_v`, `_out_a` and the watts `_w` that
    it burns. NaN: there is no such thing in this state, or the source cannot carry the load.
    """

    feed: Feed
    uses: tuple[Use, ...]
    rest_v: tuple[float | None, ...]
    tolerances: tuple[Tolerance, ...]
    quantities: Mapping[str, Floats]

    def of(self, quantity: str) -> Floats | None:
        """With all three axes; None where this feed knows no such quantity."""
        if quantity not in self._whole and quantity in self.quantities:
            shape = len(self.uses), len(self.rest_v), len(self.tolerances)
            values = self.quantities[quantity]
            self._whole[quantity] = values if values.shape == shape else np.broadcast_to(values, shape)
        return self._whole.get(quantity)

    def asked(
        self, uses: Sequence[UseKind], tolerances: Sequence[Tolerance], shortest_s: float
    ) -> "np.typing.NDArray[np.bool_]":
        """Which of the states are asked for, along all three axes."""
        key = tuple(uses), tuple(tolerances), shortest_s
        if key not in self._asked:
            used = np.array([use.kind in uses and use.lasts_s >= shortest_s for use in self.uses])
            within = np.array([tolerance in tolerances for tolerance in self.tolerances])
            self._asked[key] = used[:, None, None] & within[None, None, :]
        return self._asked[key]

    @cached_property
    def _whole(self) -> dict[str, Floats]:
        return {}

    @cached_property
    def _asked(self) -> "dict[tuple[object, ...], np.typing.NDArray[np.bool_]]":
        """Many ratings ask for the same states."""
        return {}

    def at(self, use: Use, charge: int) -> dict[str, float]:
        """Every quantity in this use at this charge, nothing out of tolerance."""
        place = self.uses.index(use), charge, 0
        return {name: float(values[place]) for name in self.quantities if (values := self.of(name)) is not None}

    def corner(self, place: tuple[int, ...]) -> Corner:
        use, charge, tolerance = place
        return Corner(self.feed, self.uses[use], self.rest_v[charge], self.tolerances[tolerance])


@dataclass(frozen=True)
class Circuit:
    """One build as wired, solved in all its states."""

    running: Running
    solved: tuple[Solved, ...]

    @property
    def chain(self) -> ChosenParts:
        return self.running.chain

    def worst(
        self,
        quantity: str,
        *,
        least: bool = False,
        uses: Sequence[UseKind] = EVERY_USE,
        feeds: Sequence[Feed] = EVERY_FEED,
        tolerances: Sequence[Tolerance] = ("nominal",),
        shortest_s: float = 0.0,
    ) -> Worst | None:
        """The most of this quantity, or the least, in any of the states asked for; None where it is in none of them.

        `shortest_s`: states that never last so long are left out.
        """
        asked = (quantity, least, uses, feeds, tolerances, shortest_s)
        if asked not in self._told:
            found = [
                worst
                for solved in self.solved
                if solved.feed in feeds and (worst := _worst_of(solved, quantity, least, uses, tolerances, shortest_s))
            ]
            self._told[asked] = min(found, key=lambda one: one.value if least else -one.value, default=None)
        return self._told[asked]

    @cached_property
    def _told(self) -> dict[tuple[object, ...], Worst | None]:
        """Many rules ask the same."""
        return {}

    def in_corner(self, corner: Corner) -> dict[str, float]:
        """Every quantity of one state."""
        solved = next(solved for solved in self.solved if solved.feed == corner.feed)
        return solved.at(corner.use, solved.rest_v.index(corner.rest_v))

    @property
    def is_overwhelmed(self) -> bool:
        """Is there a mode or a peak that a nearly empty cell cannot carry at all?"""
        unplugged = self.solved[0]
        gadget_v = unplugged.of("gadget_v")
        awake = np.array([use.kind in ("mode", "peak") for use in unplugged.uses])
        return gadget_v is not None and bool(np.isnan(gadget_v[awake, 0, 0]).any())

    def most(self, quantity: str, *, uses: Sequence[UseKind] = EVERY_USE, feeds: Sequence[Feed] = EVERY_FEED) -> float:
        """The value alone, nothing out of tolerance; 0 where there is none."""
        worst = self.worst(quantity, uses=uses, feeds=feeds)
        return worst.value if worst else 0.0


def _worst_of(
    solved: Solved,
    quantity: str,
    least: bool,
    uses: Sequence[UseKind],
    tolerances: Sequence[Tolerance],
    shortest_s: float,
) -> Worst | None:
    values = solved.of(quantity)
    if values is None:
        return None
    # What is not there in a state, NaN, compares false and is never the most.
    ranked = np.where(solved.asked(uses, tolerances, shortest_s), -values if least else values, np.nan)
    first = int(np.where(np.isnan(ranked), -np.inf, ranked).argmax())
    value = float(ranked.flat[first])
    if math.isnan(value):
        return None
    place = tuple(int(index) for index in np.unravel_index(first, ranked.shape))
    return Worst(-value if least else value, solved.corner(place))
