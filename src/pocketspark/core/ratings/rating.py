"""What a part is rated for, and the one judge that holds every rating against every state of a build."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass

from pocketspark.core.circuit import EVERY_FEED, EVERY_USE, Circuit, Feed, UseKind, Worst
from pocketspark.core.circuit.corner_in_words import corner_in_words
from pocketspark.core.circuit.corners import TOLERANCES, Tolerance
from pocketspark.core.finding import Judgement, Level, Node, Remedy
from pocketspark.core.message import Message, Value, _, say
from pocketspark.core.units.figures import Figure, amps_apart


@dataclass(frozen=True)
class Bound:
    """One part's figure. `usual`: nobody has stated it, and parts of its kind usually have it: never a stop.

    `part` stands in the sentence; `quantity` is the one that this part feels, where several parts share a rating.
    """

    limit: float
    part: Value = ""
    usual: bool = False
    quantity: str = ""
    rests_on: tuple[str, ...] = ()
    remedy: Remedy | None = None


OWN_FIGURE = say("the part's own figure, else what parts of its kind usually have")


@dataclass(frozen=True)
class Rating:
    """A bound on a quantity, whatever the state. `bounds` finds the parts of a build that have it.

    `over`, `near` and `within` are the sentences, with the names {value}, {limit} and {part}. `near_from`: the share of
    the limit from which it is close. `stop_from`: how many times the limit is a stop and no caution any more.
    `uses`, `feeds` and `shortest_s` narrow the states: an overload shorter than that does nothing.
    """

    code: str
    station: str
    node: Node
    source: str
    advice: Message
    quantity: str
    bounds: Callable[[Circuit], Iterable[Bound]]
    over: str
    within: str
    near: str = ""
    near_from: float = 1.0
    stop_from: float = 1.0
    least: bool = False
    uses: Sequence[UseKind] = EVERY_USE
    feeds: Sequence[Feed] = EVERY_FEED
    shortest_s: float = 0.0
    figures: Callable[[float, float], tuple[Figure, Figure]] = amps_apart
    limits: Message = OWN_FIGURE
    watches: str = ""
    follows: tuple[str, ...] = ()


def judged(rating: Rating, circuit: Circuit) -> Iterator[Judgement]:
    """One judgement a part: how near the nearest state comes to what it is rated for, and which state that is."""
    for bound in rating.bounds(circuit):
        quantity = bound.quantity or rating.quantity
        extreme = _worst(rating, quantity, circuit, TOLERANCES)
        if extreme is None:
            continue
        near = rating.near_from if rating.near else 1.0
        exceeds = _share(rating, extreme, bound) > min(near, 1.0)
        nominal = (_worst(rating, quantity, circuit, ("nominal",)) if exceeds else None) or extreme
        # What only the end of a tolerance passes is a caution; what passes anyway is told by the state it passes in.
        decides = nominal if _share(rating, nominal, bound) > 1 else extreme
        level, sentence = _verdict(rating, bound, _share(rating, nominal, bound), _share(rating, extreme, bound))
        value, limit = rating.figures(decides.value, bound.limit)
        headline = say(sentence, value=value, limit=limit, **({"part": bound.part} if bound.part else {}))
        corner = corner_in_words(decides.corner)
        yield Judgement(
            level=level,
            headline=headline if level == "pass" else say(_IN_ITS_CORNER, headline=headline, corner=corner),
            figure=value,
            limit=limit,
            working=corner,
            assumed=True if bound.usual else None,
            rests_on=bound.rests_on,
            remedy=bound.remedy if level in ("stop", "caution") else None,
        )


_IN_ITS_CORNER = _("{headline} {corner}")


def _worst(rating: Rating, quantity: str, circuit: Circuit, tolerances: Sequence[Tolerance]) -> Worst | None:
    return circuit.worst(
        quantity,
        least=rating.least,
        uses=rating.uses,
        feeds=rating.feeds,
        tolerances=tolerances,
        shortest_s=rating.shortest_s,
    )


def _share(rating: Rating, worst: Worst, bound: Bound) -> float:
    """Of what it is rated for; over 1 is past it."""
    if rating.least:
        return bound.limit / max(worst.value, 1e-9)
    return worst.value / max(bound.limit, 1e-9)


# What is on a limit is within it.
_SAME = 1 + 1e-6


def _verdict(rating: Rating, bound: Bound, nominal: float, extreme: float) -> tuple[Level, str]:
    if nominal > rating.stop_from * _SAME and not bound.usual:
        return "stop", rating.over
    if extreme > _SAME:
        return "caution", rating.over
    if rating.near and nominal > rating.near_from:
        return "caution", rating.near
    return "pass", rating.within
