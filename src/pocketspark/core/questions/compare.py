"""Builds side by side: figures, fit, wiring and cautions row by row, what is said of one and not of another, curves."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Literal, NamedTuple

from pocketspark.core.chain import Chain
from pocketspark.core.finding import GRAVITY, Level
from pocketspark.core.fit.answer import FitAnswer
from pocketspark.core.fit.build_in_bay import fitted_build
from pocketspark.core.fit.picture import BayPicture, picture_of
from pocketspark.core.kinds.wires import gauge
from pocketspark.core.life.serving import serving, years_shown
from pocketspark.core.message import NOTHING, Message, Value, _, as_message, once, say
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment, RunCurve
from pocketspark.core.rules.causes import together
from pocketspark.core.units.figures import amp_hours, amps, celsius, days, fixed, hours, millimetres, ohms, volts
from pocketspark.core.wiring.cutlist import CutWire, cut_list

Group = Literal["Numbers", "Fit", "Wiring", "Cautions"]
UNKNOWN = say("–")


class ComparedFigure(Model):
    """One figure across the builds. `best` marks the better ones where one direction is plainly better.

    `group`: what it is about, for a heading; `same`: all of them have it alike.
    """

    group: Group
    label: Message
    texts: tuple[Message, ...]
    best: tuple[int, ...] = ()
    same: bool


class Difference(Model):
    """A code that is not said of all builds alike: the gravest level and headline of each, None where it is silent."""

    code: str
    levels: tuple[Level | None, ...]
    headlines: tuple[Message, ...]


class Side(Model):
    """One build: its name, gravest level, the run of its most used mode, and how its parts lie."""

    build: int
    name: str
    worst: Level
    mode: str
    curve: RunCurve | None
    picture: BayPicture | None


class Comparison(Model):
    """Two or more builds of one project."""

    sides: tuple[Side, ...]
    rows: tuple[ComparedFigure, ...]
    differences: tuple[Difference, ...]


@dataclass(frozen=True)
class _Looked:
    """All that is looked at of one build. `wires` and `serves_years` None: they cannot be told yet."""

    said: Assessment
    fit: FitAnswer | None
    wires: list[CutWire] | None
    serves_years: float | None


def compare(project: Project, builds: Sequence[int]) -> Comparison:
    """Raises IndexError where the project has no such build."""
    looked = [_look_at(project, build) for build in builds]
    return Comparison(
        sides=tuple(_side(project, build, one) for build, one in zip(builds, looked, strict=True)),
        rows=tuple(_row(figure, looked) for figure in _FIGURES),
        differences=tuple(_differences([one.said for one in looked])),
    )


def _cost(value: float) -> Value:
    return fixed(value, 2)


def _look_at(project: Project, build: int) -> _Looked:
    said, chain = assess(project, build), Chain(project, build)
    fitted = fitted_build(chain)
    wires = cut_list(chain) if chain.running else None
    served = serving(chain)
    return _Looked(said, fitted.answer if fitted else None, wires, served.years if served else None)


def _side(project: Project, build: int, looked: _Looked) -> Side:
    modes = looked.said.run.modes if looked.said.run else ()
    most_used = max(modes, key=lambda mode: mode.hours_per_day, default=None)
    return Side(
        build=build,
        name=project.builds[build].name,
        worst=looked.said.worst,
        mode=most_used.name if most_used else "",
        curve=most_used.curve if most_used else None,
        picture=picture_of(looked.fit),
    )


_MORE, _LESS, _NEITHER = 1, -1, 0


class _Figure(NamedTuple):
    group: Group
    label: Message
    pick: Callable[[_Looked], float | None]
    write: Callable[[float], Value]
    better: int


def _longest(said: Assessment) -> float | None:
    if said.run is None:
        return None
    return max(
        (mode.hours if mode.service_hours is None else mode.service_hours for mode in said.run.modes), default=None
    )


def _count(level: Level) -> Callable[[_Looked], float]:
    """Causes, not sentences: what is told together counts once."""
    return lambda one: sum(head.level == level for head, _ in together(one.said.findings))


def _number(value: float) -> Value:
    return f"{value:.0f}" if value else say("none")


def _how_it_fits(one: _Looked) -> int | None:
    """A no about a bay that nobody has measured is none."""
    if one.fit is None:
        return None
    guessed_no = one.fit.fits == "no" and one.fit.assumed_bay
    return _BY_ANSWER.index("not_certain" if guessed_no else one.fit.fits)


_FITS = (_("it does not fit"), _("not settled"), _("not certain"), _("too close to call"), _("everything fits"))
_BY_ANSWER = ("no", "not_settled", "not_certain", "too_close", "yes")

_FIGURES: tuple[_Figure, ...] = (
    _Figure("Numbers", say("cell holds"), lambda s: s.said.cell.capacity_ah if s.said.cell else None, amp_hours, _MORE),
    _Figure("Numbers", say("hours of use, at most"), lambda s: _longest(s.said), hours, _MORE),
    _Figure(
        "Numbers", say("days as you use it"), lambda s: s.said.run.served_days if s.said.run else None, days, _MORE
    ),
    _Figure("Numbers", say("serves"), lambda s: s.serves_years, years_shown, _MORE),
    _Figure(
        "Numbers", say("switched off, lasts"), lambda s: s.said.run.standby_days if s.said.run else None, days, _MORE
    ),
    _Figure(
        "Numbers",
        say("most at the gadget"),
        lambda s: s.said.gadget_v.max if s.said.gadget_v else None,
        volts,
        _NEITHER,
    ),
    _Figure(
        "Numbers",
        say("least at the gadget"),
        lambda s: s.said.gadget_v.min if s.said.gadget_v else None,
        volts,
        _NEITHER,
    ),
    _Figure(
        "Numbers",
        say("charge-current resistor"),
        lambda s: s.said.charge.r_prog_ohm if s.said.charge else None,
        ohms,
        0,
    ),
    _Figure(
        "Numbers", say("charge current"), lambda s: s.said.charging.current_a if s.said.charging else None, amps, 0
    ),
    _Figure(
        "Numbers", say("full in about"), lambda s: s.said.charging.hours if s.said.charging else None, hours, _LESS
    ),
    _Figure(
        "Numbers", say("chip at most"), lambda s: s.said.charge.junction_c_most if s.said.charge else None, celsius, -1
    ),
    _Figure(
        "Numbers",
        say("parts cost"),
        lambda s: s.said.payback.parts_cost if s.said.payback else None,
        lambda cost: fixed(cost, 2),
        _LESS,
    ),
    _Figure("Fit", say("in its bay"), _how_it_fits, lambda n: say(_FITS[int(n)]), _MORE),
    _Figure("Fit", say("room to spare"), lambda s: s.fit.clearance_mm if s.fit else None, millimetres, _MORE),
    _Figure("Fit", say("openings to cut"), lambda s: len(s.fit.openings) if s.fit else None, _number, _LESS),
    _Figure("Wiring", say("wires to cut"), lambda s: len(s.wires) if s.wires is not None else None, _number, _LESS),
    _Figure(
        "Wiring",
        say("wire in all"),
        lambda s: sum(w.length_mm for w in s.wires) if s.wires else None,
        millimetres,
        _LESS,
    ),
    _Figure(
        "Wiring",
        say("thickest"),
        lambda s: min(w.awg for w in s.wires) if s.wires else None,
        lambda awg: gauge(int(awg)),
        0,
    ),
    _Figure("Cautions", say("stops"), _count("stop"), _number, _LESS),
    _Figure("Cautions", say("cautions"), _count("caution"), _number, _LESS),
    _Figure("Cautions", say("notes"), _count("note"), _number, _NEITHER),
)


def _row(figure: _Figure, looked: Sequence[_Looked]) -> ComparedFigure:
    values = [figure.pick(one) for one in looked]
    texts = tuple(UNKNOWN if value is None else as_message(figure.write(value)) for value in values)
    # A build that may not be made is best at nothing; what nobody knows of it is no best either.
    known = {
        i: value * figure.better
        for i, (value, one) in enumerate(zip(values, looked, strict=True))
        if value is not None and one.said.worst != "stop"
    }
    best: tuple[int, ...] = ()
    same = len(once(texts)) == 1
    if figure.better and not same and len(known) > 1 and max(known.values()) > min(known.values()):
        best = tuple(i for i, value in known.items() if value == max(known.values()))
    return ComparedFigure(group=figure.group, label=figure.label, texts=texts, best=best, same=same)


def _differences(seen: list[Assessment]) -> list[Difference]:
    """Codes of note or worse that are not said alike of every build, gravest first."""
    said = [{f.code: f for f in reversed(one.findings) if f.level != "pass"} for one in seen]
    codes = {code for one in said for code in one}
    found = [
        Difference(
            code=code,
            levels=tuple(one[code].level if code in one else None for one in said),
            headlines=tuple(one[code].headline if code in one else NOTHING for one in said),
        )
        for code in codes
    ]
    differing = [d for d in found if len(once(d.headlines)) > 1]
    return sorted(differing, key=lambda d: (-max(GRAVITY[level] for level in d.levels if level), d.code))
