"""The chain of one build: source -> charger -> cell -> protection -> regulator -> gadget, resolved and computed once.

Everything is looked up or calculated when first asked for, then kept. Rules and the assessment read it.
"""

from pocketspark.core.chain.charging import Chain, Limit
from pocketspark.core.chain.parts import WIRES_OHM, EffectiveWindow, MissingPart
from pocketspark.core.chain.running import ModeRun

__all__ = ["WIRES_OHM", "Chain", "EffectiveWindow", "Limit", "MissingPart", "ModeRun"]
