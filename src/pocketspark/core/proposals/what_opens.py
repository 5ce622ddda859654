"""What each wish costs, and what one change would open: the same search once more, for its longest build only."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field

from pocketspark.core.chain import Chain
from pocketspark.core.fit.styles import place_of
from pocketspark.core.models import Project
from pocketspark.core.models.bay import Bay
from pocketspark.core.models.gadget import Window
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.offer import OnOffer, Wishes
from pocketspark.core.proposals.search import longest, noticed_hours
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
    wishes: dict[str, bool | None]  # of the wishes, to set; empty where the change is the maker's own


def _lid_raised(project: Project, build: int) -> Project | None:
    place = place_of(project.gadget, project.builds[build])
    if place is None or place.bay.tube is not None:
        return None
    raised = place.bay.lid_raised_mm + LID_MM
    if place.bay.lid_raise_mm is not None and raised > place.bay.lid_raise_mm:
        return None
    return _with_bay(project, place.bay.model_copy(update={"lid_raised_mm": raised}))


def _cleared(project: Project, _build: int) -> Project | None:
    """Everything that may be trimmed is gone."""
    bay = project.gadget.bay
    if bay is None or all(one.state != "trim" for one in bay.obstacles):
        return None
    gone = [one.model_copy(update={"state": "removed"}) if one.state == "trim" else one for one in bay.obstacles]
    return _with_bay(project, bay.model_copy(update={"obstacles": tuple(gone)}))


def _with_bay(project: Project, bay: Bay) -> Project:
    return project.model_copy(update={"gadget": project.gadget.model_copy(update={"bay": bay})})


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


_SWITCHES: tuple[tuple[str, str, str], ...] = (
    ("type_c_only", "Type-C only", "any socket"),
    ("no_regulator", "without a regulator", "with a regulator"),
    ("no_cautions", "nothing to be careful of", "cautions allowed"),
    ("own_parts_only", "from your parts alone", "with bought parts"),
    ("keep_cell", "with the cell of this build", "with any cell"),
    ("keep_charger", "with the charger of this build", "with any charger"),
)
_LIMITS = (
    ("hours_at_least", "whatever the hours"),
    ("full_within_h", "however long it charges"),
    ("price_at_most", "at any price"),
)


def variations(project: Project, number: int, wishes: Wishes) -> Iterator[Variation]:
    """One for every wish, the other way round, and one for every change of the gadget that might help."""
    build = project.builds[number]
    has = {"keep_cell": build.cell is not None, "keep_charger": any(board.charger for board in build.boards)}
    for key, wished, otherwise in _SWITCHES:
        if not has.get(key, True):
            continue
        now = getattr(wishes, key)
        yield Variation(otherwise if now else wished, {key: not now})
    for key, otherwise in _LIMITS:
        if getattr(wishes, key) is not None:
            yield Variation(otherwise, {key: None})
    yield Variation(f"with the lid {millimetres(LID_MM)} higher", change=_lid_raised)
    yield Variation("with everything trimmed that may be", change=_cleared)
    lower = _lower_v(project)
    yield Variation(f"if it turns out to work down to {volts(lower)}", change=_wider_window)


def what_opens(
    project: Project, build: int, offer: OnOffer, wishes: Wishes, now_h: float
) -> Iterator[tuple[Opens, ...]]:
    """One more each time. `now_h`: of the longest build as it is wished, 0 for none. Stop asking to cancel."""
    opened: list[Opens] = []
    for variation in variations(project, build, wishes):
        changed = variation.change(project, build)
        if changed is None:
            continue
        asked = Wishes.model_validate(wishes.model_dump() | dict(variation.wishes))
        other = longest(changed, build, offer, asked)
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
