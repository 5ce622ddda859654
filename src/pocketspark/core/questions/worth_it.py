"""Should I, and with what? The answer first: in days on a charge against days on a set, with its reasons.

Where the line runs between the answers is our judgement; there is no published one.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from pocketspark.core.chain import Chain, Running
from pocketspark.core.chosen.old_batteries import DAYS_A_YEAR, old_set_days
from pocketspark.core.finding import Finding
from pocketspark.core.fit.blocks import parts_of
from pocketspark.core.fit.openings import holes_of
from pocketspark.core.life.years import Years
from pocketspark.core.message import NOTHING, Message, any_of, say, say_of
from pocketspark.core.models.model import Model
from pocketspark.core.models.project import SOFT, Edit
from pocketspark.core.models.supply import Supply
from pocketspark.core.physics.self_discharge import self_discharge_a
from pocketspark.core.questions.payback import SHORT_LIFE_YEARS, Payback
from pocketspark.core.units.figures import ShownDays, amp_hours, days, fixed, hours, percent, volts

WorthAnswer = Literal["do_it", "do_it_with", "rechargeables", "leave_it"]
ANSWERS: Mapping[WorthAnswer, Message] = {
    "do_it": say("Do it"),
    "do_it_with": say("Do it, with a change"),
    "rechargeables": say("Better with bought rechargeables"),
    "leave_it": say("Leave it as it is"),
}

# A charge that lasts this share of bought rechargeables is as good: it saves taking them out.
AS_GOOD_AS_RECHARGEABLES = 0.75
# A set that lasts longer than this is hardly ever bought.
SELDOM_BOUGHT_YEARS = 2.0
# So many charges in the place of one set are more trouble than the sets were.
CHARGES_A_SET = 4.0
# Of changes that are told, the first few.
_TOLD = 4


class Reason(Model):
    """One of the three: a few words, and the sentence that they stand for."""

    title: Message
    text: Message


class Change(Model):
    """What would turn the answer, and the station where that is done; `edits` where one press does it."""

    text: Message
    station: str
    edits: tuple[Edit, ...] = ()


class Lasting(Model):
    """How long one way of feeding the gadget lasts, and what is to be done then."""

    kind: Literal["old", "rechargeables", "build"]
    label: Message
    days: ShownDays
    then: Message


class WorthIt(Model):
    """The answer, its three reasons, what would change it, and days beside days."""

    answer: WorthAnswer
    headline: Message
    says: Message  # the same in one line, with the days
    reasons: tuple[Reason, ...]
    changes: tuple[Change, ...]
    lasting: tuple[Lasting, ...]


def worth_it(chain: Chain, findings: Sequence[Finding], payback: Payback | None) -> WorthIt | None:
    """The answer for this build; None before a cell is chosen, or while no use is known."""
    running = chain.running
    if running is None or payback is None or not running.runs or not chain.gadget.hours_on_per_day:
        return None
    case = _Weighing(chain, running, tuple(findings), payback)
    answer, headline = case.answer()
    return WorthIt(
        answer=answer,
        headline=headline,
        says=_in_one_line(case, headline),
        reasons=tuple(_reasons(case)),
        changes=tuple(_changes(case, answer))[:_TOLD],
        lasting=tuple(_lasting(case)),
    )


@dataclass(frozen=True)
class _Weighing:
    """All that the answer is made of."""

    chain: Chain
    running: Running
    findings: tuple[Finding, ...]
    payback: Payback

    @property
    def supply(self) -> Supply:
        return self.chain.gadget.supply

    @cached_property
    def stops(self) -> list[Finding]:
        return [finding for finding in self.findings if finding.level == "stop" and not finding.part_of]

    @cached_property
    def served_days(self) -> float:
        """Days on a charge in which the gadget does its job; 0 where it does not run."""
        return self.running.served_days or 0.0

    @cached_property
    def old_days(self) -> float | None:
        """None where it is not known, or the gadget never did its job on what is said of its batteries."""
        return old_set_days(self.chain) or None

    @cached_property
    def years(self) -> Years:
        return Years(self.running)

    @property
    def is_rechargeable_already(self) -> bool:
        return self.supply.kind == "lithium" or self.supply.chemistry == "nimh"

    @cached_property
    def rechargeables(self) -> Supply | None:
        """The same size as NiMH, where it is made."""
        supply = self.supply
        if supply.kind != "cells" or self.is_rechargeable_already or "nimh" not in supply.size.chemistries:
            return None
        return supply.model_copy(update={"chemistry": "nimh"})

    @cached_property
    def rechargeable_days(self) -> float | None:
        """None where there are none, or the gadget does not do its job on their lower volts."""
        return (old_set_days(self.chain, self.rechargeables) or None) if self.rechargeables else None

    def answer(self) -> tuple[WorthAnswer, Message]:
        """The first case that holds."""
        if self.stops:
            return self._stopped()
        return next((answer, headline) for holds, answer, headline in self._cases() if holds)

    def _cases(self) -> Iterator[tuple[bool, WorthAnswer, Message]]:
        served, old, bought = self.served_days, self.old_days or 0.0, self.rechargeable_days or 0.0
        yield served <= 0, "leave_it", say("Not like this: it would not do its job")
        yield old > SELDOM_BOUGHT_YEARS * DAYS_A_YEAR, "leave_it", say("Leave it: a set lasts {old}", old=days(old))
        yield served < bought * AS_GOOD_AS_RECHARGEABLES, "rechargeables", ANSWERS["rechargeables"]
        lasts_less = self.is_rechargeable_already and served < old * AS_GOOD_AS_RECHARGEABLES
        yield lasts_less, "leave_it", say("Leave it: the old rechargeables last longer")
        charges = fixed(old / max(served, 1e-9), 0)
        too_many = say("Leave it: it would need {charges} charges for every set", charges=charges)
        yield served * CHARGES_A_SET < old, "leave_it", too_many
        yield True, "do_it", ANSWERS["do_it"]

    def _stopped(self) -> tuple[WorthAnswer, Message]:
        remedies = [stop.remedy for stop in self.stops]
        if all(remedies):
            first = remedies[0]
            assert first is not None
            return "do_it_with", say("Do it, but first: {remedy}", remedy=first.label)
        return "leave_it", say_of(
            len(remedies), "Not like this: something stops it", "Not like this: {count} things stop it"
        )


def _in_one_line(case: _Weighing, headline: Message) -> Message:
    served, old, bought = case.served_days, case.old_days, case.rechargeable_days
    if case.stops or served <= 0:
        return say("{headline}.", headline=headline)
    if old is None:
        return say("{headline}. It lasts {new} on a charge.", headline=headline, new=days(served))
    if bought is None:
        return say(
            "{headline}. It lasts {new} on a charge; a set lasted {old}.",
            headline=headline,
            new=days(served),
            old=days(old),
        )
    return say(
        "{headline}. It lasts {new} on a charge; a set lasted {old}, rechargeables {bought}.",
        headline=headline,
        new=days(served),
        old=days(old),
        bought=days(bought),
    )


# Reasons -------------------------------------------------------------------------------------------------------------


def _reasons(case: _Weighing) -> Iterator[Reason]:
    if case.stops:
        yield Reason(title=say("It is stopped"), text=case.stops[0].headline)
    else:
        yield _of_days(case)
    yield _of_work(case)
    yield _of_care(case)


def _of_days(case: _Weighing) -> Reason:
    served, old, bought = case.served_days, case.old_days, case.rechargeable_days
    if served <= 0:
        return Reason(
            title=say("No service"), text=say("With this build the gadget does not run, or gives too little light.")
        )
    used_days = DAYS_A_YEAR * len(case.chain.gadget.shell.used_in) / 12
    charges = fixed(used_days / served, 0)
    if old is None:
        return Reason(
            title=say("{new} on a charge", new=days(served)),
            text=say("That is {charges} charges a year. What a set of batteries did is not known.", charges=charges),
        )
    title = say("{new} against {old}", new=days(served), old=days(old))
    sets = fixed(used_days / old, 0 if old < used_days / 5 else 1)
    if bought is None:
        return Reason(
            title=title, text=say("{charges} charges a year in the place of {sets} sets.", charges=charges, sets=sets)
        )
    return Reason(
        title=title,
        text=say(
            "{charges} charges a year in the place of {sets} sets. Rechargeables of the same size last {bought} and go "
            "in as they are.",
            charges=charges,
            sets=sets,
            bought=days(bought),
        ),
    )


def _of_work(case: _Weighing) -> Reason:
    payback = case.payback
    title = say("{bench} at the bench", bench=hours(payback.bench_hours))
    if payback.payback_years is None:
        return Reason(title=title, text=say("It saves no money."))
    outlasted = case.served_days > 0 and payback.payback_years > SHORT_LIFE_YEARS
    if outlasted and payback.payback_years > case.years.serves_years:
        back, serves = (days(years * DAYS_A_YEAR) for years in (payback.payback_years, case.years.serves_years))
        late = say("It would earn its parts back in {back}, and serves {serves}.", back=back, serves=serves)
        return Reason(title=title, text=late)
    return Reason(
        title=title, text=say("It earns its parts back in {back}.", back=days(payback.payback_years * DAYS_A_YEAR))
    )


def _of_care(case: _Weighing) -> Reason:
    """What stays cut, and the gravest thing that has to be watched."""
    holes = holes_of(parts_of(case.chain.build))
    if holes:
        title = say_of(holes, "One hole that stays", "{count} holes that stay")
    elif case.chain.build.facts_of_style.reversible:
        title = say("The old batteries can go back in")
    else:
        title = say("No hole is cut")
    caution = next((f for f in case.findings if f.level == "caution" and not f.part_of), None)
    return Reason(
        title=title, text=caution.headline if caution else say("Nothing has to be watched beyond the usual cautions.")
    )


# What would change it ----------------------------------------------------------------------------------------------


def _changes(case: _Weighing, answer: WorthAnswer) -> Iterator[Change]:
    for stop in case.stops:
        if stop.remedy:
            yield Change(text=stop.remedy.label, station=stop.station, edits=stop.remedy.edits)
        else:
            yield Change(text=say("Solve this: {stop}", stop=stop.headline), station=stop.station)
    if answer == "rechargeables" and case.rechargeable_days and case.served_days > 0:
        yield _larger_cell(case, case.rechargeable_days * AS_GOOD_AS_RECHARGEABLES)
        yield Change(text=say("It sits where nobody can change its batteries."), station="survey")
    if answer == "leave_it" and not case.stops and case.old_days and case.served_days > 0:
        yield from _more_use(case, case.old_days)
    if not case.stops and case.served_days <= 0:
        yield Change(text=say("Fit a regulator that holds the gadget's volts."), station="power")
    yield from _guessed(case)


def _larger_cell(case: _Weighing, wanted_days: float) -> Change:
    """The charge that such days take, and what the larger cell loses by itself meanwhile."""
    capacity_ah = case.running.chosen.capacity_ah
    lost_per_day = float(self_discharge_a(24.0, case.chain.gadget.shell.used_at_c))
    usable = case.running.usable_ah / capacity_ah * case.served_days / (case.running.days or case.served_days)
    used_ah = capacity_ah * (usable / case.served_days - lost_per_day)
    needed_ah = wanted_days * used_ah / max(usable - wanted_days * lost_per_day, 1e-3)
    return Change(
        text=say(
            "A cell of {needed} goes in: that lasts {lasts}.", needed=amp_hours(needed_ah), lasts=days(wanted_days)
        ),
        station="cell",
    )


def _more_use(case: _Weighing, old_days: float) -> Iterator[Change]:
    """Used more, sets are bought more often."""
    times = old_days / (SELDOM_BOUGHT_YEARS * DAYS_A_YEAR)
    needed_h = case.chain.gadget.hours_on_per_day * times
    if times > 1 and needed_h <= 24:
        yield Change(text=say("It is used {needed} a day or more.", needed=hours(needed_h)), station="survey")


def _guessed(case: _Weighing) -> Iterator[Change]:
    """Numbers that nobody has measured and that the days hang on."""
    chain = case.chain
    soft = [mode for mode in chain.gadget.modes if chain.basis_of(f"gadget.modes.{mode.id}.current_a") in SOFT]
    if soft:
        names = any_of(mode.name for mode in soft)
        yield Change(text=say("Measure the current in “{names}”: it is guessed.", names=names), station="survey")
    if (
        chain.basis_of(f"{chain.path}.cell.measured_capacity_ah") in SOFT
        and chain.cell
        and chain.cell.origin == "salvaged"
    ):
        yield Change(text=say("Measure what the used cell still holds."), station="cell")
    if chain.window.min_basis in SOFT:
        lowest = volts(chain.window.v_run_min)
        yield Change(
            text=say("Measure the lowest volts it works at: {lowest} is guessed.", lowest=lowest), station="survey"
        )


# Days beside days --------------------------------------------------------------------------------------------------


def _lasting(case: _Weighing) -> Iterator[Lasting]:
    if case.old_days:
        yield Lasting(
            kind="old", label=say("{set}", set=case.supply.label), days=case.old_days, then=_after_the_old(case)
        )
    if case.rechargeables and case.rechargeable_days:
        yield Lasting(
            kind="rechargeables",
            label=say("{set}", set=case.rechargeables.label),
            days=case.rechargeable_days,
            then=say("charged outside; nothing is cut"),
        )
    charging = case.chain.charging
    full_h = float(charging.run.hours.flat[0]) if charging else float("inf")
    ends = charging is not None and full_h < float("inf")
    then = say("then {full} on the charger", full=hours(full_h)) if ends else say("the charge does not end")
    cell = case.chain.cell
    name = cell.name if cell else ""
    share = case.served_days / case.running.days if case.running.days else 0.0
    if 0 < share < 1:
        then = say("{then}; {share} of its run does the job", then=then, share=percent(share))
    yield Lasting(kind="build", label=say("{cell}", cell=name), days=case.served_days, then=then)


def _after_the_old(case: _Weighing) -> Message:
    if case.is_rechargeable_already:
        return say("then they are charged")
    return NOTHING if case.payback.sets_per_year is None else say("then a new set")
