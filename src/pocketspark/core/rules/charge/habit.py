"""Charge: what hanging on the charger all the time does to the cell."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.fit.allowances import SWELL_SHARE
from pocketspark.core.life.years import Years
from pocketspark.core.message import Message, say
from pocketspark.core.physics.ageing import MONTHS_A_YEAR
from pocketspark.core.rules.rule import Facts, caution, fine, note, remedy, rule
from pocketspark.core.units.figures import percent, volts

# So much of its capacity in one year is worth another habit (our judgement).
MUCH_A_YEAR = 0.08
# Common linear chargers begin again once the cell has fallen so far (data sheets, from memory).
AGAIN_AT_V = 4.05


@rule(
    "charge.plugged_in",
    station="charge",
    node="cell",
    source="ageing laws fitted to published tests, tests/reference/data/published_lives.json",
    limits=say("{much} in the first year", much=percent(MUCH_A_YEAR)),
    advice=say("Unplug it when it is full, use a timer in the wall socket, or choose a board that ends lower."),
)
def plugged_in(chain: Chain) -> Iterator[Judgement]:
    """A cell that is kept full and warm ages by lying there, used or not."""
    running, build = chain.running, chain.build
    if running is None or running.charging is None or build.cell_comes_out:
        return
    years, place = Years(running), f"{chain.path}.plugged_in"
    lost = percent(float(years.lost.likely[MONTHS_A_YEAR - 1] - years.lost_before))
    facts: Facts = {"figure": lost, "rests_on": (place,)}
    if build.plugged_in == "until_full":
        yield fine(say("Taken off when full, the cell loses about {lost} in its first year.", lost=lost), **facts)
        return
    facts["remedy"] = remedy(say("Take it off when it is full"), {place: "until_full"})
    if build.plugged_in == "overnight":
        yield note(say("Charged overnight, the cell loses about {lost} in its first year.", lost=lost), **facts)
        return
    facts["working"] = _what_happens()
    if lost.value < MUCH_A_YEAR:
        yield note(say("Left plugged in, the cell loses about {lost} in its first year.", lost=lost), **facts)
    else:
        headline = say("Left plugged in, the cell loses about {lost} in its first year, and swells.", lost=lost)
        yield caution(headline, limit=percent(MUCH_A_YEAR), **facts)


def _what_happens() -> Message:
    return say(
        "Common chargers stop when it is full and begin again at about {again}, so it stays nearly full. The fit keeps "
        "{swell} of a pouch's thickness for its swelling.",
        again=volts(AGAIN_AT_V),
        swell=percent(SWELL_SHARE),
    )
