"""The time in which a gadget does its job: hours of too little light, speed, heat or sound are no hours of service."""

import numpy as np

from pocketspark.core.limits import DIM, LITTLE_SERVICE
from pocketspark.core.models import Gadget, Mode
from pocketspark.core.physics import stress
from pocketspark.core.physics.charge_and_discharge import Discharge
from pocketspark.core.physics.ocv import Floats, Numbers


def light_share(gadget: Gadget, gadget_v: Numbers) -> Floats | None:
    """Share of the light that lamps were made for, at these volts; None where nothing glows."""
    if gadget.front_end == "led_resistor":
        return stress.led_share(gadget_v, gadget.design_v, gadget.led_forward_v)
    return stress.lamp_light_share(np.maximum(gadget_v, 0.0), gadget.design_v) if gadget.front_end == "lamp" else None


def share_of_job(gadget: Gadget, mode: Mode, gadget_v: Numbers) -> Floats | None:
    """Share of what the mode is for, at these volts: 1 at those it was made for; None where enough volts are all.

    The pressure of a sound follows the volts as the speed of a motor does.
    """
    job = gadget.job_of(mode)
    if job == "light":
        return light_share(gadget, gadget_v)
    some_v = np.maximum(gadget_v, 0.0)
    if job == "heat":
        return stress.heater_power_share(some_v, gadget.design_v)
    return stress.motor_speed_share(some_v, gadget.design_v) if job in ("speed", "sound") else None


def service_share(gadget: Gadget, mode: Mode, down: Discharge) -> Floats:
    """Share of each run's time in which it gives as much of its job as counts; 1 where enough volts are all.

    Half of it, unless the mode says otherwise. Between two knots of the run it is taken as falling straight. Where
    nearly all of the time counts, all of it does, so that every hour that is told is one of service.
    """
    given = share_of_job(gadget, mode, np.nan_to_num(down.gadget_v))
    if given is None:
        return np.ones(down.hours.shape)
    least = DIM if mode.least_share is None else mode.least_share
    given, time_h = np.broadcast_arrays(given, down.time_h)
    enough = np.cumprod(given >= least, axis=-1).sum(axis=-1)  # so many knots from the first on
    last = np.clip(enough - 1, 0, given.shape[-1] - 2)[..., None]
    there, after = (np.take_along_axis(given, at, axis=-1)[..., 0] for at in (last, last + 1))
    since_h, until_h = (np.take_along_axis(time_h, at, axis=-1)[..., 0] for at in (last, last + 1))
    part = np.clip((there - least) / np.maximum(there - after, 1e-12), 0.0, 1.0)
    served_h = np.where(enough > 0, since_h + part * (until_h - since_h), 0.0)
    served_h = np.where(enough >= given.shape[-1], down.hours, served_h)
    share = served_h / np.maximum(down.hours, 1e-12)
    return np.where(share >= LITTLE_SERVICE, 1.0, share)
