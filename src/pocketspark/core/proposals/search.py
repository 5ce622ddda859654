"""The search: every draft by its bounds, the fit asked as seldom as can be, and the whole judgement as the last word.

A draft that something sound already beats, even at its best, need not be asked. What is asked and found sound hides
another only by its exact figures; so the front that is left is exact, whatever the bounds and the order were.
"""

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np

from pocketspark.core.chain import Chain, ModeRun
from pocketspark.core.finding import Finding
from pocketspark.core.fit.known import KnownFits
from pocketspark.core.fit.picture import BayPicture, picture_of
from pocketspark.core.fit.placing import fit_of
from pocketspark.core.models import Build, Mode, Project
from pocketspark.core.models.model import Model
from pocketspark.core.proposals.bounds import REASONS, Bounds, bounds_of
from pocketspark.core.proposals.offer import Drafts, OnOffer, Wishes, build_of, drafts_of, with_build
from pocketspark.core.proposals.outlines import Outlines, outlines_of
from pocketspark.core.rules import RULES, findings_of
from pocketspark.core.units.figures import ShownDays, ShownHours, ShownMillimetres

NO_FIT = "it does not go in"
BEATEN = "something sound is better in every way"
WISHED = "not what was wished"
NEVER_FULL = "it never gets full, or does not run"
# Every rule that does not ask where the parts lie; the lengths of wires are known only then.
WITHOUT_FIT = tuple(code for code, kind in RULES.items() if kind.station not in ("fit", "wire"))
WITH_FIT = tuple(code for code in RULES if code not in WITHOUT_FIT)
# Points of the picture: more cannot be seen.
DOTS = 600
# So many named ones are shown.
NAMED = 12


class Proposal(Model):
    """One build that is sound and that nothing beats. `because`: what it is best at; empty for one of many."""

    because: str = ""
    name: str
    cell: str
    charger: str
    others: tuple[str, ...]
    r_prog_ohm: float
    hours: ShownHours
    full_h: ShownHours
    price: float
    boards: int
    spare_mm: ShownMillimetres | None
    off_days: ShownDays
    cautions: tuple[str, ...]
    own: bool  # of own parts alone
    picture: BayPicture | None
    plan: Build


class Fell(Model):
    """How many drafts fell to one reason."""

    reason: str
    count: int


class Proposals(Model):
    """How far the search has got. `dots` are (hours, price) of drafts that are in question, a sample of them."""

    builds: int
    settled: int
    finished: bool
    mode: str
    front: tuple[Proposal, ...]
    fell: tuple[Fell, ...]
    dots: tuple[tuple[float, float], ...]


@dataclass
class _Search:
    """What is known while it goes on."""

    project: Project
    mode: Mode
    offer: OnOffer
    wishes: Wishes
    known: KnownFits = field(default_factory=KnownFits)
    fell: Counter[str] = field(default_factory=Counter)
    front: list[Proposal] = field(default_factory=list)
    examples: dict[str, str] = field(default_factory=dict)  # what the first build that fell to a rule was told

    def example_of(self, stop: Finding) -> str:
        return self.examples.setdefault(stop.code, f"as this one: {stop.headline}")


def proposals(project: Project, build: int, offer: OnOffer, wishes: Wishes | None = None) -> Iterator[Proposals]:
    """The state of the search again and again, the last one finished. Stop asking to cancel.

    The gadget, and how it is to be built (style, source, way of use, switch), are the build's; its parts are not.
    """
    search = _search(project, build, offer, wishes or Wishes())
    if search is None:
        return
    total = len(drafts_of(search.offer))
    yield _state(search, total, total, (), finished=False)
    question = _in_question(search)
    yield _state(search, total, len(question.figures), question.dots, finished=False)
    for asked, answer in enumerate(_answers(search, question), 1):
        if asked % 8 == 0 or isinstance(answer, Proposal):
            yield _state(search, total, int(question.left.sum()), question.dots, finished=False)
    yield _state(search, total, 0, question.dots, finished=True)


