"""How a rule is written, registered and run."""

import logging
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Protocol

from pocketspark.core.chain import Chain, ChosenParts
from pocketspark.core.finding import GRAVITY, Finding, Judgement, Level, Node, Remedy
from pocketspark.core.kinds.stations import STATIONS
from pocketspark.core.message import NOTHING, Message, say
from pocketspark.core.models.project import Edit
from pocketspark.core.units.figures import Figure
from pocketspark.core.views import view_for, view_wanted

logger = logging.getLogger("pocketspark.rules")

# Which link of the chain a finding is about, where its rule does not say.
_NODES: Mapping[str, Node] = {
    "survey": "gadget",
    "cell": "cell",
    "power": "regulator",
    "charge": "charger",
    "fit": "cell",
    "wire": "protection",
    "build": "gadget",
    "prove": "gadget",
}
# Takes a view of the build (Chain, ChosenCell, Running, Charging ...): asked only where that is there.
RuleFunction = Callable[[Any], Iterator[Judgement]]
# A text, or what writes it in the units of whoever reads it.
Wording = str | Callable[[], str]


@dataclass(frozen=True)
class Rule:
    """One judgement the tool can make. Its code never changes; its docstring says what it watches."""

    code: str
    station: str
    node: Node
    source: str
    advice: Message
    judge: RuleFunction
    formula: Message = NOTHING
    limits: Message = NOTHING
    guide: str = ""
    follows: tuple[str, ...] = ()

    @property
    def watches(self) -> str:
        return " ".join((self.judge.__doc__ or "").split())


RULES: dict[str, Rule] = {}


def rule(
    code: str,
    *,
    station: str,
    source: str,
    advice: Message,
    node: Node | None = None,
    formula: Message = NOTHING,
    limits: Message = NOTHING,
    guide: str = "",
    follows: tuple[str, ...] = (),
) -> Callable[[RuleFunction], RuleFunction]:
    """Register a rule. Source is a standard, a reference, or "common practice, no source".

    `advice`: what to do about it, for whoever has no remedy to press. `node`: the link of the chain it is about.
    `formula` and `limits` are for the page of all rules: what is computed, and against what it is held. `guide`: the
    measurement that settles it. `follows`: codes of which it is the consequence, or the other side, where one of them
    speaks.
    """

    def register(judge: RuleFunction) -> RuleFunction:
        if station not in STATIONS:
            raise ValueError(f"{code}: there is no station called {station}")
        if code in RULES:
            raise ValueError(f"two rules are called {code}")
        view_wanted(judge)
        RULES[code] = Rule(
            code, station, node or _NODES[station], source, advice, judge, formula, limits, guide, follows
        )
        return judge

    return register


# What several judgements of one rule share, to be handed on as keywords: any but the sentence.
Facts = dict[str, Any]


class Says(Protocol):
    """Makes a judgement of one level out of a sentence and what it rests on, as `Judgement` has it."""

    def __call__(
        self,
        headline: Message,
        *,
        figure: Figure | None = None,
        limit: Figure | None = None,
        subjects: tuple[str, ...] = (),
        working: Message = NOTHING,
        assumed: bool | None = None,
        rests_on: tuple[str, ...] = (),
        remedy: Remedy | None = None,
    ) -> Judgement: ...


def _of_level(level: Level) -> Says:
    def judgement(
        headline: Message,
        *,
        figure: Figure | None = None,
        limit: Figure | None = None,
        subjects: tuple[str, ...] = (),
        working: Message = NOTHING,
        assumed: bool | None = None,
        rests_on: tuple[str, ...] = (),
        remedy: Remedy | None = None,
    ) -> Judgement:
        return Judgement(
            level=level,
            headline=headline,
            figure=figure,
            limit=limit,
            subjects=subjects,
            working=working,
            assumed=assumed,
            rests_on=rests_on,
            remedy=remedy,
        )

    return judgement


stop = _of_level("stop")  # do not build or power this
caution = _of_level("caution")  # it works, with a cost or a risk that is named
note = _of_level("note")  # worth knowing
NOT_CHECKED = say("This could not be checked: the program failed at it. Check it yourself; the log has the details.")
fine = _of_level("pass")  # checked, and fine


def remedy(label: Message, edits: Mapping[str, object]) -> Remedy:
    """A remedy from paths and the values to set there."""
    return Remedy(label=label, edits=tuple(Edit(path=path, value=value) for path, value in edits.items()))


def helps(chain: ChosenParts, given: Remedy, codes: Iterable[str]) -> bool:
    """A remedy is judged before it is offered: does none of these rules stop the build that it makes?"""
    if isinstance(chain, Chain) and not chain.advises:
        return True
    changed = Chain(chain.project.apply(given.edits), chain.build_number, advises=False)
    return all(finding.level != "stop" for finding in findings_of(changed, codes))


def findings_of(chain: Chain, codes: Iterable[str] | None = None) -> list[Finding]:
    """What every rule, or each of these, says of this chain, gravest first."""
    findings: list[Finding] = []
    views: dict[type, Any] = {}  # many rules look at the same one
    for rule_ in RULES.values() if codes is None else (RULES[code] for code in codes):
        try:
            findings.extend(_said_by(rule_, chain, views))
        except Exception:
            # One rule that fails is one finding, and never the whole page.
            logger.exception("rule %s failed on %s", rule_.code, chain.project.model_dump_json())
            findings.append(_finding(rule_, 0, caution(NOT_CHECKED), chain))
    return sorted(findings, key=lambda finding: -GRAVITY[finding.level])


def _said_by(rule_: Rule, chain: Chain, views: dict[type, Any]) -> list[Finding]:
    wanted = view_wanted(rule_.judge)
    if wanted not in views:
        views[wanted] = view_for(rule_.judge, chain)
    if views[wanted] is None:
        return []
    judgements = enumerate(rule_.judge(views[wanted]))
    return [_finding(rule_, number, judgement, chain) for number, judgement in judgements]


def _finding(rule_: Rule, number: int, judgement: Judgement, chain: Chain) -> Finding:
    rests_on = tuple(chain.project.canonical(path) for path in judgement.rests_on)
    signed = {
        "id": f"{rule_.code}.{number}",
        "code": rule_.code,
        "station": rule_.station,
        "node": rule_.node,
        "source": rule_.source,
        "rests_on": rests_on,
        "assumed": chain.is_assumed(*rests_on) if judgement.assumed is None else judgement.assumed,
    }
    return Finding.model_construct(**{**judgement.__dict__, **signed})
