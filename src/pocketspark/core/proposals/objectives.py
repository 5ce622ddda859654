"""The seven figures by which builds are weighed, each as far as anybody notices. Lower is better in all of them.

Hours of service (those in which a lamp gives half of its light, for hours in the dark are no hours), price, hours to
full, work, months switched off, light half way through the charge where it is a lamp, and room to spare in the bay. Two
builds that differ by less than is noticed are equal, and one of them is enough.
"""

from typing import NamedTuple

import numpy as np
from numpy.typing import ArrayLike, NDArray

from pocketspark.core.chain import Chain
from pocketspark.core.fit.blocks import parts_of
from pocketspark.core.fit.openings import holes_of
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
# The seven of one build, or a row each of many, counted in those steps.
Steps = NDArray[np.int16]


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
) -> Steps:
    """The seven in a row for each build, as they are noticed. `light`: 1 where nothing glows; `room`: mm to spare."""
    columns = (
        -noticed(hours),
        np.ceil(np.asarray(price) / PRICE_STEP - 1e-6),
        noticed(full_h),
        np.asarray(work, dtype=float),
        -np.digitize(off_days, OFF_DAYS),
        -np.digitize(light, LIGHT),
        -np.digitize(room, ROOM_MM),
    )
    return np.stack(np.broadcast_arrays(*map(_small, columns)), axis=-1)


def _small(steps: ArrayLike) -> NDArray[np.int16]:
    """There may be millions of rows; what is over all that is told, an endless charge, is as bad as can be."""
    most = np.iinfo(np.int16).max
    return np.asarray(np.clip(np.nan_to_num(steps, posinf=most), -most, most), dtype=np.int16)


def room_mm(build: Build, clearance_mm: float | None = None) -> float:
    """Room to spare as it is weighed: ample where nothing is known of it; a box of its own is made to its parts."""
    if build.facts_of_style.own_box:
        return BOX_CLEARANCE_MM
    return np.inf if clearance_mm is None else clearance_mm


def noticed(hours: Numbers) -> Floats:
    """Hours as far as anybody notices, as so many steps of a tenth. Steps, and no pairs compared, so that no order
    matters."""
    return np.asarray(np.round(np.log(np.maximum(hours, 1e-6)) / np.log(HOURS_RATIO)))


def unbeaten(table: Steps) -> list[int]:
    """Rows that no other is at least as good as in everything; the first of equal ones."""
    kept = []
    for row, figures in enumerate(table):
        as_good = (table <= figures).all(axis=1)
        better = as_good & (table < figures).any(axis=1)
        if not better.any() and int(as_good.argmax()) == row:
            kept.append(row)
    return kept
