"""Of all that nothing beats the one that a maker would build, why, and what its runner-up buys at what cost.

In this order: a protected cell, enough light, nothing to be careful of, then as long as matters, then the least work.
The order, and how much longer matters, are our judgement; there is no published one.
"""

from collections.abc import Iterator, Sequence

from pocketspark.core.limits import DIM
from pocketspark.core.message import Message, row_of, say, say_of
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.proposal import Proposal
from pocketspark.core.units.figures import days, fixed, hours, times

# What lasts this share of the longest lasts long enough: less work counts for more then.
LONG_ENOUGH = 0.6
# Longer by less than this is no reason to choose another.
WORTH_IT = 1.15


class Recommendation(Model):
    """Places in the front: the one to build with its reasons, and the runner-up with what it brings and costs."""

    place: int
    because: Message
    runner_up: int | None
    instead: Message | None


def recommended(front: Sequence[Proposal]) -> Recommendation | None:
    """None where nothing is sound. The runner-up is one of those that are the best at something."""
    if not front:
        return None
    longest_h = max(one.hours for one in front)
    places = sorted(range(len(front)), key=lambda place: _rank(front[place], longest_h))
    first = front[places[0]]
    others = (place for place in places[1:] if front[place].because and _is_another_choice(front[place], first))
    other = next(others, None)
    return Recommendation(
        place=places[0],
        because=row_of(_reasons(first, front)),
        runner_up=other,
        instead=None if other is None else _instead(front[other], first),
    )


def with_the_best_first(front: Sequence[Proposal], shown: int) -> list[Proposal]:
    """The front as it is, but that what is recommended is among the first so many."""
    best = recommended(front)
    if best is None or best.place < shown:
        return list(front)
    return [front[best.place], *(one for place, one in enumerate(front) if place != best.place)]


def _rank(one: Proposal, longest_h: float) -> tuple[float, ...]:
    """Lower is better."""
    short = one.hours < LONG_ENOUGH * longest_h
    return (
        not one.is_protected,
        _is_dim(one),
        len(one.cautions),
        short,
        one.joints + one.holes + len(one.edits),
        -one.hours,
        one.price,
    )


def _is_dim(one: Proposal) -> bool:
    return one.light_half is not None and one.light_half < DIM


def _reasons(one: Proposal, front: Sequence[Proposal]) -> Iterator[Message]:
    if not one.cautions:
        yield say("nothing to be careful of")
    if one.is_protected:
        yield say("the cell is protected")
    if one.light_half is not None and not _is_dim(one):
        yield say("it stays bright")
    yield say("{days} as used", days=days(one.days)) if one.days else say("{hours} of use", hours=hours(one.hours))
    if one.serves:
        yield say("serves {years}", years=one.serves)
    if one.joints + one.holes <= min(other.joints + other.holes for other in front):
        yield say_of(one.joints, "least work, one joint", "least work, {count} joints")
    else:
        yield say_of(one.joints, "one joint", "{count} joints")


def _is_another_choice(one: Proposal, first: Proposal) -> bool:
    """It brings something that anybody notices: time, money or less work."""
    longer, cheaper = one.hours > WORTH_IT * first.hours, one.price <= first.price - 1
    return longer or cheaper or one.joints + one.holes < first.joints + first.holes


def _instead(one: Proposal, first: Proposal) -> Message:
    """What is better about it, and what that costs."""
    better = [*_gains(one, first)]
    worse = [*_gains(first, one), *_new_cautions(one, first)]
    if not worse:
        return say("{better}", better=row_of(better))
    return say("{better}; but the first has {worse}", better=row_of(better), worse=row_of(worse))


def _gains(one: Proposal, other: Proposal) -> Iterator[Message]:
    """Each as it reads of the one that has it."""
    if one.hours > WORTH_IT * other.hours:
        yield say("{longer} the hours", longer=times(one.hours / other.hours))
    if one.price <= other.price - 0.5:
        yield say("a price lower by {less}", less=fixed(other.price - one.price, 2))
    if (fewer := other.joints - one.joints) > 0:
        yield say_of(fewer, "one joint less", "{count} joints less")
    if one.holes < other.holes:
        yield say("no hole to cut") if not one.holes else say("fewer holes to cut")
    if one.is_protected and not other.is_protected:
        yield say("a protected cell")
    if _is_dim(other) and not _is_dim(one):
        yield say("more light")
    if one.full_h < other.full_h - 0.5:
        yield say("a charge shorter by {sooner}", sooner=hours(other.full_h - one.full_h))


def _new_cautions(one: Proposal, first: Proposal) -> Iterator[Message]:
    fewer = len(one.cautions) - len(first.cautions)
    if fewer > 0:
        yield say_of(fewer, "one caution less", "{count} cautions less")
