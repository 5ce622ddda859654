"""A log as numbers: time, volts, amps, and perhaps degrees. Current into or out of the cell counts as positive."""

from dataclasses import dataclass

import numpy as np

from pocketspark.core.error import PocketSparkError
from pocketspark.core.message import say
from pocketspark.core.physics.ocv import Floats

# A USB meter in line sees the source's volts, not the cell's: with little current they come near 5 V, as no cell does.
USB_V = (4.6, 5.6)


class TooShort(PocketSparkError, ValueError):
    """There are too few rows to say anything."""


@dataclass(frozen=True)
class Log:
    """Columns of one run, time rising from 0."""

    time_s: Floats
    volts: Floats
    amps: Floats
    celsius: Floats | None = None
    swapped: bool = False  # the meter showed minus: its leads, or the cell's

    @property
    def hours(self) -> Floats:
        return self.time_s / 3600

    @property
    def is_usb_side(self) -> bool:
        """Measured before the charger, where a thin cable may still pull the volts down while much flows."""
        return bool(USB_V[0] <= np.quantile(self.volts, 0.98) <= USB_V[1])

    @property
    def charge_ah(self) -> Floats:
        """Charge moved since the beginning, Ah: the trapezoid rule."""
        steps = np.diff(self.hours) * (self.amps[1:] + self.amps[:-1]) / 2
        return np.concatenate([[0.0], np.cumsum(steps)])

    @property
    def energy_wh(self) -> float:
        power = self.volts * self.amps
        return float(np.sum(np.diff(self.hours) * (power[1:] + power[:-1]) / 2))


def log_of(time_s: Floats, volts: Floats, amps: Floats, celsius: Floats | None = None) -> Log:
    """A log from columns in any order of time and either sign of current. Raises TooShort."""
    kept = np.isfinite(time_s) & np.isfinite(volts) & np.isfinite(amps)
    if int(kept.sum()) < 5:
        raise TooShort(
            say("{usable} usable rows: a log needs at least 5 with time, volts and amps", usable=int(kept.sum()))
        )
    order = np.argsort(time_s[kept], kind="stable")
    time_s, volts, amps = (column[kept][order] for column in (time_s, volts, amps))
    if celsius is not None:
        celsius = celsius[kept][order]
    # Some meters write a discharge as negative: what flows is meant, whichever way.
    if np.median(amps) < 0 or (abs(amps.min()) > amps.max()):
        amps = -amps
    swapped = bool(np.median(volts) < -1)
    return Log(time_s - time_s[0], -volts if swapped else volts, amps, celsius, swapped)
