"""What each wish costs, and what one change would open: the same search once more, for its longest build only."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from pocketspark.core.chain import Chain
from pocketspark.core.message import Message, say, verbatim
from pocketspark.core.models import Project
from pocketspark.core.models.gadget import Window
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.judging import Memory
from pocketspark.core.proposals.objectives import noticed
from pocketspark.core.proposals.offer import OnOffer
from pocketspark.core.proposals.search import Longest, longest
from pocketspark.core.proposals.wishes import WISHES, Wishes, lid_may_rise_mm, may_be_wished
from pocketspark.core.units.figures import hours, millimetres, volts

WINDOW_V = 0.3


@dataclass(frozen=True)
class Variation:
    """One thing done otherwise. `wishes`: fields of the wishes; `change`: of the project, None where it cannot be."""

    says: Message
    wishes: Mapping[str, bool | float | None] = field(default_factory=dict)
    change: Callable[[Project, int], Project | None] = lambda project, _build: project


class Opens(Model):
    """What one change comes to beside the wishes as they are: a sentence, hours more or less, builds in question."""

    says: Message
    sentence: Message
    settled: bool
    more_h: float
    builds: int
    wishes: dict[str, bool | float | None]  # of the wishes, to set; empty where the change is the maker's own


def _wider_window(project: Project, _build: int) -> Project | None:
    """Only where nobody has measured it."""
    if project.gadget.window and project.gadget.window.v_run_min is not None:
        return None
    lower = _lower_v(project)
    most = project.gadget.window.v_abs_max if project.gadget.window else None
    gadget = project.gadget.model_copy(update={"window": Window(v_run_min=lower, v_abs_max=most)})
    return project.model_copy(update={"gadget": gadget})


def _lower_v(project: Project) -> float:
    return max(float(Chain(project, 0).window.v_run_min) - WINDOW_V, 0.1)


def variations(project: Project, number: int, wishes: Wishes) -> Iterator[Variation]:
    """One for every wish, the other way round, and one for a change of the gadget that might help."""
    for key in may_be_wished(project, number):
        text, now = WISHES[key], getattr(wishes, key)
        if not text.unit:
            yield Variation(verbatim(text.opposite if now else text.label), {key: not now})
        elif now is not None:
            yield Variation(verbatim(text.opposite), {key: None})
        elif key == "lid_mm":
            by_mm = lid_may_rise_mm(project)
            yield Variation(say("with the lid raised by {by_mm}", by_mm=millimetres(by_mm)), {key: by_mm})
    lower = _lower_v(project)
    yield Variation(say("if it turns out to work down to {lower}", lower=volts(lower)), change=_wider_window)


def what_opens(
    project: Project, build: int, offer: OnOffer, wishes: Wishes, now_h: float, memory: Memory
) -> Iterator[tuple[Opens, ...]]:
    """What is known so far, again and again. `now_h`: of the longest build as it is wished, 0 for none.

    Stop asking to cancel."""
    opened: list[Opens] = []
    for variation in variations(project, build, wishes):
        changed = variation.change(project, build)
        if changed is None:
            continue
        asked = Wishes.model_validate(wishes.model_dump() | dict(variation.wishes))
        other = Longest(0, None, settled=False)
        for look in longest(changed, build, offer, asked, memory if changed is project else Memory()):
            other = look
            yield tuple(opened)
        then_h = other.best.hours if other.best else 0.0
        opened.append(
            Opens(
                says=variation.says,
                sentence=_sentence(now_h, then_h) if other.settled else say("not settled in the time"),
                settled=other.settled,
                more_h=round(then_h - now_h, 3),
                builds=other.builds,
                wishes=dict(variation.wishes),
            )
        )
        yield tuple(opened)


def _sentence(now_h: float, then_h: float) -> Message:
    if then_h == 0:
        return say("nothing is left") if now_h else say("still nothing")
    if not now_h:
        return say("opens {then_h}", then_h=hours(then_h))
    if noticed(then_h) == noticed(now_h):
        return say("no hours more or less")
    difference = hours(abs(then_h - now_h))
    if then_h > now_h:
        return say("{difference} more", difference=difference)
    return say("{difference} less", difference=difference)
