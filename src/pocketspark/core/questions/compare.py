"""Builds side by side: their figures row by row, what is said of one and not of another, and their curves."""

from collections.abc import Callable, Sequence

from pocketspark.core.finding import GRAVITY, Level
from pocketspark.core.models import Project
from pocketspark.core.models.model import Model
from pocketspark.core.questions.assess import assess
from pocketspark.core.questions.assessment import Assessment, RunCurve
from pocketspark.core.units.figures import amp_hours, amps, celsius, days, hours, ohms, volts

UNKNOWN = "–"


class ComparedFigure(Model):
    """One figure across the builds. `best` marks the better ones where one direction is plainly better."""

    label: str
    texts: tuple[str, ...]
    best: tuple[int, ...] = ()


class Difference(Model):
    """A code that is not said of all builds alike: the gravest level and headline of each, None where it is silent."""

    code: str
    levels: tuple[Level | None, ...]
    headlines: tuple[str, ...]


class Side(Model):
    """One build: its name, gravest level, and the run of its most used mode."""

    build: int
    name: str
    worst: Level
    mode: str
    curve: RunCurve | None


class Comparison(Model):
    """Two or more builds of one project."""

    sides: tuple[Side, ...]
    rows: tuple[ComparedFigure, ...]
    differences: tuple[Difference, ...]


def compare(project: Project, builds: Sequence[int]) -> Comparison:
    """Raises IndexError where the project has no such build."""
    seen = [assess(project, build) for build in builds]
    return Comparison(
        sides=tuple(_side(project, build, one) for build, one in zip(builds, seen, strict=True)),
        rows=tuple(_row(label, pick, write, better, seen) for label, pick, write, better in _FIGURES),
        differences=tuple(_differences(seen)),
    )


def _side(project: Project, build: int, seen: Assessment) -> Side:
    modes = seen.run.modes if seen.run else ()
    most_used = max(modes, key=lambda mode: mode.hours_per_day, default=None)
    return Side(
        build=build,
        name=project.builds[build].name,
        worst=seen.worst,
        mode=most_used.name if most_used else "",
        curve=most_used.curve if most_used else None,
    )


_Pick = Callable[[Assessment], float | None]
_MORE, _LESS, _NEITHER = 1, -1, 0


def _longest(seen: Assessment) -> float | None:
    return max((mode.hours for mode in seen.run.modes), default=None) if seen.run else None


_FIGURES: tuple[tuple[str, _Pick, Callable[[float], str], int], ...] = (
    ("cell holds", lambda s: s.cell.capacity_ah if s.cell else None, amp_hours, _MORE),
    ("hours of use, at most", _longest, hours, _MORE),
    ("days as you use it", lambda s: s.run.days if s.run else None, days, _MORE),
    ("switched off, lasts", lambda s: s.run.standby_days if s.run else None, days, _MORE),
    ("most at the gadget", lambda s: s.gadget_v.max if s.gadget_v else None, volts, _NEITHER),
    ("least at the gadget", lambda s: s.gadget_v.min if s.gadget_v else None, volts, _NEITHER),
    ("charge-current resistor", lambda s: s.charge.r_prog_ohm if s.charge else None, ohms, _NEITHER),
    ("charge current", lambda s: s.charging.current_a if s.charging else None, amps, _NEITHER),
    ("full in about", lambda s: s.charging.hours if s.charging else None, hours, _LESS),
    ("chip at most", lambda s: s.charge.junction_c_most if s.charge else None, celsius, _LESS),
    ("parts cost", lambda s: s.payback.parts_cost if s.payback else None, lambda p: f"{p:.2f}", _LESS),
)


def _row(label: str, pick: _Pick, write: Callable[[float], str], better: int, seen: list[Assessment]) -> ComparedFigure:
    values = [pick(one) for one in seen]
    texts = tuple(UNKNOWN if value is None else write(value) for value in values)
    # A build that may not be made is best at nothing.
    known = {i: v * better for i, (v, one) in enumerate(zip(values, seen, strict=True)) if v and one.worst != "stop"}
    best: tuple[int, ...] = ()
    if better and len(known) > 1 and max(known.values()) > min(known.values()):
        best = tuple(i for i, value in known.items() if value == max(known.values()))
    return ComparedFigure(label=label, texts=texts, best=best)


def _differences(seen: list[Assessment]) -> list[Difference]:
    """Codes of note or worse that are not said alike of every build, gravest first."""
    said = [{f.code: f for f in reversed(one.findings) if f.level != "pass"} for one in seen]
    codes = {code for one in said for code in one}
    found = [
        Difference(
            code=code,
            levels=tuple(one[code].level if code in one else None for one in said),
            headlines=tuple(one[code].headline if code in one else "" for one in said),
        )
        for code in codes
    ]
    differing = [d for d in found if len(set(d.headlines)) > 1]
    return sorted(differing, key=lambda d: (-max(GRAVITY[level] for level in d.levels if level), d.code))
