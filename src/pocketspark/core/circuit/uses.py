"""What a gadget may be doing: asleep, in a mode, at its peak, or in the first moment after it is switched on."""

import math
from dataclasses import dataclass
from typing import Literal

from pocketspark.core.chain import ChosenParts
from pocketspark.core.models import Mode
from pocketspark.core.models.gadget import USUAL_PEAK_S
from pocketspark.core.physics.load import Load

UseKind = Literal["asleep", "mode", "peak", "cold filament", "stalled"]

# A cold filament draws 8 to 12 times its hot current for some 50 ms (from memory).
COLD_FILAMENT, COLD_FILAMENT_S = 10.0, 0.05


@dataclass(frozen=True)
class Use:
    """One of them. `load` None: the regulator is off, or cut off, and only what hangs before it draws.

    `lasts_s`: at most so long at a time; inf where nothing ends it. A jammed motor stays jammed.
    """

    kind: UseKind
    mode: Mode | None
    load: Load | None
    lasts_s: float = math.inf

    @property
    def wanted_a(self) -> float:
        """What it asks for where a source cannot carry it at all."""
        return self.mode.most_a if self.mode else 0.0


def uses_of(chain: ChosenParts) -> tuple[Use, ...]:
    """Every use of this build's gadget, asleep first."""
    return (_asleep(chain), *(use for mode in chain.gadget.modes if mode.most_a > 0 for use in _of_mode(chain, mode)))


def _asleep(chain: ChosenParts) -> Use:
    return Use("asleep", None, chain.off_load if chain.build.switch_place == "gadget" else None)


def _of_mode(chain: ChosenParts, mode: Mode) -> list[Use]:
    uses = [Use("mode", mode, chain.load_of(mode), mode.lasts_s)] if mode.current_a > 0 else []
    if mode.most_a > mode.current_a:
        lasts_s = USUAL_PEAK_S if mode.peak_s is None else mode.peak_s
        uses.append(Use("peak", mode, chain.load_of(mode, mode.most_a), lasts_s))
    winding_ohm = chain.gadget.behind.winding_ohm
    if chain.gadget.front_end == "motor" and winding_ohm:
        uses.append(Use("stalled", mode, Load(siemens=1 / winding_ohm)))
    # Where nobody has measured the first moment.
    if chain.gadget.law_of(mode) == "lamp" and mode.current_a > 0 and mode.peak_a is None:
        cold = Load(siemens=COLD_FILAMENT * mode.current_a / chain.gadget.volts_of(mode))
        uses.append(Use("cold filament", mode, cold, COLD_FILAMENT_S))
    return uses
