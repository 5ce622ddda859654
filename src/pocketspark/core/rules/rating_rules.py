"""Every rating signed as a rule: one code may have several bounds, of which each part has its own finding."""

from collections.abc import Iterator

from pocketspark.core.circuit import Circuit
from pocketspark.core.finding import Judgement
from pocketspark.core.ratings import RATINGS, Rating, judged
from pocketspark.core.rules.rule import rule


def register(ratings: list[Rating]) -> None:
    """Make a rule of each code among them."""
    for code in dict.fromkeys(rating.code for rating in ratings):
        _register([rating for rating in ratings if rating.code == code])


def _register(alike: list[Rating]) -> None:
    first = alike[0]

    def holds(circuit: Circuit) -> Iterator[Judgement]:
        for rating in alike:
            yield from judged(rating, circuit)

    holds.__doc__ = first.watches
    rule(
        first.code,
        station=first.station,
        source=first.source,
        advice=first.advice,
        node=first.node,
        limits=first.limits,
        follows=first.follows,
    )(holds)


register(RATINGS)
