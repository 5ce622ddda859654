"""One draft as a whole build, judged: by the rules that are soon told, by its figures, and last by where it lies."""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

import numpy as np

from pocketspark.core.chain import Chain, ModeRun
from pocketspark.core.chosen.old_batteries import old_mode_hours
from pocketspark.core.chosen.prices import price_of_way
from pocketspark.core.finding import Finding
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.picture import picture_of
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.life.serving import serving, years_shown
from pocketspark.core.life.years import MOST_YEARS
from pocketspark.core.limits import DIM
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models import Build, Mode
from pocketspark.core.proposals.bounds import OVERLOADS_CELL, TOO_MANY_VOLTS, WOULD_NOT_RUN
from pocketspark.core.proposals.objectives import ROOM_MM, Steps, room_mm, weighed, work_of
from pocketspark.core.proposals.offer import (
    NO_FIT,
    NO_SHARING,
    NO_SOCKET,
    NOT_SUITED,
    TOO_FEW,
    OnOffer,
    build_of,
    with_build,
)
from pocketspark.core.proposals.proposal import Proposal
from pocketspark.core.proposals.ways import Way
from pocketspark.core.proposals.wishes import Wishes
from pocketspark.core.rules import RULES, findings_of

BEATEN = say("another sound build is better in every way")
WISHED = say("it is not what was asked for")
NEVER_FULL = say("it never gets full, or does not run")
DARK = say("it never gives enough of the light, speed, heat or sound that it is for")
NOT_CERTAIN = say("the second check did not confirm that it fits")
TOO_SLOW = say("a full charge takes longer than a day")
# What is not full by then is no use to anybody, unless it is wished (common practice, no source).
LONGEST_CHARGE_H = 24.0
NO_RESISTOR = say("none of your own resistors sets its current")
STATIONS_OF_REASONS: Mapping[Message, str] = {
    NOT_SUITED: "charge",
    NO_SHARING: "charge",
    TOO_SLOW: "charge",
    TOO_FEW: "cell",
    NO_SOCKET: "charge",
    NO_RESISTOR: "charge",
    NEVER_FULL: "charge",
    DARK: "power",
    WOULD_NOT_RUN: "power",
    OVERLOADS_CELL: "cell",
    TOO_MANY_VOLTS: "power",
    NO_FIT: "fit",
    NOT_CERTAIN: "fit",
}
# Every rule that does not ask where the parts lie; the lengths of wires are known only then.
WITHOUT_FIT = tuple(code for code, kind in RULES.items() if kind.station not in ("fit", "wire"))
WITH_FIT = tuple(code for code in RULES if code not in WITHOUT_FIT)
# A resistor of one's own may set less than is asked for, down to this share of it.
LEAST_OF_CURRENT = 0.5

Judged = Proposal | Message
# By cell and count, those of its shapes that go in.
Shapes = list[list[list[int]]]
Key = tuple[object, ...]


@dataclass
class Memory:
    """What was found out of one gadget and holds whatever is wished: the next search begins with it."""

    known: KnownFits = field(default_factory=KnownFits)
    judged: dict[Key, Judged] = field(default_factory=dict)
    examples: dict[str, Message] = field(default_factory=dict)  # what the first build that fell to a rule was told

    def example_of(self, stop: Finding) -> Message:
        return self.examples.setdefault(stop.code, say("such as this: {headline}", headline=stop.headline))

    def station_of(self, reason: Message) -> str:
        """Where the reason belongs; "" where it is none of the trade but of the search."""
        by_rule = {example: RULES[code].station for code, example in self.examples.items()}
        return STATIONS_OF_REASONS.get(reason, by_rule.get(reason, ""))


@dataclass
class Search:
    """What is known while it goes on. `table`: the figures of what was found sound."""

    ways: Sequence[Way]
    mode: Mode
    offer: OnOffer
    wishes: Wishes
    memory: Memory
    shapes: dict[int, Shapes] = field(default_factory=dict)  # by way
    total: int = 0
    fell: Counter[Message] = field(default_factory=Counter)
    minded: Counter[str] = field(default_factory=Counter)  # builds that a caution of this rule kept from being wished
    minded_examples: dict[str, Message] = field(default_factory=dict)
    sound: list[Proposal] = field(default_factory=list)
    table: list[Steps] = field(default_factory=list)
    exact: dict[Key, tuple[int, int]] = field(default_factory=dict)  # hours and hours to full, of one way and draft

    def mind(self, code: str, headline: Message) -> None:
        self.minded[code] += 1
        self.minded_examples.setdefault(code, headline)

    def room_wanted(self, figures: Steps) -> int:
        """The least room, as a place in ROOM_MM and one more, with which nothing sound so far beats these; 0: any."""
        if not self.table:
            return 0
        table = np.array(self.table)
        as_good = (table[:, :-1] <= figures[:-1]).all(axis=1)
        return int((1 - table[as_good, -1]).max(initial=0))


