"""The first charge, attended: what to do when, the limits, and the alarms of the readings so far.

Times and limits are common practice, no source; 45 C is IEC 62133-2 as commonly stated, from memory.
"""

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.limits import CELL_WARM_C, REST_DROP_V
from pocketspark.core.logs.watch import Alarm, Limits
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.steps.fixing import watch_limits
from pocketspark.core.steps.verdict import charge_alarms, least_h, watched_h
from pocketspark.core.units.figures import ShownVolts, amps, celsius, fixed, hours, volts

REST_MINUTES = 60.0


class Prompt(Model):
    """Something to do so many minutes after the start."""

    minutes: float
    says: Message


class FirstCharge(Model):
    """The plan of the first charge, and how it stands by the readings kept in the document."""

    limits: Limits
    prompts: tuple[Prompt, ...]
    alarms: tuple[Alarm, ...]
    rest_minutes: float
    rest_drop_limit_v: ShownVolts
    rest_drop_v: ShownVolts | None  # None: not read yet
    rest_says: Message
    ended_says: Message  # what its end is worth; empty while it goes on


def first_charge(project: Project, build: int = 0) -> FirstCharge:
    """Raises MissingPart without a cell and a charger."""
    chain = Chain(project, build)
    limits = watch_limits(chain)
    watch = chain.build.record.first_charge
    drop_v = None if watch.full_v is None or watch.rested_v is None else watch.full_v - watch.rested_v
    return FirstCharge(
        limits=limits,
        prompts=tuple(sorted(_prompts(chain, limits), key=lambda prompt: prompt.minutes)),
        alarms=charge_alarms(chain),
        rest_minutes=REST_MINUTES,
        rest_drop_limit_v=REST_DROP_V,
        rest_drop_v=drop_v,
        rest_says=NOTHING if drop_v is None else _rested(drop_v),
        ended_says=_ended(chain),
    )


def _ended(chain: Chain) -> Message:
    lasted_h, needed_h = watched_h(chain.build.record.first_charge), least_h(chain)
    if lasted_h is None or needed_h is None:
        return NOTHING
    if lasted_h < needed_h:
        return say(
            "It was broken off after {lasted}: not even a cell that comes half full is charged before {needed}.",
            lasted=hours(lasted_h),
            needed=hours(needed_h),
        )
    return say("It was watched for {lasted}.", lasted=hours(lasted_h))


def _prompts(chain: Chain, limits: Limits) -> list[Prompt]:
    charging = chain.required_charging()
    expected = amps(charging.current.spread.nominal_a)
    prompts = [
        Prompt(minutes=0, says=say("On a tile or a steel tray, sand within reach, nothing that burns around it")),
        Prompt(
            minutes=1,
            says=say(
                "Read the current: {expected} is expected, {most_a} is the limit",
                expected=expected,
                most_a=amps(limits.most_a),
            ),
        ),
        Prompt(minutes=5, says=say("Feel the cell and the board. The board can be hot, the cell must not be warm")),
        Prompt(
            minutes=15,
            says=say(
                "Temperature of the cell: under {most_c}, better under {cell_warm_c}",
                most_c=celsius(limits.most_c),
                cell_warm_c=celsius(CELL_WARM_C),
            ),
        ),
    ]
    ends_h = float(charging.run.hours.flat[0])
    last = (ends_h if np.isfinite(ends_h) else limits.longest_h) * 60
    prompts += [Prompt(minutes=at, says=say("Look at it, and feel the cell")) for at in range(30, int(last) - 10, 30)]
    if np.isfinite(ends_h):
        full = volts(charging.charger.float_v)
        prompts.append(
            Prompt(
                minutes=last,
                says=say("The lamp should change about now, with {full} at the cell and no current", full=full),
            )
        )
    prompts.append(Prompt(minutes=limits.longest_h * 60, says=say("It should have ended long ago. Unplug it")))
    return prompts


def _rested(drop_v: float) -> Message:
    lost, most = (
        say("{drop_v} mV", drop_v=fixed(drop_v * 1000, 0)),
        say("{rest_drop_v} mV", rest_drop_v=fixed(REST_DROP_V * 1000, 0)),
    )
    if drop_v > REST_DROP_V:
        return say(
            "It lost {lost} in the hour, over the limit of {most}. Something draws current, or the cell "
            "discharges itself.",
            lost=lost,
            most=most,
        )
    return say("It lost {lost} in the hour, under the limit of {most}. It holds its voltage.", lost=lost, most=most)