class Longest(NamedTuple):
    """The sound build of the most hours, None where none is sound; `settled`: nothing longer can be left."""

    builds: int  # in question
    best: Proposal | None
    settled: bool


# Builds that are judged one by one for it, at most.
_ASKED_AT_MOST = 60


def longest(project: Project, build: int, offer: OnOffer, wishes: Wishes) -> Longest:
    """The same search, for its longest build only."""
    search = _search(project, build, offer, wishes)
    if search is None or not search.offer.cells or not search.offer.chargers:
        return Longest(0, None, settled=True)
    question = _in_question(search)
    best: Proposal | None = None
    for asked, answer in enumerate(_answers(search, question)):
        if isinstance(answer, Proposal) and (best is None or answer.hours > best.hours):
            best = answer
        # They come in the order of the most hours that each could have.
        if best and not (question.figures[question.left, 0] < _figures(best)[0]).any():
            break
        if asked >= _ASKED_AT_MOST:
            return Longest(len(question.figures), best, settled=False)
    return Longest(len(question.figures), best, settled=True)


def _search(project: Project, build: int, offer: OnOffer, wishes: Wishes) -> "_Search | None":
    """None where the gadget draws nothing: then nothing has hours."""
    alone = with_build(project, project.builds[build])
    modes = [mode for mode in project.gadget.modes if mode.current_a > 0]
    mode = max(modes, key=lambda mode: mode.hours_per_day, default=None)
    return _Search(alone, mode, offer.narrowed(wishes, project.builds[build]), wishes) if mode else None


@dataclass
class _Question:
    """Drafts that their bounds leave in question, in the order they are asked; `left`: which are still to be."""

    columns: list[np.ndarray]
    figures: np.ndarray
    outlines: Outlines
    dots: tuple[tuple[float, float], ...]
    left: np.ndarray


def _in_question(search: "_Search") -> _Question:
    drafts = drafts_of(search.offer)
    bounds = bounds_of(search.project, search.mode, search.offer, drafts)
    for index, reason in enumerate(REASONS):
        search.fell[reason] += int((bounds.fell == index).sum())
    left = bounds.fell < 0
    wished = left & _may_be_wished(bounds, search.wishes)
    search.fell[WISHED] += int(left.sum() - wished.sum())
    drafts, bounds = drafts.only(wished), bounds.only(wished)
    drafts, bounds = _whose_cell_goes_in(search, drafts, bounds)
    order = np.lexsort((bounds.boards, bounds.full_h, bounds.price, -noticed(bounds.hours)))
    figures = np.column_stack([-noticed(bounds.hours), bounds.price, bounds.full_h.round(1), bounds.boards])[order]
    return _Question(
        columns=[column[order] for column in drafts.columns()],
        figures=figures,
        outlines=outlines_of(search.offer, drafts, search.project.builds[0]).in_order(order),
        dots=_dots(bounds),
        left=np.ones(len(order), dtype=bool),
    )


def _answers(search: "_Search", question: _Question) -> "Iterator[Proposal | str]":
    """Draft by draft; after each, what it beats or rules out is left no more."""
    left = question.left
    while left.any():
        place = int(left.argmax())
        left[place] = False
        answer = _asked(search, [int(column[place]) for column in question.columns])
        if isinstance(answer, Proposal):
            search.front.append(answer)
            out, reason = left & (question.figures >= np.array(_figures(answer)) - 1e-9).all(axis=1), BEATEN
        else:
            out, reason = np.zeros_like(left), answer
            if answer == NO_FIT:
                out = left & question.outlines.no_smaller_than(place)
            search.fell[reason] += 1
        search.fell[reason] += int(out.sum())
        left &= ~out
        yield answer


def _may_be_wished(bounds: Bounds, wishes: Wishes) -> np.ndarray:
    wished = np.ones(len(bounds.hours), dtype=bool)
    if wishes.hours_at_least is not None:
        wished &= bounds.hours >= wishes.hours_at_least
    if wishes.full_within_h is not None:
        wished &= bounds.full_h <= wishes.full_within_h
    if wishes.price_at_most is not None:
        wished &= bounds.price <= wishes.price_at_most
    return wished