def judge_once(search: Search, way: Way, draft: Sequence[int], shape: int) -> Judged:
    """The draft as a whole build, judged, or why it falls; what was found out before is not asked again."""
    offer, wishes = search.offer, search.wishes
    key = (way.key, *_parts_key(offer, draft, shape), wishes.own_parts_only)
    known = search.memory.judged.get(key)
    if known is None:
        known = _judged(search, way, draft, shape)
        # What only this search's wishes, or what it has found, speaks against may come up again.
        if known not in (WISHED, BEATEN, TOO_SLOW):
            search.memory.judged[key] = known
    if isinstance(known, Proposal) and not _is_wished(known, search, way):
        return WISHED
    return known


def _parts_key(offer: OnOffer, draft: Sequence[int], shape: int) -> Key:
    c, k, h, p, g, r = draft
    regulator = offer.regulators[r]
    separate = offer.protections[g].key if g >= 0 else None
    return offer.cells[c].shaped[shape].key, k, offer.chargers[h].key, p, separate, regulator.key if regulator else None


def _judged(search: Search, way: Way, draft: Sequence[int], shape: int) -> Judged:
    build = build_of(draft, search.offer, way.build, shape)
    if build.who_charges == "board":
        suggested_ohm = Chain(with_build(way.project, build), 0).required_charging().current.suggested_r_ohm
        resistor_ohm = _resistor(search, suggested_ohm)
        if resistor_ohm is None:
            return NO_RESISTOR
        build = build.model_copy(update={"r_prog_ohm": resistor_ohm})
    project = with_build(way.project, build)
    # What would help against a finding is not asked of so many.
    chain = Chain(project, 0, advises=False)
    return _why_it_falls(search, draft, chain) or _proposal(search, way, draft, chain)


def _resistor(search: Search, wanted_ohm: float) -> float | None:
    """Of the preferred values; from one's own parts alone the next larger one that lies there."""
    if not search.wishes.own_parts_only or not search.offer.resistors_ohm:
        return wanted_ohm
    fitting = [own for own in search.offer.resistors_ohm if wanted_ohm * 0.9999 <= own <= wanted_ohm / LEAST_OF_CURRENT]
    return min(fitting, default=None)


def _why_it_falls(search: Search, draft: Sequence[int], chain: Chain) -> Message | None:
    """What is soon told speaks against it first, and the first stop of all the rules last. None: it is sound."""
    memory = search.memory
    if memory.known.goes_in(chain.project, 0) is False:
        return NO_FIT
    if reason := _why_it_is_no_use(search, chain):
        return reason
    figures = _figures(search, draft, chain)
    search.exact[way_and_parts(chain.build, draft)] = int(figures[0]), int(figures[2])
    wanted = search.room_wanted(figures)
    if wanted > -figures[-1]:
        return BEATEN
    # What others fell to, then everything that is soon told.
    for codes in (*((code,) for code in memory.examples), WITHOUT_FIT):
        if reason := _stopped(search, chain, codes):
            return reason
    # Where it lies costs most: it is not asked of what comes to no more than something sound, however well it lies.
    if wanted and memory.known.goes_in(chain.project, 0, ROOM_MM[wanted - 1]) is False:
        return BEATEN
    return _why_it_falls_where_it_lies(search, chain)


def way_and_parts(build: Build, draft: Sequence[int]) -> Key:
    """All that hours of use and hours to full depend on, in one search: not where it sits, nor what its switch cuts."""
    return tuple(draft), build.who_charges, build.use_while_charging, build.input.facts.over_a_gap


def _why_it_is_no_use(search: Search, chain: Chain) -> Message | None:
    run, full_h = _run_of(search, chain), float(chain.required_charging().run.hours.flat[0])
    if run is None or run.hours <= 0 or not np.isfinite(full_h):
        return NEVER_FULL
    if full_h > LONGEST_CHARGE_H and search.wishes.full_within_h is None:
        return TOO_SLOW
    return DARK if run.service_hours <= 0 else None


def _figures(search: Search, draft: Sequence[int], chain: Chain) -> Steps:
    """The seven, exact, but with as much room as it may have."""
    run, running = _run_of(search, chain), chain.required_running()
    return weighed(
        run.service_hours if run else 0.0,
        _price(search.offer, draft, chain),
        float(chain.required_charging().run.hours.flat[0]),
        sum(work_of(chain)),
        running.standby_days,
        1.0 if running.light_half is None else running.light_half,
        room_mm(chain.build),
    )


