"""A cell that lies unused: when the gadget stops, when its protection opens, and when it is lost for good.

The commonest death of a conversion: the protection opens, the drains behind it go on, and weeks later the cell is
under 2 V.
"""

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from pocketspark.core.chain.running import Running
from pocketspark.core.physics.self_discharge import self_discharge_a

# Under this a lithium cell is lost: copper of its collector goes into solution (data sheets, from memory).
LOST_V = 2.0
# Share of the capacity that is still in a cell which rests at these volts (from memory: 1 to 3 % at 2.5 V, 5 % at 3.0).
_LEFT_V, _LEFT_SHARE = (LOST_V, 2.5, 3.0, 3.3), (0.0, 0.02, 0.05, 0.08)
# Half full it ages least and still has months to go (data sheets: 40 to 60 %, from memory).
STORE_SHARE = 0.5
# However long the charge lasts: once a year it is looked at (common practice, no source).
MOST_DAYS = 365.0
# Of the time until its protection opens, so much is let pass (our judgement).
MARGIN = 0.8


@dataclass(frozen=True)
class Unused:
    """Days from a full charge on, with the gadget switched off and the charger unplugged."""

    running: Running
    from_share: float = 1.0  # of what a full charge gets out, when it was put away

    @cached_property
    def stops_days(self) -> float:
        """Until the gadget would not run any more if it were switched on."""
        return self.from_share * self.running.usable_ah / self.running.standby_a / 24

    @cached_property
    def opens_days(self) -> float | None:
        """Until the protection opens; None where there is none."""
        chosen = self.running.chosen
        if not chosen.protections_in_the_way:
            return None
        until_ah = self._share_above(chosen.cuts["protection"]) * chosen.capacity_ah
        return self.stops_days + max(until_ah, 0.0) / self.running.standby_a / 24

    @cached_property
    def lost_days(self) -> float:
        """Until the cell itself is lost."""
        chosen = self.running.chosen
        if self.opens_days is None:
            left = self._left_after_use + self._left_under(chosen.cuts["cell"])
            return self.stops_days + left * chosen.capacity_ah / self.running.standby_a / 24
        left_ah = self._left_under(chosen.cuts["protection"]) * chosen.capacity_ah
        return self.opens_days + left_ah / self.after_opening_a / 24

    @property
    def after_opening_a(self) -> float:
        """What goes on when the protection has opened: its own current, the charger's leak, the cell's own.

        A protection at the end of the cell cuts the charger off as well; one on the charger's board does not.
        """
        drains = self.running.off_drains
        on_the_cell = self.running.cell.protection is not None
        leak_a = 0.0 if on_the_cell else drains["charger"]
        chosen = self.running.chosen
        own_a = float(self_discharge_a(chosen.capacity_ah, self.running.gadget.shell.used_at_c))
        return drains["protections"] + leak_a + own_a

    @property
    def recharge_days(self) -> float:
        """It is to be charged again by then."""
        first = self.stops_days if self.opens_days is None else self.opens_days
        return min(MARGIN * first, MOST_DAYS)

    @property
    def _left_after_use(self) -> float:
        """Share of the capacity that is left when the gadget has stopped, in the use that gets least out."""
        runs = [run for run in self.running.runs if run.hours > 0]
        return min(runs, key=lambda run: run.charge_ah).unused if runs else 0.0

    def _share_above(self, volts: float) -> float:
        """Share of the capacity between where the gadget stops and these volts at rest."""
        chosen = self.running.chosen
        return self._left_after_use - float(np.clip(chosen.curve.soc_at(volts), 0.0, 1.0))

    def _left_under(self, volts: float) -> float:
        return float(np.interp(volts, _LEFT_V, _LEFT_SHARE))
