"""How a rule is written, registered and run."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from functools import partial

from pocketspark.core.chain import Chain, MissingPart
from pocketspark.core.finding import GRAVITY, Edit, Finding, Level, Remedy, Station


@dataclass(frozen=True)
class Judgement:
    """What a rule says; its code, station and source are added by whoever runs it."""

    level: Level
    headline: str
    working: str = ""
    rests_on: tuple[str, ...] = ()
    assumed: bool | None = None  # None: told by the basis of `rests_on`
    remedy: Remedy | None = None


RuleFunction = Callable[[Chain], Iterator[Judgement]]


@dataclass(frozen=True)
class Rule:
    """One judgement the tool can make. Its code never changes; its docstring says what it watches."""

    code: str
    station: Station
    source: str
    judge: RuleFunction
    formula: str = ""
    limits: str = ""

    @property
    def says(self) -> str:
        return " ".join((self.judge.__doc__ or "").split())


RULES: dict[str, Rule] = {}


def rule(
    code: str, *, station: Station, source: str, formula: str = "", limits: str = ""
) -> Callable[[RuleFunction], RuleFunction]:
    """Register a rule. Source is a standard, a reference, or "common practice, no source".

    `formula` and `limits` are for the handbook page: what is computed, and against what it is held.
    """

    def register(judge: RuleFunction) -> RuleFunction:
        if code in RULES:
            raise ValueError(f"two rules are called {code}")
        RULES[code] = Rule(code, station, source, judge, formula, limits)
        return judge

    return register


# The four levels. Each takes the headline (number first), then `working`, `rests_on`, `assumed`, `remedy`.
stop = partial(Judgement, "stop")  # do not build or power this
caution = partial(Judgement, "caution")  # works, with a cost or a risk that is named
note = partial(Judgement, "note")  # worth knowing
passed = partial(Judgement, "pass")  # checked, fine


def remedy(label: str, edits: Mapping[str, object]) -> Remedy:
    """A remedy from paths and the values to set there."""
    return Remedy(label=label, edits=tuple(Edit(path=path, value=value) for path, value in edits.items()))


def findings_of(chain: Chain, codes: Iterable[str] | None = None) -> list[Finding]:
    """What every rule, or each of these, says of this chain, gravest first.

    A rule about a part not chosen yet says nothing.
    """
    found: list[Finding] = []
    for rule_ in RULES.values() if codes is None else (RULES[code] for code in codes):
        try:
            judgements = list(rule_.judge(chain))
        except MissingPart:
            continue
        found.extend(_finding(rule_, verdict, chain) for verdict in judgements)
    return sorted(found, key=lambda finding: -GRAVITY[finding.level])


def _finding(rule_: Rule, verdict: Judgement, chain: Chain) -> Finding:
    assumed = chain.assumed(*verdict.rests_on) if verdict.assumed is None else verdict.assumed
    return Finding(
        code=rule_.code,
        level=verdict.level,
        station=rule_.station,
        headline=verdict.headline,
        working=verdict.working,
        source=rule_.source,
        assumed=assumed,
        rests_on=verdict.rests_on,
        remedy=verdict.remedy,
    )
