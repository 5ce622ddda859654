"""A life, not a day: how long a charge serves over the years, when it no longer does, and what would make it longer."""

from collections.abc import Iterator, Sequence
from typing import Literal

import numpy as np

from pocketspark.core.chain import Chain
from pocketspark.core.life.serving import years_shown
from pocketspark.core.life.unused import LOST_V, MOST_DAYS, STORE_SHARE, Unused
from pocketspark.core.life.years import MOST_YEARS, Band, Years
from pocketspark.core.message import Label, Message, say
from pocketspark.core.models import Build, Cell, Project
from pocketspark.core.models.build import PLUGGED_IN
from pocketspark.core.models.climate import CLIMATES, MONTHS
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import Edit
from pocketspark.core.physics.ageing import MONTHS_A_YEAR
from pocketspark.core.physics.ocv import Floats
from pocketspark.core.questions.life_levers import LEVERS, LeverKey, Offer, offer_of
from pocketspark.core.units.figures import (
    ShownCelsius,
    ShownDays,
    ShownShare,
    amps,
    celsius,
    days,
    fixed,
    percent,
    volts,
)

# Cells this old are measured and not reckoned with.
OLD_YEARS = 10.0
# What every lever is told by beside the years: what a charge is worth then.
LOOKED_AT_YEARS = 5


def _month_of(first_year: int, month: int) -> Message:
    """So many months after the first January."""
    year, of_year = divmod(month, MONTHS_A_YEAR)
    return say("{month} {year}", month=MONTHS[of_year], year=str(first_year + year))


class DaysInBand(Model):
    """A figure of each month: as expected, and the least and most of nine cells in ten."""

    likely: tuple[float, ...]
    least: tuple[float, ...]
    most: tuple[float, ...]


class TestedAt(Model):
    """A test of this very cell, on the curve: so many months from the first on, that share of what it holds now."""

    month: float
    left: float


class FailsIn(Model):
    """The first month of use in which a charge does not last as long as wanted."""

    month: int
    says: Message


class Season(Model):
    """One month of the first year: how warm it is, and how long a charge lasts in it."""

    name: Label
    celsius: ShownCelsius
    days: ShownDays


class UnusedDate(Model):
    """What becomes of it unused, so many days after a full charge."""

    kind: Literal["recharge", "stops", "opens", "lost"]
    days: ShownDays
    text: Message


class Lever(Model):
    """One change that is tried. `serves_years` and `left_later`: with it, and all others that are pulled."""

    key: LeverKey
    label: Message
    gain: Message
    costs: Message
    edits: tuple[Edit, ...]
    serves_years: float
    pulled: bool


class ServiceLife(Model):
    """The years of one build, with the levers that are pulled."""

    headline: Message
    explained: Message
    first_year: int
    used: tuple[bool, ...]
    days: DaysInBand
    left: DaysInBand
    wanted_days: ShownDays
    wanted_said: bool
    fails: FailsIn | None
    may_fail: FailsIn | None
    serves_years: float
    left_later: ShownShare
    tests: tuple[TestedAt, ...]
    where: Message
    habit: Message
    seasons: tuple[Season, ...]
    unused: tuple[UnusedDate, ...]
    saves: tuple[Message, ...]
    remarks: tuple[Message, ...]
    levers: tuple[Lever, ...]


def service_life(
    project: Project,
    build: int,
    first_year: int,
    cells: Sequence[Cell] = (),
    pulled: Sequence[LeverKey] = (),
    *,
    tries_levers: bool = True,
) -> ServiceLife:
    """`first_year`: the cell is put to use in its January, unless the record knows better; `cells`: on offer as larger
    ones. Raises MissingPart before a cell is chosen."""
    first_year = _began_in(project.builds[build]) or first_year
    tried = project
    for key in [key for key in LEVERS if key in pulled]:
        if offer := offer_of(key, tried, build, cells):
            tried = tried.apply(offer.edits)
    years = years_of(tried, build)
    fails, may_fail = years.fails_at(years.days.likely), years.fails_at(years.days.least)
    return ServiceLife(
        headline=_headline(years, fails),
        explained=_explained(years),
        first_year=first_year,
        used=tuple(bool(used) for used in years.is_used),
        days=_rounded(years.days),
        left=_rounded(years.left),
        wanted_days=years.wanted_days,
        wanted_said=project.gadget.wanted_days is not None,
        fails=_fails(fails, say("{when}: a charge no longer lasts", when=_month_of(first_year, fails or 0))),
        may_fail=_fails(may_fail, say("{when}: it may not last", when=_month_of(first_year, may_fail or 0))),
        serves_years=years.serves_years,
        left_later=float(years.left.likely[LOOKED_AT_YEARS * MONTHS_A_YEAR - 1]),
        tests=tuple(_tests(years)),
        where=_where(years),
        habit=say(PLUGGED_IN[years.running.build.plugged_in][0]),
        seasons=tuple(_seasons(years)),
        unused=tuple(_unused(years)),
        saves=tuple(_what_saves(tried, build, years)),
        remarks=tuple(_remarks(years)),
        levers=tuple(_levers(project, build, cells, pulled)) if tries_levers else (),
    )


