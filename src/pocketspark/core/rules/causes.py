"""What comes of one cause is told as one: the gravest says it, the others stand with it."""

import itertools
from collections.abc import Iterable, Mapping, Sequence

from pocketspark.core.finding import GRAVITY, Finding

# A code, and those of which it is the consequence or the other side wherever one of them speaks.
FOLLOWS_FROM: Mapping[str, tuple[str, ...]] = {
    # The charge-current resistor on the board.
    "charge.over_policy": ("charge.over_cell", "charge.over_board"),
    "charge.over_source": ("charge.over_cell", "charge.over_policy", "charge.over_board"),
    "charge.over_board": ("charge.over_cell",),
    "charge.resistor": ("charge.over_cell", "charge.over_policy", "charge.over_source", "charge.over_board"),
    # A load on the cell while it charges.
    "charge.end_near_load": ("charge.never_ends",),
    # A bay that nobody has measured, or not closely enough.
    "fit.bay_assumed": ("fit.does_not_fit",),
    "fit.tolerances": ("fit.does_not_fit",),
    # Too few volts at the gadget, or too many.
    "power.gauge": ("power.under_window",),
    "power.resets_on_peak": ("power.under_window",),
    "power.stress_led": ("power.over_window",),
    "power.stress_lamp": ("power.over_window",),
    "power.stress_motor": ("power.over_window",),
    "power.stress_heater": ("power.over_window",),
    # A wire at the wrong side of the protection.
    "wire.load_on_cell_pads": ("wire.cell_unprotected", "wire.protection_bypassed"),
    "wire.protection_bypassed": ("wire.cell_unprotected",),
    "wire.unmatched": ("cell.parallel", "cell.unlike_joining"),
    "wire.switch_place": ("power.off_drain",),
}


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
    return other.code in FOLLOWS_FROM.get(one.code, ()) or one.code in FOLLOWS_FROM.get(other.code, ())


def with_their_cause(findings: Sequence[Finding]) -> tuple[Finding, ...]:
    """The same findings in the same order; one that stands with a graver one of its cause names it."""
    heads = {follower.id: head.id for head, followers in together(findings) for follower in followers}
    return tuple(
        finding.model_copy(update={"part_of": heads[finding.id]}) if finding.id in heads else finding
        for finding in findings
    )
