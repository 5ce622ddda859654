"""How many years a build serves, in one line: for the shelf, the sheet, the comparison and the proposals."""

from dataclasses import dataclass

from pocketspark.core.chain import Chain
from pocketspark.core.life.years import MOST_YEARS, Years
from pocketspark.core.message import Message, say
from pocketspark.core.models.climate import MONTHS
from pocketspark.core.units.figures import days


@dataclass(frozen=True)
class Serving:
    """`years`: until a charge no longer lasts as long as wanted; all that are looked at where it goes on."""

    years: float
    says: Message


def serving(chain: Chain) -> Serving | None:
    """None before a cell is chosen, and where the gadget does not do its job even with a new one."""
    running = chain.running
    if running is None or not running.served_days:
        return None
    years = Years(running)
    text = say("serves {years}", years=years_shown(years.serves_years))
    if chain.gadget.shell.has_seasons:
        month = years.shortest_month
        text = say(
            "{serves}; a charge lasts {least} in {month}",
            serves=text,
            least=days(float(years.days.likely[month])),
            month=MONTHS[int(years.month[month]) - 1],
        )
    return Serving(years.serves_years, text)


def years_shown(years: float) -> Message:
    """The years told as they are, or as many and more."""
    shown = days(years * 365)
    return say("{years} and more", years=shown) if years >= MOST_YEARS else say("{years}", years=shown)