def years_of(project: Project, build: int) -> Years:
    """Raises MissingPart before a cell is chosen."""
    return Years(Chain(project, build).required_running())


def _began_in(build: Build) -> int | None:
    """The January that lies nearest to its first full charge, or to the first cut."""
    record = build.record
    moment = record.first_charge.ended_at or (record.fixed.at if record.fixed else None)
    return None if moment is None else january_near(int(moment[:4]), int(moment[5:7]))


def january_near(year: int, month: int) -> int:
    """The year whose January lies nearest."""
    return year + (month > MONTHS_A_YEAR / 2)


def _rounded(band: Band) -> DaysInBand:
    def four(values: Floats) -> tuple[float, ...]:
        return tuple(float(f"{value:.4g}") for value in values)

    return DaysInBand(likely=four(band.likely), least=four(band.least), most=four(band.most))


def _fails(month: int | None, says: Message) -> FailsIn | None:
    return None if month is None else FailsIn(month=month, says=says)


# In words ----------------------------------------------------------------------------------------------------------


def _headline(years: Years, fails: int | None) -> Message:
    if years.days_now <= 0:
        return say("It does not do its job, new or old")
    if fails == 0:
        return say("A charge is too short from the first day")
    return say("It serves {years}", years=years_shown(years.serves_years))


def _explained(years: Years) -> Message:
    now, wanted = days(years.days_now), days(years.wanted_days)
    if years.days_now <= 0:
        return say("With this build the gadget does not run, or does too little of what it is for.")
    if years.running.gadget.wanted_days is None:
        return say("New, a charge lasts {now}. Half of that, {wanted}, is taken as the end.", now=now, wanted=wanted)
    return say("New, a charge lasts {now}. It is to last {wanted}.", now=now, wanted=wanted)


def _where(years: Years) -> Message:
    shell = years.running.gadget.shell
    if not shell.has_seasons:
        return say("{it} all year", it=celsius(shell.constant_c))
    months = [(shell.year_c[month - 1], month) for month in shell.used_in]
    (low, coldest), (high, warmest) = min(months), max(months)
    place = "Its own figures" if shell.months_c else CLIMATES[shell.climate or "indoors"].label
    return say(
        "{place}: {low} in {coldest}, {high} in {warmest}",
        place=place,
        low=celsius(low),
        coldest=MONTHS[coldest - 1],
        high=celsius(high),
        warmest=MONTHS[warmest - 1],
    )


def _seasons(years: Years) -> Iterator[Season]:
    """The coldest and the warmest month in which it is used, in the first year."""
    shell = years.running.gadget.shell
    if not shell.has_seasons or years.days_now <= 0:
        return
    by_warmth = sorted(shell.used_in, key=lambda month: shell.year_c[month - 1])
    for month in dict.fromkeys((by_warmth[0], by_warmth[-1])):
        at = int(np.flatnonzero(years.month == month)[0])
        yield Season(name=MONTHS[month - 1], celsius=shell.year_c[month - 1], days=float(years.days.likely[at]))


def _tests(years: Years) -> Iterator[TestedAt]:
    for test in years.learnt.tests:
        if test.capacity_ah is not None:
            left = test.capacity_ah / years.running.cell.planning_capacity_ah
            yield TestedAt(month=test.after_years * MONTHS_A_YEAR, left=left)


def _remarks(years: Years) -> Iterator[Message]:
    cell, learnt = years.running.cell, years.learnt
    age_years = cell.age_years or 0.0
    age = days(age_years * 365)
    if age_years > OLD_YEARS:
        yield say("This cell is {age} old. Nothing is known of such cells: measure what it holds.", age=age)
    elif age_years > 0 and cell.measured_capacity_ah is None:
        lost = percent(years.lost_before)
        yield say("Lying there for {age} has cost it about {lost}.", age=age, lost=lost)
    if learnt.tests:
        count = len(learnt.tests)
        pace = fixed(learnt.times, 1)
        yield say("By {count} of its own tests it ages {pace} times as fast as its kind.", count=count, pace=pace)
    if cell.cell_class == "li_4v35":
        yield say("No tests of such cells are published: taken like one of {volts}.", volts=volts(4.20))
    if not years.running.gadget.shell.has_seasons:
        yield say("Say where it lives, and cold and heat count month by month.")