def _why_it_falls_where_it_lies(search: Search, chain: Chain) -> Message | None:
    reason = _stopped(search, chain, WITH_FIT)
    if reason is None and (answer := fit_of(chain.project)) and answer.fits in ("not_certain", "not_settled"):
        return NOT_CERTAIN
    return reason


def _stopped(search: Search, chain: Chain, codes: Sequence[str]) -> Message | None:
    findings = findings_of(chain, codes)
    stop = next((finding for finding in findings if finding.level == "stop"), None)
    if stop is not None:
        return NO_FIT if stop.station == "fit" else search.memory.example_of(stop)
    if not search.wishes.no_cautions:
        return None
    minded = [f for f in findings if f.level == "caution" and f.code not in search.wishes.fine_cautions]
    for finding in minded:
        search.mind(finding.code, finding.headline)
    return WISHED if minded else None


def _run_of(search: Search, chain: Chain) -> ModeRun | None:
    """In the mode whose hours count."""
    return next((run for run in chain.required_running().runs if run.mode.id == search.mode.id), None)


def _is_wished(proposal: Proposal, search: Search, way: Way) -> bool:
    wishes, least_h = search.wishes, least_hours(search, way)
    enough = least_h is None or proposal.hours >= least_h
    soon = wishes.full_within_h is None or proposal.full_h <= wishes.full_within_h
    cheap = wishes.price_at_most is None or proposal.price <= wishes.price_at_most
    whole = not wishes.no_holes or not proposal.holes
    minded = [code for code in proposal.caution_codes if code not in wishes.fine_cautions] if wishes.no_cautions else []
    for code in minded:
        search.mind(code, proposal.cautions[proposal.caution_codes.index(code)])
    bright = not wishes.bright or proposal.light_half is None or proposal.light_half >= DIM
    lasting = wishes.serves_years is None or (proposal.serves_years or 0.0) >= min(wishes.serves_years, MOST_YEARS)
    return enough and soon and cheap and whole and bright and lasting and not minded


def _price(offer: OnOffer, draft: Sequence[int], chain: Chain) -> float:
    c, _count, h, _policy, g, r = draft
    parts = [offer.cells[c]] * chain.build.cell_count
    # One outside is priced with the way of building.
    parts += [offer.chargers[h]] if chain.build.who_charges == "board" else []
    parts += [offer.protections[g]] if g >= 0 else []
    regulator = offer.regulators[r]
    in_all = sum(part.price for part in (*parts, *([regulator] if regulator else [])))
    return round(in_all + price_of_way(chain.build), 2)


def _proposal(search: Search, way: Way, draft: Sequence[int], chain: Chain) -> Proposal:
    c, _count, h, _policy, g, r = draft
    offer, build, run = search.offer, chain.build, _run_of(search, chain)
    regulator, answer, work = offer.regulators[r], fit_of(chain.project), work_of(chain)
    parts = [offer.cells[c], offer.chargers[h]]
    parts += ([offer.protections[g]] if g >= 0 else []) + ([regulator] if regulator else [])
    cell, charger = build.cell.name if build.cell else "", offer.chargers[h].body.name
    cautions = [finding for finding in findings_of(chain) if finding.level == "caution"]
    served = serving(chain)
    return Proposal(
        name=f"{cell[:50]}, {charger[:50]}",
        otherwise=way.says,
        cell=cell if build.cell_count == 1 else f"{build.cell_count} x {cell}",
        charger=charger,
        others=tuple(part.body.name for part in parts[2:]),
        r_prog_ohm=build.r_prog_ohm or 0.0,
        hours=round(run.service_hours if run else 0.0, 6),
        days=chain.required_running().served_days,
        serves_years=served.years if served else None,
        serves=years_shown(served.years) if served else NOTHING,
        full_h=round(float(chain.required_charging().run.hours.flat[0]), 6),
        price=_price(offer, draft, chain),
        joints=work.joints,
        holes=work.holes,
        light_half=chain.required_running().light_half,
        spare_mm=answer.clearance_mm if answer else None,
        off_days=round(chain.required_running().standby_days, 1),
        cautions=tuple(finding.headline for finding in cautions),
        caution_codes=tuple(finding.code for finding in cautions),
        own=all(part.own for part in parts),
        is_protected=bool(chain.protections),
        picture=picture_of(answer),
        plan=build,
        edits=way.edits,
    )


def least_hours(search: Search, way: Way) -> float | None:
    """The most of what is wished; None: no matter."""
    wished = [search.wishes.hours_at_least]
    if search.wishes.as_long_as_old:
        chain = Chain(way.project, 0)
        wished.append(old_mode_hours(chain, search.mode))
    return max((hours for hours in wished if hours is not None), default=None)
