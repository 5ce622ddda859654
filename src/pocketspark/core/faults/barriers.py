"""What opens when too much flows: protections in either direction, and a fuse; each stays open once it has opened."""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from pocketspark.core.models import Protection

Mask = NDArray[np.bool_]
# A fuse or polyfuse opens within a second or so at twice what it holds (common practice, no source).
FUSE_TIMES = 2.0


@dataclass(frozen=True)
class Guard:
    """A protection where it stands: its transistors' branch, and the nodes between which it watches its cell."""

    key: str
    protection: Protection
    plus: str
    minus: str

    @property
    def branch(self) -> str:
        return f"{self.key}.transistors"


@dataclass(frozen=True)
class Barriers:
    """By guard and case: whether it lets the cell be charged, and be discharged; and whether the fuse holds."""

    takes: Mapping[str, Mask]
    gives: Mapping[str, Mask]
    fuse: Mask