def _whose_cell_goes_in(search: _Search, drafts: Drafts, bounds: Bounds) -> tuple[Drafts, Bounds]:
    """Where the cells alone do not go in, nothing with them does."""
    base = search.project.builds[0]
    goes_in: dict[tuple[int, int], bool] = {}
    for c, k in sorted(set(zip(drafts.cell.tolist(), drafts.count.tolist(), strict=True))):
        one = build_of((c, k, 0, 0, -1, 0), search.offer, base).model_copy(update={"boards": ()})
        goes_in[c, k] = search.known.goes_in(with_build(search.project, one), 0) is not False
    kept = np.array(
        [goes_in[pair] for pair in zip(drafts.cell.tolist(), drafts.count.tolist(), strict=True)], dtype=bool
    )
    search.fell[NO_FIT] += int((~kept).sum())
    return drafts.only(kept), bounds.only(kept)


def _asked(search: _Search, draft: Sequence[int]) -> Proposal | str:
    """The draft as a whole build, judged; or why it falls."""
    build = build_of(draft, search.offer, search.project.builds[0])
    bare = Chain(with_build(search.project, build), 0)
    resistor_ohm = bare.required_charging().current.suggested_r_ohm
    chain = Chain(with_build(search.project, build.model_copy(update={"r_prog_ohm": resistor_ohm})), 0)
    reason = _why_it_falls(search, chain)
    if reason is not None:
        return reason
    proposal = _proposal(search, draft, chain)
    return proposal if _is_wished(proposal, search.wishes) else WISHED


def _why_it_falls(search: _Search, chain: Chain) -> str | None:
    """The first stop against it, those first that are soon told. None: it is sound."""
    if search.known.goes_in(chain.project, 0) is False:
        return NO_FIT
    # What others fell to, then everything that is soon told, then what asks where the parts lie.
    for codes in (*((code,) for code in search.examples), WITHOUT_FIT, WITH_FIT):
        findings = findings_of(chain, codes)
        stop = next((finding for finding in findings if finding.level == "stop"), None)
        if stop is not None:
            return NO_FIT if stop.station == "fit" else search.example_of(stop)
        if search.wishes.no_cautions and any(finding.level == "caution" for finding in findings):
            return WISHED
    run = _run_of(search, chain)
    ends = np.isfinite(chain.required_charging().run.hours.flat[0])
    return None if run is not None and run.hours > 0 and ends else NEVER_FULL


def _run_of(search: _Search, chain: Chain) -> ModeRun | None:
    """In the mode whose hours count."""
    return next((run for run in chain.required_running().runs if run.mode.id == search.mode.id), None)


def _is_wished(proposal: Proposal, wishes: Wishes) -> bool:
    enough = wishes.hours_at_least is None or proposal.hours >= wishes.hours_at_least
    soon = wishes.full_within_h is None or proposal.full_h <= wishes.full_within_h
    cheap = wishes.price_at_most is None or proposal.price <= wishes.price_at_most
    return enough and soon and cheap and not (wishes.no_cautions and proposal.cautions)


def _proposal(search: _Search, draft: Sequence[int], chain: Chain) -> Proposal:
    c, _count, h, _policy, g, r = draft
    offer, build, run = search.offer, chain.build, _run_of(search, chain)
    regulator, answer = offer.regulators[r], fit_of(chain.project)
    parts = [offer.cells[c], offer.chargers[h]]
    parts += ([offer.protections[g]] if g >= 0 else []) + ([regulator] if regulator else [])
    price = sum(part.price for part in parts) + offer.cells[c].price * (build.cell_count - 1)
    cell = build.cell.name if build.cell else ""
    cautions = [str(finding.headline) for finding in findings_of(chain) if finding.level == "caution"]
    return Proposal(
        name=f"{cell[:50]}, {build.boards[0].name[:50]}",
        cell=cell if build.cell_count == 1 else f"{build.cell_count} x {cell}",
        charger=build.boards[0].name,
        others=tuple(board.name for board in build.boards[1:]),
        r_prog_ohm=build.r_prog_ohm or 0.0,
        hours=round(run.hours if run else 0.0, 6),
        full_h=round(float(chain.required_charging().run.hours.flat[0]), 6),
        price=round(price, 2),
        boards=len(build.boards),
        spare_mm=answer.clearance_mm if answer else None,
        off_days=round(chain.required_running().standby_days, 1),
        cautions=tuple(cautions),
        own=all(part.own for part in parts),
        picture=picture_of(answer),
        plan=build,
    )


