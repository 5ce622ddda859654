"""When a build that is done has to be charged again, counted from the last full charge that is known of it."""

from pocketspark.core.chain import Chain
from pocketspark.core.life.unused import Unused
from pocketspark.core.models import Build
from pocketspark.core.models.model import Model
from pocketspark.core.moments import day_after


class Recharge(Model):
    """The days of one build. `charged`: its last full charge; unused from then on, it is to be charged `by`, and from
    `lost` on its cell is gone."""

    charged: str
    by: str
    lost: str


def last_full_charge(build: Build) -> str | None:
    """The moment of it; None where nobody noted one."""
    return max(filter(None, (build.record.charged_at, build.record.first_charge.ended_at)), default=None)


def recharge_of(chain: Chain) -> Recharge | None:
    """None for what is only practised, and where no full charge is known."""
    charged, running = last_full_charge(chain.build), chain.running
    if charged is None or running is None or chain.build.practice:
        return None
    unused = Unused(running)
    return Recharge(
        charged=charged, by=day_after(charged, unused.recharge_days), lost=day_after(charged, unused.lost_days)
    )
