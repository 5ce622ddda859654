"""How much is left to chance in a run of the tests, and by which seed: another each time, printed, and to be set.

POCKETSPARK_SEED=N repeats a run. `./spark test --full` sets POCKETSPARK_FULL: every example, every gadget, every size.
"""

import os
import random
from collections.abc import Sequence
from typing import TypeVar

T = TypeVar("T")

FULL = bool(os.environ.get("POCKETSPARK_FULL"))
EXAMPLES = int(os.environ.get("POCKETSPARK_EXAMPLES", "10000" if FULL else "600"))
# Set by conftest.py before any test is collected, the same for every worker.
SEED = os.environ["POCKETSPARK_SEED"]


def dice(*of):
    """Dice of this run, for what is named."""
    return random.Random(" ".join(map(str, (SEED, *of))))


def same_dice(seed):
    """The same each time, but in a full run: of bays and circuits, where other seeds still meet faults of ours that are
    known (docs/checks.md), and a run is to say what a change has done."""
    return dice(seed) if FULL else random.Random(seed)


def in_turn(what: Sequence[T], count: int) -> list[T]:
    """So many of them, others each time; all of them in a full run."""
    everything = list(what)
    if FULL or count >= len(everything):
        return everything
    return dice("in turn", len(everything)).sample(everything, count)
