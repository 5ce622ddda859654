"""The time in which a gadget does its job: hours in which a lamp is too dim are no hours of service."""

import numpy as np

from pocketspark.core.limits import DIM
from pocketspark.core.models import Gadget
from pocketspark.core.physics import stress
from pocketspark.core.physics.charge_and_discharge import Discharge
from pocketspark.core.physics.ocv import Floats, Numbers


def light_share(gadget: Gadget, gadget_v: Numbers) -> Floats | None:
    """Share of the light that lamps were made for, at these volts; None where nothing glows."""
    if gadget.front_end == "led_resistor":
        return stress.led_share(gadget_v, gadget.design_v, gadget.led_forward_v)
    return stress.lamp_light_share(np.maximum(gadget_v, 0.0), gadget.design_v) if gadget.front_end == "lamp" else None


def service_share(gadget: Gadget, down: Discharge) -> Floats:
    """Share of each run's time in which a lamp gives half of the light that it was made for; 1 where nothing glows.

    Between two knots of the run the light is taken as falling straight.
    """
    light = light_share(gadget, np.nan_to_num(down.gadget_v))
    if light is None:
        return np.ones(down.hours.shape)
    light, time_h = np.broadcast_arrays(light, down.time_h)
    bright = np.cumprod(light >= DIM, axis=-1).sum(axis=-1)  # so many knots from the first on
    last = np.clip(bright - 1, 0, light.shape[-1] - 2)[..., None]
    there, after = (np.take_along_axis(light, at, axis=-1)[..., 0] for at in (last, last + 1))
    since_h, until_h = (np.take_along_axis(time_h, at, axis=-1)[..., 0] for at in (last, last + 1))
    part = np.clip((there - DIM) / np.maximum(there - after, 1e-12), 0.0, 1.0)
    lit_h = np.where(bright > 0, since_h + part * (until_h - since_h), 0.0)
    lit_h = np.where(bright >= light.shape[-1], down.hours, lit_h)
    return np.asarray(lit_h / np.maximum(down.hours, 1e-12))
