"""One build under other circumstances: every way to use it while it charges, and the same cell old or cold."""

from collections.abc import Iterator

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Level, worst
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Project
from pocketspark.core.models.build import USES_WHILE_CHARGING, UseWhileCharging
from pocketspark.core.models.model import Model
from pocketspark.core.rules import findings_of
from pocketspark.core.units.figures import ShownAmps, ShownDays, ShownHours, ShownVolts, celsius

# What is asked of each way to use the gadget while it charges.
USE_RULES = ("charge.never_ends", "charge.shared_window")


class UseOutcome(Model):
    """One way to use the gadget while it charges, and what would come of it."""

    use: UseWhileCharging
    level: Level
    ends: bool
    hours: ShownHours | None
    net_a: ShownAmps  # into the cell at constant current
    plugged_v: ShownVolts | None  # at the gadget, lightest mode
    says: Message


class Condition(Model):
    """The same build as it is, after some 300 cycles, in the cold."""

    name: Message
    hours: ShownHours | None  # of the most used mode, those in which it does its job
    days: ShownDays | None  # as used, likewise


class Scenarios(Model):
    """Empty where a part is still missing."""

    uses: tuple[UseOutcome, ...] = ()
    conditions: tuple[Condition, ...] = ()


def scenarios(project: Project, build: int = 0) -> Scenarios:
    """Try the build each way. Raises IndexError where the project has no such build."""
    chain = Chain(project, build)
    return Scenarios(
        uses=tuple(_use(chain, use) for use in USES_WHILE_CHARGING) if chain.board_charging else (),
        conditions=tuple(_conditions(chain)) if chain.running else (),
    )


def _use(chain: Chain, use: UseWhileCharging) -> UseOutcome:
    """This build used that way while it charges."""
    other = _variant(chain, use_while_charging=use)
    charging = other.required_charging()
    hours = float(charging.run.hours.flat[0])
    load_a = float(charging.load_while_charging.current(charging.charger.float_v)) if use == "on_cell" else 0.0
    about = findings_of(other, USE_RULES)
    return UseOutcome(
        use=use,
        level=worst(finding.level for finding in about),
        ends=bool(np.isfinite(hours)),
        hours=hours if np.isfinite(hours) else None,
        net_a=charging.current.spread.nominal_a - load_a,
        plugged_v=charging.plugged_gadget_v(),
        says=about[0].headline if about else NOTHING,
    )


def _variant(chain: Chain, **changes: object) -> Chain:
    """The same project with this build changed."""
    builds, number = chain.project.builds, chain.build_number
    changed = (*builds[:number], chain.build.model_copy(update=changes), *builds[number + 1 :])
    return Chain(chain.project.model_copy(update={"builds": changed}), number)


def _conditions(chain: Chain) -> Iterator[Condition]:
    at_freezing = say("at {it}", it=celsius(0.0))
    for name, aged, cold in (
        (say("as new"), False, False),
        (say("after 300 cycles"), True, False),
        (at_freezing, False, True),
    ):
        running = _variant(chain, aged=aged, cold=cold).required_running()
        most_used = running.most_used
        yield Condition(name=name, hours=most_used.service_hours if most_used else None, days=running.served_days)
