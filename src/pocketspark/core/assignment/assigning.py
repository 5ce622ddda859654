"""An assignment of cells to gadgets by whole-number programming: HiGHS, through scipy.

Each way to serve a gadget is a column that is taken or not: at most one for a gadget, and no cell oftener than there
are pieces of it. What comes out is proven best, or within the gap that is told.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass

import numpy as np

# A gadget more is worth any share of service.
A_GADGET_MORE = 1000.0
TIME_S = 10.0
GAP = 1e-6


@dataclass(frozen=True)
class CellOffer:
    """One gadget with these cells. `worth`: of its service, from 0 to 1."""

    gadget: int
    cells: tuple[int, ...]
    worth: float


@dataclass(frozen=True)
class Assigned:
    """What is taken, by its number among what was offered. `gap`: by so much at most could be more; 0: proven best."""

    taken: tuple[int, ...]
    worth: float
    gap: float


def assign(
    offers: Sequence[CellOffer], pieces: Sequence[int], *, most_gadgets: bool, pinned: Collection[int] = ()
) -> Assigned | None:
    """The most service in all, or the most gadgets and then the most service. `pinned` offers are taken in any case.

    None where what is pinned does not go together.
    """
    if not offers:
        return Assigned((), 0.0, 0.0)
    # A fifth of what all imports take: only where the drawer is asked.
    from scipy.optimize import Bounds, LinearConstraint, milp
    from scipy.sparse import lil_matrix

    worths = np.array([one.worth + (A_GADGET_MORE if most_gadgets else 0.0) for one in offers])
    gadgets = sorted({one.gadget for one in offers})
    rows = lil_matrix((len(gadgets) + len(pieces), len(offers)))
    for number, one in enumerate(offers):
        rows[gadgets.index(one.gadget), number] = 1
        for cell in one.cells:
            rows[len(gadgets) + cell, number] += 1
    most = np.concatenate([np.ones(len(gadgets)), np.array(pieces, dtype=float)])
    least = np.array([float(number in pinned) for number in range(len(offers))])
    found = milp(
        -worths,
        integrality=np.ones(len(offers)),
        bounds=Bounds(least, np.ones(len(offers))),
        constraints=LinearConstraint(rows.tocsr(), -np.inf, most),
        options={"time_limit": TIME_S, "mip_rel_gap": GAP},
    )
    if found.x is None:
        return None
    taken = tuple(int(number) for number in np.flatnonzero(found.x > 0.5))
    worth = float(sum(offers[number].worth for number in taken))
    gap = max(float(-found.mip_dual_bound) - float(worths[list(taken)].sum()), 0.0)
    return Assigned(taken, worth, gap if gap > GAP * max(abs(float(found.fun)), 1.0) else 0.0)
