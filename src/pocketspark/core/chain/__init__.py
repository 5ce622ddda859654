"""The chain of one build: source -> charger -> cell -> protection -> regulator -> gadget, resolved and computed once.

`Chain` knows the parts. What follows from them hangs on it: `running` once a cell is chosen, `charging` once a charger
is. Everything is looked up or calculated when first asked for, then stored.
"""

from pocketspark.core.chain.chain import Chain
from pocketspark.core.chain.charge_current import ChargeCurrent, Limit
from pocketspark.core.chain.charging import BoardCharging, Charging, GivenCharging
from pocketspark.core.chain.chosen_cell import WIRES_OHM, ChosenCell
from pocketspark.core.chain.running import ModeRun, Running
from pocketspark.core.chosen.chosen_parts import ChosenParts, EffectiveWindow, MissingPart

__all__ = [
    "WIRES_OHM",
    "Chain",
    "ChargeCurrent",
    "BoardCharging",
    "Charging",
    "GivenCharging",
    "ChosenCell",
    "ChosenParts",
    "EffectiveWindow",
    "Limit",
    "MissingPart",
    "ModeRun",
    "Running",
]
