"""The chain of one build, with all that follows from its parts: each is worked out when first asked for, then stored.

What needs a part that is not chosen yet is not there: `chosen_cell`, `running` and `charging` are then None, so that
nothing can be asked of them.
"""

from dataclasses import dataclass
from functools import cached_property

from pocketspark.core.chain.charging import BoardCharging, Charging, GivenCharging
from pocketspark.core.chain.chosen_cell import ChosenCell
from pocketspark.core.chain.running import Running
from pocketspark.core.chosen.chosen_parts import ChosenParts, MissingPart
from pocketspark.core.error import PocketSparkError


class UnknownCharger(MissingPart):
    """A charger that is there is counted on, and nobody has said what it gives."""

    def __init__(self) -> None:
        PocketSparkError.__init__(self, "say first what the charger that is there gives, at Charge")


@dataclass(frozen=True)
class Chain(ChosenParts):
    """One build of a project. `advises`: whether what would help against a finding is worked out."""

    advises: bool = True

    @cached_property
    def chosen_cell(self) -> ChosenCell | None:
        """The cell as it is to be judged; None while none is chosen."""
        return ChosenCell(self, self.build.cell) if self.build.cell else None

    @cached_property
    def charging(self) -> Charging | None:
        """The build on its charger; None while cell or charger is not chosen."""
        if self.chosen_cell is None or self.charging_board is None:
            return None
        kind = BoardCharging if self.build.who_charges == "board" else GivenCharging
        return kind(self.chosen_cell.indoors, self.charging_board)

    @property
    def board_charging(self) -> BoardCharging | None:
        """The build on a charger board of ours, whose resistor is to be chosen; None where another charges."""
        return self.charging if isinstance(self.charging, BoardCharging) else None

    @cached_property
    def running(self) -> Running | None:
        """The build in use; None while no cell is chosen."""
        return Running(self.chosen_cell, self.charging) if self.chosen_cell else None

    def required_running(self) -> Running:
        """Raises MissingPart."""
        if self.running is None:
            raise MissingPart("cell")
        return self.running

    def required_charging(self) -> Charging:
        """Raises MissingPart."""
        self.required_running()
        if self.charging is None:
            raise MissingPart("charger") if self.build.who_charges == "board" else UnknownCharger
        return self.charging
