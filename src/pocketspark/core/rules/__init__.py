"""What we think of it: one module a station or subject, each rule a small function with a code."""

from pocketspark.core.rules import (
    cell,
    charge,
    fit,
    given_charger,
    inputs,
    old_charger,
    power,
    protection,
    strain,
    stress,
    survey,
    unlike_cells,
    wire,
)
from pocketspark.core.rules.rule import RULES, Rule, findings_of

__all__ = [
    "RULES",
    "Rule",
    "cell",
    "charge",
    "findings_of",
    "fit",
    "given_charger",
    "protection",
    "inputs",
    "old_charger",
    "power",
    "strain",
    "stress",
    "survey",
    "unlike_cells",
    "wire",
]
