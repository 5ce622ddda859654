"""Charge: a charger that is there already."""

from collections.abc import Iterator

from pocketspark.core.chain import Chain
from pocketspark.core.finding import Judgement
from pocketspark.core.message import say
from pocketspark.core.rules.rule import note, rule


@rule(
    "charge.given_unknown",
    station="charge",
    node="charger",
    source="common practice, no source",
    advice=say("Read its label, or put a meter in series with it and enter its current."),
    guide="current",
)
def given_unknown(chain: Chain) -> Iterator[Judgement]:
    """Without its current nobody can say how long a charger takes, or whether the cell bears it."""
    if chain.cell is None or chain.charging_board is not None:
        return
    if chain.build.who_charges == "external":
        yield note(
            say("The current of the external charger is unknown, and so is the charge time."),
            working=say("Its label says it, in mA, beside its end voltage."),
            subjects=(f"{chain.path}.external_charger.current_a",),
        )
    elif chain.keeps_own_charger:
        yield note(
            say("Nobody has measured what the gadget's own charger gives, so no charge time can be told."),
            working=say("Multimeter on its current range in the cell's plus lead, cell half empty."),
            subjects=("gadget.supply.own_charger.current_a",),
        )
