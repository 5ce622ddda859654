"""What each wish costs, and what one change would open: the same search once more, for its longest build only."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from pocketspark.core.chain import Chain
from pocketspark.core.models import Project
from pocketspark.core.models.gadget import Window
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.figures import noticed_hours
from pocketspark.core.proposals.judging import Memory
from pocketspark.core.proposals.offer import OnOffer, Wishes
from pocketspark.core.proposals.search import longest
from pocketspark.core.units.figures import hours, millimetres, volts

LID_MM, WINDOW_V = 1.0, 0.3


@dataclass(frozen=True)
class Variation:
    """One thing done otherwise. `wishes`: fields of the wishes; `change`: of the project, None where it cannot be."""

    says: str
    wishes: Mapping[str, object] = field(default_factory=dict)
    change: Callable[[Project, int], Project | None] = lambda project, _build: project


class Opens(Model):
    """What one change comes to beside the wishes as they are: a sentence, hours more or less, builds in question."""

    says: str
    sentence: str
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


# A wish by its field: what it is called, and what the opposite of it is.
_SWITCHES: tuple[tuple[str, str, str], ...] = (
    ("as_long_as_old", "as long as the old set", "whatever the old set lasted"),
    ("type_c_only", "Type-C only", "any socket"),
    ("no_regulator", "without a regulator", "with a regulator"),
    ("no_cautions", "nothing to be careful of", "cautions allowed"),
    ("no_holes", "without cutting", "with holes cut"),
    ("reversible", "reversible", "for good"),
    ("usable_while_charging", "usable while it charges", "as it is used in this build"),
    ("own_parts_only", "from your parts alone", "with bought parts"),
    ("keep_cell", "with the cell of this build", "with any cell"),
    ("keep_charger", "with the charger of this build", "with any charger"),
    ("any_way_in", "any way in for the 5 V", "the way in of this build"),
    ("any_style", "anywhere it may sit", "where this build sits"),
    ("any_switch", "any place of the switch", "the switch of this build"),
    ("trim", "with everything trimmed that may be", "with everything that stands in it"),
    ("any_size", "cells of every size code", "cells of the library alone"),
)
_LIMITS = (
    ("hours_at_least", "whatever the hours"),
    ("full_within_h", "however long it charges"),
    ("price_at_most", "at any price"),
    ("lid_mm", "with the lid as it is"),
)


def may_be_wished(project: Project, number: int) -> set[str]:
    """Of the wishes that need something to be there, those that have it."""
    build, bay = project.builds[number], project.gadget.bay
    may = set()
    if build.cell is not None:
        may.add("keep_cell")
    if any(board.charger for board in build.boards):
        may.add("keep_charger")
    if bay is not None and any(obstacle.state == "trim" for obstacle in bay.obstacles):
        may.add("trim")
    if bay is not None and bay.tube is None and _lid_may_rise_mm(project) > 0:
        may.add("lid_mm")
    return may


def _lid_may_rise_mm(project: Project) -> float:
    """A millimetre, or as much of it as it still may."""
    bay = project.gadget.bay
    most = None if bay is None else bay.lid_raise_mm
    return LID_MM if bay is None or most is None else min(LID_MM, round(most - bay.lid_raised_mm, 3))


def variations(project: Project, number: int, wishes: Wishes) -> Iterator[Variation]:
    """One for every wish, the other way round, and one for every change of the gadget that might help."""
    may = may_be_wished(project, number)
    for key, wished, otherwise in _SWITCHES:
        if key in ("keep_cell", "keep_charger", "trim") and key not in may:
            continue
        now = getattr(wishes, key)
        yield Variation(otherwise if now else wished, {key: not now})
    for key, otherwise in _LIMITS:
        if getattr(wishes, key) is not None:
            yield Variation(otherwise, {key: None})
    if "lid_mm" in may and wishes.lid_mm is None:
        by_mm = _lid_may_rise_mm(project)
        yield Variation(f"with the lid {millimetres(by_mm)} higher", {"lid_mm": by_mm})
    lower = _lower_v(project)
    yield Variation(f"if it turns out to work down to {volts(lower)}", change=_wider_window)


def what_opens(
    project: Project, build: int, offer: OnOffer, wishes: Wishes, now_h: float, memory: Memory
) -> Iterator[tuple[Opens, ...]]:
    """One more each time. `now_h`: of the longest build as it is wished, 0 for none. Stop asking to cancel."""
    opened: list[Opens] = []
    for variation in variations(project, build, wishes):
        changed = variation.change(project, build)
        if changed is None:
            continue
        asked = Wishes.model_validate(wishes.model_dump() | dict(variation.wishes))
        other = longest(changed, build, offer, asked, memory if changed is project else Memory())
        then_h = other.best.hours if other.best else 0.0
        opened.append(
            Opens(
                says=variation.says,
                sentence=_sentence(now_h, then_h) if other.settled else "not settled in the time",
                more_h=round(then_h - now_h, 3),
                builds=other.builds,
                wishes=dict(variation.wishes),
            )
        )
        yield tuple(opened)


def _sentence(now_h: float, then_h: float) -> str:
    if then_h == 0:
        return "nothing is left" if now_h else "still nothing"
    if not now_h:
        return f"opens {hours(then_h)}"
    if noticed_hours(then_h) == noticed_hours(now_h):
        return "no hours more or less"
    return f"{hours(abs(then_h - now_h))} {'more' if then_h > now_h else 'less'}"
