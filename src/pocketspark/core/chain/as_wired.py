"""What a maker's own wires make of the circuit between cell and gadget, as far as it can be computed with."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from pocketspark.core.chain.chain import Chain


@dataclass(frozen=True)
class AsWired:
    """`diodes`: how many stand in every way from the cell to the gadget's plus. `joined`: there is a way at all."""

    diodes: int
    through_regulator: bool = True
    through_protection: bool = True
    joined: bool = True


# Filled in by core/wiring/as_wired.py, which is imported with the core: here nobody knows of pads.
READERS: "list[Callable[[Chain], AsWired]]" = []
