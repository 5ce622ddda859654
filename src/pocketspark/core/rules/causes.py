"""What comes of one cause is told as one: the gravest says it, the others stand with it."""

import itertools
from collections.abc import Iterable, Sequence

from pocketspark.core.finding import GRAVITY, Finding
from pocketspark.core.rules.rule import RULES


def together(findings: Iterable[Finding]) -> list[tuple[Finding, tuple[Finding, ...]]]:
    """Each cause once, the gravest finding of it with all others of it, gravest first. What is fine is left out."""
    against = sorted((f for f in findings if f.level != "pass"), key=lambda finding: -GRAVITY[finding.level])
    groups: list[list[Finding]] = []
    for finding in against:
        joined = [group for group in groups if any(_of_one_cause(finding, other) for other in group)]
        apart = [group for group in groups if group not in joined]
        groups = [*apart, [*itertools.chain(*joined), finding]]
    order = {finding.id: place for place, finding in enumerate(against)}
    in_order = [sorted(group, key=lambda finding: order[finding.id]) for group in groups]
    return sorted(((head, tuple(others)) for head, *others in in_order), key=lambda group: order[group[0].id])


def _of_one_cause(one: Finding, other: Finding) -> bool:
    return other.code in RULES[one.code].follows or one.code in RULES[other.code].follows


def with_their_cause(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """The same findings in the same order; one that stands with a graver one of its cause names it."""
    heads = {follower.id: head.id for head, followers in together(findings) for follower in followers}
    return tuple(
        finding.model_copy(update={"part_of": heads[finding.id]}) if finding.id in heads else finding
        for finding in findings
    )
