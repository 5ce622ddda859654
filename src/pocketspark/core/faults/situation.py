"""What a fault is looked at in: how the build is fed, whether it is used, and how full its cell is."""

from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain import Chain
from pocketspark.core.life.unused import LOST_V

SituationKey = Literal["used", "unused", "flat", "charging", "charging_used", "over_full", "stuck_charger", "shorted"]
# A cell is over-charged this far over the full volts of its class (4.30 V of 4.20 V cells).
OVER_FULL_V = 0.10
HALF = 0.5


@dataclass(frozen=True)
class FaultSituation:
    """`rest_v`: the cell's open-circuit volts. `probe`: a second fault, to see whether what stops it is there."""

    key: SituationKey
    plugged_in: bool
    used: bool
    rest_v: float
    probe: Literal["", "stuck_charger", "shorted"] = ""


def situations_of(chain: Chain) -> tuple[FaultSituation, ...]:
    """Those that a build can be in; the two probes last."""
    chosen = chain.required_running().chosen
    full_v, half_v = chosen.full_v, float(chosen.curve.at(HALF))
    over_v = chosen.cell.facts.full_v + OVER_FULL_V
    found = [
        FaultSituation("used", False, True, full_v),
        FaultSituation("unused", False, False, full_v),
        FaultSituation("flat", False, True, min(LOST_V, chosen.cell.facts.empty_v)),
    ]
    charging = chain.charging
    if charging is not None and charging.in_the_gadget and chain.build.who_charges == "board":
        found.append(FaultSituation("charging", True, False, half_v))
        if chain.build.use_while_charging != "off":
            found.append(FaultSituation("charging_used", True, True, half_v))
        found.append(FaultSituation("over_full", True, False, over_v))
        found.append(FaultSituation("stuck_charger", True, False, over_v, "stuck_charger"))
    found.append(FaultSituation("shorted", False, True, full_v, "shorted"))
    return tuple(found)
