"""The seven figures by which builds are weighed, each as far as anybody notices. Lower is better in all of them.

Hours of service (those in which a lamp gives half of its light, for hours in the dark are no hours), price, hours to
full, work, months switched off, light half way through the charge where it is a lamp, and room to spare in the bay. Two
builds that differ by less than is noticed are equal, and one of them is enough.
"""

from typing import NamedTuple

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.fit.openings import holes_of
from pocketspark.core.fit.parts import parts_of
from pocketspark.core.fit.styles import BOX_CLEARANCE_MM
from pocketspark.core.hookup.hookup import made_wires
from pocketspark.core.limits import DIM
from pocketspark.core.models import Build
from pocketspark.core.physics.ocv import Floats, Numbers

# Steps that are noticed (common practice, no source): half a unit of money, a tenth of the hours, be they of use or on
# the charger.
PRICE_STEP, HOURS_RATIO = 0.5, 1.1
# Days switched off: a month, a quarter, half a year, a year; more is as good. Room: to be filed, usual, ample.
OFF_DAYS, ROOM_MM = (30.0, 91.0, 182.0, 365.0), (0.3, 1.0, 2.0)
# Of the light: dim, or bright enough.
LIGHT = (DIM,)
FIGURES = 7


class Work(NamedTuple):
    """What is to be done by hand: joints to solder, and holes to cut into a wall."""

    joints: int
    holes: int


def work_of(chain: Chain) -> Work:
    """By the wires that the tool makes of the build, two ends each. Raises MissingPart before a cell is chosen."""
    _, _, wires = made_wires(chain)
    return Work(2 * sum(not wire.present for wire in wires), holes_of(parts_of(chain.build)))


def weighed(
    hours: Numbers, price: Numbers, full_h: Numbers, work: Numbers, off_days: Numbers, light: Numbers, room: Numbers
) -> Floats:
    """The seven in a row for each build, as they are noticed. `light`: 1 where nothing glows; `room`: mm to spare."""
    columns = (
        -noticed(hours),
        np.ceil(np.asarray(price) / PRICE_STEP - 1e-6) * PRICE_STEP,
        noticed(full_h),
        np.asarray(work, dtype=float),
        -np.digitize(off_days, OFF_DAYS).astype(float),
        -np.digitize(light, LIGHT).astype(float),
        -np.digitize(room, ROOM_MM).astype(float),
    )
    return np.stack(np.broadcast_arrays(*columns), axis=-1)


def room_mm(build: Build, clearance_mm: float | None = None) -> float:
    """Room to spare as it is weighed: ample where nothing is known of it; a box of its own is made to its parts."""
    if build.facts_of_style.own_box:
        return BOX_CLEARANCE_MM
    return np.inf if clearance_mm is None else clearance_mm


def noticed(hours: Numbers) -> Floats:
    """Hours as far as anybody notices: in steps of a tenth. Steps, and no pairs compared, so that no order matters."""
    some_h = np.maximum(hours, 1e-6)
    return np.asarray(HOURS_RATIO ** np.round(np.log(some_h) / np.log(HOURS_RATIO)))


def noticed_hours(hours: float) -> float:
    return float(noticed(hours))


def unbeaten(table: Floats) -> list[int]:
    """Rows that no other is at least as good as in everything; the first of equal ones."""
    kept = []
    for row, figures in enumerate(table):
        as_good = (table <= figures + 1e-9).all(axis=1)
        better = as_good & (table < figures - 1e-9).any(axis=1)
        if not better.any() and int(as_good.argmax()) == row:
            kept.append(row)
    return kept
