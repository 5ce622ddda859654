"""Heat in a gadget: what a linear charger burns, how warm the air inside gets, and what may be burnt.

T_inside = T_room + P / (h A); junction = T_inside + theta P.
"""

import math
from dataclasses import dataclass

import numpy as np

from pocketspark.core.models.board import Charger
from pocketspark.core.models.gadget import Shell
from pocketspark.core.physics.ocv import Floats, Numbers

# Natural convection and radiation from a small plastic box, W/m2K (common practice, no source).
SURFACE_W_PER_M2K = 10.0
# Outside of a hand-sized gadget where nobody has measured it (common practice, no source).
USUAL_OUTER_MM = (90.0, 60.0, 25.0)
# Of what a wireless link loses, the part that turns to heat in the receiver rather than in the base (assumed).
RECEIVER_SHARE = 0.5
# A cell pressed on a warm pad or coil takes about half of its rise over the air (common practice, no source).
CONTACT_SHARE = 0.5


@dataclass(frozen=True)
class Surroundings:
    """Air around the board: degrees C in the room, and by how much a watt inside warms the air in the case."""

    room_c: float
    rise_c_per_w: float


def surroundings_of(shell: Shell) -> Surroundings:
    """From the outer surface of the gadget; an open one stays at room temperature."""
    if not shell.closed:
        return Surroundings(shell.room_c, 0.0)
    length, width, height = (mm / 1000 for mm in shell.outer_mm or USUAL_OUTER_MM)
    area_m2 = 2 * (length * width + length * height + width * height)
    return Surroundings(shell.room_c, 1 / (SURFACE_W_PER_M2K * area_m2))


def burn_limit_w(charger: Charger, around: Surroundings) -> float:
    """Watts at which the junction reaches its fold-back temperature; inf where theta is not known.

    (T_fold - T_room) / (theta + 1 / (h A)): the chip warms the air that it sits in.
    """
    if charger.theta_ja_c_per_w is None:
        return math.inf
    return max(charger.fold_back_c - around.room_c, 0.1) / (charger.theta_ja_c_per_w + around.rise_c_per_w)


def charger_heat_w(v_in: Numbers, cell_v: Numbers, current_a: Numbers) -> Floats:
    """A linear charger burns the whole difference: P = (V_in - V_cell) I."""
    return np.asarray(np.maximum((v_in - cell_v) * current_a, 0.0))


def receiver_heat_w(output_w: Numbers, efficiency: float) -> Numbers:
    """What a wireless receiver pad turns to heat inside the gadget while it passes `output_w`."""
    return output_w * (1 / efficiency - 1) * RECEIVER_SHARE


@dataclass(frozen=True)
class Warmth:
    """Degrees C over a charge run: air inside, junction of the charger chip (None: theta not known), cell."""

    inside_c: Floats
    junction_c: Floats | None
    cell_c: Floats