# Unused ------------------------------------------------------------------------------------------------------------


def _unused(years: Years) -> Iterator[UnusedDate]:
    unused = Unused(years.running)
    yield UnusedDate(kind="recharge", days=unused.recharge_days, text=_recharge(unused))
    yield UnusedDate(kind="stops", days=unused.stops_days, text=say("The gadget would not run any more."))
    if unused.opens_days is not None:
        going_on = amps(unused.after_opening_a)
        opens = say("The protection opens; {going_on} go on flowing behind it.", going_on=going_on)
        yield UnusedDate(kind="opens", days=unused.opens_days, text=opens)
    lost = say("The cell is under {least}, and lost.", least=volts(LOST_V))
    yield UnusedDate(kind="lost", days=unused.lost_days, text=lost)


def _recharge(unused: Unused) -> Message:
    if unused.recharge_days >= MOST_DAYS:
        return say("Charge it once a year, however little it loses. Store it half full.")
    half = days(Unused(unused.running, STORE_SHARE).recharge_days)
    return say("Charge it by then. Stored half full, which suits it best, within {half}.", half=half)


def _what_saves(project: Project, build: int, years: Years) -> Iterator[Message]:
    """What a switch before the regulator, or a protection that draws less, buys while it lies unused."""
    now = Unused(years.running).lost_days
    path = f"builds.{build}"
    regulator = years.running.chain.regulator
    if regulator.kind != "none" and years.running.build.switch_place == "gadget":
        switched = project.apply([Edit(path=f"{path}.switch_place", value="before_regulator")])
        longer = Unused(Chain(switched, build).required_running()).lost_days - now
        if longer > 0.1 * now:
            yield say("A switch before the regulator: {longer} longer.", longer=days(longer))
    drains = years.running.off_drains
    if drains["protections"] > 0.2 * years.running.standby_a:
        longer = now * (years.running.standby_a / (years.running.standby_a - 0.7 * drains["protections"]) - 1)
        yield say("A protection that draws a third: about {longer} longer.", longer=days(longer))


# Levers ------------------------------------------------------------------------------------------------------------


def _levers(project: Project, build: int, cells: Sequence[Cell], pulled: Sequence[LeverKey]) -> Iterator[Lever]:
    """Each against the build with all others that are pulled."""
    if years_of(project, build).days_now <= 0:
        return
    for key in LEVERS:
        without = project
        for other in [other for other in LEVERS if other in pulled and other != key]:
            if offer := offer_of(other, without, build, cells):
                without = without.apply(offer.edits)
        offer = offer_of(key, without, build, cells)
        if offer is not None:
            yield _lever(key, offer, without, build, key in pulled)


def _lever(key: LeverKey, offer: Offer, project: Project, build: int, is_pulled: bool) -> Lever:
    now = years_of(project, build)
    changed = project.apply(offer.edits)
    # What is wanted stays what it is, whatever the lever makes of the new cell.
    if project.gadget.wanted_days is None and now.wanted_days > 0:
        changed = changed.with_value("gadget.wanted_days", max(now.wanted_days, 0.01))
    then = years_of(changed, build)
    return Lever(
        key=key,
        label=offer.label,
        gain=_gain(now, then),
        costs=offer.costs(now, then),
        edits=offer.edits,
        serves_years=then.serves_years,
        pulled=is_pulled,
    )


def _shortest_then(years: Years) -> float:
    """Days on a charge in the month of use in which it is shortest, in the last of the years that are looked at."""
    year = slice((LOOKED_AT_YEARS - 1) * MONTHS_A_YEAR, LOOKED_AT_YEARS * MONTHS_A_YEAR)
    return float(years.days.likely[year][years.is_used[year]].min())


def _gain(now: Years, then: Years) -> Message:
    more = then.serves_years - now.serves_years
    if abs(more) >= 1 / MONTHS_A_YEAR:
        shown = days(abs(more) * 365)
        at_least = then.serves_years >= MOST_YEARS or now.serves_years >= MOST_YEARS
        if more > 0:
            return say("+ {more} or more", more=shown) if at_least else say("+ {more}", more=shown)
        return say("- {less} or more", less=shown) if at_least else say("- {less}", less=shown)
    before, after = _shortest_then(now), _shortest_then(then)
    if before <= 0 or abs(after / before - 1) < 0.005:
        return say("no matter")
    better = percent(abs(after / before - 1))
    years = str(LOOKED_AT_YEARS)
    if after > before:
        return say("+ {better} after {years} years", better=better, years=years)
    return say("- {better} after {years} years", better=better, years=years)