# What is shown of it -------------------------------------------------------------------------------------------


def front_of(found: Sequence[Proposal]) -> list[Proposal]:
    """Those that none of the others beats in hours, price, time to full and boards; the first of equal ones."""
    kept: dict[tuple[float, ...], Proposal] = {}
    every = [_figures(one) for one in found]
    table = np.array(every).reshape(-1, 4)
    for one, figures in zip(found, every, strict=True):
        beats = (table <= figures).all(axis=1) & (table != figures).any(axis=1)
        if not beats.any():
            kept.setdefault(figures, one)
    return sorted(kept.values(), key=lambda one: (-one.hours, one.price))


def noticed(hours: np.ndarray) -> np.ndarray:
    """Hours as far as anybody notices: two digits, and a half more, of a run; a tenth of an hour of a charge."""
    size = 10.0 ** np.floor(np.log10(np.maximum(hours, 1e-6)) - 1) / 2
    return np.asarray(np.round(hours / size) * size)


def noticed_hours(hours: float) -> float:
    return float(noticed(np.array(hours)))


def _figures(one: Proposal) -> tuple[float, float, float, int]:
    return -noticed_hours(one.hours), one.price, round(one.full_h, 1), one.boards


def named(front: Sequence[Proposal]) -> list[Proposal]:
    """The most useful dozen first, each with what it is best at; the rest of the front behind them."""
    wanted = (
        ("longest", lambda one: (-one.hours, one.price)),
        ("cheapest", lambda one: (one.price, -one.hours)),
        ("simplest to solder", lambda one: (one.boards, -one.hours)),
        ("soonest full", lambda one: (one.full_h, -one.hours)),
        ("from your parts alone", lambda one: (not one.own, -one.hours)),
        ("most room to spare", lambda one: (-(one.spare_mm or 0.0), -one.hours)),
        ("longest switched off", lambda one: (-one.off_days, -one.hours)),
        ("nothing to be careful of", lambda one: (len(one.cautions), -one.hours)),
        ("most hours for its price", lambda one: (-one.hours / max(one.price, 0.5), one.price)),
    )
    reasons: dict[int, list[str]] = {}
    for reason, key in wanted:
        if not front:
            break
        best = min(front, key=key)
        fits = {"from your parts alone": best.own, "nothing to be careful of": not best.cautions}.get(reason, True)
        if fits:
            reasons.setdefault(front.index(best), []).append(reason)
    first = [front[n].model_copy(update={"because": ", ".join(said)}) for n, said in sorted(reasons.items())]
    rest = [one for n, one in enumerate(front) if n not in reasons]
    return [*first, *rest]


def _dots(bounds: Bounds) -> tuple[tuple[float, float], ...]:
    step = max(1, len(bounds.hours) // DOTS)
    return tuple(
        (round(float(h), 2), round(float(p), 2))
        for h, p in zip(bounds.hours[::step], bounds.price[::step], strict=True)
    )


def _state(
    search: _Search, total: int, left: int, dots: tuple[tuple[float, float], ...], *, finished: bool
) -> Proposals:
    front = named(front_of(search.front))
    # What was sound when it was asked, and beaten by what came later.
    beaten = Counter({BEATEN: len(search.front) - len(front)})
    fell = tuple(Fell(reason=reason, count=count) for reason, count in (search.fell + beaten).most_common() if count)
    return Proposals(
        builds=total,
        settled=total - left,
        finished=finished,
        mode=search.mode.name,
        front=tuple(front),
        fell=fell,
        dots=dots,
    )
