"""Power: what becomes of the cell while nobody uses the gadget."""

from collections.abc import Iterator

from pocketspark.core.chain import Running
from pocketspark.core.finding import Judgement
from pocketspark.core.life.unused import LOST_V, MARGIN, MOST_DAYS, Unused
from pocketspark.core.message import NOTHING, say
from pocketspark.core.rules.rule import Facts, caution, fine, rule
from pocketspark.core.units.figures import amps, days, percent, volts

# What is put away for a season is to be alive after it (our judgement).
FORGOTTEN_DAYS = 90.0


@rule(
    "power.recharge_by",
    station="power",
    node="cell",
    source="drains of the build; charge left under the cut from memory",
    limits=say(
        "{forgotten} until the cell is under {lost}; recharged after {margin} of the time, once a year at least",
        forgotten=days(FORGOTTEN_DAYS),
        lost=volts(LOST_V),
        margin=percent(MARGIN),
    ),
    advice=say("Note the date on the gadget and charge it by then, or take the cell out and store it half full."),
    follows=("power.off_drain",),
)
def recharge_by(running: Running) -> Iterator[Judgement]:
    """Unused, the protection opens one day, the drains behind it go on, and weeks later the cell is lost."""
    unused = Unused(running)
    recharge, lost = days(unused.recharge_days), days(unused.lost_days)
    working = (
        NOTHING
        if unused.opens_days is None
        else say(
            "The protection opens after {opens}. Then {going_on} go on until the cell is under {least}.",
            opens=days(unused.opens_days),
            going_on=amps(unused.after_opening_a),
            least=volts(LOST_V),
        )
    )
    facts: Facts = {"figure": lost, "working": working, "rests_on": ("gadget.off_current_a",)}
    if unused.lost_days < FORGOTTEN_DAYS:
        headline = say("Put away full, the cell is lost after {lost}. Charge it within {it}.", lost=lost, it=recharge)
        yield caution(headline, limit=days(FORGOTTEN_DAYS), **facts)
    elif unused.recharge_days >= MOST_DAYS:
        yield fine(say("Put away, it needs a charge once a year."), **facts)
    else:
        headline = say("Put away full, charge it within {it}. The cell is lost after {lost}.", lost=lost, it=recharge)
        yield fine(headline, **facts)
