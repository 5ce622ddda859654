"""Heat in a closed gadget: what a linear charger burns, and what it may burn before it folds back."""

import math

from pocketspark.core.nouns.board import Charger

# Air inside a small closed plastic box in a 25 C room while it charges (common practice, no source);
# the shell's own surface will replace it once the Fit station knows it.
INSIDE_C = 35.0


def burn_limit_w(charger: Charger, inside_c: float = INSIDE_C) -> float:
    """Watts at which the junction reaches its fold-back temperature: (T_fold - T_inside) / theta. inf if unknown."""
    if charger.theta_c_per_w is None:
        return math.inf
    return max(charger.fold_back_c - inside_c, 0.1) / charger.theta_c_per_w


def charger_heat_w(v_in: float, cell_v: float, current_a: float) -> float:
    """A linear charger burns the whole difference: P = (V_in - V_cell) I."""
    return max(v_in - cell_v, 0.0) * current_a
